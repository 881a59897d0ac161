"""The end of a lesson: the lines that may be set, and those that were."""

from datetime import date

from django.http import QueryDict

from wren_ladder.drumming.practice.as_set import Turn, without_a_day
from wren_ladder.drumming.practice.week import A_THING
from wren_ladder.studio.climb.open_steps import open_steps
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.lessons.weeks import (
    by_number,
    lines_in,
    lines_of,
    plans_of,
    proposed_week,
)
from wren_ladder.studio.pages.lessons.forms import FREE_ROWS, MOST_LINES, SetLines
from wren_ladder.studio.pages.lessons.lesson_page import tried_in_order
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan, Step

CHOSEN = 5  # of them set unless the teacher says otherwise
MOST_OFFERED = 30


def offered_lines(lesson: Lesson, today: date) -> list[dict]:
    """Lines as they may be set, the most likely first: what was set in this lesson already,
    what was worked on, what the week would be made of, what else is not at its target, and
    behind them what is."""
    student = lesson.student
    plans = plans_of(student)
    steps = by_number(plans)
    found: dict[int, dict] = {
        one["step"]: {**one, "use": True} for one in lesson.was_set if one["step"] in steps
    }
    for pk in tried_in_order(student, lesson.day):
        if pk in steps and pk not in found:
            found[pk] = _line(*steps[pk], use=steps[pk][1].is_needed)
    for line in lines_in(proposed_week(student, plans, lesson.day, today)):
        found.setdefault(line.key, _line(*steps[line.key]))
    for plan in plans:
        for step in open_steps(plan, today):
            if step.is_left:
                found.setdefault(step.key, _line(*steps[step.key]))
    working = len(found)
    for plan in plans:  # and what is there already, to be kept alive
        for step in plan.steps.all():
            if step.is_needed:
                found.setdefault(step.pk, _line(plan, step))
    lines = list(found.values())[:MOST_OFFERED]
    if not lesson.was_set:
        fitting = max(1, student.home_minutes // A_THING)
        for line in lines[: min(CHOSEN, working, fitting)]:
            line["use"] = True
    for place, one in enumerate(lesson.was_set):
        if not one["step"]:  # free lines where they stood
            lines.insert(place, {**one, "use": True})
    return lines


def _line(plan: Plan, step: Step, use: bool = False) -> dict:
    return {
        "use": use,
        "step": step.pk,
        "name": step.name,
        "piece": plan.piece.heading,
        "tempo": step.standing.next_tempo,
        "minutes": A_THING,
        "on_pad": plan.piece.kind == Piece.Kind.HANDS,
    }


def set_lines_form(lines: list[dict], sent: QueryDict | None) -> SetLines:
    rows = [{**line, "ORDER": n + 1} for n, line in enumerate(lines)]
    rows += [{"use": False, "minutes": 0} for _ in range(FREE_ROWS)]
    formset = SetLines(sent, initial=rows, prefix="line")
    known = {line["step"]: line for line in lines if line.get("step")}
    for form in formset:
        form.piece = known.get(_number(form["step"].value()), {}).get("piece", "")
        form.said = known.get(_number(form["step"].value()), {}).get("name", "")
    return formset


def rows_in_order(formset: SetLines) -> list:
    """The lines as the page shows them."""
    return sorted(formset, key=lambda form: _number(form["ORDER"].value()) or MOST_LINES)


def minutes_set(formset: SetLines) -> int:
    """Of a day, as the page opens."""
    used = [form for form in formset if form["use"].value()]
    return sum(_number(form["minutes"].value()) or 0 for form in used)


def _number(value: object) -> int | None:
    text = str(value or "")
    return int(text) if text.isdecimal() and len(text) < 19 else None


def chosen_lines(formset: SetLines, lines: list[dict]) -> list[dict]:
    """What the teacher sets, in their order, as a lesson keeps it. Names and pieces of steps
    are the studio's own, whatever the page sent; a step that was not offered is not set."""
    known = {line["step"]: line for line in lines if line.get("step")}
    found = []
    for form in formset.ordered_forms:
        sent = form.cleaned_data
        step, words = sent.get("step"), " ".join((sent.get("name") or "").split())
        if not sent.get("use") or not (step in known or (not step and words)):
            continue
        offered = known.get(step, {})
        timed = A_THING if step and sent.get("minutes") is None else sent.get("minutes") or 0
        found.append(
            {
                "step": step or 0,
                "name": offered.get("name", words),
                "piece": offered.get("piece", ""),
                "tempo": sent.get("tempo") or offered.get("tempo"),
                "minutes": timed,
                "on_pad": offered.get("on_pad", False),
            }
        )
    return found


def lines_without_a_day(lesson: Lesson) -> list[str]:
    """What was set and finds no room in the week's minutes."""
    turns = [[Turn(*turn) for turn in day] for day in lesson.week]
    return [line.name for line in without_a_day(turns, lines_of(lesson))]
