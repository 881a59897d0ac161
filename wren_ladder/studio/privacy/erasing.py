"""One student erased: from the tables, from every text that names them, from the files.

SQLite leaves what was deleted in free pages and in the write-ahead log. Both are written anew,
and then the files are read for the name: what is promised is looked at.
"""

import json
import zipfile
from collections.abc import Collection, Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import BinaryIO

from django.conf import settings
from django.db import OperationalError, connection, transaction

from wren_ladder.studio.bin.whose import entries_of, without
from wren_ladder.studio.changes.bin import delete_for_good
from wren_ladder.studio.keeping.backup import backups_in, last_backup_file
from wren_ladder.studio.keeping.starting import BACKUPS
from wren_ladder.studio.kept_on_disk import forget
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.privacy.naming import (
    colleague_places,
    is_sure,
    names_of,
    out_of_reach,
    places_of,
    take_out,
)
from wren_ladder.studio.students.models import Student

CHUNK = 1 << 20  # bytes
BEFORE = "before-*"  # folders of what lay here before a restore


@dataclass(frozen=True, slots=True)
class Erased:
    name: str
    elsewhere: int  # places that named them, with other words now
    stays: int  # places that the teacher left as they are
    looked_for: bool  # in the files, byte by byte: not where the name is a plain word
    left_in: tuple[str, ...]  # files that still hold the name
    out_of_reach: tuple[str, ...]  # where else it stands, and what to do
    backups: tuple[str, ...]  # files and folders that may


def erase(
    student: Student,
    words: Iterable[str] = (),
    keys: Collection[str] | None = None,
    colleagues_too: bool = True,
) -> Erased:
    """Everything of the student; their name and other ``words`` by which they are known in the
    places of these ``keys`` (all those that mean nobody else, where none are given). Not inside
    a transaction: the files are written anew."""
    names = names_of(student, words)
    places = places_of(student, names, student.owner)
    if keys is None:
        keys = {one.key for one in places if one.sure}
    second, theirs = colleague_places(student, names)
    others = tuple(out_of_reach(student, names))
    is_distinct = is_sure(student.name, student)
    stays = sum(one.key not in keys for one in places)
    with transaction.atomic():
        _empty_the_bin_of(student)
        delete_for_good(student)
        elsewhere = take_out(student, names, student.owner, keys)
        if second and colleagues_too:
            elsewhere += take_out(student, names, second, {one.key for one in theirs})
    forget("prints", "engravings")
    swept = sweep()
    looked_for = is_distinct and not stays
    left = _databases_with([names.name]) if looked_for else []
    if not swept and not left:
        left = [f"{database_files()[0]} (free pages: somebody was reading)"]
    backups = tuple(map(str, older_copies()))
    return Erased(names.name, elsewhere, stays, looked_for, tuple(left), others, backups)


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


def files_with(name: str) -> list[str]:
    """Every file of the studio, backups and what was put aside too, that holds the name."""
    found = _databases_with([name])
    wanted = _as_written([name])
    kept = [
        path
        for folder in (Path(settings.MEDIA_ROOT), *settings.DATA.glob(BEFORE))
        for path in folder.rglob("*")
        if path.is_file()
    ]
    found += [str(path) for path in kept if _holds(path, wanted)]
    return found + [str(path) for path in _all_backups() if _packed_with(path, wanted)]


def _empty_the_bin_of(student: Student) -> None:
    """What of theirs was deleted before. Of a piece in the bin only what is theirs goes: the
    music is the teacher's, and others' tries hang on it."""
    owners = [one for one in (student.owner_id, student.second_teacher_id) if one]
    for binned in entries_of(student.pk, owners):
        if binned.kind == Piece._meta.label_lower:
            binned.rows = without(binned, student.pk)
            binned.students = [one for one in binned.students if one != student.pk]
            binned.save(update_fields=["rows", "students"])
        else:
            binned.delete()


def _databases_with(names: list[str]) -> list[str]:
    wanted = _as_written(names)
    return [str(path) for path in database_files() if _holds(path, wanted)]


def _as_written(names: list[str]) -> list[bytes]:
    """As they stand in a text, and in JSON."""
    forms = {form for one in names for form in (one, json.dumps(one)[1:-1])}
    return [form.encode().lower() for form in forms]


def _holds(path: Path, wanted: list[bytes]) -> bool:
    with path.open("rb") as file:
        return _is_in(file, wanted)


def _is_in(file: BinaryIO, wanted: list[bytes]) -> bool:
    longest, before = max(map(len, wanted), default=0), b""
    while chunk := file.read(CHUNK):
        read = (before + chunk).lower()
        if any(one in read for one in wanted):
            return True
        before = read[-longest:]
    return False


def _packed_with(path: Path, wanted: list[bytes]) -> bool:
    try:
        with zipfile.ZipFile(path) as packed:
            for one in packed.namelist():
                with packed.open(one) as file:
                    if _is_in(file, wanted):
                        return True
    except (OSError, zipfile.BadZipFile):
        return False
    return False


def older_copies() -> Iterator[Path]:
    """Backups, and the folders that a restore has put aside."""
    yield from _all_backups()
    yield from sorted(path for path in settings.DATA.glob(BEFORE) if path.is_dir())


def _all_backups() -> list[Path]:
    last = last_backup_file(settings.DATA)
    folders = {settings.DATA / BACKUPS, *([last.parent] if last else [])}
    return [
        path for folder in sorted(folders) if folder.is_dir() for path in backups_in(folder)
    ]
