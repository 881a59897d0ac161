"""Shorthand of the page: signs that repeat bars, slashes, and many bars of rest in one.

A bar written as a sign holds the music it stands for, so that it is counted, stuck and
played like any other; the sign says only how the page writes it.
"""

from collections.abc import Sequence
from dataclasses import replace

from quicktions import Fraction

from wren_ladder.drumming.chart.bar import Bar
from wren_ladder.drumming.chart.drum import SECTION_CRASHES, Drum, Family
from wren_ladder.drumming.chart.hit import Hit
from wren_ladder.drumming.chart.marks import HAIRPINS, Mark, MarkKind
from wren_ladder.drumming.chart.problems import ChartError

# The cymbals that carry a bar, each with the plain way to play it.
CARRIERS = {
    drum.surface: drum
    for drum in Drum
    if drum.row.keeps_time and drum.row.family in (Family.HAT, Family.CYMBAL)
}


def filled_in(bars: Sequence[Bar]) -> tuple[Bar, ...]:
    """The bars with the music their signs and slashes stand for.

    ChartError where a sign has nothing before it to repeat.
    """
    found: list[Bar] = []
    for bar in bars:
        found.append(fill_in(bar, found))
    followers = [*found[1:], None]
    return tuple(_tied(bar, after) for bar, after in zip(found, followers, strict=True))


def fill_in(bar: Bar, before: Sequence[Bar]) -> Bar:
    """``bar`` with what its sign stands for; ``before`` are the bars of the page so far."""
    if bar.again:
        return _repeat(bar, before)
    slashes = next((mark for mark in bar.marks if mark.kind is MarkKind.SLASHES), None)
    if slashes is None or not before or any(hit.at >= slashes.at for hit in bar.hits):
        return bar
    groove = before[-1]
    if (groove.meter, groove.length) != (bar.meter, bar.length):
        return bar
    carried = [hit for hit in without_crash(groove.hits) if hit.at >= slashes.at]
    inside = [hit for hit in bar.hits if not hit.roll or hit.end <= slashes.at]
    return replace(bar, hits=(*inside, *carried))


def _repeat(bar: Bar, before: Sequence[Bar]) -> Bar:
    if len(before) < bar.again:
        many = "is no bar" if bar.again == 1 else "are no two bars"
        raise ChartError(f"there {many} before it to repeat", bar=bar.number)
    source = before[-bar.again]
    if source.pickup:
        raise ChartError("a sign can't repeat the pick-up", bar=bar.number)
    if source.meter != bar.meter:
        text = f"it is in {bar.meter}, the bar it repeats in {source.meter}"
        raise ChartError(text, bar=bar.number)
    plain = without_crash(source.hits)
    crash = bar.crash_again and plain != source.hits
    hits = source.hits if crash else plain
    return replace(bar, hits=hits, length=source.length, crash_again=crash)


def without_crash(hits: tuple[Hit, ...]) -> tuple[Hit, ...]:
    """The hits of a bar played again: a crash on its first beat marked the section and is
    not repeated; the cymbal that carries the bar takes its place. Common practice, no
    source."""
    first = [hit for hit in hits if hit.at == 0]
    crashes = [hit for hit in first if hit.drum.surface in SECTION_CRASHES]
    if not crashes:
        return hits
    kept = tuple(hit for hit in hits if hit not in crashes)
    carrier = next((hit.drum.surface for hit in kept if hit.drum.surface in CARRIERS), None)
    if carrier is None or any(hit.drum.surface is carrier for hit in first):
        return kept
    cymbal = Hit(Fraction(0), CARRIERS[carrier], hand=crashes[0].hand)
    return tuple(sorted((*kept, cymbal), key=lambda hit: (hit.at, hit.drum.page_order)))


def _tied(bar: Bar, after: Bar | None) -> Bar:
    """A roll is tied over the bar line only to the same drum's roll there."""
    if not any(hit.roll and hit.roll.tied for hit in bar.hits):
        return bar
    rolling = {hit.drum for hit in after.hits if hit.at == 0 and hit.roll} if after else set()
    hits = (
        replace(hit, roll=replace(hit.roll, tied=False))
        if hit.roll and hit.roll.tied and hit.drum not in rolling
        else hit
        for hit in bar.hits
    )
    return replace(bar, hits=tuple(hits))


def tied_to(hit: Hit, after: Hit) -> bool:
    """Does the roll of ``hit`` go on over the bar line in ``after``, the next bar's?"""
    return bool(hit.roll and hit.roll.tied and after.drum is hit.drum and after.roll)


def slashed_through(bar: Bar) -> bool:
    """Is the whole bar written as slashes?"""
    return any(mark.kind is MarkKind.SLASHES and not mark.at for mark in bar.marks)


def rest_runs(bars: Sequence[Bar]) -> tuple[tuple[int, int], ...]:
    """(first, last) of each bar or run of bars that the page writes as one.

    Bars of rest in a row are one multi-bar rest, unless something stands at one of them.
    """
    runs: list[tuple[int, int]] = []
    for index, bar in enumerate(bars):
        if runs and _rests(bar) and not _begins(bar) and index - 1 == runs[-1][1]:
            before = bars[index - 1]
            if _rests(before) and not _stops(before) and before.meter == bar.meter:
                runs[-1] = (runs[-1][0], index)
                continue
        runs.append((index, index))
    return tuple(runs)


def _rests(bar: Bar) -> bool:
    full = bar.length == bar.meter.length
    return not (bar.hits or bar.marks or bar.again or bar.endings or bar.note) and full


def _begins(bar: Bar) -> bool:
    signs = bar.section or bar.tempo or bar.repeat_start
    return bool(signs or bar.segno or bar.segno_2 or bar.coda or bar.coda_2)


def _stops(bar: Bar) -> bool:
    leaves = bar.to_coda or bar.to_coda_2 or bar.fine or bar.jump
    return bool(bar.repeat_passes or leaves)


def dynamic_after(bar: Bar, before: str) -> str:
    """The dynamic that holds after a bar; none where it is on its way to another."""
    said = [mark for mark in bar.marks if mark.kind is MarkKind.DYNAMIC]
    since = said[-1].at if said else Fraction(0)
    moving = any(mark.kind in HAIRPINS and mark.at >= since for mark in bar.marks)
    return "" if moving else said[-1].text if said else before


def marks_copied(bar: Bar, before: Sequence[Bar]) -> tuple[Mark, ...]:
    """The marks that a bar like this one has behind those ``before``: all but a dynamic at its
    start that holds already."""
    opening = [mark for mark in bar.marks if mark.kind is MarkKind.DYNAMIC and not mark.at]
    if not opening:
        return bar.marks
    holds = ""
    for other in before:
        holds = dynamic_after(other, holds)
    return tuple(mark for mark in bar.marks if mark not in opening or mark.text != holds)
