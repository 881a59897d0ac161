"""Open fills and bars in style, written into a student's own version of the piece."""

from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.studio.changes.pieces import save_piece
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
        self.assertContains(response, "<option >four semiquavers</option>")
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
        self.assertContains(response, "<option selected>two quavers</option>")

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
