"""The oldest database and the oldest studio file that open: the demo of the main of 26 November
2026, loaded by that version's own code and used by it (tries logged, five things deleted).

Its dump and its export lie packed in ``tests/fixtures``.
"""

import gzip
import io
import json
import os
import re
import sqlite3
import subprocess
import sys
import tempfile
import unittest
from contextlib import closing
from pathlib import Path

from django.db import connection
from django.urls import reverse

from tests.studio.base import StudioTest
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.exchange.studio_file import (
    TABLES,
    name_of,
    read_studio_file,
    restore,
    studio_lines,
)

ROOT = Path(__file__).resolve().parents[2]
DUMP = ROOT / "tests/fixtures/oldest_studio.sql.gz"
FILE = ROOT / "tests/fixtures/oldest_studio.json.gz"
STUDIO = {**os.environ, "DJANGO_SETTINGS_MODULE": "wren_ladder.studio.settings"}
TABLE_OF = {
    "Student": "students_student",
    "Piece": "pieces_piece",
    "Plan": "plans_plan",
    "Step": "plans_step",
    "Attempt": "climb_attempt",
    "Take": "climb_take",
    "HomeMinutes": "climb_homeminutes",
    "Lesson": "lessons_lesson",
}


def lay_down(folder: str) -> Path:
    database = Path(folder) / "studio.sqlite3"
    with closing(sqlite3.connect(database)) as opened:
        opened.executescript(gzip.decompress(DUMP.read_bytes()).decode())
    return database


def asked(database: Path, question: str) -> list[tuple]:
    with closing(sqlite3.connect(database)) as opened:
        return opened.execute(question).fetchall()


def started(folder: str, *command: str) -> subprocess.CompletedProcess:
    """A process of the real studio on the data of a folder."""
    return subprocess.run(
        [sys.executable, *command],
        env={**STUDIO, "WREN_DATA": folder},
        cwd=ROOT,
        capture_output=True,
        text=True,
    )


def shape_of(opened: sqlite3.Connection) -> dict[str, object]:
    """Tables by their columns, references and conditions, in whatever order they were added;
    indexes as they are written."""
    found: dict[str, object] = {}
    names = "SELECT type, name, sql FROM sqlite_master WHERE sql IS NOT NULL"
    for kind, name, sql in opened.execute(names).fetchall():
        if kind != "table" or name.startswith("sqlite_"):
            found[name] = re.sub(r"\s+", " ", sql)
            continue
        columns = opened.execute(f'PRAGMA table_info("{name}")').fetchall()
        references = opened.execute(f'PRAGMA foreign_key_list("{name}")').fetchall()
        found[name] = (
            sorted(map(str, (one[1:] for one in columns))),
            sorted(map(str, (one[2:] for one in references))),
            sorted(re.findall(r'CHECK \((?:[^()]|\([^()]*\))*\)|CONSTRAINT "\w+"', sql)),
        )
    return found


class Database(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.database = lay_down(folder.name)
        cls.rows = {
            model: asked(cls.database, f"SELECT COUNT(*) FROM {table}")[0][0]
            for model, table in TABLE_OF.items()
        }
        cls.held = dict(asked(cls.database, "SELECT step_id, held FROM climb_stepstanding"))
        done = started(folder.name, "-m", "tests.studio.open_database")
        if done.returncode:
            raise AssertionError(done.stderr[-2000:])
        cls.found = json.loads(done.stdout.splitlines()[-1])

    def test_everything_is_there_and_pages_open(self):
        self.assertEqual(self.found["rows"], self.rows)
        self.assertGreater(self.rows["Attempt"], 9000)
        self.assertEqual(set(self.found["pages"].values()), {200}, self.found["pages"])
        self.assertGreater(len(self.found["pages"]), 20)

    def test_nobody_holds_another_tempo_without_being_told(self):
        """Rules of earning changed since; whose rungs changed by it is noted for the Desk."""
        told = {step: (before, after) for step, before, after in self.found["changed"]}
        now = dict(self.found["held"])
        self.assertGreater(len(told), 10)
        for step, held in now.items():
            before = self.held[step]
            self.assertEqual((before, held), told.get(step, (before, before)), step)
        self.assertGreater(sum(held is not None for held in now.values()), 50)

    def test_the_bin_knows_whose_its_things_are_and_gives_them_back(self):
        whose = dict(self.found["binned"])
        (record,) = [what for what in whose if what.startswith("the record of lesson")]
        self.assertEqual(whose[record], [self.found["students"]["Ines Okafor"]])
        self.assertEqual(self.found["left_out"], [""] * 5)
        before, after = self.found["rows"], self.found["with_binned"]
        for model in ("Piece", "Plan", "Attempt", "HomeMinutes", "Lesson"):
            self.assertEqual(after[model] - before[model], 1, model)

    def test_its_tables_are_those_of_a_studio_begun_today(self):
        if connection.vendor != "sqlite":
            self.skipTest("an SQLite file's tables")
        with closing(sqlite3.connect(self.database)) as opened:
            upgraded = shape_of(opened)
        connection.ensure_connection()
        self.assertEqual(upgraded, shape_of(connection.connection))


class TooOld(unittest.TestCase):
    def test_it_is_refused_with_what_to_do_and_left_as_it_was(self):
        with tempfile.TemporaryDirectory() as folder:
            database = lay_down(folder)
            with closing(sqlite3.connect(database)) as opened, opened:
                opened.execute(
                    "DELETE FROM django_migrations WHERE name = '0011_snapshots_packed'"
                )
            before = asked(database, "SELECT * FROM django_migrations")
            done = started(folder, "-m", "wren_ladder.cli", "serve", "--port", "8799")
            self.assertEqual(done.returncode, 1)
            self.assertIn("from before 26 November 2026. Nothing was changed", done.stderr)
            self.assertEqual(asked(database, "SELECT * FROM django_migrations"), before)


class StudioFile(StudioTest):
    def sent(self, data: bytes, **asked: str):
        file = io.BytesIO(data)
        file.name = "studio.json"
        return self.client.post(reverse("studio-in"), {"file": file, **asked}, follow=True)

    def exported(self) -> dict:
        return json.loads("".join(studio_lines(self.teacher)))["tables"]

    def test_looked_over_first_it_says_what_would_be_and_changes_nothing(self):
        data = gzip.decompress(FILE.read_bytes())
        tables, before = json.loads(data)["tables"], self.exported()
        page = self.sent(data, look="yes")
        self.assertContains(page, "It can be taken in. Nothing was changed.")
        told = {what: (now, then) for what, now, then in page.context["looked"]}
        self.assertEqual(told["tries"], (0, len(tables["attempt"])))
        self.assertEqual(told["students"], (0, len(tables["student"])))
        self.assertEqual(self.exported(), before)
        wrong = data.replace(b'"tempo": 95', b'"tempo": 9500', 1)
        page = self.sent(wrong, look="yes")
        self.assertContains(page, "Nothing was changed. ", status_code=422)
        self.assertContains(page, "row", status_code=422)

    def test_taken_in_and_written_again_it_is_the_same_table_by_table(self):
        data = gzip.decompress(FILE.read_bytes())
        self.assertEqual(self.sent(data, replace="on").status_code, 200)
        written = json.loads(data)["tables"]
        first = self.exported()
        self.assertEqual(len(first["attempt"]), len(written["attempt"]))
        self.assertEqual(Attempt.objects.count(), len(written["attempt"]))
        restore(read_studio_file("".join(studio_lines(self.teacher)).encode()), self.teacher)
        again = self.exported()
        for model, _ in TABLES:
            name = name_of(model)
            with self.subTest(name):
                self.assertEqual(self.plain(first, name), self.plain(again, name))

    def plain(self, tables: dict, name: str) -> list[dict]:
        """Rows without the numbers that another studio gives them."""
        numbers = ("id", "bars", *(model._meta.model_name for model, _ in TABLES))
        numbers += ("bar", "first", "last", "held_by", "was_set")
        return [
            {field: value for field, value in row.items() if field not in numbers}
            for row in tables[name]
        ]
