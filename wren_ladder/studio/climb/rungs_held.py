"""How many rungs of a step were held when, kept as text: "2026-05-01 3 2026-05-09 4"."""

from collections.abc import Sequence
from datetime import date

from wren_ladder.drumming.climb import Attempt, ClimbRule, rungs_by_day


def rungs_held(climb: ClimbRule, log: Sequence[Attempt]) -> str:
    """After a log in the order it happened; only the days on which it changed."""
    days = rungs_by_day(climb, log)
    return " ".join(f"{day.isoformat()} {many}" for day, many in days)


def gained(kept: str, first: date, last: date) -> int:
    """Rungs that are held at the end of ``last`` and were not before ``first``."""
    words = kept.split()
    before = after = 0
    for day, many in zip(words[::2], words[1::2], strict=True):
        if day > last.isoformat():
            break
        after = int(many)
        if day < first.isoformat():
            before = after
    return max(0, after - before)
