"""What a plan still takes: plan, comparison, week and sheet read it here."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from wren_ladder.drumming.breakdown import (
    Ahead,
    Schedule,
    Work,
    plan_work,
    schedule,
    slowly_first,
    step_seconds,
)
from wren_ladder.drumming.breakdown.step import RUN_THROUGH
from wren_ladder.drumming.study import Study
from wren_ladder.studio.climb.forecasts import learner_of
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.planning import core_step
from wren_ladder.studio.plans.rules import agreed_pace, climb_rule


@dataclass(frozen=True, slots=True)
class Left:
    """Of one step: ``go`` are the seconds of one go at its next tempo, ``work`` what it takes
    up to the target."""

    go: float
    work: Work


def left_of(plan: Plan, steps: Sequence[Step], studied: Study) -> list[Left]:
    """What each of the steps of a plan takes, whose music is there, in plan order."""
    core = [core_step(step) for step in steps]
    ahead, goes = [], []
    for step, made in zip(steps, core, strict=True):
        climb = climb_rule(plan, step)
        standing = step.standing if hasattr(step, "standing") else None  # not stored yet
        held = standing.held if standing else None
        rungs = tuple(
            rung for rung in climb.rungs if rung > (held or 0) and not climb.is_reached(held)
        )
        ahead.append(Ahead(made, rungs, held is not None))
        tempo = standing.next_tempo if standing else None
        goes.append(step_seconds(made, studied, tempo or climb.rungs[0]))
    works = plan_work(ahead, studied, plan.gate, learner_of(plan))
    return [Left(go, work) for go, work in zip(goes, works, strict=True)]


def weeks_of(plan: Plan, steps: Sequence[Step], left: Sequence[Left], today: date) -> Schedule:
    """The work of the steps, laid out over weeks line by line."""
    ends = [step.step_kind in RUN_THROUGH for step in steps]
    works = [one.work for one in left]
    order = slowly_first(works, ends)
    return schedule(works, agreed_pace(plan), today, plan.by_when, order)
