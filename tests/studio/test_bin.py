"""Out of the way and back: the bin of thirty days, pieces and students with a status."""

from datetime import date, timedelta

from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.changes.exercises import send_drill
from wren_ladder.studio.climb.models import Attempt, HomeMinutes
from wren_ladder.studio.exchange.studio_file import studio_lines
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.pages.rudiments.shelf import drill_named
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.plans.rules import agreed_pace
from wren_ladder.studio.privacy.expiry import expire_once_a_day
from wren_ladder.studio.students.models import Student

TODAY = date.today()


class AwayTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher, "Ines", lesson_day=TODAY.weekday())
        self.piece = make_piece(self.teacher)
        self.plan = make_plan(self.piece, self.student)
        log(self.plan.steps.first(), 95)

    def post(self, name, thing, **fields):
        return self.client.post(reverse(name, args=[thing.pk]), fields, follow=True)

    def everything(self) -> list[str]:
        return list(studio_lines(self.teacher))


class Bin(AwayTest):
    def test_a_student_comes_back_with_everything_as_it_was(self):
        send_drill(drill_named("flam paradiddle"), self.student, 90)
        Lesson.objects.create(student=self.student, day=TODAY, note="Even.")
        HomeMinutes.objects.create(student=self.student, day=TODAY, minutes=12)
        self.client.post(reverse("link-open", args=[self.student.pk]))
        address = self.client.get(reverse("link-follow", args=[self.student.pk])).url
        before = self.everything()
        page = self.client.get(reverse("student-delete", args=[self.student.pk]))
        self.assertContains(page, "for 30 days")
        self.post("student-delete", self.student)
        self.assertFalse(Student.objects.exists())
        self.assertEqual(self.client.get(address).status_code, 404)
        page = self.post("bin-back", Binned.objects.get())
        self.assertContains(page, "Ines is back, as it was.")
        self.assertEqual(self.everything(), before)
        self.assertEqual(self.fresh(self.plan).steps.first().standing.held, 95)
        self.assertEqual(self.client.get(address).status_code, 200)
        self.assertFalse(Binned.objects.exists())

    def test_a_piece_a_plan_a_lesson_minutes_and_a_try_come_back_too(self):
        lesson = Lesson.objects.create(student=self.student, day=TODAY)
        minutes = HomeMinutes.objects.create(student=self.student, day=TODAY, minutes=12)
        attempt = Attempt.objects.get()
        for name, thing in (
            ("piece-delete", self.piece),
            ("plan-delete", self.plan),
            ("lesson-delete", lesson),
            ("minutes-delete", minutes),
            ("attempt-delete", attempt),
        ):
            with self.subTest(name):
                before = self.everything()
                self.post(name, thing)
                self.assertFalse(type(thing).objects.filter(pk=thing.pk).exists())
                self.post("bin-back", Binned.objects.get())
                self.assertEqual(self.everything(), before)
                self.assertEqual(self.fresh(self.plan).steps.first().standing.held, 95)

    def test_after_thirty_days_it_is_gone_for_good(self):
        self.post("student-delete", self.student)
        Binned.objects.update(day=TODAY - timedelta(days=30))
        expire_once_a_day.last = None
        self.client.get(reverse("desk"))
        self.assertTrue(Binned.objects.exists())
        Binned.objects.update(day=TODAY - timedelta(days=31))
        expire_once_a_day.last = None  # the next day
        self.client.get(reverse("desk"))
        self.assertFalse(Binned.objects.exists())

    def test_it_is_erased_at_once_where_that_is_asked(self):
        page = self.post("student-delete", self.student, for_good="yes")
        self.assertContains(page, "erased for good")
        self.assertFalse(Binned.objects.exists())
        self.post("piece-delete", self.piece)
        page = self.post("bin-erase", Binned.objects.get())
        self.assertContains(page, "is erased for good")
        self.assertContains(page, "The bin is empty")

    def test_what_has_taken_its_place_is_told(self):
        self.post("student-delete", self.student)
        make_student(self.teacher, "Ines")
        self.post("bin-back", Binned.objects.get())
        names = {student.name for student in Student.objects.all()}
        self.assertEqual(names, {"Ines", "Ines (2)"})
        self.post("plan-delete", self.plan)
        make_plan(self.piece, self.student)
        page = self.post("bin-back", Binned.objects.get())
        self.assertContains(page, "there is another one in its place now")
        self.assertTrue(Binned.objects.exists())

    def test_what_it_belonged_to_comes_first(self):
        self.post("plan-delete", self.plan)
        self.post("student-delete", self.student)
        plan, student = Binned.objects.order_by("pk")
        page = self.post("bin-back", plan)
        self.assertContains(page, "what it belonged to is gone")
        self.post("bin-back", student)
        page = self.post("bin-back", plan)
        self.assertContains(page, "is back, as it was")
        self.assertEqual(self.fresh(self.plan).steps.first().standing.held, 95)

    def test_it_is_no_export_and_no_other_teachers(self):
        self.post("student-delete", self.student)
        self.assertNotIn("Ines", "".join(self.everything()))
        binned = Binned.objects.get()
        self.client.force_login(self.other_teacher())
        for name in ("bin-back", "bin-erase"):
            self.assertEqual(self.post(name, binned).status_code, 404)
        self.assertNotContains(self.client.get(reverse("bin")), "Ines")


class Statuses(AwayTest):
    def test_a_paused_piece_is_out_of_the_way_and_comes_back_with_its_log(self):
        other = make_plan(make_piece(self.teacher, title="Mole"), self.student)
        self.assertEqual(agreed_pace(other).pieces, 2)
        page = self.post("plan-status", self.plan, status="paused")
        self.assertContains(page, "Quay of Ines: paused.")
        self.assertContains(page, "Not climbed now")
        self.assertEqual(agreed_pace(self.fresh(other)).pieces, 1)
        for name in ("desk", "week", "lesson-mode", "link"):
            with self.subTest(name):
                page = self.page(name)
                self.assertContains(page, "Mole")
                self.assertNotContains(page, "Quay")
        page = self.post("plan-status", self.plan, status="climbing")
        self.assertNotContains(page, "Not climbed now")
        self.assertContains(self.page("lesson-mode"), "Quay")
        self.assertEqual(self.fresh(self.plan).steps.first().standing.held, 95)

    def page(self, name):
        if name == "desk":
            return self.client.get(reverse("desk"))
        if name == "link":
            self.client.post(reverse("link-open", args=[self.student.pk]))
            return self.client.get(reverse("link-follow", args=[self.student.pk]), follow=True)
        return self.client.get(reverse(name, args=[self.student.pk]))

    def test_a_student_who_left_is_on_no_list_of_work_and_is_found_again(self):
        page = self.post("student-status", self.student, status="left")
        self.assertContains(page, "Here again")
        self.assertNotContains(self.page("desk"), "Ines")
        self.assertNotContains(self.client.get(reverse("timetable")), "Ines")
        calendar = self.client.get(reverse("calendar")).getvalue().decode()
        self.assertNotIn("Ines", calendar)
        page = self.client.get(reverse("students"))
        self.assertContains(page, "Paused or left: 1")
        found = self.client.get(reverse("students"), {"q": "Ines"})
        self.assertContains(found, "Here again")
        self.post("student-status", self.student, status="here")
        self.assertContains(self.page("desk"), "Ines")

    def test_other_words_change_nothing(self):
        self.post("plan-status", self.plan, status="lost")
        self.post("student-status", self.student, status="gone")
        self.assertEqual(self.fresh(self.plan).status, Plan.Status.CLIMBING)
        self.assertTrue(self.fresh(self.student).is_here)
        self.client.force_login(self.other_teacher())
        self.assertEqual(self.post("plan-status", self.plan, status="paused").status_code, 404)
        page = self.post("student-status", self.student, status="left")
        self.assertEqual(page.status_code, 404)

    def test_a_model_plan_has_no_status(self):
        self.client.post(reverse("break-down", args=[self.piece.pk]))
        model = Plan.objects.get(student=None)
        self.assertEqual(self.post("plan-status", model, status="paused").status_code, 404)
        self.assertEqual(Piece.objects.count(), 1)
