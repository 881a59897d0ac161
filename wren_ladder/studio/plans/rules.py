"""The core's rule of a step: which rungs it climbs, and what earns them."""

from wren_ladder.drumming.breakdown import Pace, start_for
from wren_ladder.drumming.breakdown.schools import HARD
from wren_ladder.drumming.climb import ClimbRule
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan, Step


def climb_rule(plan: Plan, step: Step) -> ClimbRule:
    """The core's rule for one step; it starts where the plan does, a hard one lower, and
    never above the target, its own or the plan's."""
    target = step.target or plan.target
    start = plan.start
    if step.rank >= HARD:
        share = plan.start * 100 // plan.target
        start = min(start, start_for(target, share, step.rank))
    rungs = plan.rungs_from(step.start or start, target)
    return ClimbRule(rungs, bars_in(step), plan.gate, plan.tolerance)


def bars_in(step: Step) -> int:
    """How many printed bars a step has; 1 if its music is gone."""
    return len(step.played) or 1


def agreed_pace(plan: Plan) -> Pace:
    """The minutes of the plan's student, shared by the pieces that they climb; the house's for
    a plan that is nobody's."""
    if plan.student is None:
        return Pace()
    student = plan.student
    pieces = student.plans.filter(
        status=Plan.Status.CLIMBING, piece__kind=Piece.Kind.PIECE
    ).count()
    return Pace(student.lesson_minutes, student.home_days, student.home_minutes, max(1, pieces))
