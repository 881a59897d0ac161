"""Sticking: hand to hand, and the way hands share a groove.

Written stickings always win. Common practice, no source.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from itertools import groupby

from wren_ladder.drumming.chart import Bar, Drum, Hand, Hit, Problem, Surface
from wren_ladder.drumming.style import HOUSE, Style

CYMBALS = (Surface.HIHAT, Surface.RIDE, Surface.COWBELL)
CRASHES = (Surface.CRASH, Surface.CRASH_2, Surface.SPLASH, Surface.CHINA)
SEMIQUAVER = Fraction(1, 4)


class Limb(StrEnum):
    RIGHT_HAND = "right hand"
    LEFT_HAND = "left hand"
    RIGHT_FOOT = "right foot"
    LEFT_FOOT = "left foot"


@dataclass(frozen=True, slots=True)
class Stick:
    """Who plays a hit, and the rule that says so; ``limb`` is None if nobody is free."""

    hit: Hit
    limb: Limb | None
    rule: str

    @property
    def hand(self) -> Hand | None:
        """R or L, None for feet and for a hit that no hand is free for."""
        return HAND_OF.get(self.limb)


LIMB_OF = {Hand.RIGHT: Limb.RIGHT_HAND, Hand.LEFT: Limb.LEFT_HAND}
HAND_OF = {limb: hand for hand, limb in LIMB_OF.items()}


def stick_bar(bar: Bar, style: Style = HOUSE) -> tuple[Stick, ...]:
    """One Stick per hit of the bar, in the bar's order.

    In a beat where the bar's timekeeping cymbal sounds, the lead hand keeps it and the
    other hand plays the rest; semiquavers on it go hand to hand. Elsewhere the hands
    alternate, starting with the lead hand after a rest of a beat or more.
    """
    keeper = timekeeper(bar)
    sticks: list[Stick] = []
    alternate = _HandToHand(style.lead)
    for start, _, beat in bar.by_beat():
        in_semiquavers = _in_semiquavers(bar, start, beat, keeper)
        for at, group in groupby(beat, key=lambda hit: hit.at):
            together = list(group)
            hands = [hit for hit in together if not hit.drum.by_foot]
            kept = _kept(beat, hands, keeper)
            if not kept:
                chosen = alternate.choose(hands, at)
            elif in_semiquavers:
                chosen = _hand_to_hand_on_cymbal(hands, at, keeper, style.lead)
            else:
                chosen = _with_cymbal(hands, keeper, style.lead)
            sticks += (
                Stick(hit, LIMB_OF.get(hand), rule)
                for hit, hand, rule in _written_first(hands, chosen)
            )
            if kept:
                alternate.restart()
            elif hands:
                alternate.played(sticks[-1].hand, at)
            sticks += (
                Stick(hit, _foot(hit.drum, style.lead), "feet keep their pedals")
                for hit in together
                if hit.drum.by_foot
            )
    return tuple(sticks)


def hand_problems(sticks: Sequence[Stick], bar: Bar) -> list[Problem]:
    """Hits for which no hand is left, and hands that the page asks for twice at once."""
    problems, busy = [], {}
    for stick in sticks:
        beat, name = bar.beat_of(stick.hit.at), stick.hit.drum.spoken
        if stick.limb is None:
            text = f"no hand is free for the {name}; two hands can't strike three things"
            problems.append(Problem("no-hand", f"beat {beat}: {text} at once", bar.number))
            continue
        other = busy.setdefault((stick.hit.at, stick.limb), name)
        if other != name:
            text = f"the {stick.limb} is written on {other} and {name} at once"
            problems.append(Problem("hand-twice", f"beat {beat}: {text}", bar.number))
    return problems


def timekeeper(bar: Bar) -> Surface | None:
    """The cymbal that keeps time: struck more than any other, and at least twice."""
    counts = {
        surface: sum(1 for hit in bar.hits if hit.drum.surface is surface)
        for surface in CYMBALS
    }
    most = max(counts, key=counts.__getitem__)
    return most if counts[most] >= 2 else None


def _kept(beat: Sequence[Hit], hands: list[Hit], keeper: Surface | None) -> bool:
    """Is the cymbal pattern going on in this beat? A section crash stands in for it."""
    return keeper is not None and (
        any(hit.drum.surface is keeper for hit in beat)
        or any(hit.drum.surface in CRASHES for hit in hands)
    )


def _in_semiquavers(
    bar: Bar, start: Fraction, beat: Sequence[Hit], keeper: Surface | None
) -> bool:
    """True where the cymbal runs in semiquavers: on e and a, the beat itself being
    struck by whoever is there. In compound time one hand keeps the quavers."""
    if keeper is None or bar.meter.compound:
        return False
    quarters = [start + SEMIQUAVER, start + 3 * SEMIQUAVER]
    on_cymbal = {hit.at for hit in beat if hit.drum.surface is keeper}
    return all(at in on_cymbal for at in quarters)


def _hand_to_hand_on_cymbal(
    hands: list[Hit], at: Fraction, keeper: Surface, lead: Hand
) -> list[tuple[Hand, str]]:
    """The lead hand has the beat and its &, the other e and a; whoever has the
    backbeat leaves the cymbal for it."""
    hand = lead if (at / SEMIQUAVER) % 2 == 0 else lead.other
    rule = "semiquavers on the cymbal go hand to hand"
    if len(hands) == 1:
        return [(hand, rule)]
    return [(hand if hit.drum.surface is keeper else hand.other, rule) for hit in hands]


def _with_cymbal(hands: list[Hit], keeper: Surface, lead: Hand) -> list[tuple[Hand, str]]:
    """One hand on the cymbal, the other on everything else."""
    other_rule = (
        "the other hand plays with the cymbal"
        if len(hands) > 1
        else "the other hand plays between cymbal strokes"
    )
    return [
        (lead, "the lead hand keeps the cymbal")
        if hit.drum.surface is keeper or hit.drum.surface in CRASHES
        else (lead.other, other_rule)
        for hit in hands
    ]


class _HandToHand:
    """Alternating hands that remember who played last."""

    def __init__(self, lead: Hand) -> None:
        self.lead = lead
        self.last: Hand | None = None
        self.last_at = Fraction(0)

    def restart(self) -> None:
        """A fill that follows a groove starts with the lead hand."""
        self.last = None

    def played(self, hand: Hand | None, at: Fraction) -> None:
        self.last, self.last_at = hand, at

    def choose(self, hands: list[Hit], at: Fraction) -> list[tuple[Hand, str]]:
        rested = self.last is None or at - self.last_at > 1
        hand = self.lead if rested else self.last.other
        if len(hands) == 1:
            return [(hand, "the lead hand starts" if rested else "hand to hand")]
        return [
            (self.lead.other if lower else self.lead, "both hands together")
            for lower, _ in enumerate(hands)
        ]


def _written_first(
    hands: list[Hit], chosen: list[tuple[Hand, str]]
) -> Iterator[tuple[Hit, Hand | None, str]]:
    """Written hands win; what was chosen gives way, and a third hit finds no hand."""
    taken = {hit.hand for hit in hands if hit.hand}
    for hit, (hand, rule) in zip(hands, chosen, strict=True):
        if hit.hand:
            yield hit, hit.hand, "written on the page"
            continue
        free = next((h for h in (hand, hand.other) if h not in taken), None)
        if free:
            taken.add(free)
        yield hit, free, rule if free else "no hand is free"


def _foot(drum: Drum, lead: Hand) -> Limb:
    """The kick pedal is under the lead side's foot, the hat pedal under the other."""
    right = (drum is Drum.KICK) == (lead is Hand.RIGHT)
    return Limb.RIGHT_FOOT if right else Limb.LEFT_FOOT
