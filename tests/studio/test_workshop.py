"""The workshop's pages: drawn, heard, given in two clicks, and where a student stands."""

import io
import json
from dataclasses import replace

from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.urls import reverse
from pypdf import PdfReader

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student, press_undo
from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.chart import Chart, Drum
from wren_ladder.drumming.notation.counts.write import write_chart
from wren_ladder.drumming.workshop.feet import FOOT_STUDIES
from wren_ladder.drumming.workshop.fills import Fill, Length, Orchestration, fill_bar
from wren_ladder.drumming.workshop.grooves import Groove
from wren_ladder.drumming.workshop.patterns import KICKS, Hands
from wren_ladder.drumming.workshop.recipes import Kind, codes_of_fill, made
from wren_ladder.drumming.workshop.shelf import KINDS, shelf
from wren_ladder.studio.pages.workshop.shelf_page import fitting
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.teaching.models import TeachingStyle

STILL = ["two-and-four", "nothing"]


class WorkshopTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher, "Ines", grade=1)

    def get(self, name, *args, **asked):
        return self.client.get(reverse(name, args=args), asked)

    def give(self, recipe, **fields):
        form = {"student": self.student.pk, "target": 90, "recipe": json.dumps(recipe)}
        return self.client.post(reverse("give-exercise"), {**form, **fields}, follow=True)

    def groove(self, hands="hat-quavers", kick="1-3"):
        return {"groove": [hands, kick, *STILL]}

    def choose(self):
        self.get("workshop", student=self.student.pk)


class Giving(WorkshopTest):
    def test_from_the_shelf_to_the_lesson_in_two_clicks(self):
        page = self.get("workshop", student=self.student.pk)
        self.assertContains(page, "The first beat")
        page = self.give({"shelf": "groove-first-beat"}, back="/workshop/")
        self.assertContains(page, "Ines climbs The first beat to 90.")
        plan = Plan.objects.get(student=self.student)
        self.assertEqual((plan.piece.kind, plan.target, plan.start), ("groove", 90, 60))
        self.assertContains(page, "has it, to 90")
        lesson = self.get("lesson-mode", self.student.pk)
        self.assertEqual(
            [card.step.name for card in lesson.context["cards"]], ["The first beat"]
        )
        week = self.get("week", self.student.pk)
        self.assertContains(week, "exercise, groove")
        self.assertNotContains(self.client.get(reverse("pieces")), "The first beat")

    def test_everything_of_the_workshop_can_be_given(self):
        fill = {"fill": ["half", ["two quavers", "crotchet"], "down", "level"]}
        for recipe, kind in (
            *(({"shelf": one.code}, one.kind) for one in shelf()),
            (self.groove(), "groove"),
            ({"grooves": [self.groove()["groove"]] * 3, "title": "Three"}, "phrase"),
            ({"sticking": "RlrLRlrl"}, "groove"),
            ({"sticking": "RlrLRlrl", "pad": True}, "hands"),
            ({**fill, "groove": self.groove()["groove"], "bars": 2}, "fill"),
            ({**fill, "groove": self.groove()["groove"], "bars": 4}, "fill"),
            (
                {
                    "fill": ["pick-up", ["two quavers"], "down", "level"],
                    "groove": self.groove()["groove"],
                    "bars": 2,
                },
                "fill",
            ),
            ({"warm-up": 2, "minutes": 5, "seed": 1}, "warm-up"),
            ({"accents": "1 2& | 3", "grid": "quavers", "as": "doubled"}, "hands"),
            ({"accents": "1 2&", "grid": "quavers", "as": "kick-ride-quavers"}, "phrase"),
            ({"feet": "into", "hands": "hat-quavers"}, "feet"),
            ({"phrase": [self.groove()["groove"]], "bars": 4}, "phrase"),
            ({"phrase": [self.groove()["groove"]] * 2, "bars": 8}, "phrase"),
            ({"displaced": self.groove()["groove"], "by": "quaver"}, "phrase"),
            (
                {"displaced": self.groove()["groove"], "by": "quaver", "limb": "kick"},
                "phrase",
            ),
            ({"snares": self.groove()["groove"]}, "phrase"),
        ):
            with self.subTest(recipe):
                page = self.give(recipe, back=reverse("words"))
                self.assertContains(page, "Ines climbs")
                plan = Plan.objects.latest("pk")
                Plan.objects.exclude(pk=plan.pk).delete()  # or each waits for all before it
                self.assertEqual((plan.piece.kind, plan.piece.made_of), (kind, recipe))
                self.assertEqual(self.client.get(plan.get_absolute_url()).status_code, 200)
        names = [one["name"] for one in self.week_names()]
        self.assertTrue(names)

    def week_names(self):
        page = self.get("lesson-end", self.student.pk)
        return [{"name": row.said} for row in page.context["rows"] if not row.is_free]

    def test_the_shelf_begins_with_what_fits_the_student(self):
        self.assertLess(fitting(2, 3, None), fitting(1, 3, None))  # near before easy
        self.assertLess(fitting(3, 3, None), fitting(4, 3, None))  # then what is above
        student = make_student(self.teacher, "Nell", grade=3)
        page = self.client.get(reverse("workshop"), {"student": student.pk})
        grades = [card.made.grade for card, plan in page.context["cards"]]
        first = [grade for grade in grades if grade <= 3]
        self.assertEqual(grades[: len(first)], sorted(first, reverse=True))
        self.assertEqual(grades[len(first) :], sorted(grades[len(first) :]))
        nobody = self.client.get(reverse("workshop"), {"student": ""})
        grades = [card.made.grade for card, plan in nobody.context["cards"]]
        self.assertEqual(grades, sorted(grades))

    def test_the_same_recipe_is_one_exercise_for_many_students(self):
        self.give(self.groove())
        other = make_student(self.teacher, "Bo")
        self.give(self.groove(), student=other.pk)
        self.give(self.groove(), target=110)
        self.assertEqual(Piece.objects.count(), 1)
        self.assertEqual(Plan.objects.count(), 2)
        self.assertEqual(Plan.objects.get(student=self.student).target, 110)

    def test_several_students_are_given_the_same_at_once(self):
        other = make_student(self.teacher, "Bo")
        away = make_student(self.teacher, "Cy")
        page = self.get("workshop", student=self.student.pk, also=[other.pk, away.pk])
        self.assertContains(page, "grade 1 and 2 more")
        page = self.get("workshop", student=self.student.pk, also=[other.pk])
        self.assertEqual(page.context["others"], [other])
        page = self.give(self.groove(), student=[self.student.pk, other.pk])
        self.assertContains(page, "Ines climbs hat in quavers")
        self.assertContains(page, "Bo climbs hat in quavers")
        given = Plan.objects.values_list("student__name", flat=True)
        self.assertEqual(sorted(given), ["Bo", "Ines"])
        self.assertEqual(Piece.objects.count(), 1)

    def test_a_cell_opened_in_the_board_comes_back_to_the_board(self):
        self.choose()
        address = reverse("groove-panel", args=["hat-quavers", "1-3"])
        board = reverse("groove-board")
        asked = {"HX-Request": "true", "HX-Current-URL": f"http://testserver{board}?reach=all"}
        page = self.client.get(address, headers=asked)
        self.assertContains(page, f'name="back"\n    value="{board}?reach=all"')
        self.assertContains(self.client.get(address), f'value="{address}"')

    def test_wrong_recipes_students_and_targets_are_told(self):
        groove = self.groove()["groove"]
        for recipe in (
            {}, [], "x", {"shelf": "nothing"}, {"groove": ["hat", "1-3", *STILL]},
            {"groove": 4}, {"grooves": [groove]}, {"grooves": [groove] * 99},
            {"sticking": "RxL"},
            {"fill": ["bar", ["two quavers"], "down", "level"], "groove": groove, "bars": 2},
            {"fill": ["half", ["x", "y"], "down", "level"], "groove": groove, "bars": 2},
            {"warm-up": 99}, {"warm-up": "x"}, {"feet": "x", "hands": "hat-quavers"},
            {"accents": "9", "grid": "quavers", "as": "lead"}, {"displaced": groove, "by": "x"},
            {"accents": "1", "grid": "quavers", "as": "x"}, {"phrase": [groove], "bars": 3},
        ):  # fmt: skip
            with self.subTest(recipe):
                self.assertContains(self.give(recipe), "Not given: ")
        self.assertContains(self.give(self.groove(), target=9), "a target is 20 to 400")
        self.assertContains(self.give(self.groove(), target="fast"), "Not given")
        self.assertContains(self.give(self.groove(), student=999), "choose a student")
        form = {"student": self.student.pk, "target": 90, "recipe": "{"}
        page = self.client.post(reverse("give-exercise"), form, follow=True)
        self.assertContains(page, "Not given")
        self.assertFalse(Piece.objects.exists())
        page = self.give(self.groove(), back="https://elsewhere.example/")
        self.assertEqual(page.request["PATH_INFO"], reverse("workshop"))


class Sheets(WorkshopTest):
    def read(self, **asked):
        page = self.get("exercise-sheet", **asked)
        self.assertEqual(page["Content-Type"], "application/pdf")
        pages = PdfReader(io.BytesIO(page.content)).pages
        return " ".join(" ".join(one.extract_text() for one in pages).split())

    def test_grooves_and_the_book_of_fills_are_printed_with_what_is_held(self):
        self.choose()
        self.give(self.groove())
        log(Plan.objects.get().steps.get(), 92)
        fill = {"fill": ["half", ["two quavers", "crotchet"], "down", "level"]}
        self.give({**fill, "groove": self.groove()["groove"], "bars": 2})
        grooves = self.read(of="grooves")
        self.assertIn("hat in quavers, kick one and three: 1 3, to 90, 92 held", grooves)
        self.assertNotIn("Down the kit", grooves)
        self.assertIn("Down the kit from 3", self.read(of="book of fills"))
        self.assertEqual(self.get("exercise-sheet", of="x").status_code, 404)
        self.assertEqual(self.get("exercise-sheet", student=0, of="grooves").status_code, 404)
        self.assertContains(self.get("fills", student=self.student.pk), "Print the book")
        self.assertContains(self.get("groove-board"), "Print Ines's grooves")

    def test_a_row_that_nobody_has_been_given_is_printed_groove_by_groove(self):
        page = self.get("groove-board", student=0)
        _, cells, recipe = page.context["rows"][0]
        self.take(recipe)
        read = self.read_tray()
        for number, cell in enumerate(cells, 1):
            self.assertIn(f"{number} {cell.groove.name}", read)
        self.take(recipe)  # back again
        self.take(json.dumps({"feet": FOOT_STUDIES[0].code, "hands": "hat-quavers"}))
        self.take(json.dumps({"shelf": "groove-first-beat"}))
        read = self.read_tray()
        self.assertIn("bars 5 to 8", read)
        self.assertIn("3 The first beat", read)

    def test_what_is_no_exercise_does_not_come_on_the_tray(self):
        for wrong in ("", "[]", '{"feet": 3}', '{"in turn": [{"in turn": []}]}'):
            self.assertContains(self.take(wrong), "Not taken: ")
        self.assertContains(self.get("workshop"), 'class="is-empty"')

    def take(self, recipe: str):
        return self.client.post(reverse("tray-take"), {"recipe": recipe}, follow=True)

    def read_tray(self) -> str:
        pages = PdfReader(io.BytesIO(self.get("tray-sheet").content)).pages
        return " ".join(" ".join(one.extract_text() for one in pages).split())


class Kinds(WorkshopTest):
    def test_what_the_workshop_makes_is_a_kind_of_piece(self):
        self.assertEqual({*Kind, "piece"}, set(Piece.Kind))


class Tray(WorkshopTest):
    def take(self, *recipes):
        for recipe in recipes:
            self.client.post(reverse("tray-take"), {"recipe": json.dumps(recipe)})

    def press(self, **pressed):
        return self.client.post(reverse("tray"), pressed, follow=True)

    def lying(self):
        return [(one.title, one.target) for one in self.get("workshop").context["tray"]]

    def test_it_lies_there_tomorrow_and_a_wrong_tempo_loses_nothing(self):
        self.choose()
        self.take({"shelf": "groove-first-beat"}, self.groove())
        before = self.lying()
        page = self.press(**{"target-0": "9", "target-1": "77", "give": "yes"},
                          student=self.student.pk)  # fmt: skip
        self.assertContains(page, "Not given: a target is 20 to 400.")
        self.assertEqual(self.lying(), [before[0], (before[1][0], 77)])
        self.assertContains(self.press(give="yes"), "Not given: choose a student.")
        self.assertFalse(Plan.objects.exists())

    def test_in_turn_they_are_one_exercise_and_as_a_warm_up_a_warm_up(self):
        self.choose()
        self.two = {"shelf": "groove-first-beat"}, self.groove()
        for how, kind in (("turn", "groove"), ("warm-up", "warm-up")):
            self.take(*self.two)
            self.press(give="yes", how=how, student=self.student.pk)
            piece = Piece.objects.latest("pk")
            self.assertEqual((piece.kind, piece.bar_count), (kind, 2))
            first, second = piece.chart().bars
            plain = [made(one).chart.bars[0].hits for one in self.two]
            self.assertEqual([first.hits, second.hits], plain)
        self.assertEqual(Plan.objects.count(), 2)

    def test_what_was_played_meanwhile_is_not_taken_back(self):
        self.choose()
        self.take({"shelf": "groove-first-beat"}, self.groove())
        given = self.press(give="yes", student=self.student.pk)
        played = Plan.objects.first()
        log(played.steps.get(), 60)
        page = press_undo(self.client, given)
        self.assertContains(page, f"Ines has played {played.piece}: it stays.")
        self.assertEqual(Plan.objects.get(), played)
        self.assertEqual(len(self.lying()), 2)

    def test_it_holds_a_dozen(self):
        self.take(*({"shelf": one.code} for one in shelf()[:13]))
        self.assertEqual(len(self.lying()), 12)


class FillsFromTheLog(WorkshopTest):
    def test_they_are_made_of_what_the_student_holds_once_three_figures_are_held(self):
        self.choose()
        self.assertTrue(self.get("fills", length="half").context["by_grade"])
        bars = "snare 1 2 2& 3 3e 3& 3a 4e 4& 4a | \n"
        plan = make_plan(make_piece(self.teacher, bars, "Held"), self.student, 90)
        log(plan.steps.filter(kind=StepKind.BAR).first(), 60)
        page = self.get("fills", length="half")
        figures = page.context["figures"]
        self.assertEqual(len(figures), 3)
        for card in page.context["cards"]:
            self.assertLessEqual(set(json.loads(card.recipe)["fill"][1]), set(figures))
        self.assertContains(page, "Ines holds")
        everything = self.get("fills", length="half", figures="grade")
        self.assertTrue(everything.context["by_grade"])

    def test_a_fill_is_put_on_the_drums_one_note_after_the_other(self):
        self.choose()
        bench = self.get("fills", length="half").context["bench"]
        self.assertEqual((bench.placed, bench.many, bench.is_done), (0, 4, False))
        address = reverse("fills")
        for n, drum in enumerate(("snare", "tom-high", "snare", "tom-floor")):
            part = next(one for one in bench.parts if one.drum == drum)
            bench = self.client.get(address + part.address.split("#")[0]).context["bench"]
            self.assertEqual(bench.placed, n + 1)
        self.assertTrue(bench.is_done)
        self.assertEqual(bench.notes[3].said, "4& floor tom")
        first = self.client.get(address + bench.notes[0].address.split("#")[0]).context["bench"]
        kick = next(one for one in first.parts if one.drum == "kick")
        moved = self.client.get(address + kick.address.split("#")[0]).context["bench"]
        self.assertEqual([note.said for note in moved.notes][:2], ["3 kick", "3& high tom"])
        back = self.client.get(address + bench.back.split("#")[0]).context["bench"]
        self.assertEqual(back.placed, 3)
        other = self.client.get(address + bench.beats[1].address.split("#")[0]).context["bench"]
        self.assertNotEqual(other.beats[1].said, bench.beats[1].said)
        self.assertEqual(other.notes[0].said, "3 snare")
        page = self.give(json.loads(bench.card.recipe))
        self.assertContains(page, "Snare, high tom, snare and on from 3")
        self.assertContains(self.get("fills"), "Snare, high tom, snare and on from 3")

    def test_an_address_of_the_bench_that_makes_no_sense_is_the_usual_one(self):
        usual = self.get("fills", length="half").context["bench"]
        for wrong in (
            {"on": "snare,gong,,kick", "at": "99"},
            {"beat": ["no such", "two quavers"], "at": "-1"},
            {"beat": ["two quavers"] * 5},
            {"on": "snare," * 200},
        ):
            bench = self.get("fills", length="half", **wrong).context["bench"]
            self.assertEqual([one.said for one in bench.beats],
                             [one.said for one in usual.beats])  # fmt: skip
            self.assertLessEqual(bench.placed, bench.many)

    def test_a_fill_put_into_the_piece_itself_is_where_it_is_used(self):
        self.choose()
        fill = Fill(Length.HALF, ("two quavers", "crotchet"), Orchestration.DOWN)
        bar = replace(fill_bar(fill, Groove(Hands.HAT_QUAVERS, KICKS[1]).bar), number="1")
        text = write_chart(Chart("Used", (bar,)))
        make_plan(make_piece(self.teacher, text, "Used"), self.student, 90)
        groove = self.groove()["groove"]
        self.give({"fill": codes_of_fill(fill), "groove": groove, "bars": 2})
        self.assertContains(self.get("fills"), "used in Used, bar 1")


class WarmUpForPieces(WorkshopTest):
    def test_what_the_pieces_ask_for_is_on_the_sheet_and_said(self):
        student = make_student(self.teacher, "Bo", grade=3)
        text = "tempo crotchet = 100\nbar 1\nsnare buzz 1-3, 4\nkick 1"
        piece = make_piece(self.teacher, text, "Harbour Lights")
        make_plan(piece, student)
        Student.objects.filter(pk=student.pk).update(grade=2)
        for seed in range(5):
            page = self.get("warm-ups", student=student.pk, grade=4, minutes=3, seed=seed)
            names = [line.name for line in page.context["warm_up"].lines]
            self.assertIn("a buzz over the pulse", names)
            self.assertContains(page, "buzz roll (Harbour Lights)")
        page = self.give(json.loads(page.context["card"].recipe), student=student.pk)
        self.assertContains(page, "Bo climbs Warm-up")


class AccentsAndFeet(WorkshopTest):
    def test_accents_are_moved_and_what_is_wrong_keeps_what_was_typed(self):
        page = self.get("accents", accents="1 2& | 4", grid="quavers")
        self.assertContains(page, "accents on the kick, hat in quavers")
        self.assertEqual(len(page.context["cards"]), 20)
        page = self.get("accents", accents="1 2x")
        self.assertContains(page, 'value="1 2x"', status_code=422)
        self.assertContains(page, "bar 1", status_code=422)

    def test_when_a_foot_study_is_held_the_next_hand_pattern_is_offered(self):
        self.choose()
        page = self.get("foot-studies")
        self.assertContains(page, "On the beats, hat in crotchets")
        self.give({"feet": "beats", "hands": "hat-crotchets"}, target=80)
        log(Plan.objects.get().steps.get(), 80)
        page = self.get("foot-studies")
        self.assertContains(page, "On the beats, hat in quavers")
        self.assertContains(page, "held already: hat in crotchets")
        self.assertContains(page, "Twice, hat in crotchets")
        page = self.get("foot-studies", hands="ride-quavers")
        self.assertContains(page, "On the beats, ride in quavers")

    def test_two_grooves_are_played_in_turn(self):
        one, two = self.groove()["groove"], self.groove(kick="1-2-3-4")["groove"]
        bars = made({"phrase": [one, two], "bars": 8, "turn": True}).chart.bars
        kicks = [sum(hit.drum is Drum.KICK for hit in bar.hits) for bar in bars]
        self.assertEqual(kicks, [2, 4] * 4)
        bars = made({"phrase": [one, two], "bars": 8}).chart.bars
        kicks = [sum(hit.drum is Drum.KICK for hit in bar.hits) for bar in bars]
        self.assertEqual(kicks, [2] * 4 + [4] * 4)
        self.choose()
        self.give({"groove": one})
        log(Plan.objects.get().steps.get(), 92)
        page = self.get("groove-panel", "hat-quavers", "1-3-3n")
        self.assertContains(page, "In turn with hat in quavers, kick one and three: 1 3")

    def test_one_snare_more_stands_in_every_place_of_its_own(self):
        made_here = made({"snares": self.groove()["groove"]})
        plain = made(self.groove()).chart.bars[0].hits
        places = set()
        for bar in made_here.chart.bars:
            (more,) = set(bar.hits) - set(plain)
            self.assertEqual((more.drum, more.at.denominator), (Drum.SNARE, 4))
            places.add(more.at)
        self.assertEqual(len(places), len(made_here.chart.bars))
        self.assertEqual(len(places), 8)  # e and a of each beat

    def test_a_groove_becomes_a_phrase_from_its_panel(self):
        page = self.get("groove-panel", "hat-quavers", "1-3")
        for said in ("Four bars with a crash", "Then a quaver later"):
            self.assertContains(page, said)


class Board(WorkshopTest):
    def test_it_asks_as_often_for_many_grooves_as_for_one(self):
        self.choose()
        self.give(self.groove())
        self.get("groove-board")
        with CaptureQueriesContext(connection) as few:
            self.get("groove-board")
        asked = len(few)
        for kick in KICKS[2:12]:
            self.give(self.groove(kick=kick.code))
        with self.assertNumQueries(asked):
            self.get("groove-board", reach="all")

    def test_what_is_held_is_climbed_and_comes_next_stands_in_its_cell(self):
        self.choose()
        self.give(self.groove())
        log(Plan.objects.get().steps.get(), 92)
        self.give(self.groove("ride-quavers"))
        page = self.get("groove-board", reach="grade")
        cells = {
            (cell.groove.hands.value, cell.groove.kick.code): (cell.state, cell.said)
            for _, row in page.context["board"].rows
            for cell in row
        }
        self.assertEqual(cells["hat-quavers", "1-3"], ("held", "92"))
        self.assertEqual(cells["ride-quavers", "1-3"], ("climbing", "…"))
        self.assertEqual(cells["hat-quavers", "1-3-3n"], ("next", "next"))
        self.assertEqual(cells["hat-crotchets", "1-2-3-4"], ("", ""))
        self.assertContains(
            page, 'aria-label="hat in quavers, kick one and three: 1 3: held 92"'
        )

    def test_it_reaches_one_grade_further_or_all_the_way(self):
        near, few, all_of_it = (
            len(self.get("groove-board", reach=reach).context["board"].cells)
            for reach in ("near", "grade", "all")
        )
        self.assertEqual((near, all_of_it), (5 * 6, len(Hands) * len(KICKS)))
        self.assertLess(near, few)
        self.assertLess(few, all_of_it)

    def test_what_is_near_holds_what_is_held_and_climbed_and_opens_what_comes_next(self):
        self.choose()
        self.give(self.groove())
        log(Plan.objects.get().steps.get(), 92)
        self.give(self.groove("ride-semiquavers", kick="1-1a-2n-3e-3a"))  # far from the grade
        page = self.get("groove-board")
        board = page.context["board"]
        states = {
            (cell.groove.hands.value, cell.groove.kick.code): cell.state for cell in board.cells
        }
        self.assertEqual(states["hat-quavers", "1-3"], "held")
        self.assertEqual(states["ride-semiquavers", "1-1a-2n-3e-3a"], "climbing")
        opened = board.opened
        self.assertEqual(states[opened.hands.value, opened.kick.code], "next")
        self.assertContains(page, "One change away")  # beside the board, before a press

    def test_a_cell_is_drawn_with_the_change_that_leads_to_it(self):
        self.choose()
        self.give(self.groove())
        log(Plan.objects.get().steps.get(), 92)
        page = self.get("groove-panel", "hat-quavers", "1-3-3n")
        self.assertContains(page, "with the kick on 3&amp;")
        self.assertContains(page, "<svg")
        far = self.get("groove-panel", "ride-quavers", "1-2a-3-3n")
        self.assertContains(far, "The way there, 3 changes")
        self.assertContains(self.get("groove-panel", "hat-quavers", "1-3"), "holds it at 92")
        rings = self.get("groove-panel", "hat-open", "1-3", foot="off-beats")
        self.assertContains(rings, "the foot closes it there")
        self.assertEqual(self.get("groove-panel", "hat-quavers", "9").status_code, 404)
        self.assertEqual(self.get("groove-panel", "harp", "1-3").status_code, 404)

    def test_the_number_of_queries_is_fixed(self):
        self.choose()
        self.get("groove-board")
        for many in (1, 12):
            for kick in KICKS[:many]:
                self.give(self.groove(kick=kick.code))
            with self.assertNumQueries(7):
                self.get("groove-board", reach="all")


class OneTableOfGrades(WorkshopTest):
    """What a teacher changes in the syllabus is so on every page of the workshop."""

    def change(self, **grades):
        names = {name.replace("_", " "): grade for name, grade in grades.items()}
        names |= {"kick 1 1e 3": 0, "hat on the off-beats only": 7}
        TeachingStyle.objects.update_or_create(owner=self.teacher, defaults={"syllabus": names})

    def test_board_shelf_stickings_warm_up_and_fills_follow_it(self):
        def seen():
            board = self.get("groove-board", reach="grade").context["board"]
            cards = self.get("workshop", kind="hands").context["cards"]
            stickings = self.get("stickings").context["cards"]
            warm = self.get("warm-ups", grade=2, minutes=10).context["warm_up"]
            return {
                "kicks": {kick.code for kick in board.kicks},
                "hands": {hands.value for hands, _ in board.rows},
                "shelf": {card.name: card.made.grade for card, _ in cards}["hands-flams"],
                "sticking": {card.said: card.made.grade for card in stickings}["RlrrLrll"],
                "warm-up": any("flams" in line.asks for line in warm.lines),
                "fills": len(self.get("fills", grade=2).context["figures"]),
            }

        before = seen()
        self.assertNotIn("1-1e-3", before["kicks"])
        self.assertTrue(before["warm-up"])
        self.change(flams=6, flam=6, single_paradiddle=7, four_semiquavers=5)
        after = seen()
        self.assertIn("1-1e-3", after["kicks"])
        self.assertEqual(before["hands"] - after["hands"], {"hat-off-beats"})
        self.assertEqual((before["shelf"], after["shelf"]), (2, 6))
        self.assertEqual((before["sticking"], after["sticking"]), (2, 7))
        self.assertFalse(after["warm-up"])
        self.assertLess(after["fills"], before["fills"])


class Pages(WorkshopTest):
    def test_every_page_opens_for_nobody_and_for_somebody(self):
        for student in (0, self.student.pk):
            for name in ("workshop", "groove-board", "stickings", "fills", "warm-ups"):
                with self.subTest(name):
                    page = self.get(name, student=student)
                    self.assertEqual(page.status_code, 200)
            for kind in (*KINDS, "nothing"):
                self.assertEqual(self.get("workshop", kind=kind).status_code, 200)

    def test_own_letters_are_laid_on_the_drums_or_told_what_is_wrong(self):
        page = self.get("stickings", letters="R l r L R l r l")
        self.assertEqual(page.context["cards"][0].said, "RlrLRlrl")
        wrong = self.get("stickings", letters="R l x")
        self.assertContains(wrong, "letter 3, is no hand", status_code=422)
        self.assertContains(wrong, 'value="R l x"', status_code=422)
        pad = self.get("stickings", letters="RlrLRlrl", pad="on")
        self.assertContains(pad, "on the pad")

    def test_a_letter_elsewhere_and_a_hand_on_another_drum_are_given_so(self):
        self.choose()
        page = self.get("stickings", letters="R l r l R l r l, floor 4 4&", right="ride")
        card = page.context["cards"][0]
        self.assertEqual(card.said, "RlrlRlrl, floor 4 4&")
        self.assertContains(page, '<option value="ride" selected>')
        self.give(json.loads(card.recipe))
        piece = Plan.objects.get().piece
        self.assertEqual(
            piece.title, "hand to hand in quavers, right hand on the ride, floor 4 4&"
        )
        hits = [hit for hit in piece.chart().bars[0].hits if not hit.drum.by_foot]
        floor, ride, snare = Drum.TOM_FLOOR, Drum.RIDE, Drum.SNARE
        self.assertEqual([hit.drum for hit in hits], [ride, snare] * 3 + [floor] * 2)
        wrong = self.get("stickings", letters="RlrlRlrl, kick 4")
        self.assertContains(wrong, "&#x27;kick&#x27; is no drum for a hand", status_code=422)

    def test_three_fills_others_by_another_seed_and_the_book(self):
        self.choose()
        page = self.get("fills", length="half", grade=2)
        self.assertEqual(len(page.context["cards"]), 3)
        other = self.get("fills", length="half", grade=2, seed=1)
        said = [[card.recipe for card in one.context["cards"]] for one in (page, other)]
        self.assertNotEqual(*said)
        four = self.get("fills", length="half", grade=2, bars=4)
        self.give(json.loads(page.context["cards"][0].recipe))
        self.give(json.loads(four.context["cards"][0].recipe))
        book = self.get("fills").context["book"]
        self.assertEqual(len(book), 2)
        self.assertEqual({plan.piece.bar_count for plan, _ in book}, {2, 4})

    def test_a_warm_up_is_printed_on_one_page(self):
        for grade in (2, 5):
            sheet = self.get("warm-up-sheet", grade=grade)
            self.assertEqual(len(PdfReader(io.BytesIO(sheet.content)).pages), 1)

    def test_another_teachers_student_is_not_chosen_and_gets_nothing(self):
        self.client.force_login(self.other_teacher())
        page = self.get("workshop", student=self.student.pk)
        self.assertIsNone(page.context["whom"])
        self.assertContains(self.give(self.groove()), "choose a student")
        make_piece(self.teacher)
        self.assertFalse(Plan.objects.exists())


class Reading(StudioTest):
    """A study for reading at sight: another each time, kept when it is given."""

    def page(self, **asked):
        return self.client.get(reverse("reading"), asked)

    def test_it_says_what_to_look_for_first_and_another_is_another(self):
        page = self.page(grade=3, bars=8, voices="two", seed=5)
        self.assertContains(page, "metre and tempo: 4/4, crotchet = 72")
        self.assertContains(page, "3 is 1 again")
        self.assertContains(page, "the hardest bar: ")
        self.assertContains(page, "on two drums, number 5")
        self.assertContains(page, "seed=6")
        bars = [bar.hits for bar in page.context["card"].made.chart.bars]
        other = self.page(grade=3, bars=8, voices="two", seed=6)
        self.assertNotEqual(bars, [bar.hits for bar in other.context["card"].made.chart.bars])

    def test_after_the_minute_the_pulse_is_heard_and_none_of_the_notes(self):
        page = self.page(grade=3, bars=8)
        click = page.context["click"]
        self.assertEqual((click["strokes"], click["rounds"], len(click["bars"])), ([], 1, 8))
        self.assertContains(page, 'data-play="reading-click" data-look="60"')

    def test_given_it_stays_and_the_next_one_is_new(self):
        student = make_student(self.teacher, grade=2)
        page = self.page(student=student.pk)
        recipe, seed = page.context["card"].recipe, page.context["seed"]
        self.client.post(
            reverse("give-exercise"), {"student": student.pk, "recipe": recipe, "target": 68}
        )
        plan = student.plans.get()
        self.assertEqual(plan.piece.made_of["seed"], seed)
        self.assertIn("Reading, grade 2, 4 bars on the snare", plan.piece.title)
        self.assertNotEqual(self.page().context["seed"], seed)

    def test_what_there_is_not_is_the_usual(self):
        page = self.page(grade="x", bars="7", voices="choir", seed="-3")
        self.assertEqual(page.status_code, 200)
        self.assertEqual((page.context["bars"], page.context["voices"]), (4, "snare"))
