"""What is given to be written: a bar with its counts and hands, and what to show."""

from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Hand, Mark, Tempo


@dataclass(frozen=True, slots=True)
class Scored:
    """A bar to engrave: its counts as (at, syllable, silent), a hand for each hit;
    ``goes_on`` on the next line, without a bar line."""

    bar: Bar
    counts: tuple[tuple[Fraction, str, bool], ...] = ()
    hands: tuple[Hand | None, ...] = ()
    goes_on: bool = False


@dataclass(frozen=True, slots=True)
class Around:
    """What the page brings into some bars from before them, and how it closes behind them.

    ``open_spans`` began earlier and go on, for what is left of them; ``hat_open``: the hat
    was left open, so that its next closed stroke carries the +; ``dynamic`` is the one that
    holds, which is not printed again; ``closes`` is the last bar line: "single", "dbl" before
    a section, "end" of the piece.
    """

    tempo: Tempo | None = None
    open_spans: tuple[Mark, ...] = ()
    hat_open: bool = False
    dynamic: str = ""
    closes: str = "single"


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
