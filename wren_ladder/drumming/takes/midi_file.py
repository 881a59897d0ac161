"""A performance in a MIDI file, as the strokes of a take."""

import io

import mido

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.notation.staff import MIDI_DRUMS
from wren_ladder.drumming.takes.heard import Heard

LOUDEST = 127
MOST_STROKES = 20_000
MOST_SECONDS = 3600


class TakeError(ValueError):
    """Why there is no take in a file, in words."""


def strokes_of(data: bytes) -> tuple[Heard, ...]:
    """The struck drums of a file in its own seconds; keys that are no drum are passed over.
    TakeError where nothing can be read."""
    try:
        file = mido.MidiFile(file=io.BytesIO(data))
        found, now = [], 0.0
        for message in file:
            now += message.time
            if now > MOST_SECONDS or len(found) > MOST_STROKES:
                raise TakeError("it is longer than an hour, or has more than 20,000 strokes")
            drum = MIDI_DRUMS.get(getattr(message, "note", None))
            if message.type == "note_on" and message.velocity and drum:
                found.append(Heard(now, drum, message.velocity / LOUDEST))
    except TakeError:
        raise
    except Exception as error:  # a damaged file fails in many ways
        raise TakeError("it is no MIDI file that can be read") from error
    if not found:
        raise TakeError("no drum is struck in it")
    return tuple(found)


def aligned(heard: tuple[Heard, ...], first: float) -> tuple[Heard, ...]:
    """Begun where the music begins: a file has no count-in that it could be late for."""
    if not heard:
        return heard
    shift = first - min(one.at for one in heard)
    return tuple(Heard(one.at + shift, one.drum, one.strength) for one in heard)


def strokes_in(rows: object) -> tuple[Heard, ...]:
    """Strokes as a page sends them: [milliseconds, drum or MIDI note, strength to 127 or None].
    TakeError where a row is something else; notes that are no drum are passed over."""
    if not isinstance(rows, list) or len(rows) > MOST_STROKES:
        raise TakeError("a list of at most 20,000 strokes is wanted")
    found = []
    for row in rows:
        try:
            milliseconds, struck, strength = row
            drum = MIDI_DRUMS.get(struck) if isinstance(struck, int) else Drum(struck)
            at, strong = float(milliseconds) / 1000, None if strength is None else int(strength)
        except (TypeError, ValueError) as error:
            raise TakeError(f"{row!r:.60} is no stroke") from error
        if not abs(at) <= MOST_SECONDS or not (strong is None or 0 < strong <= LOUDEST):
            raise TakeError(f"{row!r:.60} is no stroke")
        if drum:
            found.append(Heard(at, drum, None if strong is None else strong / LOUDEST))
    return tuple(found)
