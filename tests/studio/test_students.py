"""Students, and who may see what."""

from datetime import date, timedelta

from django.contrib.auth.models import User
from django.core.exceptions import ValidationError
from django.test import Client, TestCase
from django.urls import reverse

from tests.studio.base import (
    StudioTest,
    log,
    make_piece,
    make_plan,
    make_student,
    make_teacher,
)
from tests.studio.test_forecasts import practise
from wren_ladder.studio.accounts.teachers import set_password
from wren_ladder.studio.students.models import Student

USUAL = {
    "lesson_minutes": 30,
    "home_days": 5,
    "home_minutes": 15,
    "buffer": 14,
    "level": 100,
    "rating": 0,
    "hearing_rule": "NIOSH",
}


class Students(StudioTest):
    def test_a_student_is_added_changed_and_deleted_after_asking(self):
        form = {**USUAL, "name": " Mira  Lind ", "grade": 4, "lead": "L"}
        form["exam_date"] = "2027-01-05"
        response = self.client.post(reverse("student-new"), form)
        student = Student.objects.get()
        self.assertRedirects(response, student.get_absolute_url())
        self.assertEqual((student.name, student.lead), ("Mira Lind", "R"))  # asked later
        self.client.post(reverse("student-edit", args=[student.pk]), {**form, "grade": 5})
        self.assertEqual((self.fresh(student).grade, self.fresh(student).lead), (5, "L"))
        address = reverse("student-delete", args=[student.pk])
        self.assertContains(
            self.client.get(address),
            'stays in the <a href="/bin/">bin</a> for 30 days',
            html=False,
        )
        self.client.post(address)
        self.assertFalse(Student.objects.exists())

    def test_wrong_fields_are_told_and_what_was_typed_is_kept(self):
        form = {"name": "Mira", "grade": 12, "lead": "R", "exam_date": "soon"}
        response = self.client.post(reverse("student-new"), form)
        self.assertContains(response, "12 is not one of the available choices", status_code=422)
        self.assertContains(response, 'value="Mira"', status_code=422)

    def test_a_name_is_used_once_by_a_teacher(self):
        make_student(self.teacher, "Mira")
        form = {"name": "Mira", "grade": 1, "lead": "R"}
        response = self.client.post(reverse("student-new"), form)
        self.assertContains(response, "a student called Mira already", status_code=422)

    def test_students_are_found_by_name_and_by_piece(self):
        make_plan(make_piece(self.teacher), make_student(self.teacher, "Mira"))
        make_student(self.teacher, "Kofi")
        for query in ("mir", "quay"):
            response = self.client.get(reverse("students"), {"q": query})
            self.assertContains(response, "Mira")
            self.assertNotContains(response, "Kofi")

    def test_they_stand_by_day_by_name_or_by_risk_with_what_one_decides_by(self):
        today, piece = date.today(), make_piece(self.teacher)
        day = (today.weekday() + 2) % 7
        for name, exam_in, lesson_day in (("Ada", 200, 6), ("Bo", 15, 0), ("Cy", None, day)):
            exam = today + timedelta(days=exam_in) if exam_in else None
            student = make_student(self.teacher, name, exam_date=exam, lesson_day=lesson_day)
            practise(make_plan(piece, student))
        make_student(self.teacher, "Zoe", lesson_day=None)

        def names(order):
            page = self.client.get(reverse("students"), {"by": order})
            return [line.student.name for line in page.context["page"]]

        self.assertEqual(names("name"), ["Ada", "Bo", "Cy", "Zoe"])
        self.assertEqual(names("risk"), ["Bo", "Ada", "Cy", "Zoe"])
        self.assertEqual((names("day")[0], names("day")[-1]), ("Bo", "Zoe"))
        page = self.client.get(reverse("students"))
        for said in ("Monday", "of 120", "behind", "none yet", "no piece"):
            self.assertContains(page, said)

    def test_a_left_handed_student_sees_mirrored_hands(self):
        plan = make_plan(make_piece(self.teacher), make_student(self.teacher, lead="L"))
        page = self.client.get(plan.get_absolute_url())
        self.assertContains(page, "1: hat left and kick")
        panel = reverse("bar-panel", args=[plan.piece_id, 0])
        self.assertContains(self.client.get(panel, {"plan": plan.pk}), "1: hat left and kick")


class Ownership(StudioTest):
    """Another teacher's addresses are not there."""

    def setUp(self):
        super().setUp()
        piece = make_piece(self.teacher)
        student = make_student(self.teacher)
        plan = make_plan(piece, student)
        step = plan.steps.first()
        attempt = log(step, 90)
        self.addresses = [
            *(
                reverse(n, args=[piece.pk])
                for n in ("piece", "piece-edit", "piece-delete", "give")
            ),
            *(reverse(f"piece-{n}", args=[piece.pk]) for n in ("road", "score", "score-pdf")),
            reverse("piece-file", args=[piece.pk, "mid"]),
            reverse("bar-panel", args=[piece.pk, 0]),
            *(reverse(f"student{n}", args=[student.pk]) for n in ("", "-edit", "-delete")),
            *(
                reverse(n, args=[plan.pk])
                for n in ("plan", "climb-panel", "plan-steps", "plan-edit", "plan-delete")
            ),
            *(reverse(n, args=[plan.pk]) for n in ("plan-sheet", "progress")),
            reverse("step-edit", args=[step.pk]),
            *(reverse(f"attempt-{n}", args=[attempt.pk]) for n in ("edit", "delete")),
        ]
        self.posts = [
            reverse("break-down", args=[piece.pk]),
            reverse("step-add", args=[plan.pk]),
            *(reverse(f"step-{n}", args=[step.pk]) for n in ("up", "down", "drop", "restore")),
            reverse("attempt-log", args=[step.pk]),
        ]

    def test_the_owner_sees_every_address(self):
        for address in self.addresses:
            with self.subTest(address):
                self.assertEqual(self.client.get(address).status_code, 200)

    def test_another_teacher_gets_404_for_every_address(self):
        self.client.force_login(make_teacher("bo"))
        for address in self.addresses:
            with self.subTest(address):
                self.assertEqual(self.client.get(address).status_code, 404)
        for address in [*self.addresses, *self.posts]:
            with self.subTest(f"POST {address}"):
                self.assertIn(self.client.post(address, {}).status_code, (404, 405))

    def test_nobody_sees_anything_without_logging_in(self):
        self.client.logout()
        for address in [*self.addresses, reverse("desk"), reverse("pieces")]:
            with self.subTest(address):
                response = self.client.get(address)
                self.assertRedirects(response, f"{reverse('login')}?next={address}")

    def test_lists_and_forms_hold_only_ones_own(self):
        self.client.force_login(make_teacher("bo"))
        for name in ("desk", "pieces", "students"):
            self.assertNotContains(self.client.get(reverse(name)), "Quay")
        mine = make_piece(make_teacher("cy"), title="Mine")
        self.client.force_login(mine.owner)
        form = {"students": Student.objects.get().pk, "target": 100, "start": 80, "rung": 5}
        response = self.client.post(reverse("give", args=[mine.pk]), {**form, "clean_bars": 32})
        self.assertEqual(response.status_code, 422)


class Doors(StudioTest):
    def test_pages_send_a_policy_without_inline_script_or_style(self):
        policy = self.client.get(reverse("desk"))["Content-Security-Policy"]
        self.assertIn("script-src 'self'", policy)
        self.assertIn("style-src 'self'", policy)
        self.assertNotIn("unsafe", policy)

    def test_a_form_without_its_token_is_refused(self):
        client = Client(enforce_csrf_checks=True)
        client.force_login(self.teacher)
        response = client.post(reverse("student-new"), {"name": "X"})
        self.assertContains(response, "This was refused", status_code=403)

    def test_five_wrong_passwords_lock_the_log_in(self):
        self.client.logout()
        form = {"username": "ada", "password": "wrong"}
        for _ in range(5):
            last = self.client.post(reverse("login"), form)
        self.assertContains(last, "Too many wrong passwords", status_code=429)
        right = {"username": "ada", "password": "a-long-password"}
        self.assertEqual(self.client.post(reverse("login"), right).status_code, 429)

    def test_logging_in_leads_to_the_desk(self):
        self.client.logout()
        right = {"username": "ada", "password": "a-long-password"}
        self.assertRedirects(self.client.post(reverse("login"), right), reverse("desk"))

    def test_an_address_that_is_not_there_says_so(self):
        response = self.client.get("/nowhere/")
        self.assertContains(response, "There is nothing here", status_code=404)


class Teachers(TestCase):
    """Log-ins made on the command line."""

    def test_a_teacher_is_made_once_and_given_a_new_password_later(self):
        set_password("ada", "a-long-password")
        set_password("ada", "another-long-one")
        self.assertTrue(User.objects.get().check_password("another-long-one"))

    def test_a_weak_password_or_an_odd_name_changes_nothing(self):
        for name, password in (
            ("ada", "short"),
            ("ada", "password"),
            ("a b", "a-long-password"),
        ):
            with self.subTest(name), self.assertRaises(ValidationError):
                set_password(name, password)
        self.assertFalse(User.objects.exists())
