"""What is sent is done once and truly: the same twice is one, something else is something else,
what was taken back stays away, what has a wrong shape is refused by itself."""

import json
from datetime import date, timedelta
from uuid import uuid4

from django.urls import reverse
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase as PropertyTest

from tests.studio.base import StudioTest, make_piece, make_plan, make_student, make_teacher
from tests.studio.test_lessons import RULE
from tests.studio.test_students import USUAL
from wren_ladder.studio.climb.models import Attempt, HomeMinutes, Take
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.links import open_link, path_of
from wren_ladder.studio.students.models import Student

TODAY = date.today()


class OtherContentUnderAUsedKey(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher)
        self.student = make_student(self.teacher)

    def test_back_and_another_name_makes_a_second_student(self):
        form = {**USUAL, "grade": 4, "lead": "R", "form_key": str(uuid4())}
        for name in ("Bo", "Bo", "Mina"):
            answer = self.client.post(reverse("student-new"), {**form, "name": name})
            student = Student.objects.get(name=name)
            self.assertRedirects(answer, student.get_absolute_url())
        self.assertEqual(Student.objects.count(), 3)

    def test_giving_to_another_and_other_minutes_are_done(self):
        other = make_student(self.teacher, "Kofi")
        form = {**RULE, "target": 120, "school": "bar", "form_key": str(uuid4())}
        for one in (self.student, self.student, other):
            sent = {**form, "students": one.pk}
            self.client.post(reverse("give", args=[self.piece.pk]), sent)
        self.assertEqual(Plan.objects.exclude(student=None).count(), 2)
        form = {"day": "2026-11-02", "form_key": str(uuid4())}
        for minutes in (20, 20, 25):
            sent = {**form, "minutes": minutes}
            self.client.post(reverse("minutes", args=[self.student.pk]), sent)
        self.assertEqual(
            sorted(HomeMinutes.objects.values_list("minutes", flat=True)), [20, 25]
        )

    def test_another_try_on_the_ladder_is_another_try(self):
        step = make_plan(self.piece, self.student).steps.first()
        form = {"passes": 1, "clean_try": "yes", "day": "2026-11-02", "form_key": str(uuid4())}
        for tempo in (90, 90, 95):
            for headers in ({"HX-Request": "true"}, {}):
                self.client.post(
                    reverse("attempt-log", args=[step.pk]),
                    {**form, "tempo": tempo},
                    headers=headers,
                )
        self.assertEqual(list(Attempt.objects.values_list("tempo", flat=True)), [90, 95])


class EntriesTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher)
        self.step = make_plan(make_piece(self.teacher), self.student).steps.first()
        open_link(self.student)
        self.lesson = reverse("lesson-entries", args=[self.student.pk])
        self.phone = reverse("link-entries", args=[path_of(self.student).split("/")[2]])

    def a_try(self, **fields) -> dict:
        usual = {"key": str(uuid4()), "step": str(self.step.pk), "tempo": "90", "passes": "1"}
        return {**usual, "note": "", "clean_try": "yes", "day": str(TODAY), **fields}

    def send(self, *entries, address: str = "") -> dict:
        answer = self.client.post(
            address or self.lesson, json.dumps(entries), content_type="application/json"
        )
        self.assertEqual(answer.status_code, 200, answer.content[:300])
        return answer.json()


class TakenBack(EntriesTest):
    def test_a_try_taken_back_does_not_return_when_it_is_sent_again(self):
        for address in (self.lesson, self.phone):
            with self.subTest(address):
                one = self.a_try()
                self.send(one, address=address)
                undo = {"key": str(uuid4()), "step": one["step"], "undo": one["key"]}
                self.send(undo, address=address)
                told = self.send(one, address=address)  # the answer to the first was lost
                self.assertEqual(told["kept"], [one["key"]])
                self.assertFalse(Attempt.objects.exists())

    def test_an_undo_that_arrives_before_its_try_holds(self):
        one = self.a_try()
        self.send({"key": str(uuid4()), "step": one["step"], "undo": one["key"]})
        self.assertEqual(self.send(one)["kept"], [one["key"]])
        self.assertFalse(Attempt.objects.exists())

    def test_a_try_deleted_by_the_teacher_does_not_return_and_can_be_put_back(self):
        one = self.a_try()
        self.send(one, address=self.phone)
        attempt = Attempt.objects.get()
        self.client.post(reverse("attempt-delete", args=[attempt.pk]))
        self.send(one, address=self.phone)
        self.assertFalse(Attempt.objects.exists())
        self.client.post(reverse("bin-back", args=[self.teacher.binned.get().pk]))
        self.assertEqual(Attempt.objects.get().key, attempt.key)

    def test_what_is_of_another_day_is_not_taken_back_by_its_key(self):
        one = self.a_try(day=str(TODAY - timedelta(days=1)))
        self.send(one)
        self.send({"key": str(uuid4()), "step": one["step"], "undo": one["key"]})
        self.assertEqual(Attempt.objects.count(), 1)


class WrongShapes(EntriesTest):
    def test_it_is_refused_by_itself_and_the_rest_of_the_queue_goes_on(self):
        good, more = self.a_try(), self.a_try(tempo="95")
        wrong = [
            self.a_try(take=[1]), self.a_try(tempo={"bpm": 90}), self.a_try(day=["x"]),
            self.a_try(step={}), self.a_try(note="n" * 2000), ["no entry"], 7, None,
        ]  # fmt: skip
        told = self.send(good, *wrong, more)
        self.assertEqual(told["kept"], [good["key"], more["key"]])
        self.assertEqual(len(told["refused"]), len(wrong))
        keys = {one["key"] for one in told["refused"]}
        self.assertLessEqual({one["key"] for one in wrong if isinstance(one, dict)}, keys)
        self.assertTrue(all(one["why"] for one in told["refused"]))
        self.assertEqual(list(Attempt.objects.values_list("tempo", flat=True)), [90, 95])


ANYTHING = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats(allow_nan=False) | st.text(),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(), inner, max_size=3),
    max_leaves=5,
)
FIELDS = ("key", "step", "tempo", "passes", "note", "clean_try", "day", "take", "undo")


class AnyShape(PropertyTest):
    def setup_example(self):
        super().setup_example()
        teacher = make_teacher()
        self.client.force_login(teacher)
        student = make_student(teacher)
        self.step = make_plan(make_piece(teacher), student).steps.first()
        self.address = reverse("lesson-entries", args=[student.pk])

    @settings(max_examples=40, deadline=None)
    @given(
        st.fixed_dictionaries({}, optional=dict.fromkeys(FIELDS, ANYTHING)),
        st.sampled_from(FIELDS),
        ANYTHING,
    )
    def test_nothing_that_is_sent_is_a_fault_of_the_studio(self, anything, field, value):
        nearly = {
            "key": str(uuid4()), "step": str(self.step.pk), "tempo": "90", "passes": "1",
            "note": "", "clean_try": "yes", "day": str(TODAY), field: value,
        }  # fmt: skip
        answer = self.client.post(
            self.address, json.dumps([anything, nearly]), content_type="application/json"
        )
        self.assertEqual(answer.status_code, 200)
        told = answer.json()
        self.assertEqual(len(told["kept"]) + len(told["refused"]), 2)


class TakesFromHome(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher, records_at_home=True)
        self.step = make_plan(make_piece(self.teacher), self.student).steps.first()
        open_link(self.student)
        self.signed = path_of(self.student).split("/")[2]

    def record(self, **fields):
        usual = {"way": "keys", "tempo": 90, "passes": 1, "step": self.step.pk}
        usual |= {"strokes": json.dumps([[3000, "snare", None]])}
        return self.client.post(
            reverse("link-take-record", args=[self.signed]), {**usual, **fields}
        )

    def test_sent_twice_it_is_one_on_the_day_it_was_played(self):
        played = TODAY - timedelta(days=2)
        sent = {"key": str(uuid4()), "day": str(played)}
        answers = [self.record(**sent) for _ in range(2)]
        take = Take.objects.get()
        self.assertEqual(take.day, played)
        here = reverse("link-take", args=[self.signed, take.pk])
        self.assertEqual([answer.url for answer in answers], [here, here])
        self.record(key=str(uuid4()))
        self.assertEqual(Take.objects.count(), 2)

    def test_a_day_that_cannot_be_is_told(self):
        for day in (TODAY - timedelta(days=60), TODAY + timedelta(days=9)):
            self.record(key=str(uuid4()), day=str(day))
        self.assertFalse(Take.objects.exists())

    def test_the_teachers_own_is_kept_once_too(self):
        sent = {"way": "keys", "tempo": 90, "passes": 1, "key": str(uuid4())}
        sent |= {"strokes": json.dumps([[3000, "snare", None]])}
        address = reverse("take-record", args=[self.step.pk])
        self.assertEqual(*(self.client.post(address, sent).url for _ in range(2)))
        self.assertEqual(Take.objects.count(), 1)


class HeadersOfWhatIsSomebodys(StudioTest):
    def test_pages_behind_a_log_in_or_a_link_are_kept_nowhere(self):
        student = make_student(self.teacher)
        open_link(student)
        for address in ("/", student.get_absolute_url(), path_of(student)):
            kept = self.client.get(address)["Cache-Control"]
            self.assertIn("no-store", kept, address)
        self.client.logout()
        self.assertIn("no-store", self.client.get(path_of(student))["Cache-Control"])
        self.assertNotIn("no-store", self.client.get(reverse("privacy"))["Cache-Control"])

    def test_the_log_out_takes_away_what_the_browser_keeps_but_what_waits_there(self):
        answer = self.client.post(reverse("logout"))
        self.assertEqual(answer["Clear-Site-Data"], '"cache"')
