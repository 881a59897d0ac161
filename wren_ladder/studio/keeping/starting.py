"""What happens before the first page: one at a time, on a sound database, with a backup before
it is changed.
"""

import fcntl
import os
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager, suppress
from pathlib import Path

from django.conf import settings
from django.core.management import call_command
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor
from django.db.migrations.loader import MigrationLoader
from django.db.migrations.recorder import MigrationRecorder
from django.utils import timezone

from wren_ladder.studio.keeping.backup import BackupError, Place, back_up
from wren_ladder.studio.keeping.catching_up import begin

BACKUPS, KEPT = "backups", 5  # beside the data, those made before an upgrade
LOCK = "starting.lock"
OLDEST = "26 November 2026"  # whose databases are brought up to date
FOLDERS = (BACKUPS, "drawings", "prints", "counters", "worked-out")


class StartError(Exception):
    """Why the studio does not start, and what to do, in words."""


def this_place() -> Place:
    database = Path(settings.DATABASES["default"]["NAME"])
    return Place(database, Path(settings.MEDIA_ROOT), settings.DATA)


@contextmanager
def alone() -> Iterator[None]:
    """Of several that start at once each waits for the one before."""
    with (settings.DATA / LOCK).open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield


def made_ready(say: Callable[[str], None], new: bool = True) -> None:
    """StartError where the database is damaged or cannot be written, or where it should be
    there and is not; ``new``: a new studio may be begun in a folder that was named."""
    with alone():
        place = this_place()
        _is_there(place, new)
        owner_alone(place)
        _is_sound(place.database)
        try:
            _is_young_enough()
            _upgrade(place, say)
        except (DatabaseError, BackupError, OSError) as error:
            raise StartError(f"the database cannot be made ready: {error}") from error


def owner_alone(place: Place) -> None:
    """Whatever lies here is readable by whoever runs the studio, and by nobody else; what an
    earlier version made too. What is not ours to change stays."""
    folders = [place.recordings, *(place.data / name for name in FOLDERS)]
    folders += place.data.glob("before-*")
    files = [*place.database.parent.glob(f"{place.database.name}*"), place.key]
    for folder in folders:
        files += folder.rglob("*")
    with suppress(OSError):
        place.data.chmod(0o700)
    for path in (*folders, *files):
        with suppress(OSError):
            path.chmod(0o700 if path.is_dir() else 0o600)


def _is_there(place: Place, new: bool) -> None:
    """Before a new studio is begun: an empty folder that was named as the studio's may be a
    disk that is not there, and one with parts of a studio has lost its database."""
    if place.database.exists():
        return
    parts = [place.recordings, place.data / BACKUPS]
    left = [path.name for path in parts if path.exists()]
    if left:
        raise StartError(
            f"{place.data} holds {' and '.join(left)}, but no {place.database.name}. Nothing "
            "was begun: bring back a backup (./wren restore FILE), or move these away for a "
            "new studio"
        )
    if os.environ.get("WREN_DATA") and not new:
        raise StartError(
            f"there is no studio in {place.data}. If one should be there, is its disk in its "
            "place? Nothing was begun. For a new studio: ./wren serve --new"
        )


def _is_young_enough() -> None:
    """What this version can bring up to date: it knows the first steps as one (``replaces``),
    and a database that took only some of them is of before there was that one."""
    applied = MigrationRecorder(connection).applied_migrations()
    for migration in MigrationLoader(None).disk_migrations.values():
        taken = [one in applied for one in migration.replaces]
        if any(taken) and not all(taken):
            raise StartError(
                f"this studio was last opened by a version from before {OLDEST}. Nothing was "
                "changed: open it once with a version of that day, then with this one"
            )


def _upgrade(place: Place, say: Callable[[str], None]) -> None:
    if place.database.exists() and _waiting():
        made = back_up(place, settings.DATA / BACKUPS, timezone.localtime(), KEPT)
        say(f"a backup before the upgrade: {made}")
    connection.close()
    call_command("migrate", verbosity=0)
    begin(settings.DATA, say)


def _waiting() -> bool:
    """Are there migrations that this database has not had?"""
    tables = connection.introspection.table_names()
    if "django_migrations" not in tables:
        return False
    executor = MigrationExecutor(connection)
    return bool(executor.migration_plan(executor.loader.graph.leaf_nodes()))


def _is_sound(database: Path) -> None:
    if not database.exists():
        return
    try:
        reading = sqlite3.connect(f"file:{database}?mode=ro", uri=True, timeout=30)
        with closing(reading) as opened:
            (said,) = opened.execute("PRAGMA quick_check(1)").fetchone()
    except sqlite3.DatabaseError as error:
        said = str(error)
    if said != "ok":
        raise StartError(
            f"{database} is damaged ({said}). Nothing was changed. Bring back the last backup: "
            "./wren restore FILE"
        )
