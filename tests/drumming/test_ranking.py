"""Which bar is harder: the demo's pieces ranked by hand before the weights were set, and what
a teacher of beginners expects of first bars. Common practice, no source."""

import unittest
from dataclasses import replace

from tests.builders import make_chart
from wren_ladder.demo import CHARTS
from wren_ladder.drumming.files import open_file
from wren_ladder.drumming.judging.judgement import Player, judge
from wren_ladder.drumming.study import study

# For a student of this grade: "harder > easier", by printed bar numbers. The first bar of an
# odd metre or of a feel that is due comes before its variants: the ground moves there.
BY_HAND = {
    "fernhill_street_cadence": (5, """
        8 > 4, 8 > 1, 8 > 2, 8 > 5, 8 > 16, 8 > 9, 4 > 1, 4 > 2, 4 > 5, 4 > 16, 15 > 1, 15 > 2,
        15 > 5, 6 > 1, 6 > 2, 6 > 5, 10 > 1, 10 > 2, 10 > 5
    """),
    "five_gates": (7, """
        1 > 3, 4 > 3, 4 > 7, 5 > 3, 5 > 4, 5 > 7, 8 > 3, 8 > 7
    """),
    "harbour_wall_shuffle": (5, """
        1 > 2, 1 > 0, 1 > 25, 1 > 9, 4 > 2, 8 > 2, 12 > 2, 12 > 10, 16 > 10, 16 > 16b,
        28 > 25, 31 > 25, 31 > 28, 31 > 10, 32 > 25, 32 > 28, 32 > 10, 32 > 0, 41 > 42, 9 > 42
    """),
    "long_pier_signals": (4, """
        4 > 1, 4 > 2, 4 > 23, 9 > 1, 9 > 23, 10 > 1, 10 > 2, 1 > 23, 17 > 20, 21 > 1, 22 > 1,
        22 > 23
    """),
    "low_tide_one_drop": (3, "4 > 1, 5 > 1, 7 > 1, 8 > 1, 4 > 7"),
    "mirrorball_quay": (3, """
        4 > 2, 8 > 2, 12 > 1, 12 > 16, 9 > 2, 9 > 16, 11 > 2, 5 > 1, 5 > 2, 5 > 4, 5 > 8, 5 > 9,
        5 > 12
    """),
    "slack_line_freight": (4, """
        3 > 6, 1 > 6, 5 > 6, 8 > 6, 4 > 3, 4 > 6, 12 > 1, 12 > 3, 12 > 4, 12 > 5, 12 > 6, 12 > 8
    """),
    "slow_lantern": (2, "2 > 1, 4 > 2, 5 > 1, 5 > 2, 5 > 4, 8 > 1, 8 > 2, 8 > 4, 8 > 7, 5 > 7"),
}  # fmt: skip
FIRST_PIECE = """tempo crotchet = 70
bar 1
hat 8ths
snare 2 4
kick 1 3
bar 2 as 1
bar 3 as 1
kick 1 3 3&
bar 4
hat 8ths 1-2
snare 2, 3 3& 4 4&
kick 1
"""


def ranks(chart, grade: int) -> dict[str, float]:
    studied = study(chart)
    judged = judge(studied, Player(grade=grade))
    return {
        bar.number: catch.rank
        for bar, catch in zip(studied.chart.bars, judged.bars, strict=True)
    }


def alone(lines: str, grade: int | None = None, bpm: int = 90) -> float:
    chart = make_chart(f"tempo crotchet = {bpm}\nbar 1\n{lines}")
    return judge(study(chart), Player(grade=grade)).bars[0].rank


class ByHand(unittest.TestCase):
    def test_the_demos_pieces_are_ranked_as_by_hand(self):
        pairs = 0
        for name, (grade, text) in BY_HAND.items():
            path = CHARTS / f"{name}.wren"
            found = ranks(open_file(path.name, path.read_bytes()).chart, grade)
            for pair in text.replace("\n", " ").split(","):
                harder, easier = pair.replace(" ", "").split(">")
                with self.subTest(name, pair=pair.strip()):
                    self.assertGreater(found[harder], found[easier])
                pairs += 1
        self.assertGreaterEqual(pairs, 60)


class Beginners(unittest.TestCase):
    def test_grade_1_has_a_slope(self):
        found = ranks(make_chart(FIRST_PIECE), 1)
        self.assertLess(found["1"], found["3"])
        self.assertLess(found["3"], found["4"])


class Plain(unittest.TestCase):
    def test_syncopation_is_not_the_easiest_of_a_rock_piece(self):
        rock = alone("hat 8ths\nsnare 2 4\nkick 1 3")
        self.assertGreater(alone("snare 1 1a 2& 3 3a 4&"), rock + 1.5)

    def test_moved_accents_are_not_plain_semiquavers(self):
        plain = alone("snare 16ths")
        self.assertGreater(alone("snare 16ths, accent 1 1a 2& 4"), plain + 0.5)
        self.assertGreater(alone("snare 16ths, accent 1e 2a"), alone("snare 16ths, accent 1 2"))

    def test_the_quicker_roll_is_the_harder(self):
        five, seven = (alone(f"snare roll {n} 1-1&, accent 1&") for n in (5, 7))
        self.assertGreater(seven, five)
        self.assertGreater(alone("snare roll 7 1-1&, accent 1&", bpm=120), seven)

    def test_groups_across_the_beat_are_harder_than_groups_of_a_beat(self):
        three = alone("snare 1 1e 1& 2e 2& 2a 3& 3a 4\nhigh 1a 2\nfloor 3 3e 4e 4& 4a")
        self.assertGreater(three, alone("snare 1* 3*\nhigh 2*\nfloor 4*"))

    def test_plain_quavers_on_the_hat_are_no_reason(self):
        self.assertEqual(alone("hat 8ths\nsnare 2 4\nkick 1 3", bpm=130), 0)
        self.assertGreater(alone("hat 8ths\nsnare 2 4\nkick 1 3", bpm=170), 0)

    def test_due_is_about_half_of_new(self):
        lines = "snare flam 1, flam 2"
        known, due, new = (alone(lines, grade) for grade in (3, 2, 1))
        self.assertAlmostEqual((due - known) / (new - known), 0.5, delta=0.2)

    def test_from_twos_to_threes_is_a_reason(self):
        mixed = alone("snare 1 1& 2 2t 2l 3 3& 4 4t 4l")
        self.assertGreater(mixed, alone("snare triplets") + 0.5)

    def test_a_bar_taught_from_another_weighs_its_change(self):
        hard = "snare drag 1 2, flam 3, roll 7 4-end"
        chart = make_chart(f"bar 1\n{hard}\nbar 2\n{hard}\nkick 1")
        first, second = judge(study(chart), Player()).bars
        self.assertLess(second.rank, 1)
        self.assertGreater(first.rank, 3)

    def test_the_teachers_weight_of_a_reason_counts(self):
        chart = make_chart("bar 1\nsnare 1 1a 2& 3 3a 4&")
        player = Player()
        light = tuple((r, 0.0 if r.value == "rhythm" else w) for r, w in player.style.weights)
        easy = judge(study(chart), Player(style=replace(player.style, weights=light)))
        self.assertLess(easy.bars[0].rank, judge(study(chart), player).bars[0].rank)
