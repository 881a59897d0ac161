"""What stands near a step of a plan: what is simpler, the join into it, what it is part of."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import takewhile

from wren_ladder.drumming.breakdown.step import MEETINGS, PARTS, StepKind

MOST = 4  # of one sort; a line of eight bars is no choice to make while a student waits


@dataclass(frozen=True, slots=True)
class Placed:
    """A step by the number its plan knows it by; bars by their places, from 0."""

    key: int
    kind: StepKind
    first: int
    last: int

    def holds(self, other: "Placed") -> bool:
        return self.first <= other.first and other.last <= self.last


@dataclass(frozen=True, slots=True)
class Near:
    """Numbers of steps, each sort in the order of the plan."""

    simpler: tuple[int, ...]
    joins: tuple[int, ...]  # they end where the step begins
    larger: tuple[int, ...]


def near(step: Placed, plan: Sequence[Placed]) -> Near:
    """A bar has its parts and a layer the layers before it; a join has the bars that meet, a
    run what lies in it. What is larger is the least that holds the step. (Common practice, no
    source.)"""
    others = [one for one in plan if one.key != step.key]
    before = [one.key for one in takewhile(lambda one: one.key != step.key, plan)]
    larger = [one for one in others if _is_larger(one, step)]
    least = min((one.last - one.first for one in larger), default=0)
    return Near(
        simpler=tuple(one.key for one in others if _is_simpler(one, step, before))[-MOST:],
        joins=tuple(
            one.key
            for one in others
            if one.kind in MEETINGS and one.last == step.first and step.kind not in MEETINGS
        )[:MOST],
        larger=tuple(one.key for one in larger if one.last - one.first == least)[:1],
    )


def _is_simpler(one: Placed, step: Placed, before: list[int]) -> bool:
    if step.kind in MEETINGS:
        return one.kind is StepKind.BAR and one.first in (step.first, step.last)
    if one.kind in MEETINGS or not step.holds(one):
        return False
    if step.kind in PARTS:
        return one.kind in PARTS and one.key in before
    if step.kind is StepKind.BAR:
        return one.kind in PARTS
    return one.kind not in PARTS and not one.holds(step)


def _is_larger(one: Placed, step: Placed) -> bool:
    if step.kind in MEETINGS or one.kind in (*MEETINGS, *PARTS) or not one.holds(step):
        return False
    return step.kind in PARTS or not step.holds(one)
