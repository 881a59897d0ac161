"""What is said of a try goes every way there is, whichever field it is: a new one is named in
``Attempt.SAID`` and has a migration, no more."""

import json
from uuid import uuid4

from django.urls import reverse
from django.utils import timezone

from tests.studio.base import StudioTest, make_piece, make_plan, make_student
from wren_ladder.studio.climb.forms import AttemptForm
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.exchange.studio_file import read_studio_file, restore, studio_lines
from wren_ladder.studio.exchange.tables import attempt_lines, read_attempts
from wren_ladder.studio.privacy.student_file import student_file

SAID = {"tempo": 93, "passes": 7, "note": "low sticks, =even", "clean_try": "yes"}


class EveryWay(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher)
        self.step = make_plan(make_piece(self.teacher), self.student).steps.first()
        entry = {"key": str(uuid4()), "step": self.step.pk, **self.typed()}
        self.client.post(
            reverse("lesson-entries", args=[self.student.pk]),
            json.dumps([entry]),
            content_type="application/json",
        )

    def typed(self) -> dict[str, object]:
        """A word for each field of the form, "a word" where this test knows no better."""
        names = [name for name in AttemptForm.base_fields if name != "day"]
        return {name: SAID.get(name, "a word") for name in names}

    def said(self, attempt: Attempt) -> tuple:
        return tuple(getattr(attempt, name) for name in Attempt.SAID)

    def test_from_the_page_into_the_log(self):
        attempt, typed = Attempt.objects.get(), self.typed()
        self.assertEqual(attempt.was_clean, typed.pop("clean_try") == "yes")
        self.assertEqual((attempt.day, attempt.where), (timezone.localdate(), "lesson"))
        self.assertEqual({name: getattr(attempt, name) for name in typed}, typed)

    def test_into_a_table_and_back(self):
        before = Attempt.objects.get()
        table = "".join(attempt_lines(Attempt.objects.all()))
        self.assertEqual(read_attempts(table, self.teacher).same, 1)
        before.delete()
        (again,) = read_attempts(table, self.teacher).new
        self.assertEqual(self.said(again), self.said(before))

    def test_into_a_studio_file_and_back(self):
        before = self.said(Attempt.objects.get())
        lines = "".join(studio_lines(self.teacher)).encode()
        restore(read_studio_file(lines), self.teacher)
        self.assertEqual(self.said(Attempt.objects.get()), before)

    def test_into_the_students_own_file_by_name(self):
        page = student_file(self.student)
        for name in Attempt.SAID:
            self.assertIn(f"<th>{Attempt._meta.get_field(name).verbose_name}</th>", page)
        for value in (*self.typed().values(), "in the lesson"):
            self.assertIn(f"<td>{value}</td>", page)

    def test_it_can_be_said_wherever_a_try_is_logged(self):
        names = [field.name for field in AttemptForm().beside_the_keys()]
        for address in (
            self.step.plan.get_absolute_url(),
            reverse("lesson-mode", args=[self.student.pk]),
            reverse("attempt-edit", args=[Attempt.objects.get().pk]),
        ):
            page = self.client.get(address).content.decode()
            for name in names:
                if name != "day":
                    self.assertIn(f'name="{name}"', page, address)
