"""What two engravers that are not ours make of our pages, read by our readers: the MIDI of
LilyPond 2.24 (fixtures beside the script that made them) and the MusicXML of music21."""

import unittest

from music21.musicxml.m21ToXml import GeneralObjectExporter

from tests.engravers import music21_of, plainly_written
from tests.fixtures.engraved import make
from wren_ladder.demo import CHARTS
from wren_ladder.drumming.chart import Bar, Chart
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.notation.midi import open_midi
from wren_ladder.drumming.notation.musicxml import open_musicxml


def pages() -> dict[str, Chart]:
    return {
        path.stem: plainly_written(read_chart(path.read_text()), graces=False)
        for path in sorted(CHARTS.glob("*.wren"))
    }


def struck(bar: Bar) -> set:
    return {(hit.at, hit.drum) for hit in bar.hits}


class LilyPond(unittest.TestCase):
    """It begins a pick-up at the first bar line and counts on from there."""

    LATER = {"harbour_wall_shuffle": "first +1"}  # nothing in the file shows it

    def test_its_midi_is_read_bar_for_bar(self):
        for name, chart in pages().items():
            data = (make.HERE / f"{name}.midi").read_bytes()
            reading = open_midi(data, taken=[self.LATER.get(name, ""), "0"])
            with self.subTest(name):
                self.assertEqual(len(reading.chart.bars), len(chart.bars))
                for ours, theirs in zip(chart.bars, reading.chart.bars, strict=True):
                    self.assertEqual(struck(theirs), struck(ours), ours.number)

    def test_a_pick_up_that_a_later_metre_shows_is_told(self):
        data = (make.HERE / "long_pier_signals.midi").read_bytes()
        told = "\n".join(map(str, open_midi(data).problems))
        self.assertIn("read as if that bar began with a pick-up of 1 beat", told)


MORE = {
    "in six": "meter 6/8\nbar 1\nhat 8ths\nsnare 4\nkick 1\nbar 2\nsnare 1 2 3\nfloor 4 5 6",
    "round the toms": "bar 1\nsnare 1 1e 1& 1a\nhigh 2 2& \nmid 3 3t 3l\nfloor 4 4&\nkick 1 3\n"
    "bar 2\ncrash 1\nride 1& 2 2& 3 3& 4 4&\nsnare 2 4\nkick 1 2& 3",
}


class Music21(unittest.TestCase):
    def test_its_musicxml_is_read_bar_for_bar(self):
        more = {name: read_chart(text) for name, text in MORE.items()}
        for name, chart in (pages() | more).items():
            reading = open_musicxml(GeneralObjectExporter(music21_of(chart)).parse())
            with self.subTest(name):
                self.assertEqual(len(reading.chart.bars), len(chart.bars))
                for ours, theirs in zip(chart.bars, reading.chart.bars, strict=True):
                    self.assertEqual(struck(theirs), struck(ours), ours.number)
                    self.assertEqual(theirs.length, ours.length)
                self.assertTrue(all(source.guessed for source in reading.sources))


if __name__ == "__main__":
    unittest.main()
