"""The whole studio in one file, made while it runs, and back again.

A backup is a zip: the database as SQLite's own backup interface copies it, the recordings, the
key that private links are signed with, and a note of when and what. It is looked over before it
has its name, so a file of that name is a good one.
"""

import json
import os
import shutil
import sqlite3
import tempfile
import zipfile
from contextlib import closing
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from pathlib import Path, PurePosixPath

DATABASE, NOTE, KEY, RECORDINGS = "studio.sqlite3", "backup.json", "secret-key", "recordings"
STAMP = "%Y-%m-%d-%H%M%S"
KIND = "wren-ladder backup"
LAST = "last-backup.json"  # beside the data: when and where the last one was made
BUSY = 30  # seconds that a copy waits for another writer
A_WEEK = timedelta(days=7)
LARGEST = 64 << 30  # bytes that a backup may unpack to


class BackupError(Exception):
    """Why there is no backup, or why one is not fit, in words."""


@dataclass(frozen=True, slots=True)
class Place:
    """Where a studio's data lie."""

    database: Path
    recordings: Path
    data: Path

    @property
    def key(self) -> Path:
        return self.data / KEY


def back_up(place: Place, to: Path, now: datetime, keep: int | None = None) -> Path:
    """Make one in the folder ``to``; of all that lie there only the newest ``keep`` stay.
    BackupError or OSError where it cannot be made, and then there is no file of its name."""
    if not place.database.exists():
        raise BackupError(f"there is no studio at {place.database}")
    to.mkdir(parents=True, exist_ok=True)
    made = to / f"wren-{now.strftime(STAMP)}.zip"
    with tempfile.TemporaryDirectory(dir=to, prefix=".wren-") as folder:
        copy = Path(folder) / DATABASE
        copy_database(place.database, copy)
        problems = problems_of(copy)
        if problems:
            raise BackupError(f"the database is damaged: {problems[0]}")
        unfinished = Path(folder) / "backup.zip"
        _pack(place, copy, unfinished, now)
        _look_over(unfinished)
        unfinished.chmod(0o600)  # it holds the key, and children's data
        unfinished.replace(made)
    if keep is not None:
        for old in backups_in(to)[:-keep]:
            old.unlink()
    return made


def remember(place: Place, made: Path, now: datetime) -> None:
    """For the page that says when the last one was made: not one on the studio's own disk that
    an upgrade made."""
    (place.data / LAST).write_text(json.dumps({"at": now.isoformat(), "file": str(made)}))


def backups_in(folder: Path) -> list[Path]:
    """The oldest first."""
    return sorted(folder.glob("wren-????-??-??-??????.zip"))


def last_backup(data: Path) -> datetime | None:
    """When the last one was made, None where none is known of."""
    try:
        return datetime.fromisoformat(json.loads((data / LAST).read_text())["at"])
    except (OSError, ValueError, KeyError, TypeError):
        return None


def last_backup_file(data: Path) -> Path | None:
    try:
        return Path(json.loads((data / LAST).read_text())["file"])
    except (OSError, ValueError, KeyError, TypeError):
        return None


def backup_is_old(made: datetime | None, today: date) -> bool:
    """Past a week, or never."""
    return made is None or today - made.date() > A_WEEK


def copy_database(source: Path, target: Path) -> None:
    """By SQLite's backup interface: a whole copy, whatever is written meanwhile; nobody who
    writes waits for it, for the database keeps a log of writes (WAL)."""
    reading = sqlite3.connect(f"file:{source}?mode=ro", uri=True, timeout=BUSY)
    writing = sqlite3.connect(target)
    try:
        reading.backup(writing)  # in one go: in steps it would begin anew after every write
        writing.execute("PRAGMA journal_mode=DELETE")
    except sqlite3.Error as error:
        raise BackupError(f"the database cannot be copied: {error}") from error
    finally:
        writing.close()
        reading.close()


def problems_of(database: Path) -> list[str]:
    """What SQLite itself finds wrong with a file."""
    try:
        with sqlite3.connect(f"file:{database}?mode=ro", uri=True) as opened:
            found = [
                said for (said,) in opened.execute("PRAGMA integrity_check") if said != "ok"
            ]
            loose = opened.execute("PRAGMA foreign_key_check").fetchall()
            tables = {name for (name,) in opened.execute("SELECT name FROM sqlite_master")}
    except sqlite3.Error as error:
        return [str(error)]
    if "django_migrations" not in tables or "students_student" not in tables:
        found.append("it holds no studio")
    found += [f"{table}, row {row} refers to nothing in {to}" for table, row, to, _ in loose]
    return found


def _pack(place: Place, copy: Path, made: Path, now: datetime) -> None:
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as packed:
        note = {"kind": KIND, "at": now.isoformat()}
        packed.writestr(NOTE, json.dumps(note))
        packed.write(copy, DATABASE)
        if place.key.exists():
            packed.write(place.key, KEY)
        for one in sorted(place.recordings.rglob("*")):
            if one.is_file():
                name = PurePosixPath(RECORDINGS, *one.relative_to(place.recordings).parts)
                packed.write(one, str(name), zipfile.ZIP_STORED)
    with made.open("rb") as written:
        os.fsync(written.fileno())


def _look_over(made: Path) -> None:
    with zipfile.ZipFile(made) as packed:
        damaged = packed.testzip()
    if damaged:
        raise BackupError(f"the backup was written wrongly at {damaged}; is the disk sound?")


def bring_back(place: Place, file: Path, now: datetime) -> Path | None:
    """Put a backup in place of the studio, which must not be running. What was there lies in a
    folder beside it, whose path is answered. BackupError where the file is not fit, and then
    nothing is changed."""
    place.data.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=place.data, prefix=".wren-") as folder:
        unpacked = Path(folder)
        _unpack(file, unpacked)
        problems = problems_of(unpacked / DATABASE)
        if problems:
            raise BackupError(f"{file.name} is not fit: {problems[0]}")
        newer = _from_the_future(unpacked / DATABASE)
        if newer:
            raise BackupError(f"{file.name} was made by a newer Wren Ladder ({newer})")
        aside = _put_aside(place, now)
        (unpacked / DATABASE).replace(place.database)
        if (unpacked / RECORDINGS).exists():
            shutil.move(unpacked / RECORDINGS, place.recordings)
        if (unpacked / KEY).exists():
            (unpacked / KEY).replace(place.key)
            place.key.chmod(0o600)
    return aside


def _unpack(file: Path, folder: Path) -> None:
    try:
        with zipfile.ZipFile(file) as packed:
            names = packed.namelist()
            if NOTE not in names or DATABASE not in names:
                raise BackupError(f"{file.name} is no backup of Wren Ladder")
            if packed.testzip():
                raise BackupError(f"{file.name} is damaged at {packed.testzip()}")
            if sum(one.file_size for one in packed.infolist()) > LARGEST:
                raise BackupError(f"{file.name} is too large")
            if json.loads(packed.read(NOTE)).get("kind") != KIND:
                raise BackupError(f"{file.name} is no backup of Wren Ladder")
            for name in names:
                if name in (DATABASE, KEY) or PurePosixPath(name).parts[0] == RECORDINGS:
                    packed.extract(name, folder)
    except (zipfile.BadZipFile, ValueError, EOFError, AttributeError) as error:
        raise BackupError(f"{file.name} is no backup, or a damaged one: {error}") from error


def _from_the_future(database: Path) -> str:
    """A migration that this version does not know, "" where there is none."""
    from django.db.migrations.loader import MigrationLoader

    migrations = MigrationLoader(None, ignore_no_migrations=True).disk_migrations
    known = {*migrations, *(old for one in migrations.values() for old in one.replaces)}
    apps = {app for app, _ in known}
    with closing(sqlite3.connect(f"file:{database}?mode=ro", uri=True)) as opened:
        rows = opened.execute("SELECT app, name FROM django_migrations").fetchall()
    newer = [f"{app}.{name}" for app, name in rows if app in apps and (app, name) not in known]
    return newer[0] if newer else ""


def _put_aside(place: Place, now: datetime) -> Path | None:
    """The studio that was there, whole: database, its log, recordings and key."""
    there = [
        place.database,
        *(place.database.with_name(place.database.name + end) for end in ("-wal", "-shm")),
        place.recordings,
        place.key,
    ]
    there = [one for one in there if one.exists()]
    if not there:
        return None
    aside = place.data / f"before-{now.strftime(STAMP)}"
    aside.mkdir()
    for one in there:
        shutil.move(one, aside / one.name)
    return aside
