"""The breakdown page: shaded wall, tree, revision, ranks, two schools side by side."""

import io
from datetime import date

from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.urls import reverse
from pypdf import PdfReader

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.style import School
from wren_ladder.studio.changes.pieces import save_piece
from wren_ladder.studio.changes.plans import model_plan, revise
from wren_ladder.studio.plans.models import OwnRank, Revision, Step
from wren_ladder.studio.plans.players import player_for

PIECE = """tempo crotchet = 120
bar 1
section A Verse
hat 8ths
snare 2 4
kick 1 3
bars 2-3 as 1
bar 4 as 1
hat 8ths, open 2& 4&
bars 5-8 as 1-4
bar 9
section B End
snare flam 1, drag 2, ruff 3, ghost 3a, flam 4
"""


class BreakdownTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher, PIECE)
        self.plan = make_plan(self.piece, make_student(self.teacher, grade=2))
        self.page = reverse("plan-steps", args=[self.plan.pk])

    def step(self, name) -> Step:
        return self.plan.steps.get(name=name)

    def names(self, **having):
        return [s.name for s in self.plan.steps.filter(**{"dropped": False, **having})]

    def post(self, address, step, **fields):
        return self.client.post(reverse(address, args=[self.step(step).pk]), fields)


class Page(BreakdownTest):
    def test_bars_are_shaded_for_this_student_with_their_reasons(self):
        response = self.client.get(self.page)
        self.assertContains(response, "caught-tough")
        self.assertContains(response, "new: off-beat open hats")
        self.assertContains(response, "broken down for")
        self.assertContains(response, "data-differs")

    def test_the_same_piece_is_easier_for_a_higher_grade(self):
        other = make_plan(self.piece, make_student(self.teacher, "Vera", grade=6))
        response = self.client.get(reverse("plan-steps", args=[other.pk]))
        self.assertNotContains(response, "new: off-beat open hats")

    def test_the_tree_has_sections_minutes_and_weeks(self):
        response = self.client.get(self.page)
        names = [branch.name for branch in response.context["branches"]]
        self.assertEqual(names, ["A Verse", "B End", "The road"])
        laid_out = response.context["schedule"]
        self.assertAlmostEqual(sum(w.minutes for w in laid_out.weeks), laid_out.minutes)
        self.assertContains(response, "105 minutes a week")

    def test_what_helps_to_build_a_bar_is_folded_under_it(self):
        page = self.client.get(self.page)
        lines = [line for branch in page.context["branches"] for line in branch.lines]
        nine = next(line for line in lines if line.row.step.name == "Bar 9")
        helpers = [row.step.name for row in nine.helpers]
        self.assertIn("Bar 9, + flams", helpers)
        self.assertNotIn("Bar 9, + flams", [line.row.step.name for line in lines])
        self.assertContains(page, f"{len(helpers)} that build it")
        all_helpers = sum(len(line.helpers) for line in lines)
        self.assertContains(page, f"and {all_helpers} that help to build bars")
        self.assertFalse(nine.holds_chosen)
        half = self.step("Bar 9, + flams")
        page = self.client.get(self.page, {"step": half.pk})
        lines = [line for branch in page.context["branches"] for line in branch.lines]
        self.assertTrue(next(one for one in lines if one.row.step.name == "Bar 9").holds_chosen)
        self.post("step-drop", "Bar 9")  # its halves go with it
        page = self.client.get(self.page)
        lines = [line for branch in page.context["branches"] for line in branch.lines]
        self.assertNotIn("Bar 9", [line.row.step.name for line in lines])

    def test_a_bar_opens_with_its_layers_limbs_and_words(self):
        response = self.client.get(reverse("catch-panel", args=[self.plan.pk, 8]))
        for words in ("In layers", "+ flams", "to beat 2", "On the pad", "Note by note"):
            self.assertContains(response, words)
        sheet = self.client.get(reverse("built-up", args=[self.plan.pk, 8])).content
        text = PdfReader(io.BytesIO(sheet)).pages[0].extract_text()
        self.assertIn("plain rhythm", text)
        self.assertIn("for Ines", text)
        self.assertEqual(
            self.client.get(reverse("catch-panel", args=[self.plan.pk, 99])).status_code, 404
        )

    def test_a_step_opens_with_its_music_and_sound(self):
        step = self.step("Bar 9, + flams")
        response = self.client.get(reverse("step-panel", args=[step.pk]))
        self.assertContains(response, "staff-svg")
        self.assertContains(response, "flams: one grace, low")
        counted = '"countIns": [[3.69231, [-3.69231, -2.76923, -1.84615, -0.92308]'
        self.assertContains(response, counted)

    def test_a_step_says_what_it_needs_where_it_starts_and_what_earns_a_rung(self):
        response = self.client.get(reverse("step-panel", args=[self.step("Bar 9").pk]))
        self.assertContains(
            response,
            "Needs Bar 9, the figure of beat 3, Bar 9, + flams before it. "
            "Starts at 65; 8 clean times through in a row earn a rung: 65, 70, 75,",
        )
        response = self.client.get(reverse("step-panel", args=[self.step("Bar 1").pk]))
        self.assertContains(response, "Starts at 90;")

    def test_another_teachers_plan_is_not_there(self):
        self.client.force_login(self.other_teacher())
        for address in ("plan-steps", "plan-revise", "plan-compare", "wall-chart"):
            with self.subTest(address):
                response = self.client.get(reverse(address, args=[self.plan.pk]))
                self.assertEqual(response.status_code, 404)
        self.assertEqual(self.post("step-split", "Whole piece").status_code, 404)

    def test_queries_do_not_grow_with_the_steps(self):
        short = make_piece(self.teacher, "bar 1\nhat 8ths\nbar 2\nsnare flam 1", "Short")
        plans = [make_plan(short, self.plan.student, target=60, start=50), self.plan]
        counts = []
        for plan in plans:
            page = reverse("plan-steps", args=[plan.pk])
            self.client.get(page)
            with CaptureQueriesContext(connection) as queries:
                self.client.get(page)
            counts.append(len(queries))
        self.assertEqual(*counts)


class Hands(BreakdownTest):
    """What the teacher does to a plan by hand."""

    def test_a_step_is_dropped_in_front_of_another(self):
        target = self.step("Bar 1")
        self.post("step-place", "Bar 9", before=target.pk)
        self.assertEqual(self.names()[:2], ["Bar 9", "Bar 1"])
        self.post("step-place", "Bar 9")
        self.assertEqual(self.names()[-1], "Bar 9")

    def test_the_page_says_when_a_step_stands_before_what_it_needs(self):
        self.post("step-place", "Whole piece", before=self.step("Bar 1").pk)
        self.assertContains(self.client.get(self.page), "which it needs")

    def test_a_run_is_split_in_two_and_can_be_brought_back(self):
        run = self.step("Bars 1–8, A Verse")
        self.post("step-split", run.name)
        self.assertEqual(self.names(kind="own"), ["Bars 1–4", "Bars 5–8"])
        self.assertTrue(self.fresh(run).dropped)
        self.post("step-restore", run.name)
        self.assertFalse(self.fresh(run).dropped)

    def test_a_bar_is_split_into_halves_that_come_before_it(self):
        self.post("step-split", "Bar 1")
        self.assertEqual(self.names()[:3], ["Bar 1, first half", "Bar 1, second half", "Bar 1"])

    def test_what_has_no_parts_says_so(self):
        response = self.client.post(
            reverse("step-split", args=[self.step("Bars 8 to 9").pk]),
            headers={"HX-Request": "true"},
        )
        self.assertContains(response, "Not split: Bars 8 to 9 has no smaller parts")

    def test_neighbours_are_joined_and_strangers_are_not(self):
        self.post("step-split", "Bars 1–8, A Verse")
        self.post("step-join", "Bars 1–4")
        self.assertIn("Bars 1–8", self.names(kind="own"))
        response = self.client.post(
            reverse("step-join", args=[self.step("Whole piece").pk]),
            headers={"HX-Request": "true"},
        )
        self.assertContains(response, "Not joined: Whole piece is the last step")

    def test_repeats_and_empty_bars_are_set_and_nonsense_is_refused(self):
        self.post("step-repeats", "Bar 1", repeats=7, gap=2)
        step = self.step("Bar 1")
        self.assertEqual((step.repeats, step.gap, step.by_hand), (7, 2, True))
        response = self.client.post(
            reverse("step-repeats", args=[step.pk]),
            {"repeats": 99, "gap": 0},
            headers={"HX-Request": "true"},
        )
        self.assertContains(response, "Not changed: repeats")
        self.assertEqual(self.fresh(step).repeats, 7)

    def test_a_model_plans_changes_go_to_the_next_student(self):
        model = model_plan(self.piece, self.teacher)
        left_out = model.steps.get(name="Bar 1")
        self.client.post(reverse("step-drop", args=[left_out.pk]))
        changed = model.steps.get(name="Bar 9")
        form = {"repeats": 5, "gap": 0}
        self.client.post(reverse("step-repeats", args=[changed.pk]), form)
        plan = make_plan(self.piece, make_student(self.teacher, "Vera"))
        self.assertTrue(plan.steps.get(name="Bar 1").dropped)
        self.assertEqual(plan.steps.get(name="Bar 9").repeats, 5)


class Ranks(BreakdownTest):
    def rank(self, index, value):
        address = reverse("bar-rank", args=[self.plan.pk, index])
        return self.client.post(address, {"rank": value}, follow=True)

    def test_the_teacher_overrules_a_rank_and_takes_it_back(self):
        response = self.rank(0, "6.5")
        self.assertContains(response, "Bar 1 ranks 6.5, by you")
        self.assertContains(response, "6.5 tough *")
        self.assertEqual(player_for(self.plan).ranks, {0: 6.5})
        self.rank(0, "")
        self.assertFalse(OwnRank.objects.exists())

    def test_a_rank_that_is_none_is_refused(self):
        self.assertContains(self.rank(0, "-3"), "greater than or equal to 0")
        self.assertFalse(OwnRank.objects.exists())

    def test_it_is_this_students_alone(self):
        self.rank(0, "6.5")
        other = make_plan(self.piece, make_student(self.teacher, "Vera"))
        self.assertEqual(player_for(other).ranks, {})

    def test_the_plan_follows_when_it_is_revised(self):
        self.rank(0, "6.5")
        self.client.post(reverse("plan-revise", args=[self.plan.pk]))
        self.assertIn("Bar 1, note by note", self.names())


class Revising(BreakdownTest):
    def edit(self, old, new):
        chart = read_chart(PIECE.replace(old, new), title=self.piece.title)
        save_piece(self.piece, chart, [row.pk for row in self.piece.bars.all()])

    def revise(self, **fields):
        return self.client.post(reverse("plan-revise", args=[self.plan.pk]), fields)

    def look(self, **query):
        return self.client.get(reverse("plan-revise", args=[self.plan.pk]), query)

    def test_a_plan_of_today_would_change_nothing(self):
        self.assertNotContains(self.client.get(self.page), "was edited after this plan")
        response = self.look()
        self.assertTrue(all(not entries for _, entries in response.context["groups"]))

    def test_an_edited_bar_keeps_its_tries_and_the_change_is_said(self):
        step = self.step("Bar 9")
        log(step, 90)
        self.edit("ghost 3a, flam 4", "ghost 3a")
        self.assertContains(self.client.get(self.page), "was edited after this plan")
        said = "bar 9 is now without the snare flam on 4; its 1 tries are kept"
        self.assertContains(self.look(), said)
        self.revise()
        self.assertEqual(self.fresh(step).standing.held, 90)
        self.assertNotContains(self.client.get(self.page), "was edited after this plan")
        (revision,) = Revision.objects.filter(plan=self.plan)
        self.assertIn(["changed", "Bar 9", said], revision.lines)
        self.assertContains(self.look(), "to the piece as it is now")

    def test_another_school_keeps_what_was_practised(self):
        log(self.step("Bar 1"), 120)
        bar = self.step("Bar 9")
        log(bar, 90)
        response = self.look(school="phrase")
        self.assertContains(response, "From the bar school to the phrase school")
        self.revise(school="phrase")
        self.assertEqual(self.fresh(self.plan).school, "phrase")
        self.assertTrue(self.step("Bar 1").dropped)  # tried, so it is only left out
        self.assertEqual(self.step("Bar 1").attempts.count(), 1)
        self.assertEqual(self.fresh(bar).standing.held, 90)

    def test_a_school_that_is_none_is_not_there(self):
        self.assertEqual(self.look(school="night").status_code, 404)

    def test_the_parts_of_a_passed_bar_leave_the_plan(self):
        log(self.step("Bar 9"), 120)
        self.revise()
        self.assertNotIn("Bar 9, + flams", self.names())

    def test_a_bar_known_from_another_piece_is_not_built_again(self):
        log(self.step("Bar 1"), 120)
        again = make_piece(self.teacher, PIECE, "Again")
        plan = make_plan(again, self.plan.student)
        self.assertFalse(plan.steps.filter(name="Bar 1").exists())
        self.assertTrue(plan.steps.filter(name="Bar 9").exists())
        faster = make_piece(self.teacher, PIECE.replace("= 120", "= 140"), "Faster")
        plan = make_plan(faster, self.plan.student, target=140)
        self.assertTrue(plan.steps.filter(name="Bar 1").exists())  # not held at 140 yet


class Compare(BreakdownTest):
    def test_two_schools_side_by_side(self):
        response = self.client.get(reverse("plan-compare", args=[self.plan.pk]))
        bar, phrase = response.context["sides"]
        self.assertEqual((bar["school"], phrase["school"]), (School.BAR, School.PHRASE))
        self.assertGreater(len(bar["steps"]), len(phrase["steps"]))
        # The order is another one, and what is to be learned the same.
        self.assertLess(abs(bar["minutes"] - phrase["minutes"]), phrase["minutes"] / 3)
        query = {"one": "layer", "two": "nonsense"}
        response = self.client.get(reverse("plan-compare", args=[self.plan.pk]), query)
        self.assertEqual(response.context["sides"][0]["school"], School.LAYER)

    def test_its_minutes_are_those_of_the_plan_once_the_school_is_taken(self):
        for step, tempo in (("Bar 1", 120), ("Bar 9", 100), ("Bar 4", 105)):
            log(self.step(step), tempo)
        self.post("step-edit", "Bar 4", name="Bar 4", repeats=8, start=100, target=110)
        for school in School:
            with self.subTest(school):
                asked = {"one": school.value, "two": School.BAR.value}
                page = self.client.get(reverse("plan-compare", args=[self.plan.pk]), asked)
                side = page.context["sides"][0]
                revise(self.fresh(self.plan), date.today(), school)
                tree = self.client.get(self.page).context
                lines = [line for branch in tree["branches"] for line in branch.lines]
                rows = [row for line in lines for row in (line.row, *line.helpers)]
                self.assertEqual(side["minutes"], tree["total"])
                self.assertEqual(side["schedule"], tree["schedule"])
                names = sorted(step.name for step, _ in side["steps"])
                self.assertEqual(names, sorted(row.step.name for row in rows))

    def test_looking_changes_nothing(self):
        log(self.step("Bar 1"), 120)
        before = list(self.plan.steps.values())
        self.client.get(reverse("plan-compare", args=[self.plan.pk]), {"one": "layer"})
        self.assertEqual(list(self.plan.steps.values()), before)


class Chains(BreakdownTest):
    def look(self, index, **query):
        return self.client.get(reverse("chain", args=[self.piece.pk, index]), query)

    def test_one_change_at_a_time_from_the_bar_it_is_taught_from(self):
        response = self.look(3)
        self.assertEqual(
            [link["said"] for link in response.context["links"]],
            ["with the hat open on 2&", "with the hat open on 4&"],
        )
        self.assertContains(response, "2 links")

    def test_from_a_bar_of_another_piece(self):
        other = make_piece(self.teacher, "bar 7\nhat 8ths\nsnare 2 4\nkick 1", "Other")
        response = self.look(0, piece=other.pk, bar="7", first="feet first")
        self.assertContains(response, "with the kick on 3")

    def test_what_leads_nowhere_says_why(self):
        self.assertContains(self.look(0, bar="77"), "There is no bar 77.")
        waltz = make_piece(self.teacher, "meter 3/4\nbar 1\nhat 8ths", "Waltz")
        self.assertContains(self.look(0, piece=waltz.pk), "different metres")
        self.assertEqual(self.look(99).status_code, 404)
        theirs = make_piece(self.other_teacher(), title="Theirs")
        self.assertEqual(self.look(0, piece=theirs.pk).status_code, 404)
