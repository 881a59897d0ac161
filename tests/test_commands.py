"""The commands of ./wren that need no web."""

import contextlib
import io
import json
import socket
import tempfile
import unittest
from pathlib import Path

from wren_ladder import cli


def run(*arguments: str) -> tuple[int, str, str]:
    out, err = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        code = cli.main(list(arguments))
    return code, out.getvalue(), err.getvalue()


class Commands(unittest.TestCase):
    def file(self, text: str, name: str = "quay.wren") -> str:
        path = Path(tempfile.mkdtemp()) / name
        path.write_text(text)
        return str(path)

    def test_study_prints_one_json_object(self):
        code, out, err = run("study", self.file("bar 1\nhat 8ths\nrepeat end 2"), "--json")
        self.assertEqual((code, err), (0, ""))
        found = json.loads(out)
        self.assertEqual(found["title"], "quay")
        self.assertEqual((found["play_order"], found["seconds"]), (["1", "1"], 8))
        self.assertEqual(
            set(found["bars"][0]),
            {"number", "meter", "hits", "counts", "figures", "twin_of", "trouble"},
        )

    def test_study_for_people_says_what_to_watch(self):
        _, out, _ = run("study", self.file("bar 1\nsnare flam 1\nbar 2 as 1"))
        self.assertIn("quay: 2 bars, 2 played, 0:08", out)
        self.assertIn("bar 1: 1 (&) (2) (&) (3) (&) (4) (&)", out)
        self.assertIn("watch: flams", out)
        self.assertIn("bar 2: is 1 again", out)

    def test_wrong_input_is_one_line_and_exit_code_2(self):
        code, out, err = run("study", self.file("bar 4\nsnare 9"), "--json")
        self.assertEqual((code, out), (2, ""))
        self.assertEqual(
            err, "wren: line 2, bar 4: '9' lies outside the bar; in 4/4 it counts from 1 to 4\n"
        )

    def test_a_file_that_is_not_there_is_told_by_name(self):
        code, _, err = run("study", "nowhere.wren")
        self.assertEqual(code, 2)
        self.assertIn("nowhere.wren", err)

    def test_repeats_after_a_jump_are_asked_for(self):
        text = (
            "bar 1\nkick 1\nrepeat end 2\nbar 2\nkick 2\nfine\nbar 3\nkick 3\njump D.C. al Fine"
        )
        file = self.file(text)
        played = json.loads(run("study", file, "--json")[1])["play_order"]
        self.assertEqual(played, ["1", "1", "2", "3", "1", "2"])
        again = json.loads(run("study", file, "--json", "--repeats-after-jump")[1])
        self.assertEqual(again["play_order"], ["1", "1", "2", "3", "1", "1", "2"])

    def test_convert_goes_round_every_format_and_keeps_the_music(self):
        source = self.file("title Quay\nbar 1\nhat 8ths\nsnare flam 2, accent 4\nkick 1 3")
        folder = Path(source).parent
        for ending in ("musicxml", "mxl", "mid", "mei"):
            code, _, err = run("convert", source, str(folder / f"quay.{ending}"))
            self.assertEqual((code, err), (0, ""))
        self.assertIn("<mei", (folder / "quay.mei").read_text())
        for ending in ("musicxml", "mxl", "mid"):
            back = folder / f"{ending}.wren"
            self.assertEqual(run("convert", str(folder / f"quay.{ending}"), str(back))[0], 0)
            self.assertIn("snare flam 2, accent 4", back.read_text())
            self.assertIn("hat 8ths", back.read_text())

    def test_convert_into_an_unknown_ending_says_which_there_are(self):
        source = self.file("kick 1")
        code, _, err = run("convert", source, source.replace(".wren", ".doc"))
        self.assertEqual(code, 2)
        self.assertIn("'.doc' is not written; use .wren, .musicxml", err)

    def test_ladder_prints_its_rungs_on_one_line(self):
        self.assertEqual(run("ladder", "70", "90")[1], "70 75 80 85 90\n")
        self.assertEqual(run("ladder", "90", "70")[0], 2)

    def test_a_taken_port_gives_the_next(self):
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            wanted = taken.getsockname()[1]
            with contextlib.redirect_stdout(io.StringIO()) as out:
                found = cli._free_port(wanted)
        self.assertGreater(found, wanted)
        self.assertIn(f"port {wanted} is taken, trying the next", out.getvalue())
