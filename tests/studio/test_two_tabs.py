"""One draft open in two tabs, a form that arrives twice, a letter that arrives late."""

from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.studio.pieces.drafts import bars_of
from wren_ladder.studio.pieces.models import Draft, Piece

NEW = "bar 1\nhat 8ths\nsnare 2 4\n"


class Tab:
    """What a page of the editor sends along: its own key and the version it shows."""

    def __init__(self, test, address, how="bars"):
        self.client, self.address = test.client, address
        page = test.client.get(address, {"as": how})
        self.sent = {"page": str(page.context["page_key"])}
        self.sent["version"] = page.context["draft"].version

    def press(self, op, **sent):
        hand = {"op": op, "bar": 0, "until": 0, "at": "7/2", "drum": "snare", "grid": "8ths"}
        answer = self.client.post(
            f"{self.address}bar/", {**hand, **self.sent, **sent}, headers={"HX-Request": "true"}
        )
        self.sent["version"] = answer.context["draft"].version
        return answer

    def type(self, text):
        return self.client.post(f"{self.address}text/", {"text": text, **self.sent})

    def save(self, **sent):
        return self.client.post(f"{self.address}save/", {**self.sent, **sent})


class TwoTabs(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher)
        self.address = reverse("piece-edit", args=[self.piece.pk])

    def test_an_older_tab_is_told_and_goes_on_with_what_the_other_did(self):
        one, two = Tab(self, self.address), Tab(self, self.address)
        one.press("drop")
        refused = two.press("drop", at="1/2", drum="kick")
        self.assertContains(refused, "changed in another tab")
        draft = Draft.objects.get()
        self.assertEqual(draft.edits.count(), 1)
        two.press("drop", at="1/2", drum="kick")  # it shows the other's stroke by now
        said = {(str(hit.at), hit.drum.value) for hit in bars_of(Draft.objects.get())[0].hits}
        self.assertLessEqual({("7/2", "snare"), ("1/2", "kick")}, said)
        self.assertContains(one.press("drop"), "changed in another tab")

    def test_looking_at_another_bar_disturbs_nobody(self):
        one, two = Tab(self, self.address), Tab(self, self.address)
        one.press("drop")
        two.press("look", goto=2)
        self.assertNotContains(one.press("drop", at="5/2"), "another tab")

    def test_lines_typed_in_an_older_tab_stay_on_its_page(self):
        one, two = Tab(self, self.address), Tab(self, self.address)
        one.press("drop")
        refused = two.press("type", lines="floor 1 2", lines_were="?", lines_bar=0)
        self.assertContains(refused, "floor 1 2</textarea>")
        self.assertFalse(Draft.objects.get().lines)

    def test_text_of_an_older_tab_is_kept_on_its_page_and_saved_when_asked_again(self):
        one, two = Tab(self, self.address, "text"), Tab(self, self.address, "text")
        one.type(NEW)
        self.assertContains(two.type("bar 1\nkick 1"), "changed in another tab")
        again = two.save(text="bar 1\nkick 1", title="Quay")
        self.assertContains(again, "kick 1</textarea>", status_code=409)
        self.assertEqual(len(self.piece.chart().bars), 4)
        two.sent |= {
            "page": str(again.context["page_key"]),
            "version": again.context["draft"].version,
        }
        self.assertRedirects(
            two.save(text="bar 1\nkick 1", title="Quay"), self.piece.get_absolute_url()
        )
        self.assertEqual(len(self.fresh(self.piece).chart().bars), 1)

    def test_letters_on_their_way_when_save_was_pressed_are_no_other_tab(self):
        for how, typed in (("text", {"text": NEW}), ("bars", {})):
            with self.subTest(how):
                tab = Tab(self, self.address, how)
                tab.press("drop")
                shown = tab.save(title="", **typed)  # no title: the page comes again
                self.assertEqual(shown.status_code, 422)
                tab.type(NEW)  # sent before, read after
                sent = {"page": str(shown.context["page_key"])}
                sent["version"] = shown.context["draft"].version
                again = tab.save(title="Quay", **typed, **sent)
                self.assertRedirects(again, self.piece.get_absolute_url())

    def test_a_tab_of_a_discarded_draft_is_told(self):
        one, two = Tab(self, self.address), Tab(self, self.address)
        one.press("drop")
        two.press("look")
        one.press("drop", at="5/2")
        self.client.post(f"{self.address}discard/")
        self.assertContains(two.press("drop"), "changed in another tab")
        self.assertFalse(Draft.objects.exists())


class TwoTabsOfAForm(StudioTest):
    """What is there already, open twice: a student, a plan's tempos, the teaching style."""

    def forms(self):
        """(address, fields of one tab, fields of the other, what is kept of both)."""
        self.student = make_student(self.teacher, "Mira")
        self.plan = make_plan(make_piece(self.teacher), self.student)
        self.step = self.plan.steps.first()
        self.attempt = log(self.step, 90)
        teaching = reverse("teaching-style")
        return {
            reverse("student-edit", args=[self.student.pk]): (
                {"notes": "Counts\r\naloud.", "buffer": "10"},
                {"home_minutes": "25", "open_handed": "on", "buffer": "20"},
            ),
            reverse("plan-edit", args=[self.plan.pk]): (
                {"target": "110", "own_rungs": "90 100 110"},
                {"rung": "4", "ladder": "marks", "target": "130"},
            ),
            reverse("step-edit", args=[self.step.pk]): (
                {"name": "The fill", "repeats": "6", "why": "in time"},
                {"start": "70", "target": "118", "repeats": "8"},
            ),
            reverse("attempt-edit", args=[self.attempt.pk]): (
                {"tempo": "95", "note": "with the click"},
                {"passes": "3", "clean_try": "no", "tempo": "85"},
            ),
            reverse("lesson-end", args=[self.student.pk]): (
                {"note": "Even."},
                {"note": "Slow."},
            ),
            teaching: (
                {"words": "crotchet: pie", "phrase_count": "on", "rung": "4"},
                {"sticking": "grid-hand", "weights": "trap: 2", "rung": "6"},
            ),
        }

    def test_what_another_tab_saved_stays_and_what_both_changed_is_asked_about(self):
        for address, (first, second) in self.forms().items():
            with self.subTest(address):
                some = next(iter(first))
                one, two = self.opened(address, some), self.opened(address, some)
                both = next(name for name in first if name in second)
                own = {name: value for name, value in second.items() if name != both}
                for sent in (one | first, two | own):
                    self.assertEqual(self.client.post(address, sent).status_code, 302)
                now = self.opened(address, some)
                for name, value in (first | own).items():
                    self.assertIn(value.split("\r\n")[0], now[name], name)
                later = two | {both: second[both], "form_key": ""}  # another press
                asked = self.client.post(address, later)
                self.assertContains(asked, "Meanwhile another tab kept", 1, status_code=422)
                self.assertIn(first[both][:2], self.opened(address, some)[both])
                again = self.fields_of(asked, some)
                self.assertEqual(again[both], second[both])
                self.client.post(address, again)
                self.assertEqual(self.opened(address, some)[both], second[both])

    def test_a_tab_that_changes_nothing_undoes_nothing(self):
        for address, (first, _) in self.forms().items():
            with self.subTest(address):
                some = next(iter(first))
                old = self.opened(address, some)
                self.client.post(address, old | first)
                kept = self.opened(address, some)
                self.client.post(address, old)
                now = self.opened(address, some)
                fields = kept.keys() - {"csrfmiddlewaretoken", "form_key"}
                self.assertEqual([now[one] for one in fields], [kept[one] for one in fields])

    def test_a_box_and_a_choice_are_asked_about_in_words(self):
        address = next(iter(self.forms()))
        one, two = self.opened(address, "lead"), self.opened(address, "lead")
        self.client.post(address, one | {"open_handed": "on", "lesson_day": "2"})
        asked = self.client.post(address, two | {"lesson_day": "4"})
        self.assertContains(asked, "another tab kept Wednesday.", 1, status_code=422)
        self.client.post(address, two | {"name": "Bo"})
        self.assertTrue(self.fresh(self.student).open_handed)


class SavedOnce(StudioTest):
    address = "/pieces/new/"

    def test_a_new_piece_saved_twice_is_one_piece(self):
        tab = Tab(self, self.address, "text")
        first = tab.save(text=NEW, title="Mole")
        second = tab.save(text=NEW, title="Mole")
        self.assertEqual(Piece.objects.count(), 1)
        self.assertRedirects(second, first.url)

    def test_other_text_of_a_page_that_was_saved_is_not_lost(self):
        tab = Tab(self, self.address, "text")
        tab.save(text=NEW, title="Mole")
        again = tab.save(text=NEW + "kick 1\n", title="Mole")  # after going back
        self.assertContains(again, "has been kept from this page", status_code=409)
        self.assertContains(again, "kick 1", status_code=409)

    def test_a_letter_that_arrives_after_saving_makes_no_draft(self):
        for address in (
            self.address,
            reverse("piece-edit", args=[make_piece(self.teacher).pk]),
        ):
            with self.subTest(address):
                tab = Tab(self, address, "text")
                tab.type(NEW)
                tab.save(text=NEW, title="Mole")
                self.assertContains(tab.type(NEW), "has been kept")
                self.assertFalse(Draft.objects.exists())
