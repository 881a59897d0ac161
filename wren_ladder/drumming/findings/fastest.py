"""The quickest strokes that one hand has to play without bounce."""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

from wren_ladder.drumming.chart import Hand
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.hands.limbs import HAND_OF, Limb
from wren_ladder.drumming.style import HOUSE, Style


@dataclass(frozen=True, slots=True)
class Fastest:
    """The quickest single strokes of one hand: ``gap`` crotchets apart from ``at`` on."""

    hand: Hand
    at: Fraction
    gap: Fraction


def fastest_hand(sticks: Sequence[Stick]) -> Fastest | None:
    """The two strokes that a hand must play quickest without bounce; None if there are
    none."""
    found = [
        Fastest(hand, at, gap)
        for limb, hand in HAND_OF.items()
        for at, gap in single_gaps(sticks, limb)
    ]
    return min(found, key=lambda one: (one.gap, one.at), default=None)


def single_hand_limit(sticks: Sequence[Stick], style: Style = HOUSE) -> int | None:
    """From which tempo on, in crotchets a minute, a single hand becomes the limit."""
    fastest = fastest_hand(sticks)
    return int(style.hand_limit * 60 * fastest.gap) if fastest else None


def single_gaps(sticks: Sequence[Stick], limb: Limb) -> list[tuple[Fraction, Fraction]]:
    """(from where, how far) of the gaps that a hand must cross without bounce.

    A short gap between two longer ones is a double, whose second stroke bounces.
    """
    times = sorted({stick.hit.at for stick in sticks if stick.limb is limb})
    gaps = [(before, after - before) for before, after in pairwise(times)]
    around = [None, *(gap for _, gap in gaps), None]
    return [
        (at, gap)
        for before, (at, gap), after in zip(around, gaps, around[2:], strict=False)
        if (before is not None and before <= gap) or (after is not None and after <= gap)
    ]
