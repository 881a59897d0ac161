"""Lessons, exams and practice days as iCalendar (RFC 5545), by icalendar."""

from collections.abc import Sequence
from datetime import date, datetime, time, timedelta

from django.db.models import QuerySet
from django.utils import timezone
from icalendar import Calendar, Event

from wren_ladder.drumming.practice.week import Day
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.lessons.timetable import Occasion, occasions
from wren_ladder.studio.lessons.weeks import plans_of_each, practice_days
from wren_ladder.studio.students.models import Student

USUAL_TIME = time(16, 0)  # of a lesson whose time is not kept
GUESS = "The time of this lesson is not kept; this one is a guess."
AHEAD = timedelta(days=400)  # in which a calendar is told of holidays and moved lessons


def diary_of(students: QuerySet[Student], today: date) -> bytes:
    """One calendar: weekly lessons from today on, without those that fall in a holiday or are
    kept otherwise; lessons moved and made up; lessons that were; exams; the days of practice of
    the week as it is set."""
    calendar = Calendar()
    calendar.add("prodid", "-//Wren Ladder//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", "Wren Ladder")
    students = list(students.filter(status=Student.Status.HERE).prefetch_related("lessons"))
    plans_by_student = plans_of_each(students)
    ahead = occasions(students, today, today + AHEAD)
    for student in students:
        plans = plans_by_student[student.pk]
        if student.lesson_day is not None:
            mine = [one for one in ahead if one.student is student]
            calendar.add_component(_lessons(student, mine, today))
        if student.exam_date:
            calendar.add_component(_exam(student, [plan.piece.title for plan in plans]))
        for lesson in student.lessons.all():
            lesson.student = student
            if not lesson.is_off:
                calendar.add_component(_lesson(lesson))
        kept = [one for one in student.lessons.all() if one.is_given and one.day <= today]
        last = next((one for one in kept if one.was_set), None)
        for day in practice_days(student, plans, today, last):
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


def _lessons(student: Student, ahead: Sequence[Occasion], today: date) -> Event:
    """Every week from the next one on, but for what is not as every week."""
    event = _event("lessons", str(student.pk), f"Drum lesson: {student.name}")
    first = today + timedelta(days=(student.lesson_day - today.weekday()) % 7)
    at = student.lesson_time or USUAL_TIME
    _timed(event, first, at, student.lesson_minutes)
    event.add("rrule", {"freq": "weekly"})
    for one in ahead:
        weekly = one.day.weekday() == student.lesson_day
        if weekly and (one.lesson or one.free or one.moved_to):
            event.add("exdate", datetime.combine(one.day, at, timezone.get_default_timezone()))
    if student.lesson_time is None:
        event.add("description", GUESS)
    return event


def _lesson(lesson: Lesson) -> Event:
    """A lesson that was given, or is planned besides the weekly ones."""
    what = "Lesson given" if lesson.is_given else "Drum lesson"
    event = _event("lesson", str(lesson.pk), f"{what}: {lesson.student.name}")
    _timed(event, lesson.day, lesson.starts or USUAL_TIME, lesson.lasts)
    words = [lesson.said, *lesson.did]
    event.add("description", "\n".join(words if lesson.starts else [*words, GUESS]))
    return event


def _timed(event: Event, day: date, at: time, minutes: int) -> None:
    begins = datetime.combine(day, at, timezone.get_default_timezone())
    event.add("dtstart", begins)
    event.add("dtend", begins + timedelta(minutes=minutes))


def _exam(student: Student, pieces: list[str]) -> Event:
    event = _event("exam", str(student.pk), f"Exam: {student.name}, grade {student.grade}")
    _whole_day(event, student.exam_date)
    event.add("description", ", ".join(pieces))
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
        "\n".join(f"{one.minutes} min {one.said}" for one in day.items),
    )
    return event


def _whole_day(event: Event, day: date) -> None:
    event.add("dtstart", day)
    event.add("dtend", day + timedelta(days=1))
    event.add("transp", "TRANSPARENT")
