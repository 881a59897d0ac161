"""Students and attempts as CSV, out and in: what is wrong is told line by line first."""

import csv
import io
import re
from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from datetime import date
from difflib import get_close_matches

from django import forms
from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from wren_ladder.studio.changes.attempts import log_attempts
from wren_ladder.studio.changes.exams import exam_on
from wren_ladder.studio.climb.forms import AttemptForm
from wren_ladder.studio.climb.models import Attempt, Where
from wren_ladder.studio.plans.models import Step
from wren_ladder.studio.students.forms import StudentForm
from wren_ladder.studio.students.models import Student

# What a table calls a field of a try, where that is not its name.
CALLED = {"was_clean": "clean"}
ATTEMPTS = ("student", "piece", "step", *(CALLED.get(one, one) for one in Attempt.SAID))
STUDENTS = (
    "name",
    "grade",
    "hand",
    "open_handed",
    "lesson_day",
    "lesson_time",
    "exam_date",
    "notes",
)
# Columns that older exports do not have: empty there.
CAME_LATER = {
    one.name for one in Attempt._meta.concrete_fields if one.blank or one.has_default()
}
# By which a try is known again.
SIGN = [name for name in Attempt.SAID if name != "where"]
PLAIN = ("name", "grade", "lesson_time", "exam_date", "notes")  # as the form has them
NUMBERS = {"tempo", "passes", "grade"}
WHOLE = re.compile(r"^(\d+)[.,]0+$")
# Between cells, and what to call it where it has to be told.
PARTINGS = {",": "", ";": "semicolons", "\t": "tabs"}
MARK = "\ufeff"  # by which a spreadsheet knows that letters are UTF-8
MOST_ROWS = 20_000
CHUNK = 2000  # rows written at once
# What a spreadsheet would take for a formula, full-width signs too.
FORMULA = ("=", "+", "-", "@", "\t", "\r", "\n", "＝", "＋", "－", "＠")
YES, NO = ("yes", "clean", "1", "true"), ("no", "not yet", "0", "false", "")
DAYS = {label.lower(): value for value, label in Student.Day.choices}


@dataclass
class Reading:
    """A table as it was read: what would be stored, what is there already, what is wrong."""

    new: list = field(default_factory=list)
    same: int = 0
    wrong: list[tuple[int, str]] = field(default_factory=list)  # (line, what)
    parted_by: str = ""  # what stands between the cells, where it is no comma

    @property
    def good(self) -> bool:
        return not self.wrong


def attempt_lines(attempts: QuerySet[Attempt]) -> Iterator[str]:
    """The table in pieces, so that a hundred thousand tries can be sent while they are read."""
    students = attempts.values("step__plan__student")
    names = _names(Step.objects.filter(plan__student__in=students))
    rows = attempts.values_list("step", *Attempt.SAID).iterator(CHUNK)
    return csv_lines(ATTEMPTS, ((*names[step], *map(_cell, said)) for step, *said in rows))


def _cell(value: object) -> object:
    return ("no", "yes")[value] if isinstance(value, bool) else value


def _names(steps: QuerySet[Step]) -> dict[int, tuple[str, str, str]]:
    """(student, piece, step) by which a table tells each step; pieces of one student that
    share a title, and steps of one plan that share a name, have their number behind it."""
    rows = list(
        steps.order_by("pk").values_list(
            "pk", "plan__student__name", "plan__piece__title", "plan__piece", "name"
        )
    )
    pieces: dict[tuple[str, str], set[int]] = {}
    named: Counter[tuple[str, int, str]] = Counter()
    for _, student, title, piece, name in rows:
        pieces.setdefault((student, title), set()).add(piece)
        named[student, piece, name] += 1
    return {
        pk: (
            student,
            title if len(pieces[student, title]) == 1 else f"{title} #{piece}",
            name if named[student, piece, name] == 1 else f"{name} #{pk}",
        )
        for pk, student, title, piece, name in rows
    }


def student_lines(students: Iterable[Student]) -> Iterator[str]:
    return csv_lines(
        STUDENTS,
        (
            (
                one.name,
                one.grade,
                one.lead,
                "yes" if one.open_handed else "no",
                one.get_lesson_day_display() or "",
                f"{one.lesson_time:%H:%M}" if one.lesson_time else "",
                one.exam_date or "",
                one.notes,
            )
            for one in students
        ),
    )


def csv_lines(head: tuple[str, ...], rows: Iterable[tuple]) -> Iterator[str]:
    """CSV, some thousand rows at a time; days are written as 2026-05-31."""
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(head)
    for number, row in enumerate(rows, 1):
        writer.writerow([_harmless(cell) for cell in row])
        if number % CHUNK == 0:
            yield text.getvalue()
            text.seek(0)
            text.truncate()
    yield text.getvalue()


def _harmless(cell) -> str:
    """A word that begins like a formula is written with an apostrophe before it, and so is one
    that has such an apostrophe of its own."""
    text = str(cell)
    return f"'{text}" if _begins_like_one(text) else text


def _as_written(cell: str | None) -> str:
    text = (cell or "").strip()
    return text[1:] if text.startswith("'") and _begins_like_one(text[1:]) else text


def _begins_like_one(text: str) -> bool:
    return text.lstrip("'").startswith(FORMULA)


def _rows(text: str, head: tuple[str, ...], reading: Reading) -> list[tuple[int, dict]]:
    """(line, cells by name); what is wrong with the table as such goes into the reading."""
    text = text.removeprefix(MARK)
    parting = _parting(text.partition("\n")[0])
    reading.parted_by = PARTINGS[parting]
    lines = csv.DictReader(io.StringIO(text), delimiter=parting)
    names = [name.strip().lower() for name in lines.fieldnames or []]
    missing = [name for name in head if name not in names and name not in CAME_LATER]
    if missing:
        reading.wrong.append(
            (1, f"the first line has to name the columns; missing: {', '.join(missing)}")
        )
        return []
    lines.fieldnames = names
    found = []
    try:
        for row in lines:
            if len(found) == MOST_ROWS:
                reading.wrong.append((lines.line_num, f"more than {MOST_ROWS} lines; cut it"))
                return []
            cells = {name: _as_written(row.get(name)) for name in head}
            cells |= {name: _whole(cells[name]) for name in NUMBERS & cells.keys()}
            found.append((lines.line_num, cells))
    except csv.Error as error:
        reading.wrong.append((lines.line_num, f"this is no CSV: {error}"))
        return []
    if not found:
        reading.wrong.append((2, "there are no lines under the heading"))
    return found


def _parting(first: str) -> str:
    """What parts the cells: spreadsheets that write decimal commas part by semicolons."""
    return max(PARTINGS, key=first.count)


def _whole(cell: str) -> str:
    """ "90,0" and "90.0" are 90."""
    return WHOLE.sub(r"\1", cell)


def read_attempts(text: str, teacher: AbstractBaseUser) -> Reading:
    """Attempts for steps that are there; those stored already are passed over."""
    reading = Reading()
    plans = _plans(teacher)
    there = Counter(
        Attempt.objects.filter(step__plan__owner=teacher).values_list("step", *SIGN)
    )
    for line, row in _rows(text, ATTEMPTS, reading):
        try:
            step = _step_of(row, plans)
            attempt = _attempt_of(row, step)
        except ValueError as error:
            reading.wrong.append((line, str(error)))
            continue
        sign = (step.pk, *(getattr(attempt, name) for name in SIGN))
        if there[sign]:
            there[sign] -= 1
            reading.same += 1
        else:
            reading.new.append(attempt)
    return reading


def _plans(teacher: AbstractBaseUser) -> dict[str, dict[str, dict[str, Step]]]:
    """Student -> piece -> step name -> step."""
    found: dict[str, dict[str, dict[str, Step]]] = {
        name: {} for name in teacher.students.values_list("name", flat=True)
    }
    steps = Step.objects.filter(plan__owner=teacher, plan__student__isnull=False)
    names = _names(steps)
    for step in steps.select_related("plan__student", "plan__piece"):
        student, piece, name = names[step.pk]
        found[student].setdefault(piece, {})[name] = step
    return found


def _step_of(row: dict, plans: dict) -> Step:
    pieces = _named("student", row["student"], plans)
    steps = _named(f"piece of {row['student']}", row["piece"], pieces)
    return _named(f"step in {row['piece']}", row["step"], steps)


def _named(what: str, name: str, known: dict):
    if name in known:
        return known[name]
    near = get_close_matches(name, known, 1)
    hint = f"; did you mean '{near[0]}'?" if near else ""
    raise ValueError(f"there is no {what} called '{name}'{hint}")


def _attempt_of(row: dict, step: Step) -> Attempt:
    fields = {name: row[name] for name in AttemptForm.base_fields if name in row}
    fields["passes"] = fields["passes"] or "1"
    fields["clean_try"] = "yes" if _is_yes(row["clean"], "clean") else "no"
    _check_day("day", row["day"])
    where = row["where"] or Where.FILE
    if where not in Where.values:
        raise ValueError(f"where: '{where}' is none of {', '.join(Where.values)}")
    attempt = _valid(AttemptForm(fields, instance=Attempt(step=step))).save(commit=False)
    attempt.where = where
    return attempt


def _check_day(name: str, word: str) -> None:
    try:
        date.fromisoformat(word)
    except ValueError:
        raise ValueError(f"{name}: '{word}' is no day; write it as 2026-05-31") from None


def _is_yes(word: str, name: str) -> bool:
    if word.lower() in YES:
        return True
    if word.lower() in NO:
        return False
    raise ValueError(f"{name}: '{word}' is neither yes nor no")


def _valid(form: forms.ModelForm) -> forms.ModelForm:
    """The form, or ValueError with its first complaint."""
    for name, errors in form.errors.items():
        raise ValueError(f"{name}: {errors[0]}")
    return form


def store_attempts(reading: Reading) -> None:
    """Store what is new and let every plan follow once."""
    log_attempts(reading.new)


def read_students(text: str, teacher: AbstractBaseUser) -> Reading:
    """Students to add, or to change where the name is there already."""
    reading = Reading()
    known = {student.name: student for student in teacher.students.all()}
    seen: set[str] = set()
    for line, row in _rows(text, STUDENTS, reading):
        try:
            if row["name"] in seen:
                raise ValueError(f"'{row['name']}' stands in this file twice; add an initial")
            seen.add(row["name"])
            student, changed = _student_of(row, known.get(row["name"]), teacher)
        except ValueError as error:
            reading.wrong.append((line, str(error)))
            continue
        if changed:
            reading.new.append(student)
        else:
            reading.same += 1
    return reading


def _student_of(
    row: dict, known: Student | None, teacher: AbstractBaseUser
) -> tuple[Student, bool]:
    """The student as the row has them, and whether that is anything new."""
    day = row["lesson_day"].lower()
    if day and day not in DAYS:
        raise ValueError(f"lesson_day: '{row['lesson_day']}' is no day; write Monday")
    if row["exam_date"]:
        _check_day("exam_date", row["exam_date"])
    student = known or Student(owner=teacher)
    form = StudentForm(instance=student)
    fields = {name: form[name].value() for name in form.fields}
    fields |= {
        name: row[name] for name in ("name", "grade", "lesson_time", "exam_date", "notes")
    }
    fields["lead"] = row["hand"].upper()[:1] or "R"
    fields["open_handed"] = _is_yes(row["open_handed"], "open_handed")
    fields["lesson_day"] = DAYS.get(day, "")
    before = [*student_lines([known])] if known else []
    student = _valid(StudentForm(fields, instance=student)).save(commit=False)
    return student, [*student_lines([student])] != before


@transaction.atomic
def store_students(reading: Reading) -> None:
    for student in reading.new:
        student.save()
        exam_on(student, student.exam_date, timezone.localdate())
