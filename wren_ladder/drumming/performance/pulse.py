"""The click: where it falls by the pattern that is chosen, in any metre, swung or straight.

Which patterns teachers use is common practice, no source.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from quicktions import Fraction

from wren_ladder.drumming.performance.clock import bar_seconds
from wren_ladder.drumming.performance.onset import Performance
from wren_ladder.drumming.performance.perform import PlayedBar
from wren_ladder.drumming.wording import Coded

DOTTED = 3  # a beat of three thirds: the beats of compound time


class ClickPattern(Coded):
    BEATS = "beats", "every beat"
    QUAVERS = "quavers", "the quavers too"
    TRIPLETS = "triplets", "three to a beat"
    SEMIQUAVERS = "semiquavers", "the semiquavers too"
    BACKBEATS = "backbeats", "2 and 4 only"
    OFF_BEATS = "off-beats", "the off-beats only"
    ONES = "ones", "1 only"


@dataclass(frozen=True, slots=True)
class Pulse:
    """One place of the click, in seconds from where the first bar starts."""

    at: float
    turn: int  # of the bar among those played
    is_first: bool  # of its bar
    is_beat: bool
    patterns: frozenset[ClickPattern]


def pulses(played: Sequence[PlayedBar], performance: Performance) -> tuple[Pulse, ...]:
    """Every place where some pattern clicks, bar after bar, at the performance's tempo."""
    found = []
    for turn, (one, span) in enumerate(zip(played, performance.bars, strict=True)):
        starts = {start for start, _ in one.bar.beats}
        for at, patterns in sorted(bar_pulses(one.bar.beats).items()):
            later = bar_seconds(one.sounds_at(at), one.tempo, performance.share, one.graduals)
            found.append(Pulse(span.at + later, turn, at == 0, at in starts, patterns))
    return tuple(found)


# The same few metres come back in every bar.
@lru_cache(maxsize=64)
def bar_pulses(
    beats: tuple[tuple[Fraction, Fraction], ...],
) -> dict[Fraction, frozenset[ClickPattern]]:
    """Where each pattern clicks in a bar of these (start, length) beats, in crotchets."""
    found: dict[Fraction, set[ClickPattern]] = {}
    for place, (start, length) in enumerate(beats):
        parts = DOTTED if (length * 2).numerator % DOTTED == 0 else 2
        clicked = {
            ClickPattern.BEATS: [Fraction(0)],
            ClickPattern.ONES: [] if place else [Fraction(0)],
            ClickPattern.BACKBEATS: [Fraction(0)] if place % 2 else [],
            ClickPattern.OFF_BEATS: [Fraction(parts - 1, parts)],
            ClickPattern.QUAVERS: _parts(parts),
            ClickPattern.TRIPLETS: _parts(DOTTED),
            ClickPattern.SEMIQUAVERS: _parts(2 * parts),
        }
        for pattern, shares in clicked.items():
            for share in shares:
                found.setdefault(start + length * share, set()).add(pattern)
    return {at: frozenset(patterns) for at, patterns in found.items()}


def _parts(number: int) -> list[Fraction]:
    return [Fraction(part, number) for part in range(number)]
