"""Changing one stroke of a bar; every function gives the bar as it is afterwards.

A stroke is found by where it is and what it is on: an open and a closed hat are one
surface. ChartError where the change makes no bar.
"""

from collections.abc import Callable
from dataclasses import replace

from quicktions import Fraction

from wren_ladder.drumming.chart import (
    Bar,
    ChartError,
    Drum,
    Grace,
    Hand,
    Hit,
    Roll,
    RollKind,
    Surface,
    Touch,
)
from wren_ladder.drumming.editing.grid import VARIANTS

HEIGHTS = (Touch.GHOST, Touch.NORMAL, Touch.ACCENT, Touch.STRONG)
GRACES = (Grace.NONE, Grace.FLAM, Grace.DRAG, Grace.RUFF)
HANDS = (None, Hand.RIGHT, Hand.LEFT)
ROLLS = (None, RollKind.OPEN, RollKind.BUZZ)


def hit_at(bar: Bar, at: Fraction, surface: Surface) -> Hit | None:
    return next((h for h in bar.hits if h.at == at and h.drum.surface is surface), None)


def drop(bar: Bar, at: Fraction, drum: Drum, hand: Hand | None = None) -> Bar:
    """Put a stroke there; the same drum again takes it away, another setting of it
    (an open hat on a closed one) changes it."""
    there = hit_at(bar, at, drum.surface)
    if there is None:
        return _with(bar, Hit(at, drum, hand=None if drum.by_foot else hand))
    return take(bar, at, drum) if there.drum is drum else _set(bar, there, drum=drum)


def take(bar: Bar, at: Fraction, drum: Drum) -> Bar:
    there = _wanted(bar, at, drum)
    return bar.in_notes(hits=tuple(hit for hit in bar.hits if hit is not there))


def higher(bar: Bar, at: Fraction, drum: Drum) -> Bar:
    """A ghost becomes a normal stroke, that an accent, that a strong accent."""
    there = _wanted(bar, at, drum)
    return _set(bar, there, touch=HEIGHTS[min(HEIGHTS.index(there.touch) + 1, 3)])


def lower(bar: Bar, at: Fraction, drum: Drum) -> Bar:
    there = _wanted(bar, at, drum)
    return _set(bar, there, touch=HEIGHTS[max(HEIGHTS.index(there.touch) - 1, 0)])


def set_otherwise(bar: Bar, at: Fraction, drum: Drum) -> Bar:
    """The next way to play the surface: closed, half-open and open hat, snare and rim."""
    there = _wanted(bar, at, drum)
    return _set(bar, there, drum=_next(VARIANTS[there.drum.surface], there.drum))


def ornament(bar: Bar, at: Fraction, drum: Drum) -> Bar:
    """The next grace: none, flam, drag, ruff. A roll makes way for it."""
    there = _wanted(bar, at, drum)
    return _set(bar, there, grace=_next(GRACES, there.grace), roll=None)


def roll(bar: Bar, at: Fraction, drum: Drum) -> Bar:
    """The next roll: none, open, buzz; it lasts to the drum's next stroke or the bar line."""
    there = _wanted(bar, at, drum)
    kind = _next(ROLLS, there.roll and there.roll.kind)
    if kind is None:
        return _set(bar, there, roll=None)
    later = (h.at for h in bar.hits if h.at > at and h.drum.surface is drum.surface)
    length = next(later, bar.length) - at
    return _set(bar, there, roll=Roll(kind, length), grace=Grace.NONE, written=None)


def name_hand(bar: Bar, at: Fraction, drum: Drum) -> Bar:
    """The next written sticking: none, right, left."""
    there = _wanted(bar, at, drum)
    return _set(bar, there, hand=_next(HANDS, there.hand))


STROKES: dict[str, Callable[[Bar, Fraction, Drum], Bar]] = {
    "drop": drop,
    "take": take,
    "higher": higher,
    "lower": lower,
    "otherwise": set_otherwise,
    "ornament": ornament,
    "roll": roll,
    "hand": name_hand,
}


def _next(values: tuple, value):
    return values[(values.index(value) + 1) % len(values)] if value in values else values[0]


def _wanted(bar: Bar, at: Fraction, drum: Drum) -> Hit:
    there = hit_at(bar, at, drum.surface)
    if there is None:
        raise ChartError(
            f"there is no {drum.spoken} here; drop one first",
            bar=bar.number,
            beat=bar.beat_of(at),
        )
    return there


def _with(bar: Bar, hit: Hit) -> Bar:
    """The bar with one more stroke; a roll of that drum ends where it falls."""
    hits = [
        replace(other, roll=replace(other.roll, length=hit.at - other.at, tied=False))
        if other.roll
        and other.drum.surface is hit.drum.surface
        and other.at < hit.at < other.at + other.roll.length
        else other
        for other in bar.hits
    ]
    return bar.in_notes(hits=(*hits, hit))


def _set(bar: Bar, hit: Hit, **changes) -> Bar:
    if changes.get("drum") and changes["drum"] is hit.drum:
        raise ChartError(f"{hit.drum.spoken} is played in one way only", bar=bar.number)
    changed = replace(hit, **changes)
    return bar.in_notes(hits=tuple(changed if h is hit else h for h in bar.hits))
