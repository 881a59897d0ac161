"""One row per drum: whatever walks the table finds every drum in every place."""

import unittest
from fractions import Fraction

from tests.builders import midi_of
from wren_ladder.drumming.chart import Bar, Chart, Drum, Hit, Meter
from wren_ladder.drumming.chart.drum import DRUMS, Family
from wren_ladder.drumming.chart.serial import bar_from_json, bar_to_json
from wren_ladder.drumming.editing.strokes import drop, set_otherwise, take
from wren_ladder.drumming.hands import stick_bar
from wren_ladder.drumming.notation.counts import read_chart, write_chart
from wren_ladder.drumming.notation.midi import read_midi
from wren_ladder.drumming.notation.musicxml import read_musicxml, write_musicxml
from wren_ladder.drumming.notation.musicxml.names import by_name
from wren_ladder.drumming.study import study

# What comes back from MIDI where the map has no key for a sound: its stated neighbour.
NEIGHBOURS = {
    Drum.HIHAT_HALF: Drum.HIHAT_OPEN,
    Drum.RIM_SHOT: Drum.SNARE,
    Drum.RIDE_CRASH: Drum.RIDE,
    Drum.HIHAT_SPLASH: Drum.HIHAT_FOOT,
    Drum.TOM_FLOOR_2: Drum.TOM_FLOOR,  # the only floor tom of a file is the floor tom
}


def chart_of(*drums: Drum) -> Chart:
    hits = tuple(Hit(Fraction(place), drum) for place, drum in enumerate(drums))
    return Chart("One drum", (Bar("1", Meter(max(2, len(drums)), 4), hits),))


def drums_in(chart: Chart) -> list[Drum]:
    return [hit.drum for hit in chart.bars[0].hits]


class EveryDrum(unittest.TestCase):
    def walk(self):
        for drum in Drum:
            with self.subTest(drum.value):
                yield drum

    def test_it_has_a_row(self):
        self.assertEqual(list(DRUMS), list(Drum))

    def test_it_comes_back_from_typed_text(self):
        for drum in self.walk():
            chart = chart_of(drum)
            self.assertEqual(read_chart(write_chart(chart)), chart)

    def test_it_comes_back_from_musicxml(self):
        for drum in self.walk():
            found, problems = read_musicxml(write_musicxml(chart_of(drum)).encode())
            self.assertEqual((drums_in(found), problems), ([drum], ()))

    def test_its_spoken_name_is_understood_as_an_instruments_name(self):
        for drum in self.walk():
            self.assertIs(by_name(drum.spoken), Drum.HIHAT if drum.spoken == "hat" else drum)

    def test_it_comes_back_from_midi_or_as_its_neighbour(self):
        for drum in self.walk():
            found, _ = read_midi(midi_of(chart_of(drum), [0]))
            self.assertEqual(drums_in(found), [NEIGHBOURS.get(drum, drum)])

    def test_it_comes_back_from_json(self):
        for drum in self.walk():
            (bar,) = chart_of(drum).bars
            self.assertEqual(bar_from_json(bar_to_json(bar)), bar)

    def test_the_editor_drops_and_takes_it(self):
        empty = Bar("1", Meter(4, 4))
        for drum in self.walk():
            dropped = drop(empty, Fraction(1), drum)
            self.assertEqual([hit.drum for hit in dropped.hits], [drum])
            self.assertEqual(take(dropped, Fraction(1), drum).hits, ())

    def test_a_limb_plays_it_and_it_is_told(self):
        for drum in self.walk():
            (stick,) = stick_bar(chart_of(drum).bars[0])
            self.assertIsNotNone(stick.limb)
            self.assertEqual("foot" in stick.limb, drum.by_foot)
            self.assertEqual(study(chart_of(drum)).warnings, ())
        self.assertEqual(len({drum.spoken for drum in Drum}), len(Drum))

    def test_it_stands_somewhere_on_the_staff_and_round_the_player(self):
        places = {(drum.row.line, drum.row.head) for drum in Drum}
        alike = {Drum.HIHAT, Drum.HIHAT_HALF, Drum.HIHAT_OPEN}  # a circle tells them apart
        self.assertEqual(len(places), len(Drum) - len(alike) + 1)
        for drum in self.walk():
            self.assertEqual(drum.row.kit is None, drum.by_foot)


class TwoFloorToms(unittest.TestCase):
    def test_both_come_back_from_midi_where_a_file_has_both(self):
        drums = [Drum.TOM_FLOOR, Drum.TOM_FLOOR_2]
        found, _ = read_midi(midi_of(chart_of(*drums), [0]))
        self.assertEqual(drums_in(found), drums)


class NewOnes(unittest.TestCase):
    def test_they_are_typed_as_they_are_said(self):
        chart = read_chart(
            "tambourine 1 2\nwoodblock 1&\nfloor-2 3\nride 8ths 1-2, crash 3\n"
            "foot 2, splash 4\nsticks 4"
        )
        found = {hit.drum for hit in chart.bars[0].hits}
        self.assertEqual(
            found,
            {
                Drum.TAMBOURINE,
                Drum.WOODBLOCK,
                Drum.TOM_FLOOR_2,
                Drum.RIDE,
                Drum.RIDE_CRASH,
                Drum.HIHAT_FOOT,
                Drum.HIHAT_SPLASH,
                Drum.STICK_CLICK,
            },
        )

    def test_a_crashed_ride_is_another_way_to_play_the_ride(self):
        (bar,) = chart_of(Drum.RIDE_BELL).bars
        again = set_otherwise(bar, Fraction(0), Drum.RIDE_BELL)
        self.assertIs(again.hits[0].drum, Drum.RIDE_CRASH)

    def test_families_say_what_kind_of_thing_is_struck(self):
        toms = {drum for drum in Drum if drum.row.family is Family.TOM}
        self.assertEqual(toms, {Drum.TOM_HIGH, Drum.TOM_MID, Drum.TOM_FLOOR, Drum.TOM_FLOOR_2})


if __name__ == "__main__":
    unittest.main()
