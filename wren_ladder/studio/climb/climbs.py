"""Every climb of a teacher with its outlook, as lists show it."""

from collections.abc import Collection, Iterable
from dataclasses import dataclass
from datetime import date

from django.contrib.auth.models import AbstractBaseUser
from django.db.models import Prefetch, QuerySet

from wren_ladder.drumming.forecast import Outlook
from wren_ladder.studio.climb.forecasts import outlook_of
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of


@dataclass(frozen=True, slots=True)
class PlanLine:
    """One plan as a line of a list."""

    plan: Plan
    seen: Outlook


def climbed_by(teacher: AbstractBaseUser) -> QuerySet[Plan]:
    """The plans of pieces that the teacher's students climb."""
    return Plan.objects.filter(
        student__in=students_of(teacher),
        student__status=Student.Status.HERE,
        status=Plan.Status.CLIMBING,
        piece__kind=Piece.Kind.PIECE,
    )


def climbs_of(
    teacher: AbstractBaseUser, today: date, among: Collection[int] | None = None
) -> list[PlanLine]:
    """Every plan that is climbed, or those of the students ``among``, the student at most risk
    first, in as many queries for many as for one."""
    plans = climbed_by(teacher)
    if among is not None:
        plans = plans.filter(student__in=among)
    plans = (
        plans.select_related("standing__held_by__standing")
        .prefetch_related(  # one of each for all the plans that share it
            Prefetch("student", Student.objects.defer("notes", "report_words")),
            Prefetch(
                "piece", Piece.objects.defer("notes", "import_report", "made_of", "typed")
            ),
        )
        .defer("standing__held_by__watch", "standing__held_by__why")
    )
    climbs = [PlanLine(plan, outlook_of(plan, today)) for plan in plans]
    worst: dict[int, tuple[int, int]] = {}
    for climb in climbs:
        pk = climb.plan.student_id
        worst[pk] = min(worst.get(pk, climb.seen.risk), climb.seen.risk)
    return sorted(
        climbs,
        key=lambda one: (worst[one.plan.student_id], one.plan.student.name, one.seen.risk),
    )


def by_student(climbs: Iterable[PlanLine]) -> dict[int, list[PlanLine]]:
    """In the same order."""
    found: dict[int, list[PlanLine]] = {}
    for climb in climbs:
        found.setdefault(climb.plan.student_id, []).append(climb)
    return found
