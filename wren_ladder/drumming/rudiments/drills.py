"""Drills made from rudiments and accents: inversions, and versions of an accented phrase.

Common practice, no source.
"""

from dataclasses import dataclass, replace
from fractions import Fraction
from itertools import pairwise

from wren_ladder.drumming.chart import Bar, Drum, Grace, Hand, Hit, Meter, Touch

PARADIDDLE = "RLRRLRLL"
STEP = Fraction(1, 4)


@dataclass(frozen=True, slots=True)
class Drill:
    name: str
    bar: Bar


def inversions() -> tuple[str, ...]:
    """The paradiddle begun at each of its four places, mirrored to start right."""
    found = []
    for turn in range(4):
        hands = PARADIDDLE[turn:] + PARADIDDLE[:turn]
        if hands[0] == "L":
            hands = hands.translate(str.maketrans("RL", "LR"))
        found.append(hands)
    return tuple(found)


def inversion_drills() -> tuple[Drill, ...]:
    """Four inversions by four accents: 16 bars; what is not accented is a ghost."""
    return tuple(
        Drill(
            f"{hands[:4]} {hands[4:]}, accent on {'1e&a'[accent]}",
            _bar_of(hands, {accent, accent + 4}),
        )
        for hands in inversions()
        for accent in range(4)
    )


def _bar_of(hands: str, accents: set[int]) -> Bar:
    hits = tuple(
        Hit(
            place * STEP,
            Drum.SNARE,
            Touch.ACCENT if place in accents else Touch.GHOST,
            hand=Hand(hand),
        )
        for place, hand in enumerate(hands)
    )
    return Bar("1", Meter(2, 4), hits)


def versions(bar: Bar, lead: Hand = Hand.RIGHT) -> tuple[Drill, ...]:
    """An accented phrase alternating, with accents leading, with what is unaccented
    doubled; straight, and in triplets where the bar is in even quavers or semiquavers."""
    phrases = [("straight", bar)]
    tripled = in_triplets(bar)
    if tripled:
        phrases.append(("in triplets", tripled))
    drills = []
    for name, phrase in phrases:
        drills.append(Drill(f"alternating, {name}", alternating(phrase, lead)))
        drills.append(Drill(f"accents lead, {name}", accents_lead(phrase, lead)))
        drills.append(Drill(f"unaccented doubled, {name}", doubled(phrase, lead)))
    return tuple(drills)


def alternating(bar: Bar, lead: Hand = Hand.RIGHT) -> Bar:
    """Hand to hand from the lead hand on."""
    hand, hits = lead, []
    for hit in bar.hits:
        if hit.drum.by_foot:
            hits.append(hit)
            continue
        hits.append(replace(hit, hand=hand))
        hand = hand.other
    return replace(bar, hits=tuple(hits))


def accents_lead(bar: Bar, lead: Hand = Hand.RIGHT) -> Bar:
    """The lead hand plays every accent, the other every unaccented note."""
    return replace(
        bar,
        hits=tuple(
            hit
            if hit.drum.by_foot
            else replace(hit, hand=lead if hit.touch.loud else lead.other)
            for hit in bar.hits
        ),
    )


def doubled(bar: Bar, lead: Hand = Hand.RIGHT) -> Bar:
    """Every unaccented note as two of half its length by the same hand."""
    stuck = alternating(bar, lead)
    times = sorted({hit.at for hit in stuck.hits})
    ends = dict(zip(times, [*times[1:], bar.length], strict=True))
    hits = []
    for hit in stuck.hits:
        hits.append(hit)
        if hit.touch.loud or hit.drum.by_foot or hit.roll:
            continue
        second = hit.at + (ends[hit.at] - hit.at) / 2
        hits.append(replace(hit, at=second, grace=Grace.NONE))
    return replace(stuck, hits=tuple(hits))


def in_triplets(bar: Bar) -> Bar | None:
    """The same notes and accents three to a beat, the bar filled; None where they are not
    even."""
    times = sorted({hit.at for hit in bar.hits})
    gaps = {after - before for before, after in pairwise(times)}
    if len(gaps) != 1 or times[0] or any(hit.roll for hit in bar.hits):
        return None
    step = next(iter(gaps))
    if step not in (Fraction(1, 2), Fraction(1, 4)):
        return None
    length = len(times) * Fraction(1, 3)
    beats = -(-length.numerator // length.denominator)
    hits = []
    for place in range(3 * beats):  # the phrase from its start again where the bar goes on
        source = times[place % len(times)]
        hits += (
            replace(hit, at=place * Fraction(1, 3)) for hit in bar.hits if hit.at == source
        )
    return Bar(bar.number, Meter(beats, 4), tuple(hits))
