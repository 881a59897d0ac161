"""Rolls and the skeleton they are learned from: each note doubled, and the ending."""

from dataclasses import dataclass
from fractions import Fraction

from wren_ladder.drumming.chart import Bar, ChartError, Drum, Hand, Hit, Meter, Touch
from wren_ladder.drumming.chart.hit import ROLL_COUNTS


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


def roll_bars(strokes: int, step: Fraction, lead: Hand = Hand.RIGHT) -> tuple[Bar, Bar]:
    """(the skeleton, the roll written out) as bars of 2/4 or more on the snare."""
    skeleton = roll_skeleton(strokes)
    plain, full, hand = [], [], lead
    for place, doubled in enumerate(skeleton.doubled):
        at = place * step
        last = place == len(skeleton.doubled) - 1
        touch = Touch.ACCENT if last else Touch.NORMAL
        plain.append(Hit(at, Drum.SNARE, touch, hand=hand))
        full.append(plain[-1])
        if doubled:
            full.append(Hit(at + step / 2, Drum.SNARE, hand=hand))
        hand = hand.other
    length = plain[-1].at + step
    beats = max(2, -(-length.numerator // length.denominator))
    meter = Meter(beats, 4)
    return Bar("1", meter, tuple(plain)), Bar("1", meter, tuple(full))
