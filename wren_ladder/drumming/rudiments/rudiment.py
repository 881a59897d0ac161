"""A rudiment as it is written: hands, accents and graces on a grid."""

from dataclasses import dataclass, replace
from enum import StrEnum

from quicktions import Fraction

from wren_ladder.drumming.chart import (
    Bar,
    Drum,
    Grace,
    Hand,
    Hit,
    Meter,
    Roll,
    RollKind,
    Touch,
)

ACCENT, REST, BUZZ = ">", "-", "~"
GRACES = {0: Grace.NONE, 1: Grace.FLAM, 2: Grace.DRAG, 3: Grace.RUFF}
UNIT = {1: 4, 2: 8, 4: 16}  # denominator of a length in crotchets -> lower number of a metre


class Family(StrEnum):
    ROLLS = "rolls"
    DIDDLES = "diddles"
    FLAMS = "flams"
    DRAGS = "drags"


@dataclass(frozen=True, slots=True)
class RudimentStroke:
    """One main stroke; ``at`` in crotchets from the rudiment's start."""

    at: Fraction
    hand: Hand
    accent: bool
    grace: Grace
    buzz: bool = False

    @property
    def mirrored(self) -> "RudimentStroke":
        return replace(self, hand=self.hand.other)


@dataclass(frozen=True, slots=True)
class Rudiment:
    """One side of a rudiment; an alternating one goes on with the hands exchanged.

    ``length`` in crotchets is that of one side. ``apart``: it is that rudiment only where
    it stands by itself, as a counted roll does with its last note.
    """

    name: str
    family: Family
    length: Fraction
    strokes: tuple[RudimentStroke, ...]
    alternates: bool
    apart: bool = False

    def side(self, lead: Hand = Hand.RIGHT) -> tuple[RudimentStroke, ...]:
        """The strokes of one side, led by either hand."""
        if self.strokes[0].hand is lead:
            return self.strokes
        return tuple(stroke.mirrored for stroke in self.strokes)

    def bar(self, lead: Hand = Hand.RIGHT, number: str = "1") -> Bar:
        """Both sides as a bar on the snare: the second mirrored where hands alternate."""
        second = lead.other if self.alternates else lead
        hits = [_hit(stroke, Fraction(0), self.length) for stroke in self.side(lead)]
        hits += [_hit(stroke, self.length, self.length) for stroke in self.side(second)]
        return Bar(number, _meter(2 * self.length), tuple(hits))

    @property
    def sticking(self) -> str:
        """As it is said: "lR L R R"; accents are capital in print and not repeated here."""
        return " ".join(_say(stroke) for stroke in self.strokes)


def _say(stroke: RudimentStroke) -> str:
    return stroke.hand.other.value.lower() * stroke.grace.notes + stroke.hand.value


def _hit(stroke: RudimentStroke, offset: Fraction, length: Fraction) -> Hit:
    roll = Roll(RollKind.BUZZ, length) if stroke.buzz else None
    touch = Touch.ACCENT if stroke.accent else Touch.NORMAL
    return Hit(offset + stroke.at, Drum.SNARE, touch, stroke.grace, roll, stroke.hand)


def _meter(length: Fraction) -> Meter:
    """The metre of so many crotchets: 3 -> 6/8 where beats are dotted, else 3/4."""
    if (length / Fraction(3, 2)).denominator == 1 and length > 2:
        return Meter(int(2 * length), 8)
    unit = UNIT[length.denominator]
    return Meter(int(length * unit / 4), unit)


def rudiment(
    name: str,
    family: Family,
    step: Fraction,
    pattern: str,
    *,
    alternates: bool = True,
    apart: bool = False,
) -> Rudiment:
    """Read one side: ">lR L R R" is a flam paradiddle; "-" is a silent place of the grid,
    ``step`` crotchets wide; "R~" is buzzed."""
    strokes = []
    places = pattern.split()
    for place, text in enumerate(places):
        if text == REST:
            continue
        word = text.strip(ACCENT + BUZZ)
        strokes.append(
            RudimentStroke(
                at=place * step,
                hand=Hand(word[-1]),
                accent=text.startswith(ACCENT),
                grace=GRACES[len(word) - 1],
                buzz=text.endswith(BUZZ),
            )
        )
    length = len(places) * step
    return Rudiment(name, family, length, tuple(strokes), alternates, apart)
