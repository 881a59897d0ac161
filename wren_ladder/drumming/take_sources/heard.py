"""What a source hears of a take, and what it cannot tell."""

from bisect import bisect_left, bisect_right
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.wording import Coded


class Source(Coded):
    """Where strokes come from."""

    KIT = "kit", "an electronic kit"
    PAD = "pad", "a practice pad"
    MICROPHONE = "microphone", "a microphone"
    KEYS = "keys", "keys or touch"
    FILE = "file", "a MIDI file"

    @property
    def names_drums(self) -> bool:
        return self in (Source.KIT, Source.KEYS, Source.FILE)

    @property
    def tells_strength(self) -> bool:
        return self in (Source.KIT, Source.PAD, Source.FILE)


@dataclass(frozen=True, slots=True)
class Heard:
    """One stroke: ``at`` in seconds from where the first bar should start; no drum and no
    strength (0 to 1) where the source cannot tell."""

    at: float
    drum: Drum | None = None
    strength: float | None = None


# Strokes of one drum closer than this are one stroke that was heard twice. From memory.
RETRIGGER = 0.012
# A pad that answers once more does it within this, at a fraction of the strength; a neighbour
# that shakes along does it at once and hardly. Common practice, from memory.
ANSWERS, FRACTION = 0.040, 0.5
SHAKES, HARDLY = 0.008, 0.12


def without_double_triggers(heard: tuple[Heard, ...]) -> tuple[tuple[Heard, ...], Counter]:
    """(in time order, of two that one stroke made the louder; how often each drum's pad
    answered twice)."""
    found: list[Heard] = []
    last: dict[Drum | None, int] = {}
    twice: Counter = Counter()
    for one in sorted(heard, key=lambda stroke: stroke.at):
        before = last.get(one.drum)
        if before is not None and _is_one(found[before], one):
            if (one.strength or 0) > (found[before].strength or 0):
                found[before] = Heard(found[before].at, one.drum, one.strength)
            twice[one.drum] += 1
            continue
        last[one.drum] = len(found)
        found.append(one)
    return tuple(found), twice


def _is_one(first: Heard, second: Heard) -> bool:
    apart = second.at - first.at
    if apart < RETRIGGER:
        return True
    if first.strength is None or second.strength is None:
        return False
    return apart < ANSWERS and second.strength < FRACTION * first.strength


def shaken(extra: Iterable[Heard], heard: Sequence[Heard]) -> list[Heard]:
    """Of strokes that nobody asked for those that another drum's stroke shook loose."""
    times = [one.at for one in heard]
    return [
        one
        for one in extra
        if one.strength is not None
        and one.strength <= HARDLY
        and any(
            other.drum is not one.drum and (other.strength or 0) > one.strength / FRACTION
            for other in heard[
                bisect_left(times, one.at - SHAKES) : bisect_right(times, one.at + SHAKES)
            ]
        )
    ]
