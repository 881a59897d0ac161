"""When lessons are: the weekly ones, those that were moved or made up, holidays."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, time, timedelta

from wren_ladder.studio.lessons.models import Lesson, Period
from wren_ladder.studio.students.models import Student

AHEAD = 42  # days in which the next lesson is looked for


@dataclass(frozen=True, slots=True)
class Occasion:
    """A lesson on a day: what is kept of it, or that it is due by the week's plan; ``free``
    names the holiday that it falls in, ``moved_to`` the day it was moved to or made up on."""

    student: Student
    day: date
    time: time | None
    minutes: int
    lesson: Lesson | None = None
    free: str = ""
    moved_to: date | None = None

    @property
    def takes_place(self) -> bool:
        return not (self.free or self.moved_to) and not (self.lesson and self.lesson.is_off)

    @property
    def is_given(self) -> bool:
        return self.lesson is not None and self.lesson.is_given

    @property
    def said(self) -> str:
        """What there is to say of it: "ill (the student), made up on 3 Dec"."""
        words = [self.lesson.said] if self.lesson else []
        words += [self.free] if self.free else []
        if self.moved_to:
            away = "made up on" if self.lesson else "moved to"
            words.append(f"{away} {self.moved_to:%-d %b}")
        return ", ".join(words)


def occasions(students: Sequence[Student], first: date, last: date) -> list[Occasion]:
    """Every lesson of the students from ``first`` to ``last``, by day and time; in two queries.
    A holiday is that of a student's own teacher.

    A weekly lesson that fell on a day before today and of which nothing is kept is there too:
    somebody has to say what became of it.
    """
    holidays = _holidays_by_teacher(students)
    kept: dict[int, dict[date, Lesson]] = {student.pk: {} for student in students}
    away: dict[int, dict[date, date]] = {student.pk: {} for student in students}
    known = {student.pk: student for student in students}
    near = Lesson.objects.filter(student__in=students).defer("did", "week")
    for lesson in near.filter(day__range=(first, last)) | near.filter(
        instead_of__range=(first, last)
    ):
        lesson.student = known[lesson.student_id]
        kept[lesson.student_id][lesson.day] = lesson
        if lesson.instead_of:
            away[lesson.student_id][lesson.instead_of] = lesson.day
    found = []
    for student in students:
        mine = kept[student.pk]
        days = {day for day in mine if first <= day <= last} | {*_weekly(student, first, last)}
        for day in days:
            lesson = mine.get(day)
            free = "" if lesson else _holiday(day, holidays[student.owner_id])
            moved = away[student.pk].get(day)
            at = (lesson.time if lesson else None) or student.lesson_time
            lasts = (lesson.minutes if lesson else None) or student.lesson_minutes
            found.append(Occasion(student, day, at, lasts, lesson, free, moved))
    return sorted(
        found, key=lambda one: (one.day, one.time is None, one.time, one.student.name)
    )


def next_lesson(student: Student, after: date) -> Occasion | None:
    """The first that takes place after a day; None where none is due in the next weeks."""
    coming = occasions([student], after + timedelta(days=1), after + timedelta(days=AHEAD))
    return next((one for one in coming if one.takes_place), None)


def next_today(students: Iterable[Student], lesson: Lesson, today: date) -> Occasion | None:
    """Who comes after a lesson of today."""
    if lesson.day != today:
        return None
    here = [one for one in students if one.is_here]
    coming = [one for one in occasions(here, today, today) if one.takes_place]
    left = [one for one in coming if not one.is_given and one.student != lesson.student]
    starts = lesson.starts
    later = [one for one in left if starts is None or one.time is None or one.time >= starts]
    return next(iter(later or left), None)


def _weekly(student: Student, first: date, last: date) -> Iterable[date]:
    if student.lesson_day is None or not student.is_here:
        return
    day = first + timedelta(days=(student.lesson_day - first.weekday()) % 7)
    while day <= last:
        yield day
        day += timedelta(days=7)


def _holiday(day: date, holidays: Iterable[Period]) -> str:
    return next((one.name for one in holidays if one.holds(day)), "")


def _holidays_by_teacher(students: Sequence[Student]) -> dict[int, list[Period]]:
    found: dict[int, list[Period]] = {student.owner_id: [] for student in students}
    for period in Period.objects.filter(owner__in=found, kind=Period.Kind.HOLIDAY):
        found[period.owner_id].append(period)
    return found


def holidays_of(owner_id: int) -> list[Period]:
    return list(Period.objects.filter(owner=owner_id, kind=Period.Kind.HOLIDAY))


def terms_of(owner_id: int) -> list[Period]:
    return list(Period.objects.filter(owner=owner_id, kind=Period.Kind.TERM))
