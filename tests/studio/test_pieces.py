"""Pieces through their addresses: typed, uploaded, looked at, changed, deleted."""

import json

from django.urls import reverse

from tests.studio.base import QUAY, StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.studio.changes.pieces import save_piece
from wren_ladder.studio.changes.plans import model_plan
from wren_ladder.studio.pieces.models import Piece


class Typing(StudioTest):
    def post(self, **fields):
        return self.client.post(
            reverse("piece-new-save"), {"title": "Quay", "text": QUAY, "grade": 2, **fields}
        )

    def test_a_typed_piece_is_kept_bar_by_bar(self):
        response = self.post()
        piece = Piece.objects.get()
        self.assertRedirects(response, piece.get_absolute_url())
        self.assertEqual((piece.title, piece.grade, piece.bar_count), ("Quay", 2, 4))
        self.assertEqual(piece.chart(), read_chart(QUAY, title="Quay"))
        self.assertEqual((piece.meter, piece.tempo_mark), ("4/4", "crotchet = 120"))

    def test_a_wrong_word_is_pointed_at_and_the_text_kept(self):
        response = self.post(text="bar 1\nsnare 2 9")
        self.assertEqual(response.status_code, 422)
        self.assertContains(response, "snare 2 <mark>9</mark>", status_code=422, html=False)
        self.assertContains(response, "in 4/4 it counts from 1 to 4", status_code=422)
        self.assertContains(response, "bar 1\nsnare 2 9</textarea>", status_code=422)
        self.assertFalse(Piece.objects.exists())

    def test_the_preview_draws_each_different_bar_once(self):
        response = self.client.post(reverse("piece-new-text"), {"text": QUAY})
        self.assertContains(response, "2 different bars, 2 of them again")
        self.assertContains(response, 'class="staff-svg"', count=2)
        self.assertContains(response, "4 bars played · 0:08")

    def test_the_preview_of_an_error_names_line_and_word(self):
        response = self.client.post(reverse("piece-new-text"), {"text": "bar 1\nhatt 8ths"})
        self.assertContains(response, "did you mean hat?")
        self.assertContains(response, 'data-go-line="2" data-go-column="1" data-go-length="4"')

    def test_a_very_long_text_is_drawn_in_part_and_says_so(self):
        lines = [f"bar {n}\nsnare {1 + n // 60}+{n % 60 + 1}/64" for n in range(1, 99)]
        response = self.client.post(reverse("piece-new-text"), {"text": "\n".join(lines)})
        self.assertContains(response, "98 different bars")
        self.assertContains(response, "The first 60 are drawn here")

    def test_script_in_typed_text_stays_text(self):
        response = self.client.post(
            reverse("piece-new-text"), {"text": "<script>alert(1)</script>"}
        )
        self.assertNotContains(response, "<script>")
        response = self.post(text="bar 1\nsection <b>x</b>\nhat 8ths")
        page = self.client.get(response.url)
        self.assertNotContains(page, "<b>x</b>")

    def test_editing_starts_from_the_bars_as_they_would_be_typed(self):
        piece = make_piece(self.teacher)
        response = self.client.get(reverse("piece-edit", args=[piece.pk]), {"as": "text"})
        self.assertContains(response, "bar 2 as 1")
        self.assertContains(response, "snare 2 4 4&amp;")

    def test_too_much_text_is_refused_kindly(self):
        response = self.client.post(reverse("piece-new-text"), {"text": "x" * 200_001})
        self.assertContains(response, "too much text for one piece")


class Looking(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher)

    def test_the_wall_links_equal_bars_and_draws_them_once(self):
        response = self.client.get(self.piece.get_absolute_url())
        self.assertContains(response, "is 1 again", count=4)  # two tags with their titles
        self.assertContains(response, '<use href="#c0-all"/>', count=2)

    def test_bars_played_are_told_where_they_are_others_than_the_page_has(self):
        for name in ("piece", "piece-room", "piece-score", "piece-vocabulary"):
            with self.subTest(name):
                page = self.client.get(reverse(name, args=[self.piece.pk]))
                self.assertContains(page, f"{self.piece.bar_count} bars · ")
        again = make_piece(self.teacher, "bar 1\nhat 8ths\nrepeat end 2\nbar 2\nkick 1")
        page = self.client.get(reverse("piece-room", args=[again.pk]))
        self.assertContains(page, "2 bars, 3 played · ")

    def test_a_bar_opens_with_its_staff_and_its_limbs(self):
        response = self.client.get(reverse("bar-panel", args=[self.piece.pk, 3]))
        self.assertContains(response, "Bar 4, limb by limb")
        self.assertContains(response, "1: hat right and kick")
        self.assertNotContains(response, "<html")

    def test_a_limb_pair_is_isolated_by_dimming_the_others(self):
        address = reverse("bar-panel", args=[self.piece.pk, 0])
        response = self.client.get(address, {"limb": ["right hand", "right foot"]})
        self.assertContains(response, 'class="lane dim"', count=1)
        self.assertContains(response, 'class="lane foot dim"', count=1)

    def test_a_bar_beyond_the_end_is_not_there(self):
        response = self.client.get(reverse("bar-panel", args=[self.piece.pk, 99]))
        self.assertEqual(response.status_code, 404)
        response = self.client.get(self.piece.get_absolute_url(), {"bar": "99"})
        self.assertContains(response, "Bar 1, limb by limb")

    def test_pieces_are_found_by_a_part_of_their_title(self):
        make_piece(self.teacher, title="Slow Lantern")
        response = self.client.get(reverse("pieces"), {"q": "lant"})
        self.assertContains(response, "Slow Lantern")
        self.assertNotContains(response, ">Quay<")
        response = self.client.get(reverse("pieces"), {"q": "zzz"})
        self.assertContains(response, "No piece has “zzz” in its title")

    def test_deleting_asks_first_and_says_what_is_lost(self):
        make_plan(self.piece, make_student(self.teacher))
        address = reverse("piece-delete", args=[self.piece.pk])
        self.assertContains(self.client.get(address), "the plans and tries of Ines")
        self.assertTrue(Piece.objects.exists())
        self.client.post(address)
        self.assertFalse(Piece.objects.exists())


ROAD = """tempo crotchet = 60
bar 1
kick 1
bar 2 as 1
ending 1
repeat end 2
bar 3 as 1
ending 2
fine
bar 4
snare 1
jump D.C. al Fine
"""


class RoadMaps(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher, ROAD)
        self.address = reverse("piece-road", args=[self.piece.pk])

    def get(self, **asked):
        return self.client.get(self.address, asked)

    def test_the_way_its_turns_and_its_length_are_told(self):
        page = self.get()
        self.assertContains(page, "4 bars, 7 played · 0:28 at crotchet = 60")
        self.assertContains(page, "bars 3–4; bar 1, 3rd time; bar 3, 2nd time")
        for why in ("repeat", "ending 2", "D.C. al Fine"):
            self.assertContains(page, f"<td>{why}</td>")
        self.assertContains(page, "bar 1, 3 times · bar 2, once · bar 3, 2 times · bar 4, once")

    def test_what_follows_a_bar_the_third_time(self):
        for bar, time, answer in (
            ("1", 2, "After bar 1, 2nd time: bar 3."),
            ("3", 2, "After bar 3, 2nd time: the end."),
            ("4", 5, "Bar 4 is played once."),
            ("1", 9, "Bar 1 is played 3 times."),
            ("77", 1, "There is no bar 77."),
        ):
            with self.subTest(answer):
                self.assertContains(self.get(after=bar, time=time), answer)

    def test_the_length_at_any_tempo_and_at_each_students_target(self):
        make_plan(self.piece, make_student(self.teacher), start=90, target=120)
        self.assertContains(self.get(bpm="30"), "One run at 30 lasts 0:56.")
        self.assertContains(self.get(), "0:14 at 120")
        self.assertContains(self.get(bpm="9999"), "A tempo is 20 to 400 a minute.")

    def test_a_road_of_twenty_thousand_bars_is_cut_and_still_opens(self):
        text = "\n".join(
            f"bar {n}\nkick 1\nrepeat start" + "\nrepeat end 16" * (n > 6) for n in range(1, 12)
        )
        piece = make_piece(self.teacher, text, title="Endless")
        page = self.client.get(reverse("piece-road", args=[piece.pk]))
        self.assertContains(page, "more stretches than are drawn")

    def test_faults_of_the_page_stand_beside_it(self):
        piece = make_piece(self.teacher, "bar 1\nkick 1\njump D.S.", title="Odd")
        page = self.client.get(reverse("piece-road", args=[piece.pk]))
        self.assertContains(page, "bar 1: D.S., but there is no segno; it goes on")

    def test_signs_stand_on_the_cards_of_the_wall(self):
        page = self.client.get(self.piece.get_absolute_url())
        for sign in ("1.", "2. Fine", "D.C. al Fine"):
            self.assertContains(page, f'<span class="signs">{sign}</span>')


class Editing(StudioTest):
    """Bars that stay keep their rows, so that steps and attempts survive an edit."""

    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher)
        self.plan = make_plan(self.piece, make_student(self.teacher))
        self.step = self.plan.steps.get(name="Bar 4")
        log(self.step, 90)

    def edit(self, text: str):
        save_piece(self.piece, read_chart(text, title="Quay"))

    def test_a_changed_bar_keeps_its_row_its_step_and_its_attempts(self):
        row = self.step.first_id
        self.edit(QUAY.replace("snare 2 4 4&", "snare 2 3e 4*"))
        step = self.fresh(self.step)
        self.assertEqual((step.first_id, step.attempts.count()), (row, 1))

    def test_a_bar_put_in_front_moves_the_others_along(self):
        numbered = QUAY.replace("bars 2-3", "bars 3-4").replace("bar 4 as 1", "bar 5 as 1")
        front = numbered.replace("bar 1\n", "bar 1\ncrash 1\nbar 2\n").replace("as 1", "as 2")
        self.edit(front)
        step = self.fresh(self.step)
        self.assertEqual((step.first.number, step.first.position), ("5", 4))

    def test_a_deleted_bar_leaves_its_step_marked_and_the_log_whole(self):
        self.edit(QUAY[: QUAY.index("bar 4")])
        step = self.fresh(self.step)
        self.assertFalse(step.music_is_there)
        self.assertEqual(step.attempts.count(), 1)
        page = self.client.get(reverse("plan-steps", args=[self.plan.pk]))
        self.assertContains(page, "its bars are gone from the piece")
        self.assertEqual(self.client.get(self.plan.get_absolute_url()).status_code, 200)

    def test_the_page_shows_the_new_music_at_once(self):
        before = self.client.get(self.piece.get_absolute_url()).content
        self.edit(QUAY.replace("hat 8ths", "ride 8ths"))
        after = self.client.get(self.piece.get_absolute_url()).content
        self.assertIn(b"ride right", after)
        self.assertNotIn(b"ride right", before)

    def test_rows_hold_the_cores_own_json(self):
        row = self.piece.bars.first()
        self.assertEqual(json.loads(json.dumps(row.data)), row.data)
        self.assertEqual(row.bar.number, "1")


class ModelPlans(StudioTest):
    def test_breaking_down_makes_the_steps_once(self):
        piece = make_piece(self.teacher)
        response = self.client.post(reverse("break-down", args=[piece.pk]))
        plan = model_plan(piece, self.teacher)
        self.assertRedirects(response, reverse("plan-steps", args=[plan.pk]))
        names = [step.name for step in plan.steps.all()]
        self.assertEqual(names, ["Bar 1", "Bar 4", "Bars 3 to 4", "Whole piece"])
        self.client.post(reverse("break-down", args=[piece.pk]))
        self.assertEqual(piece.plans.count(), 1)
