"""A sticking as a groove: letters laid on the drums, capitals accents, small letters ghosts.

The paradiddle and its inversions: Percussive Arts Society, "International Drum Rudiments"
(1984), see ``rudiments/listed.py``; as grooves common practice, no source.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, ChartError, Drum, Hand, Hit
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.grades import HOUSE_SYLLABUS, Syllabus, hardest
from wren_ladder.drumming.notation.counts.lettered import (
    LETTERS,
    USUAL,
    Lettered,
    read_lettered,
)
from wren_ladder.drumming.notation.counts.tokens import tokens
from wren_ladder.drumming.workshop.patterns import FOUR

# What each hand may lie on, the usual first.
RIGHT_SURFACES = (Drum.HIHAT, Drum.RIDE, Drum.RIDE_BELL, Drum.TOM_FLOOR, Drum.COWBELL)
LEFT_SURFACES = (Drum.SNARE, Drum.CROSS_STICK, Drum.TOM_HIGH, Drum.HIHAT)
PAD = {Hand.RIGHT: Drum.SNARE, Hand.LEFT: Drum.SNARE}


@dataclass(frozen=True, slots=True)
class StickingGroove:
    """A name, its letters, what of the table of grades it asks for, and where the kick goes
    under it."""

    name: str
    letters: str
    asks: tuple[str, ...]
    kick: str = "1 3"

    def grade(self, syllabus: Syllabus = HOUSE_SYLLABUS) -> int:
        return hardest(self.asks, syllabus)


def read_sticking(text: str) -> Lettered:
    """ "R l r L R l r l, floor 4 4&" in a bar of four. ChartError where a letter is neither R
    nor L, where the letters fill no bar, or where the drum behind the comma is none."""
    words = tokens(text, 1)
    letters = "".join(text.partition(",")[0].split())
    for place, letter in enumerate(letters, 1):
        if letter not in LETTERS:
            raise ChartError(
                f"'{letter}', letter {place}, is no hand; write R and L, small for ghosts"
            )
    return read_lettered(words, Positions.of(FOUR))


def written(sticking: Lettered) -> str:
    """The same again as text, said in one way only: "RlrLRlrl, floor 4 4&"."""
    frame = Positions.of(FOUR)
    places: dict[Drum, list[str]] = {}
    for place, drum in sticking.elsewhere:
        places.setdefault(drum, []).append(frame.say(place * sticking.step))
    drums = (f", {drum.row.typed} {' '.join(said)}" for drum, said in places.items())
    return sticking.letters + "".join(drums)


def sticking_bar(
    sticking: Lettered,
    kick: tuple[Fraction, ...] = (),
    surfaces: Mapping[Hand, Drum] = USUAL,
) -> Bar:
    """Each letter on the drum of its hand, with the kick under it."""
    return FOUR.in_notes(
        hits=(*sticking.hits(surfaces), *(Hit(at, Drum.KICK) for at in kick)), marks=()
    )


def on_the_pad(sticking: Lettered) -> Bar:
    """The same on one surface, before it goes to the kit."""
    return sticking_bar(Lettered(sticking.letters, sticking.step), surfaces=PAD)


HOUSE_STICKINGS = (
    StickingGroove("hand to hand in quavers", "RlrlRlrl", ("two quavers", "accents")),
    StickingGroove("doubles in quavers", "RrLlRrLl", ("double stroke open roll",)),
    StickingGroove("single paradiddle in quavers", "RlrrLrll", ("single paradiddle",)),
    StickingGroove(
        "hand to hand, backbeats loud", "rlrlRlrlrlrlRlrl", ("four semiquavers", "accents")
    ),
    StickingGroove("single paradiddle", "RlrrLrllRlrrLrll", ("paradiddle groove",)),
    StickingGroove(
        "paradiddle, backbeats loud", "rlrrLrllrlrrLrll", ("paradiddle groove", "accents")
    ),
    StickingGroove("inverted paradiddle RLLR", "RllrLrrlRllrLrrl", ("inverted paradiddle",)),
    StickingGroove("inverted paradiddle RRLR", "RrlrLlrlRrlrLlrl", ("inverted paradiddle",)),
    StickingGroove("inverted paradiddle RLRL", "RlrlLrlrRlrlLrlr", ("inverted paradiddle",)),
    StickingGroove(
        "double paradiddle in triplets", "RlrlrrLrlrll", ("double paradiddle", "triplet")
    ),
    StickingGroove(
        "threes over four", "RllRllRlRllRllRl", ("groups of three across the beat",)
    ),
    StickingGroove(
        "fives and threes", "RlrllRllRlrllRll", ("groups of three across the beat",)
    ),
)
