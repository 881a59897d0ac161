"""What was worked out once is asked again only where what it was made of has changed."""

from unittest.mock import patch

from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.style import School
from wren_ladder.studio import kept_on_disk
from wren_ladder.studio.changes.pieces import save_piece
from wren_ladder.studio.pieces import equal_bars as remembered
from wren_ladder.studio.pieces.equal_bars import equal_bars
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans import judged
from wren_ladder.studio.plans.models import OwnRank

THREE = "bar 0\nbeats 1\nsnare 4\nbar 1\nkick 1\nbar 2 as 1\nbar 3\nkick 1 3"


class EqualBars(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher, THREE)

    def test_by_place_with_the_pick_up(self):
        found = equal_bars(self.piece)
        self.assertEqual((found.kinds, found.pickups), ((0, 1, 1, 3), frozenset({0})))

    def test_another_process_reads_no_bar(self):
        equal_bars(self.piece)
        remembered._remembered.cache_clear()
        with self.assertNumQueries(0):
            self.assertEqual(equal_bars(self.piece).kinds, (0, 1, 1, 3))

    def test_a_piece_that_was_changed_since_it_was_read_is_as_it_is_now(self):
        older = Piece.objects.get(pk=self.piece.pk)
        save_piece(self.piece, read_chart(THREE.replace("kick 1 3", "kick 1")))
        remembered._remembered.cache_clear()
        kept_on_disk.forget(remembered.REMEMBERED)
        self.assertEqual(equal_bars(older).kinds, (0, 1, 1, 1))


class Judged(StudioTest):
    def setUp(self):
        super().setUp()
        judged._judged.cache_clear()
        judged._broken_down.cache_clear()
        self.piece = make_piece(self.teacher, THREE)
        self.plan = make_plan(self.piece, make_student(self.teacher))
        judged._judged.cache_clear()

    def asked(self) -> int:
        """How often the core judged for one look at the breakdown."""
        with patch.object(judged, "judge", wraps=judged.judge) as judge:
            page = self.client.get(reverse("plan-steps", args=[self.plan.pk]))
        self.assertEqual(page.status_code, 200)
        return judge.call_count

    def test_once_until_the_piece_the_target_the_grade_or_a_rank_is_another(self):
        self.assertEqual(self.asked(), 1)
        self.assertEqual(self.asked(), 0)
        log(self.plan.steps.first(), 90)  # a try says nothing of the music
        self.assertEqual(self.asked(), 0)
        save_piece(self.piece, read_chart(THREE.replace("kick 1 3", "kick 1 4")))
        self.assertEqual(self.asked(), 1)
        self.plan.__class__.objects.filter(pk=self.plan.pk).update(target=131)
        self.assertEqual(self.asked(), 1)
        self.plan.student.__class__.objects.filter(pk=self.plan.student_id).update(grade=6)
        self.assertEqual(self.asked(), 1)
        row = self.piece.bars.get(position=1)
        OwnRank.objects.create(bar=row, student=self.plan.student, rank=9.5)
        self.assertEqual(self.asked(), 1)
        self.assertEqual(self.asked(), 0)

    def test_what_is_remembered_is_what_the_core_says_anew(self):
        _, first = judged.steps_for(self.plan)
        with patch.object(judged, "_judged", judged._judged.__wrapped__):
            school = School(self.plan.school)
            again = judged._broken_down.__wrapped__(*judged._asked(self.plan), school)
        self.assertEqual(first, again)
