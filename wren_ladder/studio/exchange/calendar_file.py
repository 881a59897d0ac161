"""Lessons, exams and practice days as iCalendar (RFC 5545), by icalendar."""

from datetime import date, datetime, time, timedelta

from django.db.models import QuerySet
from django.utils import timezone
from icalendar import Calendar, Event

from wren_ladder.drumming.practice.week import Day
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.lessons.weeks import plans_of_each, week_of_student
from wren_ladder.studio.students.models import Student

USUAL_TIME = time(16, 0)  # of a lesson whose time is not kept


def diary_of(students: QuerySet[Student], today: date) -> bytes:
    """One calendar: weekly lessons from today on, lessons that were, exams, this week's
    practice days."""
    calendar = Calendar()
    calendar.add("prodid", "-//Wren Ladder//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", "Wren Ladder")
    students = list(students.prefetch_related("lessons"))
    plans_by_student = plans_of_each(students)
    for student in students:
        plans = plans_by_student[student.pk]
        minutes = max((plan.lesson_minutes for plan in plans), default=30)
        if student.lesson_day is not None:
            calendar.add_component(_lessons(student, minutes, today))
        if student.exam_date:
            calendar.add_component(_exam(student, [plan.piece.title for plan in plans]))
        for lesson in student.lessons.all():
            calendar.add_component(_lesson_that_was(lesson))
        for day in week_of_student(student, plans, today):
            if not day.is_rest:
                calendar.add_component(_practice(student, day))
    calendar.add_missing_timezones()
    return calendar.to_ical()


def _event(kind: str, of: str, summary: str) -> Event:
    event = Event()
    event.add("uid", f"{kind}-{of}@wren-ladder")
    event.add("dtstamp", timezone.now())
    event.add("summary", summary)
    return event


def _lessons(student: Student, minutes: int, today: date) -> Event:
    """Every week from the next one on."""
    event = _event("lessons", str(student.pk), f"Drum lesson: {student.name}")
    first = today + timedelta(days=(student.lesson_day - today.weekday()) % 7)
    at = student.lesson_time or USUAL_TIME
    begins = datetime.combine(first, at, timezone.get_default_timezone())
    event.add("dtstart", begins)
    event.add("dtend", begins + timedelta(minutes=minutes))
    event.add("rrule", {"freq": "weekly"})
    if student.lesson_time is None:
        event.add("description", "The time of this lesson is not kept; this one is a guess.")
    return event


def _exam(student: Student, pieces: list[str]) -> Event:
    event = _event("exam", str(student.pk), f"Exam: {student.name}, grade {student.grade}")
    _whole_day(event, student.exam_date)
    event.add("description", ", ".join(pieces))
    return event


def _lesson_that_was(lesson: Lesson) -> Event:
    event = _event("lesson", str(lesson.pk), f"Lesson given: {lesson.student.name}")
    _whole_day(event, lesson.day)
    event.add("description", "\n".join(lesson.did))
    return event


def _practice(student: Student, day: Day) -> Event:
    event = _event(
        "practice",
        f"{student.pk}-{day.day.isoformat()}",
        f"Practice: {student.name}, {day.minutes} minutes",
    )
    _whole_day(event, day.day)
    event.add(
        "description",
        "\n".join(f"{one.minutes} min {one.part}: {one.what}" for one in day.items),
    )
    return event


def _whole_day(event: Event, day: date) -> None:
    event.add("dtstart", day)
    event.add("dtend", day + timedelta(days=1))
    event.add("transp", "TRANSPARENT")
