"""Kit flow: the sticking of a fill that a drummer would choose on the way round the drums.

Every way to share the notes is weighed by one cost, whose parts are so far apart that they
stand in the order in which drummers decide: never three strokes of one hand in a row; hand to
hand, with a double only where alternating would cross the arms, just before the next drum; the
lead hand starts; the least travel last. What a note costs depends only on where both hands are
and who played last, so dynamic programming finds the best of all ways.

Common practice, no source; the weights are the house's.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import permutations

from quicktions import Fraction

from wren_ladder.drumming.chart import Hand, Hit, Surface
from wren_ladder.drumming.hands.kit import side, travel
from wren_ladder.drumming.rudiments.rolls import last_hand

THIRD = BROKEN_ROLL = 1000.0
CROSSING, OTHER_STARTS, DOUBLE, DOUBLE_MOVED = 300.0, 90.0, 60.0, 65.0
AT_THE_CHANGE = 3.0  # less for a double just before the next drum
TRAVELLED = 0.05  # a hand's breadth
REACH = 2.5  # hand's breadths that a hand may stand beyond the other without crossing it
HOME = Surface.SNARE  # both sticks start over the snare

Choice = tuple[Hand, ...]  # a hand for each hit of one moment


@dataclass(frozen=True, slots=True)
class Hands:
    """Where both sticks are, who played last and how often in a row; None before anybody did.
    ``rolls_to`` is where a roll that sounds ends, in crotchets; ``began`` just after the first
    stroke."""

    right: Surface
    left: Surface
    last: Hand | None = None
    in_row: int = 0
    rolls_to: Fraction | None = None
    began: bool = False


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
    hit, hand, cost = hits[0], choice[0], 0.0
    in_row = 0
    if len(hits) == 1:
        again = state.last is hand
        in_row = state.in_row + 1 if again else 1
        if again and state.rolls_to == hit.at:
            cost += BROKEN_ROLL
        elif again:
            moved = places[hand] is not hit.drum.surface
            cost += THIRD * (in_row > 2) + (DOUBLE_MOVED if moved else DOUBLE)
            cost += OTHER_STARTS * state.began  # nobody begins with a double: the other starts
        elif state.in_row == 2 and state.last and places[state.last] is not hit.drum.surface:
            cost -= AT_THE_CHANGE
        if state.last is None and hand is not lead:
            cost += OTHER_STARTS
    for one, other in zip(hits, choice, strict=True):
        cost += TRAVELLED * travel(places[other], one.drum.surface)
        places[other] = one.drum.surface
    if side(places[Hand.LEFT], lead) - side(places[Hand.RIGHT], lead) > REACH:
        cost += CROSSING
    last, rolls_to = (hand if len(hits) == 1 else None), None
    if last and hit.roll:
        last, in_row = last_hand(hit.roll, hand), 1
        rolls_to = hit.end
    began = state.last is None and state.in_row == 0
    return Hands(places[Hand.RIGHT], places[Hand.LEFT], last, in_row, rolls_to, began), cost


def cost_of(moments: Sequence[Sequence[Hit]], chosen: Sequence[Choice], lead: Hand) -> float:
    """What a whole sharing costs."""
    state, total = Hands(HOME, HOME), 0.0
    for hits, choice in zip(moments, chosen, strict=True):
        state, more = step(state, hits, choice, lead)
        total += more
    return total
