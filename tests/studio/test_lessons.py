"""Plans: given, edited step by step, printed."""

import io

from django.template.loader import render_to_string
from django.urls import reverse
from django.utils import timezone
from pypdf import PdfReader

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.studio.pages.plans.sheet import sheet_context, week_of
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.plans.rules import agreed_pace
from wren_ladder.studio.students.models import Student

RULE = {
    "ladder": "step",
    "gate_kind": "row",
    "gate_clean": 3,
    "gate_tries": 4,
    "gate_days": 2,
    "gate_failures": 2,
    "gate_drop": 1,
    "tolerance": 0,
    "for_exam": "on",
    "rung": 5,
    "clean_bars": 32,
}


def names(plan):
    return [step.name for step in plan.steps.filter(dropped=False)]


class Giving(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher)
        self.student = make_student(self.teacher)
        self.address = reverse("give", args=[self.piece.pk])

    def give(self, **fields):
        form = {"students": [self.student.pk], "target": 120, "start": 90}
        return self.client.post(self.address, {**form, **RULE, "school": "bar", **fields})

    def test_the_printed_tempo_is_proposed(self):
        response = self.client.get(self.address)
        self.assertContains(response, 'name="target" value="120"')
        self.assertContains(response, "By steps of 5 from 90")

    def test_a_student_gets_steps_of_their_own(self):
        response = self.give(target=110)
        plan = Plan.objects.get(student=self.student)
        self.assertRedirects(response, plan.get_absolute_url())
        self.assertEqual(plan.target, 110)
        self.assertEqual(names(plan), ["Bar 1", "Bar 4", "Bars 3 to 4", "Whole piece"])

    def test_the_school_is_the_teachers_choice(self):
        Student.objects.update(home_days=3)
        self.give(school="phrase")
        plan = Plan.objects.get(student=self.student)
        self.assertEqual(names(plan), ["Bar 1", "Bars 1–4, A Verse", "Whole piece"])
        self.assertEqual((plan.school, agreed_pace(plan).minutes), ("phrase", 75))

    def test_a_start_above_the_target_is_refused_with_both_numbers(self):
        response = self.give(start=130)
        self.assertContains(response, "The start 130 is above the target 120", status_code=422)
        self.assertFalse(Plan.objects.filter(student=self.student).exists())

    def test_many_get_it_at_once_each_with_their_own_target_and_start(self):
        bo = make_student(self.teacher, "Bo", grade=1)
        cy = make_student(self.teacher, "Cy", grade=6)
        own = {
            f"target_{bo.pk}": "50%",
            f"start_{cy.pk}": 100,
            "start": "",
            "due": "2031-05-01",
        }
        students = [self.student.pk, bo.pk, cy.pk]
        response = self.give(students=students, target="90 %", **own)
        self.assertRedirects(response, self.piece.get_absolute_url())
        plans = {plan.student.name: plan for plan in Plan.objects.exclude(student=None)}
        found = {name: (plan.target, plan.start) for name, plan in plans.items()}
        self.assertEqual(found, {"Ines": (108, 70), "Bo": (60, 45), "Cy": (108, 100)})
        self.assertEqual({f"{plan.by_when}" for plan in plans.values()}, {"2031-05-01"})

    def test_a_wrong_target_is_told_with_what_would_be_right(self):
        for target in ("fast", "900", "80 per cent", "5 %", "%"):
            with self.subTest(target):
                response = self.give(target=target)
                self.assertContains(response, "is no target; write a tempo", status_code=422)
        response = self.give(**{f"target_{self.student.pk}": "x"})
        self.assertContains(response, "is no target", status_code=422)
        response = self.give(**{f"start_{self.student.pk}": 130})
        self.assertContains(response, "The start 130 is above the target 120", status_code=422)
        self.assertContains(self.give(students=[]), "Choose a student", status_code=422)
        self.assertFalse(Plan.objects.exclude(student=None).exists())

    def test_a_student_added_on_the_way_comes_back_chosen(self):
        address = f"{reverse('student-new')}?give={self.piece.pk}"
        sent = {**self.opened(address, "grade"), "name": "Bo"}
        page = self.client.post(address, sent, follow=True)
        self.assertContains(page, "Give Quay")
        self.assertEqual(page.context["asked"].name, "Bo")
        self.assertEqual(self.client.get(f"{reverse('student-new')}?give=999").status_code, 200)

    def test_a_piece_is_given_once(self):
        self.give()
        response = self.give()
        self.assertEqual(response.status_code, 422)
        self.assertEqual(Plan.objects.filter(student=self.student).count(), 1)

    def test_steps_left_out_of_the_model_are_not_given(self):
        self.client.post(reverse("break-down", args=[self.piece.pk]))
        step = self.piece.plans.get(student=None).steps.get(name="Bar 4")
        self.client.post(reverse("step-drop", args=[step.pk]))
        self.give()
        self.assertNotIn("Bar 4", names(Plan.objects.get(student=self.student)))


class Steps(StudioTest):
    def setUp(self):
        super().setUp()
        self.plan = make_plan(make_piece(self.teacher), make_student(self.teacher))
        self.steps = {step.name: step for step in self.plan.steps.all()}

    def post(self, address, step, **fields):
        return self.client.post(reverse(address, args=[self.steps[step].pk]), fields)

    def test_steps_move_up_and_down_and_stop_at_the_ends(self):
        self.post("step-up", "Bar 4")
        self.assertEqual(names(self.plan)[:2], ["Bar 4", "Bar 1"])
        self.post("step-up", "Bar 4")
        self.assertEqual(names(self.plan)[0], "Bar 4")
        self.post("step-down", "Whole piece")
        self.assertEqual(names(self.plan)[-1], "Whole piece")

    def test_htmx_gets_the_tree_alone_and_others_the_page(self):
        step = self.steps["Bar 1"]
        address = reverse("step-down", args=[step.pk])
        response = self.client.post(address, headers={"HX-Request": "true"})
        self.assertContains(response, "Bar 1 moved down")
        self.assertNotContains(response, "<html")
        page = f"{reverse('plan-steps', args=[self.plan.pk])}?step={step.pk}"
        self.assertRedirects(self.client.post(address), page)

    def test_a_step_left_out_keeps_its_log_and_comes_back(self):
        log(self.steps["Bar 4"], 90)
        self.post("step-drop", "Bar 4")
        self.assertNotIn("Bar 4", names(self.plan))
        self.post("step-restore", "Bar 4")
        self.assertEqual(names(self.plan)[1], "Bar 4")
        self.assertEqual(self.fresh(self.steps["Bar 4"]).standing.held, 90)

    def test_a_step_that_is_left_out_no_longer_holds_the_piece_back(self):
        for name, tempo in (("Bar 1", 110), ("Bars 3 to 4", 105), ("Bar 4", 105)):
            log(self.steps[name], tempo, passes=8)
        log(self.steps["Whole piece"], 90)
        self.assertEqual(self.fresh(self.plan).standing.ready, 90)
        self.post("step-drop", "Whole piece")
        self.assertEqual(self.fresh(self.plan).standing.ready, 105)

    def test_a_step_is_edited_and_a_wrong_start_refused(self):
        fields = {"name": "The fill", "repeats": 6, "start": 70, "why": "rushes"}
        self.post("step-edit", "Bar 4", **fields)
        step = self.fresh(self.steps["Bar 4"])
        self.assertEqual(
            (step.name, step.repeats, step.standing.next_tempo), ("The fill", 6, 70)
        )
        response = self.post("step-edit", "Bar 4", **{**fields, "start": 140})
        self.assertContains(response, "The start 140 is above the target 120", status_code=422)

    def add(self, first, last, repeats=4):
        rows = {row.number: row.pk for row in self.plan.piece.bars.all()}
        address = reverse("step-add", args=[self.plan.pk])
        form = {"first": rows[first], "last": rows[last], "repeats": repeats}
        return self.client.post(address, form)

    def test_a_step_of_ones_own_is_added_at_the_end(self):
        self.add("2", "3")
        self.assertEqual(names(self.plan)[-1], "Bars 2–3")

    def test_a_step_that_runs_backwards_is_refused_in_words(self):
        response = self.add("4", "2")
        self.assertContains(response, "Bar 2 comes before bar 4; swap the two", status_code=422)
        self.assertEqual(len(names(self.plan)), 4)

    def test_bars_of_another_piece_cannot_be_taken(self):
        other = make_piece(self.teacher, title="Other")
        row = other.bars.first().pk
        form = {"first": row, "last": row, "repeats": 4}
        response = self.client.post(reverse("step-add", args=[self.plan.pk]), form)
        self.assertEqual(response.status_code, 422)


class Climbs(StudioTest):
    def setUp(self):
        super().setUp()
        self.plan = make_plan(make_piece(self.teacher), make_student(self.teacher))
        self.step = self.plan.steps.first()
        log(self.step, 90)

    def test_a_new_target_works_the_ladder_out_anew(self):
        form = {**RULE, "target": 100, "start": 80, "rung": 10}
        self.client.post(reverse("plan-edit", args=[self.plan.pk]), form)
        self.assertEqual(self.fresh(self.step).standing.next_tempo, 100)

    def test_a_ladder_by_marks_and_by_a_list_of_ones_own(self):
        address = reverse("plan-edit", args=[self.plan.pk])
        form = {**RULE, "target": 120, "start": 90, "ladder": "marks"}
        self.client.post(address, form)
        self.assertEqual(self.fresh(self.step).standing.next_tempo, 92)
        form |= {"ladder": "own", "own_rungs": "100, 112"}
        self.client.post(address, form)
        self.assertEqual(self.fresh(self.plan).rungs_from(90), (90, 100, 112, 120))
        self.assertEqual(self.fresh(self.step).standing.next_tempo, 100)

    def test_a_list_with_a_word_in_it_or_none_is_refused(self):
        address = reverse("plan-edit", args=[self.plan.pk])
        form = {**RULE, "target": 120, "start": 90, "ladder": "own"}
        response = self.client.post(address, {**form, "own_rungs": "100 quick"})
        self.assertContains(response, "&#x27;quick&#x27; is no tempo", status_code=422)
        self.assertContains(response, "100 quick", status_code=422)
        response = self.client.post(address, form)
        self.assertContains(response, "Write the tempos of your list", status_code=422)

    def test_another_gate_works_the_log_out_anew(self):
        address = reverse("plan-edit", args=[self.plan.pk])
        form = {**RULE, "target": 120, "start": 90, "gate_kind": "days"}
        self.client.post(address, form)
        step = self.fresh(self.step)
        self.assertIsNone(step.standing.held)  # clean on one day only
        self.assertIn("once more on another day", step.standing.reason)
        page = self.client.get(f"{self.plan.get_absolute_url()}?step={step.pk}")
        self.assertContains(page, "8 clean times through in a row, on 2 different days")

    def test_a_gate_that_can_never_be_filled_is_refused(self):
        address = reverse("plan-edit", args=[self.plan.pk])
        form = {**RULE, "target": 120, "start": 90, "gate_clean": 5}
        response = self.client.post(address, form)
        said = "5 clean out of 4 tries can never be"
        self.assertContains(response, said, status_code=422)

    def test_the_start_is_found_by_trial(self):
        address = reverse("plan-trial", args=[self.plan.pk])
        self.assertContains(self.client.get(address), "crotchet = 60")
        response = self.client.get(address, {"tries": "60c 90n 75c 82c 86n nonsense"})
        self.assertContains(response, "Start at 82")
        self.client.post(address, {"start": "82"})
        self.assertEqual(self.fresh(self.plan).start, 82)
        self.client.post(address, {"start": "999"})
        self.assertEqual(self.fresh(self.plan).start, 82)

    def test_a_plan_is_deleted_after_asking_and_the_piece_stays(self):
        address = reverse("plan-delete", args=[self.plan.pk])
        self.assertContains(self.client.get(address), "4 steps and every try")
        response = self.client.post(address)
        self.assertRedirects(response, self.plan.student.get_absolute_url())
        self.assertTrue(type(self.plan.piece).objects.filter(pk=self.plan.piece_id).exists())


class Sheets(StudioTest):
    def setUp(self):
        super().setUp()
        self.plan = make_plan(make_piece(self.teacher), make_student(self.teacher, lead="L"))

    def test_the_sheet_is_one_pdf_page(self):
        response = self.client.get(reverse("plan-sheet", args=[self.plan.pk]))
        self.assertEqual(response["Content-Type"], "application/pdf")
        self.assertEqual(len(PdfReader(io.BytesIO(response.content)).pages), 1)

    def test_it_takes_this_weeks_steps_in_plan_order(self):
        steps = {step.name: step for step in self.plan.steps.all()}
        log(steps["Bar 1"], 120)
        today = timezone.localdate()
        chosen = [step.name for step, _ in week_of(self.plan, today)]
        self.assertEqual(chosen, ["Bar 4", "Bars 3 to 4", "Whole piece"])
        asked = sheet_context(self.plan, {steps["Bar 1"].pk}, today)["steps"]
        self.assertEqual([step.name for step in asked], ["Bar 1"])

    def test_a_week_holds_no_more_than_its_minutes(self):
        student = self.plan.student
        student.lesson_minutes, student.home_days = 5, 0
        week = week_of(self.plan, timezone.localdate())
        self.assertLess(len(week), 4)
        self.assertLessEqual(sum(minutes for _, minutes in week), 5 + 1e-6)

    def html(self):
        context = sheet_context(self.plan, set(), timezone.localdate())
        return render_to_string("plans/sheet.html", {**context, "paper": "A4"})

    def test_the_html_of_the_sheet_has_boxes_and_a_caution(self):
        html = " ".join(self.html().split())
        self.assertIn("8 clean times through in a row earn a tempo", html)
        self.assertIn('<span class="box"></span> 95', html)
        self.assertIn("min a day", html)
        self.assertIn("see a clinician", html)

    def test_many_steps_go_over_to_another_page_and_none_is_split(self):
        text = "tempo crotchet = 120\n" + "\n".join(
            f"bar {n}\nsnare flam 1 2 3, drag 4\nkick {1 + n % 4}&" for n in range(1, 9)
        )
        plan = make_plan(
            make_piece(self.teacher, text, "Long"), make_student(self.teacher, "Bo")
        )
        asked = "&".join(f"step={step.pk}" for step in plan.steps.all())
        pdf = self.client.get(f"{reverse('plan-sheet', args=[plan.pk])}?{asked}").content
        pages = [page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages]
        self.assertGreater(len(pages), 1)
        for page in pages:  # every heading stands on the page of its tempos
            self.assertEqual(page.count("earn a tempo"), page.count("Loop it"))

    def test_the_wall_chart_shows_every_bar_on_the_paper_asked_for(self):
        address = reverse("wall-chart", args=[self.plan.pk])
        page = PdfReader(io.BytesIO(self.client.get(f"{address}?paper=Letter").content)).pages[
            0
        ]
        self.assertEqual([round(side) for side in page.mediabox[2:]], [792, 612])
        text = page.extract_text()
        self.assertIn("is 1 again", text)
        self.assertIn("for Ines", text)
