"""Recordings to play along with: taken in, placed beside the notes, taken away."""

from collections.abc import Iterable, Sequence

from django.core.files.base import File
from django.db import transaction
from django.db.models.signals import post_delete
from django.dispatch import receiver

from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.performance.recorded import (
    Anchor,
    RecordedTime,
    from_the_first,
    recorded_time,
)
from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.pieces.models import Piece, Recording
from wren_ladder.studio.pieces.studies import study_of

MOST_BYTES = 30 * 1024 * 1024
# How each kind of sound file begins: (bytes, where from, content type, what it is called).
BEGINNINGS = (
    (b"ID3", 0, "audio/mpeg", "MP3"),
    (b"\xff\xfb", 0, "audio/mpeg", "MP3"),
    (b"\xff\xf3", 0, "audio/mpeg", "MP3"),
    (b"\xff\xf2", 0, "audio/mpeg", "MP3"),
    (b"OggS", 0, "audio/ogg", "Ogg"),
    (b"fLaC", 0, "audio/flac", "FLAC"),
    (b"WAVE", 8, "audio/wav", "WAV"),
    (b"ftyp", 4, "audio/mp4", "M4A"),
    (b"\x1a\x45\xdf\xa3", 0, "audio/webm", "WebM"),
)
BINNED_WITH = (Recording._meta.label_lower, Piece._meta.label_lower)
KINDS = ", ".join(dict.fromkeys(name for *_, name in BEGINNINGS))


def content_type_of(beginning: bytes) -> str | None:
    """What a sound file is by how it begins, whatever its name says; None for anything else."""
    for mark, at, kind, _ in BEGINNINGS:
        if beginning[at : at + len(mark)] == mark:
            return kind
    return None


@transaction.atomic
def attach(piece: Piece, file: File, content_type: str) -> Recording:
    """In place of the one before, which goes for good."""
    Recording.objects.filter(piece=piece).delete()
    return Recording.objects.create(
        piece=piece,
        file=file,
        name=str(file.name)[:120],
        content_type=content_type,
        size=file.size,
    )


def place(recording: Recording, anchors: Iterable[Anchor]) -> None:
    """Where its bars begin; RecordingError where that cannot be, and nothing is changed."""
    anchors = tuple(anchors)
    recorded_time(anchors, perform(study_of(recording.piece).road))
    recording.anchors = [[one.turn, one.second] for one in anchors]
    recording.save(update_fields=["anchors"])


def anchors_of_one_tempo(recording: Recording, second: float, bpm: float) -> tuple[Anchor, ...]:
    """Where bar 1 begins, and how fast the recording goes all through."""
    studied = study_of(recording.piece)
    pace = studied.chart.tempo.bpm / bpm
    return from_the_first(second, pace, perform(studied.road))


def anchors_of_taps(seconds: Sequence[float]) -> tuple[Anchor, ...]:
    """A tap at the beginning of each bar, from bar 1 on."""
    return tuple(Anchor(turn, second) for turn, second in enumerate(seconds))


def time_of(recording: Recording) -> RecordedTime | None:
    """None as long as nobody said where its bars are, or where the piece has changed so that
    this can no longer be."""
    anchors = [Anchor(turn, second) for turn, second in recording.anchors]
    try:
        return recorded_time(anchors, perform(study_of(recording.piece).road))
    except ValueError:
        return None


@receiver(post_delete, sender=Recording)
def _forget(instance: Recording, **_kwargs) -> None:
    _delete_unused(instance.file.name)


@receiver(post_delete, sender=Binned)
def _forget_binned(instance: Binned, **_kwargs) -> None:
    for name in _files_of([instance.rows]):
        _delete_unused(name)


def _delete_unused(name: str) -> None:
    """A file goes when neither a recording nor one in the bin has it any more; and only once
    that is certain, for what fails half-way is undone in the database alone."""

    def delete() -> None:
        binned = Binned.objects.filter(kind__in=BINNED_WITH).values_list("rows", flat=True)
        if not Recording.objects.filter(file=name).exists() and name not in _files_of(binned):
            Recording._meta.get_field("file").storage.delete(name)

    transaction.on_commit(delete)


def _files_of(rows: Iterable[list[dict]]) -> set[str]:
    return {
        row["fields"]["file"]
        for binned in rows
        for row in binned
        if row["model"] == Recording._meta.label_lower
    }
