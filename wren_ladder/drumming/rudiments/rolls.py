"""Rolls and the skeleton they are learned from: each note doubled, and the ending."""

from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.chart import (
    Bar,
    ChartError,
    Drum,
    Hand,
    Hit,
    Meter,
    Roll,
    RollKind,
    Touch,
)
from wren_ladder.drumming.chart.hit import ROLL_COUNTS

# Crotchets that a motion lasts in a roll without a count: a double or a press, a single.
MOTION, SINGLE = Fraction(1, 4), Fraction(1, 8)


@dataclass(frozen=True, slots=True)
class Skeleton:
    """The hand motions of a roll: ``doubled`` says of each whether it bounces once."""

    strokes: int
    doubled: tuple[bool, ...]

    @property
    def motions(self) -> int:
        """Without the ending: three for a 7-stroke roll."""
        return len(self.doubled) - 1


def roll_skeleton(strokes: int) -> Skeleton:
    """7 -> three doubled notes and the ending; 6 and 10 begin or end with two singles.

    Common practice, no source. ChartError for a count that no roll has.
    """
    if strokes not in ROLL_COUNTS:
        raise ChartError(f"no roll has {strokes} strokes")
    if strokes == 6:
        return Skeleton(6, (False, True, True, False))
    singles = 1 if strokes % 2 else 2
    doubles = (strokes - singles) // 2
    return Skeleton(strokes, (True,) * doubles + (False,) * singles)


def motions(roll: Roll) -> int:
    """The motions of the hands before the stroke that a roll ends on: a double is one, and so
    is a press of a buzz, which by itself lasts a semiquaver."""
    if roll.strokes and roll.kind is RollKind.OPEN:
        return roll_skeleton(roll.strokes).motions
    if roll.strokes:
        return roll.strokes - 1
    one = SINGLE if roll.kind is RollKind.SINGLE else MOTION
    return max(1, int(roll.length / one))


def last_hand(roll: Roll, first: Hand) -> Hand:
    """Whose the last motion of a roll is; the stroke it ends on is the other hand's. So rolls
    of 5, 9, 13 and 17 end on the hand that began. Common practice, no source."""
    return first if motions(roll) % 2 else first.other


def roll_bars(strokes: int, step: Fraction, lead: Hand = Hand.RIGHT) -> tuple[Bar, Bar]:
    """(the skeleton, the roll written out) as bars of 2/4 or more on the snare."""
    skeleton = roll_skeleton(strokes)
    plain, full, hand = [], [], lead
    for place, doubled in enumerate(skeleton.doubled):
        at = place * step
        touch = Touch.NORMAL if doubled else Touch.ACCENT
        plain.append(Hit(at, Drum.SNARE, touch, hand=hand))
        full.append(plain[-1])
        if doubled:
            full.append(Hit(at + step / 2, Drum.SNARE, hand=hand))
        hand = hand.other
    length = plain[-1].at + step
    beats = max(2, -(-length.numerator // length.denominator))
    meter = Meter(beats, 4)
    return Bar("1", meter, tuple(plain)), Bar("1", meter, tuple(full))
