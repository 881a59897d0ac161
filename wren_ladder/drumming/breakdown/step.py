"""One step of a lesson plan: which bars, in which layer, how often, and why."""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from wren_ladder.drumming.building.layers import LayerCode, in_layer
from wren_ladder.drumming.building.parts import (
    Part,
    figure_alone,
    first_half,
    first_note,
    second_half,
)
from wren_ladder.drumming.chart import Bar, ChartError

MOST_REPEATS, MOST_GAP = 64, 4


class StepKind(StrEnum):
    """From the smallest to the whole run."""

    FIGURE = "figure"  # a new figure by itself
    NOTES = "notes"  # note by note
    HALF = "half"
    LAYER = "layer"
    BAR = "bar"
    ON = "on"  # a bar and the first note of the next
    PAIR = "pair"  # the join of two bars
    JUMP = "jump"  # the join across a turn of the road
    PHRASE = "phrase"
    SECTION = "section"
    WHOLE = "whole"
    OWN = "own"  # made by the teacher


# Parts of one bar, and straight runs of several.
PARTS = (StepKind.FIGURE, StepKind.NOTES, StepKind.HALF, StepKind.LAYER)
RUNS = (StepKind.PHRASE, StepKind.SECTION)
RUN_THROUGH = (*RUNS, StepKind.WHOLE)  # and all of it
# What is played is made of the bars, and is not the bars themselves.
PLAYED_OTHERWISE = (StepKind.FIGURE, StepKind.HALF, StepKind.LAYER, StepKind.ON)
# Two bars that meet: ``first`` is the one that is left, ``last`` the one landed in.
MEETINGS = (StepKind.ON, StepKind.PAIR, StepKind.JUMP)


@dataclass(frozen=True, slots=True)
class Step:
    """Bars ``first`` to ``last`` (indices from 0, both played), repeated ``repeats`` times
    with ``gap`` empty bars between tries."""

    kind: StepKind
    first: int
    last: int
    repeats: int
    why: str
    part: str = ""  # the code of its half or of its layer, the beat of its figure
    gap: int = 0
    watch: tuple[str, ...] = ()  # what to watch for
    rank: float = 0.0

    def __post_init__(self) -> None:
        if self.first < 0 or (self.first > self.last and self.kind not in MEETINGS):
            raise ChartError("a step runs from a bar to the same or a later one")
        if not 1 <= self.repeats <= MOST_REPEATS:
            raise ChartError(f"a step is repeated 1 to {MOST_REPEATS} times")
        if not 0 <= self.gap <= MOST_GAP:
            raise ChartError(f"between tries there are 0 to {MOST_GAP} empty bars")

    @property
    def played(self) -> tuple[int, ...]:
        """The bars it plays, in order."""
        return places(self.kind, self.first, self.last)


def places(kind: StepKind, first: int, last: int) -> tuple[int, ...]:
    """The bars a step of this kind plays; across a jump there is nothing between the two."""
    if kind in MEETINGS:
        return (first, last)
    return tuple(range(first, last + 1))


def music(kind: StepKind, part: str, bars: Sequence[Bar]) -> tuple[Bar, ...]:
    """What is really played of the bars of a step."""
    if kind is StepKind.HALF:
        return ((first_half if part == Part.FIRST else second_half)(bars[0]),)
    if kind is StepKind.FIGURE:
        return (figure_alone(bars[0], part),)
    if kind is StepKind.LAYER:
        return (in_layer(bars[0], part),)
    if kind is StepKind.ON:
        return (bars[0], first_note(bars[1]))
    return tuple(bars)


def describe(kind: StepKind, part: str, first: Bar, last: Bar, section: str = "") -> str:
    """The step's name: "Bar 5, + flams", "Bars 5 to 6", "From 8 to 1", "Bars 5–8"."""
    if kind is StepKind.WHOLE:
        return "Whole piece"
    name = name_of(first)
    if kind is StepKind.FIGURE:
        return f"{name}, the figure of beat {part}"
    if kind is StepKind.NOTES:
        return f"{name}, note by note"
    if kind is StepKind.HALF:
        return f"{name}, {Part(part).label}"
    if kind is StepKind.LAYER:
        return f"{name}, {LayerCode(part).label}"
    if kind is StepKind.ON:
        return f"{name} and the next note"
    if kind is StepKind.JUMP:
        return f"From {first.number} to {last.number}"
    if first.number == last.number:
        return name
    joined = " to " if kind is StepKind.PAIR else "–"
    name = f"Bars {first.number}{joined}{last.number}"
    told = section and kind in (StepKind.PHRASE, StepKind.SECTION)
    return f"{name}, {section}" if told else name


def name_of(bar: Bar) -> str:
    return "Pick-up" if bar.pickup else f"Bar {bar.number}"
