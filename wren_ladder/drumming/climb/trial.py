"""Where to start, found by trial: the tempo to try next, until the clean limit is known."""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.chart.tempo import SLOWEST
from wren_ladder.drumming.climb.standing import Attempt

CLOSE = 4  # BPM between the fastest clean and the slowest failed try that settle it
EASY = 50  # per cent of the target, where the first trial is


@dataclass(frozen=True, slots=True)
class Trial:
    """``next`` is the tempo to try, None once ``limit``, the fastest clean tempo, is known;
    then the limit is None if nothing was clean."""

    next: int | None
    limit: int | None
    reason: str


def next_trial(tries: Sequence[Attempt], target: int) -> Trial:
    """By bisection between the fastest clean try and the slowest that failed above it.

    Common practice, no source.
    """
    clean = max((one.tempo for one in tries if one.clean), default=None)
    failed = min(
        (one.tempo for one in tries if not one.clean and one.tempo > (clean or 0)), default=None
    )
    if clean is not None and clean >= target:
        return Trial(None, clean, f"clean at {clean}, the target: it can be started there")
    if clean is None:
        if failed is None:
            first = max(SLOWEST, target * EASY // 100)
            return Trial(first, None, f"nothing tried yet: half the target, {first}")
        slower = max(SLOWEST, failed * 3 // 4)
        if failed <= SLOWEST:
            return Trial(None, None, f"not clean at {failed}: a layer simpler first")
        return Trial(slower, None, f"not clean at {failed}: a quarter slower")
    if failed is None:
        faster = target if target - clean <= CLOSE else (clean + target + 1) // 2
        return Trial(faster, clean, f"clean at {clean}: half the way to {target}")
    if failed - clean <= CLOSE:
        return Trial(None, clean, f"clean at {clean}, not at {failed}: start at {clean}")
    between = (clean + failed) // 2
    return Trial(between, clean, f"clean at {clean}, not at {failed}: between them")
