"""What the workshop makes, before outside readers: Verovio's log empty, MusicXML valid by the
XSD and the same chart again, onsets as music21 reads them."""

import unittest
from dataclasses import replace
from xml.etree.ElementTree import fromstring

import music21

from tests.outside import test_musicxml_written as written
from tests.outside import test_standards as standards
from wren_ladder.drumming.chart import Chart
from wren_ladder.drumming.notation.musicxml import read_musicxml, write_musicxml
from wren_ladder.drumming.workshop.accents import (
    kit_versions,
    read_accents,
    sticking_versions,
)
from wren_ladder.drumming.workshop.feet import FOOT_STUDIES
from wren_ladder.drumming.workshop.grooves import family
from wren_ladder.drumming.workshop.patterns import Hands, LeftFoot
from wren_ladder.drumming.workshop.shelf import shelf
from wren_ladder.drumming.workshop.stickings import HOUSE_STICKINGS, read_sticking, sticking_bar
from wren_ladder.drumming.workshop.warm_up import warm_up


def of_bars(title: str, bars) -> Chart:
    return Chart(title, tuple(replace(bar, number=str(n)) for n, bar in enumerate(bars, 1)))


def charts() -> dict[str, Chart]:
    """The whole shelf, the whole family and its left feet, every sticking and warm-up."""
    made = {one.code: one.chart for one in shelf()}
    for foot in LeftFoot:
        made[foot.value] = of_bars(foot, [one.bar for one in family(left_foot=foot)])
    made["stickings"] = of_bars(
        "s", [sticking_bar(read_sticking(one.letters)) for one in HOUSE_STICKINGS]
    )
    for grade in range(7):
        made[f"warm-up {grade}"] = warm_up(grade, 5).chart
    accented = read_accents("1 2& 4 | 1& 3 4&")
    for version in (*sticking_versions(accented), *kit_versions(accented)):
        made[version.name] = of_bars(version.name, version.bars)
    for one in FOOT_STUDIES:
        made[f"feet {one.code}"] = of_bars(one.name, one.bars(Hands.HAT_OPEN))
    return made


class Made(unittest.TestCase):
    def test_verovio_engraves_every_exercise_with_an_empty_log(self):
        load = standards.EveryMei("load").load
        for name, chart in charts().items():
            with self.subTest(name):
                self.assertEqual(load(chart), "")

    def test_every_exercise_is_valid_musicxml_and_comes_back_the_same(self):
        for name, chart in charts().items():
            with self.subTest(name):
                text = write_musicxml(chart)
                written.SCHEMA.validate(fromstring(text.encode()))
                self.assertEqual(read_musicxml(text.encode())[0], chart)

    def test_music21_reads_the_same_onsets(self):
        for name, chart in charts().items():
            theirs = music21.converter.parseData(write_musicxml(chart), format="musicxml")
            measures = theirs.parts[0].getElementsByClass("Measure")
            for bar, measure in zip(chart.bars, measures, strict=True):
                onsets = {
                    round(float(note.getOffsetInHierarchy(measure)), 6)
                    for note in measure.recurse().notes
                    if not note.duration.isGrace
                }
                with self.subTest(f"{name}, bar {bar.number}"):
                    self.assertEqual({round(float(hit.at), 6) for hit in bar.hits}, onsets)
