"""What is found in a take: a code with its facts; the words are made last.

The order in which findings count is that of ``Kind``: who plays something else is not told of
milliseconds, and what is missing comes before what is late.
"""

from dataclasses import dataclass

from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.takes.passes import Pass
from wren_ladder.drumming.wording import Coded


class Kind(Coded):
    """In the order in which one is told before another."""

    SOMETHING_ELSE = "something-else", "this was something else"
    TEMPO = "tempo", "another tempo"
    BEATS_OFF = "beats-off", "whole beats late"
    CAME_IN = "came-in", "came in later"
    FROM_THE_TOP = "from-the-top", "from the top again"
    DROPPED = "left-out", "a bar was left out"
    AGAIN = "again", "a bar was played again"
    PAUSED = "paused", "stopped and went on"
    STOPPED = "stopped", "stopped before the end"
    TURN = "turn", "steady, and then another tempo"
    BEHIND = "behind", "behind the click"
    MISSED = "missed", "strokes are missing"
    WRONG = "wrong", "another drum"
    FILL = "fill", "the fill runs away"
    LEAN = "lean", "a limb is late or early"
    APART = "apart", "two limbs that should be one"
    UNEVEN = "uneven", "a limb is uneven"
    PLACE = "place", "one place is late or early"
    GRACES = "graces", "flams, drags or ruffs are too wide or closed"
    ROLLS = "rolls", "rolls are uneven"
    PACE = "pace", "the tempo was not held"
    PASS = "pass", "one time through"
    CONTRAST = "contrast", "ghosts are nearly accents"
    BALANCE = "balance", "the cymbal is too loud"


# What is told as a fact, with what is to be mended behind it.
FACTS = frozenset(
    (Kind.TEMPO, Kind.CAME_IN, Kind.FROM_THE_TOP, Kind.DROPPED, Kind.AGAIN, Kind.PAUSED)
)


class Advice(Coded):
    """What to do about it."""

    SLOWER = "slower", "a rung slower"
    PAIR = "pair", "the two limbs alone"
    LAYER = "layer", "the layer without it"
    CLICK = "click", "to the click, counted aloud"
    PAD = "pad", "on the pad first"
    LIGHT = "light", "a light cymbal"


@dataclass(frozen=True, slots=True)
class Finding:
    """``seconds`` late (early: below 0), ``limb`` whose it is, ``where`` in the bar, in how
    many passes of how many; ``strokes`` it stands on. ``other``: the limb it should be one
    with."""

    kind: Kind
    advice: Advice
    limb: Limb | None = None
    where: str = ""
    seconds: float = 0.0
    share: float = 0.0
    strokes: int = 0
    passes: tuple[int, int] = (0, 0)
    other: Limb | None = None
    tempos: tuple[int, int] = (0, 0)  # played, asked
    spoiled: Pass | None = None
