"""The teaching style: chosen once, and followed by every page."""

from django.urls import reverse

from tests.studio.base import StudioTest, make_piece, make_plan, make_student
from wren_ladder.drumming.hands.schools import Sticking
from wren_ladder.drumming.style import HOUSE, School
from wren_ladder.studio.changes.plans import model_plan
from wren_ladder.studio.pages.teaching.forms import StyleForm
from wren_ladder.studio.teaching.models import TeachingStyle, style_of, syllabus_of


class StyleTest(StudioTest):
    def fields(self, **changed):
        form = StyleForm.of(style_of(self.teacher.pk), syllabus_of(self.teacher.pk))
        shown = {name: form[name].value() for name in form.fields}
        if not shown["phrase_count"]:
            del shown["phrase_count"]
        return {**shown, **changed}

    def save(self, **changed):
        return self.client.post(reverse("teaching-style"), self.fields(**changed))


class Choosing(StyleTest):
    def test_the_page_shows_the_house_and_its_example(self):
        page = self.client.get(reverse("teaching-style"))
        self.assertContains(page, "yel-low-ham-mer")
        self.assertContains(page, "Counted in: <b>1 2 3 4</b>")

    def test_saved_as_shown_nothing_differs_from_the_house(self):
        self.save()
        self.assertEqual(style_of(self.teacher.pk), HOUSE)
        self.assertEqual(TeachingStyle.objects.get().choices, {})

    def test_what_is_chosen_is_kept_and_shown_again(self):
        self.assertRedirects(
            self.save(
                counting="takadimi",
                sticking="kit-flow",
                hand_limit="7.5",
                school="layer",
            ),
            reverse("teaching-style"),
        )
        style = style_of(self.teacher.pk)
        self.assertEqual((style.sticking, style.hand_limit), (Sticking.KIT_FLOW, 7.5))
        self.assertEqual(style.school, School.LAYER)
        plan = model_plan(make_piece(self.teacher, "snare flam 1 2 3, drag 4"), self.teacher)
        self.assertEqual(plan.school, "layer")
        self.assertEqual(plan.steps.first().name, "Bar 1, plain rhythm")
        page = self.client.get(reverse("teaching-style"))
        self.assertContains(page, ">ka<")

    def test_every_page_follows(self):
        piece = make_piece(self.teacher)
        plan = make_plan(piece, make_student(self.teacher))
        self.save(counting="takadimi")
        for address in (piece.get_absolute_url(), plan.get_absolute_url()):
            self.assertContains(self.client.get(address), ">di<")

    def test_the_bars_number_in_its_phrase(self):
        piece = make_piece(self.teacher)
        self.save(phrase_count="on")
        panel = self.client.get(reverse("bar-panel", args=[piece.pk, 2]))
        self.assertContains(panel, '<text class="count main" x="112.0" y="18">3</text>')

    def test_new_climbs_start_as_the_teacher_does_it(self):
        self.save(start_share="60", rung="4", clean_bars="16")
        piece = make_piece(self.teacher)
        page = self.client.get(reverse("give", args=[piece.pk]))
        plan = page.context["form"].instance
        self.assertEqual((plan.rung, plan.clean_bars), (4, 16))
        self.assertEqual(page.context["usual"]["start"], 70)

    def test_the_teachers_words_and_grades(self):
        self.save(words="two quavers: tea-pot", syllabus="flams: 4")
        self.assertEqual(style_of(self.teacher.pk).words, (("two quavers", "tea-pot"),))
        self.assertEqual(syllabus_of(self.teacher.pk)["flams"], 4)
        self.assertEqual(syllabus_of(self.teacher.pk)["drags"], 2)

    def test_weights_change_which_bars_come_first(self):
        text = "tempo crotchet = 180\nbar 1\nsnare ruff 1 2 3 4\nbar 2\nsnare 16ths"
        piece = make_piece(self.teacher, text)
        page = self.client.get(piece.get_absolute_url())
        self.assertEqual(page.context["hardest"][0]["name"], "1")
        self.save(weights="ornaments: 0\nspeed of one hand: 9")
        page = self.client.get(piece.get_absolute_url())
        self.assertEqual(page.context["hardest"][0]["name"], "2")

    def test_back_to_the_house(self):
        self.save(counting="words")
        self.client.post(reverse("teaching-reset"))
        self.assertEqual(style_of(self.teacher.pk), HOUSE)

    def test_another_teacher_is_not_touched(self):
        self.save(counting="words")
        self.assertEqual(style_of(self.other_teacher().pk), HOUSE)


class WrongInput(StyleTest):
    def test_each_field_says_what_would_be_right(self):
        for changed, said in (
            ({"words": "two quavers tea-pot"}, "line 1: write a name, a colon"),
            ({"words": "two quavrs: tea-pot"}, "is no figure known here"),
            ({"syllabus": "flams: 9"}, "flams: a grade is 0 to 8"),
            ({"syllabus": "moonwalk: 3"}, "no name of the house"),
            ({"weights": "bad luck: 3"}, "is no reason"),
            ({"weights": "trap: 99"}, "trap: a weight is 0 to 10"),
            ({"example": "hatt 8ths"}, "did you mean hat?"),
            ({"hand_limit": "0"}, "greater than or equal to 2"),
        ):
            with self.subTest(changed):
                response = self.save(**changed)
                self.assertContains(response, said, status_code=422)
                for text in changed.values():
                    self.assertContains(response, text, status_code=422)
        self.assertFalse(TeachingStyle.objects.exists())


class Example(StyleTest):
    def example(self, **changed):
        return self.client.post(reverse("teaching-example"), self.fields(**changed))

    def test_it_follows_choices_that_are_not_saved(self):
        self.assertContains(self.example(counting="takadimi"), ">ka<")
        self.assertContains(self.example(counting="words", example="hat 8ths"), ">rob<")
        self.assertFalse(TeachingStyle.objects.exists())

    def test_it_says_why_each_hand(self):
        said = self.example(sticking="accents-lead", example="snare 8ths, accent 1")
        self.assertContains(said, "the lead hand plays the accents")

    def test_a_wrong_example_is_told(self):
        self.assertContains(self.example(example="hatt 8ths"), "did you mean hat?")
