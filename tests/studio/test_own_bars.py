"""Open fills and bars in style, written into a student's own version of the piece."""

from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.drumming.chart import Drum, Grace
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.studio.changes.exercises import give_exercise
from wren_ladder.studio.changes.pieces import add_piece, save_piece
from wren_ladder.studio.pages.plans.own_bar_page import KIT_LINE
from wren_ladder.studio.plans.models import StudentBar
from wren_ladder.studio.plans.versions import study_for

OPEN = """tempo crotchet = 100
bar 1
hat 8ths
snare 2 4
kick 1 3
bar 2
hat 8ths
snare 2 4
kick 1 3 3&
bar 3 slashes
bar 4
hat quarters 1-2
snare 2
kick 1
fill 3
bar 5
crash 1
kick 1
"""
CHOICE = {
    "figure-0": "two quavers", "drum-0-0": "snare", "drum-0-1": "tom-high",
    "figure-1": "crotchet", "drum-1-0": "tom-floor",
}  # fmt: skip


class OwnBars(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher, OPEN)
        self.plan = make_plan(self.piece, make_student(self.teacher, grade=2), target=100)

    def address(self, index=3):
        return reverse("own-bar", args=[self.plan.pk, index])

    def played(self, index):
        return [(str(h.at), h.drum.value) for h in study_for(self.plan).bars[index].bar.hits]

    def test_the_page_offers_what_the_grade_owns(self):
        response = self.client.get(self.address())
        self.assertContains(response, "2 beats open, from 3")
        self.assertContains(response, 'value="four semiquavers"')
        self.assertNotContains(response, "triplet")

    def test_a_choice_is_drawn_counted_checked_and_heard_before_it_is_kept(self):
        response = self.client.get(
            self.address(), {**CHOICE, "figure-1": "two quavers", "drum-1-1": "kick"},
            headers={"HX-Request": "true"},
        )  # fmt: skip
        self.assertNotContains(response, "<html")
        self.assertContains(response, "Two kicks in a row at the landing: 4&amp;")
        self.assertContains(response, "As chosen")
        self.assertContains(response, "own-sound")
        self.assertFalse(StudentBar.objects.exists())

    def test_it_is_written_into_the_students_version_alone(self):
        self.client.post(self.address(), CHOICE)
        fill = [("2", "snare"), ("5/2", "tom-high"), ("3", "tom-floor")]
        self.assertEqual(self.played(3)[-3:], fill)
        self.assertEqual(self.piece.chart().bars[3].hits[-1].at, 1)  # the page stays open
        other = make_plan(self.piece, make_student(self.teacher, "Vera"))
        self.assertEqual(study_for(other).bars[3].bar, self.piece.chart().bars[3])
        response = self.client.get(self.address())
        self.assertContains(response, "As stored")
        beats = response.context["beats"]
        self.assertEqual([beat["figure"] for beat in beats], ["two quavers", "crotchet"])
        self.assertContains(response, 'aria-valuetext="high tom"')

    def test_a_drum_is_its_name_or_its_place_on_the_kit_line(self):
        places = {name: drum for name, drum in CHOICE.items() if name.startswith("drum")}
        sent = {name: KIT_LINE.index(Drum(drum)) for name, drum in places.items()}
        self.client.post(self.address(), {**CHOICE, **sent})
        fill = [("2", "snare"), ("5/2", "tom-high"), ("3", "tom-floor")]
        self.assertEqual(self.played(3)[-3:], fill)
        self.client.post(self.address(), {**CHOICE, "drum-0-0": 99})
        self.assertEqual(self.played(3)[-3:], fill)

    def test_every_figure_has_its_picture_and_its_sound(self):
        response = self.client.get(self.address())
        offered = response.context["beats"][0]["offered"]
        self.assertTrue(all("<svg" in one["svg"] for one in offered))
        for one in offered:
            self.assertContains(response, f'<script id="{one["sound"]}"')

    def test_a_fill_of_the_students_book_is_put_into_the_open_fill(self):
        fill = ["half", ["two quavers", "crotchet"], "flams", "level"]
        groove = ["hat-quavers", "1-3", "two-and-four", "nothing"]
        recipe = {"fill": fill, "groove": groove, "bars": 2}
        made = add_piece(self.teacher, self.piece.chart(), kind="fill", made_of=recipe)
        self.assertNotContains(self.client.get(self.address()), "book")
        give_exercise(made, self.plan.student, 90)
        self.assertContains(self.client.get(self.address()), "From Ines's book")
        response = self.client.get(self.address(), {"book": made.pk})
        beats = response.context["beats"]
        self.assertEqual([beat["figure"] for beat in beats], ["two quavers", "crotchet"])
        sent = {"book": made.pk, "figure-0": "two quavers", "figure-1": "crotchet"}
        self.client.post(self.address(), {**sent, "drum-0-0": "snare", "drum-0-1": "snare"})
        hits = study_for(self.plan).bars[3].bar.hits[-3:]
        self.assertEqual([hit.grace for hit in hits], [Grace.FLAM, Grace.NONE, Grace.FLAM])
        book = self.client.get(reverse("fills"), {"student": self.plan.student_id})
        self.assertContains(book, f"used in {self.piece.title}, bar 4")
        self.client.post(self.address(), {**sent, "drum-0-0": "tom-mid"})  # another drum: plain
        hits = study_for(self.plan).bars[3].bar.hits[-3:]
        self.assertEqual(hits[0].drum, Drum.TOM_MID)
        self.assertEqual(hits[0].grace, Grace.NONE)

    def test_it_shows_on_every_page_of_the_climb(self):
        self.client.post(self.address(), CHOICE)
        for address in (
            self.plan.get_absolute_url(),
            reverse("plan-steps", args=[self.plan.pk]),
        ):
            self.assertEqual(self.client.get(f"{address}?bar=3").status_code, 200)
        panel = reverse("bar-panel", args=[self.piece.pk, 3])
        response = self.client.get(f"{panel}?plan={self.plan.pk}")
        self.assertContains(response, "high tom")

    def test_it_is_found_from_the_breakdown_before_and_after(self):
        panel = reverse("catch-panel", args=[self.plan.pk, 3])
        self.assertContains(self.client.get(panel), "Write it out")
        self.client.post(self.address(), CHOICE)
        response = self.client.get(panel)
        self.assertContains(response, "Change what is written")
        self.assertContains(response, "as Ines plays it")

    def test_back_to_the_page(self):
        self.client.post(self.address(), CHOICE)
        self.client.post(self.address(), {"forget": "1"})
        self.assertFalse(StudentBar.objects.exists())

    def test_a_figure_the_grade_does_not_own_is_not_taken(self):
        self.client.post(self.address(), {**CHOICE, "figure-0": "triplet"})
        self.assertNotIn(("7/3", "snare"), self.played(3))

    def test_a_page_that_changed_is_told(self):
        self.client.post(self.address(), CHOICE)
        rows = [row.pk for row in self.piece.bars.all()]
        text = OPEN.replace("hat quarters 1-2\nsnare 2", "hat 8ths 1-2\nsnare 2")
        save_piece(self.piece, read_chart(text), rows)
        self.assertContains(self.client.get(self.address()), "The page has changed since")

    def test_a_bar_in_style_takes_a_kick_pattern_that_is_held(self):
        response = self.client.get(self.address(2))
        self.assertContains(response, "Earn a rung with another groove")
        log(self.plan.steps.get(name="Bar 1"), 80)
        response = self.client.get(self.address(2))
        self.assertContains(response, "without the kick on 3&amp;")
        self.client.post(self.address(2), {"variation": "0"})
        self.assertNotIn(("5/2", "kick"), self.played(2))

    def test_a_bar_that_is_not_open_is_not_there(self):
        self.assertEqual(self.client.get(self.address(0)).status_code, 404)
        self.assertEqual(self.client.get(self.address(50)).status_code, 404)
        self.client.force_login(self.other_teacher())
        self.assertEqual(self.client.get(self.address()).status_code, 404)
