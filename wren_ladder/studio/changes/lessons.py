"""Lessons: kept at their end, planned, moved, cancelled, corrected."""

from collections.abc import Iterable
from datetime import date
from uuid import uuid4

from django.db import transaction

from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.lessons.weeks import share_out
from wren_ladder.studio.students.models import Student


@transaction.atomic
def keep_lesson(lesson: Lesson, lines: list[dict], did: list[str]) -> Lesson:
    """The lesson was given: what was done, and what is set. The set lines are shared out over
    the days now and stay so until the next lesson."""
    lesson.state, lesson.by = Lesson.State.GIVEN, ""
    lesson.did, lesson.was_set = did, lines
    lesson.week = share_out(lesson)
    lesson.save()
    return lesson


@transaction.atomic
def save_lesson(lesson: Lesson, together: Iterable[Student] | None = None) -> Lesson:
    """A lesson as an event: planned, moved, given, cancelled, corrected. Those taught together
    have a lesson of their own at the same time, each with what became of it and what is set
    for them; None: nothing was said of that."""
    if together is None:
        lesson.save()
        return lesson
    together = list(together)
    if lesson.pk and not together and lesson.company:
        _part(lesson)
    if together and not lesson.company:
        lesson.company = uuid4()
    lesson.save()
    for student in together:
        shared = {name: getattr(lesson, name) for name in Lesson.SHARED}
        usual = {"state": Lesson.State.PLANNED, **shared}
        student.lessons.update_or_create(day=lesson.day, defaults=shared, create_defaults=usual)
    if together:
        mine = Lesson.objects.filter(company=lesson.company).exclude(student=lesson.student)
        mine.exclude(student__in=together).update(company=None)
    return lesson


def _part(lesson: Lesson) -> None:
    """Taught alone after all; two who were a pair are both alone then."""
    others = Lesson.objects.filter(company=lesson.company).exclude(pk=lesson.pk)
    if others.count() == 1:
        others.update(company=None)
    lesson.company = None


@transaction.atomic
def call_off(
    student: Student, day: date, state: Lesson.State, by: str = "", instead: date | None = None
) -> Lesson:
    """Cancelled, ill or missed on a day; ``instead`` plans the lesson that makes up for it."""
    lesson = student.lessons.filter(day=day).first() or Lesson(student=student, day=day)
    lesson.state, lesson.by = state, by
    lesson.save()
    if instead:
        plan_instead(student, instead, day)
    return lesson


@transaction.atomic
def plan_instead(student: Student, day: date, instead_of: date) -> Lesson:
    """A weekly lesson moved to another day, or made up on it."""
    lesson = student.lessons.filter(day=day).first()
    if lesson is None:
        lesson = Lesson(student=student, day=day, state=Lesson.State.PLANNED)
    lesson.instead_of = instead_of
    lesson.save()
    return lesson


@transaction.atomic
def plan_next(student: Student, when: dict, usual: date | None) -> Lesson:
    """The next lesson on a ``when["day"]``, at a ``when["time"]``, instead of the ``usual``
    one."""
    day = when["day"]
    lesson = student.lessons.filter(day=day).first()
    if lesson is None:
        lesson = Lesson(student=student, day=day, state=Lesson.State.PLANNED)
    if usual and usual != day:
        lesson.instead_of = usual
    lesson.time = when["time"] if when["time"] != student.lesson_time else None
    lesson.save()
    return lesson


@transaction.atomic
def bring_back(lesson: Lesson) -> Lesson | None:
    """A lesson that was called off takes place after all; None where nothing else was kept of
    it, so that it is again what the week's plan says."""
    if not (lesson.did or lesson.was_set or lesson.note or lesson.instead_of):
        lesson.delete()
        return None
    was_given = bool(lesson.did or lesson.was_set)
    lesson.state = Lesson.State.GIVEN if was_given else Lesson.State.PLANNED
    lesson.by = ""
    lesson.save()
    return lesson
