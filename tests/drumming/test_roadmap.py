"""Play order, times and durations."""

import unittest

from hypothesis import given

from tests.builders import make_chart
from tests.strategies import charts
from wren_ladder.drumming.roadmap import play_seconds, road_map


def order(text: str) -> str:
    chart = make_chart(text)
    return " ".join(chart.bars[v.index].number for v in road_map(chart.bars).visits)


class PlayOrder(unittest.TestCase):
    def test_without_repeats_the_bars_are_played_as_printed(self):
        self.assertEqual(order("1 | 2 | 3"), "1 2 3")

    def test_a_repeat_goes_back_to_its_start(self):
        self.assertEqual(order("1 | 2 start | 3 end | 4"), "1 2 3 2 3 4")

    def test_a_repeat_without_a_start_goes_back_to_the_last_end_or_the_beginning(self):
        self.assertEqual(order("1 | 2 end | 3"), "1 2 1 2 3")
        self.assertEqual(order("1 start | 2 end | 3 | 4 end"), "1 2 1 2 3 4 3 4")

    def test_a_repeat_is_played_as_often_as_it_says(self):
        self.assertEqual(order("1 start endx4 | 2"), "1 1 1 1 2")

    def test_each_visit_knows_which_time_it_is(self):
        visits = road_map(make_chart("1 | 2 start endx3").bars).visits
        self.assertEqual([(v.index, v.time) for v in visits], [(0, 1), (1, 1), (1, 2), (1, 3)])

    def test_a_start_that_never_ends_is_told_and_played_once(self):
        road = road_map(make_chart("1 | 2 start | 3").bars)
        self.assertEqual(len(road.visits), 3)
        self.assertEqual(
            [str(problem) for problem in road.problems],
            ["bar 2: a repeat starts here and never ends; it is played once"],
        )

    def test_a_second_start_before_an_end_is_told_too(self):
        road = road_map(make_chart("1 start | 2 start | 3 end").bars)
        self.assertEqual([problem.bar for problem in road.problems], ["1"])
        self.assertEqual([visit.index for visit in road.visits], [0, 1, 2, 1, 2])

    @given(charts())
    def test_it_visits_every_bar_and_no_other_and_ends(self, chart):
        visits = road_map(chart.bars).visits
        self.assertEqual({visit.index for visit in visits}, set(range(len(chart.bars))))


class Durations(unittest.TestCase):
    """Metronome arithmetic: length in beats x 60 / BPM."""

    def seconds(self, text, bpm=None):
        chart = make_chart(text)
        return play_seconds(chart, road_map(chart.bars).visits, bpm)

    def test_a_bar_of_four_at_120_lasts_two_seconds(self):
        self.assertEqual(self.seconds("tempo crotchet = 120\nbar 1\nkick 1"), 2)

    def test_six_eight_at_dotted_crotchet_60_lasts_two_seconds(self):
        text = "meter 6/8\ntempo dotted crotchet = 60\nbar 1\nkick 1"
        self.assertEqual(self.seconds(text), 2)

    def test_repeats_last_as_often_as_they_are_played(self):
        self.assertEqual(self.seconds("bar 1\nkick 1\nrepeat end 3"), 12)

    def test_a_new_mark_holds_from_its_bar_on_and_scales_with_the_target(self):
        text = "bar 1\ntempo crotchet = 60\nkick 1\nbar 2\ntempo crotchet = 120\nkick 1"
        self.assertEqual(self.seconds(text), 4 + 2)
        self.assertEqual(self.seconds(text, bpm=120), 2 + 1)

    def test_a_pick_up_lasts_only_what_it_holds(self):
        self.assertEqual(self.seconds("bar 0\nbeats 1\nkick 4\nbar 1\nkick 1"), 1 + 4)
