"""A whole part: its bars in the order they are printed."""

from collections.abc import Sequence
from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.chart.bar import Bar
from wren_ladder.drumming.chart.gradual import Gradual, graduals_of
from wren_ladder.drumming.chart.problems import ChartError
from wren_ladder.drumming.chart.shorthand import filled_in
from wren_ladder.drumming.chart.swing import STRAIGHT, Swing
from wren_ladder.drumming.chart.tempo import Tempo

DEFAULT_TEMPO = Tempo(Fraction(1), 60)
MOST_BARS = 1000


@dataclass(frozen=True, slots=True)
class Chart:
    """Valid by construction; bar numbers are unique and only the first is a pick-up.

    Bars written as repeat signs or slashes are filled in with the music they stand for.
    """

    title: str
    bars: tuple[Bar, ...]

    def __post_init__(self) -> None:
        if not self.bars:
            raise ChartError("there are no bars yet; type one, such as: hat 8ths")
        if len(self.bars) > MOST_BARS:
            raise ChartError(f"{len(self.bars)} bars; a chart has at most {MOST_BARS}")
        seen = set()
        for index, bar in enumerate(self.bars):
            if bar.number in seen:
                raise ChartError("this bar number is used twice", bar=bar.number)
            if bar.pickup and index:
                raise ChartError("only the first bar can be the pick-up", bar="0")
            seen.add(bar.number)
        object.__setattr__(self, "bars", filled_in(self.bars))

    @property
    def tempo(self) -> Tempo:
        """The mark at the start, or crotchet = 60 where the page gives none. A mark over the
        first full bar is that of its pick-up too."""
        return opening_tempo(self.bars)

    @property
    def tempos(self) -> tuple[Tempo, ...]:
        """The tempo of each bar: a mark holds on the page until the next."""
        return tempos_of(self.bars)

    @property
    def graduals(self) -> tuple[tuple[Gradual, ...], ...]:
        """What bends the tempo in each bar."""
        return graduals_of(self.bars, self.tempos)

    @property
    def swings(self) -> tuple[Swing, ...]:
        """How each bar swings: a mark holds on the page until the next."""
        return swings_of(self.bars)


def opening_tempo(bars: Sequence[Bar]) -> Tempo:
    opening = bars[:2] if bars[0].pickup else bars[:1]
    return next((bar.tempo for bar in opening if bar.tempo), DEFAULT_TEMPO)


def tempos_of(bars: Sequence[Bar]) -> tuple[Tempo, ...]:
    """The tempo of each bar of a page."""
    found, current = [], opening_tempo(bars)
    for bar in bars:
        current = bar.tempo or current
        found.append(current)
    return tuple(found)


def swings_of(bars: Sequence[Bar]) -> tuple[Swing, ...]:
    """How each bar of a page swings."""
    found, current = [], STRAIGHT
    for bar in bars:
        current = bar.swing or current
        found.append(current)
    return tuple(found)
