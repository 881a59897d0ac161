"""Progress of a piece: what each step holds, and the slowest that decides."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from wren_ladder.drumming.climb.standing import Attempt, ClimbRule, ClimbState


@dataclass(frozen=True, slots=True)
class Ready:
    """The piece's ready speed: that of its slowest needed step, never the average.

    ``speed`` is None while a step has not earned any rung yet; ``slowest`` is then the
    slowest of those begun. ``held_by`` is the index of the step that holds it back.
    """

    speed: int | None
    slowest: int | None
    held_by: int | None
    waiting: int  # steps that have not earned a rung yet


def ready_speed(held: Sequence[int | None]) -> Ready:
    """From what each needed step holds, in plan order; the earliest of equals decides."""
    begun = [bpm for bpm in held if bpm is not None]
    waiting = len(held) - len(begun)
    if not held:
        return Ready(None, None, None, 0)
    slowest = min(begun, default=None)
    if waiting:
        return Ready(None, slowest, list(held).index(None), waiting)
    return Ready(slowest, slowest, list(held).index(slowest), 0)


def held_by_day(climb: ClimbRule, log: Sequence[Attempt]) -> tuple[tuple[date, int], ...]:
    """(day, tempo held at its end) for each day on which the held tempo was known."""
    found: dict[date, int] = {}
    state = ClimbState(climb)
    for attempt in log:
        state.take(attempt)
        if state.held is not None:
            found[attempt.day] = state.held
        else:
            found.pop(attempt.day, None)
    return tuple(found.items())


def rungs_by_day(climb: ClimbRule, log: Sequence[Attempt]) -> tuple[tuple[date, int], ...]:
    """(day, how many rungs are held at its end) for each day on which that changed."""
    found: dict[date, int] = {}
    state = ClimbState(climb)
    for attempt in log:
        state.take(attempt)
        found[attempt.day] = sum(rung <= (state.held or 0) for rung in climb.rungs)
    changes, before = [], 0
    for day, many in found.items():
        if many != before:
            changes.append((day, many))
        before = many
    return tuple(changes)


def bar_tempos(
    steps: Iterable[tuple[Sequence[int], int | None]], twins: Mapping[int, int], bars: int
) -> list[int | None]:
    """The tempo each of ``bars`` bars is held at.

    ``steps`` are (the bars played, held); a bar is as good as the best step that contains it
    or a bar equal to it (``twins``: index -> index of its first equal).
    """
    best: dict[int, int] = {}
    for played, held in steps:
        for index in played:
            kind = twins[index]
            if held is not None and held > best.get(kind, 0):
                best[kind] = held
    return [best.get(twins[index]) for index in range(bars)]
