"""Plateaus: practice that no longer wins a rung, and what to do about it, in order.

Common practice, no source.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from wren_ladder.drumming.climb.ladder import rung_below
from wren_ladder.drumming.climb.standing import Attempt, ClimbRule, ClimbState

LONG = 3  # practice days without a new rung
PATIENCE = 2  # practice days that each advice is given


@dataclass(frozen=True, slots=True)
class Plateau:
    """``days`` of practice since ``since`` have won no rung; ``advice`` in order, of which
    ``now`` is the place of the one to follow today."""

    since: date
    days: int
    advice: tuple[str, ...]
    now: int

    @property
    def spoken(self) -> str:
        return f"{self.days} practice days without a new rung: {self.advice[self.now]}"


def find_plateau(
    climb: ClimbRule, log: Sequence[Attempt], layered: bool = True, divisible: bool = True
) -> Plateau | None:
    """None while rungs are won, before the first, and at the target.

    A step that is not ``layered`` has no layer to go down to, one that is not ``divisible``
    no smaller chunk.
    """
    state = ClimbState(climb)
    best: int | None = None
    won: date | None = None
    since: list[date] = []
    for attempt in log:
        state.take(attempt)
        if state.held is not None and (best is None or state.held > best):
            best, won, since = state.held, attempt.day, []
        elif _is_practice(attempt, won) and attempt.day not in since[-1:]:
            since.append(attempt.day)
    if best is None or climb.is_reached(best) or len(since) < LONG:
        return None
    advice = _advice(climb, state.held or climb.rungs[0], layered, divisible)
    now = min((len(since) - LONG) // PATIENCE, len(advice) - 1)
    return Plateau(since[0], len(since), advice, now)


def _is_practice(attempt: Attempt, won: date | None) -> bool:
    """A try of the step itself, on a later day than its last rung."""
    return won is not None and attempt.day > won and not attempt.by


def _advice(climb: ClimbRule, held: int, layered: bool, divisible: bool) -> tuple[str, ...]:
    two_down = rung_below(climb.rungs, rung_below(climb.rungs, held))
    layer = "a layer down: leave the ornaments out for a day, then bring them back"
    chunk = "a smaller chunk: half of it, then the join"
    return (
        *([layer] if layered else []),
        f"two rungs down, to {two_down}, until it is easy there",
        "only the two limbs that fail together, then all",
        *([chunk] if divisible else []),
        "two days of rest from this step",
        "ask at the lesson: something else is in the way",
    )
