"""Kit flow: the sticking of a fill with which the hands travel and cross least.

Every way to share the notes is weighed by one rule: how far each stick travels, what an
arm crossed over the other costs, and what a double costs, which is less than a crossing,
so that one is played where it saves one. What a note costs depends only on where both
hands are and who played last, so dynamic programming finds the best of all of them.

Common practice, no source; the weights are the house's.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import permutations

from wren_ladder.drumming.chart import Hand, Hit, Surface
from wren_ladder.drumming.hands.kit import crossed, travel

CROSSING, DOUBLE, DOUBLE_MOVED, OTHER_STARTS = 9.0, 2.5, 4.0, 0.5
HOME = Surface.SNARE  # both sticks start over the snare

Choice = tuple[Hand, ...]  # a hand for each hit of one moment


@dataclass(frozen=True, slots=True)
class Hands:
    """Where both sticks are, and who played last; None before anybody did."""

    right: Surface
    left: Surface
    last: Hand | None = None

    def at(self, hand: Hand) -> Surface:
        return self.right if hand is Hand.RIGHT else self.left


def kit_flow(moments: Sequence[Sequence[Hit]], lead: Hand) -> tuple[Choice, ...]:
    """The cheapest hands for each moment of one or two hits; written hands are kept."""
    best: dict[Hands, tuple[float, tuple[Choice, ...]]] = {Hands(HOME, HOME): (0.0, ())}
    for hits in moments:
        following: dict[Hands, tuple[float, tuple[Choice, ...]]] = {}
        for state, (cost, chosen) in best.items():
            for choice in choices(hits):
                after, more = step(state, hits, choice, lead)
                total = cost + more
                if after not in following or total < following[after][0]:
                    following[after] = (total, (*chosen, choice))
        best = following
    return min(best.values(), key=lambda found: found[0])[1]


def choices(hits: Sequence[Hit]) -> Iterator[Choice]:
    """Every way to give one or two hits to the hands, as far as the page leaves it open."""
    free = [c for c in permutations((Hand.RIGHT, Hand.LEFT), len(hits)) if _allowed(c, hits)]
    yield from free or [tuple(hit.hand or Hand.RIGHT for hit in hits)]


def _allowed(choice: Choice, hits: Sequence[Hit]) -> bool:
    return all(hit.hand in (None, hand) for hand, hit in zip(choice, hits, strict=True))


def step(state: Hands, hits: Sequence[Hit], choice: Choice, lead: Hand) -> tuple[Hands, float]:
    """(where the hands are afterwards, what it cost)."""
    places = {Hand.RIGHT: state.right, Hand.LEFT: state.left}
    cost = 0.0
    for hit, hand in zip(hits, choice, strict=True):
        goal = hit.drum.surface
        cost += travel(places[hand], goal)
        if len(hits) == 1 and state.last is hand:
            cost += DOUBLE if places[hand] is goal else DOUBLE_MOVED
        places[hand] = goal
    if state.last is None and len(hits) == 1 and choice[0] is not lead:
        cost += OTHER_STARTS
    if crossed(places[Hand.RIGHT], places[Hand.LEFT], lead):
        cost += CROSSING
    last = choice[0] if len(hits) == 1 else None
    return Hands(places[Hand.RIGHT], places[Hand.LEFT], last), cost


def cost_of(moments: Sequence[Sequence[Hit]], chosen: Sequence[Choice], lead: Hand) -> float:
    """What a whole sharing costs."""
    state, total = Hands(HOME, HOME), 0.0
    for hits, choice in zip(moments, chosen, strict=True):
        state, more = step(state, hits, choice, lead)
        total += more
    return total
