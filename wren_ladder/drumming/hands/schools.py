"""The schools of sticking, for notes that no groove shares out: fills and drum parts.

Each takes the moments of a run, the hits of the hands at one time, and gives each hit a
hand and the rule that says so. Common practice, no source.
"""

from collections.abc import Callable, Sequence
from itertools import pairwise

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Hand, Hit
from wren_ladder.drumming.chart.drum import Family
from wren_ladder.drumming.hands.flow import kit_flow
from wren_ladder.drumming.hands.kit import crossed, side
from wren_ladder.drumming.hands.rules import Rule, StickRule
from wren_ladder.drumming.rudiments.recognise import rudiment_hands
from wren_ladder.drumming.rudiments.rolls import last_hand
from wren_ladder.drumming.wording import Coded

Moment = tuple[Hit, ...]
Chosen = list[tuple[Hand, Rule]]  # for each hit of a moment
SEMIQUAVER = Fraction(1, 4)
CYMBALS = (Family.CYMBAL, Family.HAT)
HALF = Fraction(1, 2)
RESTED = 1  # crotchets of silence after which the lead hand starts again


def hand_to_hand(run: Sequence[Moment], bar: Bar, lead: Hand) -> list[Chosen]:
    """The hands alternate; the lead hand starts, and starts again after a rest. Where the arms
    would cross on the way round the drums and don't with the other hand first, that starts."""
    plain = _alternating(run, lead, lead)
    if not _arms_cross(run, plain, lead):
        return plain
    other = _alternating(run, lead, lead.other)
    return plain if _arms_cross(run, other, lead) else other


def _arms_cross(run: Sequence[Moment], chosen: Sequence[Chosen], lead: Hand) -> bool:
    """Does a hand have to go over the other, from a stroke to the next?"""
    alone = [
        (moment[0].hand or hands[0][0], moment[0].drum.surface)
        for moment, hands in zip(run, chosen, strict=True)
        if len(moment) == 1
    ]
    for (hand, surface), (next_hand, next_surface) in pairwise(alone):
        if hand is not next_hand:
            right, left = surface, next_surface
            if hand is Hand.LEFT:
                right, left = next_surface, surface
            if crossed(right, left, lead):
                return True
    return False


def _alternating(run: Sequence[Moment], lead: Hand, first: Hand) -> list[Chosen]:
    """Hand after hand from ``first`` on, and so again after a rest; off the beat with the
    other one, so that the first has the beat."""
    found: list[Chosen] = []
    last: Hand | None = None
    sounded = Fraction(0)
    for moment in run:
        at = moment[0].at
        if len(moment) == 1 and (last is None or at - sounded > RESTED):
            begins = first.other if last is not None and at % 1 == HALF else first
            found.append([(begins, StickRule.LEAD_STARTS)])
        elif len(moment) == 1 and last is not None:
            found.append([(last.other, StickRule.HAND_TO_HAND)])
        else:
            found.append(together(moment, lead))
        last, sounded = last_of(moment, found[-1]), sounds_to(moment)
    return found


def last_of(moment: Moment, chosen: Chosen) -> Hand:
    """Who struck last in a moment, through its roll if it is one."""
    hit, hand = moment[-1], moment[-1].hand or chosen[-1][0]
    return last_hand(hit.roll, hand) if hit.roll else hand


def sounds_to(moment: Moment) -> Fraction:
    """Until when the hands are busy: a roll is no rest."""
    return max(hit.end for hit in moment)


def _is_led_out(moment: Moment, after: Moment) -> bool:
    """Is it a roll that nobody accents, and that ends on what comes after?"""
    return ends_roll(moment, after) and not moment[0].touch.loud


def ends_roll(before: Moment, moment: Moment) -> bool:
    """Is it the one stroke on which the roll before it ends?"""
    return len(moment) == 1 and any(hit.roll and hit.end == moment[0].at for hit in before)


def together(moment: Moment, lead: Hand) -> Chosen:
    """Two at once go by side: each hand takes what is on its side of the kit, so that arms
    never cross. The lead hand has the cymbal of a cymbal and a drum, and the upper one of two
    on the same side."""
    upper, lower = (hit.drum.row for hit in moment[:2])
    gap = side(upper.surface, lead) - side(lower.surface, lead)
    if lead is Hand.LEFT:
        gap = -gap
    leads = gap >= 0 or (upper.family in CYMBALS and lower.family not in CYMBALS)
    hands = (lead, lead.other) if leads else (lead.other, lead)
    return [(hands[min(place, 1)], StickRule.TOGETHER) for place, _ in enumerate(moment)]


def grid_hand(run: Sequence[Moment], bar: Bar, lead: Hand) -> list[Chosen]:
    """The lead hand has 1 and &, the other e and a; triplets go hand to hand."""
    plain = hand_to_hand(run, bar, lead)
    found: list[Chosen] = []
    for before, moment, otherwise in zip([None, *run], run, plain, strict=False):
        place = (moment[0].at + bar.count_offset) / SEMIQUAVER
        if before is not None and ends_roll(before, moment):
            found.append([(last_of(before, found[-1]).other, StickRule.ROLL_ENDS)])
            continue
        if len(moment) > 1 or place.denominator != 1:
            found.append(otherwise)
            continue
        on_lead = place % 2 == 0
        rule = StickRule.GRID_LEAD if on_lead else StickRule.GRID_OTHER
        found.append([(lead if on_lead else lead.other, rule)])
    return found


def accents_lead(run: Sequence[Moment], bar: Bar, lead: Hand) -> list[Chosen]:
    """The lead hand plays every accent, the other what is not accented; a roll begins with the
    hand with which it ends as it should."""
    found: list[Chosen] = []
    for before, moment, after in zip([None, *run], run, [*run[1:], None], strict=False):
        if len(moment) > 1:
            found.append(together(moment, lead))
        elif before is not None and ends_roll(before, moment):
            found.append([(last_of(before, found[-1]).other, StickRule.ROLL_ENDS)])
        elif after and (roll := moment[0].roll) and _is_led_out(moment, after):
            goal = after[0].hand or (lead if after[0].touch.loud else lead.other)
            found.append([(last_hand(roll, goal.other), StickRule.TO_THE_ROLL)])
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
        hands = rudiment_hands(
            [moment[0] for moment in run[start:end]], lead, bar.meter.compound
        )
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
    found: list[Chosen] = [
        [(hand, rule) for hand in choice] for choice in kit_flow(pairs, lead)
    ]
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
