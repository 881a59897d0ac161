"""The list of students: when they come, their exam, and how their pieces stand."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, time

from django.contrib.auth.models import AbstractBaseUser
from django.db.models import Max

from wren_ladder.studio.climb.climbs import PlanLine, by_student, climbs_of
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.students.models import Student

# How the list is ordered, and how that is said.
ORDERS = {"day": "by day", "name": "by name", "risk": "by risk"}


@dataclass(frozen=True, slots=True)
class StudentLine:
    """``climbs`` are the student's pieces, the one at most risk first."""

    student: Student
    last: date | None  # the last lesson that was given
    climbs: tuple[PlanLine, ...]

    @property
    def by_day(self) -> tuple:
        when = self.student.lesson_day, self.student.lesson_time
        day = 7 if when[0] is None else when[0]
        return day, when[1] or time.max, self.student.name

    @property
    def by_risk(self) -> tuple:
        worst = [min(one.seen.risk for one in self.climbs)] if self.climbs else []
        return not worst, worst, self.student.name


def student_lines(
    teacher: AbstractBaseUser, students: Sequence[Student], today: date, order: str
) -> list[StudentLine]:
    """In as many queries for many students as for one."""
    given = Lesson.objects.filter(student__in=students, state=Lesson.State.GIVEN)
    last = dict(given.values_list("student").annotate(Max("day")))
    climbs = by_student(climbs_of(teacher, today))
    lines = [
        StudentLine(one, last.get(one.pk), tuple(climbs.get(one.pk, ()))) for one in students
    ]
    if order == "name":
        return sorted(lines, key=lambda line: line.student.name)
    return sorted(lines, key=lambda line: line.by_risk if order == "risk" else line.by_day)
