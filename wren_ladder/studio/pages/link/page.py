"""What a student sees of their own studio: this week's steps, their ladders, nothing else."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date

from django.utils.text import slugify

from wren_ladder.drumming.practice.week import DayPart, Item
from wren_ladder.drumming.study import study
from wren_ladder.drumming.workshop.warm_up import sheet_number, warm_up
from wren_ladder.studio.climb.models import Where
from wren_ladder.studio.drawing.sound import click_alone, sound_of_bars
from wren_ladder.studio.lessons.weeks import (
    WEEK,
    StudentWeek,
    by_number,
    plans_of,
    week_of_student,
)
from wren_ladder.studio.pages.climb.ladders import ladder_of
from wren_ladder.studio.pages.lessons.lesson_page import Card, card_of, tried_today
from wren_ladder.studio.pages.plans.step_music import drawings
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.plans.sayings import said_of, sayings_for
from wren_ladder.studio.plans.versions import PlanMusic, music_for
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.teaching.models import teaching_of

MOST_STEPS = 8
EASY_CLICK = 80  # BPM
EASY_GRADE = 2  # above which hands are warmed up no harder
WARM_UP_LINES = 2  # that a phone shows whole
# What a part of the day is called for somebody of ten.
FOR_A_CHILD = {
    DayPart.WARM_UP: "warm up your hands",
    DayPart.SLOWEST: "the one that needs you most",
    DayPart.TROUBLE: "the tricky bar",
    DayPart.JOIN: "put two together",
    DayPart.REVISIT: "an old friend, slowly",
    DayPart.RUN: "play it through",
}


@dataclass(frozen=True, slots=True)
class Thing:
    """One thing to play: what it is called for a child, how fast in words, its minutes, and its
    music; a click alone (``click``) where nothing has its notes."""

    name: str
    title: str
    minutes: int = 0
    tempo: int | None = None
    on_pad: bool = False
    card: Card | None = None
    music: tuple[tuple[str, ...], dict] | None = None  # drawings and sound of what is no step
    click: dict | None = None
    said: str = ""

    @property
    def key(self) -> str:
        return str(self.card.step.pk) if self.card else f"free-{slugify(self.name)}"

    @property
    def svgs(self) -> tuple[str, ...]:
        return self.card.music.svgs if self.card else self.music[0] if self.music else ()

    @property
    def sound(self) -> dict:
        return (
            self.card.music.sound if self.card else self.music[1] if self.music else self.click
        )


def link_context(student: Student, today: date) -> dict:
    """Today's things one after the other, what else is set, and the ladders."""
    plans = plans_of(student)
    week = week_of_student(student, plans, today)
    cards = _Cards(student, plans, today)
    logged = student.logged_minutes.filter(day__gt=today - WEEK, day__lte=today)
    now = week.on(today)
    set_then = week.lesson is not None
    things = [_thing(item, cards, set_then, _WarmUp(student, today)) for item in now.items]
    there = {thing.key for thing in things}
    later = [
        Thing(
            one.line.name,
            one.line.title,
            one.line.minutes,
            one.line.tempo,
            card=card,
            said=_how_fast(one.line.tempo, card, set_then),
        )
        for one in week.lines
        if (card := cards.of(one.line.key)) and str(card.step.pk) not in there
    ]
    return {
        "student": student,
        "first_name": student.name.split()[0],
        "today": today,
        "week": week,
        "now": now,
        "next_day": _next_day(week, today),
        "things": _each_once(things),
        "later": later[: max(0, MOST_STEPS - len(things))],
        "plans": [
            {"plan": plan, "ladder": ladder_of(plan, list(plan.steps.all()), None, today)}
            for plan in plans
        ],
        "minutes": sum(one.minutes for one in logged),
        "minutes_today": sum(one.minutes for one in logged if one.day == today),
    }


class _Cards:
    """The steps of a student as cards, each made when it is asked for."""

    def __init__(self, student: Student, plans: list[Plan], today: date) -> None:
        self.steps = by_number(plans)
        self.tried = tried_today(student, today)
        self.music: dict[int, PlanMusic] = {}
        self.sayings = sayings_for(plans)

    def of(self, key: int | None) -> Card | None:
        if key not in self.steps or not self.steps[key][1].music_is_there:
            return None
        plan, step = self.steps[key]
        if plan.pk not in self.music:
            self.music[plan.pk] = music_for(plan)
        music = self.music[plan.pk]
        tried = self.tried.get(key, 0)
        card = card_of(plan, step, music, "", tried, Where.HOME, narrow=True)
        return replace(card, says=said_of(step, self.sayings))


@dataclass(frozen=True, slots=True)
class _WarmUp:
    """The workshop's, of the student's grade: the same all week."""

    student: Student
    today: date

    def music(self, minutes: int) -> tuple[tuple[str, ...], dict]:
        """The drawings of its lines, and what the practice room plays."""
        style, syllabus = teaching_of(self.student.owner_id)
        number = sheet_number(self.today, 1)
        made = warm_up(min(self.student.grade, EASY_GRADE), minutes, number, (), syllabus)
        chart = made.chart
        studied = study(replace(chart, bars=chart.bars[:WARM_UP_LINES]), style)
        drawn = drawings(studied.bars, studied, "warm-", narrow=True)
        return drawn, sound_of_bars(studied.bars, made.tempo)


def _thing(item: Item, cards: _Cards, set_then: bool, warm: _WarmUp) -> Thing:
    card = cards.of(item.key)
    name = card.step.name if card else FOR_A_CHILD.get(item.part, item.what)
    if card:
        said = _how_fast(item.tempo, card, set_then)
        return Thing(name, item.title, item.minutes, item.tempo, item.on_pad, card, said=said)
    music = warm.music(item.minutes) if item.part is DayPart.WARM_UP else None
    click = None if music else click_alone(item.tempo or EASY_CLICK)
    return Thing(name, item.title, item.minutes, item.tempo, item.on_pad, None, music, click)


def _how_fast(tempo: int | None, card: Card, set_then: bool) -> str:
    """Beside the one number on the screen, without another."""
    held = card.step.standing.held
    if tempo and set_then:
        return "as fast as in the lesson"
    asked = tempo or card.step.standing.next_tempo
    if not held or held == asked:
        return ""
    return "a bit faster than last time" if asked > held else "a bit slower than last time"


def _each_once(things: Iterable[Thing]) -> list[Thing]:
    """What stands twice in a day is one thing with the minutes of both."""
    found: dict[str, Thing] = {}
    for thing in things:
        before = found.get(thing.key)
        minutes = thing.minutes + (before.minutes if before else 0)
        found[thing.key] = replace(before or thing, minutes=minutes)
    return list(found.values())


def _next_day(week: StudentWeek, today: date) -> date | None:
    """The next day of practice, where today is none."""
    days = [day.day for day in week.days if not day.is_rest]
    return next((day for day in days if day > today), days[0] + WEEK if days else None)
