"""What arrives at the same moment from several tabs, phones and presses: nothing is lost,
nothing is made twice, nobody sees an error of the server."""

from concurrent.futures import ThreadPoolExecutor
from threading import Barrier
from uuid import uuid4

from django.db import connections
from django.http import HttpResponse
from django.test import Client, TransactionTestCase
from django.urls import reverse

from tests.studio.base import (
    NOTHING_SET,
    QUAY,
    make_piece,
    make_plan,
    make_student,
    make_teacher,
)
from tests.studio.test_lessons import RULE
from tests.studio.test_students import USUAL
from tests.studio.test_two_tabs import NEW, Tab
from wren_ladder.studio.climb.models import Attempt, HomeMinutes
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.pieces.drafts import bars_of
from wren_ladder.studio.pieces.models import Draft, Import, Piece
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.students.models import Student

MANY = 6
TODAY = "2026-11-02"


class AtOnce(TransactionTestCase):
    def setUp(self):
        self.teacher = make_teacher()
        self.client.force_login(self.teacher)
        self.piece = make_piece(self.teacher)
        self.student = make_student(self.teacher)

    def by_many(self, do, many: int = MANY) -> list:
        """``do(client, number)`` from so many clients at the same moment; their answers."""
        barrier = Barrier(many)

        def one(number: int):
            client = Client(raise_request_exception=False)
            client.cookies = self.client.cookies
            try:
                barrier.wait(10)
                return do(client, number)
            finally:
                connections.close_all()

        with ThreadPoolExecutor(many) as pool:
            return list(pool.map(one, range(many)))

    def post_by_many(self, address: str, form: dict) -> list[HttpResponse]:
        return self.by_many(lambda client, number: client.post(address, form))

    def test_one_form_sent_by_many_presses_makes_one_thing(self):
        plan = make_plan(self.piece, make_student(self.teacher, "Kofi"))
        row = self.piece.bars.first().pk
        read = Import.objects.create(owner=self.teacher, name="q.wren", data=QUAY.encode())
        forms = (
            (Student, reverse("student-new"), {**USUAL, "name": "Bo", "grade": 4, "lead": "R"}),
            (Plan, reverse("give", args=[self.piece.pk]), self.given()),
            (HomeMinutes, reverse("minutes", args=[self.student.pk]),
             {"day": TODAY, "minutes": 20}),
            (Step, reverse("step-add", args=[plan.pk]),
             {"first": row, "last": row, "repeats": 4}),
            (Lesson, reverse("lesson-end", args=[self.student.pk]),
             {**NOTHING_SET, "note": "Fill first."}),
            (Attempt, reverse("attempt-log", args=[plan.steps.first().pk]),
             {"tempo": 90, "passes": 1, "clean_try": "yes", "day": TODAY}),
            (Piece, reverse("import-save", args=[read.pk]), {"title": "Mole"}),
        )  # fmt: skip
        for model, address, form in forms:
            with self.subTest(address):
                before = model.objects.count()
                answers = self.post_by_many(address, {**form, "form_key": str(uuid4())})
                self.assertEqual({answer.status_code for answer in answers}, {302})
                self.assertEqual(len({answer.url for answer in answers}), 1)
                made = model.objects.count() - before
                own = Plan.objects.filter(student=self.student)
                self.assertEqual(own.count() if model is Plan else made, 1)

    def given(self) -> dict:
        to = {"students": self.student.pk, "target": 120, "start": 90, "school": "bar"}
        return {**RULE, **to}

    def test_a_new_piece_saved_by_many_presses_is_one(self):
        tab = Tab(self, reverse("piece-new"), "text")
        form = {**tab.sent, "text": NEW, "title": "Mole"}
        answers = self.post_by_many(f"{tab.address}save/", form)
        self.assertEqual({answer.status_code for answer in answers}, {302})
        self.assertEqual(Piece.objects.filter(title="Mole").count(), 1)

    def test_a_piece_given_from_many_pages_is_given_once_and_the_others_are_told(self):
        address = reverse("give", args=[self.piece.pk])
        answers = self.by_many(
            lambda client, number: client.post(
                address, {**self.given(), "form_key": str(uuid4())}
            )
        )
        self.assertEqual(sorted(a.status_code for a in answers), [302] + [422] * (MANY - 1))
        self.assertEqual(Plan.objects.filter(student=self.student).count(), 1)

    def test_a_lesson_kept_from_many_pages_is_one(self):
        address = reverse("lesson-end", args=[self.student.pk])
        answers = self.by_many(
            lambda client, number: client.post(
                address, {**NOTHING_SET, "note": f"note {number}", "form_key": str(uuid4())}
            )
        )
        self.assertEqual({answer.status_code for answer in answers}, {302})
        self.assertEqual(Lesson.objects.count(), 1)

    def test_the_first_letter_typed_in_many_tabs_is_one_draft(self):
        address = reverse("piece-new")
        tabs = [Tab(self, address, "text") for _ in range(MANY)]

        def type_in(client, number):
            tabs[number].client = client
            return tabs[number].type(NEW)

        answers = self.by_many(type_in)
        self.assertLess(max(answer.status_code for answer in answers), 500)
        self.assertEqual(Draft.objects.count(), 1)

    def test_tries_logged_while_the_target_is_changed_are_all_kept_and_so_is_the_target(self):
        plan = make_plan(self.piece, self.student)
        steps = [step.pk for step in plan.steps.all()]
        page = reverse("plan-edit", args=[plan.pk])

        def work(client, number):
            if number == 0:
                form = {**RULE, "target": 111, "start": 90}
                return [client.post(page, form).status_code]
            address = reverse("attempt-log", args=[steps[number % len(steps)]])
            fields = {"passes": 8, "clean_try": "yes", "day": TODAY}
            return [
                client.post(address, {**fields, "tempo": 90 + number, "form_key": str(uuid4())})
                .status_code
                for _ in range(4)
            ]  # fmt: skip

        answers = [code for codes in self.by_many(work) for code in codes]
        self.assertEqual(set(answers), {302})
        self.assertEqual(Attempt.objects.count(), 4 * (MANY - 1))
        plan = Plan.objects.get(pk=plan.pk)
        self.assertEqual(plan.target, 111)
        held = [step.standing.held for step in plan.steps.filter(pk__in=steps[:2])]
        self.assertNotIn(None, held)

    def test_what_is_said_to_be_done_in_a_draft_is_in_it(self):
        """Each tab presses keys on a drum of its own; a press that was refused is told."""
        address = reverse("piece-edit", args=[self.piece.pk])
        tabs = [Tab(self, address) for _ in range(4)]
        drums = ("tom-high", "tom-mid", "tom-floor", "snare")

        def press(client, number):
            tab, done = tabs[number], []
            tab.client = client
            for at in ("1/4", "3/4", "5/4", "7/4"):
                hand = {"at": at, "drum": drums[number], "grid": "16ths"}
                answer = tab.press("drop", **hand)
                if "changed in another tab" not in answer.content.decode():
                    done.append((at, drums[number]))
            return done

        done = {key for keys in self.by_many(press, 4) for key in keys}
        self.assertTrue(done)
        there = {(str(h.at), h.drum.value) for h in bars_of(Draft.objects.get())[0].hits}
        self.assertLessEqual(done, there)
