"""The student page: everything of one student, and two of their pieces side by side."""

from datetime import date

from wren_ladder.drumming.forecast import nearer
from wren_ladder.drumming.judging.syllabus import Status as Vocabulary
from wren_ladder.drumming.judging.syllabus import vocabulary
from wren_ladder.studio.climb.forecasts import levers_of, needed_tracks, outlook_of
from wren_ladder.studio.climb.log import log_of
from wren_ladder.studio.climb.models import Attempt, Where
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.lessons.weeks import counted_from, last_set, lines_of, plans_of
from wren_ladder.studio.pages.climb.ladders import ladder_of
from wren_ladder.studio.pages.climb.progress import (
    chart_of,
    pace_of,
)
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.plans.versions import study_for
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.teaching.models import syllabus_of

LESSONS = 8  # shown; the others are a click away
ORDER = (Vocabulary.NEW, Vocabulary.DUE, Vocabulary.KNOWN)


def student_context(student: Student, today: date, asked: str, all_lessons: bool) -> dict:
    plans = plans_of(student)
    pieces = [plan for plan in plans if not plan.piece.is_exercise]
    rows = [{"plan": plan, "seen": outlook_of(plan, today)} for plan in pieces]
    rows.sort(key=lambda row: row["seen"].risk)
    chosen = next((row for row in rows if str(row["plan"].pk) == asked), None)
    chosen = chosen or (rows[0] if rows else None)
    lessons = student.lessons.all()
    context = {
        "student": student,
        "rows": rows,
        "exercises": [plan for plan in plans if plan.piece.is_exercise],
        "today": today,
        "vocabulary": vocabulary_of(student, plans),
        "lessons": lessons if all_lessons else lessons[:LESSONS],
        "others": student.plans.exclude(status=Plan.Status.CLIMBING).select_related("piece"),
        "statuses": [one for one in Plan.Status if one != Plan.Status.CLIMBING],
        "more_lessons": 0 if all_lessons else max(0, lessons.count() - LESSONS),
    }
    context |= week_context(student, today)
    exams = list(student.exams.all())
    context["exam"] = next((one for one in exams if not one.result), None)
    context["exams_over"] = [one for one in exams if one.result][::-1]
    if context["exam"]:
        context["exam_said"] = exam_said(context["exam"].day, today)
    return context | (plan_view(chosen["plan"], today) if chosen else {})


def exam_said(exam: date, today: date) -> str:
    if exam < today:
        return f"The exam was on {exam:%-d %B}"
    return f"The exam is on {exam:%-d %B}"


def week_context(student: Student, today: date) -> dict:
    """What is set, what was done of it at home, and the lesson that set it."""
    last = student.lessons.filter(day__lte=today, state=Lesson.State.GIVEN).first()
    holds = last_set(student, today)
    since = counted_from(last, today)
    tries = Attempt.objects.filter(
        step__plan__student=student, where=Where.HOME, day__gte=since, day__lte=today
    )
    minutes = student.logged_minutes.filter(day__gte=since, day__lte=today)
    days = {*tries.values_list("day", flat=True), *minutes.values_list("day", flat=True)}
    return {
        "last": last,
        "set_lines": lines_of(holds) if holds else (),
        "week_text": week_text(student, holds) if holds else "",
        "home_days": len(days),
        "home_minutes": sum(minutes.values_list("minutes", flat=True)),
    }


def week_text(student: Student, lesson: Lesson) -> str:
    """The week as a message to the family; the address of the private page is added to it."""
    said = [f"{student.name}, to practise from {lesson.day:%-d %B} on:"]
    for line in lines_of(lesson):
        piece = f" of {line.title}" if line.title else ""
        tempo = f", at {line.tempo}" if line.tempo else ""
        minutes = f", {line.minutes} minutes" if line.minutes else ""
        said.append(f"- {line.name}{piece}{tempo}{minutes}")
    return "\n".join([*said, *filter(None, (lesson.message, lesson.for_parents))])


def plan_view(plan: Plan, today: date) -> dict:
    """One piece: its ladder, its progress with the forecast, and what would change it."""
    steps = [step for step in plan.steps.all() if not step.dropped and step.music_is_there]
    seen = outlook_of(plan, today)
    needed, tracks = needed_tracks(plan, log_of(plan))
    return {
        "plan": plan,
        "seen": seen,
        "pace": pace_of(plan, seen, today),
        "levers": levers_of(plan, tracks, seen, today),
        "ladder": ladder_of(plan, steps, None, today),
        "chart": chart_of(plan, needed, tracks, seen, today),
    }


def vocabulary_of(student: Student, plans: list[Plan]) -> list[tuple[str, list[str]]]:
    """What the student's pieces are made of, against their grade."""
    syllabus = syllabus_of(student.owner_id)
    found: dict[str, Vocabulary] = {}
    for plan in plans:
        for item in vocabulary(study_for(plan), student.grade, syllabus):
            found[item.name] = item.status
    return [
        (status.value, sorted(name for name, own in found.items() if own is status))
        for status in ORDER
    ]


def compare_context(student: Student, today: date, asked: list[str]) -> dict:
    """Two pieces side by side; the first two if none were asked for."""
    plans = plans_of(student)
    chosen = [plan for pk in asked for plan in plans if str(plan.pk) == pk][:2]
    chosen += [plan for plan in plans if plan not in chosen][: 2 - len(chosen)]
    sides = [plan_view(plan, today) for plan in chosen]
    context = {"student": student, "plans": plans, "sides": sides, "today": today}
    if len(sides) == 2:
        one, other = ((side["plan"].piece.title, side["seen"]) for side in sides)
        context["nearer"] = nearer(one, other)
    return context
