"""The week of a student, on a page and on paper."""

from datetime import date

from wren_ladder.studio.lessons.weeks import by_number, plans_of, week_of_student
from wren_ladder.studio.pages.plans.sheet import MOST_STEPS, SheetStep, sheet_step
from wren_ladder.studio.plans.sayings import sayings_for, texts_of
from wren_ladder.studio.students.models import Student


def week_context(student: Student, today: date) -> dict:
    plans = plans_of(student)
    return {
        "student": student,
        "plans": plans,
        "week": week_of_student(student, plans, today),
        "today": today,
    }


def sheet_context(student: Student, today: date) -> dict:
    """The same with the music of the lines, in their order, as far as a sheet holds it."""
    context = week_context(student, today)
    steps = by_number(context["plans"])
    sayings = sayings_for(context["plans"])
    music: list[tuple[object, SheetStep]] = []
    for one in context["week"].lines:
        plan, step = steps.get(one.line.key, (None, None))
        if step and step.music_is_there and len(music) < MOST_STEPS:
            says = texts_of(step, sayings)
            music.append((one.line, sheet_step(plan, step, tempo=one.line.tempo, says=says)))
    return context | {"music": music}
