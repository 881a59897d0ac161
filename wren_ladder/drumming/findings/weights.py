"""How hard it is for this player at this tempo: what was found, weighed and summed.

The reasons are those a teacher gives (common practice, no source); their weights are the
house's, and the teacher's to change.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from wren_ladder.drumming.chart import Grace
from wren_ladder.drumming.findings.finding import Code, Finding
from wren_ladder.drumming.findings.words import say_together
from wren_ladder.drumming.style import HOUSE, Reason, Style

# Which reason each finding counts for; what cannot be played at all is told, not weighed.
REASONS = {
    Code.NEW: Reason.NEW,
    Code.ORNAMENT: Reason.ORNAMENTS,
    Code.ROLL: Reason.ORNAMENTS,
    Code.GHOST_ACCENT: Reason.GHOST_ACCENT,
    Code.HAT_CLOSES: Reason.HAT_CLOSES,
    Code.FEET_BETWEEN: Reason.FEET,
    Code.QUICK_KICKS: Reason.QUICK_KICKS,
    Code.ENTRY: Reason.ENTRY,
    Code.REACH: Reason.REACH,
    Code.DOUBLE: Reason.DOUBLES,
    Code.SPEED: Reason.SPEED,
    Code.AGAINST_HABIT: Reason.TRAP,
    Code.AGAINST_COMMON_FORM: Reason.TRAP,
    Code.SILENCE: Reason.TRAP,
    Code.KICK_LANDING: Reason.QUICK_KICKS,
    Code.JUMP: Reason.JUMP,
    Code.METER_CHANGE: Reason.METER,
    Code.TEMPO_CHANGE: Reason.METER,
    Code.CYMBAL_CHANGE: Reason.REACH,
    Code.REACH_ACROSS: Reason.REACH,
    Code.HAT_CLOSES_ACROSS: Reason.HAT_CLOSES,
    Code.DOUBLE_ACROSS: Reason.DOUBLES,
    Code.ENTRY_ACROSS: Reason.ENTRY,
}
GRACE_AMOUNT = {Grace.FLAM: 1.0, Grace.DRAG: 1.3, Grace.RUFF: 1.6}
ROLL_AMOUNT = 1.6


@dataclass(frozen=True, slots=True)
class Weighed:
    """One reason and what was found of it; ``amount`` is how much that is, ``weight`` what one
    of it counts."""

    reason: Reason
    amount: float
    weight: float
    findings: tuple[Finding, ...]

    @property
    def score(self) -> float:
        return self.amount * self.weight

    @property
    def text(self) -> str:
        return say_together(self.findings)


def weigh(found: Iterable[Finding], style: Style = HOUSE) -> tuple[Weighed, ...]:
    """The reasons with the style's weights, heaviest first; what counts nothing is left out."""
    weights = dict(style.weights)
    by_reason: dict[Reason, list[Finding]] = {}
    for one in found:
        if one.code in REASONS:
            by_reason.setdefault(REASONS[one.code], []).append(one)
    weighed = [
        Weighed(reason, amount, weights[reason], tuple(mine))
        for reason, mine in by_reason.items()
        if (amount := sum(_amount(one) for one in mine)) and weights.get(reason, 0.0)
    ]
    order = list(Reason)
    return tuple(sorted(weighed, key=lambda one: (-one.score, order.index(one.reason))))


def rank(weighed: Sequence[Weighed]) -> float:
    """How hard all of it is together; 0 for a bar that holds no surprise."""
    return round(sum(one.score for one in weighed), 2)


def _amount(one: Finding) -> float:
    """How much of its reason one finding is."""
    if one.code is Code.ORNAMENT:
        return GRACE_AMOUNT[one["grace"]]
    if one.code is Code.ROLL:
        return ROLL_AMOUNT
    if one.code is Code.SPEED:
        share = one["rate"] / one["limit"]
        return share * share  # it hurts more near the limit
    return 1.0
