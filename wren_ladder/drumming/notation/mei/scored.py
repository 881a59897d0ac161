"""What is given to be written: a bar with its counts and hands, and what to show."""

from dataclasses import dataclass
from fractions import Fraction

from wren_ladder.drumming.chart import Bar, Hand


@dataclass(frozen=True, slots=True)
class Scored:
    """A bar to engrave: its counts as (at, syllable, silent), a hand for each hit."""

    bar: Bar
    counts: tuple[tuple[Fraction, str, bool], ...] = ()
    hands: tuple[Hand | None, ...] = ()


@dataclass(frozen=True, slots=True)
class Layout:
    """What the engraving shows beside the notes; ``apart`` puts every bar on its own
    line."""

    clef: bool = True
    counts: bool = True
    hands: bool = True
    numbers: bool = False
    apart: bool = False
    meter: bool = True  # the time signature at the start; changes are always shown
    shorthand: bool = False  # repeat signs, slashes and long rests as the page has them
