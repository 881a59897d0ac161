"""Bars and joins weighed for one player. Reasons are common practice."""

import unittest
from dataclasses import replace
from itertools import pairwise

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.builders import make_chart
from tests.strategies import charts
from wren_ladder.drumming.chart import Chart, Hand
from wren_ladder.drumming.findings import weigh
from wren_ladder.drumming.findings.playing import playing_findings
from wren_ladder.drumming.judging.judgement import JoinKind, Player, judge, music_of
from wren_ladder.drumming.study import study
from wren_ladder.drumming.style import HOUSE, Reason

GROOVE = "hat 8ths\nsnare 2 4\nkick 1 3"


def judged(text: str, **fields):
    return judge(study(make_chart(text)), Player(**fields))


def joins(text: str) -> dict[tuple[int, int], tuple]:
    found = {}
    for join in judged(text).joins:
        found[join.leaving, join.landing] = (join.kind, [t.reason for t in join.weighed])
    return found


class Bars(unittest.TestCase):
    def test_the_target_counts_and_not_the_printed_tempo(self):
        text = "tempo crotchet = 100\nbar 1\nsnare roll 7 1-2, 2"
        printed = judged(text).bars[0].rank
        self.assertEqual(judged(text, target=100).bars[0].rank, printed)
        self.assertLess(judged(text, target=60).bars[0].rank, printed)
        self.assertGreater(judged(text, target=120).bars[0].rank, printed)

    def test_what_the_grade_has_not_had_is_new(self):
        text = "snare flam 1 2 3 4"
        new = [t.text for t in judged(text, grade=1).bars[0].weighed if t.reason is Reason.NEW]
        self.assertEqual(new, ["new: flams"])
        self.assertFalse(any("new" in t.text for t in judged(text, grade=8).bars[0].weighed))

    def test_the_teachers_rank_goes_over_the_sum_for_every_equal_bar(self):
        text = "bar 1\nsnare 1 1a 2&\nbar 2\nkick 1\nbar 3 as 1"
        found = judged(text, ranks={2: 7.5})
        self.assertEqual([bar.rank for bar in found.bars][::2], [7.5, 7.5])
        self.assertIsNone(found.bars[1].own)
        self.assertTrue(found.bars[0].weighed)  # the reasons stay to be seen

    def test_a_bar_known_from_another_piece_is_known_by_its_music(self):
        known = {music_of(make_chart(f"bar 9\n{GROOVE}").bars[0])}
        self.assertEqual(
            judged(f"bar 1\n{GROOVE}\nbar 2\nkick 1", known=known).known, (True, False)
        )

    @settings(max_examples=50)
    @given(charts(most=6), st.integers(40, 150), st.integers(1, 60), st.integers(1, 7))
    def test_a_faster_target_and_a_lower_grade_never_make_it_easier(
        self, chart, target, more, grade
    ):
        studied = study(chart)
        easy = judge(studied, Player(grade=grade + 1, target=target))
        hard = judge(studied, Player(grade=grade, target=target + more))
        for slow, fast in zip(easy.bars, hard.bars, strict=True):
            self.assertLessEqual(slow.rank, fast.rank)

    @settings(max_examples=50)
    @given(charts(most=6))
    def test_mirrored_hands_are_as_hard_for_a_mirrored_player(self, chart):
        bars = tuple(
            replace(
                bar,
                hits=tuple(replace(h, hand=h.hand and h.hand.other) for h in bar.hits),
                again=0,
                crash_again=False,
            )
            for bar in chart.bars
        )
        left = replace(HOUSE, lead=Hand.LEFT)
        theirs = judge(study(Chart("", bars), left), Player(style=left))
        ours = judge(study(chart))
        self.assertEqual([b.rank for b in ours.bars], [b.rank for b in theirs.bars])

    @settings(max_examples=50)
    @given(charts(most=8))
    def test_bars_are_judged_at_their_tempo_and_every_join_is_there(self, chart):
        studied = study(chart)
        found = judge(studied)
        for index, (bar, tempo) in enumerate(zip(studied.bars, studied.tempos, strict=True)):
            if bar.difference:
                continue  # weighed by its change
            # Without its twins.
            alone = playing_findings(bar.bar, bar.sticks, tempo, HOUSE, swing=bar.swing)
            self.assertEqual(
                found.bars[index].weighed,
                weigh((*alone, *bar.caught, *bar.ground), HOUSE),
                index,
            )
        played = [visit.index for visit in studied.visits]
        road = set(pairwise(played))
        self.assertEqual({(j.leaving, j.landing) for j in found.joins}, road)


class Tempos(unittest.TestCase):
    def test_an_equal_bar_under_a_faster_tempo_is_harder(self):
        text = "tempo crotchet = 60\nbar 1\nsnare 16ths\nbar 2 as 1\ntempo crotchet = 190"
        studied = study(make_chart(text))
        slow, fast = studied.bars
        self.assertEqual(fast.twin_of, 0)
        self.assertGreater(fast.rank, slow.rank)
        slow, fast = judge(studied).bars
        self.assertGreater(fast.rank, slow.rank)


class Joins(unittest.TestCase):
    def test_a_join_across_a_jump(self):
        found = joins(
            f"bar 1\nrepeat start\n{GROOVE}\nbar 2\nsnare 1\nrepeat end 2\nbar 3\nkick 1"
        )
        self.assertEqual(found[1, 0], (JoinKind.JUMP, [Reason.JUMP]))
        self.assertEqual(found[0, 1][0], JoinKind.BAR)

    def test_lines_and_sections_are_told_apart(self):
        text = f"bar 1\n{GROOVE}\nbars 2-5 as 1\nbar 6\nsection B\n{GROOVE}"
        kinds = {pair: kind for pair, (kind, _) in joins(text).items()}
        self.assertEqual(kinds[2, 3], JoinKind.BAR)
        self.assertEqual(kinds[3, 4], JoinKind.LINE)
        self.assertEqual(kinds[4, 5], JoinKind.SECTION)

    def test_reasons_at_the_bar_line(self):
        for text, reason in (
            ("bar 1\nhat 8ths\nbar 2\nmeter 3/4\nhat 8ths", Reason.METER),
            ("bar 1\nhat 8ths\nbar 2\ntempo crotchet = 150\nhat 8ths\nkick 1", Reason.METER),
            ("bar 1\nhat 8ths\nbar 2\nride 8ths", Reason.REACH),
            ("tempo 80\nbar 1\nsnare 1\nkick 4a\nbar 2\nkick 1 2", Reason.QUICK_KICKS),
            (
                "tempo 80\nbar 1\nsnare 1 4a\nhands R R\nbar 2\nsnare 1 2\nhands R L",
                Reason.DOUBLES,
            ),
            ("bar 1\nsnare 1\nbar 2\nsnare 1&", Reason.ENTRY),
        ):
            with self.subTest(text):
                self.assertIn(reason, joins(text)[0, 1][1])

    def test_equal_bars_meet_without_trouble(self):
        self.assertEqual(joins(f"bar 1\n{GROOVE}\nbar 2 as 1")[0, 1], (JoinKind.BAR, []))
