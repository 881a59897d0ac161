"""Counting by numbers: 1 e & a, 1 trip let; silent positions are said too, marked so.

Common practice, no source.
"""

from dataclasses import dataclass
from fractions import Fraction

from wren_ladder.drumming.chart import Bar

HALF, QUARTER, THIRD = Fraction(1, 2), Fraction(1, 4), Fraction(1, 3)
SAID = {
    QUARTER: "e",
    HALF: "&",
    3 * QUARTER: "a",
    THIRD: "trip",
    2 * THIRD: "let",
}
UNNAMED = "·"  # a hit between all syllables still has its place in the count


@dataclass(frozen=True, slots=True)
class Count:
    """One syllable; ``at`` in crotchets from where the bar starts."""

    at: Fraction
    say: str
    silent: bool  # nothing is struck here
    main: bool  # a number, not a part of one


def count_bar(bar: Bar) -> tuple[Count, ...]:
    """Every position the count passes through, silent ones included.

    Over 4 the whole bar is counted in halves, or in quarters once any hit needs them; a
    beat with triplets is counted in thirds. Over 8 each quaver has a number.
    """
    count_length = bar.meter.count_length
    offset = bar.count_offset
    struck = {bar.meter.count_at(hit.at + offset) for hit in bar.hits}
    first, _ = bar.meter.count_at(offset)
    ends = (offset + bar.length) / count_length
    quarters = any(part in (QUARTER, 3 * QUARTER) for _, part in struck)
    halves = bar.meter.unit < 8 or any(part == HALF for _, part in struck)
    found = []
    for count in range(first, 1 - (-ends.numerator // ends.denominator)):
        parts = {part for where, part in struck if where == count}
        shown = _shown(parts, halves, quarters)
        for part in sorted(parts | shown):
            at = (count - 1 + part) * count_length - offset
            if not 0 <= at < bar.length:
                continue
            say = SAID.get(part, UNNAMED) if part else str(count)
            found.append(Count(at, say, part not in parts, not part))
    return tuple(found)


def _shown(parts: set[Fraction], halves: bool, quarters: bool) -> set[Fraction]:
    """The parts of a count that are said whether or not they are struck."""
    thirds = {THIRD, 2 * THIRD}
    binary = {QUARTER, HALF, 3 * QUARTER}
    shown = {Fraction(0)}
    if parts & thirds:
        shown |= thirds
        if not parts & binary:
            return shown
    if halves:
        shown.add(HALF)
    if quarters:
        shown |= binary
    return shown
