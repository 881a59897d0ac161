"""The quickest strokes that one hand has to play without bounce."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise

from quicktions import Fraction

from wren_ladder.drumming.chart import Roll, Tempo
from wren_ladder.drumming.chart.swing import STRAIGHT, Swing
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.hands.limbs import HAND_OF, Limb
from wren_ladder.drumming.hands.rules import StickRule
from wren_ladder.drumming.performance.clock import per_second
from wren_ladder.drumming.style import HOUSE, Style


@dataclass(frozen=True, slots=True)
class Fastest:
    """The quickest single strokes of one limb: ``gap`` crotchets apart from ``at`` on."""

    limb: Limb
    at: Fraction
    gap: Fraction


def fastest_hand(sticks: Sequence[Stick], swing: Swing = STRAIGHT) -> Fastest | None:
    """The two strokes that a hand must play quickest without bounce, as they sound; None if
    there are none."""
    return _fastest(sticks, HAND_OF, swing)


def fastest_foot(sticks: Sequence[Stick]) -> Fastest | None:
    """The two strokes that a foot must play quickest: it has no bounce."""
    found = []
    for limb in (Limb.RIGHT_FOOT, Limb.LEFT_FOOT):
        times = sorted({stick.hit.at for stick in sticks if stick.limb is limb})
        found += [Fastest(limb, one, other - one) for one, other in pairwise(times)]
    return min(found, key=lambda one: (one.gap, one.at), default=None)


def rolled_per_second(roll: Roll, tempo: Tempo) -> float | None:
    """Strokes a second of both hands together, None where the page does not count them."""
    if not roll.strokes:
        return None
    return per_second(roll.length / (roll.strokes - 1), tempo)


def _fastest(sticks: Sequence[Stick], limbs: Iterable[Limb], swing: Swing) -> Fastest | None:
    found = [
        Fastest(limb, at, gap) for limb in limbs for at, gap in single_gaps(sticks, limb, swing)
    ]
    return min(found, key=lambda one: (one.gap, one.at), default=None)


def single_hand_limit(sticks: Sequence[Stick], style: Style = HOUSE) -> int | None:
    """From which tempo on, in crotchets a minute, a single hand becomes the limit."""
    fastest = fastest_hand(sticks)
    return int(style.hand_limit * 60 * fastest.gap) if fastest else None


def single_gaps(
    sticks: Sequence[Stick], limb: Limb, swing: Swing = STRAIGHT
) -> list[tuple[Fraction, Fraction]]:
    """(from where, how far) of the gaps that a hand must cross without bounce.

    A short gap between two longer ones is a double, whose second stroke bounces; what the hat
    has under a backbeat is left out by whoever is in a hurry.
    """
    times = sorted(
        {
            swing.sounds_at(stick.hit.at)
            for stick in sticks
            if stick.limb is limb and stick.rule is not StickRule.UNDER_SNARE
        }
    )
    gaps = [(before, after - before) for before, after in pairwise(times)]
    around = [None, *(gap for _, gap in gaps), None]
    return [
        (at, gap)
        for before, (at, gap), after in zip(around, gaps, around[2:], strict=False)
        if (before is not None and before <= gap) or (after is not None and after <= gap)
    ]
