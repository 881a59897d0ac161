"""How hard it is for this player at this tempo: what was found, weighed and summed.

The reasons are those a teacher gives (common practice, no source); their weights are the
house's, and the teacher's to change.
"""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.findings.finding import Finding
from wren_ladder.drumming.findings.words import say_together
from wren_ladder.drumming.style import HOUSE, Reason, Style

TELLING = 0.5  # a reason that weighs less is not told
FADING = 0.8  # each further finding counts so much of what it counts by itself, and again
CEILING = 4.0  # of one finding; nothing is harder than hard


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
    def said(self) -> str:
        """In words; "" where it is weighed and not worth one."""
        return say_together(self.findings)

    @property
    def text(self) -> str:
        return self.said or f"plain {self.reason.value}"


def weigh(found: Iterable[Finding], style: Style = HOUSE) -> tuple[Weighed, ...]:
    """The reasons with the style's weights, heaviest first; what counts nothing is left out.

    One note counts once, by its heaviest reason; each further thing adds less than the one
    before, so that more is never easier and nothing is endlessly hard.
    """
    weights = dict(style.weights)
    order = list(Reason)
    scored = [
        (min(CEILING, one.kind.amount(one) * weights.get(reason, 0.0)), reason, one)
        for one in found
        if (reason := one.kind.reason)
    ]
    counting = [each for each in scored if each[0] > 0]
    counting.sort(key=lambda each: (-each[0], order.index(each[1])))
    scores: dict[Reason, float] = {}
    by_reason: dict[Reason, list[Finding]] = {}
    for place, (score, reason, one) in enumerate(_once_each(counting)):
        scores[reason] = scores.get(reason, 0.0) + score * FADING**place
        by_reason.setdefault(reason, []).append(one)
    weighed = [
        Weighed(reason, scores[reason] / weights[reason], weights[reason], _as_found(mine))
        for reason, mine in by_reason.items()
    ]
    return tuple(sorted(weighed, key=lambda one: (-one.score, order.index(one.reason))))


def _once_each(
    counting: Sequence[tuple[float, Reason, Finding]],
) -> Iterator[tuple[float, Reason, Finding]]:
    """Heaviest first, what is left when no note counts twice: a finding whose notes all count
    by a heavier reason is left out."""
    by: dict[Fraction, Reason] = {}  # the reason by which a note counts
    for score, reason, one in counting:
        moments = one.kind.moments(one)
        if not moments or any(by.get(at, reason) is reason for at in moments):
            yield score, reason, one
        for at in moments:
            by.setdefault(at, reason)


def _as_found(found: Sequence[Finding]) -> tuple[Finding, ...]:
    """In the order of the bar; what is of the whole bar comes last."""
    return tuple(sorted(found, key=lambda one: (one.at is None, one.at or 0)))


def worth_telling(weighed: Sequence[Weighed]) -> list[Weighed]:
    """The reasons that say something; the heaviest where none weighs much."""
    told = [one for one in weighed if one.said]
    return [one for one in told if one.score >= TELLING] or told[:1]


def beyond(found: Iterable[Finding], known: Iterable[Finding]) -> list[Finding]:
    """What is found in a bar beside what the bar that it is taught from has there too."""
    there = {(one.kind, one.at, str(one)) for one in known}
    return [one for one in found if (one.kind, one.at, str(one)) not in there]


def rank(weighed: Sequence[Weighed]) -> float:
    """How hard all of it is together; 0 for a bar that holds no surprise."""
    return round(sum(one.score for one in weighed), 2)
