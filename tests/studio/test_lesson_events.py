"""Lessons as events: called off, moved, made up, in company, in holidays; what follows."""

from datetime import date, timedelta

import lxml.html
from django.test import override_settings
from django.urls import reverse
from icalendar import Calendar

from tests.studio.base import (
    NOTHING_SET,
    StudioTest,
    log,
    make_piece,
    make_plan,
    make_student,
    press_undo,
    set_lines,
)
from wren_ladder.studio.climb.models import HomeMinutes
from wren_ladder.studio.lessons.models import CalendarAddress, Lesson, Period
from wren_ladder.studio.lessons.timetable import occasions
from wren_ladder.studio.plans.models import Plan

TODAY = date.today()
WEEK = timedelta(days=7)


class EventTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher, "Ines", lesson_day=TODAY.weekday())
        self.plan = make_plan(make_piece(self.teacher), self.student)
        self.step = self.plan.steps.first()

    def address(self, name, thing=None):
        return reverse(name, args=[(thing or self.student).pk])

    def call_off(self, day=TODAY, state="ill", by="student"):
        form = {"day": f"{day}", "state": state, "by": by}
        return self.client.post(self.address("lesson-off"), form, follow=True)

    def due(self, first=TODAY, last=TODAY):
        return occasions([self.student], first, last)

    def new(self, **fields):
        form = {"day": f"{TODAY}", "state": "planned", "late": 0, **fields}
        return self.client.post(self.address("lesson-new"), form, follow=True)


class CallingOff(EventTest):
    def test_an_ill_student_is_kept_as_that_and_the_desk_says_so(self):
        page = self.call_off()
        self.assertContains(page, "Ill (the student)")
        self.assertContains(page, "It takes place after all")
        desk = self.client.get(reverse("desk"))
        self.assertContains(desk, "Ill (the student)")
        self.assertNotContains(desk, "Hear first")
        self.assertFalse(self.due()[0].takes_place)

    def test_it_is_taken_back_on_the_spot(self):
        page = press_undo(self.client, self.call_off())
        self.assertContains(page, "takes place after all.")
        self.assertFalse(Lesson.objects.exists())
        self.assertTrue(self.due()[0].takes_place)

    def test_what_was_kept_of_a_given_lesson_survives_a_slip(self):
        lines = set_lines({"step": self.step.pk, "tempo": 95, "minutes": 5})
        self.client.post(self.address("lesson-end"), lines)
        self.call_off(state="missed", by="")
        lesson = Lesson.objects.get()
        self.assertEqual((lesson.state, lesson.set_steps), ("missed", [self.step.pk]))
        self.client.post(self.address("lesson-back", lesson))
        self.assertEqual(self.fresh(lesson).state, "given")

    def test_it_is_made_up_and_both_days_say_so(self):
        self.call_off()
        later = TODAY + timedelta(days=3)
        page = self.new(day=f"{later}", instead_of=f"{TODAY}", time="17:30")
        self.assertContains(page, f"instead of {TODAY:%-d %b}")
        off, up = self.due(last=TODAY + timedelta(days=6))
        self.assertEqual(off.said, f"ill (the student), made up on {later:%-d %b}")
        self.assertEqual((up.day, up.takes_place, f"{up.time:%H:%M}"), (later, True, "17:30"))

    def test_a_moved_lesson_leaves_its_day(self):
        later = TODAY + timedelta(days=1)
        self.new(day=f"{later}", instead_of=f"{TODAY}")
        away, there = self.due(last=later)
        self.assertEqual((away.said, away.takes_place), (f"moved to {later:%-d %b}", False))
        self.assertTrue(there.takes_place)

    def test_what_is_set_lasts_until_a_lesson_is_given_again(self):
        lesson = Lesson.objects.create(
            student=self.student,
            day=TODAY - WEEK,
            was_set=[{"step": self.step.pk, "name": "Bar 1", "piece": "Quay", "tempo": 95}],
        )
        self.call_off()
        page = self.client.get(self.address("week"))
        self.assertEqual(page.context["week"].lesson, lesson)
        self.assertEqual(page.context["week"].days[0].day, TODAY)

    def test_wrong_ways_of_calling_off_are_told(self):
        for fields in ({"state": "given"}, {"by": "nobody"}, {"day": "soon"}):
            with self.subTest(fields):
                form = {"day": f"{TODAY}", "state": "ill", "by": "student", **fields}
                page = self.client.post(self.address("lesson-off"), form, follow=True)
                self.assertContains(page, "Not kept: a day")
        self.assertFalse(Lesson.objects.exists())


class Changing(EventTest):
    def change(self, lesson, **fields):
        address = self.address("lesson-change", lesson)
        return self.client.post(
            address, {**self.opened(address, "late"), **fields}, follow=True
        )

    def test_a_lesson_has_its_own_date_and_can_be_corrected(self):
        self.client.post(self.address("lesson-end"), NOTHING_SET)
        lesson = Lesson.objects.get()
        yesterday = TODAY - timedelta(days=1)
        page = self.change(lesson, day=f"{yesterday}", late=10, minutes=60, practised="no")
        self.assertContains(page, "Given, 10 minutes late, double, did not practise")
        self.assertEqual(self.fresh(lesson).day, yesterday)

    def test_a_day_with_a_lesson_is_refused_and_so_is_a_future_one_that_was_given(self):
        first = Lesson.objects.create(student=self.student, day=TODAY - WEEK)
        other = Lesson.objects.create(student=self.student, day=TODAY)
        page = self.change(other, day=f"{first.day}")
        self.assertContains(page, "There is a lesson on", status_code=422)
        page = self.change(other, day=f"{TODAY + WEEK}")
        self.assertContains(page, "still to come: planned, not given", status_code=422)
        page = self.change(other, instead_of=f"{TODAY}")
        self.assertContains(page, "the day of this lesson itself", status_code=422)

    def test_those_taught_together_have_a_lesson_each(self):
        bo, cy = (make_student(self.teacher, name) for name in ("Bo", "Cy"))
        self.new(state="given", time="15:00", together=[bo.pk, cy.pk])
        lessons = Lesson.objects.all()
        self.assertEqual({one.student.name for one in lessons}, {"Ines", "Bo", "Cy"})
        self.assertEqual(len({one.company for one in lessons}), 1)
        mine = Lesson.objects.get(student=self.student)
        self.assertContains(self.client.get(mine.get_absolute_url()), "together with")
        self.change(mine, together=[bo.pk])
        self.assertIsNone(Lesson.objects.get(student=cy).company)
        self.change(mine, together=[])
        self.assertEqual(Lesson.objects.filter(company__isnull=False).count(), 0)

    def test_a_week_without_practice_is_seen_in_the_next_lesson(self):
        Lesson.objects.create(student=self.student, day=TODAY - WEEK, practised="no")
        self.assertContains(
            self.client.get(reverse("desk")), "did not practise the week before"
        )
        page = self.client.get(self.student.get_absolute_url())
        self.assertContains(page, "did not practise")


class Year(EventTest):
    def test_no_lesson_is_due_in_a_holiday(self):
        form = {"kind": "holiday", "name": "Half-term", "first": TODAY, "last": TODAY + WEEK}
        page = self.client.post(reverse("periods"), form, follow=True)
        self.assertContains(page, "Half-term is kept.")
        self.assertEqual([one.free for one in self.due(last=TODAY + WEEK)], ["Half-term"] * 2)
        page = self.client.get(reverse("timetable"))
        self.assertContains(page, "Half-term")
        form = {**form, "last": TODAY - WEEK}
        page = self.client.post(reverse("periods"), form)
        self.assertContains(page, "It ends before it begins", status_code=422)
        self.client.post(self.address("period-delete", Period.objects.get()))
        self.assertTrue(self.due()[0].takes_place)

    def test_a_past_lesson_of_which_nothing_is_kept_is_asked_about(self):
        page = self.client.get(reverse("timetable"), {"week": f"{TODAY - WEEK}"})
        self.assertContains(page, "nothing kept")
        self.assertContains(page, "Write up")
        self.assertEqual(
            self.client.get(reverse("timetable"), {"week": "9999-99-99"}).status_code, 200
        )

    @override_settings(TIME_ZONE="Europe/Berlin")
    def test_the_calendar_leaves_out_what_does_not_take_place(self):
        self.new(day=f"{TODAY + timedelta(days=8)}", instead_of=f"{TODAY + WEEK}", time="17:30")
        Period.objects.create(
            owner=self.teacher, name="Break", first=TODAY + 2 * WEEK, last=TODAY + 3 * WEEK
        )
        data = self.client.get(reverse("calendar")).getvalue()
        calendar = Calendar.from_ical(data)
        weekly = next(one for one in calendar.walk("VEVENT") if "RRULE" in one)
        out = {d.dt.date() for entry in weekly["EXDATE"] for d in entry.dts}
        self.assertEqual(out, {TODAY + n * WEEK for n in (1, 2, 3)})
        moved = next(one for one in calendar.walk("VEVENT") if one["UID"].startswith("lesson-"))
        self.assertEqual(f"{moved['DTSTART'].dt:%H:%M}", "17:30")
        self.assertTrue(calendar.walk("VTIMEZONE"))

    def test_the_calendar_tells_of_the_last_quarter_of_a_year(self):
        for weeks in (2, 12, 14, 60):
            Lesson.objects.create(student=self.student, day=TODAY - weeks * WEEK)
        data = self.client.get(reverse("calendar")).getvalue()
        events = Calendar.from_ical(data).walk("VEVENT")
        given = [one["DTSTART"].dt.date() for one in events if "given" in one["SUMMARY"]]
        self.assertEqual(sorted(given), [TODAY - 12 * WEEK, TODAY - 2 * WEEK])

    def test_asked_again_it_is_the_same_until_something_changes(self):
        Lesson.objects.create(student=self.student, day=TODAY - WEEK)
        first = self.client.get(reverse("calendar")).getvalue()
        self.assertEqual(self.client.get(reverse("calendar")).getvalue(), first)
        Lesson.objects.update(did=["Bar 4: 95 earned"])
        again = self.client.get(reverse("calendar")).getvalue()
        self.assertIn(b"95 earned", again)

    def test_a_calendar_program_subscribes_at_a_secret_address_until_it_is_revoked(self):
        page = self.client.post(reverse("calendar-address"), {"do": "open"}, follow=True)
        address = page.context["calendar"]
        self.client.logout()
        feed = self.client.get(address)
        self.assertContains(feed, "Drum lesson: Ines")
        self.client.force_login(self.teacher)
        self.client.post(reverse("calendar-address"), {"do": "open"})
        self.assertEqual(self.client.get(address).status_code, 404)
        self.client.post(reverse("calendar-address"), {"do": "revoke"})
        self.assertFalse(CalendarAddress.objects.exists())


class EndOfTerm(EventTest):
    def test_lessons_minutes_rungs_and_pieces_are_summed_up(self):
        long_ago = TODAY - 20 * WEEK
        Lesson.objects.create(student=self.student, day=long_ago)
        for days, fields in (
            (1, {}),
            (2, {"minutes": 60, "instead_of": TODAY - WEEK, "practised": "no"}),
            (7, {"state": "ill", "by": "student"}),
            (9, {"state": "cancelled", "by": "teacher"}),
            (10, {"state": "missed"}),
        ):
            Lesson.objects.create(
                student=self.student, day=TODAY - timedelta(days=days), **fields
            )
        HomeMinutes.objects.create(student=self.student, day=TODAY, minutes=25)
        log(self.step, 90, days_ago=120)
        log(self.step, 95)
        log(self.step, 100)
        Plan.objects.filter(pk=self.plan.pk).update(status="passed", since=TODAY)
        page = self.client.get(reverse("term"))
        (row,) = page.context["rows"]
        self.assertEqual(row.numbers, [2, 90, 1, 1, 1, 1, 1, 25, 2, 1])
        self.assertEqual(page.context["total"].numbers, row.numbers)
        table = b"".join(self.client.get(reverse("term-csv"))).decode()
        self.assertIn("Ines,2,90,1,1,1,1,1,25,2,1", table)
        self.assertEqual(
            self.client.get(reverse("term-sheet"))["content-type"], "application/pdf"
        )

    def test_the_term_that_today_falls_in_is_proposed(self):
        Period.objects.create(
            owner=self.teacher, kind="term", name="Autumn", first=TODAY - WEEK, last=TODAY
        )
        page = self.client.get(reverse("term"))
        self.assertEqual((page.context["name"], page.context["rows"]), ("Autumn", []))
        self.assertContains(page, "no practice and no piece")


class Others(EventTest):
    def test_another_teachers_lessons_and_terms_are_not_there(self):
        lesson = Lesson.objects.create(student=self.student, day=TODAY)
        period = Period.objects.create(owner=self.teacher, name="X", first=TODAY, last=TODAY)
        self.client.force_login(self.other_teacher())
        for name, thing in (
            ("lesson-new", self.student),
            ("lesson-change", lesson),
            ("lesson-set", lesson),
            ("period-delete", period),
        ):
            with self.subTest(name):
                self.assertEqual(self.client.get(self.address(name, thing)).status_code, 404)
        for name, thing in (("lesson-off", self.student), ("lesson-back", lesson)):
            with self.subTest(name):
                self.assertEqual(self.client.post(self.address(name, thing)).status_code, 404)
        self.assertNotContains(self.client.get(reverse("timetable")), "Ines")


class Together(EventTest):
    """Time and minutes are shared by those taught together, what became of it is each one's."""

    def setUp(self):
        super().setUp()
        self.bo = make_student(self.teacher, "Bo")
        self.cy = make_student(self.teacher, "Cy")
        self.new(together=[self.bo.pk])
        self.mine, self.bos = (
            Lesson.objects.get(student=one) for one in (self.student, self.bo)
        )

    def change(self, lesson, **fields):
        address = reverse("lesson-change", args=[lesson.pk])
        sent = {"day": f"{lesson.day}", "state": "planned", "late": 0, **fields}
        return self.client.post(address, sent, follow=True)

    def test_late_or_ill_of_one_is_never_the_others(self):
        self.client.post(
            reverse("lesson-off", args=[self.bo.pk]),
            {"day": f"{TODAY}", "state": "ill", "by": "student"},
        )
        self.change(
            self.mine, state="given", late=5, time="16:10", minutes=45, together=[self.bo.pk]
        )
        mine, bos = self.fresh(self.mine), self.fresh(self.bos)
        self.assertEqual((mine.state, mine.late), ("given", 5))
        self.assertEqual((bos.state, bos.by, bos.late), ("ill", "student", 0))
        self.assertEqual((f"{bos.time:%H:%M}", bos.minutes), ("16:10", 45))

    def test_every_field_of_a_lesson_but_the_shared_ones_stays_each_ones(self):
        own = {"note": "hers", "message": "m", "for_parents": "p", "practised": "no", "late": 9}
        Lesson.objects.filter(pk=self.bos.pk).update(**own, state="missed")
        before = Lesson.objects.filter(pk=self.bos.pk).values().get()
        self.change(self.mine, state="given", minutes=60, late=3, together=[self.bo.pk])
        after = Lesson.objects.filter(pk=self.bos.pk).values().get()
        changed = {name for name in before if before[name] != after[name]}
        self.assertLessEqual(changed, set(Lesson.SHARED))

    def test_two_tabs_that_tick_different_students_keep_both(self):
        address = reverse("lesson-change", args=[self.mine.pk])
        one, two = (self.opened_with_many(address) for _ in range(2))
        one["together"] = [*one["together"], f"{self.cy.pk}"]
        self.client.post(address, one)
        two["together"] = []  # Bo is taken out in the other one
        self.client.post(address, two)
        lessons = Lesson.objects.filter(company=self.fresh(self.mine).company)
        self.assertEqual({one.student.name for one in lessons}, {"Ines", "Cy"})

    def opened_with_many(self, address: str) -> dict:
        """The form of the page with every value of each name."""
        page = lxml.html.document_fromstring(self.client.get(address).content)
        form = next(form for form in page.forms if "late" in form.fields)
        sent: dict[str, list] = {"together": []}
        for name, value in form.form_values():
            sent.setdefault(name, []).append(value)
        return sent
