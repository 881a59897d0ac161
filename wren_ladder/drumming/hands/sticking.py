"""Sticking: the way hands share a groove, and the schools for the rest.

Written stickings always win. Common practice, no source.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import groupby

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Hand, Hit, Surface
from wren_ladder.drumming.chart.drum import CRASHES
from wren_ladder.drumming.description.timekeeping import timekeeper
from wren_ladder.drumming.hands.limbs import HAND_OF, LIMB_OF, Limb, foot_of
from wren_ladder.drumming.hands.rules import GROOVE_RULES, Rule, StickRule
from wren_ladder.drumming.hands.schools import SCHOOLS, Chosen, Sticking
from wren_ladder.drumming.rudiments.rolls import last_hand
from wren_ladder.drumming.style import HOUSE, Style

SEMIQUAVER = Fraction(1, 4)


@dataclass(frozen=True, slots=True)
class Stick:
    """Who plays a hit, and the rule that says so; ``limb`` is None if nobody is free."""

    hit: Hit
    limb: Limb | None
    rule: Rule

    @property
    def hand(self) -> Hand | None:
        """R or L, None for feet and for a hit that no hand is free for."""
        return HAND_OF.get(self.limb) if self.limb else None

    @property
    def why(self) -> str:
        """The rule in words."""
        return self.rule.label if isinstance(self.rule, StickRule) else self.rule

    @property
    def in_groove(self) -> bool:
        """Is the hand settled by the way hands share a groove?"""
        return self.rule in GROOVE_RULES


def stick_page(bars: Sequence[Bar], style: Style = HOUSE) -> tuple[tuple[Stick, ...], ...]:
    """The sticks of bars as the page has them: a roll goes over its bar line."""
    found: list[tuple[Stick, ...]] = []
    first = None
    for bar in bars:
        found.append(stick_bar(bar, style, first))
        first = landing_hand(found[-1], bar)
    return tuple(found)


def landing_hand(sticks: Sequence[Stick], bar: Bar) -> Hand | None:
    """The hand with which a roll that lasts to the bar line ends in the next bar; None where
    no roll does."""
    rolls = [stick for stick in sticks if stick.hit.roll and stick.hit.end == bar.length]
    roll, hand = (rolls[-1].hit.roll, rolls[-1].hand) if rolls else (None, None)
    return last_hand(roll, hand).other if roll and hand else None


@lru_cache(maxsize=4096)
def stick_bar(bar: Bar, style: Style = HOUSE, first: Hand | None = None) -> tuple[Stick, ...]:
    """One Stick per hit of the bar, in the bar's order.

    ``first`` is the hand with which a roll of the bar before ends on this bar's first stroke.

    In a beat where the bar's timekeeping cymbal sounds, one hand keeps it and the other
    plays the rest; semiquavers on it go hand to hand. Everything else is shared out by the
    style's school. What is written on the page always stays.
    """
    keeper = timekeeper(bar)
    keeping = _keeping_hand(keeper, style)
    quick = _in_semiquavers(bar, keeper)
    moments: list[list[Hit]] = []
    shared: dict[int, Chosen] = {}  # by moment, what the groove settles
    for start, _, beat in bar.by_beat():
        for at, group in groupby(beat, key=lambda hit: hit.at):
            moments.append(list(group))
            hands = _by_hand(moments[-1])
            if hands and keeper and _kept(beat, hands, keeper):
                shared[len(moments) - 1] = (
                    _hand_to_hand_on_cymbal(hands, at - start, keeper, style.lead)
                    if start in quick
                    else _with_cymbal(hands, keeper, keeping)
                )
    landing = first if moments and 0 not in shared and _lands(moments[0]) else None
    for run in _runs(moments, shared):
        by_school, _ = SCHOOLS[Sticking(style.sticking)]
        played = [tuple(_by_hand(moments[place])) for place in run]
        if landing and run[0] == 0:  # the school goes on from it as from a written hand
            played[0] = (replace(played[0][0], hand=landing),)
        shared |= zip(run, by_school(played, bar, style.lead), strict=True)
    if landing:
        shared[0] = [(landing, StickRule.ROLL_ENDS)]
    sticks: list[Stick] = []
    for place, moment in enumerate(moments):
        sticks += (
            Stick(hit, LIMB_OF.get(hand) if hand else None, rule)
            for hit, hand, rule in _written_first(_by_hand(moment), shared.get(place, []))
        )
        sticks += (
            Stick(hit, foot_of(hit.drum, style.lead), StickRule.PEDALS)
            for hit in moment
            if hit.drum.by_foot
        )
    return tuple(sticks)


def _by_hand(moment: Sequence[Hit]) -> list[Hit]:
    return [hit for hit in moment if not hit.drum.by_foot]


def _lands(moment: Sequence[Hit]) -> bool:
    """Is it one stroke of the hands on the first beat, on which a roll can end?"""
    hands = _by_hand(moment)
    return moment[0].at == 0 and len(hands) == 1 and not hands[0].hand


def _runs(moments: Sequence[Sequence[Hit]], shared: dict[int, Chosen]) -> list[list[int]]:
    """The stretches of moments of the hands that no groove shares out."""
    runs: list[list[int]] = [[]]
    for place, moment in enumerate(moments):
        if place in shared:
            runs.append([])
        elif _by_hand(moment):
            runs[-1].append(place)
    return [run for run in runs if run]


def _keeping_hand(keeper: Surface | None, style: Style) -> Hand:
    """Open-handed players keep the hat with the hand on its side."""
    if style.open_handed and keeper is Surface.HIHAT:
        return style.lead.other
    return style.lead


def _kept(beat: Sequence[Hit], hands: list[Hit], keeper: Surface | None) -> bool:
    """Is the cymbal pattern going on in this beat? A section crash stands in for it."""
    return keeper is not None and (
        any(hit.drum.surface is keeper for hit in beat)
        or any(hit.drum.surface in CRASHES for hit in hands)
    )


def _in_semiquavers(bar: Bar, keeper: Surface | None) -> frozenset[Fraction]:
    """The beats in which the cymbal runs in semiquavers: where it has all of those between
    the quavers; and where one is left out, in a bar that runs so in most of its beats."""
    if keeper is None:
        return frozenset()
    full, some = set(), set()
    for start, length, beat in bar.by_beat():
        between = {start + place * SEMIQUAVER for place in range(1, int(length * 4), 2)}
        there = between & {hit.at for hit in beat if hit.drum.surface is keeper}
        if there:
            some.add(start)
        if there and there == between:
            full.add(start)
    return frozenset(some if 2 * len(full) >= len(some) else full)


def _hand_to_hand_on_cymbal(
    hands: list[Hit], into: Fraction, keeper: Surface, lead: Hand
) -> list[tuple[Hand, Rule]]:
    """The lead hand has the beat and its &, the other e and a, ``into`` the beat as they are;
    whoever has the backbeat leaves the cymbal for it, and the other hand stays there."""
    hand = lead if (into / SEMIQUAVER) % 2 == 0 else lead.other
    if len(hands) == 1:
        return [(hand, StickRule.IN_SEMIQUAVERS)]
    return [
        (hand.other, StickRule.UNDER_SNARE)
        if hit.drum.surface is keeper
        else (hand, StickRule.IN_SEMIQUAVERS)
        for hit in hands
    ]


def _with_cymbal(hands: list[Hit], keeper: Surface, lead: Hand) -> list[tuple[Hand, Rule]]:
    """One hand on the cymbal, the other on everything else."""
    other_rule = StickRule.WITH_CYMBAL if len(hands) > 1 else StickRule.BETWEEN
    return [
        (lead, StickRule.KEEPS_CYMBAL)
        if hit.drum.surface is keeper or hit.drum.surface in CRASHES
        else (lead.other, other_rule)
        for hit in hands
    ]


def _written_first(
    hands: list[Hit], chosen: list[tuple[Hand, Rule]]
) -> Iterator[tuple[Hit, Hand | None, Rule]]:
    """Written hands win; what was chosen gives way, and a third hit finds no hand."""
    taken = {hit.hand for hit in hands if hit.hand}
    for hit, (hand, rule) in zip(hands, chosen, strict=True):
        if hit.hand:
            yield hit, hit.hand, StickRule.WRITTEN
            continue
        free = next((h for h in (hand, hand.other) if h not in taken), None)
        if free:
            taken.add(free)
        yield hit, free, rule if free else StickRule.NOBODY
