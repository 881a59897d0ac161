"""Drills made from a rudiment: the paradiddle, inverted and with its accent moved.

Common practice, no source.
"""

from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Hand, Hit, Meter, Touch

PARADIDDLE = "RLRRLRLL"
STEP = Fraction(1, 4)


@dataclass(frozen=True, slots=True)
class Drill:
    name: str
    bar: Bar


def inversions() -> tuple[str, ...]:
    """The paradiddle begun at each of its four places, mirrored to start right."""
    found = []
    for turn in range(4):
        hands = PARADIDDLE[turn:] + PARADIDDLE[:turn]
        if hands[0] == "L":
            hands = hands.translate(str.maketrans("RL", "LR"))
        found.append(hands)
    return tuple(found)


def inversion_drills() -> tuple[Drill, ...]:
    """Four inversions by four accents: 16 bars; what is not accented is a ghost."""
    return tuple(
        Drill(
            f"{hands[:4]} {hands[4:]}, accent on {'1e&a'[accent]}",
            _bar_of(hands, {accent, accent + 4}),
        )
        for hands in inversions()
        for accent in range(4)
    )


def _bar_of(hands: str, accents: set[int]) -> Bar:
    hits = tuple(
        Hit(
            place * STEP,
            Drum.SNARE,
            Touch.ACCENT if place in accents else Touch.GHOST,
            hand=Hand(hand),
        )
        for place, hand in enumerate(hands)
    )
    return Bar("1", Meter(2, 4), hits)
