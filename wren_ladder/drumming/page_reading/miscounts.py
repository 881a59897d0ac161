"""Whether the bars found before a line are as many as the number printed at it says."""

from collections.abc import Sequence
from dataclasses import dataclass

LIKE = 0.6  # of each figure, at least
RATHER = 0.05  # than the number that was counted
NEAR = 2  # bars by which a count may be off

# Of each figure of a number how like it is to 0, 1 and so on to 9.
Likes = tuple[tuple[float, ...], ...]


@dataclass(frozen=True, slots=True)
class Miscount:
    """At the bar with index ``place`` the page prints one number, and another is counted."""

    place: int
    printed: int
    counted: int


def nearest_number(likes: Likes, counted: int) -> int | None:
    """Which number it is, rather the one that was counted; None where it is none near it."""
    scores = {
        number: score
        for number in range(max(0, counted - NEAR), counted + NEAR + 1)
        if (score := _score(likes, number)) is not None
    }
    if not scores:
        return None
    best = max(scores, key=scores.__getitem__)
    return counted if scores[best] < scores.get(counted, 0) + RATHER else best


def _score(likes: Likes, number: int) -> float | None:
    figures = [int(figure) for figure in str(number)]
    if len(figures) != len(likes):
        return None
    found = [one[figure] for one, figure in zip(likes, figures, strict=True)]
    return sum(found) / len(found) if min(found) >= LIKE else None


def miscounts(printed: Sequence[Likes], lengths: Sequence[int]) -> list[Miscount]:
    """Where the numbers printed at some bars, and how many bars of the piece each printed bar
    is, do not go together. A first bar that is a pick-up has the number 0: all others are one
    less. A number that the next one speaks against was misread."""
    counted = [1 + sum(lengths[:place]) for place in range(len(lengths))]
    there = [place for place, likes in enumerate(printed) if likes and place]
    found, off = [], 0
    for n, place in enumerate(there):
        number = nearest_number(printed[place], counted[place] + off)
        if number is None or number == counted[place] + off:
            continue
        now = number - counted[place]
        after = there[n + 1 : n + 2]
        if all(
            nearest_number(printed[one], counted[one] + now) == counted[one] + now
            for one in after
        ):
            if not (n == 0 and now == -1):  # a pick-up
                found.append(Miscount(place, number, counted[place] + off))
            off = now
    return found
