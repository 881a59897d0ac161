"""A performance in a MIDI file, or as a page sends it, as the strokes of a take."""

import io

import mido

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.take_sources.heard import Heard
from wren_ladder.drumming.take_sources.note_maps import LOUDEST, Kit

PEDAL = 4  # the controller of a hat's pedal: 0 open, 127 closed
MOST_STROKES = 20_000
MOST_SECONDS = 3600


class TakeError(ValueError):
    """Why there is no take in a file, in words."""


def strokes_of(data: bytes, kit: Kit = Kit()) -> tuple[Heard, ...]:
    """The struck drums of a file in its own seconds; keys that are no drum are passed over, and
    so is a hand on a cymbal (aftertouch). TakeError where nothing can be read."""
    try:
        file = mido.MidiFile(file=io.BytesIO(data))
        found: list[Heard] = []
        now, openness = 0.0, None
        for message in file:
            now += message.time
            if now > MOST_SECONDS or len(found) > MOST_STROKES:
                raise TakeError("it is longer than an hour, or has more than 20,000 strokes")
            if message.type == "control_change" and message.control == PEDAL:
                openness = 1 - message.value / LOUDEST
            if message.type == "note_on" and message.velocity:
                drum = kit.drum(message.note, openness)
                if drum:
                    found.append(Heard(now, drum, kit.strength(message.velocity)))
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


def strokes_in(rows: object, kit: Kit = Kit()) -> tuple[Heard, ...]:
    """Strokes as a page sends them: [milliseconds, drum or MIDI note or "", strength to 127 or
    None, and where the kit sends it the hat pedal from 0 closed to 127 open]. TakeError where a
    row is something else; notes that are no drum are passed over."""
    if not isinstance(rows, list) or len(rows) > MOST_STROKES:
        raise TakeError("a list of at most 20,000 strokes is wanted")
    found = []
    for row in rows:
        try:
            stroke = _stroke(row, kit)
        except (TypeError, ValueError, OverflowError) as error:
            raise TakeError(f"{row!r:.60} is no stroke") from error
        if stroke:
            found.append(stroke)
    return tuple(found)


def _stroke(row, kit: Kit) -> Heard | None:
    """ValueError or TypeError where it is none."""
    milliseconds, struck, strength, *pedal = row
    at = float(milliseconds) / 1000
    strong = None if strength is None else int(strength)
    openness = pedal[0] / LOUDEST if pedal and pedal[0] is not None else None
    if not abs(at) <= MOST_SECONDS or not (strong is None or 0 < strong <= LOUDEST):
        raise ValueError("out of range")
    if struck == "":
        return Heard(at, None, None if strong is None else strong / LOUDEST)
    if isinstance(struck, int):
        drum = kit.drum(struck, openness)
        return Heard(at, drum, strong and kit.strength(strong)) if drum else None
    return Heard(at, Drum(struck), strong and strong / LOUDEST)
