"""A plan's ladder with a bird for every step that is needed."""

from collections.abc import Sequence
from datetime import date

from wren_ladder.studio.drawing.ladder import Climber, LadderView, ladder_view
from wren_ladder.studio.plans.models import Plan, Step


def ladder_of(
    plan: Plan, steps: Sequence[Step], chosen: Step | None, today: date
) -> LadderView:
    """The ladder of the steps that are in the plan; one that only helps to build a bar is
    shown while it is chosen."""
    climbers = [
        Climber(
            step.name,
            step.standing.held,
            slowest=step.pk == plan.standing.held_by_id,
            chosen=chosen is not None and step.pk == chosen.pk,
        )
        for step in steps
        if step.is_needed or step == chosen
    ]
    exam = plan.by_when
    flag = [f"{exam:%-d %b}", _weeks((exam - today).days)] if exam else []
    starts = [step.start for step in steps if step.start]
    low = min([plan.start, *starts, plan.target])
    return ladder_view(plan.rungs_from(low), climbers, flag)


def _weeks(days: int) -> str:
    if days < 0:
        return "past"
    if days < 14:
        return "today" if not days else f"{days} day{'s' if days > 1 else ''}"
    return f"{days // 7} weeks"
