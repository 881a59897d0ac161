"""What was read in a printed bar, as plain values: strokes with their places in time, how sure,
and a second reading where there are two."""

from dataclasses import dataclass

from quicktions import Fraction


@dataclass(frozen=True, slots=True)
class Stroke:
    """One head: ``at`` in crotchets from the bar line, on which row (lines and spaces counted
    up from the lowest line), of which shape, with what stands at it. ``length`` is its
    note's."""

    at: Fraction
    row: int
    head: str
    length: Fraction
    x: float = 0.0  # of its middle, in pixels of the bar's ink
    ghost: bool = False
    accent: str = ""  # "accent" or "strong accent"
    mark: str = ""  # "o" or "+" above it
    graces: int = 0
    roll: bool = False  # strokes through its stem
    up: bool = True  # its stem goes up: a hand's, where feet go down
    lean: float = 0.0  # of a filled head, how much liker to a diamond than to an oval
    times: int = 1  # in its length: its stem is crossed once or twice


@dataclass(frozen=True, slots=True)
class ReadBar:
    """``length`` in crotchets; ``doubts`` say why it is not sure, none if it is; ``second`` is
    another way to read it. ``in_threes``: its beams hold three quavers, without a figure."""

    strokes: tuple[Stroke, ...]
    length: Fraction
    doubts: tuple[str, ...] = ()
    second: tuple[Stroke, ...] = ()
    in_threes: bool = False
