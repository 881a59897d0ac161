"""The breakdown page: what will catch this student, and the plan beside it as a tree."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from itertools import groupby
from math import ceil

from django.contrib.auth.models import AbstractBaseUser

from wren_ladder.drumming.breakdown import (
    StepKind,
    needs,
)
from wren_ladder.drumming.breakdown.chunks import sections
from wren_ladder.drumming.breakdown.schools import HARD, SIMPLE, TOUGH
from wren_ladder.drumming.findings import worth_telling
from wren_ladder.drumming.judging.judgement import BarJudgement, Judgement
from wren_ladder.drumming.performance import clock
from wren_ladder.drumming.study import Study
from wren_ladder.drumming.style import School
from wren_ladder.studio.climb.work_left import left_of, weeks_of
from wren_ladder.studio.pages.plans.lookups import plans_of
from wren_ladder.studio.plans.judged import judgement_for
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.planning import core_step
from wren_ladder.studio.plans.versions import study_for, wall_for

LEVELS = ((TOUGH, "tough"), (HARD, "hard"), (SIMPLE, "some"), (0.0, "plain"))
MOST_LISTED = 12  # bars in the list of what will catch
ROAD = "The road"  # where joins across jumps and the whole run stand


@dataclass(frozen=True, slots=True)
class Shading:
    """How hard a bar is for this student, for its card on the wall."""

    level: str
    rank: float
    own: bool
    sentences: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Row:
    """A step as the tree shows it."""

    step: Step
    go: str  # one rung, as minutes and seconds
    left: float  # minutes to the top of its ladder
    week: int | None
    early: tuple[str, ...]  # what it needs and stands before
    inside: bool  # it only helps to build a bar

    @property
    def minutes(self) -> int:
        return ceil(self.left)


@dataclass(frozen=True, slots=True)
class Line:
    """A step that the piece waits for, and folded under it what helps to build it."""

    row: Row
    helpers: tuple[Row, ...] = ()
    holds_chosen: bool = False


@dataclass(frozen=True, slots=True)
class Branch:
    name: str
    minutes: int
    lines: tuple[Line, ...]


def breakdown_context(
    plan: Plan, user: AbstractBaseUser, today: date, chosen: Step | None = None
) -> dict:
    studied, judged = judgement_for(plan)
    tree = tree_context(plan, studied, today, chosen)
    shadings = [shading(catch) for catch in judged.bars]
    others = plans_of(plan.piece.plans, user).exclude(student=None).select_related("student")
    return {
        "plan": plan,
        "piece": plan.piece,
        "rows": wall_for(plan),
        "kinds": studied.kinds,
        "catches": shadings,
        "catching": catching(studied, judged, shadings),
        "joins": [join_said(studied, join) for join in judged.joins if join.weighed],
        "schools": list(School),
        "others": [other for other in others if other.pk != plan.pk],
        "index": None,
        "chosen": chosen,
        **tree,
    }


def shading(catch: BarJudgement) -> Shading:
    level = next(name for limit, name in LEVELS if catch.rank >= limit)
    said = [f"{one.score:.1f}: {one.text}" for one in catch.weighed]
    return Shading(level, catch.rank, catch.own is not None, tuple(said) or ("nothing hard",))


def catching(studied: Study, judged: Judgement, shadings: Sequence[Shading]) -> list[dict]:
    """The bars that will catch, hardest first, equal bars once."""
    new = [
        index
        for index, bar in enumerate(studied.bars)
        if bar.twin_of is None and judged.bars[index].rank >= SIMPLE
    ]
    new.sort(key=lambda index: -judged.bars[index].rank)
    return [
        {
            "index": index,
            "number": studied.bars[index].bar.number,
            "shading": shadings[index],
            "why": [one.text for one in worth_telling(judged.bars[index].weighed)[:3]],
        }
        for index in new[:MOST_LISTED]
    ]


def join_said(studied: Study, join) -> dict:
    bars = studied.chart.bars
    return {
        "name": f"{bars[join.leaving].number} to {bars[join.landing].number}",
        "kind": join.kind.value,
        "rank": join.rank,
        "why": "; ".join(one.text for one in join.weighed),
    }


def tree_context(plan: Plan, studied: Study, today: date, chosen: Step | None = None) -> dict:
    """The plan as a tree of sections and bars, with its minutes and weeks."""
    every = list(plan.steps.placed().select_related("standing"))
    steps = [step for step in every if not step.dropped]
    there = [step for step in steps if step.music_is_there]
    left = left_of(plan, there, studied)
    laid_out = weeks_of(plan, there, left, today)
    week_of = {
        place: number
        for number, week in reversed(list(enumerate(laid_out.weeks, start=1)))
        for place in week.steps
    }
    needed = needs([core_step(step) for step in there], studied)
    rows = [
        Row(
            step=step,
            go=clock(each.go),
            left=each.work.minutes,
            week=week_of.get(place),
            early=tuple(there[other].name for other in needed[place] if other > place),
            inside=step.is_scaffold,
        )
        for place, (step, each) in enumerate(zip(there, left, strict=True))
    ]
    return {
        "branches": _branches(rows, studied, chosen),
        "schedule": laid_out,
        "total": round(sum(each.work.minutes for each in left)),
        "line_count": sum(not step.is_scaffold for step in steps),
        "helper_count": sum(step.is_scaffold for step in steps),
        "gone": [step for step in steps if not step.music_is_there],
        "dropped": [step for step in every if step.dropped],
        "revision": plan.revisions.first(),
    }


def needed_by(step: Step) -> list[str]:
    """The names of the steps of its plan that a step needs before it."""
    steps = step.plan.steps.filter(dropped=False).placed().select_related("standing")
    there = [one for one in steps if one.music_is_there]
    if step not in there:
        return []
    needed = needs([core_step(one) for one in there], study_for(step.plan))
    return [there[place].name for place in needed[there.index(step)]]


def _branches(rows: Sequence[Row], studied: Study, chosen: Step | None) -> list[Branch]:
    """The rows in plan order, under the section they belong to."""
    where = {}
    for section in sections(studied.chart.bars):
        name = section.name or f"Bars {studied.chart.bars[section.first].number} on"
        where |= dict.fromkeys(range(section.first, section.last + 1), name)

    def section_of(row: Row) -> str:
        if row.step.step_kind in (StepKind.JUMP, StepKind.WHOLE):
            return ROAD
        return where[row.step.played[-1]]

    return [
        Branch(name, ceil(sum(row.left for row in group)), _lines(group, chosen))
        for name, group in ((name, list(found)) for name, found in groupby(rows, section_of))
    ]


def _lines(rows: Sequence[Row], chosen: Step | None) -> tuple[Line, ...]:
    """What helps to build a bar under the bar's own step; by itself where that is left out."""
    bars = {row.step.first_id for row in rows if row.step.step_kind is StepKind.BAR}
    helpers: dict[int, list[Row]] = {}
    for row in rows:
        if row.inside and row.step.first_id in bars:
            helpers.setdefault(row.step.first_id, []).append(row)
    lines = []
    for row in rows:
        bar = row.step.step_kind is StepKind.BAR
        if row.inside and row.step.first_id in bars:
            continue
        mine = tuple(helpers.get(row.step.first_id, ())) if bar else ()
        lines.append(Line(row, mine, any(one.step == chosen for one in mine)))
    return tuple(lines)
