"""The count: what is said over a bar, how a piece is counted in, which part of a beat is
played."""

from collections.abc import Iterator, Sequence
from dataclasses import replace

from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.chart.swing import QUAVER, STRAIGHT, Swing
from wren_ladder.drumming.counting.count import Count
from wren_ladder.drumming.counting.count_in import CountIn, count_in
from wren_ladder.drumming.counting.numbers import by_numbers, in_main_beats
from wren_ladder.drumming.counting.phrase import in_phrase
from wren_ladder.drumming.counting.shares import beat_shares
from wren_ladder.drumming.counting.takadimi import by_takadimi
from wren_ladder.drumming.counting.words import by_words
from wren_ladder.drumming.style import HOUSE, Compound, Counting, Style

__all__ = ["Count", "CountIn", "beat_shares", "count_bar", "count_in", "in_phrase"]


def count_bar(bar: Bar, style: Style = HOUSE, swing: Swing = STRAIGHT) -> tuple[Count, ...]:
    """Every position the count passes through by the style's school; silence is marked. In
    swung quavers the second of two is said as the third of three that it is; a beat with
    semiquavers is counted in them."""
    counts = _by_school(bar, style)
    if swing.unit == QUAVER and style.counting is Counting.NUMBERS:
        counts = tuple(_swung(counts))
    return tuple(
        replace(one, silent=False) if one.silent and bar.rolls_through(one.at) else one
        for one in counts
    )


def _swung(counts: Sequence[Count]) -> Iterator[Count]:
    for before, one, behind in zip((None, *counts), counts, (*counts[1:], None), strict=False):
        beside = {other.say for other in (before, behind) if other}
        lone = one.say == "&" and not beside & {"e", "a"}
        yield replace(one, say="let") if lone else one


def _by_school(bar: Bar, style: Style) -> tuple[Count, ...]:
    if style.counting is Counting.TAKADIMI:
        return by_takadimi(bar)
    if style.counting is Counting.WORDS:
        return by_words(bar, style.words)
    if bar.meter.compound and style.compound is Compound.BEATS:
        return in_main_beats(bar)
    return by_numbers(bar)
