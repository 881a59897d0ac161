"""The calendar, read back by icalendar (RFC 5545)."""

from datetime import UTC, date, datetime, time, timedelta
from io import StringIO
from zoneinfo import ZoneInfo

from dateutil.rrule import WEEKLY, rrule
from dateutil.tz import tzical
from django.db import connection
from django.test.utils import CaptureQueriesContext, override_settings
from django.urls import reverse
from icalendar import Calendar

from tests.studio.base import StudioTest, make_piece, make_plan, make_student
from wren_ladder.studio.lessons.models import Lesson


class Diary(StudioTest):
    def setUp(self):
        super().setUp()
        self.today = date.today()
        self.student = make_student(
            self.teacher,
            "Ines",
            lesson_day=(self.today.weekday() + 2) % 7,
            lesson_time=time(16, 30),
            exam_date=self.today + timedelta(days=40),
        )
        make_plan(make_piece(self.teacher), self.student)
        Lesson.objects.create(student=self.student, day=self.today - timedelta(days=5))
        make_student(self.teacher, "Kofi")

    def events(self, **asked):
        response = self.client.get(reverse("calendar"), asked)
        self.assertTrue(response["content-type"].startswith("text/calendar"))
        calendar = Calendar.from_ical(response.getvalue())
        found: dict[str, list] = {}
        for event in calendar.walk("VEVENT"):
            found.setdefault(str(event["uid"]).partition("-")[0], []).append(event)
        return found

    def test_lessons_come_back_every_week_at_their_time(self):
        (lessons,) = self.events()["lessons"]
        begins = lessons.decoded("dtstart")
        self.assertEqual(begins.date(), self.today + timedelta(days=2))
        self.assertEqual((begins.hour, begins.minute), (16, 30))
        self.assertEqual(lessons.decoded("dtend") - begins, timedelta(minutes=30))
        self.assertEqual(lessons["rrule"]["freq"], ["WEEKLY"])
        self.assertIsInstance(begins, datetime)

    def test_a_lesson_keeps_its_hour_across_the_change_of_clocks(self):
        """The zones as the file itself tells them, read by dateutil."""
        for name in ("Europe/Vienna", "America/New_York", "Australia/Sydney"):
            with self.subTest(name), override_settings(TIME_ZONE=name):
                text = self.client.get(reverse("calendar")).getvalue().decode()
                zone = tzical(StringIO(text)).get(name)
                (lessons,) = self.events()["lessons"]
                self.assertEqual(lessons["dtstart"].params["TZID"], name)
                first = lessons.decoded("dtstart").replace(tzinfo=None)
                offsets = set()
                for day in rrule(WEEKLY, dtstart=first, count=53):
                    begins = day.replace(tzinfo=zone)
                    theirs = day.replace(tzinfo=ZoneInfo(name))
                    self.assertEqual(begins.utcoffset(), theirs.utcoffset(), day)
                    there = begins.astimezone(UTC).astimezone(ZoneInfo(name))
                    self.assertEqual((there.hour, there.minute), (16, 30), day)
                    offsets.add(begins.utcoffset())
                self.assertEqual(len(offsets), 2)  # the clocks changed in between

    def test_the_exam_is_a_whole_day_and_a_lesson_that_was_has_its_time(self):
        events = self.events()
        (exam,) = events["exam"]
        self.assertEqual(exam.decoded("dtstart"), self.today + timedelta(days=40))
        (lesson,) = events["lesson"]
        begins = lesson.decoded("dtstart")
        self.assertEqual(begins.date(), self.today - timedelta(days=5))
        self.assertEqual((begins.hour, begins.minute), (16, 30))

    def test_the_practice_days_of_the_week_say_what_to_do(self):
        practice = self.events()["practice"]
        self.assertEqual(len(practice), 5)
        self.assertIn("15 minutes", str(practice[0]["summary"]))
        self.assertIn("5 min Bar 1", str(practice[0]["description"]))

    def test_every_event_has_an_address_of_its_own(self):
        events = [event for group in self.events().values() for event in group]
        self.assertEqual(len({str(event["uid"]) for event in events}), len(events))

    def test_many_students_ask_no_more_of_the_database_than_few(self):
        with CaptureQueriesContext(connection) as few:
            self.events()
        piece = make_piece(self.teacher, title="Mole")
        for number in range(4):
            student = make_student(self.teacher, f"Pupil {number}", lesson_day=number)
            make_plan(piece, student)
            Lesson.objects.create(student=student, day=self.today)
        with self.assertNumQueries(len(few)):
            self.assertEqual(len(self.events()["lessons"]), 5)

    def test_of_one_student_and_of_nobody_elses(self):
        self.assertEqual(self.events(student=self.student.pk + 1), {})
        self.client.force_login(self.other_teacher())
        self.assertEqual(self.events(student=self.student.pk), {})
