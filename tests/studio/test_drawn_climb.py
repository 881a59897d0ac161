"""What the climb's drawings say: ladder, progress with its forecast, practice calendar."""

import unittest
from datetime import timedelta

from tests.builders import DAY
from wren_ladder.drumming.climb import rungs
from wren_ladder.studio.drawing.ladder import Climber, ladder_view
from wren_ladder.studio.drawing.practice_map import WEEKS, practice_calendar
from wren_ladder.studio.drawing.progress_chart import Ahead, HeldTempos, progress_chart


def day(number: int):
    return DAY + timedelta(days=number)


class Ladder(unittest.TestCase):
    def test_a_rung_just_below_the_target_goes_without_its_number(self):
        view = ladder_view(rungs(65, 112), [])
        self.assertEqual([one.bpm for one in view.rungs if one.label][-2:], [105, 112])

    def test_a_climber_stands_on_the_highest_rung_it_holds_or_on_the_ground(self):
        view = ladder_view(rungs(70, 100), [Climber("Bar 1", 83), Climber("Bar 2", None)])
        on_80 = next(one.y for one in view.rungs if one.bpm == 80)
        self.assertEqual([bird.y for bird in view.birds], [on_80, view.ground])


class Progress(unittest.TestCase):
    def chart(self, ahead=None, held=90):
        climbs = [HeldTempos("Bar 4", ((day(-30), 80), (day(-2), held)), strong=True)]
        return progress_chart(climbs, 100, day(0), day(60), ahead)

    def test_the_forecast_is_a_wedge_from_today_to_its_window_at_the_target(self):
        chart = self.chart(Ahead(90, day(20), day(35), day(55)))
        today, low, high = (
            tuple(float(n) for n in point.split(",")) for point in chart.band.split()
        )
        self.assertEqual(today[0], chart.today.position)
        self.assertEqual((low[1], high[1]), (chart.target.position, chart.target.position))
        self.assertTrue(today[0] < low[0] < chart.ready.position < high[0])
        self.assertEqual(chart.ready.text, f"{day(35):%-d %b}")

    def test_without_one_there_is_no_wedge(self):
        self.assertEqual(self.chart().band, "")

    def test_a_window_years_away_is_cut_off_at_the_edge(self):
        chart = self.chart(Ahead(90, day(20), day(35), day(2000)))
        far = float(chart.band.split()[-1].partition(",")[0])
        self.assertLessEqual(far, chart.right)

    def test_a_name_never_lies_on_the_targets(self):
        (stair,) = self.chart(held=100).stairs
        self.assertEqual(stair.end_y, self.chart(held=100).target.position)
        self.assertGreater(stair.name_y, stair.end_y)


class Calendar(unittest.TestCase):
    def view(self, tries=None, minutes=None, lessons=()):
        return practice_calendar(tries or {}, minutes or {}, lessons, DAY)

    def test_every_day_of_the_last_weeks_has_a_head_and_none_to_come(self):
        view = self.view()
        self.assertEqual(len(view.heads), 7 * (WEEKS - 1) + DAY.weekday() + 1)
        self.assertTrue(view.heads[-1].title.startswith(f"{DAY:%-d %b}"))

    def test_the_longer_the_day_the_larger_its_head(self):
        view = self.view(minutes={day(-3): 5, day(-2): 25, day(-1): 300})
        short, middle, long = (head.r for head in view.heads[-4:-1])
        self.assertTrue(short < middle < long)
        self.assertEqual(long, self.view(minutes={day(-1): 30}).heads[-2].r)

    def test_it_says_what_it_shows(self):
        view = self.view({day(-1): 6}, {day(-1): 20, day(-300): 99}, {day(0)})
        self.assertIn("Practice on 1 of the last", view.spoken)
        self.assertIn("20 minutes logged", view.spoken)
        self.assertEqual(view.heads[-2].title, f"{day(-1):%-d %b}: 20 minutes, 6 tries")
        self.assertIn("head-lesson", view.heads[-1].kind)


if __name__ == "__main__":
    unittest.main()
