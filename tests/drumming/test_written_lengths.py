"""How long the notes are written: typed, drawn, out and in again, and what it changes."""

import unittest
from dataclasses import replace
from fractions import Fraction
from xml.etree.ElementTree import fromstring

import music21
from hypothesis import given

from tests.builders import make_bar, make_chart
from tests.strategies import bars
from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.chart.serial import bar_from_json, bar_to_json
from wren_ladder.drumming.notation.counts import read_chart, write_bar
from wren_ladder.drumming.notation.lengths import keep_lengths
from wren_ladder.drumming.notation.mei import NAMESPACE, Layout, Scored, write_mei
from wren_ladder.drumming.notation.musicxml import write_musicxml
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.study import study

F = Fraction
MEI = f"{{{NAMESPACE}}}"
# A line of a snare solo as it is typed, and the note values of its page; r is a rest, - a tie.
SOLO = (
    ("snare 1 for 1.5, 2& 3 for 2", "4. 8 2"),
    ("snare 1 for 3, 4", "2. 4"),
    ("snare 1 for 4", "1"),
    ("snare quarters for 1/2", "8 r8 8 r8 8 r8 8 r8"),
    ("snare 1 2& for 1, 3& for 1, 4&", "4 r8 4 4 8"),
    ("snare 1 for 5/4, 2a 3", "4 -16 r8 16 4 r4"),
    ("snare 1 for 1/4, 2", "16 r8. 4 r2"),
)


def written(lines: str, meter: str = "4/4") -> str:
    """The values of the upper layer as MEI has them."""
    mei = fromstring(write_mei([Scored(make_bar(lines, meter))], Layout(counts=False)))
    layer = next(layer for layer in mei.iter(f"{MEI}layer") if layer.get("n") == "1")
    tied = {tie.get("endid") for tie in mei.iter(f"{MEI}tie")}
    said = []
    for element in layer.iter():
        if element.tag in (f"{MEI}note", f"{MEI}rest") and element.get("dur"):
            name = element.get("{http://www.w3.org/XML/1998/namespace}id")
            mark = "r" if element.tag == f"{MEI}rest" else "-" if f"#{name}" in tied else ""
            said.append(mark + element.get("dur") + "." * int(element.get("dots", 0)))
    return " ".join(said)


class Typed(unittest.TestCase):
    def test_a_note_is_written_as_long_as_it_is_said_to_be(self):
        for lines, values in SOLO:
            with self.subTest(lines):
                self.assertEqual(written(lines), values)

    def test_in_compound_time_the_counts_are_quavers(self):
        self.assertEqual(written("snare 1 for 2, 3 for 4", "6/8"), "4 2")

    def test_it_is_typed_back_as_it_was(self):
        for lines, _ in SOLO:
            bar = make_bar(lines)
            with self.subTest(lines):
                again = read_chart(f"bar 1\n{write_bar(bar)}").bars[0]
                self.assertEqual(again, bar)
        self.assertIn("quarters for 1/2", write_bar(make_bar("snare quarters for 1/2")))

    def test_what_the_house_would_write_anyway_is_not_kept(self):
        self.assertEqual(make_bar("snare 1 for 1, 2 for 1/2, 2&"), make_bar("snare 1 2 2&"))

    def test_faults_say_where_and_what_is_right(self):
        for lines, said in (
            ("snare 4 for 2", "4 for 2 runs past the bar line"),
            ("snare for 2", "say which note lasts so long: 1 for 2"),
            ("snare 1 for", "say for how many counts: 1 for 2"),
            ("snare 1 for ever", "say for how many counts: 1 for 2"),
            ("snare 1 for 0", "say for how many counts"),
            ("snare buzz 1-2, 1 for 2", "a roll says itself how long it is"),
        ):
            with self.subTest(lines), self.assertRaisesRegex(ChartError, said):
                make_bar(lines)

    def test_the_next_stroke_ends_a_note(self):
        self.assertEqual(make_bar("snare 1 for 4, 2"), make_bar("snare 1 2"))


class OutAndIn(unittest.TestCase):
    @given(bars())
    def test_json_keeps_it(self, bar):
        self.assertEqual(bar_from_json(bar_to_json(bar)), bar)

    @given(bars())
    def test_what_is_kept_can_be_drawn(self, bar):
        self.assertEqual(replace(bar, hits=keep_lengths(bar.hits, bar)), bar)

    def test_bars_that_say_nothing_of_it_are_stored_as_before(self):
        hits = bar_to_json(make_bar("snare 1 3"))["hits"]
        self.assertEqual([hit for hit in hits if "written" in hit], [])

    def test_music21_reads_the_same_lengths(self):
        """Reference: music21 10.5.1, on our MusicXML; ties are one note to it."""
        for lines, _ in SOLO:
            chart = make_chart(lines)
            score = music21.converter.parseData(write_musicxml(chart), format="musicxml")
            (measure,) = score.parts[0].getElementsByClass("Measure")
            theirs = {
                F(note.getOffsetInHierarchy(measure)): F(note.duration.quarterLength)
                for note in score.stripTies().recurse().notes
            }
            with self.subTest(lines):
                values = iter(values_of(lines))
                self.assertEqual(theirs, dict(values))


class SameMusic(unittest.TestCase):
    def test_bars_that_are_only_written_otherwise_are_equal(self):
        chart = make_chart(
            "bar 1\nsnare 1 3\nbar 2\nsnare 1 for 2, 3\nbar 3\nsnare 1 for 2, 3 4"
        )
        studied = study(chart)
        self.assertEqual(studied.bars[1].twin_of, 0)
        said = studied.bars[2].difference.changes_spoken
        self.assertEqual(said, "with the snare on 4")

    def test_it_sounds_the_same(self):
        for lines, _ in SOLO:
            plain = make_chart(lines)
            played = [onset.at for onset in perform(study(plain).road).onsets]
            short = [float(hit.at) for hit in make_bar(lines).hits]
            with self.subTest(lines):
                self.assertEqual(played, short)


def values_of(lines: str) -> list[tuple[Fraction, Fraction]]:
    """(onset, length in crotchets) of each note, from the table."""
    at, found = F(0), []
    for value in dict(SOLO)[lines].split():
        name = value.strip("r-.")
        length = F(4, int(name)) * (F(3, 2) if value.endswith(".") else 1)
        if value.startswith("-"):
            found[-1] = (found[-1][0], found[-1][1] + length)
        elif not value.startswith("r"):
            found.append((at, length))
        at += length
    return found
