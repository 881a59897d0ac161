"""MusicXML as we write it: valid by the schema, the same chart again, the same onsets."""

import unittest
from fractions import Fraction
from pathlib import Path
from xml.etree.ElementTree import fromstring

import music21
import musicxml
import xmlschema
from hypothesis import HealthCheck, given, settings

from tests.builders import make_bar, make_chart
from tests.strategies import charts
from wren_ladder.demo import CHARTS
from wren_ladder.drumming.building.chains import chain
from wren_ladder.drumming.building.layers import isolations, layers
from wren_ladder.drumming.chart import Bar, Chart, Drum, Hit, Meter
from wren_ladder.drumming.description.figures import COMPOUND, QUARTERS, THIRDS
from wren_ladder.drumming.hands import stick_bar
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.notation.musicxml import read_musicxml, write_musicxml

# Source: the MusicXML 4.0 XSD (W3C), as the PyPI package musicxml 1.6.3 carries it.
FOLDER = Path(musicxml.__file__).parent / "generate_classes"
SCHEMA = xmlschema.XMLSchema(
    str(FOLDER / "musicxml_4_0.xsd"),
    locations={"http://www.w3.org/XML/1998/namespace": str(FOLDER / "xml.xsd")},
    allow="local",
    build=True,
)


class Written(unittest.TestCase):
    def check(self, chart) -> None:
        text = write_musicxml(chart)
        SCHEMA.validate(fromstring(text.encode()))
        again, _ = read_musicxml(text.encode())
        self.assertEqual(again, chart)

    def test_the_schema_would_show_a_fault(self):
        text = write_musicxml(make_chart("kick 1")).replace("<divisions>", "<oops/><divisions>")
        self.assertFalse(SCHEMA.is_valid(fromstring(text.encode())))

    def test_the_demo_charts_are_valid_and_come_back_the_same(self):
        for path in sorted(CHARTS.glob("*.wren")):
            with self.subTest(path.stem):
                self.check(read_chart(path.read_text()))

    @settings(max_examples=150, suppress_health_check=[HealthCheck.too_slow])
    @given(charts(most=4))
    def test_any_chart_is_valid_and_comes_back_the_same(self, chart):
        self.check(chart)

    def test_music21_reads_the_same_onsets(self):
        for path in sorted(CHARTS.glob("*.wren")):
            chart = read_chart(path.read_text())
            theirs = music21.converter.parseData(write_musicxml(chart), format="musicxml")
            measures = theirs.parts[0].getElementsByClass("Measure")
            for bar, measure in zip(chart.bars, measures, strict=True):
                onsets = {
                    float(note.getOffsetInHierarchy(measure))
                    for note in measure.recurse().notes
                    if not note.duration.isGrace
                }
                with self.subTest(f"{path.stem} bar {bar.number}"):
                    ours = {round(float(hit.at), 6) for hit in bar.hits}
                    self.assertEqual(ours, {round(onset, 6) for onset in onsets})


class Values(unittest.TestCase):
    """The written values of the hands as music21 reads them; rests in brackets."""

    def test_notes_and_rests_are_as_long_as_on_the_page(self):
        for lines, expected in (
            ("snare 1", ["1", "(1)", "(2)"]),
            ("snare 3", ["(2)", "1", "(1)"]),
            ("snare 2 4", ["(1)", "1", "(1)", "1"]),  # the middle of the bar can be seen
            ("snare 1& 3", ["(1/2)", "1/2", "(1)", "1", "(1)"]),
            ("kick 1 3", ["(4)"]),
            ("snare 1 for 2, 3 for 3/2, 4&", ["2", "3/2", "1/2"]),
            ("snare 1 for 1/4, 2", ["1/4", "(3/4)", "1", "(2)"]),
        ):
            with self.subTest(lines):
                chart = Chart("", (make_bar(lines),))
                theirs = music21.converter.parseData(write_musicxml(chart), format="musicxml")
                (measure,) = theirs.parts[0].getElementsByClass("Measure")
                voices = list(measure.voices) or [measure]
                found = [
                    f"({length})" if one.isRest else length
                    for one in voices[0].notesAndRests
                    for length in [str(Fraction(one.quarterLength))]
                ]
                self.assertEqual(found, expected)


class Layers(unittest.TestCase):
    """Every layer, isolation and link of a chain is a chart that others can read: music21
    finds exactly the onsets that were written."""

    def check(self, chart: Chart) -> None:
        (bar,) = chart.bars
        theirs = music21.converter.parseData(write_musicxml(chart), format="musicxml")
        (measure,) = theirs.parts[0].getElementsByClass("Measure")
        onsets = {
            round(float(note.getOffsetInHierarchy(measure)), 6)
            for note in measure.recurse().notes
            if not note.duration.isGrace
        }
        with self.subTest(chart.title):
            self.assertEqual(onsets, {round(float(hit.at), 6) for hit in bar.hits})

    def test_of_bars_with_everything(self):
        for lines in (
            "hat 8ths, open 4&\nsnare accent 2 4, ghost 2a 3e\nkick 1 3 3&",
            "snare flam 1, accent 1&, drag 2, roll 7 3-4, 4\nkick 1 3",
        ):
            bar = make_bar(lines)
            for layer in (*layers(bar), *isolations(bar, stick_bar(bar))):
                self.check(Chart("Part", (layer.bar,)))
            for link in chain(make_bar("hat 8ths\nsnare 2 4\nkick 1 3"), bar):
                self.check(link.chart)


class Figures(unittest.TestCase):
    """The note values and tuplets of every figure, as music21 works them out from our file."""

    def test_music21_agrees_with_the_lengths_and_the_tuplets(self):
        for table, meter, unit in (
            (QUARTERS, Meter(1, 4), Fraction(1, 4)),
            (THIRDS, Meter(1, 4), Fraction(1, 3)),
            (COMPOUND, Meter(3, 8), Fraction(1, 4)),
        ):
            for places, name in table.items():
                with self.subTest(name):
                    self.check([place * unit for place in places], meter, table is THIRDS)

    def check(self, onsets, meter, in_threes) -> None:
        hits = tuple(Hit(at, Drum.SNARE) for at in onsets)
        text = write_musicxml(Chart("", (Bar("1", meter, hits),)))
        measure = music21.converter.parseData(text, format="musicxml").recurse()
        sounding = [n for n in measure.notesAndRests if n.duration.quarterLength]
        notes = [note for note in sounding if not note.isRest]
        self.assertEqual(len(notes), len(onsets))
        # Every value, note or rest, is as long as the way to the next one.
        starts = [Fraction(n.offset).limit_denominator(96) for n in sounding]
        ends = [*starts[1:], meter.length]
        for value, start, end in zip(sounding, starts, ends, strict=True):
            length = Fraction(value.duration.quarterLength).limit_denominator(96)
            self.assertEqual(length, end - start)
        tuplets = {t.numberNotesActual for note in notes for t in note.duration.tuplets}
        self.assertEqual(tuplets, {3} if in_threes else set())
