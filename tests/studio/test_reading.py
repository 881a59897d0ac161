"""Uploads read in a process of their own, within limits."""

import unittest
from unittest.mock import patch

from tests.drumming.test_musicxml import FOUR, note, score
from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.files import open_file
from wren_ladder.studio.pieces import fence
from wren_ladder.studio.pieces.reading import read_upload


class Limits(unittest.TestCase):
    def test_it_reads_as_the_core_does(self):
        asked = "quay.musicxml", score(FOUR + note("S", 16)), ("P1",), {"instrument S": "kick"}
        found = read_upload(*asked)
        self.assertEqual(found, open_file(*asked))
        self.assertIs(read_upload(*asked), found)

    def test_what_is_wrong_is_told_with_its_place(self):
        data = score(FOUR + note("S", "many"))
        with self.assertRaisesRegex(ChartError, "bar 1: a note has the duration 'many'"):
            read_upload("quay.musicxml", data)

    def test_what_takes_too_long_is_ended_and_says_what_to_do(self):
        command = ["-c", "while True: pass"]
        real = fence.subprocess.run

        def run(arguments, **given):
            return real([arguments[0], *command], **given)

        with (
            patch.object(fence.subprocess, "run", run),
            patch.object(fence, "WAIT", 1),
            self.assertRaisesRegex(ChartError, "export the drum part alone"),
        ):
            read_upload("slow.mid", b"slow")
