"""One bar, everything about it, and its hands overruled."""

from django.urls import reverse

from tests.studio.base import StudioTest, make_piece, make_plan, make_student, press_undo
from wren_ladder.studio.changes.pieces import flip_hand

CADENCE = """tempo crotchet = 120
bar 1
snare 16ths 1-2, accent flam 1 2
bar 2 as 1
bar 3
hat 8ths
snare 2 4
kick 1 3
bar 4
snare accent 1 3, buzz 4-end
"""


class BarPage(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher, CADENCE)

    def look(self, index=0, **chosen):
        data = {"shown": 1, **chosen} if chosen else {}
        return self.client.get(reverse("bar-page", args=[self.piece.pk, index]), data)

    def hands(self, page):
        return "".join(stick.hand for stick in page.context["rules"])

    def test_everything_about_a_bar_is_on_it(self):
        page = self.look(sticking="rudiment")
        self.assertContains(page, "flam paradiddle, 2 times, 1 to 2a, right leads")
        self.assertContains(page, "four semiquavers · four semiquavers · rest · rest")
        self.assertContains(page, "again in 2")
        self.assertContains(page, "Counted in: <b>1 2 3 4</b>")
        self.assertContains(page, ">down<")

    def test_schools_and_hands_are_switched(self):
        self.assertEqual(self.hands(self.look()), "RLRLRLRL")
        self.assertEqual(self.hands(self.look(sticking="rudiment")), "RLRRLRLL")
        self.assertEqual(self.hands(self.look(sticking="rudiment", left="on")), "LRLLRLRR")
        self.assertContains(self.look(counting="takadimi"), ">ka<")
        self.assertEqual(self.hands(self.look(2, open="on"))[:2], "LL")

    def test_parts_and_layers(self):
        second = self.look(2, part="second")
        self.assertContains(second, '<p class="spoken">3 &amp; 4 &amp;</p>')
        self.assertContains(self.look(2, part="first"), ">1 &amp; 2 &amp;</p>")
        self.assertContains(self.look(2, part="on"), 'id="whole-b1h0"')
        self.assertNotContains(self.look(layer="rhythm"), "stroke strong")
        self.assertContains(self.look(layer="accents"), "stroke strong")

    def test_nonsense_in_the_address_shows_the_bar_as_it_is(self):
        page = self.look(counting="chanting", part="middle third", layer="icing")
        self.assertEqual(page.status_code, 200)
        self.assertEqual(self.look(99).status_code, 404)

    def test_a_hand_too_fast_for_the_tempo_is_told_with_its_limit(self):
        piece = make_piece(
            self.teacher,
            "tempo crotchet = 180\nbar 1\nsnare 16ths\nhands " + "R" * 16,
            title="Fast",
        )
        page = self.client.get(reverse("bar-page", args=[piece.pk, 0]))
        self.assertContains(page, "12.0 strokes a second at crotchet = 180, more than 6")
        self.assertContains(page, "the limit from crotchet = 90 on")

    def test_conflicts_at_the_tempo_that_is_asked_for(self):
        self.assertContains(self.look(2), "can't do at crotchet = 120")
        fast = self.look(2, bpm=300)
        self.assertContains(fast, "strokes a second at crotchet = 300")
        self.assertContains(self.look(2, bpm=9000), "A tempo is 20 to 400 a minute")

    def test_drills_are_made_of_its_accents(self):
        self.assertContains(self.look(), "unaccented doubled, in triplets")
        self.assertNotContains(self.look(2), "Drills made of its accents")


class Overrides(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher, CADENCE)
        self.flip_address = reverse("bar-flip", args=[self.piece.pk, 2])

    def hand(self, at=0):
        return self.piece.chart().bars[2].hits[at].hand

    def test_a_hand_is_flipped_and_flipped_back(self):
        page = self.client.post(self.flip_address, {"stroke": "1 snare"}, follow=True)
        snare = next(h for h in self.piece.chart().bars[2].hits if h.drum == "snare")
        self.assertEqual(snare.hand, "R")
        self.assertContains(page, "The hand is written on the page now")
        self.assertContains(press_undo(self.client, page), "The hand is as it was.")
        snare = next(h for h in self.piece.chart().bars[2].hits if h.drum == "snare")
        self.assertIsNone(snare.hand)

    def test_it_survives_an_edit_elsewhere_in_the_bar_and_keeps_the_plan(self):
        plan = make_plan(self.piece, make_student(self.teacher))
        rows = [step.first_id for step in plan.steps.all()]
        flip_hand(self.piece, 2, "1 snare")
        self.client.post(
            reverse("piece-edit-bar", args=[self.piece.pk]),
            {"op": "drop", "bar": 2, "until": 2, "at": "7/2", "drum": "kick"},
            headers={"HX-Request": "true"},
        )
        self.client.post(reverse("piece-edit-save", args=[self.piece.pk]), {"title": "Quay"})
        bar = self.piece.chart().bars[2]
        self.assertEqual([h.hand for h in bar.hits if h.drum == "snare"], ["R", None])
        self.assertEqual([step.first_id for step in plan.steps.all()], rows)

    def test_a_stroke_that_is_not_there_is_refused(self):
        for stroke in ("", "9 snare", "1 kick", "nonsense"):
            response = self.client.post(self.flip_address, {"stroke": stroke})
            self.assertEqual(response.status_code, 404, stroke)
