"""The needed steps of a plan as weeks and lessons see them: worked out when the log or the plan
changes and kept beside it, so that no list of many students reads their steps."""

from collections.abc import Mapping, Sequence
from dataclasses import astuple, replace
from datetime import date

from wren_ladder.drumming.breakdown import StepKind, reached
from wren_ladder.drumming.breakdown.step import MEETINGS, RUN_THROUGH, RUNS
from wren_ladder.drumming.climb import rung_below
from wren_ladder.drumming.practice.week import OpenStep
from wren_ladder.studio.climb.forecasts import is_carried
from wren_ladder.studio.climb.models import StepStanding
from wren_ladder.studio.pieces.equal_bars import EqualBars, equal_bars
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.rules import climb_rule

IDLE = 7  # where an OpenStep has the days since it was played, its row has the day itself


def open_steps(plan: Plan, today: date) -> tuple[OpenStep, ...]:
    """As kept; none of a plan that is being made."""
    rows = plan.opened.steps if hasattr(plan, "opened") else ()
    return tuple(_from_row(row, today) for row in rows)


def _from_row(row: Sequence, today: date) -> OpenStep:
    day = row[IDLE]
    idle = (today - date.fromisoformat(day)).days if day else None
    return OpenStep(*row[:IDLE], idle, *row[IDLE + 1 :])


def rows_to_keep(
    plan: Plan, steps: Sequence[Step], standings: Mapping[int, StepStanding]
) -> list[list]:
    """The needed ones of all steps of a plan, where they stand by ``standings``, as
    ``open_steps`` reads them."""
    needed = [step for step in steps if step.is_needed]
    if not needed:
        return []
    equal = equal_bars(plan.piece)
    climbing = {step.pk: standings[step.pk] for step in needed}
    to_build = {
        equal.kinds[step.first.position]
        for step in needed
        if step.step_kind is StepKind.BAR and climbing[step.pk].held is None
    }
    opened = [_open(plan, step, climbing, equal, to_build) for step in needed]
    now = reached(
        [step.step_kind in RUN_THROUGH for step in needed],
        [one.held is not None for one in opened],
        [one.is_there or one.carried for one in opened],
    )
    rows = []
    for one, here in zip(opened, now, strict=True):
        last_day = climbing[one.key].last_day
        row = list(astuple(replace(one, reached=here)))
        row[IDLE] = last_day.isoformat() if last_day else None
        rows.append(row)
    return rows


def _open(
    plan: Plan,
    step: Step,
    climbing: Mapping[int, StepStanding],
    equal: EqualBars,
    to_build: set[int],
) -> OpenStep:
    """``to_build`` are the kinds of bars whose steps hold nothing yet; ``climbing`` where each
    needed step stands."""
    bar = step.step_kind is StepKind.BAR
    climb, standing = climb_rule(plan, step), climbing[step.pk]
    held = standing.held
    easy = climb.rungs[0] if held is None else rung_below(climb.rungs, held)
    return OpenStep(
        key=step.pk,
        name=step.name,
        held=held,
        next=standing.next_tempo or climb.rungs[0],
        target=climb.target,
        easy=easy,
        rank=step.rank,
        is_there=climb.is_reached(held),
        is_join=step.step_kind in MEETINGS,
        is_bar=bar and step.first.position not in equal.pickups,  # a pick-up is soon learned
        is_line=step.step_kind in RUNS,
        waits=not bar and any(equal.kinds[place] in to_build for place in step.played),
        carried=is_carried(standing, climbing),
    )


def parts_to_keep(steps: Sequence[Step], standings: Mapping[int, StepStanding]) -> list[list]:
    """[a part or layer of a bar; the bar's step where the part is the next that builds it up,
    0 where not], in plan order: a bar that holds nothing has its first part that does not."""
    there = [step for step in steps if step.music_is_there]
    waiting = {
        step.first_id: step.pk
        for step in there
        if step.step_kind is StepKind.BAR
        and not step.dropped
        and standings[step.pk].held is None
    }
    found = []
    for step in there:
        if step.is_scaffold:
            helps = not step.dropped and standings[step.pk].held is None
            found.append([step.pk, waiting.pop(step.first_id, 0) if helps else 0])
    return found
