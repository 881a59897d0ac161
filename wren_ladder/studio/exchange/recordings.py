"""Recordings in a studio file, where they are asked for: the sound itself, as base64."""

import base64
import binascii
import json
from collections.abc import Iterator, Mapping

from django.contrib.auth.models import AbstractBaseUser
from django.core.files.base import ContentFile

from wren_ladder.studio.changes.recordings import MOST_BYTES, attach, content_type_of
from wren_ladder.studio.pieces.models import Piece, Recording

FIELDS = {"piece": int, "name": str, "anchors": list, "sound": str}


def recording_lines(teacher: AbstractBaseUser) -> Iterator[str]:
    """A line for each; one whose file is gone is passed over."""
    comma = ""
    for one in Recording.objects.filter(piece__owner=teacher).order_by("pk"):
        try:
            sound = one.file.open("rb").read()
        except FileNotFoundError:
            continue
        finally:
            one.file.close()
        row = {
            "piece": one.piece_id,
            "name": one.name,
            "anchors": one.anchors,
            "sound": base64.b64encode(sound).decode(),
        }
        yield f"{comma}\n{json.dumps(row, ensure_ascii=False)}"
        comma = ","


def take_in(rows: object, pieces: Mapping[int, Piece]) -> int:
    """The recordings of a file beside the pieces that were read from it, by their old numbers;
    how many there are. ValueError with the row that is wrong."""
    if not isinstance(rows, list):
        raise ValueError("the recordings are no list")
    for place, row in enumerate(rows, 1):
        try:
            _one(row, pieces)
        except (KeyError, TypeError, ValueError) as error:
            raise ValueError(f"recording, row {place}: {error}") from error
    return len(rows)


def _one(row: object, pieces: Mapping[int, Piece]) -> None:
    if not isinstance(row, dict) or any(
        not isinstance(row.get(name), kind) for name, kind in FIELDS.items()
    ):
        raise ValueError(f"it has no {', '.join(FIELDS)} of the right kinds")
    try:
        sound = base64.b64decode(row["sound"], validate=True)
    except binascii.Error as error:
        raise ValueError("its sound is no base64") from error
    kind = content_type_of(sound[:16])
    if kind is None or len(sound) > MOST_BYTES:
        raise ValueError("its sound is no sound file, or too long")
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
