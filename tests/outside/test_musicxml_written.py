"""MusicXML as we write it: valid by the schema, the same chart again, the same onsets."""

import unittest
from pathlib import Path
from xml.etree.ElementTree import fromstring

import music21
import musicxml
import xmlschema
from hypothesis import HealthCheck, given, settings

from tests.builders import make_chart
from tests.strategies import charts
from wren_ladder.demo.studio import CHARTS
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
