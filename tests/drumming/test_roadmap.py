"""Play order, times and durations."""

import unittest
from itertools import pairwise

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.builders import make_chart
from tests.strategies import pages
from wren_ladder.drumming.performance import road_seconds
from wren_ladder.drumming.roadmap import MOST_VISITS, legs, road_map, what_follows


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

    def test_around_a_repeat_that_began_later_it_goes_back_further_and_is_told(self):
        road = road_map(make_chart("1 | 2 start end | 3 end | 4").bars)
        self.assertEqual([visit.index for visit in road.visits], [0, 1, 1, 2, 0, 1, 1, 2, 3])
        said = "bar 3: a repeat ends without a start; it goes back to bar 1"
        self.assertEqual([str(problem) for problem in road.problems], [said])

    def test_repeats_inside_repeats_are_taken_on_every_pass(self):
        self.assertEqual(order("1 start | 2 start end | 3 end"), "1 2 2 3 1 2 2 3")

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


class Endings(unittest.TestCase):
    def test_each_pass_has_its_own_ending(self):
        self.assertEqual(order("1 | 2 ending1 end | 3 ending2 | 4"), "1 2 1 3 4")
        self.assertEqual(
            order("1 start | 2 ending1,2 end | 3 ending3 end | 4 ending4"), "1 2 1 2 1 3 1 4"
        )

    def test_an_ending_may_be_several_bars_long(self):
        text = "1 | 2 ending1 | 3 ending1 end | 4 ending2 | 5 ending2 | 6"
        self.assertEqual(order(text), "1 2 3 1 4 5 6")

    def test_a_single_ending_is_stepped_over_the_last_time(self):
        self.assertEqual(order("1 | 2 ending1 end | 3"), "1 2 1 3")

    def test_two_voltas_in_a_row_are_counted_apart(self):
        text = "1 | 2 ending1 end | 3 ending2 | 4 start | 5 ending1 end | 6 ending2"
        self.assertEqual(order(text), "1 2 1 3 4 5 4 6")

    def test_faulty_endings_are_named_and_played_all_the_same(self):
        for text, played, said in (
            ("1 | 2 ending1 | 3", "1 2 3", "bar 2: an ending, but no repeat sign"),
            ("1 | 2 ending1 end | 3 ending1 | 4", "1 2 1 3 4", "ending 1 is there already"),
            (
                "1 | 2 ending1 end | 3 ending5 end | 4",
                "1 2 1 3 4",
                "bar 3: ending 5 without an ending 2",
            ),
            (
                "1 | 2 ending1 | 3 ending2 end | 4",
                "1 2 1 3 4",
                "bar 2: this ending has no repeat sign; it goes back all the same",
            ),
        ):
            with self.subTest(text):
                road = road_map(make_chart(text).bars)
                self.assertIn(said, " ".join(str(problem) for problem in road.problems))
                self.assertEqual(order(text), played)


class Jumps(unittest.TestCase):
    def test_da_capo_al_fine_stops_at_fine_on_the_way_back(self):
        self.assertEqual(order("1 | 2 fine | 3 dc-al-fine"), "1 2 3 1 2")

    def test_dal_segno_al_coda_leaves_at_to_coda_only_after_the_jump(self):
        text = "1 | 2 segno | 3 to-coda | 4 ds-al-coda | 5 coda | 6"
        self.assertEqual(order(text), "1 2 3 4 2 3 5 6")

    def test_a_plain_jump_plays_to_the_end_once(self):
        self.assertEqual(order("1 | 2 segno | 3 ds | 4"), "1 2 3 2 3 4")

    def test_after_a_jump_repeats_are_left_out_and_the_last_ending_is_played(self):
        text = "1 start | 2 ending1 end | 3 ending2 fine | 4 dc-al-fine"
        self.assertEqual(order(text), "1 2 1 3 4 1 3")

    def test_the_style_or_the_page_asks_for_repeats_after_the_jump(self):
        text = "1 start | 2 ending1 end | 3 ending2 fine | 4 dc-al-fine"
        bars = make_chart(text).bars
        taken = road_map(bars, repeats_after_jump=True).visits
        self.assertEqual([visit.index for visit in taken], [0, 1, 0, 2, 3, 0, 1, 0, 2])
        self.assertEqual(order(f"{text}-with-repeats"), "1 2 1 3 4 1 2 1 3")
        text += "-without-repeats"
        never = road_map(make_chart(text).bars, repeats_after_jump=True).visits
        self.assertEqual([visit.index for visit in never], [0, 1, 0, 2, 3, 0, 2])

    def test_repeats_and_endings_that_nobody_has_played_yet_are_taken(self):
        head = "1 segno | 2 to-coda | 3 ds-al-coda"
        self.assertEqual(order(f"{head} | 4 coda start | 5 end | 6"), "1 2 3 1 2 4 5 4 5 6")
        text = f"{head} | 4 coda start | 5 ending1 end | 6 ending2 | 7"
        self.assertEqual(order(text), "1 2 3 1 2 4 5 4 6 7")
        self.assertEqual(order("1 start | 2 end | 3 dc-al-fine | 4 fine"), "1 2 1 2 3 1 2 3 4")

    def test_two_signs_lead_to_places_of_their_own(self):
        """D.S. al Coda, then D.S.S. al Coda 2. Common practice, no source."""
        self.assertEqual(
            order(
                "1 segno | 2 to-coda | 3 ds-al-coda | 4 coda segno-2 | 5 to-coda-2 | "
                "6 dss-al-coda-2 | 7 coda-2"
            ),
            "1 2 3 1 2 4 5 6 4 5 7",
        )
        self.assertEqual(order("1 segno | 2 segno-2 | 3 ds | 4 dss"), "1 2 3 1 2 3 4 2 3 4")

    def test_a_second_sign_that_is_missing_is_told(self):
        for text, played, said in (
            ("1 segno | 2 dss | 3", "1 2 3", "bar 2: D.S.S., but there is no second segno"),
            ("1 | 2 dc-al-coda-2 | 3", "1 2 1 2 3", "D.C. al Coda 2, but there is no coda 2"),
            ("1 | 2 dc-al-coda-2 | 3 coda-2", "1 2 1 2 3", "there is no To Coda 2"),
            ("1 segno-2 | 2", "1 2", "bar 1: no D.S.S. leads back to this segno"),
        ):
            with self.subTest(text):
                self.assertEqual(order(text), played)
                self.assertIn(
                    said, " ".join(map(str, road_map(make_chart(text).bars).problems))
                )

    def test_with_repeats_the_coda_and_the_fine_wait_for_the_last_pass(self):
        text = "1 segno start | 2 to-coda end | 3 ds-al-coda-with-repeats | 4 coda"
        self.assertEqual(order(text), "1 2 1 2 3 1 2 1 2 4")
        self.assertEqual(order(text.replace("-with-repeats", "")), "1 2 1 2 3 1 2 4")
        text = "1 start | 2 to-coda | 3 end | 4 dc-al-coda-with-repeats | 5 coda"
        self.assertEqual(order(text), "1 2 3 1 2 3 4 1 2 3 1 2 5")
        text = "1 start | 2 fine | 3 end | 4 dc-al-fine-with-repeats"
        self.assertEqual(order(text), "1 2 3 1 2 3 4 1 2 3 1 2")
        text = (
            "1 start | 2 ending1 to-coda end | 3 ending2 | 4 dc-al-coda-with-repeats | 5 coda"
        )
        self.assertEqual(order(text), "1 2 1 3 4 1 2 5")  # it comes on this pass only

    def test_a_full_last_bar_after_a_pick_up_is_told(self):
        bars = "\nbar 1\nkick 1\nbar 2\n"
        up = "bar 0\nbeats 1\nsnare 4"
        told = [str(one) for one in road_map(make_chart(f"{up}{bars}kick 1").bars).problems]
        self.assertEqual(len(told), 1)
        self.assertIn("bar 2: a full bar; by custom the last one lacks", told[0])
        short = make_chart(f"{up}{bars}beats 3\nkick 1").bars
        self.assertEqual(road_map(short).problems, ())
        self.assertEqual(road_map(make_chart(bars[1:] + "kick 1").bars).problems, ())

    def test_a_repeat_at_the_jump_is_finished_first(self):
        self.assertEqual(order("1 fine | 2 start end dc-al-fine"), "1 2 2 1")

    def test_missing_targets_are_named_and_the_sensible_order_played(self):
        for text, played, said in (
            ("1 | 2 ds | 3", "1 2 3", "bar 2: D.S., but there is no segno"),
            ("1 | 2 dc-al-coda | 3", "1 2 1 2 3", "D.C. al Coda, but there is no coda"),
            ("1 | 2 dc-al-fine", "1 2 1 2", "D.C. al Fine, but there is no Fine"),
            ("1 segno | 2", "1 2", "bar 1: no D.S. leads back to this segno"),
            ("1 fine | 2", "1 2", "bar 1: no jump leads to this Fine"),
            ("1 | 2 coda | 3 dc-al-coda | 4 coda", "1 2 3 1 2 4", "is read as To Coda"),
            ("1 segno | 2 segno | 3 ds", "1 2 3 1 2 3", "there is a segno already"),
        ):
            with self.subTest(text):
                road = road_map(make_chart(text).bars)
                self.assertIn(said, " ".join(str(problem) for problem in road.problems))
                self.assertEqual(order(text), played)

    def test_turns_are_listed_as_rehearsal_points(self):
        text = "1 | 2 segno | 3 to-coda | 4 ending1 end | 5 ending2 ds-al-coda | 6 coda"
        road = road_map(make_chart(text).bars)
        self.assertEqual(
            [(turn.leaving, turn.landing, turn.why) for turn in road.turns],
            [
                (3, 0, "repeat"),
                (2, 4, "ending 2"),
                (4, 1, "D.S. al Coda"),
                (2, 5, "to coda"),
            ],
        )

    def test_what_follows_a_bar_depends_on_which_time_it_comes(self):
        visits = road_map(make_chart("1 | 2 ending1 end | 3 ending2").bars).visits
        self.assertEqual([what_follows(visits, 0, time) for time in (1, 2)], [1, 2])
        self.assertIsNone(what_follows(visits, 2, 1))
        with self.assertRaises(ValueError):
            what_follows(visits, 0, 3)


class Legs(unittest.TestCase):
    def test_the_road_is_told_as_stretches_without_a_turn(self):
        visits = road_map(make_chart("1 | 2 ending1 end | 3 ending2 | 4").bars).visits
        told = [(leg.first, leg.last, leg.time, leg.start) for leg in legs(visits)]
        self.assertEqual(told, [(0, 1, 1, 0), (0, 0, 2, 2), (2, 3, 1, 3)])

    @given(pages())
    def test_the_legs_together_are_the_whole_road(self, bars):
        visits = road_map(bars).visits
        travelled = [i for leg in legs(visits) for i in range(leg.first, leg.last + 1)]
        self.assertEqual(travelled, [visit.index for visit in visits])


class AnyPage(unittest.TestCase):
    @settings(max_examples=300)
    @given(pages(), st.booleans())
    def test_the_road_visits_only_bars_of_the_page_and_ends(self, bars, repeats):
        visits = road_map(bars, repeats).visits
        self.assertTrue(visits)
        self.assertTrue(all(0 <= visit.index < len(bars) for visit in visits))
        self.assertLessEqual(len(visits), MOST_VISITS)

    @given(pages())
    def test_turns_and_neighbours_make_up_the_whole_road(self, bars):
        road = road_map(bars)
        turns = {(turn.leaving, turn.landing) for turn in road.turns}
        for before, after in pairwise(road.visits):
            if after.index != before.index + 1:
                self.assertIn((before.index, after.index), turns)


class Durations(unittest.TestCase):
    """Metronome arithmetic: length in beats x 60 / BPM."""

    def seconds(self, text, bpm=None):
        chart = make_chart(text)
        return road_seconds(chart, road_map(chart.bars).visits, bpm)

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
