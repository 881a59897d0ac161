"""Which bar another is best taught from: the nearest before it, or its question in a pattern of
two bars. Common practice, no source.
"""

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from itertools import pairwise

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Hit
from wren_ladder.drumming.chart.shorthand import CARRIERS
from wren_ladder.drumming.description.differences import (
    FEWEST_HITS,
    Change,
    ChangeKind,
    GrooveEnd,
    changes,
    groove_end,
)
from wren_ladder.drumming.wording import listed

ANSWER = "a pattern of two bars"
COMES_AGAIN = 2  # times that two bars come together, that make one thing of them
MOST_CHANGES = 3  # more is another bar
SMALL_CHANGE, AGAIN = 0.3, 0.4  # of a change; one that comes again at another place
LOOKED_AT = 2  # of the bars that share the most strokes, the nearest first


@dataclass(frozen=True, slots=True)
class Difference:
    """How a bar comes from bar ``source``, a place of the chart."""

    source: int
    changes: tuple[Change, ...]
    answer: bool = False  # the two always come together, as question and answer

    def spoken(self, number: str) -> str:
        """ "12 with the hat open on 4&, without the kick on 3"; "1's answer, a pattern of two
        bars"."""
        return (
            f"{number}'s answer, {ANSWER}" if self.answer else f"{number} {self.changes_spoken}"
        )

    @property
    def size(self) -> float:
        """How much is to be learned: the same change at more places is little more, and a
        section's crash hardly one, nor what is left out."""
        found: dict[str, float] = {}
        for change in self.changes:
            what = change.what_spoken
            small = change.kind in (ChangeKind.CRASH, ChangeKind.REMOVED)
            first = SMALL_CHANGE if small else 1.0
            found[what] = found[what] + AGAIN if what in found else first
        return sum(found.values())

    @property
    def changes_spoken(self) -> str:
        """ "on the ride, with the kick on 3 and the hat open on 4&, without the flam"."""
        if self.answer:
            return f"the other half of {ANSWER}"
        places: dict[str, list[str]] = {}  # the same change at several places is said once
        for change in self.changes:
            where = [change.where] if change.where else []
            places.setdefault(change.what_spoken, []).extend(where)
        said = [f"{what} on {listed(at)}" if at else what for what, at in places.items()]
        return ", ".join(_joined(said))


def _joined(said: Sequence[str]) -> list[str]:
    """What goes with "with" is said with one "with", and what goes away with one "without"."""
    found = [one for one in said if not one.startswith(("with ", "without "))]
    for word in ("with ", "without "):
        mine = [one.removeprefix(word) for one in said if one.startswith(word)]
        for place, (before, one) in enumerate(pairwise(mine), 1):
            moved, _, _ = before.partition(" moved ")
            if moved != before and one.startswith(f"{moved} on "):
                mine[place] = f"also {one.removeprefix(moved).lstrip()}"
        if any(" and " in one for one in mine[:-1]):
            found.append(f"{word}{', '.join(mine[:-1])}, and {mine[-1]}")
        elif mine:
            found.append(word + listed(mine))
    return found


def differences(bars: Sequence[Bar], kinds: Sequence[int]) -> tuple[Difference | None, ...]:
    """For each bar the one before it that it is best taught from, None where it is best
    taught by itself; equal bars (``kinds``) are compared once."""
    signs: dict[tuple, int] = {}  # of strokes, on whichever cymbal a pattern is
    # A bit for each stroke there is: two bars are compared by one operation of the processor.
    prints = {
        index: sum({1 << signs.setdefault(_sign(hit), len(signs)) for hit in bar.hits})
        for index, bar in enumerate(bars)
        if kinds[index] == index
    }
    late = _later_than(signs)
    ends = {index: groove_end(bars[index]) for index in prints}
    first: dict[int, Difference | None] = {}
    for index in prints:
        first[index] = _nearest(bars, index, prints, late, ends)
    for question, answer in answers(kinds).items():
        found = changes(bars[question], bars[answer])
        if found and len(found) > 1:
            first[answer] = Difference(question, found, answer=True)
    return tuple(first[kind] for kind in kinds)


def answers(kinds: Sequence[int]) -> dict[int, int]:
    """The bars that come in pairs, such as a clave's two: (question, answer), by kind. The
    answer never comes without its question, which seldom goes on in another way."""
    after: dict[int, Counter[int]] = {}
    before: dict[int, set[int]] = {}
    for one, other in pairwise(kinds):
        after.setdefault(one, Counter())[other] += 1
        before.setdefault(other, set()).add(one)
    found = {}
    for one, following in after.items():
        other, times = following.most_common(1)[0]
        often = times >= COMES_AGAIN and 4 * times >= 3 * following.total()
        if one < other and often and before[other] == {one}:
            found[one] = other
    return found


def _later_than(signs: Mapping[tuple, int]) -> Callable[[Fraction], int]:
    """The bits of all strokes from a time on, worked out once for each time."""

    @cache
    def late(start: Fraction) -> int:
        return sum(1 << bit for (at, *_), bit in signs.items() if at >= start)

    return late


def _sign(hit: Hit) -> tuple:
    drum = "cymbal" if hit.drum in CARRIERS.values() else hit.drum
    return (hit.at, drum, hit.touch, hit.grace, hit.roll)


def _nearest(
    bars: Sequence[Bar],
    index: int,
    prints: Mapping[int, int],
    late: Callable[[Fraction], int],
    ends: Mapping[int, GrooveEnd],
) -> Difference | None:
    bar = bars[index]
    if len(bar.hits) < FEWEST_HITS:
        return None
    apart: dict[int, int] = {}
    for other in prints:
        if other >= index:
            break
        start = ends[index].after(ends[other])
        groove = ~late(start) if start is not None else -1
        mine, theirs = prints[index] & groove, prints[other] & groove
        strokes = (mine ^ theirs).bit_count()
        kept = 2 * (mine & theirs).bit_count()
        alike = kept >= max(mine.bit_count(), theirs.bit_count()) > 0
        near = alike and strokes <= 2 * MOST_CHANGES + 1
        if near and _in_threes(bars[other], start) == _in_threes(bar, start):
            apart[other] = strokes
    # A fill hides what its groove has there, so it is told from the plainer, earlier one.
    late_first = -1 if ends[index].fill is None else 1
    likely = sorted(apart, key=lambda other: (apart[other], late_first * other))[:LOOKED_AT]
    best: Difference | None = None
    for other in likely:
        found = changes(bars[other], bars[index])
        if not found or len(found) > MOST_CHANGES:
            continue
        if best is None or len(found) < len(best.changes):
            best = Difference(other, found)
    return best


def _in_threes(bar: Bar, end: Fraction | None) -> bool:
    """Is the bar divided in threes, as far as ``end``? A triplet bar is not taught as a dotted
    one."""
    beat = bar.meter.count_length
    return any(
        (hit.at / beat).denominator % 3 == 0 for hit in bar.hits if end is None or hit.at < end
    )
