"""Our reading of MusicXML against music21's own, on a file that music21 ships."""

import re
import unittest
import zipfile
from pathlib import Path

import music21

from tests.builders import make_chart
from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.files import open_file
from wren_ladder.drumming.notation.musicxml import read_musicxml, write_musicxml
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


class DrumFiles(unittest.TestCase):
    """Every file with unpitched notes that the installed packages carry: three of them."""

    def files(self) -> list[Path]:
        packages = Path(music21.__file__).parents[1]
        every = [
            path
            for end in ("musicxml", "mxl", "xml")
            for path in sorted(packages.rglob(f"*.{end}"))
        ]
        return [path for path in every if b"<unpitched" in self.text(path)]

    def text(self, path: Path) -> bytes:
        data = path.read_bytes()
        if not data.startswith(b"PK"):
            return data
        with zipfile.ZipFile(path) as archive:
            return b"".join(map(archive.read, archive.namelist()))

    def test_their_onsets_are_those_that_music21_reads(self):
        files = self.files()
        self.assertGreaterEqual(len(files), 3)
        for path in files:
            reading = open_file(path.name, path.read_bytes())
            chosen = [part.name for part in reading.parts if part.chosen]
            score = music21.converter.parse(path, forceSource=True)
            parts = [part for part in score.parts if part.partName in chosen] or score.parts
            columns = [list(part.getElementsByClass("Measure")) for part in parts]
            for place, bar in enumerate(reading.chart.bars):
                theirs = set()
                for measure in (column[place] for column in columns if place < len(column)):
                    for note in measure.recurse().notes:
                        tied = note.tie and note.tie.type in ("stop", "continue")
                        if not note.duration.isGrace and not tied:
                            theirs.add(round(float(note.getOffsetInHierarchy(measure)), 3))
                with self.subTest(path.name, bar=bar.number):
                    self.assertEqual({round(float(hit.at), 3) for hit in bar.hits}, theirs)


class PublicSuite(unittest.TestCase):
    """Source: the public MusicXML test suite, as music21 10.5.1 carries it."""

    PATTERNS = (
        "11*", "23*", "24*", "31*", "32*", "45*", "46*", "73a*",
    )  # fmt: skip

    def test_files_of_metres_tuplets_graces_signs_and_percussion_are_read(self):
        read = 0
        for pattern in self.PATTERNS:
            for path in sorted(SUITE.glob(pattern)):
                with self.subTest(path.name):
                    data = path.read_bytes()
                    part = re.search(rb'<part id="([^"]+)"', data)[1].decode()  # a melody
                    chart, _ = read_musicxml(data, part)
                    self.assertTrue(road_map(chart.bars).visits)
                    read += 1
        self.assertEqual(read, 44)

    def road(self, name: str):
        (path,) = SUITE.glob(f"{name}*")
        chart, _ = read_musicxml(path.read_bytes())
        road = road_map(chart.bars)
        return [visit.index + 1 for visit in road.visits], " ".join(map(str, road.problems))

    def test_play_orders_are_what_the_files_describe(self):
        inner = [2, 3] * 5
        for name, order in {
            # "A simple, repeated measure (repeated 5 times)"
            "45a": [1] * 5 + [2],
            # "A simple repeat with two alternative endings (volta brackets)."
            "45b": [1, 2, 1, 3, 4],
            # "Repeats can also be nested."
            "45c": [1, *inner, 4, 5, 6, 7] * 3 + [8],
        }.items():
            with self.subTest(name):
                self.assertEqual(self.road(name)[0], order)

    def test_faulty_files_are_played_with_their_faults_named(self):
        for name, order, said in (
            # 45d, "nested repeats, each with alternative endings": endings 2 and 1 lack
            # their repeat signs, and an ending 5 follows an ending 1.
            (
                "45d",
                [1, 2, 1, 3, 4, 5, 1, 6, 7, 8, 9, 10, 7, 8, 9, 11, 12],
                "bar 11: ending 5 without an ending 2",
            ),
            # 45f, "does not make sense in the first place": ending 2 is there twice.
            ("45f", [1, 2, 1, 2, 1, 2, 1, 3, 4, 4, 5], "bar 3: ending 2 is there already"),
            # 45g, "a forward-repeating bar line without an ending repeat bar".
            ("45g", [1, 2], "bar 2: a repeat starts here and never ends"),
        ):
            with self.subTest(name):
                played, faults = self.road(name)
                self.assertEqual(played, order)
                self.assertIn(said, faults)

    def test_where_music21_expands_ours_agrees_or_differs_for_a_reason(self):
        for name in ("45a", "45b", "45c"):
            (path,) = SUITE.glob(f"{name}*")
            expanded = music21.converter.parse(path).parts[0].expandRepeats()
            theirs = [measure.number for measure in expanded.getElementsByClass("Measure")]
            with self.subTest(name):
                self.assertEqual(self.road(name)[0], theirs)
        # 45e, "nested repeats with alternatives": music21 does not go back at the first
        # ending in bar 7. We go back to bar 4, around the repeat of bar 5, and say so.
        played, faults = self.road("45e")
        self.assertEqual(played, [1, 2, 1, 3, 4, 5, 5, 6, 7, 4, 5, 5, 6, 8, 9, 8, 9, 10])
        self.assertIn("bar 7: a repeat ends without a start; it goes back to bar 4", faults)


# Roads as the signs of their bars; music21's expander walks each of them the same way.
ROADS = {
    "D.C.": ("", "", "jump D.C.", ""),
    "D.S.": ("", "segno", "", "jump D.S.", ""),
    "D.C. al Fine": ("", "fine", "", "jump D.C. al Fine"),
    "D.S. al Fine": ("", "segno", "fine", "jump D.S. al Fine"),
    "D.C. al Coda": ("", "to coda", "jump D.C. al Coda", "coda", ""),
    "D.S. al Coda": ("segno", "to coda", "jump D.S. al Coda", "coda", ""),
    "a repeat before the To Coda": (
        "repeat start", "repeat end 2", "to coda", "jump D.C. al Coda", "coda", "",
    ),
    "a repeat in the coda": (
        "segno", "to coda", "jump D.S. al Coda", "coda\nrepeat start", "repeat end 2", "",
    ),
    "three passes in the coda": (
        "segno", "to coda", "jump D.S. al Coda", "coda", "repeat start", "repeat end 3", "",
    ),
    "the coda repeated whole": (
        "", "segno", "to coda", "jump D.S. al Coda", "coda\nrepeat start\nrepeat end 2",
    ),
}  # fmt: skip
# Where a page has a jump, music21 plays endings 1 and 2 one after the other, as if they were
# no endings; without the jump it takes them as we do.
DIFFERENT = {
    "endings in the coda": (
        ("segno", "to coda", "jump D.S. al Coda", "coda\nrepeat start",
         "ending 1\nrepeat end 2", "ending 2", ""),
        [1, 2, 3, 1, 2, 4, 5, 4, 6, 7],
        [1, 2, 3, 1, 2, 4, 5, 4, 5, 6, 7],
    ),
    "endings before a jump": (
        ("repeat start", "ending 1\nrepeat end 2", "ending 2", "fine", "", "jump D.C. al Fine"),
        [1, 2, 1, 3, 4, 5, 6, 1, 3, 4],
        [1, 2, 1, 2, 3, 4, 5, 6, 1, 2, 3, 4],
    ),
}  # fmt: skip


class RoadsWithJumps(unittest.TestCase):
    """Reference: music21 10.5.1, its expander of repeats, on our own MusicXML."""

    def walked(self, signs: tuple[str, ...]) -> tuple[list[int], list[int]]:
        """(our order, theirs) of bars that are known by the beats they strike."""
        chart = make_chart("\n".join(map(_known_bar, range(1, len(signs) + 1), signs)))
        ours = [visit.index + 1 for visit in road_map(chart.bars).visits]
        score = music21.converter.parseData(write_musicxml(chart), format="musicxml")
        road = score.parts[0].expandRepeats().getElementsByClass("Measure")
        return ours, [
            sum(1 << int(note.offset) for note in bar.recurse().notes) for bar in road
        ]

    def test_the_expander_agrees(self):
        for name, signs in ROADS.items():
            with self.subTest(name):
                ours, theirs = self.walked(signs)
                self.assertEqual(ours, theirs)
                self.assertGreater(len(ours), len(signs))  # something came again

    def test_it_differs_where_it_plays_both_endings(self):
        for name, (signs, right, expanded) in DIFFERENT.items():
            with self.subTest(name):
                self.assertEqual(self.walked(signs), (right, expanded))


def _known_bar(number: int, signs: str) -> str:
    """A bar whose number can be read off its beats: bar 5 strikes 1 and 3."""
    beats = " ".join(str(place + 1) for place in range(4) if number >> place & 1)
    return f"bar {number}\nsnare {beats}\n{signs}"
