"""What the takes of the last weeks say together, of one student or of many at once."""

from collections.abc import Collection, Iterable
from dataclasses import dataclass
from datetime import date, timedelta

from django.db.models import F, Window
from django.db.models.functions import RowNumber

from wren_ladder.drumming.takes.limits import Rule
from wren_ladder.drumming.takes.weeks import Habit, habits
from wren_ladder.studio.climb.models import Take
from wren_ladder.studio.climb.takes import Told, told_of
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.teaching.models import take_rules

LOOK_BACK = timedelta(days=90)
MOST = 30  # takes of a student that are looked at, the newest
READ = (
    "day", "tempo", "passes", "asked", "told", "step__name", "step__plan__student__owner",
    "step__plan__student__grade", "step__first", "step__last",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class ToldTake:
    take: Take
    told: Told


def takes_of(students: Collection[Student], today: date) -> dict[int, list[ToldTake]]:
    """The last takes of each student, the newest first; the same number of queries for any
    number of them, their strokes left where they are."""
    rows = (
        Take.objects.filter(
            step__plan__student__in=students, day__gt=today - LOOK_BACK, day__lte=today
        )
        .annotate(
            place=Window(
                RowNumber(),
                partition_by="step__plan__student",
                order_by=[F("day").desc(), F("pk").desc()],
            )
        )
        .filter(place__lte=MOST)
        .select_related("step__plan__student")
        .only(*READ)
    )
    found: dict[int, list[Take]] = {}
    for take in rows:
        found.setdefault(take.step.plan.student_id, []).append(take)
    rules: dict[int, Rule] = {}
    for mine in found.values():
        student = mine[0].step.plan.student
        if (student.owner_id, student.grade) not in rules:
            rules |= {
                (student.owner_id, grade): rule
                for grade, rule in take_rules(student.owner_id).items()
            }
    return {
        pk: [ToldTake(take, told_of(take, rules[_whose(take)])) for take in mine]
        for pk, mine in found.items()
    }


def _whose(take: Take) -> tuple[int, int]:
    student = take.step.plan.student
    return student.owner_id, student.grade


def habits_in(takes: Iterable[ToldTake]) -> tuple[Habit, ...]:
    return habits(one.told.measured(one.take) for one in takes)
