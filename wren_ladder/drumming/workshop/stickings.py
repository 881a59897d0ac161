"""A sticking as a groove: letters laid on the drums, capitals accents, small letters ghosts.

The paradiddle and its inversions: Percussive Arts Society, "International Drum Rudiments"
(1984), see ``rudiments/listed.py``; as grooves common practice, no source.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction

from wren_ladder.drumming.chart import Bar, ChartError, Drum, Hand, Hit, Meter
from wren_ladder.drumming.notation.counts.lettered import LETTERS, lettered_hits

GRIDS = {8: Fraction(1, 2), 12: Fraction(1, 3), 16: Fraction(1, 4)}


@dataclass(frozen=True, slots=True)
class StickingGroove:
    """A name, its letters, the grade it belongs to, and where the kick goes under it."""

    name: str
    letters: str
    grade: int
    kick: str = "1 3"


def read_sticking(text: str) -> str:
    """ "R l r L R l r l" as its letters. ChartError where one is neither R nor L, or where they
    fill no bar of four."""
    letters = "".join(text.split())
    for place, letter in enumerate(letters, 1):
        if letter not in LETTERS:
            raise ChartError(
                f"'{letter}', letter {place}, is no hand; write R and L, small for ghosts"
            )
    if len(letters) not in GRIDS:
        said = ", ".join(map(str, GRIDS))
        raise ChartError(f"{len(letters)} letters fill no bar of four; write {said} of them")
    return letters


def sticking_bar(
    letters: str,
    surfaces: Mapping[Hand, Drum] | None = None,
    exceptions: Mapping[int, Drum] | None = None,
    kick: tuple[Fraction, ...] = (),
) -> Bar:
    """Each letter on the drum of its hand, but for the ``exceptions`` by their places from 0;
    on one surface where ``surfaces`` says so; the kick under it."""
    hits = lettered_hits(letters, GRIDS[len(letters)], surfaces, exceptions)
    return Bar("1", Meter(4, 4), (*hits, *(Hit(at, Drum.KICK) for at in kick)))


def on_the_pad(letters: str) -> Bar:
    """The same on one surface, before it goes to the kit."""
    return sticking_bar(letters, {Hand.RIGHT: Drum.SNARE, Hand.LEFT: Drum.SNARE})


HOUSE_STICKINGS = (
    StickingGroove("hand to hand in quavers", "RlrlRlrl", 1),
    StickingGroove("doubles in quavers", "RrLlRrLl", 2),
    StickingGroove("single paradiddle in quavers", "RlrrLrll", 2),
    StickingGroove("hand to hand, backbeats loud", "rlrlRlrlrlrlRlrl", 2),
    StickingGroove("single paradiddle", "RlrrLrllRlrrLrll", 3),
    StickingGroove("paradiddle, backbeats loud", "rlrrLrllrlrrLrll", 3),
    StickingGroove("inverted paradiddle RLLR", "RllrLrrlRllrLrrl", 4),
    StickingGroove("inverted paradiddle RRLR", "RrlrLlrlRrlrLlrl", 4),
    StickingGroove("inverted paradiddle RLRL", "RlrlLrlrRlrlLrlr", 4),
    StickingGroove("double paradiddle in triplets", "RlrlrrLrlrll", 4),
    StickingGroove("threes over four", "RllRllRlRllRllRl", 5),
    StickingGroove("fives and threes", "RlrllRllRlrllRll", 5),
)
