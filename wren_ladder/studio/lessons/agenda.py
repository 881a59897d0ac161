"""What to hear in a lesson, and in which order: the same on the Desk and in the lesson."""

from collections.abc import Iterable
from datetime import date

from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.breakdown.schools import SCAFFOLD
from wren_ladder.drumming.practice.lesson import AgendaItem, agenda
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.lessons.weeks import by_number, open_steps
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
    found = agenda(
        [one for plan in plans for one in open_steps(plan, today)],
        was_set,
        student.lesson_minutes,
    )
    steps, helpers = by_number(plans), _next_helpers(plans)
    order: dict[int, AgendaItem] = {}
    for key in was_set:  # a part of a bar that was set is heard, though no piece waits for it
        if key in steps and steps[key][1].is_scaffold and steps[key][1].music_is_there:
            order[key] = AgendaItem(key, "was set last time")
        order |= {one.key: one for one in found if one.key == key}
    for item in found:
        if item.key in helpers and item.key not in order:
            helper = helpers[item.key]
            order.setdefault(helper.key, helper)
        order.setdefault(item.key, item)
    return tuple(order.values())


def _next_helpers(plans: Iterable[Plan]) -> dict[int, AgendaItem]:
    """By the step of a bar that holds nothing: the first of what builds it up that does not
    either."""
    found: dict[int, AgendaItem] = {}
    for plan in plans:
        steps = [one for one in plan.steps.all() if one.music_is_there and not one.dropped]
        waiting = {
            one.first_id: one
            for one in steps
            if one.step_kind is StepKind.BAR and one.standing.held is None
        }
        for step in steps:
            bar = waiting.get(step.first_id) if step.step_kind in SCAFFOLD else None
            if bar and step.standing.held is None:
                found.setdefault(bar.pk, AgendaItem(step.pk, f"builds up {bar.name}"))
    return found
