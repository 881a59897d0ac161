"""Lesson mode, its entries, the lesson kept, the week."""

import io
import json
from datetime import date, time, timedelta
from uuid import uuid4

from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.urls import reverse
from django.utils import timezone
from pypdf import PdfReader

from tests.studio.base import (
    NOTHING_SET,
    StudioTest,
    log,
    make_piece,
    make_plan,
    make_student,
    set_lines,
)
from wren_ladder.studio.changes.plans import give
from wren_ladder.studio.climb.models import Attempt, Where
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student


class DayTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher, "Ines")
        self.plan = make_plan(make_piece(self.teacher), self.student)
        self.step = self.plan.steps.first()

    def address(self, name):
        return reverse(name, args=[self.student.pk])

    def entry(self, **fields):
        made = {"key": str(uuid4()), "step": self.step.pk, "tempo": 90, "passes": 8}
        return {**made, "note": "", "clean_try": "yes", "day": f"{date.today()}", **fields}

    def send(self, *entries):
        response = self.client.post(
            self.address("lesson-entries"), json.dumps(entries), "application/json"
        )
        return response.json()


class Entries(DayTest):
    def test_a_try_is_kept_and_what_is_next_is_told(self):
        told = self.send(self.entry())
        self.assertEqual(len(told["kept"]), 1)
        now = told["steps"][str(self.step.pk)]
        self.assertEqual((now["next"], now["held"], now["goOn"]), (95, 90, True))
        self.assertEqual(now["last"]["said"], "90 clean: rung 90 earned")
        self.assertEqual(now["enough"], "")  # said already
        self.assertEqual(Attempt.objects.get().where, "lesson")

    def test_what_is_sent_twice_is_kept_once(self):
        entry = self.entry()
        first, again = self.send(entry), self.send(entry)
        self.assertEqual(first["kept"], again["kept"])
        self.assertEqual(Attempt.objects.count(), 1)

    def test_several_that_waited_come_in_their_order(self):
        day = f"{date.today() - timedelta(days=2)}"
        told = self.send(self.entry(day=day), self.entry(tempo=95), self.entry(tempo=100))
        self.assertEqual(len(told["kept"]), 3)
        self.assertEqual(self.fresh(self.step).standing.held, 100)
        self.assertEqual(f"{Attempt.objects.first().day}", day)

    def test_a_try_is_taken_back_with_what_followed_from_it(self):
        entry = self.entry()
        self.send(entry)
        back = {"key": "another", "step": self.step.pk, "undo": entry["key"]}
        now = self.send(back)["steps"][str(self.step.pk)]
        self.assertEqual((now["held"], now["last"], now["goOn"]), (None, None, False))
        self.assertFalse(Attempt.objects.exists())
        self.send(back)  # twice is once
        plain = {"step": self.step.pk, "undo": "row-99999"}
        answer = self.client.post(self.address("lesson-entries"), plain)
        self.assertEqual(answer.status_code, 302)

    def test_what_was_tried_on_another_day_is_not_taken_back_here(self):
        entry = self.entry(day=str(date.today() - timedelta(days=1)))
        self.send(entry)
        self.send({"key": "another", "step": self.step.pk, "undo": entry["key"]})
        self.assertEqual(Attempt.objects.count(), 1)

    def test_a_plain_form_sent_twice_is_one_try(self):
        entry = {**self.entry(), "clean_try": "yes"}
        for _ in range(2):
            self.client.post(self.address("lesson-entries"), entry)
        self.assertEqual(Attempt.objects.count(), 1)

    def test_after_three_tries_it_is_time_to_go_on(self):
        tries = [self.entry(clean_try="no", passes=1) for _ in range(3)]
        told = self.send(*tries)["steps"][str(self.step.pk)]
        self.assertEqual(
            (told["goOn"], told["enough"]), (True, "3 tries are enough for one lesson")
        )

    def test_what_is_wrong_is_refused_with_its_reason_and_the_rest_is_kept(self):
        ago = date.today() - timedelta(days=40)
        for fields, said in (
            ({"tempo": "fast"}, "Tempo: Enter a whole number."),
            ({"tempo": 999}, "Tempo: Ensure this value is less than or equal to 400"),
            ({"clean_try": "perhaps"}, "Result: "),
            ({"step": 0}, "this step is not in the plan any more"),
            ({"day": f"{ago}"}, "its day is too long ago"),
            ({"day": "soon"}, "its day is too long ago"),
        ):
            with self.subTest(said):
                wrong, right = self.entry(**fields), self.entry()
                told = self.send(wrong, right)
                self.assertEqual(told["kept"], [right["key"]])
                self.assertEqual(told["refused"][0]["key"], wrong["key"])
                self.assertIn(said, told["refused"][0]["why"])

    def test_a_page_that_is_a_day_ahead_means_today(self):
        self.send(self.entry(day=f"{date.today() + timedelta(days=1)}"))
        self.assertEqual(Attempt.objects.get().day, date.today())

    def test_what_is_no_list_is_refused_whole(self):
        for body in ("{", '{"a": 1}', json.dumps([{}] * 201)):
            response = self.client.post(
                self.address("lesson-entries"), body, "application/json"
            )
            self.assertEqual(response.status_code, 400)

    def test_without_script_a_plain_form_does(self):
        response = self.client.post(self.address("lesson-entries"), self.entry())
        self.assertRedirects(response, f"{self.address('lesson-mode')}?at={self.step.pk}")
        self.assertEqual(Attempt.objects.count(), 1)
        response = self.client.post(
            self.address("lesson-entries"), self.entry(tempo=""), follow=True
        )
        self.assertContains(response, "Not logged. Tempo: This field is required.")

    def test_another_students_step_is_no_step_here(self):
        other = make_plan(self.plan.piece, make_student(self.teacher, "Kofi"))
        told = self.send(self.entry(step=other.steps.first().pk))
        self.assertEqual(told["kept"], [])


class LessonMode(DayTest):
    def test_it_opens_with_what_was_set_and_the_music_of_each_step(self):
        last = self.plan.steps.last()
        Lesson.objects.create(
            student=self.student,
            day=date.today() - timedelta(days=7),
            was_set=[{"step": last.pk, "name": last.name, "piece": "Quay", "tempo": 90}],
        )
        page = self.client.get(self.address("lesson-mode"))
        self.assertEqual(page.context["cards"][0].step, last)
        self.assertContains(page, "Was set last time")
        self.assertContains(page, "staff-svg", count=1)  # the others are asked for by the page
        for card in page.context["cards"]:
            address = reverse("lesson-music", args=[self.student.pk, card.step.pk])
            self.assertContains(self.client.get(address), "staff-svg")
        stranger = make_plan(make_piece(self.other_teacher()), None).steps.first()
        address = reverse("lesson-music", args=[self.student.pk, stranger.pk])
        self.assertEqual(self.client.get(address).status_code, 404)
        self.assertContains(page, 'class="lesson-card"', count=len(page.context["cards"]))

    def test_any_step_can_be_called_up(self):
        hidden = self.plan.steps.last()
        log(hidden, 120, days_ago=1)
        page = self.client.get(self.address("lesson-mode"))
        self.assertContains(page, f'href="?at={hidden.pk}"')
        page = self.client.get(self.address("lesson-mode"), {"at": hidden.pk})
        self.assertEqual(page.context["current"], hidden.pk)
        self.assertIn(hidden, [card.step for card in page.context["cards"]])
        other = make_plan(make_piece(self.other_teacher()), None).steps.first()
        page = self.client.get(self.address("lesson-mode"), {"at": other.pk})
        self.assertNotEqual(page.context["current"], other.pk)

    def test_what_is_near_a_step_is_one_press_away(self):
        bar, line = self.plan.steps.get(name="Bar 4"), self.plan.steps.get(name="Bars 3 to 4")
        page = self.client.get(self.address("lesson-mode"), {"at": bar.pk})
        cards = {card.step: card for card in page.context["cards"]}
        self.assertIn(("Into it", [line]), cards[bar].nearby)
        self.assertContains(page, f'<a href="?at={line.pk}">Bars 3 to 4</a>')
        self.assertEqual(cards[bar].rungs.split()[-1], "120")
        self.client.post(reverse("step-drop", args=[line.pk]))
        page = self.client.get(self.address("lesson-mode"), {"at": line.pk})
        cards = {card.step: card for card in page.context["cards"]}
        self.assertNotIn("Into it", dict(cards[bar].nearby))

    def test_the_number_of_queries_does_not_grow_with_the_steps(self):
        self.client.get(self.address("lesson-mode"))  # the study is remembered from now on
        found = []
        for minutes in (10, 60):
            Student.objects.update(lesson_minutes=minutes)
            with CaptureQueriesContext(connection) as asked:
                page = self.client.get(self.address("lesson-mode"))
            found.append((len(page.context["cards"]), len(asked)))
        (few, one), (many, other) = found
        self.assertGreater(many, few)
        self.assertEqual(one, other)

    def test_the_step_asked_for_is_open(self):
        step = self.plan.steps.last()
        page = self.client.get(self.address("lesson-mode"), {"at": step.pk})
        self.assertEqual(page.context["current"], step.pk)

    def test_any_bar_is_called_up_whether_the_plan_has_it_or_not(self):
        row = self.plan.piece.bars.get(position=1)  # equal to the first: no step of its own
        self.assertFalse(self.plan.steps.filter(first=row, last=row, kind="bar").exists())
        form = {"plan": self.plan.pk, "bar": 1}
        page = self.client.post(self.address("lesson-bar"), form, follow=True)
        step = self.plan.steps.get(pk=page.context["current"])
        self.assertEqual((step.first, step.last), (row, row))
        count = self.plan.steps.count()
        self.client.post(self.address("lesson-bar"), form)
        self.assertEqual(self.plan.steps.count(), count)  # it is there now
        there = self.plan.steps.get(name="Bar 4")
        self.client.post(reverse("step-drop", args=[there.pk]))
        self.client.post(self.address("lesson-bar"), {**form, "bar": 3})
        self.assertFalse(self.fresh(there).dropped)
        for wrong in ({"bar": 99}, {"bar": "x"}, {"plan": 999}):
            page = self.client.post(self.address("lesson-bar"), {**form, **wrong}, follow=True)
            self.assertContains(page, "This bar is not in the piece any more")

    def test_two_limbs_of_a_bar_by_one_press_and_they_are_logged(self):
        page = self.client.get(self.address("lesson-mode"))
        self.assertContains(page, "cymbal and kick")
        form = {"step": self.step.pk, "limbs": "cymbal-kick"}
        page = self.client.post(self.address("lesson-limbs"), form, follow=True)
        current = page.context["current"]
        card = next(one for one in page.context["cards"] if one.step.pk == current)
        self.assertEqual(card.step.name, "Bar 1, cymbal and kick")
        self.assertEqual(set(card.music.sound["drums"]), {"hat", "kick"})
        self.send(self.entry(step=card.step.pk))
        self.assertEqual(self.fresh(card.step).standing.held, 90)
        self.assertIsNone(self.fresh(self.step).standing.held)
        count = self.plan.steps.count()
        self.client.post(self.address("lesson-limbs"), form)
        self.assertEqual(self.plan.steps.count(), count)
        for wrong in ({"limbs": "feet"}, {"step": 999}):
            sent = {**form, **wrong}
            page = self.client.post(self.address("lesson-limbs"), sent, follow=True)
            self.assertContains(page, "no such pair of limbs")

    def test_the_desk_and_the_lesson_agree_on_what_comes_first(self):
        self.student.lesson_day = date.today().weekday()
        self.student.save()
        last = self.plan.steps.get(name="Bar 4")
        for was_set in ([], [last]):
            lines = [
                {"step": one.pk, "name": one.name, "piece": "Quay", "tempo": 90}
                for one in was_set
            ]
            Lesson.objects.all().delete()
            Lesson.objects.create(
                student=self.student, day=date.today() - timedelta(days=7), was_set=lines
            )
            first = self.client.get(self.address("lesson-mode")).context["cards"][0]
            (today,) = self.client.get(reverse("desk")).context["lessons"]
            self.assertEqual((today.hear.step, today.hear.why), (first.step, first.why))

    def test_what_was_set_is_heard_in_the_teachers_order_its_layers_too(self):
        bar, other = (self.plan.steps.get(name=name) for name in ("Bar 1", "Bar 4"))
        form = {"step": bar.pk, "limbs": "cymbal-kick"}
        self.client.post(self.address("lesson-limbs"), form)
        layer = self.plan.steps.get(part="cymbal-kick")
        lines = [{"step": one.pk, "tempo": 90} for one in (other, layer, bar)]
        Lesson.objects.create(
            student=self.student,
            day=date.today() - timedelta(days=7),
            was_set=[{**one, "name": "x", "piece": "Quay"} for one in lines],
        )
        cards = self.client.get(self.address("lesson-mode")).context["cards"]
        self.assertEqual([card.step for card in cards][:3], [other, layer, bar])

    def test_no_join_comes_before_its_bars(self):
        for log_first in (False, True):
            if log_first:
                log(self.step, 90)
            names = [
                card.step.name
                for card in self.client.get(self.address("lesson-mode")).context["cards"]
            ]
            self.assertLess(names.index("Bar 1"), names.index("Bars 3 to 4"))
            self.assertLess(names.index("Bar 4"), names.index("Bars 3 to 4"))

    def test_a_layer_comes_up_before_its_bar_until_that_goes(self):
        piece = make_piece(self.teacher, title="Mole")
        plan = Plan(owner=self.teacher, piece=piece, target=120, start=90, school="layer")
        plan = give(plan, self.student)
        cards = self.client.get(self.address("lesson-mode")).context["cards"]
        mole = [card.step.name for card in cards if card.plan == plan]
        first = next(name for name in mole if name.startswith("Bar 1"))
        self.assertEqual(first, "Bar 1, cymbal pulse")

    def test_without_a_piece_it_says_the_next_step(self):
        Plan.objects.all().delete()
        page = self.client.get(self.address("lesson-mode"))
        self.assertContains(page, "No piece yet")
        self.assertContains(page, self.address("lesson-end"))

    def test_a_first_lesson_without_a_piece_is_kept_with_homework_in_words(self):
        Plan.objects.all().delete()
        lines = set_lines({"name": "clap and count to four", "minutes": 5})
        self.client.post(self.address("lesson-end"), {**lines, "message": "Well begun!"})
        lesson = Lesson.objects.get()
        self.assertEqual([one["name"] for one in lesson.was_set], ["clap and count to four"])
        page = self.client.get(self.address("week"))
        self.assertContains(page, "clap and count to four")
        self.assertContains(page, "Well begun!")


class Ending(DayTest):
    def test_the_summary_says_what_was_done_and_keeps_what_is_set(self):
        log(self.step, 90, days_ago=3)
        log(self.step, 95)
        log(self.plan.steps.last(), 90, clean=False, passes=1)
        page = self.client.get(self.address("lesson-end"))
        self.assertContains(page, f"{self.step.name} of Quay: 95 earned, 1 try")
        self.assertContains(page, "no rung yet, 1 try")
        lines = set_lines({"step": self.step.pk, "tempo": 100, "minutes": 6})
        form = {**lines, "note": "Came early."}
        response = self.client.post(self.address("lesson-end"), form)
        lesson = Lesson.objects.get()
        self.assertRedirects(response, lesson.get_absolute_url())
        self.assertEqual(lesson.set_steps, [self.step.pk])
        self.assertIn("95 earned", lesson.did[0])
        page = self.client.get(lesson.get_absolute_url())
        self.assertContains(page, "Came early.")
        self.assertContains(page, self.address("week-sheet"))

    def test_what_was_played_at_home_that_day_is_no_part_of_the_lesson(self):
        log(self.step, 90)
        Attempt.objects.update(where=Where.HOME)
        self.client.post(self.address("lesson-end"), NOTHING_SET)
        self.assertEqual(Lesson.objects.get().did, [])

    def test_a_try_of_the_lesson_leads_to_its_step_and_is_corrected_from_there(self):
        log(self.step, 95)
        self.client.post(self.address("lesson-end"), NOTHING_SET)
        page = self.client.get(Lesson.objects.get().get_absolute_url())
        self.assertContains(page, f'href="{reverse("step", args=[self.step.pk])}"')
        attempt = Attempt.objects.get()
        self.assertContains(page, reverse("attempt-edit", args=[attempt.pk]))

    def test_the_next_lesson_is_the_usual_one_or_on_another_day_and_time(self):
        today = timezone.localdate()
        Student.objects.update(lesson_day=today.weekday(), lesson_time=time(17, 15))
        usual = today + timedelta(days=7)
        page = self.client.get(self.address("lesson-end"))
        self.assertContains(page, f"{usual:%A}, {usual.day} {usual:%B}, 17:15")
        same = {"again-day": f"{usual}", "again-time": "17:15"}
        self.client.post(self.address("lesson-end"), {**NOTHING_SET, **same})
        self.assertEqual(Lesson.objects.count(), 1)  # today's alone
        other = usual + timedelta(days=1)
        moved = {"again-day": f"{other}", "again-time": "16:00"}
        self.client.post(self.address("lesson-end"), {**NOTHING_SET, **moved})
        planned = Lesson.objects.get(day=other)
        self.assertEqual(
            (planned.state, planned.instead_of, planned.time), ("planned", usual, time(16))
        )
        late = {"again-day": f"{today}", "again-time": ""}
        page = self.client.post(self.address("lesson-end"), {**NOTHING_SET, **late})
        self.assertContains(page, "The next lesson comes after", status_code=422)

    def test_after_keeping_the_next_student_is_a_press_away(self):
        today = timezone.localdate()
        Student.objects.update(lesson_day=today.weekday(), lesson_time=time(15, 45))
        after = make_student(self.teacher, "Zoe", grade=1)
        after.lesson_day, after.lesson_time = today.weekday(), time(16, 30)
        after.save()
        page = self.client.post(self.address("lesson-end"), NOTHING_SET, follow=True)
        self.assertContains(page, "Next: <b>Zoe</b>")
        self.assertContains(page, reverse("lesson-mode", args=[after.pk]))

    def test_a_second_end_on_the_same_day_goes_on_with_the_first(self):
        for note in ("First.", "Second."):
            self.client.post(self.address("lesson-end"), {**NOTHING_SET, "note": note})
        self.assertEqual([lesson.note for lesson in Lesson.objects.all()], ["Second."])

    def test_a_rung_that_was_lost_is_told(self):
        log(self.step, 95, days_ago=3)
        for _ in range(2):
            log(self.step, 95, clean=False, passes=1)
        page = self.client.get(self.address("lesson-end"))
        self.assertContains(page, "95 lost, 90 held, 2 tries")

    def test_a_wrong_line_is_told_and_everything_typed_is_kept(self):
        lines = set_lines(
            {"step": self.step.pk, "tempo": 900}, {"name": "listen", "minutes": "some"}
        )
        form = {**lines, "note": "Came early.", "message": "Well done."}
        response = self.client.post(self.address("lesson-end"), form)
        for kept in ("Came early.", "Well done.", 'value="listen"', 'value="900"'):
            self.assertContains(response, kept, status_code=422)
        self.assertContains(response, "less than or equal to 400", status_code=422)
        self.assertFalse(Lesson.objects.exists())

    def test_a_step_that_was_not_offered_is_not_set(self):
        other = make_plan(self.plan.piece, make_student(self.teacher, "Kofi"))
        lines = set_lines(
            {"step": other.steps.first().pk, "tempo": 90}, {"step": self.step.pk, "tempo": 90}
        )
        self.client.post(self.address("lesson-end"), lines)
        self.assertEqual(Lesson.objects.get().set_steps, [self.step.pk])

    def test_the_record_is_deleted_after_asking_the_tries_stay(self):
        log(self.step, 90)
        self.client.post(self.address("lesson-end"), NOTHING_SET)
        address = reverse("lesson-delete", args=[Lesson.objects.get().pk])
        self.assertContains(self.client.get(address), "the tries stay")
        self.client.post(address)
        self.assertFalse(Lesson.objects.exists())
        self.assertEqual(Attempt.objects.count(), 1)


class Week(DayTest):
    def test_it_shows_seven_days_with_their_minutes_and_the_ears(self):
        page = self.client.get(self.address("week"))
        self.assertContains(page, "<b>15 min</b></p>", count=5)
        self.assertContains(page, "rest", count=page.content.decode().count("rest"))
        self.assertContains(page, "100 dBA, unprotected: 15 minutes a day")
        self.assertContains(page, "slowest step: not begun")

    def test_raised_minutes_keep_the_tempos_for_a_week(self):
        for step in self.plan.steps.all():
            log(step, 90)
        self.assertContains(self.client.get(self.address("week")), "at 95")
        address = reverse("student-edit", args=[self.student.pk])
        form = {**self.opened(address, "home_minutes"), "home_minutes": 20}
        self.client.post(address, form)
        page = self.client.get(self.address("week"))
        self.assertContains(page, "more minutes this week, so the tempo stays")
        self.assertNotContains(page, "at 95")
        Student.objects.update(raised=date.today() - timedelta(days=7))
        self.assertContains(self.client.get(self.address("week")), "at 95")

    def test_it_prints_with_the_students_code_once_there_is_a_link(self):
        def drawings():
            response = self.client.get(self.address("week-sheet"))
            self.assertEqual(response["content-type"], "application/pdf")
            return PdfReader(io.BytesIO(response.content)).pages[0].extract_text()

        self.assertIn("The week of Ines", drawings())
        self.assertNotIn("Your own page", drawings())
        self.client.post(self.address("link-open"))
        self.assertIn("Your own page", drawings())


class Others(DayTest):
    def test_another_teachers_lessons_are_not_there(self):
        self.client.post(self.address("lesson-end"), NOTHING_SET)
        lesson = Lesson.objects.get()
        self.client.force_login(self.other_teacher())
        for address in (
            self.address("lesson-mode"),
            self.address("lesson-end"),
            self.address("week"),
            self.address("week-sheet"),
            self.address("student-compare"),
            self.address("report"),
            self.address("link-follow"),
            lesson.get_absolute_url(),
            reverse("lesson-delete", args=[lesson.pk]),
        ):
            with self.subTest(address):
                self.assertEqual(self.client.get(address).status_code, 404)
        for name in ("lesson-entries", "link-open", "link-revoke"):
            with self.subTest(name):
                self.assertEqual(self.client.post(self.address(name)).status_code, 404)
