"""A database and a studio file of every earlier state open with equal figures.

Each was made by that state's own code (``tests/fixtures/landed``, named by its day): one
student, one piece, six tries at three steps.
"""

import io
import json
import sqlite3
import tempfile
import unittest
from contextlib import closing
from pathlib import Path

from django.urls import reverse

from tests.studio.base import StudioTest
from tests.studio.test_old_databases import FIXTURES, opened
from wren_ladder.studio.climb.models import Attempt, StepStanding
from wren_ladder.studio.exchange.studio_file import TABLES, name_of, studio_lines

LANDED = FIXTURES / "landed"
HELD = {"Bar 1": 95, "Bar 4": 90, "Bars 3 to 4": 90}
# Every page is opened of the oldest, and of the last before the bin knew whose its rows are; of
# all the figures are read.
BEFORE_WHOSE = "2026-11-26-1354"
PAGES_OF = ("2026-11-23-1959", BEFORE_WHOSE)


class Databases(unittest.TestCase):
    def test_each_opens_with_the_same_held_tempos_and_every_try(self):
        dumps = sorted(LANDED.glob("*.sql"))
        self.assertGreater(len(dumps), 8)
        for dump in dumps:
            with self.subTest(dump.stem), tempfile.TemporaryDirectory() as folder:
                with closing(sqlite3.connect(Path(folder) / "studio.sqlite3")) as database:
                    database.executescript(dump.read_text())
                found = opened(folder, pages=dump.stem in PAGES_OF)
                self.assertEqual(dict(found["standing"]), HELD)
                self.assertEqual(found["rows"]["Attempt"], 6)
                self.assertEqual(found["rows"]["Student"], 1)
                self.assertEqual(set(found["pages"].values()), {200}, found["pages"])
                if dump.stem == BEFORE_WHOSE:
                    self.assertEqual(len(found["binned"]), 2)
                    for what, students in found["binned"]:
                        self.assertEqual(students, found["students"], what)


class StudioFiles(StudioTest):
    def restored(self, path: Path) -> None:
        with path.open("rb") as file:
            sent = {"file": file, "replace": "on"}
            answer = self.client.post(reverse("studio-in"), sent, follow=True)
        self.assertEqual(answer.status_code, 200)

    def exported(self) -> dict:
        return json.loads("".join(studio_lines(self.teacher)))["tables"]

    def test_each_is_taken_in_with_the_same_held_tempos_and_every_try(self):
        files = sorted(LANDED.glob("*.json"))
        self.assertGreater(len(files), 4)
        for path in files:
            with self.subTest(path.stem):
                self.restored(path)
                held = StepStanding.objects.filter(held__isnull=False)
                self.assertEqual(dict(held.values_list("step__name", "held")), HELD)
                self.assertEqual(Attempt.objects.count(), 6)

    def test_looked_over_first_it_says_what_would_be_and_changes_nothing(self):
        path = sorted(LANDED.glob("*.json"))[-1]
        before = self.exported()
        with path.open("rb") as file:
            page = self.client.post(reverse("studio-in"), {"file": file, "look": "yes"})
        self.assertContains(page, "It can be taken in. Nothing was changed.")
        told = {what: (now, then) for what, now, then in page.context["looked"]}
        self.assertEqual((told["tries"], told["students"]), ((0, 6), (0, 1)))
        self.assertEqual(self.exported(), before)
        wrong = io.BytesIO(path.read_bytes().replace(b'"tempo": 95', b'"tempo": 9500'))
        wrong.name = "wrong.json"
        page = self.client.post(reverse("studio-in"), {"file": wrong, "look": "yes"})
        self.assertContains(page, "Nothing was changed. attempt, row", status_code=422)

    def test_restored_it_is_what_was_exported_table_by_table(self):
        self.restored(sorted(LANDED.glob("*.json"))[-1])
        first = self.exported()
        path = Path(tempfile.mkdtemp()) / "again.json"
        path.write_text("".join(studio_lines(self.teacher)))
        self.restored(path)
        again = self.exported()
        for model, _ in TABLES:
            name = name_of(model)
            with self.subTest(name):
                self.assertEqual(self.plain(first, name), self.plain(again, name))

    def plain(self, tables: dict, name: str) -> list[dict]:
        """Rows without the numbers that another studio gives them."""
        numbers = ("id", "bars", *(model._meta.model_name for model, _ in TABLES))
        numbers += ("first", "last", "held_by", "drills_of")
        return [
            {field: value for field, value in row.items() if field not in numbers}
            for row in tables[name]
        ]
