"""Bars compared: a bar that differs little from one before is taught as the difference.

"18 is 17 with the hat open on 4&". Common practice, no source.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Grace, Hit, Surface, Touch
from wren_ladder.drumming.chart.shorthand import CRASHES
from wren_ladder.drumming.notation.counts.positions import Frame

MOST_CHANGES = 3  # more is another bar
LOOKED_AT = 2  # of the bars that share the most strokes, the nearest first
FEWEST_HITS = 3  # below, everything is like everything


class ChangeKind(StrEnum):
    CRASH = "section crash"
    ADDED = "added"
    REMOVED = "removed"
    MOVED = "moved"
    OTHER_DRUM = "other drum"
    SET = "set otherwise"  # an opened hat, a bell
    TOUCH = "touch"
    ORNAMENT = "ornament"


@dataclass(frozen=True, slots=True)
class Change:
    """One step from the bar before to this one; ``at`` is where this one has it."""

    kind: ChangeKind
    at: Fraction
    text: str  # "the hat open on 4&", said after "with" or "without"
    without: bool = False


@dataclass(frozen=True, slots=True)
class Difference:
    """How a bar comes from bar ``source``, a place of the chart."""

    source: int
    changes: tuple[Change, ...]

    def spoken(self, number: str) -> str:
        """ "12 with the hat open on 4&, without the kick on 3"."""
        parts = [f"{'without' if c.without else 'with'} {c.text}" for c in self.changes]
        return f"{number} {', '.join(parts)}"


def changes(before: Bar, after: Bar) -> tuple[Change, ...] | None:
    """The smallest musical steps from one bar to the other; None in another metre."""
    if (before.meter, before.length) != (after.meter, after.length):
        return None
    frame = Frame.of(after)
    here, there = set(after.hits), set(before.hits)
    gone = [hit for hit in before.hits if hit not in here]
    new = [hit for hit in after.hits if hit not in there]
    found: list[Change] = []
    _crash(gone, new, found)
    _same_place(gone, new, frame, found)
    _other_drum(gone, new, frame, found)
    _moved(gone, new, frame, found)
    found += (
        Change(ChangeKind.ADDED, hit.at, f"{_the(hit)} on {frame.say(hit.at)}") for hit in new
    )
    found += (
        Change(ChangeKind.REMOVED, hit.at, f"{_the(hit)} on {frame.say(hit.at)}", True)
        for hit in gone
    )
    return tuple(sorted(found, key=lambda change: change.at))


def _the(hit: Hit) -> str:
    words = [hit.grace.value] if hit.grace is not Grace.NONE else []
    if hit.touch is not Touch.NORMAL:
        words.append(hit.touch.value)
    return " ".join(["the", *words, hit.drum.spoken])


def _crash(gone: list[Hit], new: list[Hit], found: list[Change]) -> None:
    """A crash on the first beat marks the section: a difference of its own kind, with the
    cymbal that stands in for it."""
    for mine, theirs, without in ((new, gone, False), (gone, new, True)):
        crash = next((h for h in mine if h.at == 0 and h.drum.surface in CRASHES), None)
        if crash is None:
            continue
        mine.remove(crash)
        kept = next((h for h in theirs if h.at == 0 and _keeps_time(h)), None)
        if kept:
            theirs.remove(kept)
        found.append(Change(ChangeKind.CRASH, Fraction(0), "the section's crash", without))


def _keeps_time(hit: Hit) -> bool:
    return hit.drum.surface in (Surface.HIHAT, Surface.RIDE)


def _same_place(gone: list[Hit], new: list[Hit], frame: Frame, found: list[Change]) -> None:
    """The same surface at the same time, played in another way."""
    for hit in list(new):
        place = (hit.at, hit.drum.surface)
        old = next((h for h in gone if (h.at, h.drum.surface) == place), None)
        if old is None:
            continue
        gone.remove(old)
        new.remove(hit)
        found.append(_played_otherwise(old, hit, frame.say(hit.at)))


def _played_otherwise(old: Hit, hit: Hit, where: str) -> Change:
    if old.drum is not hit.drum:
        return Change(ChangeKind.SET, hit.at, f"the {_set(hit.drum)} on {where}")
    if (old.grace, old.roll) != (hit.grace, hit.roll):
        plain = hit.grace is Grace.NONE and hit.roll is None
        name = _ornament(old if plain else hit)
        return Change(ChangeKind.ORNAMENT, hit.at, f"the {name} on {where}", plain)
    if old.touch is not hit.touch:
        plain = hit.touch is Touch.NORMAL
        name = (old if plain else hit).touch.value
        kind = ChangeKind.TOUCH
        return Change(kind, hit.at, f"the {name} on {where} ({hit.drum.spoken})", plain)
    hand = "the sticking" if hit.hand is None else f"the {hit.drum.spoken} {hit.hand}"
    return Change(ChangeKind.TOUCH, hit.at, f"{hand} on {where}", hit.hand is None)


def _set(drum: Drum) -> str:
    """The hat is opened or closed; other surfaces are played another way."""
    named = {Drum.HIHAT: "hat closed", Drum.HIHAT_OPEN: "hat open", Drum.HIHAT_HALF: "hat half"}
    return named.get(drum, drum.spoken)


def _ornament(hit: Hit) -> str:
    return "roll" if hit.roll else hit.grace.value


def _other_drum(gone: list[Hit], new: list[Hit], frame: Frame, found: list[Change]) -> None:
    for hit in list(new):
        old = next(
            (h for h in gone if h.at == hit.at and h.drum.by_foot == hit.drum.by_foot), None
        )
        if old is None:
            continue
        gone.remove(old)
        new.remove(hit)
        text = f"{_the(hit)} for the {old.drum.spoken} on {frame.say(hit.at)}"
        found.append(Change(ChangeKind.OTHER_DRUM, hit.at, text))


def _moved(gone: list[Hit], new: list[Hit], frame: Frame, found: list[Change]) -> None:
    """One stroke gone and one of the same drum come within a beat of it."""
    for hit in list(new):
        near = [h for h in gone if h.drum is hit.drum and abs(h.at - hit.at) <= 1]
        if not near:
            continue
        old = min(near, key=lambda h: abs(h.at - hit.at))
        gone.remove(old)
        new.remove(hit)
        text = f"the {hit.drum.spoken} moved from {frame.say(old.at)} to {frame.say(hit.at)}"
        found.append(Change(ChangeKind.MOVED, hit.at, text))


def differences(bars: Sequence[Bar], kinds: Sequence[int]) -> tuple[Difference | None, ...]:
    """For each bar the one before it that it is best taught from, None where it is best
    taught by itself; equal bars (``kinds``) are compared once."""
    signs: dict[tuple, int] = {}
    prints = {
        index: frozenset(signs.setdefault(_sign(hit), len(signs)) for hit in bar.hits)
        for index, bar in enumerate(bars)
        if kinds[index] == index
    }
    first: dict[int, Difference | None] = {}
    for index, mine in prints.items():
        first[index] = _nearest(bars, index, mine, prints)
    return tuple(first[kind] for kind in kinds)


def _sign(hit: Hit) -> tuple:
    return (hit.at, hit.drum, hit.touch, hit.grace, hit.roll, hit.hand)


def _nearest(
    bars: Sequence[Bar], index: int, mine: frozenset[int], prints: dict[int, frozenset[int]]
) -> Difference | None:
    if len(bars[index].hits) < FEWEST_HITS:
        return None
    apart = {
        other: len(mine ^ theirs)
        for other, theirs in prints.items()
        if other < index and len(mine ^ theirs) <= 2 * MOST_CHANGES + 1
    }
    likely = sorted(apart, key=lambda other: (apart[other], -other))[:LOOKED_AT]
    best: Difference | None = None
    for other in likely:
        found = changes(bars[other], bars[index])
        if not found or len(found) > MOST_CHANGES:
            continue
        if best is None or len(found) < len(best.changes):
            best = Difference(other, found)
    return best
