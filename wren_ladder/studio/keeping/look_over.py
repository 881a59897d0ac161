"""Is everything in order? Database, what follows from it, files, disk and clock."""

import shutil
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date

from django.db.models import Max

from wren_ladder.studio.climb.models import Attempt, HomeMinutes, StepStanding, Take
from wren_ladder.studio.climb.standings import refresh
from wren_ladder.studio.keeping.backup import Place, backup_is_old, last_backup, problems_of
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.pieces.models import BarRow, Recording
from wren_ladder.studio.plans.models import Plan

LEAST_FREE = 500 << 20  # bytes
TELLING = ("held", "next_tempo")  # of a standing


@dataclass(frozen=True, slots=True)
class Finding:
    what: str
    is_wrong: bool = True


def looked_over(place: Place, today: date) -> Iterator[Finding]:
    """One line for everything that was looked at, in order; wrong ones say what to do."""
    problems = problems_of(place.database)
    yield from (Finding(f"database: {said}. Restore the last backup.") for said in problems)
    if problems:
        return
    yield Finding("database: sound, every reference leads somewhere", False)
    yield from _music()
    yield from _standings()
    yield from _files()
    yield from _disk(place)
    yield from _clock(today)
    yield from _backups(place, today)


def _music() -> Iterator[Finding]:
    wrong = 0
    for row in BarRow.objects.select_related("piece").iterator():
        try:
            row.bar  # noqa: B018 (reading it is the question)
        except Exception as error:  # whatever is wrong with it
            wrong += 1
            yield Finding(f"piece {row.piece}, bar {row.position + 1}: {error}")
    if not wrong:
        yield Finding("pieces: every bar can be read", False)


def _standings() -> Iterator[Finding]:
    """What is kept of the log against what the log says; mended where they differ."""
    wrong = 0
    for plan in Plan.objects.filter(student__isnull=False).iterator():
        before = _standing_of(plan)
        refresh(plan)
        if before and before != _standing_of(plan):
            wrong += 1
            yield Finding(f"standings of {plan}: did not follow the log; worked out anew")
    if not wrong:
        yield Finding("standings: as the log has them", False)


def _standing_of(plan: Plan) -> dict:
    rows = StepStanding.objects.filter(step__plan=plan)
    return {row.step_id: [getattr(row, name) for name in TELLING] for row in rows}


def _files() -> Iterator[Finding]:
    gone = [one for one in Recording.objects.select_related("piece") if not _is_there(one)]
    for one in gone:
        yield Finding(f"recording of {one.piece}: its file is gone. Restore it, or delete it.")
    if not gone:
        yield Finding("recordings: every file is there", False)


def _is_there(recording: Recording) -> bool:
    return bool(recording.file) and recording.file.storage.exists(recording.file.name)


def _disk(place: Place) -> Iterator[Finding]:
    free = shutil.disk_usage(place.data).free
    said = f"disk: {free >> 20} MB free"
    low = free < LEAST_FREE
    yield Finding(f"{said}. Make room." if low else said, low)


def _clock(today: date) -> Iterator[Finding]:
    newest = [
        model.objects.aggregate(day=Max("day"))["day"] for model in (Attempt, HomeMinutes, Take)
    ]
    newest.append(
        Lesson.objects.filter(state=Lesson.State.GIVEN).aggregate(day=Max("day"))["day"]
    )
    last = max((day for day in newest if day), default=None)
    behind = last is not None and today < last
    said = f"clock: {today}"
    yield Finding(
        f"{said} is before the newest entry, {last}. Set this machine's clock."
        if behind
        else said,
        behind,
    )


def _backups(place: Place, today: date) -> Iterator[Finding]:
    made = last_backup(place.data)
    late = backup_is_old(made, today)
    said = f"backup: the last one of {made:%-d %B %Y}" if made else "backup: none is known of"
    yield Finding(f"{said}. Make one: ./wren backup FOLDER" if late else said, late)
