"""What lies along the road: stretches without a turn, what follows what."""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.roadmap.walk import Visit


@dataclass(frozen=True, slots=True)
class Leg:
    """Bars ``first`` to ``last`` (indices) played straight on; ``time`` of its first bar."""

    first: int
    last: int
    time: int
    start: int  # how many bars are played before it


def legs(visits: Sequence[Visit]) -> tuple[Leg, ...]:
    """The road as stretches without a turn."""
    found: list[Leg] = []
    begin = 0
    for here in range(1, len(visits) + 1):
        if here == len(visits) or visits[here].index != visits[here - 1].index + 1:
            first = visits[begin]
            found.append(Leg(first.index, visits[here - 1].index, first.time, begin))
            begin = here
    return tuple(found)


def what_follows(visits: Sequence[Visit], index: int, time: int) -> int | None:
    """The bar played after bar ``index`` comes the ``time``-th time; None at the end.

    ValueError if it never comes that often.
    """
    for here, visit in enumerate(visits):
        if (visit.index, visit.time) == (index, time):
            return visits[here + 1].index if here + 1 < len(visits) else None
    raise ValueError(f"bar {index} is not played {time} times")
