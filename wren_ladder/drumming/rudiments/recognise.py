"""Finds rudiments inside a bar: by its hands, its graces and its rhythm, at any speed.

Accents are not asked for: a paradiddle without its accent is still one. The longest is
taken first, and no stroke belongs to two.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import groupby, pairwise

from quicktions import Fraction

from wren_ladder.drumming.chart import Grace, Hand, Hit, RollKind, Surface
from wren_ladder.drumming.rudiments.listed import RUDIMENTS, by_name
from wren_ladder.drumming.rudiments.rudiment import Family, Rudiment

Played = tuple[Hit, Hand | None]
PLAIN_ROLL, SEMIQUAVER = "single stroke roll", Fraction(1, 4)
BREAK = "|"  # both hands at once, or a stroke that no hand plays
LETTERS = {
    (Hand.RIGHT, Grace.NONE): "R",
    (Hand.LEFT, Grace.NONE): "L",
    (Hand.RIGHT, Grace.FLAM): "F",
    (Hand.LEFT, Grace.FLAM): "f",
    (Hand.RIGHT, Grace.DRAG): "D",
    (Hand.LEFT, Grace.DRAG): "d",
    (Hand.RIGHT, Grace.RUFF): "U",
    (Hand.LEFT, Grace.RUFF): "u",
}
HANDS = {letter: hand for (hand, _), letter in LETTERS.items()}
COUNTED = {
    5: "five", 6: "six", 7: "seven", 9: "nine", 10: "ten", 11: "eleven", 13: "thirteen",
    15: "fifteen", 17: "seventeen",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class FoundRudiment:
    """A rudiment in a bar: from ``first`` to ``last`` crotchets, ``times`` in a row."""

    rudiment: Rudiment
    first: Fraction
    last: Fraction
    lead: Hand
    times: int = 1


@dataclass(frozen=True, slots=True)
class _Shape:
    """One side of a rudiment, or both, as letters with the gaps between their strokes."""

    rudiment: Rudiment
    lead: Hand
    sides: int
    letters: str
    gaps: tuple[Fraction, ...]
    accents: tuple[bool, ...]
    graces: tuple[Grace, ...]


def _shape(one: Rudiment, lead: Hand, sides: int) -> _Shape:
    second = lead.other if one.alternates else lead
    strokes = [(stroke, stroke.at) for stroke in one.side(lead)]
    if sides == 2:
        strokes += [(stroke, one.length + stroke.at) for stroke in one.side(second)]
    letters = "".join(LETTERS[stroke.hand, stroke.grace] for stroke, _ in strokes)
    gaps = tuple(after - before for (_, before), (_, after) in pairwise(strokes))
    accents = tuple(stroke.accent for stroke, _ in strokes)
    graces = tuple(stroke.grace for stroke, _ in strokes)
    return _Shape(one, lead, sides, letters, gaps, accents, graces)


def _shapes() -> tuple[_Shape, ...]:
    """Longest first; both sides of a short rudiment go before one side of a longer one,
    and a flam and one more stroke are no rudiment before they are played to both sides."""
    played = [one for one in RUDIMENTS if not any(stroke.buzz for stroke in one.strokes)]
    found = [_shape(one, lead, n) for one in played for lead in Hand for n in (1, 2)]
    found = [shape for shape in found if len(shape.letters) != 2 or shape.sides == 2]
    return tuple(sorted(found, key=lambda s: (-len(s.letters), not s.rudiment.apart)))


SHAPES = _shapes()


def find_rudiments(
    played: Sequence[Played], compound: bool = False
) -> tuple[FoundRudiment, ...]:
    """The rudiments of a bar in time order; rolls written as rolls are named by count.

    ``played`` are its hits with the hand that plays each, None for feet; ``compound`` where
    beats are divided in three.
    """
    times, letters = _spelled(played)
    surfaces = _surfaces(played)
    taken = [False] * len(letters)
    found = list(_written_rolls(played))
    for shape in SHAPES:
        place = letters.find(shape.letters)
        while place >= 0:
            end = place + len(shape.letters)
            free = not any(taken[place:end])
            if (
                free
                and _fits(shape, times, place, compound)
                and _is_meant(shape, times[place:end], surfaces)
            ):
                taken[place:end] = [True] * (end - place)
                last = times[end - 1]
                found.append(
                    FoundRudiment(shape.rudiment, times[place], last, shape.lead, shape.sides)
                )
            place = letters.find(shape.letters, place + 1)
    found.sort(key=lambda one: one.first)
    return tuple(_in_a_row(found))


def _is_meant(
    shape: _Shape, times: Sequence[Fraction], surfaces: Mapping[Fraction, Surface]
) -> bool:
    """Hands may spell a rudiment and mean none: a paradiddle begins where its beat does, and
    quavers, or notes round the drums, are no roll."""
    one = shape.rudiment
    if one.family is Family.DIDDLES:
        scale = (times[1] - times[0]) / shape.gaps[0]
        return times[0] % 1 == 0 or times[0] % (one.length * scale) == 0
    if one.name == PLAIN_ROLL:
        drums = {surfaces[at] for at in times}
        return times[1] - times[0] <= SEMIQUAVER and len(drums) == 1
    return True


def _surfaces(played: Sequence[Played]) -> dict[Fraction, Surface]:
    """What the hands strike at each time, where that is one thing."""
    return {hit.at: hit.drum.surface for hit, _ in played if not hit.drum.by_foot}


def _spelled(played: Sequence[Played]) -> tuple[list[Fraction], str]:
    """(when, which letter) of each onset of the hands."""
    by_hand = [pair for pair in played if not pair[0].drum.by_foot]
    times, letters = [], []
    for at, group in groupby(by_hand, key=lambda pair: pair[0].at):
        together = list(group)
        hit, hand = together[0]
        times.append(at)
        plain = len(together) == 1 and not hit.roll
        letters.append(LETTERS[hand, hit.grace] if hand and plain else BREAK)
    return times, "".join(letters)


def _fits(shape: _Shape, times: list[Fraction], place: int, compound: bool) -> bool:
    """Is the rhythm that of the rudiment, faster or slower?

    An uneven one is played twice as fast or slow; at another speed its triplets would be
    straight, and it would be another. What is written in thirds is played in thirds: four
    semiquavers are no ratamacue.
    """
    if not shape.gaps:
        return True
    scale = (times[place + 1] - times[place]) / shape.gaps[0]
    doubled = not (scale.numerator & (scale.numerator - 1)) and not (
        scale.denominator & (scale.denominator - 1)
    )
    if len(set(shape.gaps)) > 1 and not doubled:
        return False
    in_threes = any(stroke.at.denominator % 3 == 0 for stroke in shape.rudiment.strokes)
    if in_threes and not compound and (min(shape.gaps) * scale).denominator % 3:
        return False
    for offset, gap in enumerate(shape.gaps):
        if times[place + offset + 1] - times[place + offset] != gap * scale:
            return False
    return not shape.rudiment.apart or _stands_apart(shape, times, place, scale)


def _stands_apart(shape: _Shape, times: list[Fraction], place: int, scale: Fraction) -> bool:
    """A counted roll begins after a breath, and its last note has room behind it."""
    step = min(shape.gaps) * scale
    if place and times[place] - times[place - 1] <= step:
        return False
    behind = place + len(shape.letters)
    return behind == len(times) or times[behind] - times[behind - 1] > step


def _written_rolls(played: Sequence[Played]) -> Iterator[FoundRudiment]:
    for hit, hand in played:
        roll = hit.roll
        if not roll or not hand:
            continue
        if roll.kind is RollKind.BUZZ:
            name = "multiple bounce roll"
        elif roll.kind is RollKind.OPEN:
            counted = COUNTED.get(roll.strokes or 0)
            name = f"{counted} stroke roll" if counted else "double stroke open roll"
        else:
            name = "single stroke seven" if roll.strokes == 7 else "single stroke roll"
        yield FoundRudiment(by_name(name), hit.at, hit.at + roll.length, hand)


def _in_a_row(found: Sequence[FoundRudiment]) -> Iterator[FoundRudiment]:
    """The same rudiment several times on end is told once."""
    for _, group in groupby(found, key=lambda one: one.rudiment.name):
        row = list(group)
        first, last = row[0], row[-1]
        times = sum(one.times for one in row)
        yield FoundRudiment(first.rudiment, first.first, last.last, first.lead, times)


def rudiment_hands(
    hits: Sequence[Hit], lead: Hand, compound: bool = False
) -> tuple[tuple[Hand, Rudiment] | None, ...]:
    """For single hits in a row the hands of the rudiments they are by rhythm, graces and
    accents, None where they are none. A plain run is no rudiment: it takes an accent or a
    grace to tell."""
    found: list = [None] * len(hits)
    times = [hit.at for hit in hits]
    hand = lead
    place = 0
    while place < len(hits):
        shape = next(
            (s for s in SHAPES if s.lead is hand and _is(s, hits, times, place, compound)), None
        )
        if shape is None:
            place += 1
            continue
        for letter in shape.letters:
            found[place] = (HANDS[letter], shape.rudiment)
            place += 1
        ends_as_begun = shape.rudiment.alternates and shape.sides == 1
        hand = hand.other if ends_as_begun else hand
    return tuple(found)


def _is(
    shape: _Shape, hits: Sequence[Hit], times: list[Fraction], place: int, compound: bool
) -> bool:
    those = hits[place : place + len(shape.letters)]
    if len(those) < max(2, len(shape.letters)) or any(hit.roll for hit in those):
        return False
    loud = tuple(hit.touch.loud for hit in those)
    graces = tuple(hit.grace for hit in those)
    if not any(loud) and not any(grace.notes for grace in graces):
        return False
    return (loud, graces) == (shape.accents, shape.graces) and _fits(
        shape, times, place, compound
    )
