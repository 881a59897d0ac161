"""Progress of a plan over time: its stairs, its forecast, and what would change it."""

from datetime import date

from django.db.models import Count, Sum

from wren_ladder.drumming.forecast import Outlook, Track, pace
from wren_ladder.studio.climb.forecasts import Log
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.drawing.practice_map import Calendar, practice_calendar
from wren_ladder.studio.drawing.progress_chart import (
    Ahead,
    HeldTempos,
    ProgressChart,
    progress_chart,
)
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.students.models import Student


def chart_of(
    plan: Plan,
    needed: list[Step],
    tracks: tuple[Track, ...],
    seen: Outlook,
    today: date,
    asked: str = "",
) -> ProgressChart:
    """Every needed step's held tempo against the days; the one that holds the piece, or the
    one that was asked for, is strong."""
    climbs = []
    for step, track in zip(needed, tracks, strict=True):
        strong = str(step.pk) == asked if asked else step.pk == plan.standing.held_by_id
        climbs.append(HeldTempos(step.name, track.held_days, strong))
    exam = plan.by_when
    flag = exam if exam and exam >= today else None
    return progress_chart(climbs, plan.target, today, flag, ahead_of(plan, seen))


def ahead_of(plan: Plan, seen: Outlook) -> Ahead | None:
    found = seen.forecast
    if not found.known or found.days[-1] == 0:
        return None
    low, high = found.window
    return Ahead(plan.standing.speed, low, found.median, high)


def pace_of(plan: Plan, seen: Outlook, today: date):
    return pace(seen, plan.standing.speed, plan.target, today)


def calendar_of(student: Student, today: date) -> Calendar:
    """Days with tries, minutes that were logged, lessons."""
    tries = Attempt.objects.filter(step__plan__student=student).values_list("day")
    minutes = student.logged_minutes.values_list("day")
    given = student.lessons.filter(state=Lesson.State.GIVEN)
    return practice_calendar(
        dict(tries.annotate(Count("pk")).order_by("day")),
        dict(minutes.annotate(Sum("minutes")).order_by("day")),
        set(given.values_list("day", flat=True)),
        today,
    )


def practised(plan: Plan, log: Log) -> dict:
    """Practice days of a plan, and the minutes logged on these days (the student's: minutes
    are not told apart by piece)."""
    days = {attempt.day for attempts in log.values() for attempt in attempts}
    logged = plan.student.logged_minutes.filter(day__in=days)
    return {"days": len(days), "minutes": logged.aggregate(sum=Sum("minutes"))["sum"] or 0}
