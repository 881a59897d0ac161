"""What teachers say about bars: kept once."""

from datetime import date

from wren_ladder.studio.plans.models import Saying, Step
from wren_ladder.studio.students.models import Student


def say(step: Step, student: Student | None, text: str, day: date) -> Saying:
    """On the bars of the step, for one student or for everybody; said again it is one."""
    found, _ = Saying.objects.get_or_create(
        first=step.first,
        last=step.last if step.last_id != step.first_id else None,
        student=student,
        text=text,
        defaults={"day": day},
    )
    return found
