"""How hard a bar is for this player at this tempo: its reasons weighed and summed.

The reasons are those a teacher gives (common practice, no source); their weights are the
house's, and the teacher's to change.
"""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

from wren_ladder.drumming.chart import Bar, Grace, Tempo
from wren_ladder.drumming.findings.conflicts import fastest_hand
from wren_ladder.drumming.findings.trouble import (
    feet_between,
    ghosts_by_accents,
    hat_closings,
    quick_kicks,
)
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.hands.kit import travel
from wren_ladder.drumming.hands.limbs import HAND_OF
from wren_ladder.drumming.style import HOUSE, Reason, Style
from wren_ladder.drumming.units import seconds

SEMIQUAVER, QUAVER = Fraction(1, 4), Fraction(1, 2)
FAR = 4.5  # hand's breadths; a reach across the kit
GRACE_AMOUNT = {Grace.FLAM: 1.0, Grace.DRAG: 1.3, Grace.RUFF: 1.6}


@dataclass(frozen=True, slots=True)
class Trouble:
    """One reason; ``amount`` is how much of it there is, ``weight`` what one of it counts."""

    reason: Reason
    amount: float
    weight: float
    text: str

    @property
    def score(self) -> float:
        return self.amount * self.weight


def difficulty(
    bar: Bar,
    sticks: Sequence[Stick],
    tempo: Tempo,
    style: Style = HOUSE,
    new: Collection[str] = (),
) -> tuple[Trouble, ...]:
    """The reasons that make a bar hard, heaviest first.

    ``new`` are the things of it that this student has not learned.
    """
    rate = _rate(sticks, tempo)
    share = rate / style.hand_limit  # squared below: it hurts more near the limit
    measured = (
        (Reason.NEW, float(len(new)), f"new: {', '.join(sorted(new))}"),
        (Reason.ORNAMENTS, _ornaments(bar), "ornaments"),
        (
            Reason.GHOST_ACCENT,
            float(len(ghosts_by_accents(sticks))),
            "ghost beside accent in one hand",
        ),
        (Reason.HAT_CLOSES, float(len(hat_closings(bar))), "the hat closes as it is struck"),
        (
            Reason.FEET,
            float(len({hit.at for hit in feet_between(bar)})),
            "feet between the hands' grid",
        ),
        (Reason.QUICK_KICKS, float(len(quick_kicks(bar))), "quick kicks in a row"),
        (Reason.ENTRY, _entries(bar), "entries after silence or off the beat"),
        (Reason.REACH, _reach(sticks), "reaches across the kit"),
        (Reason.DOUBLES, _doubles(sticks), "the sticking must double"),
        (Reason.SPEED, share * share, f"the fastest hand at {rate:.1f} strokes a second"),
    )
    return weighed(measured, style)


def with_traps(
    troubles: tuple[Trouble, ...], traps: Sequence[str], style: Style = HOUSE
) -> tuple[Trouble, ...]:
    """The same reasons and the bar's traps, which only the whole piece can tell."""
    return weighed(
        [
            *((t.reason, t.amount, t.text) for t in troubles),
            (Reason.TRAP, float(len(traps)), "; ".join(traps)),
        ],
        style,
    )


def weighed(
    measured: Sequence[tuple[Reason, float, str]], style: Style = HOUSE
) -> tuple[Trouble, ...]:
    """(reason, how much of it, its sentence) with the style's weights, heaviest first; what
    is not there or counts nothing is left out."""
    weights = dict(style.weights)
    found = [
        Trouble(reason, amount, weights.get(reason, 0.0), text)
        for reason, amount, text in measured
        if amount and weights.get(reason, 0.0)
    ]
    return tuple(sorted(found, key=lambda trouble: -trouble.score))


def rank(troubles: Sequence[Trouble]) -> float:
    """How hard all of it is together; 0 for a bar that holds no surprise."""
    return round(sum(trouble.score for trouble in troubles), 2)


def _by_hand(sticks: Sequence[Stick]) -> list[list[Stick]]:
    return [[stick for stick in sticks if stick.limb is limb] for limb in HAND_OF]


def _ornaments(bar: Bar) -> float:
    rolls = sum(1.6 for hit in bar.hits if hit.roll)
    return rolls + sum(GRACE_AMOUNT.get(hit.grace, 0.0) for hit in bar.hits)


def _entries(bar: Bar) -> float:
    """Notes that come after a beat or more of silence and not on a beat."""
    starts = {start for start, _ in bar.beats}
    times = sorted({hit.at for hit in bar.hits})
    return float(sum(b - a > 1 and b not in starts for a, b in pairwise(times)))


def _reach(sticks: Sequence[Stick]) -> float:
    return float(
        sum(
            travel(a.hit.drum.surface, b.hit.drum.surface) >= FAR
            for mine in _by_hand(sticks)
            for a, b in pairwise(mine)
            if b.hit.at - a.hit.at <= QUAVER
        )
    )


def _doubles(sticks: Sequence[Stick]) -> float:
    """The same hand twice in a row, close together, with the other hand silent."""
    alone = _single_strokes(sticks)
    return float(
        sum(
            a.hand is b.hand and 0 < b.hit.at - a.hit.at <= SEMIQUAVER
            for a, b in pairwise(alone)
        )
    )


def _single_strokes(sticks: Sequence[Stick]) -> list[Stick]:
    by_time: dict[Fraction, list[Stick]] = {}
    for stick in sticks:
        if stick.hand:
            by_time.setdefault(stick.hit.at, []).append(stick)
    return [together[0] for together in by_time.values() if len(together) == 1]


def _rate(sticks: Sequence[Stick], tempo: Tempo) -> float:
    """Strokes a second of the fastest hand without bounce, 0 where none repeats."""
    fastest = fastest_hand(sticks)
    return 1 / seconds(fastest.gap, tempo) if fastest else 0.0
