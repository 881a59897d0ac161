"""The progress report for a parent: plain words, the climb as a picture, no private notes."""

from datetime import date, timedelta

from wren_ladder.drumming.takes.words import habit_for_parents
from wren_ladder.studio.climb.forecasts import needed_tracks, outlook_of
from wren_ladder.studio.climb.habits import habits_in, takes_of
from wren_ladder.studio.climb.log import log_of
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.drawing.practice_map import Calendar
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.lessons.weeks import plans_of, week_of_student
from wren_ladder.studio.pages.climb.progress import calendar_of, chart_of
from wren_ladder.studio.pages.printing import inside_drawing
from wren_ladder.studio.plans.sayings import said_to
from wren_ladder.studio.students.models import Student

MONTH = timedelta(days=28)


def report_context(student: Student, today: date) -> dict:
    plans = plans_of(student)
    pieces, unbegun = [], []
    tried = {*Attempt.objects.filter(step__plan__in=plans).values_list("step__plan", flat=True)}
    for plan in plans:
        if plan.pk not in tried:
            if not plan.piece.is_exercise:
                unbegun.append(plan.piece.title)
            continue
        seen = outlook_of(plan, today)
        needed, tracks = needed_tracks(plan, log_of(plan))
        pieces.append(
            {
                "plan": plan,
                "seen": seen,
                "chart": chart_of(plan, needed, tracks, seen, today)
                if any(track.held_days for track in tracks)
                else None,
                "there": sum(step.standing.held is not None for step in needed),
                "needed": len(needed),
            }
        )
    tries = Attempt.objects.filter(step__plan__student=student, day__gt=today - MONTH)
    days = {*tries.values_list("day", flat=True)}
    logged = student.logged_minutes.filter(day__gt=today - MONTH)
    week = week_of_student(student, plans, today)
    last = student.lessons.filter(day__lte=today, state=Lesson.State.GIVEN).first()
    return {
        "student": student,
        "today": today,
        "pieces": pieces,
        "unbegun": unbegun,
        "calendar": _calendar(student, today),
        "days": len(days | {one.day for one in logged}),
        "minutes": sum(one.minutes for one in logged),
        "lessons": student.lessons.filter(
            day__gt=today - MONTH, state=Lesson.State.GIVEN
        ).count(),
        "week": week,
        "week_days": sum(not day.is_rest for day in week.days),
        "week_minutes": max(day.minutes for day in week.days),
        "last": last,
        "says": said_to(student).filter(in_report=True),
        "heard": heard_in_takes(student, today),
        "printed": inside_drawing("progress-printed.css"),
    }


def heard_in_takes(student: Student, today: date) -> str:
    """One plain sentence, where takes of the last weeks have something to say."""
    takes = takes_of([student], today).get(student.pk, [])
    for habit in habits_in(takes):
        return habit_for_parents(habit)
    recent = [one for one in takes if one.take.day > today - MONTH]
    clean = [one for one in recent if one.told.clean]
    if not clean:
        return ""
    best = max(clean, key=lambda one: (one.told.in_a_row, one.take.day))
    many = best.told.in_a_row
    times = "once" if many == 1 else f"{many} times in a row"
    name = best.take.step.name
    return f"Recorded and measured: {name} was clean {times} at {best.take.tempo}."


def _calendar(student: Student, today: date) -> Calendar | None:
    """Nothing where every day of it would be empty."""
    found = calendar_of(student, today)
    return found if any(head.kind != "head-none" for head in found.heads) else None
