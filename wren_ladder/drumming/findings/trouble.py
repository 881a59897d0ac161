"""What will catch the student in a bar, each in a plain sentence (common practice)."""

from collections.abc import Sequence
from fractions import Fraction
from itertools import pairwise

from wren_ladder.drumming.chart import Bar, Drum, Grace, Hit, Surface, Tempo, Touch
from wren_ladder.drumming.findings.conflicts import fastest_hand
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.hands.limbs import HAND_OF, LIMB_OF
from wren_ladder.drumming.style import HOUSE, Style
from wren_ladder.drumming.units import seconds

SEMIQUAVER, QUAVER = Fraction(1, 4), Fraction(1, 2)


def trouble(
    bar: Bar, sticks: Sequence[Stick], tempo: Tempo, style: Style = HOUSE
) -> tuple[str, ...]:
    """Reasons, most telling first; empty for a bar that holds no surprise."""
    found = [
        _ornaments(bar),
        _rolls(bar),
        _ghost_beside_accent(bar, sticks),
        _hat_closes_with_stick(bar),
        _feet_off_the_hands(bar),
        _quick_kicks(bar),
        _fast_hand(sticks, tempo, style),
    ]
    return tuple(reason for reason in found if reason)


def _ornaments(bar: Bar) -> str:
    names = [g.value for g in Grace if g is not Grace.NONE and _graced(bar, g)]
    return " and ".join(f"{name}s" for name in names)


def _graced(bar: Bar, grace: Grace) -> bool:
    return any(hit.grace is grace for hit in bar.hits)


def _rolls(bar: Bar) -> str:
    rolls = [hit for hit in bar.hits if hit.roll]
    return f"a roll on {bar.beat_of(rolls[0].at)}" if rolls else ""


def _ghost_beside_accent(bar: Bar, sticks: Sequence[Stick]) -> str:
    found = ghosts_by_accents(sticks)
    if not found:
        return ""
    limb = found[0].limb
    return f"ghost beside accent in the {limb} on {bar.beat_of(found[0].hit.at)}"


def ghosts_by_accents(sticks: Sequence[Stick]) -> list[Stick]:
    """The second stroke of each pair of one hand that is a ghost and an accent."""
    found = []
    for limb in HAND_OF:
        mine = [stick for stick in sticks if stick.limb is limb]
        for before, after in pairwise(mine):
            touches = (before.hit.touch, after.hit.touch)
            if Touch.GHOST in touches and any(touch.loud for touch in touches):
                found.append(after)
    return found


def _hat_closes_with_stick(bar: Bar) -> str:
    closing = hat_closings(bar)
    return f"the hat closes as it is struck on {bar.beat_of(closing[0].at)}" if closing else ""


def hat_closings(bar: Bar) -> list[Hit]:
    """The strokes that meet the hat while the foot closes it, stick and foot as one."""
    hats = [
        hit
        for hit in bar.hits
        if hit.drum.surface is Surface.HIHAT or hit.drum is Drum.HIHAT_FOOT
    ]
    return [
        after
        for before, after in pairwise(hats)
        if before.drum is Drum.HIHAT_OPEN and after.drum is Drum.HIHAT
    ]


def _feet_off_the_hands(bar: Bar) -> str:
    between = feet_between(bar)
    if not between:
        return ""
    return f"{between[0].drum.spoken} between the hands on {bar.beat_of(between[0].at)}"


def feet_between(bar: Bar) -> list[Hit]:
    """What feet play by themselves off the quavers."""
    hands = {hit.at for hit in bar.hits if not hit.drum.by_foot}
    alone = [hit for hit in bar.hits if hit.drum.by_foot and hit.at not in hands]
    return [hit for hit in alone if (hit.at / SEMIQUAVER) % 2 != 0]


def _quick_kicks(bar: Bar) -> str:
    quick = quick_kicks(bar)
    return f"two quick kicks on {bar.beat_of(quick[0].at)}" if quick else ""


def quick_kicks(bar: Bar) -> list[Hit]:
    """The kicks that another follows within a quaver."""
    kicks = [hit for hit in bar.hits if hit.drum is Drum.KICK]
    return [before for before, after in pairwise(kicks) if after.at - before.at < QUAVER]


def _fast_hand(sticks: Sequence[Stick], tempo: Tempo, style: Style) -> str:
    fastest = fastest_hand(sticks)
    if fastest is None:
        return ""
    gap, limb = fastest.gap, LIMB_OF[fastest.hand]
    rate = 1 / seconds(gap, tempo)
    if rate <= style.hand_limit:
        return ""
    return f"{limb} at {rate:.1f} strokes a second (limit {style.hand_limit:g})"
