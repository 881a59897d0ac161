"""What a MIDI file leaves open of its time: a take beside its click, a first beat, metre and
feel. Takes are made here with known bars; common practice, no source, unless said."""

import random
import unittest
from fractions import Fraction

import mido

from tests.drumming.test_midi import made
from tests.drumming.test_midi_played import meter, tempo, two_tracks
from wren_ladder.demo import CHARTS
from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.chart.swing import STRAIGHT, Swing
from wren_ladder.drumming.files import road_of, write_file
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.notation.midi import open_midi
from wren_ladder.drumming.notation.reading import Reading

F = Fraction
ROCK = "hat 8ths\nsnare 2 4\nkick 1 3 3&"
SHUFFLE = "ride 1 1l 2 2l 3 3l 4 4l\nsnare 2 4\nkick 1 3"
BARS = 16
FILE_BPM = 120


def take(
    lines: str,
    bpm: float,
    spread: float = 10.0,
    start_ms: float = 0.0,
    drift: float = 0.0,
    seed: int = 1,
    in_file: float = FILE_BPM,
) -> bytes:
    """Bars played at ``bpm`` into a file whose click is at another; the hand wanders slowly up
    and down by ``drift``."""
    (bar,) = read_chart(f"bar 1\n{lines}").bars
    dice, notes = random.Random(seed), []
    for n in range(BARS):
        share = 1 + drift * (1 - abs(n - BARS / 2) / (BARS / 4))  # from slow to fast and back
        start_of_bar = start_ms + n * 4 * 60_000 / bpm
        for hit in bar.hits:
            ms = start_of_bar + float(hit.at) * 60_000 / bpm / share
            ms = max(0.0, ms + dice.gauss(0, spread))
            notes.append((ms * in_file / 60_000, hit.drum.row.key_written, 90))
    return made(notes, tempo(in_file))


def same_bars(reading: Reading, lines: str) -> int:
    (bar,) = read_chart(f"bar 1\n{lines}").bars
    wanted = {(hit.at, hit.drum) for hit in bar.hits}
    return sum({(hit.at, hit.drum) for hit in one.hits} == wanted for one in reading.chart.bars)


def said(reading: Reading) -> str:
    return "\n".join(map(str, reading.problems))


def chosen(reading: Reading, name: str) -> str:
    return next(one.chosen for one in reading.choices if one.name == name)


class OffTheClick(unittest.TestCase):
    def test_a_take_at_a_pace_of_its_own_is_put_on_it_and_told(self):
        for bpm in (76, 97, 131):
            for spread, drift in ((0, 0), (10, 0), (10, 0.01)):
                with self.subTest(bpm=bpm, spread=spread, drift=drift):
                    reading = open_midi(take(ROCK, bpm, spread, start_ms=730, drift=drift))
                    self.assertIn(
                        "follow no click of 120: read as they are played", said(reading)
                    )
                    self.assertEqual(chosen(reading, "tempo"), "tempo played")
                    self.assertAlmostEqual(reading.chart.bars[0].tempo.bpm, bpm, delta=3)
                    self.assertGreaterEqual(same_bars(reading, ROCK), BARS - 1)

    def test_the_files_own_click_can_be_kept(self):
        reading = open_midi(take(ROCK, 97), taken=["tempo click"])
        self.assertEqual(reading.chart.bars[0].tempo.bpm, FILE_BPM)
        self.assertEqual(chosen(reading, "tempo"), "tempo click")

    def test_a_shuffle_is_among_the_paces_that_are_offered(self):
        reading = open_midi(take(SHUFFLE, 104, 8))
        (choice,) = (one for one in reading.choices if one.name == "tempo")
        offered = [way.said for way in choice.ways]
        self.assertTrue(
            any("about 104" in way or "about 103" in way for way in offered), offered
        )

    def test_a_take_behind_the_click_is_put_on_it(self):
        for late in (-40, 40, 60):
            with self.subTest(late=late):
                reading = open_midi(take(ROCK, FILE_BPM, 8, start_ms=late + 2000))
                side = "behind" if late > 0 else "before"
                self.assertRegex(said(reading), rf"lie \d\d ms {side} the click; put on it")
                self.assertEqual(same_bars(reading, ROCK), BARS)

    def test_on_the_click_nothing_is_moved_or_told(self):
        for spread in (0, 10):
            reading = open_midi(take(ROCK, FILE_BPM, spread))
            self.assertNotIn("click", said(reading))
            self.assertEqual(chosen(reading, "tempo"), "tempo click")

    def test_strokes_between_the_beats_only_are_not_late(self):
        data = made([(n + 0.5, 38, 90) for n in range(48)], tempo(100))
        reading = open_midi(data)
        self.assertNotIn("click", said(reading))
        self.assertEqual(
            [hit.at for hit in reading.chart.bars[0].hits], [F(n) + F(1, 2) for n in range(4)]
        )

    def test_half_and_twice_as_fast(self):
        data = take(ROCK, FILE_BPM, 0)
        half = open_midi(data, taken=["tempo half"])
        self.assertEqual((half.chart.bars[0].tempo.bpm, len(half.chart.bars)), (60, BARS // 2))
        double = open_midi(data, taken=["tempo double"])
        self.assertEqual(
            (double.chart.bars[0].tempo.bpm, len(double.chart.bars)), (240, 2 * BARS)
        )

    def test_a_pace_that_is_not_found_is_told(self):
        reading = open_midi(made([(n, 38, 90) for n in range(8)]), taken=["tempo played"])
        self.assertIn("no even pace of their own is found", said(reading))
        self.assertEqual(len(reading.chart.bars), 2)

    def test_a_file_with_a_tempo_map_keeps_it(self):
        dice = random.Random(4)
        notes = [(dice.uniform(0, 60), 38, 90) for _ in range(200)]
        reading = open_midi(made(notes, tempo(90), tempo(130, 20)))
        self.assertEqual(chosen(reading, "tempo"), "tempo click")


class FirstBeat(unittest.TestCase):
    def test_the_first_stroke_or_a_later_beat_is_on_1(self):
        notes = [(2 + n, 36 if n % 4 == 0 else 42, 90) for n in range(16)]
        data = made(notes, tempo(100))
        for code, kicks in (
            ("first file", 2),
            ("first stroke", 0),
            ("first +2", 0),
            ("first +1", 1),
        ):
            with self.subTest(code):
                reading = open_midi(data, taken=[code])
                bars = reading.chart.bars
                found = [
                    hit.at for bar in bars[1:3] for hit in bar.hits if hit.drum is Drum.KICK
                ]
                self.assertEqual(found, [kicks, kicks])
                self.assertEqual(chosen(reading, "first beat"), code)

    def test_nothing_that_was_struck_is_lost(self):
        notes = [(n / 2, 38, 90) for n in range(32)]
        for code in ("first +1", "first +2", "first +3", "first +half"):
            reading = open_midi(made(notes, tempo(100)), taken=[code])
            self.assertEqual(sum(len(bar.hits) for bar in reading.chart.bars), 32)

    def test_four_clicks_may_be_a_count_in(self):
        beat = [(4 + n / 2, 42, 90) for n in range(16)] + [
            (4, 36, 90),
            (5, 38, 90),
            (8, 36, 90),
        ]
        data = made([(n, 31, 100) for n in range(4)] + beat, tempo(100))
        reading = open_midi(data)
        (offer,) = reading.offers
        self.assertIn("a count-in, to be left out", offer.said)
        self.assertEqual((offer.taken, len(reading.chart.bars)), (False, 3))
        without = open_midi(data, taken=[offer.code])
        self.assertEqual(len(without.chart.bars), 2)
        self.assertEqual(without.chart.bars[0].hits[0].at, 0)
        self.assertFalse(
            any(h.drum is Drum.STICK_CLICK for b in without.chart.bars for h in b.hits)
        )

    def test_four_hats_that_the_beat_goes_on_with_are_no_count_in(self):
        data = made([(n, 42, 90) for n in range(16)], tempo(100))
        self.assertEqual(open_midi(data).offers, ())

    def test_a_backbeat_on_other_beats_is_told_and_not_taken(self):
        (bar,) = read_chart(f"bar 1\n{ROCK}").bars
        beats = [(4 * n + hit.at + 1, hit.drum) for n in range(12) for hit in bar.hits]
        data = made([(float(at), drum.row.key_written, 90) for at, drum in beats], tempo(100))
        reading = open_midi(data)
        self.assertIn("kick and snare lie as if beat 2 were 1", said(reading))
        self.assertEqual(chosen(reading, "first beat"), "first file")
        moved = open_midi(data, taken=["first +1"])
        self.assertNotIn("as if beat", said(moved))

    def test_a_metre_that_changes_inside_a_bar_shows_a_pick_up(self):
        notes = [(n, 38, 90) for n in range(24)]
        data = two_tracks(notes, meter(4, 4), meter(3, 4, 17))
        reading = open_midi(data, taken=["0"])
        lengths = [bar.length for bar in reading.chart.bars]
        self.assertEqual(lengths, [1, 4, 4, 4, 4, 3, 3, 3])
        self.assertIn("a pick-up of 1 beat", said(reading))


class Metre(unittest.TestCase):
    def test_another_metre_is_taken(self):
        data = made([(n, 36 if n % 3 == 0 else 42, 90) for n in range(24)], tempo(100))
        self.assertEqual({str(bar.meter) for bar in open_midi(data).chart.bars}, {"4/4"})
        waltz = open_midi(data, taken=["metre 3/4"])
        self.assertEqual({str(bar.meter) for bar in waltz.chart.bars}, {"3/4"})
        self.assertEqual(len({bar.hits for bar in waltz.chart.bars}), 1)

    def test_bars_of_three_in_a_file_without_a_metre_are_asked_about(self):
        bar = ((0, 36), (1, 42), (1.5, 42), (2, 42), (2.75, 38))
        notes = [(3 * n + at, key, 90) for n in range(12) for at, key in bar]
        self.assertIn("it may be in 3/4", said(open_midi(made(notes, tempo(100)))))
        with_metre = open_midi(made(notes, meter(3, 4), tempo(100)))
        self.assertNotIn("3/4, but", said(with_metre))
        self.assertEqual(said(open_midi(made(notes, meter(4, 4), tempo(100)))).count("3/4"), 0)


class TheFeel(unittest.TestCase):
    def test_long_and_short_is_written_even_with_a_mark_where_it_is_chosen(self):
        data = take(SHUFFLE, FILE_BPM, 0)
        self.assertEqual(same_bars(open_midi(data), SHUFFLE), BARS)
        swung = open_midi(data, taken=["feel swung"])
        even = "ride 8ths\nsnare 2 4\nkick 1 3"
        self.assertEqual(same_bars(swung, even), BARS)
        self.assertEqual(swung.chart.swings[0], Swing(F(1, 2)))
        self.assertEqual([bar.swing for bar in swung.chart.bars[1:]], [None] * (BARS - 1))

    def test_a_triplet_among_swung_quavers_stays_one(self):
        text = "ride 1 1l 2 2l 3 3l 4 4l\nsnare 2, 4 4t 4l\nkick 1 3"
        reading = open_midi(take(text, FILE_BPM, 0), taken=["feel swung"])
        snares = [hit.at for hit in reading.chart.bars[0].hits if hit.drum is Drum.SNARE]
        self.assertEqual(snares, [1, 3, F(10, 3), F(11, 3)])

    def test_straight_knows_no_threes(self):
        reading = open_midi(take(SHUFFLE, FILE_BPM, 0), taken=["feel straight"])
        places = {hit.at.denominator for bar in reading.chart.bars for hit in bar.hits}
        self.assertLessEqual(places, {1, 2, 4, 8})

    def test_semiquavers_swing_too(self):
        pairs = [(n / 2 + at, 42, 90) for n in range(32) for at in (0, 1 / 3)]
        reading = open_midi(made(pairs, tempo(90)), taken=["feel swung 16ths"])
        self.assertEqual(
            [hit.at for hit in reading.chart.bars[0].hits], [F(n, 4) for n in range(16)]
        )

    def test_words_of_the_file_say_it(self):
        words = mido.MetaMessage("text", text="Medium swing", time=0)
        notes = [(n + at, 51, 90) for n in range(16) for at in (0, 2 / 3)]
        reading = open_midi(made(notes, words, tempo(120)))
        self.assertEqual(reading.chart.swings[0], Swing(F(1, 2)))
        straight = open_midi(made(notes, words, tempo(120)), taken=["feel triplets"])
        self.assertEqual(straight.chart.swings[0], STRAIGHT)


class WhatIsWrittenComesBack(unittest.TestCase):
    def there_and_back(self, text: str) -> Reading:
        return open_midi(write_file("piece.mid", read_chart(text)))

    def test_a_pick_up_is_a_pick_up_again_and_told(self):
        text = "bar 0\nbeats 1\nsnare 4 4&\nbar 1\nhat 8ths\nkick 1 3\nbar 2\nhat 8ths\nkick 1"
        reading = self.there_and_back(text)
        self.assertEqual([bar.number for bar in reading.chart.bars], ["0", "1", "2"])
        self.assertEqual(places_of(reading, Drum.KICK), [[], [0, 2], [0]])
        self.assertIn("first bar, in 1/4, is read as a pick-up", said(reading))
        own = open_midi(write_file("piece.mid", read_chart(text)), taken=["short bar"])
        self.assertEqual([str(bar.meter) for bar in own.chart.bars], ["1/4", "4/4", "4/4"])
        self.assertNotIn("is read as a pick-up", said(own))

    def test_every_demo_piece_comes_back_bar_for_bar_along_its_road(self):
        for path in sorted(CHARTS.glob("*.wren")):
            chart = read_chart(path.read_text())
            played = [
                () if one.bar.times and not one.bar.times.plays(one.time) else one.bar.hits
                for one in road_of(chart)
            ]
            back = open_midi(write_file("piece.mid", chart)).chart.bars
            with self.subTest(path.name):
                self.assertEqual(len(back), len(played))
                for mine, bar in zip(played, back, strict=True):
                    found = {(hit.at, hit.drum) for hit in bar.hits}
                    rolled = any(hit.roll for hit in mine)  # whose strokes are written out
                    wanted = {(hit.at, hit.drum) for hit in mine if not hit.roll}
                    self.assertTrue(wanted <= found if rolled else wanted == found, bar.number)

    def test_a_swung_piece_is_swung_again(self):
        text = "swing 8ths\nbar 1\nride 8ths\nsnare 2 4\nbar 2\nstraight\nride 8ths\nkick 1"
        reading = self.there_and_back(text)
        self.assertEqual(reading.chart.swings, read_chart(text).swings)
        self.assertEqual(
            [{(hit.at, hit.drum) for hit in bar.hits} for bar in reading.chart.bars],
            [{(hit.at, hit.drum) for hit in bar.hits} for bar in read_chart(text).bars],
        )


def places_of(reading: Reading, drum: Drum) -> list[list[Fraction]]:
    return [[hit.at for hit in bar.hits if hit.drum is drum] for bar in reading.chart.bars]


if __name__ == "__main__":
    unittest.main()
