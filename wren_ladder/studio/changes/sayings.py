"""What teachers say about bars: kept once."""

from datetime import date

from django.db import transaction

from wren_ladder.studio.plans.models import Saying, SayingSound, Step
from wren_ladder.studio.students.models import Student


@transaction.atomic
def say_aloud(
    step: Step, student: Student | None, text: str, day: date, data: bytes, sound_type: str
) -> Saying:
    """A sentence with its sound, or the sound alone."""
    last = step.last if step.last_id != step.first_id else None
    found = Saying.objects.create(
        first=step.first, last=last, student=student, text=text, day=day, sound_type=sound_type
    )
    SayingSound.objects.create(saying=found, data=data)
    return found


def say(step: Step, student: Student | None, text: str, day: date) -> Saying:
    """On the bars of the step, for one student or for everybody; said again it is one."""
    found, _ = Saying.objects.get_or_create(
        first=step.first,
        last=step.last if step.last_id != step.first_id else None,
        student=student,
        text=text,
        sound_type="",
        defaults={"day": day},
    )
    return found
