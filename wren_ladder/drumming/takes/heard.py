"""What a source hears of a take, and what it cannot tell."""

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


def without_double_triggers(heard: tuple[Heard, ...]) -> tuple[Heard, ...]:
    """In time order; of two that one stroke made, the louder."""
    found: list[Heard] = []
    last: dict[Drum | None, int] = {}
    for one in sorted(heard, key=lambda stroke: stroke.at):
        before = last.get(one.drum)
        if before is not None and one.at - found[before].at < RETRIGGER:
            if (one.strength or 0) > (found[before].strength or 0):
                found[before] = Heard(found[before].at, one.drum, one.strength)
            continue
        last[one.drum] = len(found)
        found.append(one)
    return tuple(found)
