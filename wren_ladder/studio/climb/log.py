"""The log of a plan: what was tried, step by step."""

from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.plans.models import Plan

Log = dict[int, list[Attempt]]  # by step


def log_of(plan: Plan) -> Log:
    """Every attempt of a plan in the order it happened."""
    by_step: Log = {}
    for attempt in Attempt.objects.filter(step__plan=plan):
        by_step.setdefault(attempt.step_id, []).append(attempt)
    return by_step
