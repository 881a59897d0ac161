"""What a student sees of their own studio: this week's steps, their ladders, nothing else."""

from datetime import date

from wren_ladder.drumming.practice.week import DayPart
from wren_ladder.studio.climb.models import Where
from wren_ladder.studio.lessons.weeks import (
    WEEK,
    StudentWeek,
    by_number,
    plans_of,
    week_of_student,
)
from wren_ladder.studio.pages.climb.ladders import ladder_of
from wren_ladder.studio.pages.lessons.lesson_page import card_of, tried_today
from wren_ladder.studio.plans.versions import music_for
from wren_ladder.studio.students.models import Student

MOST_STEPS = 8
# What a part of the day is called for somebody of ten.
FOR_A_CHILD = {
    DayPart.WARM_UP: "warm up your hands",
    DayPart.SLOWEST: "the one that needs you most",
    DayPart.TROUBLE: "the tricky bar",
    DayPart.JOIN: "put two together",
    DayPart.REVISIT: "an old friend, slowly",
    DayPart.RUN: "play it through",
}


def link_context(student: Student, today: date) -> dict:
    """What was set, as one short list of today, and the music of it."""
    plans = plans_of(student)
    steps = by_number(plans)
    week = week_of_student(student, plans, today)
    there = [one.line for one in week.lines if one.line.key in steps]
    there = [line for line in there if steps[line.key][1].music_is_there]
    music = {plan.pk: music_for(plan) for plan in plans}
    tried = tried_today(student, today)
    logged = student.logged_minutes.filter(day__gt=today - WEEK, day__lte=today)
    now = week.on(today)
    return {
        "student": student,
        "first_name": student.name.split()[0],
        "today": today,
        "week": week,
        "now": now,
        "next_day": _next_day(week, today),
        "today_list": [
            (FOR_A_CHILD.get(item.part, item.what), item, tried.get(item.key, 0))
            for item in now.items
        ],
        "cards": [
            (
                line,
                card_of(
                    *steps[line.key],
                    music[steps[line.key][0].pk],
                    "",
                    tried[line.key],
                    Where.HOME,
                ),
            )
            for line in there[:MOST_STEPS]
        ],
        "plans": [
            {"plan": plan, "ladder": ladder_of(plan, list(plan.steps.all()), None, today)}
            for plan in plans
        ],
        "minutes": sum(one.minutes for one in logged),
    }


def _next_day(week: StudentWeek, today: date) -> date | None:
    """The next day of practice, where today is none."""
    days = [day.day for day in week.days if not day.is_rest]
    return next((day for day in days if day > today), days[0] + WEEK if days else None)
