"""Electronic kits: rims, edges, a hat opened by its pedal. Common practice, no source."""

import unittest
from collections import Counter

import mido

from tests.drumming.test_midi import saved
from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.notation.midi import open_midi
from wren_ladder.drumming.notation.midi.keys import drums_of
from wren_ladder.drumming.notation.midi.pads import Kit

TICKS = 480
CLOSED, HALF, OPEN = 127, 64, 0


def played(notes, pedal=()) -> bytes:
    """Of (crotchets, key) and (crotchets, value of the hat's pedal)."""
    events = [
        (round(at * TICKS), 1, "note_on", {"note": key, "velocity": 90}) for at, key in notes
    ]
    events += [
        (round(at * TICKS), 0, "control_change", {"control": 4, "value": value})
        for at, value in pedal
    ]
    track, now = mido.MidiTrack(), 0
    for tick, _, kind, what in sorted(events, key=lambda one: one[:2]):
        track.append(mido.Message(kind, channel=9, time=tick - now, **what))
        now = tick
    return saved(track, TICKS)


def hats(reading) -> list[str]:
    return [
        hit.drum.value
        for bar in reading.chart.bars
        for hit in bar.hits
        if hit.drum.value.startswith("hihat")
    ]


class ByThePedal(unittest.TestCase):
    EIGHTHS = tuple((n / 2, 42) for n in range(8))

    def test_one_key_is_opened_by_the_pedal_in_three_steps(self):
        pedal = ((0, CLOSED), (1.4, HALF), (1.9, CLOSED), (3.4, OPEN))
        reading = open_midi(played(self.EIGHTHS, pedal))
        half, opened = "hihat-half", "hihat-open"
        wanted = ["hihat"] * 3 + [half] + ["hihat"] * 3 + [opened]
        self.assertEqual(hats(reading), wanted)
        self.assertIn("read from its pedal", "\n".join(map(str, reading.problems)))

    def test_the_other_way_round_where_the_pedal_is_struck(self):
        pedal = tuple((at, CLOSED - value) for at, value in ((0, CLOSED), (3.4, OPEN)))
        foot = ((0.25, 44), (1.25, 44), (2.25, 44))
        reading = open_midi(played((*self.EIGHTHS, *foot), pedal))
        self.assertEqual(Counter(hats(reading)), {"hihat": 7, "hihat-foot": 3, "hihat-open": 1})

    def test_keys_that_say_it_go_before(self):
        keys = tuple((n / 2, 46 if n % 4 == 3 else 42) for n in range(8))
        pedal = ((0, CLOSED), (1.2, OPEN), (1.3, CLOSED))
        reading = open_midi(played(keys, pedal))
        self.assertEqual(Counter(hats(reading)), {"hihat": 6, "hihat-open": 2})
        by_pedal = open_midi(played(keys, pedal), taken=["hat pedal"])
        self.assertEqual(Counter(hats(by_pedal)), {"hihat": 8})

    def test_a_pedal_that_stands_still_says_nothing(self):
        reading = open_midi(played(self.EIGHTHS, ((0, 90), (2, 95))))
        self.assertEqual(set(hats(reading)), {"hihat"})
        self.assertNotIn("hi-hat", [one.name for one in reading.choices])


class RimsAndEdges(unittest.TestCase):
    KEYS = Counter(
        {22: 40, 38: 20, 40: 4, 48: 8, 50: 2, 45: 8, 43: 8, 58: 1, 49: 4, 55: 2, 36: 9}
    )

    def test_of_an_electronic_kit(self):
        found = {key: drum for key, (drum, _) in drums_of(self.KEYS, Kit.PADS).items()}
        self.assertEqual(found[40], Drum.RIM_SHOT)
        self.assertEqual(found[55], Drum.CRASH)
        self.assertEqual(found[50], found[48])
        self.assertEqual(found[58], found[43])
        self.assertEqual([found[key] for key in (48, 45, 43)],
                         [Drum.TOM_HIGH, Drum.TOM_MID, Drum.TOM_FLOOR])  # fmt: skip

    def test_of_the_map_they_are_what_it_says(self):
        found = {key: drum for key, (drum, _) in drums_of(self.KEYS).items()}
        self.assertEqual((found[40], found[55]), (Drum.SNARE, Drum.SPLASH))
        self.assertNotIn(58, found)

    def test_what_is_struck_as_often_as_a_head_is_a_drum_of_its_own(self):
        found = drums_of(Counter({22: 9, 48: 8, 50: 8, 43: 8}), Kit.PADS)
        self.assertEqual(len({found[key][0] for key in (48, 50, 43)}), 3)

    def test_the_kind_of_kit_is_told_and_can_be_changed(self):
        notes = (
            [(n / 2, 22) for n in range(16)] + [(n, 38) for n in range(1, 8, 2)] + [(6.5, 40)]
        )
        reading = open_midi(played(notes))
        choices = {one.name: one.chosen for one in reading.choices}
        self.assertEqual(choices["kit"], Kit.PADS)
        why = {one.key: one.why for one in reading.sources}
        self.assertEqual(why["key 40"], "the rim of key 38, as electronic kits send it")
        by_map = open_midi(played(notes), taken=[Kit.MAP])
        drums = {one.key: one.drum for one in by_map.sources}
        self.assertEqual(drums["key 40"], Drum.SNARE)


if __name__ == "__main__":
    unittest.main()
