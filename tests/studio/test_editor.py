"""The chart editor: every press changes the draft, nothing typed is lost."""

import re

from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from tests.studio.base import QUAY, StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.studio.changes.pieces import add_piece
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.pieces.drafts import bars_of
from wren_ladder.studio.pieces.models import Draft, Import, Piece
from wren_ladder.studio.plans.models import Step


class EditorTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher, QUAY)

    def press(self, op, bar=0, until=None, htmx=True, **sent):
        address = reverse("piece-edit-bar", args=[self.piece.pk])
        hand = {"bar": bar, "until": bar if until is None else until, "at": "1"}
        headers = {"HX-Request": "true"} if htmx else {}
        data = {"op": op, "drum": "snare", "grid": "8ths", **hand, **sent}
        return self.client.post(address, data, headers=headers)

    def typed(self, lines, bar=0, op="type", **sent):
        return self.press(op, bar, lines=lines, lines_were="?", lines_bar=bar, **sent)

    @property
    def draft(self):
        return Draft.objects.get(piece=self.piece)

    def numbers(self):
        return [bar.number for bar in bars_of(self.draft)]

    def lines(self, bar=0):
        page = self.client.get(
            reverse("piece-edit", args=[self.piece.pk]), {"as": "bars", "bar": bar}
        )
        return page.context["lines"]


class CardsAnswered(EditorTest):
    """A press brings the cards that look different, not the wall."""

    def cards(self, response) -> list[str]:
        return re.findall(r'id="edit-card-(\d+)"[^>]*hx-swap-oob', response.content.decode())

    def test_a_stroke_brings_its_bars_card_alone(self):
        response = self.press("drop", 1, at="7/2")
        self.assertEqual(self.cards(response), ["1"])
        self.assertNotContains(response, 'id="edit-wall"')
        self.assertEqual(self.cards(self.press("look", 0)), [])

    def test_a_bar_more_or_a_new_section_brings_the_whole_wall(self):
        self.assertContains(self.press("insert", 0), 'id="edit-wall"')

    def test_a_page_that_is_behind_gets_the_whole_wall(self):
        address = reverse("piece-edit", args=[self.piece.pk])
        page = self.client.get(address, {"as": "bars"}).content.decode()
        shown = {
            name: re.search(f'name="{name}"[^>]* value="([^"]+)"', page)[1]
            for name in ("page", "version")
        }
        self.assertEqual(self.cards(self.press("drop", 1, at="7/2", **shown)), ["1"])
        behind = self.press("drop", 1, at="3", **shown)
        self.assertContains(behind, 'id="edit-wall"')


class Presses(EditorTest):
    def test_a_stroke_dropped_shows_in_the_typed_lines(self):
        before = self.lines()
        response = self.press("drop", at="7/2")
        self.assertContains(response, "snare 2 4 4&amp;")
        self.assertNotEqual(self.lines(), before)
        self.assertEqual(self.piece.chart().bars[0].hits, make_piece_bars(QUAY)[0].hits)

    def test_the_chosen_bars_are_varied_in_one_press_and_one_undo(self):
        before = [self.lines(bar) for bar in range(2)]
        response = self.press("vary", 0, 1, vary="ride")
        self.assertContains(response, "hat to the ride in bars 1 to 2")
        for bar in range(2):
            self.assertNotIn("hat", self.lines(bar))
            self.assertIn("ride", self.lines(bar))
        self.press("undo")
        self.assertEqual([self.lines(bar) for bar in range(2)], before)
        response = self.press("vary", vary="kick-1-2-3-4")
        self.assertContains(response, "four on the floor")
        self.assertIn("kick quarters", self.lines())
        self.assertContains(self.press("vary", vary="polka"), "that is no variation")

    def test_a_fill_of_the_workshop_is_put_in_the_last_chosen_bar(self):
        fill = ["half", ["two quavers", "crotchet"], "snare", "level"]
        recipe = {"fill": fill, "groove": ["hat-quavers", "1-3", "two-and-four", "nothing"]}
        made = add_piece(self.teacher, self.piece.chart(), kind=Piece.Kind.FILL, made_of=recipe)
        page = self.client.get(reverse("piece-edit", args=[self.piece.pk]), {"as": "bars"})
        self.assertContains(page, f'value="fill-{made.pk}"')
        self.press("vary", 0, 1, vary=f"fill-{made.pk}")
        self.assertIn("snare 3 3& 4", self.lines(1).replace("2 3", "3"))
        Piece.objects.filter(pk=made.pk).update(made_of={"fill": ["gone"]})
        self.assertContains(self.press("vary", vary=f"fill-{made.pk}"), "no variation")

    def test_lines_typed_show_on_the_limbs(self):
        response = self.typed("meter 4/4\nfloor 1 2")
        self.assertContains(response, 'data-drum="tom-floor"', count=2)

    def test_a_wrong_word_is_pointed_at_and_kept(self):
        response = self.typed("meter 4/4\nhatt 8ths")
        self.assertContains(response, "<mark>hatt</mark>")
        self.assertContains(response, "did you mean hat?")
        self.assertEqual(self.lines(), "meter 4/4\nhatt 8ths")  # tomorrow too
        self.assertEqual(bars_of(self.draft), make_piece_bars(QUAY))

    def test_nothing_else_is_done_while_a_bar_cannot_be_read(self):
        response = self.typed("hatt 8ths", op="delete")
        self.assertContains(response, "did you mean hat?")
        self.assertEqual(len(bars_of(self.draft)), len(make_piece_bars(QUAY)))
        put_back = self.press("put-back")
        self.assertNotContains(put_back, "hatt")

    def test_typing_not_sent_yet_is_taken_before_a_key_is_obeyed(self):
        self.typed("meter 4/4\nfloor 1", op="higher", at="0", drum="tom-floor")
        self.assertEqual(self.lines(), "meter 4/4\nfloor accent 1")

    def test_bars_are_put_in_taken_out_copied_and_filled(self):
        count = len(make_piece_bars(QUAY))
        self.press("insert", 0)
        self.assertEqual(len(self.numbers()), count + 1)
        self.assertEqual(self.lines(1), "")
        self.press("copy", 0)
        self.press("paste", 1)
        bars = bars_of(self.draft)
        self.assertEqual(bars[1].hits, bars[0].hits)
        self.press("delete", 0, 1)
        self.assertEqual(len(self.numbers()), count - 1)
        self.press("fill", 0, 2)
        bars = bars_of(self.draft)
        self.assertEqual(bars[2].hits, bars[0].hits)

    def test_copies_go_from_piece_to_piece(self):
        self.press("copy", 0)
        copied = self.piece
        self.piece = make_piece(self.teacher, "bar 1\nkick 1", title="Other")
        self.press("paste", 0)
        self.assertEqual(bars_of(self.draft)[0].hits, copied.chart().bars[0].hits)

    def test_pasting_nothing_says_what_to_do(self):
        self.assertContains(self.press("paste"), "copy a bar first")

    def test_every_change_is_undone_and_done_again_by_name(self):
        first = bars_of_piece = self.piece.chart().bars
        self.press("drop", at="7/2")
        self.press("insert", 0)
        self.press("repeat", 1)
        for _ in range(3):
            response = self.press("undo")
        self.assertContains(response, "undone: a stroke in bar 1")
        self.assertEqual(bars_of(self.draft), bars_of_piece)
        self.assertContains(self.press("undo"), "there is nothing to undo")
        self.press("redo")
        self.assertNotEqual(bars_of(self.draft), first)
        self.press("clear", 0)  # a new change forgets what was undone
        self.assertContains(self.press("redo"), "there is nothing to redo")

    def test_letters_typed_one_by_one_are_undone_at_once(self):
        for text in ("snare 1", "snare 1 2", "snare 1 2 3"):
            self.typed(text)
        self.press("undo")
        self.assertEqual(bars_of(self.draft), self.piece.chart().bars)

    def test_a_lane_names_the_limb(self):
        self.press("clear", 0)
        self.press("drop", limb="right foot", at="0")
        self.press("drop", limb="left hand", at="1")
        kick, snare = bars_of(self.draft)[0].hits
        self.assertEqual((kick.drum, snare.drum, snare.hand), ("kick", "snare", "L"))

    def test_marks_are_set_and_seen_in_the_lines(self):
        marks = {"section": "B Bridge", "repeat_start": "on", "endings": "1, 2"}
        self.press("marks", 1, **marks, jump="D.S. al Coda", tempo="crotchet = 90")
        lines = self.lines(1)
        for line in ("section B Bridge", "repeat start", "ending 1 2", "jump D.S. al Coda"):
            self.assertIn(line, lines)

    def test_marks_that_make_no_sense_are_told_and_nothing_changes(self):
        response = self.press("marks", 1, tempo="fast")
        self.assertContains(response, "is not a tempo; write it like crotchet = 92")
        response = self.press("marks", 1, endings="99")
        self.assertContains(response, "an ending is for passes 1 to 16")
        self.assertEqual(bars_of(self.draft), self.piece.chart().bars)

    def test_a_hand_out_of_its_mind_does_no_harm(self):
        for sent in (
            {"bar": "999", "at": "1/0"},
            {"at": "-3", "grid": "miles"},
            {"drum": "tuba", "limb": "tail"},
            {"op": "explode"},
            {"lines": "x", "lines_were": "", "lines_bar": "77"},
        ):
            with self.subTest(sent):
                self.assertEqual(self.press(**{"op": "drop", **sent}).status_code, 200)

    def test_without_scripts_a_button_still_works(self):
        response = self.press("insert", 0, htmx=False)
        self.assertRedirects(
            response, reverse("piece-edit", args=[self.piece.pk]) + "?as=bars&bar=1"
        )

    def test_looking_leaves_no_draft_behind(self):
        self.press("look", 0, goto=2)
        self.assertFalse(Draft.objects.exists())

    def test_a_stranger_cannot_touch_it(self):
        self.client.logout()
        self.assertEqual(self.press("drop").status_code, 302)


def make_piece_bars(text):
    from wren_ladder.drumming.notation.counts import read_chart

    return read_chart(text).bars


class Keeping(EditorTest):
    def save(self, **fields):
        address = reverse("piece-edit-save", args=[self.piece.pk])
        return self.client.post(address, {"title": "Quay", "grade": "", "notes": "", **fields})

    def test_saving_makes_the_draft_the_piece_and_ends_it(self):
        self.press("drop", at="7/2")
        self.assertRedirects(self.save(), self.piece.get_absolute_url())
        self.assertEqual(str(self.piece.chart().bars[0].hits[-1].at), "7/2")
        self.assertFalse(Draft.objects.exists())

    def test_a_title_is_needed_and_the_bars_stay(self):
        self.press("drop", at="7/2")
        response = self.save(title="")
        self.assertContains(response, "This field is required", status_code=422)
        self.assertContains(response, "snare 2 4 4&amp;", status_code=422)

    def test_a_bar_that_cannot_be_read_is_not_saved(self):
        response = self.save(lines="hatt", lines_were="", lines_bar="0")
        self.assertContains(response, "did you mean hat?", status_code=422)
        self.assertEqual(self.lines(), "hatt")

    def test_plans_and_attempts_stay_with_their_bars(self):
        plan = make_plan(self.piece, make_student(self.teacher))
        steps = {step.pk: (step.first_id, step.last_id) for step in plan.steps.all()}
        log(plan.steps.first(), 90)
        self.press("move-on", 0)
        self.press("insert", 0)
        self.press("drop", 2, at="7/2")
        self.save()
        for step in Step.objects.filter(plan=plan):
            self.assertEqual((step.first_id, step.last_id), steps[step.pk])
        self.assertEqual(Attempt.objects.count(), 1)
        for address in (plan.get_absolute_url(), reverse("plan-sheet", args=[plan.pk])):
            self.assertEqual(self.client.get(address).status_code, 200)

    def test_bars_stored_by_an_earlier_version_keep_their_rows(self):
        for row in self.piece.bars.all():
            for name in ("again", "crash_again", "note"):
                del row.data[name]
            row.save()
        before = [row.pk for row in self.piece.bars.all()]
        self.press("insert-before", 0)
        self.save()
        after = [row.pk for row in self.piece.bars.all()]
        self.assertEqual(after[1:], before)

    def test_a_draft_is_found_again_and_can_be_thrown_away(self):
        self.press("drop", at="7/2", title="Quay by night")
        self.assertContains(self.client.get(reverse("pieces")), "are not kept yet")
        again = self.client.get(reverse("piece-edit", args=[self.piece.pk]))
        self.assertContains(again, "Quay by night")
        discard = reverse("piece-edit-discard", args=[self.piece.pk])
        self.assertContains(self.client.get(discard), "Discard")
        self.client.post(discard)
        self.assertFalse(Draft.objects.exists())

    def test_a_piece_changed_elsewhere_is_told(self):
        self.press("drop", at="7/2")
        Piece.objects.update(fingerprint="other")
        page = self.client.get(reverse("piece-edit", args=[self.piece.pk]))
        self.assertContains(page, "changed elsewhere")


class AsText(EditorTest):
    def test_text_and_bars_are_the_same_draft(self):
        self.press("drop", at="7/2")
        address = reverse("piece-edit", args=[self.piece.pk])
        self.assertContains(self.client.get(address, {"as": "text"}), "snare 2 4 4&amp;")
        text = reverse("piece-edit-text", args=[self.piece.pk])
        self.client.post(text, {"text": "bar 1\nfloor 1"})
        bars = self.client.get(address, {"as": "bars"}, follow=True)
        self.assertContains(bars, 'data-drum="tom-floor"')

    def test_text_that_cannot_be_read_survives_a_closed_tab(self):
        self.client.post(reverse("piece-new-text"), {"text": "bar 1\nhatt 8ths"})
        page = self.client.get(reverse("piece-new"))
        self.assertContains(page, "hatt 8ths</textarea>")
        by_bars = self.client.get(reverse("piece-new"), {"as": "bars"})
        self.assertContains(by_bars, "Mend it here first")
        self.assertContains(self.client.get(reverse("pieces")), "go on with it")

    def test_one_wrong_word_hides_no_other_bar(self):
        text = "bar 1\nhat 8ths\nbar 2\nsnarre 2\nkick 1\nbar 3\nkick 1q\nbar 4 as 1"
        page = self.client.post(reverse("piece-new-text"), {"text": text})
        self.assertContains(page, "did you mean snare?")
        self.assertContains(page, "&#x27;1q&#x27; is no position")
        for number in (1, 2, 3):
            self.assertContains(page, f"<b>Bar {number}</b>")
        saved = self.client.post(reverse("piece-new-save"), {"title": "Sand Bar", "text": text})
        self.assertEqual(saved.status_code, 422)
        self.assertFalse(Piece.objects.filter(title="Sand Bar").exists())

    def test_saved_text_comes_back_as_it_was_typed(self):
        text = "Bar 1   # the groove\nHi-Hat quavers; bass drum on 1 and 3\n\nbar 2 like bar 1"
        self.client.post(reverse("piece-new-save"), {"title": "Sand Bar", "text": text})
        piece = Piece.objects.get(title="Sand Bar")
        address = reverse("piece-edit", args=[piece.pk])
        page = self.client.get(address, {"as": "text"})
        self.assertContains(page, f"{text}</textarea>")
        # Changed through another door, it says what is there now.
        press = {"op": "drop", "bar": 1, "at": "1/1", "drum": "snare"}
        self.client.post(
            reverse("piece-edit-bar", args=[piece.pk]), press, headers={"HX-Request": "true"}
        )
        self.client.post(reverse("piece-edit-save", args=[piece.pk]), {"title": "Sand Bar"})
        page = self.client.get(address, {"as": "text"})
        self.assertNotContains(page, "the groove")
        self.assertContains(page, "kick 1 3")

    def test_an_uploaded_text_comes_back_as_it_was_typed(self):
        file = SimpleUploadedFile("sand.wren", b"title Sand Bar\nbar 1 # light\nkick 1")
        self.client.post(reverse("piece-upload"), {"file": file})
        sent = {"title": "Sand Bar", "notes": "", "grade": ""}
        self.client.post(reverse("import-save", args=[Import.objects.get().pk]), sent)
        piece = Piece.objects.get(title="Sand Bar")
        page = self.client.get(reverse("piece-edit", args=[piece.pk]), {"as": "text"})
        self.assertContains(page, "bar 1 # light")

    def test_a_new_piece_can_be_made_bar_by_bar(self):
        address = reverse("piece-new-bar")
        headers = {"HX-Request": "true"}
        self.client.post(address, {"op": "fill", "bar": 0}, headers=headers)
        self.client.post(reverse("piece-new-save"), {"title": "Two Bars"})
        self.assertEqual(Piece.objects.get(title="Two Bars").bar_count, 2)
        self.assertFalse(Draft.objects.exists())
