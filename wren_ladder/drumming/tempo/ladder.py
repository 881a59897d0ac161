"""A ladder: the tempos from an easy start to the target, in BPM of the piece's beat."""

from collections.abc import Sequence

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST

MOST_STEP = 40


def rungs(start: int, target: int, step: int = 5) -> tuple[int, ...]:
    """Strictly rising from start to target; the last step may be a short one.

    +5 BPM is common practice, no source. ChartError where no ladder can be made.
    """
    for name, bpm in (("start", start), ("target", target)):
        if not SLOWEST <= bpm <= FASTEST:
            raise ChartError(f"the {name} tempo {bpm} lies outside {SLOWEST} to {FASTEST}")
    if start > target:
        raise ChartError(f"the start tempo {start} is above the target {target}")
    if not 1 <= step <= MOST_STEP:
        raise ChartError(f"a rung is 1 to {MOST_STEP} BPM, not {step}")
    return (*range(start, target, step), target)


def rung_above(ladder: Sequence[int], bpm: int) -> int | None:
    """The first rung faster than bpm; None from the target on."""
    return next((rung for rung in ladder if rung > bpm), None)


def rung_below(ladder: Sequence[int], bpm: int) -> int:
    """The first rung slower than bpm, or the lowest."""
    return next((rung for rung in reversed(ladder) if rung < bpm), ladder[0])


def start_tempo(target: int, share: int) -> int:
    """``share`` per cent of the target, down to a multiple of 5: 120 at 75 % -> 90."""
    return max(SLOWEST, target * share // 100 // 5 * 5)
