"""Databases made by earlier versions open with everything in them.

The files are dumps of real ones: the first version there was, whose bars know no endings and
no marks, the last one before the apps and codes were renamed, and one whose takes are texts.
"""

import json
import os
import sqlite3
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent.parent
FIXTURES = ROOT / "tests" / "fixtures"
TABLES = {  # where things are now, and where the old versions had them
    "Student": "students_student",
    "Piece": "pieces_piece",
    "Plan": "lessons_plan",
    "Step": "lessons_step",
    "Attempt": "practice_attempt",
    "HomeMinutes": "practice_practice",
    "Lesson": "day_lesson",
}


def rows_of(database: sqlite3.Connection) -> dict[str, int]:
    found = {name for (name,) in database.execute("SELECT name FROM sqlite_master")}
    return {
        model: database.execute(f"SELECT COUNT(*) FROM {table}").fetchone()[0]
        for model, table in TABLES.items()
        if table in found
    }


def opened(folder: str, pages: bool = True) -> dict:
    """What a newly installed version finds in a database that lies in the folder."""
    done = subprocess.run(
        [sys.executable, "-m", "tests.studio.open_database", *([] if pages else ["no-pages"])],
        env={**os.environ, "WREN_DATA": folder},
        cwd=ROOT,
        capture_output=True,
        text=True,
    )
    if done.returncode:
        raise AssertionError(done.stderr[-2000:])
    return json.loads(done.stdout.splitlines()[-1])


class OldDatabases(unittest.TestCase):
    def test_everything_is_there_and_every_page_opens(self):
        for name in ("before_endings_and_marks", "before_the_rooms_were_renamed"):
            with self.subTest(name), tempfile.TemporaryDirectory() as folder:
                database = sqlite3.connect(Path(folder) / "studio.sqlite3")
                database.executescript((FIXTURES / f"studio_{name}.sql").read_text())
                before = rows_of(database)
                database.close()
                found = opened(folder)
                after = {model: found["rows"][model] for model in before}
                self.assertEqual(after, before)
                self.assertGreater(before["Attempt"], 0)
                self.assertEqual(set(found["pages"].values()), {200}, found["pages"])
                self.assertTrue(found["standing"])  # worked out anew from the old log
                self.assertLessEqual(set(found["gates"]), {"row", "tries", "days"})
                self.assertLessEqual(set(found["schools"]), {"bar", "phrase", "layer"})

    def test_takes_that_were_texts_are_kept_small_with_every_stroke(self):
        with tempfile.TemporaryDirectory() as folder:
            database = sqlite3.connect(Path(folder) / "studio.sqlite3")
            text = (FIXTURES / "studio_before_takes_were_kept_small.sql").read_text()
            database.executescript(text)
            (before,) = database.execute("SELECT strokes FROM climb_take").fetchone()
            database.close()
            found = opened(folder)
        self.assertEqual(found["takes"], [json.loads(before)])
        self.assertEqual(set(found["pages"].values()), {200}, found["pages"])
        self.assertEqual(found["rows"]["Attempt"], 1)
