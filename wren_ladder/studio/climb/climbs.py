"""Every climb of a teacher with its outlook, as lists show it."""

from dataclasses import dataclass
from datetime import date

from django.contrib.auth.models import AbstractBaseUser

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


def climbs_of(teacher: AbstractBaseUser, today: date) -> list[PlanLine]:
    """Every plan that is climbed, the student at most risk first, in one query."""
    plans = (
        Plan.objects.filter(
            student__in=students_of(teacher),
            student__status=Student.Status.HERE,
            status=Plan.Status.CLIMBING,
            piece__kind=Piece.Kind.PIECE,
        )
        .select_related("owner", "student", "piece", "standing__held_by__standing")
        .defer("student__notes", "piece__notes", "piece__import_report")
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
