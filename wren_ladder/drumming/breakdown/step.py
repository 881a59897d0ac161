"""One step of a lesson plan: which bars, how often, and why."""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from wren_ladder.drumming.chart import Bar, ChartError


class StepKind(StrEnum):
    BAR = "bar"
    PAIR = "pair"
    PHRASE = "phrase"
    WHOLE = "whole"
    OWN = "own"  # made by the teacher


REPEATS = {
    StepKind.BAR: 8,
    StepKind.PAIR: 4,
    StepKind.PHRASE: 4,
    StepKind.WHOLE: 1,
    StepKind.OWN: 4,
}  # loop a bar 4 to 8 times, a join 4 to 8 (common practice, no source)


@dataclass(frozen=True, slots=True)
class Step:
    """Bars ``first`` to ``last`` (indices from 0, both played), repeated ``repeats`` times."""

    kind: StepKind
    first: int
    last: int
    repeats: int
    why: str

    def __post_init__(self) -> None:
        if not 0 <= self.first <= self.last:
            raise ChartError("a step runs from a bar to the same or a later one")
        if not 1 <= self.repeats <= 64:
            raise ChartError("a step is repeated 1 to 64 times")

    @property
    def bars(self) -> int:
        return self.last - self.first + 1


def describe(kind: StepKind, first: Bar, last: Bar, section: str = "") -> str:
    """The step's name: "Bar 5", "Bars 5 to 6", "Bars 5–8, A Verse", "Whole piece"."""
    if kind is StepKind.WHOLE:
        return "Whole piece"
    if first.number == last.number:
        return "Pick-up" if first.pickup else f"Bar {first.number}"
    joined = " to " if kind is StepKind.PAIR else "–"
    name = f"Bars {first.number}{joined}{last.number}"
    return f"{name}, {section}" if section and kind is StepKind.PHRASE else name


def bar_numbers(bars: Sequence[Bar]) -> str:
    """A list of bars in words: "2, 4 and 6"."""
    numbers = [bar.number for bar in bars]
    if len(numbers) < 2:
        return "".join(numbers)
    return f"{', '.join(numbers[:-1])} and {numbers[-1]}"
