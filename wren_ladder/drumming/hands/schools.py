"""The schools of sticking, for notes that no groove shares out: fills and drum parts.

Each takes the moments of a run, the hits of the hands at one time, and gives each hit a
hand and the rule that says so. Common practice, no source.
"""

from collections.abc import Callable, Sequence
from fractions import Fraction

from wren_ladder.drumming.chart import Bar, Hand, Hit
from wren_ladder.drumming.hands.flow import kit_flow
from wren_ladder.drumming.hands.rules import Rule, StickRule
from wren_ladder.drumming.rudiments.recognise import rudiment_hands
from wren_ladder.drumming.wording import Coded

Moment = tuple[Hit, ...]
Chosen = list[tuple[Hand, Rule]]  # for each hit of a moment
SEMIQUAVER = Fraction(1, 4)
RESTED = 1  # crotchets of silence after which the lead hand starts again


def hand_to_hand(run: Sequence[Moment], bar: Bar, lead: Hand) -> list[Chosen]:
    """The hands alternate; the lead hand starts, and starts again after a rest."""
    found, last, last_at = [], None, Fraction(0)
    for moment in run:
        at = moment[0].at
        rested = last is None or at - last_at > RESTED
        if len(moment) == 1:
            hand = lead if rested else last.other
            rule = StickRule.LEAD_STARTS if rested else StickRule.HAND_TO_HAND
            found.append([(hand, rule)])
        else:
            found.append(together(moment, lead))
        last, last_at = moment[-1].hand or found[-1][-1][0], at
    return found


def together(moment: Moment, lead: Hand) -> Chosen:
    """The upper of two is the lead hand's."""
    rule = StickRule.TOGETHER
    return [(lead.other if lower else lead, rule) for lower, _ in enumerate(moment)]


def grid_hand(run: Sequence[Moment], bar: Bar, lead: Hand) -> list[Chosen]:
    """The lead hand has 1 and &, the other e and a; triplets go hand to hand."""
    plain = hand_to_hand(run, bar, lead)
    found = []
    for moment, otherwise in zip(run, plain, strict=True):
        place = (moment[0].at + bar.count_offset) / SEMIQUAVER
        if len(moment) > 1 or place.denominator != 1:
            found.append(otherwise)
            continue
        on_lead = place % 2 == 0
        rule = StickRule.GRID_LEAD if on_lead else StickRule.GRID_OTHER
        found.append([(lead if on_lead else lead.other, rule)])
    return found


def accents_lead(run: Sequence[Moment], bar: Bar, lead: Hand) -> list[Chosen]:
    """The lead hand plays every accent, the other what is not accented."""
    found = []
    for moment in run:
        if len(moment) > 1:
            found.append(together(moment, lead))
        elif moment[0].touch.loud:
            found.append([(lead, StickRule.ACCENTED)])
        else:
            found.append([(lead.other, StickRule.NOT_ACCENTED)])
    return found


def by_rudiment(run: Sequence[Moment], bar: Bar, lead: Hand) -> list[Chosen]:
    """A rudiment told by its accents or graces brings its hands; the rest alternates."""
    found = hand_to_hand(run, bar, lead)
    start = 0
    while start < len(run):
        end = start
        while end < len(run) and len(run[end]) == 1:
            end += 1
        hands = rudiment_hands([moment[0] for moment in run[start:end]], lead)
        for place, told in enumerate(hands, start):
            if told:
                hand, rudiment = told
                found[place] = [(hand, rudiment.name)]
        start = end + 1
    return found


def flowing(run: Sequence[Moment], bar: Bar, lead: Hand) -> list[Chosen]:
    """The hands travel and cross as little as they can."""
    rule = StickRule.LEAST_TRAVEL
    pairs = [moment[:2] for moment in run]
    found = [[(hand, rule) for hand in choice] for choice in kit_flow(pairs, lead)]
    for chosen, moment in zip(found, run, strict=True):
        chosen += [(lead, rule)] * (len(moment) - len(chosen))
    return found


class Sticking(Coded):
    """Which hand plays what the page leaves open, outside of grooves."""

    HAND_TO_HAND = "hand-to-hand", "hand to hand"
    GRID_HAND = "grid-hand", "grid hand"
    ACCENTS_LEAD = "accents-lead", "accents lead"
    RUDIMENT = "rudiment"
    KIT_FLOW = "kit-flow", "kit flow"


# Each with what a teacher is told of it.
SCHOOLS: dict[Sticking, tuple[Callable[[Sequence[Moment], Bar, Hand], list[Chosen]], str]] = {
    Sticking.HAND_TO_HAND: (hand_to_hand, "the plain one"),
    Sticking.GRID_HAND: (grid_hand, "matches hands to the count"),
    Sticking.ACCENTS_LEAD: (accents_lead, "for accented phrases"),
    Sticking.RUDIMENT: (by_rudiment, "lets flams and accents bring the rudiment's hands"),
    Sticking.KIT_FLOW: (flowing, "goes round the drums with the least travel"),
}
