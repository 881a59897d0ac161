"""What the takes of the last weeks say together, of one student or of many at once."""

from collections.abc import Collection, Iterable
from dataclasses import dataclass
from datetime import date, timedelta

from wren_ladder.drumming.takes.weeks import Habit, habits
from wren_ladder.studio.climb.models import Take
from wren_ladder.studio.climb.takes import Told, rule_of, told_of
from wren_ladder.studio.students.models import Student

LOOK_BACK = timedelta(days=90)
MOST = 60  # takes of a student that are looked at, the newest


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
        .select_related("step__plan__student", "step__plan__piece")
        .defer("strokes", "step__plan__student__notes", "step__plan__piece__notes")
    )
    found: dict[int, list[Take]] = {}
    for take in rows:
        mine = found.setdefault(take.step.plan.student_id, [])
        if len(mine) < MOST:
            mine.append(take)
    rules = {student.pk: rule_of(student) for student in students if student.pk in found}
    return {
        pk: [ToldTake(take, told_of(take, rules[pk])) for take in mine]
        for pk, mine in found.items()
    }


def habits_in(takes: Iterable[ToldTake]) -> tuple[Habit, ...]:
    return habits(one.told.measured(one.take) for one in takes)
