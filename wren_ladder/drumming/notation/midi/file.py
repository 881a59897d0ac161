"""What stands in a Standard MIDI File: keys struck, metres, tempos. Nothing is decided here
but which tracks are the drums.

Source: Standard MIDI Files 1.0.
"""

import io
import re
from collections import Counter
from collections.abc import Collection, Mapping
from dataclasses import dataclass
from typing import NamedTuple

import mido
from mido.midifiles.meta import KeySignatureError

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.notation.midi.pads import PEDAL_CONTROLLER
from wren_ladder.drumming.notation.midi.tracks import Track, drum_tracks

MOST_NOTES = 50_000
# Meta events without a stroke in them that a reader may stumble over: SMPTE offset and key.
UNNEEDED = re.compile(rb"\xff(\x54\x05|\x59\x02)")
EMPTY = 1 / 1000  # a BPM that is none


class Struck(NamedTuple):
    """A key struck; ``tick`` from the start of the file, ``strength`` 1 to 127."""

    tick: int
    key: int
    strength: int


@dataclass(frozen=True, slots=True)
class MidiFile:
    """``meters`` are (tick, upper number, lower number), ``tempos`` (tick, crotchets a minute);
    both in order; ``words`` (tick, text), ``pedal`` (tick, value) of the hat's. ``chosen``: the
    keys of the tracks that the strokes are of."""

    title: str
    ticks_per_crotchet: int
    tracks: tuple[Track, ...]
    chosen: tuple[str, ...]
    strokes: tuple[Struck, ...]
    meters: tuple[tuple[int, int, int], ...]
    tempos: tuple[tuple[int, float], ...]
    words: tuple[tuple[int, str], ...] = ()
    pedal: tuple[tuple[int, int], ...] = ()


def open_file(data: bytes, wanted: Collection[str] = ()) -> MidiFile:
    """The strokes of the tracks that are ``wanted``, by their keys, or else of those that are
    drums. ChartError if the data are no MIDI file or hold no strokes."""
    file = _parse(data)
    if file.type == 2:
        raise ChartError("a MIDI file of type 2 holds several songs; save one as type 0 or 1")
    strokes: dict[tuple[int, int], list[Struck]] = {}  # by track and channel
    names: dict[int, str] = {}
    meters: list[tuple[int, int, int]] = []
    tempos: list[tuple[int, float]] = []
    words: list[tuple[int, str]] = []
    pedals: dict[tuple[int, int], list[tuple[int, int]]] = {}  # by track and channel
    for number, track in enumerate(file.tracks, 1):
        tick = 0
        for message in track:
            tick += message.time
            kind = message.type
            if kind == "note_on":
                if message.velocity:
                    struck = Struck(tick, message.note, message.velocity)
                    strokes.setdefault((number, message.channel), []).append(struck)
            elif kind == "control_change" and message.control == PEDAL_CONTROLLER:
                moved = pedals.setdefault((number, message.channel), [])
                moved.append((tick, message.value))
            elif kind == "time_signature":
                meters.append((tick, message.numerator, message.denominator))
            elif kind == "set_tempo":
                bpm = mido.tempo2bpm(message.tempo) if message.tempo else EMPTY
                tempos.append((tick, bpm))
            elif kind in ("text", "marker"):
                words.append((tick, _printable(message.text.strip())[:120]))
            elif kind == "track_name":
                names.setdefault(number, _printable(" ".join(message.name.split())[:120]))
    title = _title(names, {number for number, _ in strokes}, len(file.tracks))
    tracks = tuple(
        Track(
            f"track {number}, channel {channel + 1}",
            names.get(number) or f"track {number}",
            channel,
            Counter(one.key for one in mine),
            len({one.tick for one in mine}) < len({(one.tick, one.key) for one in mine}),
        )
        for (number, channel), mine in strokes.items()
    )
    chosen = drum_tracks(tracks, wanted)
    places = dict(zip((one.key for one in tracks), strokes, strict=True))
    every = [one for track in chosen for one in strokes[places[track.key]]]
    mine = sorted(every, key=lambda one: one.tick)
    if len(mine) > MOST_NOTES:
        raise ChartError(f"the file has more than {MOST_NOTES} drum notes")
    return MidiFile(
        title,
        file.ticks_per_beat,
        tracks,
        tuple(one.key for one in chosen),
        tuple(mine),
        tuple(sorted(meters, key=lambda one: one[0])),
        tuple(sorted(tempos, key=lambda one: one[0])),
        tuple(sorted(words, key=lambda one: one[0])),
        tuple(sorted(one for track in chosen for one in pedals.get(places[track.key], ()))),
    )


def _title(names: Mapping[int, str], played: Collection[int], tracks: int) -> str:
    """The name of a track in which nothing is played, or of the only one; others are called
    after their instruments."""
    found = (name for number, name in names.items() if number not in played or tracks == 1)
    return next(found, "")


def _printable(name: str) -> str:
    return "".join(letter for letter in name if letter.isprintable())


def _parse(data: bytes) -> mido.MidiFile:
    try:
        return _loaded(data)
    except KeySignatureError:
        # Not needed for drums: made into events that are passed over.
        return _loaded(UNNEEDED.sub(lambda found: b"\xff\x7f" + found[1][1:], data))


def _loaded(data: bytes) -> mido.MidiFile:
    try:
        file = mido.MidiFile(file=io.BytesIO(data), clip=True)
    except KeySignatureError:
        raise
    except (OSError, EOFError, ValueError, KeyError, IndexError, TypeError) as error:
        raise ChartError("this is no MIDI file, or it is damaged") from error
    if file.type not in (0, 1, 2) or file.ticks_per_beat <= 0:
        raise ChartError("the MIDI file counts time in a way that is not read; use ticks")
    return file
