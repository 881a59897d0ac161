"""One student with two teachers: what the second may do, and what stays the first's."""

from datetime import date
from unittest.mock import patch

import lxml.html
from django.contrib.auth.models import User
from django.test import Client
from django.urls import reverse

from tests.studio.base import log, make_piece, make_plan, make_student, press_undo
from tests.studio.test_house import HouseTest, fill
from tests.studio.test_odd_numbers import PART, addresses
from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.changes.bin import put_back
from wren_ladder.studio.changes.sharing import leave_house
from wren_ladder.studio.climb.models import Attempt, PlanStanding, Take
from wren_ladder.studio.exchange.studio_file import studio_lines
from wren_ladder.studio.house.members import membership_of
from wren_ladder.studio.lessons.models import Lesson, Period
from wren_ladder.studio.lessons.timetable import occasions
from wren_ladder.studio.lessons.weeks import WEEK
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.privacy.erasing import erase
from wren_ladder.studio.students.links import open_link, path_of
from wren_ladder.studio.students.models import Student

ANOTHER = "Wilfred Amberley"  # a student of the first teacher alone, beside the shared one
TOGETHER = "1b4e28ba-2fa1-4d2e-883f-0016d3cca427"
# What only the student's, or the piece's, own teacher does.
FIRSTS = (
    "/students/{students}/delete/", "/students/{students}/kept/", "/students/{students}/file/",
    "/students/{students}/erase/", "/pieces/{pieces}/edit/", "/pieces/{pieces}/edit/text/",
    "/pieces/{pieces}/delete/", "/pieces/{pieces}/give/", "/pieces/{pieces}/share/",
    "/pieces/{pieces}/break-down/", "/pieces/{pieces}/bars/0/flip/",
    "/pieces/{pieces}/room/recording/", "/imports/{imports}/",
)  # fmt: skip


class TwoTeachers(HouseTest):
    """Bo's student Zoë is taught by Ada too, who is logged in as ``client``."""

    def setUp(self):
        super().setUp()
        self.numbers = fill(self.bo)
        self.zoe = Student.objects.get()
        self.piece = Piece.objects.get()
        self.piece.notes = f"For {ANOTHER}."
        self.piece.save()
        self.wilfred = make_student(self.bo, ANOTHER, notes=ANOTHER)
        self.others = make_plan(self.piece, self.wilfred)
        Lesson.objects.update(company=TOGETHER)
        Lesson.objects.create(student=self.wilfred, day=date(2026, 11, 1), company=TOGETHER)
        self.choose(self.bos, self.teacher.pk)

    def choose(self, client: Client, teacher: int | str):
        address = reverse("student-second", args=[self.zoe.pk])
        return client.post(address, {"teacher": teacher}, follow=True)


class Teaching(TwoTeachers):
    def test_chosen_on_the_students_page_and_told_on_both(self):
        page = self.bos.get(self.zoe.get_absolute_url())
        self.assertContains(page, "ada teaches Zoë Quillfeather together with you")
        self.assertContains(page, "Only you and ada see this page")
        page = self.client.get(self.zoe.get_absolute_url())
        self.assertContains(page, "together with bo")
        self.assertNotContains(page, "Export or erase")
        self.assertContains(self.client.get(reverse("students")), "with bo")

    def test_every_page_of_the_student_opens_for_both(self):
        self.client.get(reverse("desk"))
        opened = 0
        for route in sorted(set(addresses())):
            kind = route.split("/")[1]
            if (
                kind not in self.numbers
                or kind == "imports"
                or f"/{kind}/<int:pk>/" not in route
            ):
                continue
            address = PART.sub(lambda part, kind=kind: str(self.numbers.get(kind)), route)
            if address in {one.format(**self.numbers) for one in FIRSTS}:
                continue
            with self.subTest(address):
                codes = [one.get(address).status_code for one in (self.bos, self.client)]
                if kind != "pieces":
                    self.assertEqual(*codes)
                opened += codes[1] == 200
        self.assertGreater(opened, 30)

    def test_nothing_else_of_the_first_teachers_is_read(self):
        """Of another student on the same piece, in the same lesson; of notes on the piece."""
        told = []
        for route in sorted(set(addresses())):
            number = self.numbers.get(route.split("/")[1], self.numbers["students"])
            address = PART.sub(lambda part, number=number: str(number), route)
            if "signed" in route or "key" in route or "log-out" in route:
                continue
            answer = self.client.get(address, {"student": self.wilfred.pk})
            read = b"".join(answer) if answer.streaming else answer.content
            if answer.status_code >= 500 or "Amberley" in read.decode(errors="ignore"):
                told.append((address, answer.status_code))
        self.assertEqual(told, [])
        self.assertEqual(self.client.get(self.wilfred.get_absolute_url()).status_code, 404)
        self.assertEqual(self.client.get(self.others.get_absolute_url()).status_code, 404)

    def test_what_is_the_first_teachers_alone_is_not_there(self):
        for route in FIRSTS:
            address = route.format(**self.numbers)
            with self.subTest(address):
                answers = [self.client.get(address), self.client.post(address, {"name": "x"})]
                self.assertLessEqual({one.status_code for one in answers}, {404, 405})
        self.assertEqual(Piece.objects.get().notes, f"For {ANOTHER}.")

    def test_the_second_does_not_choose_a_third(self):
        cy = User.objects.create_user("cy", password="a-long-password")
        self.assertEqual(self.choose(self.client, cy.pk).status_code, 404)
        self.assertEqual(Student.objects.get(pk=self.zoe.pk).second_teacher, self.teacher)

    def test_nobody_chooses_who_is_not_of_the_house(self):
        User.objects.filter(pk=self.teacher.pk).update(is_active=False)
        self.assertEqual(self.choose(self.bos, self.teacher.pk).status_code, 404)
        self.assertEqual(self.choose(self.bos, self.bo.pk).status_code, 404)

    def test_a_try_of_the_seconds_is_on_the_firsts_list(self):
        step = self.numbers["steps"]
        before = PlanStanding.objects.get(plan=self.numbers["plans"]).changes
        sent = {"tempo": 95, "passes": 8, "clean_try": "yes"}
        self.client.post(reverse("step-log", args=[step]), sent)
        self.assertEqual(Attempt.objects.filter(step=step, tempo=95).count(), 1)
        after = PlanStanding.objects.get(plan=self.numbers["plans"])
        self.assertGreater(after.changes, before)
        for client in (self.client, self.bos):
            self.assertContains(client.get(reverse("students")), "Zoë Quillfeather")
        self.assertContains(self.client.get(reverse("students")), "with bo")
        self.assertNotContains(self.bos.get(reverse("students")), "with bo")

    def test_either_ends_it(self):
        for client in (self.bos, self.client):
            self.choose(self.bos, self.teacher.pk)
            self.choose(client, "")
            for name in ("student", "lesson-mode", "week"):
                address = reverse(name, args=[self.zoe.pk])
                self.assertEqual(self.client.get(address).status_code, 404)
            self.assertEqual(self.client.get(self.piece.get_absolute_url()).status_code, 404)
            self.assertNotContains(self.client.get(reverse("students")), "Quillfeather")
        self.assertEqual(self.bos.get(self.zoe.get_absolute_url()).status_code, 200)


class WhatTheyGive(TwoTeachers):
    """What the student climbs lies in the first teacher's studio."""

    def give(self, mine: Piece) -> None:
        address = reverse("give", args=[mine.pk])
        self.assertContains(self.client.get(address), "gets a copy in the studio of")
        form = {**self.opened(address, "target"), "students": self.zoe.pk, "target": 112}
        self.client.post(address, form)

    def test_a_piece_of_the_seconds_is_copied_there_once(self):
        mine = make_piece(self.teacher, title="Lantern Street")
        self.give(mine)
        plan = Plan.objects.get(student=self.zoe, piece__title="Lantern Street")
        self.assertEqual((plan.owner, plan.piece.owner), (self.bo, self.bo))
        self.assertEqual(plan.piece.chart().bars, mine.chart().bars)
        self.assertEqual(Piece.objects.filter(title="Lantern Street").count(), 2)
        self.assertEqual(self.client.get(plan.get_absolute_url()).status_code, 200)
        again = self.client.get(reverse("give", args=[mine.pk]))
        self.assertNotContains(again, "Zoë")
        plan.delete()  # and given anew, the copy that is there is taken
        self.give(mine)
        self.assertTrue(Plan.objects.filter(student=self.zoe, target=112).exists())
        self.assertEqual(Piece.objects.filter(title="Lantern Street").count(), 2)

    def test_so_is_an_exercise(self):
        page = self.client.get(reverse("stickings"), {"student": self.zoe.pk})
        self.assertContains(page, "Zoë Quillfeather")
        recipe = lxml.html.fromstring(page.content).xpath("//input[@name='recipe']/@value")[0]
        sent = {"student": self.zoe.pk, "recipe": recipe, "target": 80}
        self.client.post(reverse("give-exercise"), sent)
        plan = Plan.objects.exclude(piece=self.piece).get(student=self.zoe)
        self.assertEqual((plan.owner, plan.piece.owner), (self.bo, self.bo))

    def test_what_the_second_deletes_lies_in_the_firsts_bin(self):
        address = reverse("plan-delete", args=[self.numbers["plans"]])
        self.assertNotContains(self.client.get(address), "for good")
        page = self.client.post(address, {"for_good": "yes"}, follow=True)
        self.assertContains(page, "It lies in bo&#x27;s bin for 30 days")
        kept = Binned.objects.get()
        self.assertEqual(kept.owner, self.bo)
        self.bos.post(reverse("bin-back", args=[kept.pk]))
        self.assertTrue(Plan.objects.filter(pk=self.numbers["plans"]).exists())

    def throw_the_take_away(self):
        address = reverse("take-delete", args=[self.numbers["takes"]])
        return self.client.post(address, follow=True)

    def test_a_take_thrown_away_comes_back_on_the_spot(self):
        page = self.throw_the_take_away()
        self.assertFalse(Take.objects.exists())
        press_undo(self.client, page)
        self.assertTrue(Take.objects.filter(pk=self.numbers["takes"]).exists())

    def test_nor_after_the_student_is_taught_by_the_first_alone(self):
        page = self.throw_the_take_away()
        self.choose(self.bos, "")
        press_undo(self.client, page)
        self.assertFalse(Take.objects.exists())

    def test_who_is_taught_together_stays_when_the_second_changes_a_lesson(self):
        address = reverse("lesson-change", args=[self.numbers["lessons"]])
        self.assertNotContains(self.client.get(address), "Together with")
        self.client.post(address, {**self.opened(address, "late"), "time": "16:20"})
        lesson = Lesson.objects.get(pk=self.numbers["lessons"])
        self.assertEqual((str(lesson.time), str(lesson.company)), ("16:20:00", TOGETHER))


class WhatGoesWhere(TwoTeachers):
    def test_the_first_teachers_holidays_hold_for_the_student(self):
        """And on both teachers' pages: a lesson is that of the studio it lies in."""
        day = date(2026, 12, 2)
        Student.objects.filter(pk=self.zoe.pk).update(lesson_day=day.weekday())
        Period.objects.create(
            owner=self.bo, name="Harvest", first=day, last=day, kind=Period.Kind.HOLIDAY
        )
        Period.objects.create(
            owner=self.teacher, name="Moving", first=day - WEEK, last=day - WEEK,
            kind=Period.Kind.HOLIDAY,
        )  # fmt: skip
        zoe = Student.objects.get(pk=self.zoe.pk)
        said = [one.free for one in occasions([zoe], day - WEEK, day)]
        self.assertEqual(said, ["", "Harvest"])
        page = self.client.get(reverse("timetable"), {"week": f"{day}"})
        self.assertContains(page, "Harvest")

    def test_a_studio_file_holds_ones_own_students_and_no_second_teacher(self):
        self.assertNotIn("Quillfeather", "".join(studio_lines(self.teacher)))
        theirs = "".join(studio_lines(self.bo))
        self.assertIn("Quillfeather", theirs)
        self.assertNotIn("second_teacher", theirs)

    def test_tries_of_the_student_as_a_table_and_not_among_ones_own(self):
        mine = self.client.get(reverse("attempts-csv"))
        asked = self.client.get(reverse("attempts-csv"), {"student": self.zoe.pk})
        self.assertNotIn(b"Quillfeather", b"".join(mine))
        self.assertIn(b"Quillfeather", b"".join(asked))

    def test_the_second_leaves_the_house(self):
        Student.objects.filter(pk=self.zoe.pk).update(owner=self.teacher)
        Student.objects.filter(pk=self.zoe.pk).update(second_teacher=self.bo)
        self.client.post(reverse("house-leave", args=[self.member.pk]))
        self.assertIsNone(Student.objects.get(pk=self.zoe.pk).second_teacher)

    def test_the_private_link_that_the_second_knows_ends_with_the_sharing(self):
        for ends in ("chosen no more", "leaves the house"):
            with self.subTest(ends):
                Student.objects.filter(pk=self.zoe.pk).update(second_teacher=self.teacher)
                zoe = self.fresh(self.zoe)
                open_link(zoe)
                address = path_of(zoe)
                self.assertEqual(Client().get(address).status_code, 200)
                if ends == "chosen no more":
                    page = self.choose(self.bos, "")
                    self.assertContains(page, "The private link is closed")
                else:
                    leave_house(membership_of(self.teacher), date(2026, 11, 2))
                self.assertEqual(Client().get(address).status_code, 404)

    def test_the_first_leaves_and_comes_back(self):
        address = self.zoe.get_absolute_url()
        self.client.post(reverse("house-leave", args=[self.member.pk]))
        self.assertEqual(self.client.get(address).status_code, 404)
        self.assertNotContains(self.client.get(reverse("desk")), "Quillfeather")
        self.client.post(reverse("house-back", args=[self.member.pk]))
        self.assertEqual(self.client.get(address).status_code, 200)

    def test_back_from_the_bin_without_a_teacher_who_is_gone(self):
        self.bos.post(reverse("student-delete", args=[self.zoe.pk]))
        self.teacher.delete()
        put_back(Binned.objects.get())
        self.assertIsNone(Student.objects.get(pk=self.zoe.pk).second_teacher)


class Erased(TwoTeachers):
    def test_the_name_goes_from_the_second_teachers_notes_too(self):
        mine = make_student(self.teacher, "Mira", notes="Plays with Zoë Quillfeather.")
        log(make_plan(Piece.objects.get(), mine).steps.first(), 90)
        with patch("wren_ladder.studio.privacy.erasing.sweep", return_value=True):
            erase(Student.objects.get(pk=self.zoe.pk))
        self.assertEqual(Student.objects.get(pk=mine.pk).notes, "Plays with a student.")
