"""Sounds in a studio file, where they are asked for, as base64: recordings of pieces, and what
the teacher said aloud about bars."""

import base64
import binascii
from collections.abc import Callable, Iterator, Mapping

from django.contrib.auth.models import AbstractBaseUser
from django.core.files.base import ContentFile

from wren_ladder.studio.changes.recordings import MOST_BYTES, attach, content_type_of
from wren_ladder.studio.exchange.rows import row_lines
from wren_ladder.studio.pieces.models import Piece, Recording
from wren_ladder.studio.plans.models import Saying, SayingSound

RECORDINGS, VOICES = "recordings", "voices"  # their names in the file
OF_RECORDING = {"piece": int, "name": str, "anchors": list, "sound": str}
OF_VOICE = {"saying": int, "sound": str}


def recording_lines(teacher: AbstractBaseUser) -> Iterator[str]:
    """A line for each; one whose file is gone is passed over."""
    return row_lines(_recordings(teacher))


def _recordings(teacher: AbstractBaseUser) -> Iterator[dict]:
    for one in Recording.objects.filter(piece__owner=teacher).order_by("pk"):
        try:
            sound = one.file.open("rb").read()
        except FileNotFoundError:
            continue
        finally:
            one.file.close()
        yield {
            "piece": one.piece_id,
            "name": one.name,
            "anchors": one.anchors,
            "sound": base64.b64encode(sound).decode(),
        }


def voice_lines(teacher: AbstractBaseUser) -> Iterator[str]:
    """A line for each saying that was said aloud."""
    found = SayingSound.objects.filter(saying__first__piece__owner=teacher).order_by("pk")
    return row_lines(
        {"saying": one.saying_id, "sound": base64.b64encode(bytes(one.data)).decode()}
        for one in found.iterator()
    )


def take_in(
    rows: object, what: str, to: Mapping[int, object], one: Callable[[dict, Mapping], None]
) -> int:
    """Sounds of a file beside what was read from it, by their old numbers; how many there are.
    ValueError with the row that is wrong."""
    if not isinstance(rows, list):
        raise ValueError(f"the {what}s are no list")
    for place, row in enumerate(rows, 1):
        try:
            one(row, to)
        except (KeyError, TypeError, ValueError) as error:
            raise ValueError(f"{what}, row {place}: {error}") from error
    return len(rows)


def take_recording(row: dict, pieces: Mapping[int, Piece]) -> None:
    sound, kind = _sound_of(row, OF_RECORDING)
    if row["piece"] not in pieces:
        raise ValueError(f"there is no piece {row['piece']}")
    anchors = [
        [turn, second]
        for turn, second in row["anchors"]
        if isinstance(turn, int) and isinstance(second, int | float)
    ]
    name = row["name"].replace("/", " ")[:120] or "recording"
    recording = attach(pieces[row["piece"]], ContentFile(sound, name), kind)
    recording.anchors = anchors
    recording.save(update_fields=["anchors"])


def take_voice(row: dict, sayings: Mapping[int, Saying]) -> None:
    sound, kind = _sound_of(row, OF_VOICE)
    if row["saying"] not in sayings:
        raise ValueError(f"there is no saying {row['saying']}")
    saying = sayings[row["saying"]]
    SayingSound.objects.create(saying=saying, data=sound)
    saying.sound_type = kind
    saying.save(update_fields=["sound_type"])


def _sound_of(row: object, fields: Mapping[str, type]) -> tuple[bytes, str]:
    """(the sound, its kind)"""
    if not isinstance(row, dict) or any(
        not isinstance(row.get(name), kind) for name, kind in fields.items()
    ):
        raise ValueError(f"it has no {', '.join(fields)} of the right kinds")
    try:
        sound = base64.b64decode(row["sound"], validate=True)
    except binascii.Error as error:
        raise ValueError("its sound is no base64") from error
    kind = content_type_of(sound[:16])
    if kind is None or len(sound) > MOST_BYTES:
        raise ValueError("its sound is no sound file, or too long")
    return sound, kind
