"""What teachers say about bars: kept once."""

from collections.abc import Collection
from datetime import date

from django.db import transaction

from wren_ladder.studio.pieces.models import BarRow
from wren_ladder.studio.plans.models import Saying, SayingSound, Step
from wren_ladder.studio.students.models import Student


@transaction.atomic
def say_aloud(
    step: Step, student: Student | None, text: str, day: date, data: bytes, sound_type: str
) -> Saying:
    """A sentence with its sound, or the sound alone."""
    found = Saying.objects.create(
        **_bars(step), student=student, text=text, day=day, sound_type=sound_type
    )
    SayingSound.objects.create(saying=found, data=data)
    return found


def say(step: Step, student: Student | None, text: str, day: date) -> Saying:
    """On the bars of the step, for one student or for everybody; said again it is one."""
    found, _ = Saying.objects.get_or_create(
        **_bars(step),
        student=student,
        text=text,
        sound_type="",
        defaults={"day": day},
    )
    return found


def put_in_report(student: Student, chosen: Collection[int]) -> None:
    """These of what is said to the student are for the parents to read, and no others."""
    student.sayings.filter(in_report=True).exclude(pk__in=chosen).update(in_report=False)
    student.sayings.filter(pk__in=chosen, in_report=False).update(in_report=True)


def _bars(step: Step) -> dict[str, BarRow | None]:
    """Of one bar the first alone."""
    return {"first": step.first, "last": step.last if step.last_id != step.first_id else None}
