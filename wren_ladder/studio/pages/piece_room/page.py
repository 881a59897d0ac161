"""The practice room of a whole piece: along its road, with the kit or with a recording."""

from collections.abc import Sequence

from django.core.files.uploadedfile import UploadedFile

from wren_ladder.drumming.performance.recorded import Anchor
from wren_ladder.drumming.plain_text import plain_json
from wren_ladder.studio.changes.recordings import (
    KINDS,
    MOST_BYTES,
    anchors_of_one_tempo,
    anchors_of_taps,
    content_type_of,
    time_of,
)
from wren_ladder.studio.drawing.score import score_lines
from wren_ladder.studio.drawing.sound import sound_of
from wren_ladder.studio.pieces.models import Piece, Recording
from wren_ladder.studio.pieces.studies import study_of

MOST_TAPS = 2000


def room_context(piece: Piece, with_recording: bool) -> dict:
    studied = study_of(piece)
    recording = Recording.objects.filter(piece=piece).first()
    time = time_of(recording) if recording else None
    road = studied.road
    bars = [studied.bars[one.index] for one in road]
    return {
        "piece": piece,
        "played": len(studied.visits),
        "recording": recording,
        "is_placed": time is not None,
        "along": time is not None and with_recording,
        "lines": score_lines(studied, counts=False, hands=False),
        "sound": sound_of(
            road, bars, piece.tempo.bpm, recorded=time if with_recording else None
        ),
        "megabytes": MOST_BYTES // 1024**2,
        "kinds": KINDS,
    }


def why_not(file: UploadedFile | None) -> str:
    """What is wrong with an upload, "" where nothing is."""
    if file is None:
        return "choose a sound file"
    if file.size > MOST_BYTES:
        return f"{file.name} has more than {MOST_BYTES // 1024**2} MB"
    if content_type_of(_beginning(file)) is None:
        return f"{file.name} is no sound file that can be played here; these are: {KINDS}"
    return ""


def _beginning(file: UploadedFile) -> bytes:
    file.seek(0)
    beginning = file.read(16)
    file.seek(0)
    return beginning


def kind_of(file: UploadedFile) -> str:
    return content_type_of(_beginning(file)) or ""


def read_anchors(recording: Recording, sent) -> Sequence[Anchor]:
    """Of the form: taps, or where bar 1 begins and a tempo. ValueError with what is wrong."""
    if sent.get("taps"):
        taps = plain_json(sent["taps"])
        if not isinstance(taps, list) or not 2 <= len(taps) <= MOST_TAPS:
            raise ValueError("tap two bars or more")
        if not all(isinstance(tap, int | float) for tap in taps):
            raise ValueError("a tap is a number of seconds")
        return anchors_of_taps(taps)
    second, bpm = _number(sent, "second", "where bar 1 begins"), _number(sent, "bpm", "a tempo")
    if not 20 <= bpm <= 400:
        raise ValueError("a tempo is 20 to 400")
    return anchors_of_one_tempo(recording, second, bpm)


def _number(sent, name: str, what: str) -> float:
    try:
        found = float(sent.get(name, ""))
    except ValueError:
        raise ValueError(f"{what} is a number, such as 12.5") from None
    if not 0 <= found <= 3600:  # nan is not within either
        raise ValueError(f"{what} is a number from 0 to 3600")
    return found
