"""Backups, restoring, looking over, starting: each broken on purpose."""

import gzip
import json
import os
import sqlite3
import subprocess
import sys
import tempfile
import threading
import unittest
import zipfile
from contextlib import closing
from datetime import date, datetime, timedelta
from pathlib import Path

from django.db import connection
from django.test import TransactionTestCase
from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student, make_teacher
from wren_ladder.studio.climb.models import Attempt, StepStanding
from wren_ladder.studio.keeping.backup import (
    DATABASE,
    LAST,
    NOTE,
    BackupError,
    Place,
    back_up,
    backup_is_old,
    backups_in,
    bring_back,
    last_backup,
    problems_of,
    remember,
)
from wren_ladder.studio.keeping.look_over import looked_over

ROOT = Path(__file__).resolve().parents[2]
STUDIO = gzip.decompress((ROOT / "tests/fixtures/oldest_studio.sql.gz").read_bytes()).decode()
NOW = datetime(2026, 3, 14, 21, 5, 7)


def rows_of(database: Path) -> dict[str, list]:
    with closing(sqlite3.connect(database)) as opened:
        tables = [
            name
            for (name,) in opened.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
        ]
        return {name: opened.execute(f'SELECT * FROM "{name}"').fetchall() for name in tables}


class KeepingTest(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.place = self.made(self.folder / "data")
        self.to = self.folder / "backups"

    def made(self, data: Path) -> Place:
        data.mkdir()
        place = Place(data / "studio.sqlite3", data / "recordings", data)
        with closing(sqlite3.connect(place.database)) as database:
            database.executescript(STUDIO)
            database.execute("PRAGMA journal_mode=WAL")
        (place.recordings / "ab").mkdir(parents=True)
        (place.recordings / "ab" / "song.wav").write_bytes(os.urandom(5000))
        place.key.write_text("k" * 48)
        return place

    def empty(self) -> Place:
        data = self.folder / "other"
        return Place(data / "studio.sqlite3", data / "recordings", data)


class Backup(KeepingTest):
    def test_what_is_brought_back_equals_what_was_backed_up(self):
        made = back_up(self.place, self.to, NOW)
        self.assertEqual(made.name, "wren-2026-03-14-210507.zip")
        self.assertIsNone(last_backup(self.place.data))
        remember(self.place, made, NOW)
        self.assertEqual(last_backup(self.place.data), NOW)
        other = self.empty()
        self.assertIsNone(bring_back(other, made, NOW))
        self.assertEqual(rows_of(other.database), rows_of(self.place.database))
        sound = Path("ab/song.wav")
        self.assertEqual(
            (other.recordings / sound).read_bytes(),
            (self.place.recordings / sound).read_bytes(),
        )
        self.assertEqual(other.key.read_text(), "k" * 48)

    def test_while_somebody_writes_it_is_whole(self):
        """A hundred rows that belong together, written again and again: all or none."""
        stop = threading.Event()
        with closing(sqlite3.connect(self.place.database)) as first:
            first.execute("CREATE TABLE pairs (n INTEGER)")

        def write():
            with closing(sqlite3.connect(self.place.database, timeout=30)) as database:
                while not stop.is_set():
                    with database:
                        database.executemany("INSERT INTO pairs VALUES (?)", [(1,)] * 100)
                    stop.wait(0.002)

        writer = threading.Thread(target=write)
        writer.start()
        try:
            for second in range(5):
                made = back_up(self.place, self.to, NOW + timedelta(seconds=second))
                other = self.folder / f"copy{second}"
                with zipfile.ZipFile(made) as packed:
                    packed.extract(DATABASE, other)
                self.assertEqual(len(rows_of(other / DATABASE)["pairs"]) % 100, 0)
        finally:
            stop.set()
            writer.join()

    def test_only_the_newest_stay(self):
        for day in range(5):
            back_up(self.place, self.to, NOW + timedelta(days=day), keep=3)
        stays = [one.name[5:15] for one in backups_in(self.to)]
        self.assertEqual(stays, ["2026-03-16", "2026-03-17", "2026-03-18"])
        self.assertEqual([one for one in self.to.iterdir() if one.suffix != ".zip"], [])

    def test_a_damaged_database_is_not_backed_up_over_a_good_backup(self):
        back_up(self.place, self.to, NOW)
        damage(self.place.database)
        with self.assertRaisesRegex(BackupError, "damaged|copied"):
            back_up(self.place, self.to, NOW + timedelta(days=1), keep=1)
        self.assertEqual(len(backups_in(self.to)), 1)

    def test_no_studio_and_no_room_are_told(self):
        with self.assertRaisesRegex(BackupError, "there is no studio at"):
            back_up(self.empty(), self.to, NOW)
        file = self.folder / "a file"
        file.touch()
        with self.assertRaises(OSError):
            back_up(self.place, file, NOW)

    def test_past_a_week_it_is_old(self):
        self.assertTrue(backup_is_old(None, NOW.date()))
        self.assertFalse(backup_is_old(NOW, NOW.date() + timedelta(days=7)))
        self.assertTrue(backup_is_old(NOW, NOW.date() + timedelta(days=8)))


class Restore(KeepingTest):
    def test_what_was_there_lies_beside_it(self):
        made = back_up(self.place, self.to, NOW)
        with closing(sqlite3.connect(self.place.database)) as database, database:
            database.execute("UPDATE students_student SET name = 'Later ' || id")
        later = rows_of(self.place.database)
        aside = bring_back(self.place, made, NOW)
        self.assertEqual(rows_of(aside / "studio.sqlite3"), later)
        self.assertTrue((aside / "recordings/ab/song.wav").exists())
        names = {row[1] for row in rows_of(self.place.database)["students_student"]}
        self.assertFalse([name for name in names if name.startswith("Later")])

    def refused(self, file: Path, said: str) -> None:
        before = rows_of(self.place.database)
        with self.assertRaisesRegex(BackupError, said):
            bring_back(self.place, file, NOW)
        self.assertEqual(rows_of(self.place.database), before)
        self.assertTrue((self.place.recordings / "ab/song.wav").exists())

    def test_what_is_no_backup(self):
        nothing = self.folder / "x.zip"
        nothing.write_bytes(b"PK no zip at all")
        self.refused(nothing, "is no backup")
        with zipfile.ZipFile(nothing, "w") as packed:
            packed.writestr("readme", "hello")
        self.refused(nothing, "is no backup of Wren Ladder")

    def test_a_damaged_one_wherever_a_byte_is_wrong(self):
        made = back_up(self.place, self.to, NOW)
        whole = made.read_bytes()
        for at in (len(whole) // 3, len(whole) // 2, len(whole) - 30):
            broken = self.folder / "broken.zip"
            broken.write_bytes(whole[:at] + bytes([whole[at] ^ 0xFF]) + whole[at + 1 :])
            try:
                with zipfile.ZipFile(broken) as packed:
                    sound = packed.testzip() is None and NOTE in packed.namelist()
            except (zipfile.BadZipFile, OSError):
                sound = False
            with self.subTest(at):
                if not sound:
                    self.refused(broken, "broken.zip")
        cut = self.folder / "cut.zip"
        cut.write_bytes(whole[: len(whole) // 2])
        self.refused(cut, "is no backup")

    def packed(self, database: Path) -> Path:
        file = self.folder / "made.zip"
        with zipfile.ZipFile(file, "w") as packed:
            packed.writestr(NOTE, json.dumps({"kind": "wren-ladder backup"}))
            packed.write(database, DATABASE)
        return file

    def test_a_damaged_database_in_a_sound_file(self):
        other = self.made(self.folder / "third")
        with closing(sqlite3.connect(other.database)) as database:
            database.execute("PRAGMA journal_mode=DELETE")
        damage(other.database)
        self.refused(self.packed(other.database), "is not fit")

    def test_one_of_a_newer_version_and_one_of_something_else(self):
        other = self.made(self.folder / "third")
        with closing(sqlite3.connect(other.database)) as database:
            with database:
                database.execute(
                    "INSERT INTO django_migrations (app, name, applied) "
                    "VALUES ('climb', '9999_the_future', '2030-01-01')"
                )
            database.execute("PRAGMA journal_mode=DELETE")
        self.refused(self.packed(other.database), "newer Wren Ladder .climb.9999_the_future")
        strange = self.folder / "strange.sqlite3"
        with closing(sqlite3.connect(strange)) as database:
            database.execute("CREATE TABLE x (n)")
        self.refused(self.packed(strange), "it holds no studio")

    def test_names_that_lead_out_of_the_folder_are_left_alone(self):
        made = back_up(self.place, self.to, NOW)
        with zipfile.ZipFile(made, "a") as packed:
            packed.writestr("../../outside", "x")
            packed.writestr("recordings/../../../outside", "x")
        bring_back(self.place, made, NOW)
        self.assertEqual(list(self.folder.glob("**/outside"))[1:], [])
        self.assertFalse((self.folder / "outside").exists())


def damage(database: Path) -> None:
    """The middle of the file overwritten, its log taken in before."""
    with closing(sqlite3.connect(database)) as opened:
        opened.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    data = bytearray(database.read_bytes())
    middle = len(data) // 2 // 4096 * 4096
    data[middle : middle + 40_960] = os.urandom(40_960)
    database.write_bytes(data)


class Commands(KeepingTest):
    def run_wren(self, *arguments: object, data: Path | None = None):
        return subprocess.run(
            [sys.executable, "-m", "wren_ladder.cli", *map(str, arguments)],
            env={
                **os.environ,
                "WREN_DATA": str(data or self.place.data),
                "DJANGO_SETTINGS_MODULE": "wren_ladder.studio.settings",
            },
            cwd=ROOT,
            capture_output=True,
            text=True,
        )

    def test_backed_up_restored_and_looked_over(self):
        done = self.run_wren("backup", self.to, "--keep", 2)
        self.assertEqual(done.returncode, 0, done.stderr)
        (made,) = backups_in(self.to)
        other = self.empty()
        done = self.run_wren("restore", made, data=other.data)
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertIn("restored from", done.stdout)
        done = self.run_wren("check", data=other.data)
        self.assertIn("good  database: sound", done.stdout)
        self.assertIn("WRONG backup: none is known of", done.stdout)
        self.assertEqual(done.returncode, 1)

    def test_what_goes_wrong_is_a_line_and_a_number(self):
        for arguments, said in (
            (("backup", self.to, "--keep", "0"), "a number from 1 on is wanted"),
            (("restore", self.folder / "nowhere.zip"), "nowhere.zip"),
        ):
            done = self.run_wren(*arguments)
            self.assertNotEqual(done.returncode, 0)
            self.assertIn(said, done.stderr)
            self.assertNotIn("Traceback", done.stderr)

    READY = (
        "import django; django.setup();"
        "from wren_ladder.studio.keeping.starting import StartError, made_ready\n"
        "try: made_ready(print)\n"
        "except StartError as error: print('NOT', error)\n"
        "else: print('READY')"
    )

    def start(self, data: Path) -> subprocess.Popen:
        return subprocess.Popen(
            [sys.executable, "-c", self.READY],
            env={
                **os.environ,
                "WREN_DATA": str(data),
                "DJANGO_SETTINGS_MODULE": "wren_ladder.studio.settings",
            },
            cwd=ROOT,
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            text=True,
        )

    def test_four_first_starts_at_once_in_an_empty_folder_all_live(self):
        data = self.folder / "new"
        data.mkdir()
        started = [self.start(data) for _ in range(4)]
        for one in started:
            out, errors = one.communicate(timeout=120)
            self.assertIn("READY", out, errors[-800:])
        self.assertEqual(len((data / "secret-key").read_text()), 64)
        self.assertEqual(list(data.glob(".secret-key-*")), [])

    def test_an_empty_folder_that_was_named_is_told_before_a_studio_is_begun(self):
        data = self.folder / "mounted"
        data.mkdir()
        done = self.run_wren("serve", data=data)
        self.assertEqual(done.returncode, 1)
        self.assertIn("is its disk in its place?", done.stderr)
        self.assertIn("./wren serve --new", done.stderr)
        self.assertFalse((data / "studio.sqlite3").exists())

    def test_a_folder_that_lost_its_database_is_told_with_new_too(self):
        data = self.folder / "half"
        (data / "backups").mkdir(parents=True)
        out, errors = self.start(data).communicate(timeout=120)
        self.assertIn("NOT", out, errors[-800:])
        self.assertIn("holds backups, but no studio.sqlite3", out)
        self.assertFalse((data / "studio.sqlite3").exists())

    def test_before_an_upgrade_there_is_a_backup(self):
        out, errors = self.start(self.place.data).communicate(timeout=120)
        self.assertIn("a backup before the upgrade", out, errors[-800:])
        (made,) = backups_in(self.place.data / "backups")
        with zipfile.ZipFile(made) as packed:
            packed.extract(DATABASE, self.folder / "old")
        self.assertIn("strokes", str(_columns(self.folder / "old" / DATABASE)))
        self.assertNotIn("key", _columns(self.folder / "old" / DATABASE))
        out, _ = self.start(self.place.data).communicate(timeout=120)
        self.assertNotIn("backup", out)  # nothing to upgrade any more

    def test_a_damaged_database_does_not_start_and_says_what_to_do(self):
        damage(self.place.database)
        before = self.place.database.read_bytes()
        out, errors = self.start(self.place.data).communicate(timeout=120)
        self.assertIn("NOT", out, errors[-800:])
        self.assertIn("./wren restore FILE", out)
        self.assertEqual(self.place.database.read_bytes(), before)


def _columns(database: Path) -> list[str]:
    with closing(sqlite3.connect(database)) as opened:
        return [row[1] for row in opened.execute("PRAGMA table_info(climb_take)")]


class LookedOver(StudioTest):
    def findings(self, today=None) -> list[str]:
        data = Path(tempfile.mkdtemp())
        self.addCleanup(lambda: [one.unlink() for one in data.iterdir()] and None)
        database = data / "studio.sqlite3"
        with closing(sqlite3.connect(database)) as opened:
            opened.executescript(STUDIO)
        (data / LAST).write_text(json.dumps({"at": datetime.now().isoformat()}))
        place = Place(database, data / "recordings", data)
        found = looked_over(place, today or date.today())
        return [one.what for one in found if one.is_wrong]

    def test_a_studio_in_order(self):
        make_plan(make_piece(self.teacher), make_student(self.teacher))
        self.assertEqual(self.findings(), [])

    def test_standings_that_did_not_follow_are_found_and_mended(self):
        plan = make_plan(make_piece(self.teacher), make_student(self.teacher))
        log(plan.steps.first(), 90)
        StepStanding.objects.filter(step=plan.steps.first()).update(held=250)
        (said,) = self.findings()
        self.assertIn("did not follow the log", said)
        self.assertEqual(self.findings(), [])

    def test_a_clock_that_went_back_and_a_bar_that_cannot_be_read(self):
        piece = make_piece(self.teacher)
        plan = make_plan(piece, make_student(self.teacher))
        log(plan.steps.first(), 90)
        (said,) = self.findings(today=date.today() - timedelta(days=400))
        self.assertIn("is before the newest entry", said)
        self.assertIn("it holds no studio", problems_of(Path(tempfile.mkstemp()[1])))


class Faults(TransactionTestCase):
    """The database cannot: a page says so, and nothing is lost."""

    def setUp(self):
        self.teacher = make_teacher()
        self.client.force_login(self.teacher)
        self.step = make_plan(
            make_piece(self.teacher), make_student(self.teacher)
        ).steps.first()

    def post(self):
        sent = {"tempo": 90, "passes": 8, "clean_try": "yes"}
        return self.client.post(reverse("step-log", args=[self.step.pk]), sent)

    def pragma(self, text: str) -> object:
        with connection.cursor() as cursor:
            cursor.execute(f"PRAGMA {text}")
            return cursor.fetchone()

    def told(self, said: str) -> None:
        answer = self.post()
        self.assertContains(answer, said, status_code=503)
        self.assertContains(answer, "Nothing was changed", status_code=503)
        self.assertEqual(answer["Retry-After"], "5")
        self.assertEqual(Attempt.objects.count(), 0)

    def test_another_writer(self):
        self.pragma("busy_timeout = 50")
        with closing(sqlite3.connect(connection.settings_dict["NAME"])) as other:
            other.execute("BEGIN IMMEDIATE")
            self.told("The studio is busy")
            other.rollback()
        self.post()
        self.assertEqual(Attempt.objects.count(), 1)

    def test_a_full_disk(self):
        with connection.cursor() as cursor:
            cursor.execute("VACUUM")  # room that other tests left would be filled first
        (pages,) = self.pragma("page_count")
        self.pragma(f"max_page_count = {pages}")
        self.addCleanup(self.pragma, "max_page_count = 1073741823")
        for _ in range(300):
            answer = self.post()
            if answer.status_code == 503:
                break
        self.assertContains(answer, "The disk is full", status_code=503)
        kept = Attempt.objects.count()
        self.pragma("max_page_count = 1073741823")
        self.post()
        self.assertEqual(Attempt.objects.count(), kept + 1)

    def test_a_database_that_can_only_be_read(self):
        self.pragma("query_only = 1")
        self.addCleanup(self.pragma, "query_only = 0")
        self.told("The studio cannot write")
