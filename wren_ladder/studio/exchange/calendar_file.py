"""Lessons, exams and practice days as iCalendar (RFC 5545), by icalendar."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from functools import lru_cache

from django.db.models import Prefetch, QuerySet
from django.utils import timezone
from icalendar import Calendar, Event

from wren_ladder.drumming.practice.week import Day
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.lessons.timetable import Occasion, occasions
from wren_ladder.studio.lessons.weeks import (
    AS_LISTED,
    last_set_of_each,
    plans_of_each,
    practice_days,
)
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student

USUAL_TIME = time(16, 0)  # of a lesson whose time is not kept
GUESS = "The time of this lesson is not kept; this one is a guess."
AHEAD = timedelta(days=400)  # in which a calendar is told of holidays and moved lessons
BACK = timedelta(weeks=13)  # in which it is told of lessons that were: all there ever were
# would be sent at each of its visits
END = b"END:VCALENDAR"


@dataclass(frozen=True, slots=True)
class Entry:
    """An event at one time, or on one day where ``minutes`` is None."""

    uid: str
    summary: str
    begins: date
    minutes: int | None
    said: str


def diary_of(students: QuerySet[Student], today: date) -> bytes:
    """One calendar: weekly lessons from today on, without those that fall in a holiday or are
    kept otherwise; lessons moved and made up; lessons of the last quarter of a year; exams; the
    days of practice of the week as it is set."""
    calendar = Calendar()
    calendar.add("prodid", "-//Wren Ladder//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", "Wren Ladder")
    lessons = Lesson.objects.filter(day__gt=today - BACK).defer("week", "was_set")
    here = students.filter(status=Student.Status.HERE)
    here = list(here.prefetch_related(Prefetch("lessons", lessons)))
    ahead: dict[int, list[Occasion]] = {}
    for one in occasions(here, today, today + AHEAD):
        ahead.setdefault(one.student.pk, []).append(one)
    entries = []
    was_set, titles = last_set_of_each(here, today), _titles(here)
    plans = plans_of_each([one for one in here if one.pk not in was_set])
    for student in here:
        if student.lesson_day is not None:
            calendar.add_component(_lessons(student, ahead.get(student.pk, ()), today))
        if student.exam_date:
            entries.append(_exam(student, titles.get(student.pk, ())))
        entries += _kept(student)
        days = practice_days(student, plans.get(student.pk, ()), today, was_set.get(student.pk))
        entries += [_practice(student, day) for day in days if not day.is_rest]
    return _with(calendar, entries, today)


def _titles(students: Sequence[Student]) -> dict[int, list[str]]:
    """Of what each climbs."""
    plans = Plan.objects.filter(student__in=students, status=Plan.Status.CLIMBING)
    found: dict[int, list[str]] = {}
    for student, title in plans.order_by(*AS_LISTED).values_list("student", "piece__title"):
        found.setdefault(student, []).append(title)
    return found


def _with(calendar: Calendar, entries: Sequence[Entry], today: date) -> bytes:
    """Entries that are as they were are not written anew: a program that asks every hour asks
    for the same again. The first that has a time brings the zone of all of them."""
    timed = next((one for one in entries if one.minutes is not None), None)
    if timed:
        calendar.add_component(_event(timed, today))
    calendar.add_missing_timezones()
    whole = calendar.to_ical()
    written = [_written(one, today) for one in entries if one is not timed]
    return whole.replace(END, b"".join([*written, END]))


@lru_cache(maxsize=8192)
def _written(entry: Entry, today: date) -> bytes:
    return _event(entry, today).to_ical()


def _event(entry: Entry, today: date) -> Event:
    event = _named(entry.uid, entry.summary, today)
    event.add("dtstart", entry.begins)
    if entry.minutes is None:
        event.add("dtend", entry.begins + timedelta(days=1))
        event.add("transp", "TRANSPARENT")
    else:
        event.add("dtend", entry.begins + timedelta(minutes=entry.minutes))
    event.add("description", entry.said)
    return event


def _named(uid: str, summary: str, today: date) -> Event:
    event = Event()
    event.add("uid", f"{uid}@wren-ladder")
    event.add("dtstamp", datetime.combine(today, time(), UTC))
    event.add("summary", summary)
    return event


def _lessons(student: Student, ahead: Sequence[Occasion], today: date) -> Event:
    """Every week from the next one on, but for what is not as every week."""
    event = _named(f"lessons-{student.pk}", f"Drum lesson: {student.name}", today)
    at = student.lesson_time or USUAL_TIME
    begins = _at(today + timedelta(days=(student.lesson_day - today.weekday()) % 7), at)
    event.add("dtstart", begins)
    event.add("dtend", begins + timedelta(minutes=student.lesson_minutes))
    event.add("rrule", {"freq": "weekly"})
    for one in ahead:
        weekly = one.day.weekday() == student.lesson_day
        if weekly and (one.lesson or one.free or one.moved_to):
            event.add("exdate", _at(one.day, at))
    if student.lesson_time is None:
        event.add("description", GUESS)
    return event


def _kept(student: Student) -> Iterator[Entry]:
    """Lessons that were given, or are planned besides the weekly ones."""
    for lesson in student.lessons.all():
        lesson.student = student
        if not lesson.is_off:
            what = "Lesson given" if lesson.is_given else "Drum lesson"
            words = [lesson.said, *lesson.did]
            yield Entry(
                f"lesson-{lesson.pk}",
                f"{what}: {student.name}",
                _at(lesson.day, lesson.starts or USUAL_TIME),
                lesson.lasts,
                "\n".join(words if lesson.starts else [*words, GUESS]),
            )


def _at(day: date, at: time) -> datetime:
    return datetime.combine(day, at, timezone.get_default_timezone())


def _exam(student: Student, pieces: Iterable[str]) -> Entry:
    summary = f"Exam: {student.name}, grade {student.grade}"
    return Entry(f"exam-{student.pk}", summary, student.exam_date, None, ", ".join(pieces))


def _practice(student: Student, day: Day) -> Entry:
    return Entry(
        f"practice-{student.pk}-{day.day.isoformat()}",
        f"Practice: {student.name}, {day.minutes} minutes",
        day.day,
        None,
        "\n".join(f"{one.minutes} min {one.said}" for one in day.items),
    )
