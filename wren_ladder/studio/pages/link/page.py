"""What a student sees of their own studio: this week's steps, their ladders, nothing else."""

from datetime import date

from wren_ladder.drumming.practice.week import DayPart
from wren_ladder.studio.climb.models import Where
from wren_ladder.studio.lessons.weeks import (
    WEEK,
    by_number,
    plans_of,
    week_begins,
    week_of_student,
)
from wren_ladder.studio.pages.climb.ladders import ladder_of
from wren_ladder.studio.pages.lessons.lesson_page import card_of, choices_of, tried_today
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
    """The steps that were set at the last lesson, else those of the week."""
    plans = plans_of(student)
    steps = by_number(plans)
    lesson = student.lessons.filter(day__lte=today).first()
    week = week_of_student(student, plans, week_begins(student, lesson, today))
    chosen = lesson.set_steps if lesson and lesson.was_set else list(choices_of(week))
    now = next((day for day in week if day.day == today), week[0])
    there = [steps[pk] for pk in chosen if pk in steps and steps[pk][1].music_is_there]
    music = {plan.pk: music_for(plan) for plan in plans}
    tried = tried_today(student, today)
    logged = student.home_minutes.filter(day__gt=today - WEEK, day__lte=today)
    return {
        "student": student,
        "first_name": student.name.split()[0],
        "today": today,
        "now": now,
        "today_list": [(FOR_A_CHILD[item.part], item) for item in now.items],
        "cards": [
            card_of(plan, step, music[plan.pk], "", tried[step.pk], Where.HOME)
            for plan, step in there[:MOST_STEPS]
        ],
        "plans": [
            {"plan": plan, "ladder": ladder_of(plan, list(plan.steps.all()), None, today)}
            for plan in plans
        ],
        "minutes": sum(one.minutes for one in logged),
    }
