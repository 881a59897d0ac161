"""A damaged file hangs nobody: lengths are settled as places are, all that is done with a file
is fenced, and what waits can be thrown away unopened."""

import unittest
from fractions import Fraction
from unittest.mock import patch

from django.urls import reverse
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.drumming.test_musicxml import FOUR, note, score
from tests.studio.base import StudioTest
from wren_ladder.drumming.chart import Chart, ChartError
from wren_ladder.drumming.chart.serial import bar_from_json, bar_to_json
from wren_ladder.drumming.files import WRITTEN, open_file, write_file
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.studio.pieces import fence, reading
from wren_ladder.studio.pieces.models import Import
from wren_ladder.studio.pieces.reading import read_upload

HEAD = """<?xml version="1.0"?><score-partwise version="4.0"><part-list><score-part id="P1">
<part-name>Drums</part-name></score-part></part-list><part id="P1"><measure number="1">
<attributes><divisions>{}</divisions><time><beats>4</beats><beat-type>4</beat-type></time>
</attributes>{}</measure></part></score-partwise>"""
NOTE = """<note><unpitched><display-step>C</display-step><display-octave>5</display-octave>
</unpitched><duration>{}</duration><voice>1</voice></note>"""
REST = "<note><rest/><duration>{}</duration><voice>1</voice></note>"


def odd_lengths(divisions: int, shorter_by: list[int]) -> bytes:
    """Four crotchets, each so many divisions shorter than it is, with a rest behind it."""
    music = ""
    for less in shorter_by:
        music += NOTE.format(divisions - less) + (REST.format(less) if less else "")
    return HEAD.format(divisions, music).encode()


class Lengths(unittest.TestCase):
    def test_one_tick_short_is_written_in_every_format(self):
        for divisions in (1024, 10_080, 1_000_000, 333_333):
            with self.subTest(divisions):
                found = open_file("odd.musicxml", odd_lengths(divisions, [1, 0, 7, 0]))
                self.assertTrue(found.problems)
                for ending in WRITTEN:
                    self.assertTrue(write_file(f"odd{ending}", found.chart))

    @settings(max_examples=60, deadline=None)
    @given(
        st.sampled_from([7, 96, 480, 1008, 1024, 10_080, 65_537, 1_000_003]),
        st.lists(st.floats(0, 0.98), min_size=4, max_size=4),
    )
    def test_whatever_the_lengths_every_place_and_end_can_be_drawn(self, divisions, shares):
        data = odd_lengths(divisions, [int(share * divisions) for share in shares])
        chart = open_file("odd.musicxml", data).chart
        for hit in chart.bars[0].hits:
            for place in (hit.at, hit.written or Fraction(1)):
                self.assertLessEqual(place.denominator, 96 * 96)
        again = open_file("again.musicxml", write_file("again.musicxml", chart)).chart
        self.assertEqual(
            [hit.at for hit in again.bars[0].hits], [hit.at for hit in chart.bars[0].hits]
        )

    def test_what_an_earlier_reader_stored_is_read_as_the_nearest(self):
        data = bar_to_json(read_chart("bar 1\nsnare 1").bars[0])
        data["hits"][0]["written"] = "999983/1000000"
        bar = bar_from_json(data)
        self.assertEqual(bar.hits[0].written, 1)
        self.assertTrue(write_file("a.musicxml", Chart("a", (bar,))))


class Fenced(StudioTest):
    def read_by(self, program: str):
        real = fence.subprocess.run

        def run(arguments, **given):
            return real([arguments[0], "-c", program], **given)

        return patch.object(fence.subprocess, "run", run)

    def test_a_crash_is_told_as_a_crash_too_much_as_too_much_and_too_long_as_that(self):
        hang = (
            "import resource; resource.setrlimit(resource.RLIMIT_CPU, (1, 2))\nwhile True: pass"
        )
        for number, (program, said) in enumerate(
            (
                ("raise KeyError('1024')", "the studio fails on this file"),
                ("import sys; sys.exit(3)", "more memory than there is"),
                (hang, "export the drum part alone, or in two halves"),
            )
        ):
            with self.subTest(said), self.read_by(program):
                with self.assertRaisesRegex(ChartError, said) as caught:
                    read_upload(f"{number}.mid", b"x")
                self.assertNotIn("KeyError", str(caught.exception))

    def test_what_hangs_while_it_is_drawn_is_ended_too(self):
        program = (
            "import resource, sys; from wren_ladder.studio.pieces import fenced;"
            "fenced.study = lambda chart: exec('while True: pass');"
            "sys.argv = ['fenced', '1', '1', str(2 << 30)]; fenced.main()"
        )
        with self.read_by(program), self.assertRaisesRegex(ChartError, "to draw"):
            read_upload("hangs.wren", b"bar 1\nhat 8ths")

    def test_what_waits_is_thrown_away_without_opening_it(self):
        waiting = Import.objects.create(owner=self.teacher, name="bad.musicxml", data=b"<")
        with patch.object(reading, "_read", side_effect=AssertionError("it was opened")):
            page = self.client.get(reverse("pieces"))
            self.assertContains(page, reverse("import-discard", args=[waiting.pk]))
            self.client.get(reverse("import-discard", args=[waiting.pk]))
            self.client.post(reverse("import-discard", args=[waiting.pk]))
        self.assertFalse(Import.objects.exists())

    def test_what_can_be_read_no_more_says_so_and_what_to_do(self):
        waiting = Import.objects.create(owner=self.teacher, name="bad.musicxml", data=b"<")
        page = self.client.get(waiting.get_absolute_url())
        self.assertContains(page, "Throw it away", status_code=422)

    def test_a_good_file_is_read_as_ever(self):
        asked = "quay.musicxml", score(FOUR + note("S", 16))
        self.assertEqual(read_upload(*asked), open_file(*asked))
