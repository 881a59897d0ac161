"""The half hour itself: what to hear, in which order, when to go on, what to decide.

Common practice, no source: first what was set, as the teacher set it; nothing is
tried more than three times in a row in a lesson.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.climb import Attempt, ClimbRule, stand
from wren_ladder.drumming.forecast import Outlook, Status
from wren_ladder.drumming.practice.week import STALE, OpenStep

MINUTES_EACH = 4  # of a lesson for one step, talk included
LEAST, MOST = 3, 12  # steps in a lesson
MOST_TRIES = 3  # at a step before the next one


@dataclass(frozen=True, slots=True)
class AgendaItem:
    """A step to hear in the lesson, and why."""

    key: int
    why: str


def agenda(
    steps: Sequence[OpenStep], was_set: Sequence[int], minutes: int
) -> tuple[AgendaItem, ...]:
    """What was set first, in the teacher's order; then the slowest, then the hardest bar, a
    join, and what is old."""
    unfinished = [step for step in steps if not step.is_there]
    left = [step for step in unfinished if step.is_left]
    slow = sorted(left, key=lambda step: step.held or 0)
    by_speed = sorted(unfinished, key=lambda step: step.held or 0)
    bars = sorted((step for step in left if step.is_bar), key=lambda step: -step.rank)
    old = [
        step
        for step in steps
        if step.idle is not None and step.idle > STALE and not step.carried
    ]
    named = {step.key: step for step in unfinished}
    found: dict[int, str] = {}
    for why, group in (
        ("was set last time", [named[key] for key in was_set if key in named]),
        ("the slowest", slow[:3]),
        ("the hardest bar left", bars[:2]),
        ("a join", [step for step in left if step.is_join][:2]),
        ("not played for a while", sorted(old, key=lambda step: -(step.idle or 0))[:2]),
        ("next slowest", slow),
        ("once its bars go", [step for step in by_speed if step.waits]),
    ):
        for step in group:
            found.setdefault(step.key, why)
    most = max(LEAST, min(MOST, minutes // MINUTES_EACH))
    return tuple(AgendaItem(key, why) for key, why in found.items())[:most]


def move_on(held_before: int | None, held_now: int | None, tries_today: int) -> str:
    """Why to go on to the next step now; empty to stay."""
    if held_now is not None and held_now > (held_before or 0):
        return f"{held_now} earned"
    if tries_today >= MOST_TRIES:
        return f"{tries_today} tries are enough for one lesson"
    return ""


def what_it_did(climb: ClimbRule, log: Sequence[Attempt], plainly: bool = False) -> str:
    """Of the last try of a log, at once and in words: "70 clean: rung 70 earned"; ``plainly``
    for a child, who knows no rungs."""
    last = log[-1]
    before, after = stand(climb, log[:-1]), stand(climb, log)
    said = f"{last.tempo} {'clean' if last.clean else 'not yet'}"
    if (after.held or 0) > (before.held or 0):
        won = f"{after.held} is yours now" if plainly else f"rung {after.held} earned"
        return f"{said}: {won}"
    if (after.held or 0) < (before.held or 0):
        lost = f"back to {after.next} for now" if plainly else f"rung {before.held} lost"
        return f"{said}: {lost}"
    if after.next != before.next:
        return f"{said}: next {after.next}"
    return f"{said}: {'kept' if plainly else 'logged'}, {after.next} again"


def in_plain_words(held: int | None, following: int, target: int, falling: bool) -> str:
    """Where a step stands, for a child."""
    if held is not None and held >= target:
        return f"You can play it at {held}: keep it that way."
    if falling:
        return f"A bit slower is fine today: {following}."
    return f"{held} is yours. Now {following}." if held else f"Begin at {following}."


def decision(seen: Outlook, falling: str, plateau: str, idle: int | None) -> str:
    """The one thing to decide at this lesson, the most pressing; empty if there is nothing.

    ``falling`` names a step that is a rung down, ``plateau`` says what is stuck, ``idle`` is
    the days without practice of the piece, None if it was never begun.
    """
    if seen.status is Status.READY:
        return "At target: the next piece, or headroom above it?"
    if idle is not None and idle > STALE:
        return f"Nothing practised for {idle} days: what is in the way?"
    if seen.status is Status.BEHIND and seen.too_much:
        return f"Behind: {seen.too_much}. Choose what matters most, or a lower target."
    if seen.forecast.stuck:
        return f"Stuck: {seen.forecast.unknown}."
    if seen.status is Status.BEHIND:
        return f"Behind, {seen.odds} in time: more days, a lower target, or one piece less?"
    if plateau:
        return f"A plateau: {plateau}"
    if falling:
        return f"{falling} fell back: a layer simpler, or slower for a week?"
    if seen.status is Status.TIGHT:
        return f"Tight, {seen.odds} in time: one practice day more?"
    if seen.status is Status.UNKNOWN:
        return "Too little data: agree on days to practise, and have them logged."
    return ""
