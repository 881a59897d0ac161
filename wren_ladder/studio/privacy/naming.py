"""Where a student is named in what is their teacher's, place by place, and putting "a student"
there: in a title, in another student's lesson note, in a file that waits.

Looked through is what each model declares as prose (``studio/prose.py``), and nothing else.
"""

import json
import re
from collections.abc import Callable, Collection, Iterable, Iterator
from dataclasses import dataclass
from zlib import crc32

from django.contrib.auth.models import AbstractBaseUser, User
from django.contrib.sessions.models import Session
from django.db import models
from django.db.models.functions import Cast

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.notation.musicxml.document import unpacked
from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.changes.pieces import words_changed
from wren_ladder.studio.climb.models import Attempt, HomeMinutes
from wren_ladder.studio.exams.models import Exam, ExamItem, MockRun
from wren_ladder.studio.exchange.studio_file import TABLES
from wren_ladder.studio.house.members import membership_of
from wren_ladder.studio.house.models import Invitation
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.pieces.models import BarRow, Draft, Edit, Import, Piece, Recording
from wren_ladder.studio.plans.models import PlanSnapshot, Revision, Step, StudentBar
from wren_ladder.studio.privacy.plain_names import is_plain
from wren_ladder.studio.prose import Words, prose_of
from wren_ladder.studio.scans.models import Scan, ScanPage
from wren_ladder.studio.students.models import Student

INSTEAD = "a student"
AROUND = 50  # characters that are shown on each side of a name
# Beside what a studio file holds: what waits to be looked over, is being typed, was deleted.
PASSING = (
    (Recording, "piece__owner"),
    (Import, "owner"),
    (Draft, "owner"),
    (Scan, "owner"),
    (ScanPage, "scan__owner"),
    (Edit, "draft__owner"),
    (Binned, "owner"),
)
ASCII = re.compile(r"[A-Za-z0-9]+")
KEPT_IN_A_SESSION = re.compile(r"_auth_|seen$|_csrftoken$")
FILE = "the file itself"
# What is said of a field whose own name says little.
LABELS = {
    "data": "words over the notes",
    "page": "words over the notes",
    "bars": "words over the notes",
    "typed": "the bars as typed",
    "did": "what was done",
    "was_set": "what was set",
    "rows": "what was deleted",
}
# How a row is told of; the others say it themselves.
TOLD: dict[type[models.Model], Callable[[models.Model], str]] = {
    Attempt: lambda row: f"a try of {row.step.plan}, {row.day:%-d %b %Y}",
    HomeMinutes: lambda row: f"minutes of {row.student}, {row.day:%-d %b %Y}",
    Lesson: lambda row: f"lesson of {row.student}, {row.day:%-d %b %Y}",
    Exam: lambda row: f"exam of {row.student}, {row.day:%-d %b %Y}",
    ExamItem: lambda row: f"exam of {row.exam.student}, {row.exam.day:%-d %b %Y}, {row}",
    MockRun: lambda row: f"mock exam of {row.item.exam.student}, {row.day:%-d %b %Y}",
    Piece: lambda row: f"{'exercise' if row.is_exercise else 'piece'} {row}",
    BarRow: lambda row: f"{row.piece}, {row}",
    StudentBar: lambda row: f"{row.bar.piece}, {row}",
    Step: lambda row: f"{row.plan}, {row}",
    Revision: lambda row: f"{row.plan}, revised on {row.day:%-d %b %Y}",
    Recording: lambda row: f"recording of {row.piece}",
    Import: lambda row: f"a file that waits to be looked over, {row}",
    Scan: lambda row: f"printed pages that are being copied, {row}",
    ScanPage: lambda row: f"printed pages that are being copied, {row.scan}, {row}",
    Edit: lambda row: f"{row.draft}, what can be undone",
    Binned: lambda row: f"in the bin: {row}",
    Invitation: lambda row: "an invitation to the house",
}


@dataclass(frozen=True, slots=True)
class NamePlace:
    """One stretch of words that holds the name. ``key`` is told by what stands there, so that
    it fits no other words later."""

    key: str
    where: str
    before: str
    name: str
    after: str
    sure: bool  # nobody and nothing else is meant by these words


@dataclass(frozen=True, slots=True)
class Names:
    """What is looked for: the name, and other words by which the student is known."""

    name: str
    words: tuple[str, ...] = ()

    @property
    def all(self) -> list[str]:
        return sorted({self.name, *self.words}, key=len, reverse=True)

    @property
    def pattern(self) -> re.Pattern:
        """These as words, no part of others, and in their case; a name of several words in any
        case, for it is nobody else's."""
        forms = [f"(?i:{_form(one)})" if " " in one else _form(one) for one in self.all]
        return re.compile(rf"(?<!\w)(?:{'|'.join(forms)})(?!\w)")


def _form(words: str) -> str:
    return r"\s+".join(re.escape(one) for one in words.split())


def names_of(student: Student, words: Iterable[str] = ()) -> Names:
    """With the parts of the name: a note says "Zoë"."""
    return Names(student.name, (*student.name.split(), *words))


def is_sure(words: str, student: Student) -> bool:
    """Can these words mean nobody and nothing but this student?"""
    others = Student.objects.exclude(pk=student.pk).filter(name__icontains=words)
    return not is_plain(words) and not others.exists()


def places_of(student: Student, names: Names, owner: AbstractBaseUser) -> list[NamePlace]:
    """Every place in what is the owner's, but for the student's own rows, which go anyway."""
    sure = {one.lower(): is_sure(one, student) for one in names.all}
    found = []
    for row, field, words in _all(student, names, owner):
        value = getattr(row, field)
        for key, said in _stretches(row, field, value, words):
            match = names.pattern.search(said)
            if match:
                is_one = sure.get(" ".join(match[0].split()).lower(), False)
                found.append(_place(key, row, field, said, match, is_one))
    for one in _files_naming(names, owner):
        found.append(NamePlace(_file_key(one), _told(one), "", FILE, "", True))
    return found


def _place(key, row, field: str, said: str, match: re.Match, sure: bool) -> NamePlace:
    begin, end = match.span()
    before, after = said[max(0, begin - AROUND) : begin], said[end : end + AROUND]
    label = LABELS.get(field, row._meta.get_field(field).verbose_name)
    return NamePlace(
        key,
        f"{_told(row)}: {label}",
        ("…" if begin > AROUND else "") + before,
        match[0],
        after + ("…" if len(said) > end + AROUND else ""),
        sure,
    )


def _told(row: models.Model) -> str:
    return TOLD.get(type(row), str)(row)


def _stretches(row, field: str, value: object, words: Words) -> Iterator[tuple[str, str]]:
    """Each stretch of words in a field with its key."""
    found: list[tuple[str, str]] = []

    def keep(said: str) -> str:
        found.append((_key(row, field, len(found), said), said))
        return said

    words(value, keep)
    yield from found


def _key(row: models.Model, field: str, number: int, said: str) -> str:
    return f"{row._meta.label_lower}:{row.pk}:{field}:{number}:{crc32(said.encode())}"


def _file_key(one: Import) -> str:
    return f"{one._meta.label_lower}:{one.pk}:data"


def _all(
    student: Student, names: Names, owner: AbstractBaseUser
) -> Iterator[tuple[models.Model, str, Words]]:
    """(row, field, way to its words) of all that is the owner's and may hold the names. What
    a plan remembers of its piece is no place of its own: it follows the bars."""
    tables = [*TABLES, *PASSING]
    if membership_of(owner).is_owner:
        tables.append((Invitation, ""))
    for model, way in tables:
        if model is PlanSnapshot or not prose_of(model):
            continue
        rows = model.objects.filter(**({way: owner} if way else {}))
        mine = getattr(model, "OF_STUDENT", None)
        if mine:
            rows = rows.exclude(**{mine: student.pk})
        for row in _naming(rows, names):
            for field, words in prose_of(model).items():
                yield row, field, words


def _naming(rows: models.QuerySet, names: Names) -> Iterator[models.Model]:
    """The rows whose texts may hold one of the names. The database knows the case of ASCII
    letters alone, and JSON writes others as numbers: it is asked for the longest run of
    ASCII."""
    asked = models.Q()
    for field in prose_of(rows.model):
        rows = rows.annotate(**{f"{field}_text": Cast(field, models.TextField())})
        for one in names.all:
            run = max(ASCII.findall(one), key=len, default="")
            asked |= models.Q(**{f"{field}_text__icontains": run})
    return rows.filter(asked).order_by("pk").iterator(200)


def _files_naming(names: Names, owner: AbstractBaseUser) -> Iterator[Import]:
    for one in Import.objects.filter(owner=owner):
        if names.pattern.search(_text_of(bytes(one.data))):
            yield one


def _text_of(file: bytes) -> str:
    """What can be read in a file that waits, packed or not."""
    try:
        return unpacked(file).decode(errors="ignore")
    except ChartError:
        return file.decode(errors="ignore")


def take_out(
    student: Student, names: Names, owner: AbstractBaseUser, keys: Collection[str]
) -> int:
    """Put "a student" in the places of these keys; how many there were. The music of a piece
    whose words changed is remembered anew."""
    done, pieces, changed = 0, set(), set()
    for row, field, words in list(_all(student, names, owner)):
        value = getattr(row, field)
        here = {key for key, said in _stretches(row, field, value, words) if key in keys}
        if not here:
            continue
        wanted = iter([key in keys for key, _ in _stretches(row, field, value, words)])
        fresh = words(value, _changed(wanted, names, changed))
        limit = row._meta.get_field(field).max_length
        fresh = fresh[:limit] if limit and isinstance(fresh, str) else fresh
        type(row).objects.filter(pk=row.pk).update(**{field: fresh})
        done += len(here)
        if isinstance(row, Piece | BarRow):
            pieces.add(row.pk if isinstance(row, Piece) else row.piece_id)
    for one in list(_files_naming(names, owner)):
        if _file_key(one) in keys:
            one.delete()
            done += 1
    _in_snapshots(owner, pieces, changed, names)
    for piece in Piece.objects.filter(pk__in=pieces):
        words_changed(piece)
    return done + _take_out_of_sessions(names)


def _changed(wanted: Iterator[bool], names: Names, changed: set[str]) -> Callable[[str], str]:
    def change(said: str) -> str:
        if not next(wanted):
            return said
        changed.add(said)
        return names.pattern.sub(INSTEAD, said)

    return change


def _in_snapshots(
    owner: AbstractBaseUser, pieces: set[int], changed: set[str], names: Names
) -> None:
    """What plans remember of these pieces, where it says the same words."""
    kept = PlanSnapshot.objects.filter(plan__owner=owner, plan__piece__in=pieces)
    for row in kept:
        for field, words in prose_of(PlanSnapshot).items():
            value = getattr(row, field)
            fresh = words(
                value,
                lambda said: names.pattern.sub(INSTEAD, said) if said in changed else said,
            )
            if fresh != value:
                PlanSnapshot.objects.filter(pk=row.pk).update(**{field: fresh})


def _take_out_of_sessions(names: Names) -> int:
    """A message that waits to be shown may name somebody: such a session keeps its log-in and
    nothing else."""
    changed, pattern = 0, names.pattern
    for session in Session.objects.all():
        held = session.get_decoded()
        said = {name: held[name] for name in held if not KEPT_IN_A_SESSION.match(name)}
        if pattern.search(json.dumps(said, ensure_ascii=False, default=str)):
            kept = {name: held[name] for name in held if KEPT_IN_A_SESSION.match(name)}
            session.session_data = Session.get_session_store_class()().encode(kept)
            session.save(update_fields=["session_data"])
            changed += 1
    return changed


def out_of_reach(student: Student, names: Names) -> list[str]:
    """Where else the name stands and what to do there: in what is not this teacher's to
    change, or no text."""
    owner, found = student.owner, []
    for one in Recording.objects.filter(piece__owner=owner).select_related("piece"):
        if _sounds_naming(one, names):
            found.append(
                f"The sound file of {one.piece} holds the name inside, as a tag. Delete the "
                "recording, or put one without the tag in its place."
            )
    titles = Piece.objects.filter(owner=owner).values_list("title", flat=True)
    named = {title for title in titles if names.pattern.search(title)}
    theirs = Piece.objects.exclude(owner=owner).filter(title__in=named).select_related("owner")
    for one in theirs.order_by("owner__username", "title"):
        found.append(f"{one.owner} has a copy called “{one.title}”. Ask them to rename it.")
    if not membership_of(owner).is_owner:
        notes = Invitation.objects.values_list("note", flat=True)
        if any(names.pattern.search(note) for note in notes):
            found.append(
                "An open invitation to the house has the name in its note. Ask the owner of "
                "the house to take it back."
            )
    return found


def _sounds_naming(recording: Recording, names: Names) -> bool:
    """Tags are written in one of three ways; words of three letters stand in any sound by
    chance, so only longer ones are looked for."""
    try:
        with recording.file.open("rb") as file:
            sound = file.read()
    except FileNotFoundError:
        return False
    longer = [one for one in names.all if len(one) > 3]
    return any(
        one.encode(code, "ignore") in sound
        for one in longer
        for code in ("utf-8", "utf-16-le", "utf-16-be", "latin-1")
    )


def colleague_places(student: Student, names: Names) -> tuple[User | None, list[NamePlace]]:
    """The second teacher, and where the name stands in their studio without any doubt; their
    words are not the first one's to read."""
    second = student.second_teacher
    if second is None:
        return None, []
    return second, [one for one in places_of(student, names, second) if one.sure]
