"""Where a step's climb starts: lower for what is hard."""

from wren_ladder.drumming.breakdown.schools import HARD, TOUGH
from wren_ladder.drumming.climb import start_tempo

LOWER = ((TOUGH, 20), (HARD, 10))  # from this rank on, so many points of a hundred lower
LOWEST = 30


def start_for(target: int, share: int, rank: float, grade: int | None = None) -> int:
    """The start tempo in BPM: ``share`` per cent of the target, less for what is hard.

    A target of 120 at 75 % gives 90, a hard bar 75. The points are the house's.
    """
    less = next((points for limit, points in LOWER if rank >= limit), 0)
    return min(target, start_tempo(target, max(LOWEST, share - less), grade))
