"""How one written stroke sounds: its graces before it, the strokes of its roll after it.

Graces have a time of their own: a flam is a flam at 60 and at 200. 15 to 45 ms before the main
stroke is common practice, from memory; strengths and how fast an uncounted roll goes are common
practice, no source.
"""

from collections.abc import Sequence

from quicktions import Fraction

from wren_ladder.drumming.chart import STRENGTHS, Grace, Roll, RollKind, Touch
from wren_ladder.drumming.hands.limbs import HAND_OF, LIMB_OF, Limb
from wren_ladder.drumming.rudiments import roll_skeleton
from wren_ladder.drumming.rudiments.rolls import MOTION

LOUDEST = 127  # as MIDI counts
STRENGTH = {touch: strength / LOUDEST for touch, strength in STRENGTHS.items()}
GRACE_STRENGTH = 45 / LOUDEST
# Of the strength that the stroke of a roll would have alone: an open roll is made of strokes, a
# buzz of what bounces.
INSIDE = {RollKind.OPEN: 0.85, RollKind.SINGLE: 0.9, RollKind.BUZZ: 0.55}
# Seconds before the main stroke, the first grace first.
GRACES = {
    Grace.NONE: (),
    Grace.FLAM: (Fraction(30, 1000),),
    Grace.DRAG: (Fraction(70, 1000), Fraction(35, 1000)),
    Grace.RUFF: (Fraction(90, 1000), Fraction(60, 1000), Fraction(30, 1000)),
}
ROOM = Fraction(2, 3)  # of the time since the stroke before, that graces may take
# Crotchets between the strokes of a roll without a count.
UNCOUNTED = {
    RollKind.OPEN: Fraction(1, 8),
    RollKind.SINGLE: Fraction(1, 8),
    RollKind.BUZZ: Fraction(1, 16),
}


def graces_before(grace: Grace, room: Fraction | None) -> tuple[Fraction, ...]:
    """How many seconds before its main stroke each grace comes; ``room`` is the time since the
    stroke before, which they never reach, None where there is none."""
    usual = GRACES[grace]
    if not usual or room is None or usual[0] < room:
        return usual
    share = room * ROOM / usual[0]
    return tuple(ahead * share for ahead in usual)


def grace_limbs(grace: Grace, main: Limb | None) -> tuple[Limb | None, ...]:
    """Whose graces they are."""
    if main not in HAND_OF:
        return (None,) * grace.notes
    return tuple(LIMB_OF[hand] for hand in grace.hands(HAND_OF[main]))


def roll_strokes(roll: Roll) -> list[Fraction]:
    """When the strokes of a roll come, its first included, in crotchets from its start; the
    note that a counted roll ends on is not among them."""
    if roll.strokes:
        count = roll.strokes - 1
    else:
        count = max(1, int(roll.length / UNCOUNTED[roll.kind]))
    return [roll.length * place / count for place in range(count)]


def roll_strength(roll: Roll, touch: Touch) -> float:
    """Of its strokes behind the first: an accent is the first one's alone."""
    return INSIDE[roll.kind] * min(STRENGTH[touch], STRENGTH[Touch.NORMAL])


def roll_limbs(roll: Roll, first: Limb | None) -> list[Limb | None]:
    """Who plays them: doubles in an open roll, as its skeleton says where it is counted; hand
    to hand in singles and in a buzz."""
    count = len(roll_strokes(roll))
    if first not in HAND_OF:
        return [None] * count
    limbs = (first, LIMB_OF[HAND_OF[first].other])
    return [limbs[motion % 2] for motion in _motions(roll, count)]


def _motions(roll: Roll, count: int) -> Sequence[int]:
    """Which motion of the hands each stroke belongs to."""
    if roll.kind is RollKind.SINGLE:
        return range(count)
    if not roll.strokes:
        return [int(at / MOTION) for at in roll_strokes(roll)]
    found: list[int] = []
    for motion, doubled in enumerate(roll_skeleton(roll.strokes).doubled[:-1]):
        found += [motion] * (2 if doubled else 1)
    return found
