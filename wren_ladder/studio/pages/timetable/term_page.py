"""The sums of a term: lessons, minutes, rungs, pieces, by student and in all."""

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, fields
from datetime import date, timedelta

from django.contrib.auth.models import AbstractBaseUser
from django.db.models import Sum

from wren_ladder.studio.climb.models import HomeMinutes, StepStanding
from wren_ladder.studio.climb.rungs_held import gained
from wren_ladder.studio.exchange.tables import csv_lines
from wren_ladder.studio.lessons.models import OFF, Lesson, Period
from wren_ladder.studio.lessons.timetable import terms_of
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of

USUAL = timedelta(weeks=12)  # looked back, where no term is kept
DONE = (Plan.Status.FINISHED, Plan.Status.PERFORMED, Plan.Status.PASSED)


@dataclass(frozen=True, slots=True)
class TermRow:
    """One student's term, or all of them; minutes are those of the lessons and those logged at
    home, rungs those that were earned and are still held at its end."""

    name: str
    given: int = 0
    minutes: int = 0
    called_off_by_student: int = 0
    called_off_by_teacher: int = 0
    missed: int = 0
    made_up: int = 0
    unpractised: int = 0
    home_minutes: int = 0
    rungs: int = 0
    finished: int = 0

    @property
    def numbers(self) -> list[int]:
        return [getattr(self, one.name) for one in fields(self)[1:]]


HEADINGS = (
    "Lessons given",
    "Minutes of lessons",
    "Called off by the student",
    "Called off by the teacher",
    "Did not come",
    "Made up",
    "Weeks without practice",
    "Minutes at home",
    "Rungs earned",
    "Pieces finished",
)


def term_context(
    teacher: AbstractBaseUser, today: date, first: date | None, last: date | None
) -> dict:
    """The days asked for, else those of the term that today falls in, else twelve weeks."""
    terms = terms_of(teacher.pk)
    here = next((one for one in terms if one.holds(today)), None)
    if first is None or last is None or last < first:
        first = here.first if here else today - USUAL
        last = here.last if here else today
    rows = term_rows(teacher, first, last)
    return {
        "terms": terms,
        "first": first,
        "last": last,
        "name": _name(terms, first, last),
        "headings": HEADINGS,
        "rows": rows,
        "total": _total(rows),
        "today": today,
    }


def _name(terms: Sequence[Period], first: date, last: date) -> str:
    return next((one.name for one in terms if (one.first, one.last) == (first, last)), "")


def term_rows(teacher: AbstractBaseUser, first: date, last: date) -> list[TermRow]:
    """One row for each student who had a lesson, practised or finished something, by name."""
    students = list(students_of(teacher))
    lessons: dict[int, list[Lesson]] = {student.pk: [] for student in students}
    kept = Lesson.objects.filter(student__in=students, day__range=(first, last))
    for lesson in kept.select_related("student").defer("did", "was_set", "week"):
        lessons[lesson.student_id].append(lesson)
    home = dict(
        HomeMinutes.objects.filter(student__in=students, day__range=(first, last))
        .values_list("student")
        .annotate(Sum("minutes"))
    )
    rungs = _rungs(students, first, last)
    finished = Counter(
        Plan.objects.filter(
            student__in=students, status__in=DONE, since__range=(first, last)
        ).values_list("student", flat=True)
    )
    rows = [_row(student, lessons[student.pk], home, rungs, finished) for student in students]
    return [row for row in rows if any(row.numbers)]


def _row(student: Student, kept: Sequence[Lesson], home, rungs, finished) -> TermRow:
    given = [one for one in kept if one.is_given]
    off = [one for one in kept if one.state in OFF and one.state != Lesson.State.MISSED]
    by_teacher = sum(one.by == Lesson.By.TEACHER for one in off)
    return TermRow(
        name=student.name,
        given=len(given),
        minutes=sum(one.lasts for one in given),
        called_off_by_student=len(off) - by_teacher,
        called_off_by_teacher=by_teacher,
        missed=sum(one.state == Lesson.State.MISSED for one in kept),
        made_up=sum(one.instead_of is not None for one in given),
        unpractised=sum(one.practised == Lesson.Practised.NO for one in given),
        home_minutes=home.get(student.pk, 0),
        rungs=rungs[student.pk],
        finished=finished[student.pk],
    )


def _rungs(students: Sequence[Student], first: date, last: date) -> Counter[int]:
    """Rungs that a student holds at the end and did not before, over all steps: as they were
    kept when they were earned."""
    kept = StepStanding.objects.filter(
        step__plan__student__in=students, last_day__gte=first
    ).exclude(rungs_held="")
    found: Counter[int] = Counter()
    for student, held in kept.values_list("step__plan__student", "rungs_held"):
        found[student] += gained(held, first, last)
    return found


def _total(rows: Sequence[TermRow]) -> TermRow:
    sums = [sum(column) for column in zip(*(row.numbers for row in rows), strict=True)]
    return TermRow("In all", *sums)


def term_lines(rows: Sequence[TermRow]) -> Iterator[str]:
    """The same as CSV."""
    return csv_lines(("Student", *HEADINGS), ((one.name, *one.numbers) for one in rows))
