"""What to hear in a lesson, and in which order: the same on the Desk and in the lesson."""

from collections.abc import Iterable
from datetime import date

from wren_ladder.drumming.practice.lesson import AgendaItem, agenda
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.lessons.weeks import open_steps
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student


def agenda_of(
    student: Student, plans: Iterable[Plan], last: Lesson | None, today: date
) -> tuple[AgendaItem, ...]:
    """All pieces together, as many steps as the student's lesson holds; what was set in the
    ``last`` lesson first."""
    return agenda(
        [one for plan in plans for one in open_steps(plan, today)],
        last.set_steps if last else (),
        student.lesson_minutes,
    )
