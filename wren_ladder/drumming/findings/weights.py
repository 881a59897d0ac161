"""How hard it is for this player at this tempo: what was found, weighed and summed.

The reasons are those a teacher gives (common practice, no source); their weights are the
house's, and the teacher's to change.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from wren_ladder.drumming.findings.finding import Finding
from wren_ladder.drumming.findings.words import say_together
from wren_ladder.drumming.style import HOUSE, Reason, Style

TELLING = 0.5  # a reason that weighs less is not told


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
        return say_together(self.findings) or self.reason.label


def weigh(found: Iterable[Finding], style: Style = HOUSE) -> tuple[Weighed, ...]:
    """The reasons with the style's weights, heaviest first; what counts nothing is left out."""
    weights = dict(style.weights)
    by_reason: dict[Reason, list[Finding]] = {}
    for one in found:
        if one.kind.reason:
            by_reason.setdefault(one.kind.reason, []).append(one)
    weighed = [
        Weighed(reason, amount, weights[reason], tuple(mine))
        for reason, mine in by_reason.items()
        if (amount := sum(one.kind.amount(one) for one in mine)) and weights.get(reason, 0.0)
    ]
    order = list(Reason)
    return tuple(sorted(weighed, key=lambda one: (-one.score, order.index(one.reason))))


def worth_telling(weighed: Sequence[Weighed]) -> list[Weighed]:
    """The reasons that say something; the heaviest where none weighs much."""
    return [one for one in weighed if one.score >= TELLING] or list(weighed[:1])


def beyond(found: Iterable[Finding], known: Iterable[Finding]) -> list[Finding]:
    """What is found in a bar beside what the bar that it is taught from has there too."""
    there = {(one.kind, one.at) for one in known}
    return [one for one in found if (one.kind, one.at) not in there]


def rank(weighed: Sequence[Weighed]) -> float:
    """How hard all of it is together; 0 for a bar that holds no surprise."""
    return round(sum(one.score for one in weighed), 2)
