"""The feel of a groove: known from the page's words, or from what the limbs do.

A habit, a trap and the common form are those of the feel: the backbeat of rock is no norm for
a jazz ride. Common practice, no source.
"""

import re
from collections.abc import Iterator, Sequence
from enum import StrEnum

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, MarkKind, Surface, Touch
from wren_ladder.drumming.chart.swing import STRAIGHT, Swing
from wren_ladder.drumming.description.timekeeping import fill_start, timekeeper

LAST = Fraction(2, 3)  # of a beat in three
HALF, FOURTH = Fraction(1, 2), Fraction(3, 4)


class Feel(StrEnum):
    ROCK = "rock beat"
    SHUFFLE = "shuffle"
    HALF_TIME = "half-time beat"
    HALF_TIME_SHUFFLE = "half-time shuffle"
    SWING = "swing ride"
    BOSSA = "bossa"
    SAMBA = "samba"
    ONE_DROP = "one-drop"
    MARCH = "march"


# What the page may say, the longer words first; "straight" ends what was said.
WORDS = {
    "half-time shuffle": Feel.HALF_TIME_SHUFFLE,
    "half time shuffle": Feel.HALF_TIME_SHUFFLE,
    "half-time": Feel.HALF_TIME,
    "half time": Feel.HALF_TIME,
    "one-drop": Feel.ONE_DROP,
    "one drop": Feel.ONE_DROP,
    "shuffle": Feel.SHUFFLE,
    "swing": Feel.SWING,
    "bossa": Feel.BOSSA,
    "samba": Feel.SAMBA,
    "march": Feel.MARCH,
    "rock": Feel.ROCK,
    "straight": None,
}
MARCHING = 4  # strokes of a bar


def feels(bars: Sequence[Bar], swings: Sequence[Swing]) -> tuple[Feel | None, ...]:
    """Of each bar: what the page says, from there to its next word, or what the limbs do."""
    solo = all(timekeeper(bar) is None for bar in bars)
    said, found = None, []
    for bar, swing in zip(bars, swings, strict=True):
        for word in _words(bar):
            said = WORDS[word]
        by_limbs = feel_of(bar, swing) or (Feel.MARCH if solo and _is_march(bar) else None)
        if said is Feel.MARCH:
            found.append(said if len(bar.hits) >= MARCHING else by_limbs)
        else:
            found.append(said if said and by_limbs else by_limbs)
    return tuple(found)


def _words(bar: Bar) -> Iterator[str]:
    for mark in bar.marks:
        if mark.kind is MarkKind.CUE:
            text = mark.text.lower()
            said = [word for word in WORDS if re.search(rf"\b{word}\b", text)]
            yield from said[:1]


def feel_of(bar: Bar, swing: Swing = STRAIGHT) -> Feel | None:
    """None for what keeps no time on a cymbal, or in a way that has no name here."""
    keeper = timekeeper(bar)
    if keeper is None or bar.pickup or bar.meter.compound or fill_start(bar) is not None:
        return None
    struck = _struck(bar)
    cymbal = struck.get(keeper, frozenset())
    if _runs_as_a_swing_ride(bar, cymbal, swing) and keeper in (Surface.RIDE, Surface.HIHAT):
        return Feel.SWING
    if _is_samba(bar, struck):
        return Feel.SAMBA
    if _is_bossa(bar, struck):
        return Feel.BOSSA
    if bar.meter.beats != 4 or bar.meter.unit != 4:
        return None
    if _is_one_drop(struck):
        return Feel.ONE_DROP
    return _by_the_backbeat(struck, _is_shuffled(bar, cymbal, swing))


def _struck(bar: Bar) -> dict[Surface, frozenset[Fraction]]:
    """When each surface is struck; ghosts keep no beat."""
    found: dict[Surface, set[Fraction]] = {}
    for hit in bar.hits:
        if hit.touch is not Touch.GHOST:
            found.setdefault(hit.drum.surface, set()).add(hit.at)
    return {surface: frozenset(times) for surface, times in found.items()}


def _by_the_backbeat(struck: dict[Surface, frozenset[Fraction]], shuffled: bool) -> Feel | None:
    snare = struck.get(Surface.SNARE, frozenset())
    if {1, 3} <= snare:
        return Feel.SHUFFLE if shuffled else Feel.ROCK
    if 2 in snare and not snare & {1, 3}:
        return Feel.HALF_TIME_SHUFFLE if shuffled else Feel.HALF_TIME
    return Feel.SHUFFLE if shuffled else None


def _is_shuffled(bar: Bar, cymbal: frozenset[Fraction], swing: Swing) -> bool:
    """Long and short on the cymbal, as thirds or as quavers that are swung."""
    starts = [start for start, _ in bar.beats]
    thirds = sum({start, start + LAST} <= cymbal for start in starts)
    halves = sum({start, start + HALF} <= cymbal for start in starts)
    return 2 * thirds >= len(starts) or (
        swing.unit == HALF and 2 * halves >= len(starts) and cymbal >= set(starts)
    )


def _runs_as_a_swing_ride(bar: Bar, cymbal: frozenset[Fraction], swing: Swing) -> bool:
    """Every beat, and the last third of every second one: 1 2 2& 3 4 4&, swung, or so written
    in thirds."""
    starts = [start for start, _ in bar.beats]
    if len(starts) < 3 or not set(starts) <= cymbal:
        return False
    skip = HALF if swing.unit == HALF else LAST
    skipped = {start for start in starts if start + skip in cymbal}
    between = cymbal - set(starts) - {start + skip for start in starts}
    return not between and skipped == set(starts[1::2])


def _is_march(bar: Bar) -> bool:
    """In two, the snare with its ornaments over a bass drum on each beat."""
    if len(bar.beats) != 2 or bar.pickup:
        return False
    drums = {hit.drum.surface for hit in bar.hits}
    snares = [hit for hit in bar.hits if hit.drum.surface is Surface.SNARE]
    kicks = {hit.at for hit in bar.hits if hit.drum is Drum.KICK}
    return (
        drums == {Surface.SNARE, Surface.KICK}
        and len(snares) >= MARCHING
        and kicks == {start for start, _ in bar.beats}
    )


def _is_samba(bar: Bar, struck: dict[Surface, frozenset[Fraction]]) -> bool:
    """The kick on every beat of two and just before the next one."""
    kick = struck.get(Surface.KICK, frozenset())
    if len(bar.beats) != 2:
        return False
    return all({start, start + FOURTH * length} <= kick for start, length in bar.beats)


def _is_bossa(bar: Bar, struck: dict[Surface, frozenset[Fraction]]) -> bool:
    """The same foot at half the speed, 1 2& 3 4&, under a clave on the rim."""
    kick = struck.get(Surface.KICK, frozenset())
    half = bar.length / 2
    foot = {Fraction(0), half * FOURTH, half, half + half * FOURTH}
    return kick == foot and any(hit.drum is Drum.CROSS_STICK for hit in bar.hits)


def _is_one_drop(struck: dict[Surface, frozenset[Fraction]]) -> bool:
    """Kick and snare together on 3, and nothing of the kick on 1."""
    kick = struck.get(Surface.KICK, frozenset())
    snare = struck.get(Surface.SNARE, frozenset())
    return 2 in kick and 2 in snare and 0 not in kick and not snare & {1, 3}
