"""The log of a plan: what was tried, step by step, and what of it earns rungs."""

from collections.abc import Iterable

from wren_ladder.drumming.climb import Attempt as CoreAttempt
from wren_ladder.studio.climb.models import Attempt, Where
from wren_ladder.studio.plans.models import Plan

Log = dict[int, list[Attempt]]  # by step


def log_of(plan: Plan) -> Log:
    """Every attempt of a plan in the order it happened."""
    by_step: Log = {}
    for attempt in Attempt.objects.filter(step__plan=plan):
        by_step.setdefault(attempt.step_id, []).append(attempt)
    return by_step


def earning(plan: Plan, attempts: Iterable[Attempt]) -> list[CoreAttempt]:
    """What counts for the rungs, as the core sees it: a child's own "did it" only where the
    teacher lets it."""
    home = plan.student is None or plan.student.home_earns
    return [one.to_core() for one in attempts if home or one.where != Where.HOME]
