"""One student erased: from the tables, from every text that names them, from the files.

SQLite leaves what was deleted in free pages and in the write-ahead log. Both are written anew,
and then the files are read for the name: what is promised is looked at.
"""

from dataclasses import dataclass
from pathlib import Path

from django.conf import settings
from django.db import OperationalError, connection, transaction

from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.changes.bin import delete_for_good
from wren_ladder.studio.keeping.backup import backups_in, last_backup_file
from wren_ladder.studio.keeping.starting import BACKUPS
from wren_ladder.studio.kept_on_disk import forget
from wren_ladder.studio.privacy.naming import as_stored, take_out
from wren_ladder.studio.students.models import Student

CHUNK = 1 << 20  # bytes


@dataclass(frozen=True, slots=True)
class Erased:
    name: str
    elsewhere: int  # other rows that named them
    left_in: tuple[str, ...]  # files that still hold the name
    backups: tuple[str, ...]  # files that may


def erase(student: Student, words: tuple[str, ...] = ()) -> Erased:
    """Everything of the student, and their name and other ``words`` in what is their teachers'.
    Not inside a transaction: the files are written anew."""
    teachers = [one for one in (student.owner, student.second_teacher) if one]
    name = student.name
    with transaction.atomic():
        _empty_the_bin_of(student)
        delete_for_good(student)
        longest_first = sorted({name, *words}, key=len, reverse=True)
        elsewhere = sum(take_out(of, one) for of in teachers for one in longest_first)
    forget("prints", "engravings")
    swept = sweep()
    named = [one for one in longest_first if not _is_anothers(one)]
    left = [str(path) for path in database_files() if _holds(path, named)]
    if not swept and not left:
        left = [f"{database_files()[0]} (free pages: somebody was reading)"]
    return Erased(name, elsewhere, tuple(left), tuple(map(str, _backups())))


def sweep() -> bool:
    """Write the database anew without what was deleted; False where a reader was in the way."""
    with connection.cursor() as cursor:
        try:
            cursor.execute("VACUUM")
            busy, *_ = cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchone()
        except OperationalError:
            return False
    return not busy


def database_files() -> list[Path]:
    database = Path(connection.settings_dict["NAME"])
    files = [database.with_name(database.name + ending) for ending in ("", "-wal")]
    return [path for path in files if path.exists()]


def _empty_the_bin_of(student: Student) -> None:
    """Plans, lessons and tries of theirs that were deleted before, and went to the bin."""
    plans = set(student.plans.values_list("pk", flat=True))
    for binned in Binned.objects.filter(owner=student.owner_id):
        ours = any(
            row["fields"].get("student") == student.pk
            or row["fields"].get("plan") in plans
            or (row["model"] == "students.student" and row["pk"] == student.pk)
            for row in binned.rows
        )
        if ours:
            binned.delete()


def _is_anothers(words: str) -> bool:
    """Do they stand in the name of somebody who stays?"""
    return Student.objects.filter(name__icontains=words).exists()


def _holds(path: Path, words: list[str]) -> bool:
    wanted = [form.encode().lower() for one in words for form in as_stored(one)]
    longest = max(map(len, wanted), default=0)
    with path.open("rb") as file:
        before = b""
        while chunk := file.read(CHUNK):
            read = (before + chunk).lower()
            if any(one in read for one in wanted):
                return True
            before = read[-longest:]
    return False


def _backups() -> list[Path]:
    last = last_backup_file(settings.DATA)
    folders = {settings.DATA / BACKUPS, *([last.parent] if last else [])}
    return [
        path for folder in sorted(folders) if folder.is_dir() for path in backups_in(folder)
    ]
