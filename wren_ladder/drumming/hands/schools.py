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
from wren_ladder.drumming.style import Sticking, Style

Moment = tuple[Hit, ...]
Chosen = list[tuple[Hand, Rule]]  # for each hit of a moment
SEMIQUAVER = Fraction(1, 4)
RESTED = 1  # crotchets of silence after which the lead hand starts again


def hand_to_hand(run: Sequence[Moment], bar: Bar, style: Style) -> list[Chosen]:
    """The hands alternate; the lead hand starts, and starts again after a rest."""
    found, last, last_at = [], None, Fraction(0)
    for moment in run:
        at = moment[0].at
        rested = last is None or at - last_at > RESTED
        if len(moment) == 1:
            hand = style.lead if rested else last.other
            rule = StickRule.LEAD_STARTS if rested else StickRule.HAND_TO_HAND
            found.append([(hand, rule)])
        else:
            found.append(together(moment, style.lead))
        last, last_at = moment[-1].hand or found[-1][-1][0], at
    return found


def together(moment: Moment, lead: Hand) -> Chosen:
    """The upper of two is the lead hand's."""
    rule = StickRule.TOGETHER
    return [(lead.other if lower else lead, rule) for lower, _ in enumerate(moment)]


def grid_hand(run: Sequence[Moment], bar: Bar, style: Style) -> list[Chosen]:
    """The lead hand has 1 and &, the other e and a; triplets go hand to hand."""
    plain = hand_to_hand(run, bar, style)
    found = []
    for moment, otherwise in zip(run, plain, strict=True):
        place = (moment[0].at + bar.count_offset) / SEMIQUAVER
        if len(moment) > 1 or place.denominator != 1:
            found.append(otherwise)
            continue
        on_lead = place % 2 == 0
        rule = StickRule.GRID_LEAD if on_lead else StickRule.GRID_OTHER
        found.append([(style.lead if on_lead else style.lead.other, rule)])
    return found


def accents_lead(run: Sequence[Moment], bar: Bar, style: Style) -> list[Chosen]:
    """The lead hand plays every accent, the other what is not accented."""
    found = []
    for moment in run:
        if len(moment) > 1:
            found.append(together(moment, style.lead))
        elif moment[0].touch.loud:
            found.append([(style.lead, StickRule.ACCENTED)])
        else:
            found.append([(style.lead.other, StickRule.NOT_ACCENTED)])
    return found


def by_rudiment(run: Sequence[Moment], bar: Bar, style: Style) -> list[Chosen]:
    """A rudiment told by its accents or graces brings its hands; the rest alternates."""
    found = hand_to_hand(run, bar, style)
    start = 0
    while start < len(run):
        end = start
        while end < len(run) and len(run[end]) == 1:
            end += 1
        hands = rudiment_hands([moment[0] for moment in run[start:end]], style.lead)
        for place, told in enumerate(hands, start):
            if told:
                hand, rudiment = told
                found[place] = [(hand, rudiment.name)]
        start = end + 1
    return found


def flowing(run: Sequence[Moment], bar: Bar, style: Style) -> list[Chosen]:
    """The hands travel and cross as little as they can."""
    rule = StickRule.LEAST_TRAVEL
    pairs = [moment[:2] for moment in run]
    found = [[(hand, rule) for hand in choice] for choice in kit_flow(pairs, style.lead)]
    for chosen, moment in zip(found, run, strict=True):
        chosen += [(style.lead, rule)] * (len(moment) - len(chosen))
    return found


SCHOOLS: dict[Sticking, Callable[[Sequence[Moment], Bar, Style], list[Chosen]]] = {
    Sticking.HAND_TO_HAND: hand_to_hand,
    Sticking.GRID_HAND: grid_hand,
    Sticking.ACCENTS_LEAD: accents_lead,
    Sticking.RUDIMENT: by_rudiment,
    Sticking.KIT_FLOW: flowing,
}
