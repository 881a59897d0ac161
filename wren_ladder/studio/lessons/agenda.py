"""What to hear in a lesson, and in which order: the same on the Desk and in the lesson."""

from collections.abc import Iterable
from datetime import date

from wren_ladder.drumming.practice.lesson import AgendaItem, agenda
from wren_ladder.studio.climb.open_steps import open_steps
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student


def agenda_of(
    student: Student, plans: Iterable[Plan], last: Lesson | None, today: date
) -> tuple[AgendaItem, ...]:
    """All pieces together, as many steps as the student's lesson holds; what was set in the
    ``last`` lesson first. A bar that goes at no tempo yet has its next part or layer before
    it, where the plan builds it up."""
    plans = list(plans)
    was_set = last.set_steps if last else ()
    opened = [one for plan in plans for one in open_steps(plan, today)]
    found = agenda(opened, was_set, student.lesson_minutes)
    parts = [part for plan in plans if hasattr(plan, "opened") for part in plan.opened.parts]
    are_parts = {part for part, _ in parts}
    names = {one.key: one.name for one in opened}
    helpers = {bar: part for part, bar in parts if bar}
    order: dict[int, AgendaItem] = {}
    for key in was_set:  # a part of a bar that was set is heard, though no piece waits for it
        if key in are_parts:
            order[key] = AgendaItem(key, "was set last time")
        order |= {one.key: one for one in found if one.key == key}
    for item in found:
        if item.key in helpers and item.key not in order:
            part = helpers[item.key]
            order.setdefault(part, AgendaItem(part, f"builds up {names[item.key]}"))
        order.setdefault(item.key, item)
    return tuple(order.values())
