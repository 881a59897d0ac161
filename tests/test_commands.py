"""The commands of ./wren that need no web."""

import contextlib
import io
import json
import socket
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from wren_ladder import cli


def run(*arguments: str) -> tuple[int, str, str]:
    out, err = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        code = cli.main(list(arguments))
    return code, out.getvalue(), err.getvalue()


def run_to_its_end(*arguments: str) -> tuple[int, str, str]:
    """As ``run``, where the parser itself ends the program."""
    out, err = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        try:
            code = cli.main(list(arguments))
        except SystemExit as ended:
            code = ended.code
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

    def test_whatever_is_wrong_is_one_line_and_exit_code_2(self):
        folder = Path(tempfile.mkdtemp())
        noise = bytes(range(256)) * 8
        for ending in ("mxl", "mid", "musicxml", "wren"):
            (folder / f"bad.{ending}").write_bytes(noise)
        typed, out = self.file("bar 1\nhat 8ths"), str(folder / "out.mid")
        for arguments in (
            *(("convert", str(folder / f"bad.{ending}"), out)
              for ending in ("mxl", "mid", "musicxml", "wren")),
            ("convert", typed, str(folder)),
            ("study", typed, "--part", "Drums"),
            ("serve", "--port", "99999"), ("serve", "--port", "0"), ("demo", "--port", "x"),
            ("fuzz", "x"), ("fuzz", "-1"), ("ladder", "a", "b"), ("no-such-command",), (),
        ):  # fmt: skip
            with self.subTest(arguments):
                code, _, err = run_to_its_end(*arguments)
                self.assertEqual(code, 2)
                self.assertRegex(err, r"\Awren: [^\n]+\n\Z")
        self.assertIn("no parts to choose from", run("study", typed, "--part", "Drums")[2])
        self.assertIn("1 to 65535", run_to_its_end("serve", "--port", "99999")[2])

    def test_a_reader_that_fails_is_told_in_one_line(self):
        with mock.patch.object(cli, "read_file", side_effect=KeyError("1024")):
            code, _, err = run("convert", self.file("bar 1"), "out.mid")
        said = "wren: the file makes the reader fail (KeyError: '1024')\n"
        self.assertEqual((code, err), (2, said))

    def test_every_command_stands_in_the_help(self):
        launcher = (Path(cli.HERE) / "wren").read_text()
        (commands,) = (one for one in cli._parser()._actions if one.choices)
        for name in commands.choices:
            self.assertIn(f"\n  {name} ", launcher)

    def test_damaged_inputs_are_counted(self):
        code, out, _ = run_to_its_end("fuzz", "12")
        self.assertEqual(code, 0)
        self.assertIn("12 inputs in", out)

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
