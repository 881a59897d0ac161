"""Counting by numbers: 1 e & a, 1 trip let; silent positions are said too, marked so.

Common practice, no source.
"""

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.counting.count import Count

HALF, QUARTER, THIRD = Fraction(1, 2), Fraction(1, 4), Fraction(1, 3)
SIXTHS = tuple(Fraction(part, 6) for part in range(6))
SAID = {
    QUARTER: "e",
    HALF: "&",
    3 * QUARTER: "a",
    THIRD: "trip",
    2 * THIRD: "let",
    SIXTHS[1]: "ta",
    SIXTHS[5]: "ta",
}
NAMED = (1, 2, 3, 4, 6, 8, 12, 16, 24)  # divisions of a count whose parts have syllables
UNNAMED = "·"  # a hit between all syllables still has its place in the count


def by_numbers(bar: Bar) -> tuple[Count, ...]:
    """Every position the count passes through, silent ones included.

    Over 4 the whole bar is counted in halves, or in quarters once any hit needs them; a
    beat with triplets is counted in thirds, and so are the plain and empty beats of a bar
    that is divided in no other way. Over 8 each quaver has a number.
    """
    count_length = bar.meter.count_length
    offset = bar.count_offset
    struck = {bar.meter.count_at(hit.at + offset) for hit in bar.hits}
    first, _ = bar.meter.count_at(offset)
    ends = (offset + bar.length) / count_length
    quarters = any(part in (QUARTER, 3 * QUARTER) for _, part in struck)
    halves = bar.meter.unit < 8 or any(part == HALF for _, part in struck)
    divided = {part for _, part in struck if part}
    in_threes = bool(divided) and all(part.denominator == 3 for part in divided)
    found = []
    for count in range(first, 1 - (-ends.numerator // ends.denominator)):
        parts = {part for where, part in struck if where == count}
        shown = _shown(parts, halves, quarters)
        if in_threes:
            shown = {Fraction(0), THIRD, 2 * THIRD}
        for part in sorted(parts | shown):
            at = (count - 1 + part) * count_length - offset
            if not 0 <= at < bar.length:
                continue
            say = _part(part, _in_sixths(parts)) if part else str(count)
            found.append(Count(at, say, part not in parts, not part))
    return tuple(found)


def _shown(parts: set[Fraction], halves: bool, quarters: bool) -> set[Fraction]:
    """The parts of a count that are said whether or not they are struck."""
    thirds = {THIRD, 2 * THIRD}
    binary = {QUARTER, HALF, 3 * QUARTER}
    shown = {Fraction(0)}
    if any(part.denominator not in NAMED for part in parts):
        return shown  # a quintuplet has no & inside
    if _in_sixths(parts):
        return shown | set(SIXTHS)
    if parts & thirds:
        shown |= thirds
        if not parts & binary:
            return shown
    if halves:
        shown.add(HALF)
    if quarters:
        shown |= binary
    return shown


def in_main_beats(bar: Bar) -> tuple[Count, ...]:
    """Compound time in main beats with thirds: 1 trip let 2 trip let; in sixths where
    semiquavers are struck: 1 ta trip ta let ta."""
    found, offset = [], bar.count_offset
    for start, length, hits in bar.by_beat():
        number = 1 + sum(begin < start + offset for begin in bar.meter.beat_starts)
        shares = {(hit.at - start) / length: hit for hit in hits}
        thirds = {Fraction(0), THIRD, 2 * THIRD}
        shown = set(SIXTHS) if set(shares) & {SIXTHS[1], HALF, SIXTHS[5]} else thirds
        for share in sorted(shown | set(shares)):
            say = _part(share, True) if share else str(number)
            found.append(Count(start + share * length, say, share not in shares, not share))
    return tuple(found)


def _in_sixths(parts: set[Fraction]) -> bool:
    """A half among thirds is one of six, as are the parts between."""
    if parts & {SIXTHS[1], SIXTHS[5]}:
        return True
    return HALF in parts and bool(parts & {THIRD, 2 * THIRD}) and QUARTER not in parts


def _part(share: Fraction, in_sixths: bool) -> str:
    """The syllable of a part; half a beat has another name among sixths."""
    return "ta" if in_sixths and share == HALF else SAID.get(share, UNNAMED)
