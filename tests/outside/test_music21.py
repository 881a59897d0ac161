"""Our reading of MusicXML against music21's own, on a file that music21 ships."""

import unittest
from pathlib import Path

import music21

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.notation.musicxml import read_musicxml
from wren_ladder.drumming.roadmap import road_map

# Source: music21 10.5.1, corpus/demos/drum_sample.xml, two bars of two percussion parts.
SAMPLE = Path(music21.__file__).parent / "corpus/demos/drum_sample.xml"
SUITE = Path(music21.__file__).parent / "musicxml/lilypondTestSuite"


def their_onsets() -> dict[tuple, set[tuple[int, float]]]:
    """(part, place, head) -> {(bar from 1, crotchets from the bar line)} as music21 reads.

    It keeps no instrument per note, but in this file place and head tell them apart.
    """
    found: dict[tuple, set[tuple[int, float]]] = {}
    for part in music21.converter.parse(SAMPLE).parts:
        for bar, measure in enumerate(part.getElementsByClass("Measure"), start=1):
            for note in measure.recurse().notes:
                at = float(note.getOffsetInHierarchy(measure))
                for one in note.notes if hasattr(note, "notes") else [note]:
                    place = f"{one.displayStep}{one.displayOctave}"
                    key = (part.partName, place, one.notehead)
                    found.setdefault(key, set()).add((bar, at))
    return found


# Which of the file's instruments stands where, read off the file's <instrument> elements.
PLACES = {
    Drum.CRASH: ("Drums", "B3", "diamond"),
    Drum.HIHAT: ("Drums", "B3", "x"),
    Drum.SNARE: ("Drums", "E3", "normal"),
    Drum.KICK: ("Drums", "A2", "normal"),
    Drum.COWBELL: ("Cowbell", "E4", "x"),
}


class DrumSample(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.chart, cls.problems = read_musicxml(SAMPLE.read_bytes())

    def test_kick_snare_closed_hat_crash_and_cowbell_are_named(self):
        drums = {hit.drum for bar in self.chart.bars for hit in bar.hits}
        self.assertEqual(drums, set(PLACES))

    def test_the_onsets_of_every_instrument_agree(self):
        theirs = their_onsets()
        for drum, place in PLACES.items():
            ours = {
                (number, float(hit.at))
                for number, bar in enumerate(self.chart.bars, start=1)
                for hit in bar.hits
                if hit.drum is drum
            }
            with self.subTest(drum):
                self.assertEqual(ours, theirs.pop(place))
        self.assertEqual(theirs, {})

    def test_what_was_left_out_is_told(self):
        said = " ".join(str(problem) for problem in self.problems)
        self.assertIn("these parts are read together: Drums, Cowbell", said)


class PublicSuite(unittest.TestCase):
    """Files of the public MusicXML test suite that lie in this issue's reach."""

    def test_percussion_metres_and_pick_ups_are_read(self):
        for pattern in ("11a*", "11c*", "11d*", "23a*", "24a*", "45a*", "46*", "73a*"):
            for path in sorted(SUITE.glob(pattern)):
                with self.subTest(path.name):
                    chart, _ = read_musicxml(path.read_bytes())
                    self.assertTrue(chart.bars)

    def test_a_simple_repeat_is_played_as_its_own_description_says(self):
        # 45a describes itself: "A simple, repeated measure (repeated 5 times)".
        chart, _ = read_musicxml((SUITE / "45a-SimpleRepeat.xml").read_bytes())
        played = [visit.index for visit in road_map(chart.bars).visits]
        self.assertEqual(played, [0] * 5 + [1])
