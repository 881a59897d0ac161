"""Editing by hand: one stroke, one bar, the order of the page, and the way back."""

import unittest
from dataclasses import replace
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from tests.builders import make_bar, make_chart
from tests.strategies import charts
from wren_ladder.drumming.chart import Chart, ChartError, Drum, Grace, Hand, RollKind, Touch
from wren_ladder.drumming.editing import bars as page
from wren_ladder.drumming.editing.grid import GRIDS, grid_for, places
from wren_ladder.drumming.editing.strokes import STROKES, hit_at
from wren_ladder.drumming.notation.counts import read_bar, write_bar
from wren_ladder.drumming.notation.lengths import keep_lengths

TWO = Fraction(1)  # beat 2, in crotchets from the bar line
SONG = "bar 1\nsection A\nhat 8ths\nbar 2\nsnare 2\nbar 3\nkick 1\nbar 4\nride 8ths"


def press(bar, *ops, at=TWO, drum=Drum.SNARE):
    for op in ops:
        bar = STROKES[op](bar, at, drum)
    return hit_at(bar, at, drum.surface)


class Strokes(unittest.TestCase):
    def test_a_drop_puts_a_stroke_and_the_next_takes_it_away(self):
        bar = make_bar("hat 8ths")
        self.assertEqual(press(bar, "drop").drum, Drum.SNARE)
        self.assertIsNone(press(bar, "drop", "drop"))

    def test_an_open_hat_dropped_on_a_closed_one_opens_it(self):
        bar = make_bar("hat 8ths")
        self.assertEqual(press(bar, "drop", drum=Drum.HIHAT_OPEN).drum, Drum.HIHAT_OPEN)

    def test_heights_go_from_ghost_to_strong_and_stop_there(self):
        bar = make_bar("snare 2")
        self.assertIs(press(bar, "higher").touch, Touch.ACCENT)
        self.assertIs(press(bar, *["higher"] * 5).touch, Touch.STRONG)
        self.assertIs(press(bar, *["lower"] * 5).touch, Touch.GHOST)

    def test_ornaments_rolls_hands_and_settings_come_round_again(self):
        bar = make_bar("snare 2 3")
        self.assertIs(press(bar, "ornament", "ornament").grace, Grace.DRAG)
        self.assertIs(press(bar, *["ornament"] * 4).grace, Grace.NONE)
        self.assertEqual(press(bar, "roll").roll.length, 1)  # to the next snare
        self.assertIs(press(bar, "roll", "roll").roll.kind, RollKind.BUZZ)
        self.assertIsNone(press(bar, *["roll"] * 3).roll)
        self.assertIs(press(bar, "hand").hand, Hand.RIGHT)
        self.assertIsNone(press(bar, *["hand"] * 3).hand)
        self.assertIs(press(bar, "otherwise").drum, Drum.CROSS_STICK)

    def test_a_roll_and_a_grace_make_way_for_each_other(self):
        bar = make_bar("snare 2")
        self.assertIs(press(bar, "ornament", "roll").grace, Grace.NONE)
        self.assertIsNone(press(bar, "roll", "ornament").roll)

    def test_a_stroke_dropped_into_a_roll_ends_it(self):
        bar = STROKES["drop"](make_bar("snare buzz 1-end"), Fraction(2), Drum.SNARE)
        self.assertEqual(bar.hits[0].roll.length, 2)

    def test_what_is_not_there_is_named_with_its_beat(self):
        with self.assertRaises(ChartError) as raised:
            STROKES["higher"](make_bar("hat 8ths"), TWO, Drum.SNARE)
        self.assertEqual(
            str(raised.exception), "bar 1, beat 2: there is no snare here; drop one first"
        )
        with self.assertRaisesRegex(ChartError, "kick is played in one way only"):
            STROKES["otherwise"](make_bar("kick 2"), TWO, Drum.KICK)

    def test_notes_changed_under_a_repeat_sign_are_written_out(self):
        bar = make_chart("bar 1\nhat 8ths\nbar 2 repeat").bars[1]
        self.assertEqual(STROKES["drop"](bar, TWO, Drum.SNARE).again, 0)

    def test_the_grid_has_its_steps_and_every_hit(self):
        bar = make_bar("hat 8ths, 4a")
        self.assertEqual(len(places(bar, "8ths")), 9)
        self.assertEqual(grid_for(bar), "16ths")
        self.assertEqual(grid_for(make_bar("snare triplets 1-2")), "triplets")

    @given(charts(most=3), st.data())
    def test_any_stroke_anywhere_gives_a_bar_or_a_reason(self, chart, data):
        bar = data.draw(st.sampled_from(chart.bars))
        at = data.draw(st.sampled_from(places(bar, data.draw(st.sampled_from(list(GRIDS))))))
        drum = data.draw(st.sampled_from(Drum))
        try:
            changed = STROKES[data.draw(st.sampled_from(list(STROKES)))](bar, at, drum)
        except ChartError as error:
            self.assertEqual(error.bar, bar.number)
        else:
            before = data.draw(st.just(changed.meter))
            text = write_bar(changed, before)
            # A written length that a new stroke cuts short says nothing more.
            kept = replace(changed, hits=keep_lengths(changed.hits, changed)).hits
            self.assertEqual(read_bar(text, changed.number, before).hits, kept)


class Pages(unittest.TestCase):
    def setUp(self):
        self.bars = make_chart(SONG).bars

    def order(self, bars):
        """Which bar of the song each is, "-" where it is empty."""
        known = {bar.hits: bar.number for bar in self.bars}
        return "".join(known.get(bar.hits, "-") for bar in bars)

    def numbers(self, bars):
        return [bar.number for bar in bars]

    def test_bars_put_in_are_empty_and_the_others_are_renumbered(self):
        bars = page.insert(self.bars, 2)
        self.assertEqual(self.order(bars), "12-34")
        self.assertEqual(self.numbers(bars), ["1", "2", "3", "4", "5"])

    def test_bars_taken_out(self):
        self.assertEqual(self.order(page.delete(self.bars, 1, 2)), "14")
        with self.assertRaisesRegex(ChartError, "one bar has to stay"):
            page.delete(self.bars, 0, 3)

    def test_the_tempo_at_the_top_stays_when_the_first_bar_goes(self):
        bars = make_chart("tempo crotchet = 96\n" + SONG).bars
        self.assertEqual(page.delete(bars, 0, 0)[0].tempo.bpm, 96)

    def test_bars_moved(self):
        self.assertEqual(self.order(page.move(self.bars, 0, 1, 1)), "3124")
        self.assertEqual(self.order(page.move(self.bars, 3, 3, -1)), "1243")
        self.assertEqual(self.order(page.move(self.bars, 3, 3, 1)), "1234")

    def test_put_in_before_the_first_bar_the_tempo_stands_at_the_top(self):
        bars = make_chart("tempo crotchet = 120\nbar 1\nswing\nhat 8ths\nbar 2\nkick 1").bars
        made = Chart("", page.insert(bars, 0))
        self.assertEqual([str(one) for one in made.tempos], ["crotchet = 120"] * 3)
        self.assertEqual(len(set(made.swings)), 1)
        self.assertEqual([bool(bar.tempo) for bar in made.bars], [True, False, False])

    def test_bar_1_moved_down_the_page_still_begins_with_1(self):
        bars = make_chart("tempo crotchet = 120\n" + SONG).bars
        made = page.move(bars, 0, 0, 1)
        self.assertEqual([bar.number for bar in made], ["1", "2", "3", "4"])
        self.assertEqual(made[1].hits, bars[0].hits)
        self.assertEqual(str(made[0].tempo), "crotchet = 120")
        self.assertIsNone(made[1].tempo)

    def test_the_bar_with_a_tempo_mark_goes_and_the_rest_is_as_fast_as_before(self):
        text = "tempo crotchet = 120\nbar 1\nhat 8ths\nbar 2\ntempo crotchet = 90\nkick 1\n"
        bars = make_chart(text + "bar 3\nsnare 2\nbar 4\nkick 3").bars
        made = Chart("", page.delete(bars, 1, 1))
        self.assertEqual([one.bpm for one in made.tempos], [120, 90, 90])

    @given(charts(most=8), st.data())
    def test_whatever_goes_or_moves_what_is_in_force_is_carried(self, chart, data):
        bars = chart.bars
        first = data.draw(st.integers(0, len(bars) - 1))
        last = data.draw(st.integers(first, len(bars) - 1))
        kept = [place for place in range(len(bars)) if not first <= place <= last]
        if kept:
            made = Chart("", page.delete(bars, first, last))
            for name in ("tempos", "swings"):
                before, after = getattr(chart, name), getattr(made, name)
                self.assertEqual([before[place] for place in kept], list(after))
        if not (bars[0].pickup and first == 0):
            made = Chart("", page.move(bars, first, last, data.draw(st.sampled_from([1, -1]))))
            self.assertEqual((made.tempos, made.swings), (chart.tempos, chart.swings))
            self.assertEqual(made.bars[0].number, bars[0].number)

    def test_the_music_is_pasted_and_the_road_signs_stay(self):
        bars = page.paste(self.bars, 0, [self.bars[3]])
        self.assertEqual(self.order(bars), "4234")
        self.assertEqual(bars[0].section, "A")

    def test_pasting_past_the_end_adds_bars(self):
        bars = page.paste(self.bars, 3, self.bars[:2])
        self.assertEqual(self.order(bars), "12312")
        self.assertEqual(self.numbers(bars), ["1", "2", "3", "4", "5"])

    def test_filling_down(self):
        self.assertEqual(self.order(page.fill_down(self.bars, 0, 2)), "1114")
        self.assertEqual(self.order(page.fill_down(self.bars, 3, 3)), "12344")

    def test_repeat_signs_come_and_go(self):
        signs = page.repeat_signs(self.bars, 1, 2, 1)
        self.assertEqual(self.order(signs), "1114")
        self.assertEqual([bar.again for bar in signs], [0, 1, 1, 0])
        notes = page.repeat_signs(signs, 1, 2, 1)
        self.assertEqual(self.order(notes), "1114")
        self.assertEqual([bar.again for bar in notes], [0, 0, 0, 0])
        with self.assertRaisesRegex(ChartError, "bar 1: there is no bar before it to repeat"):
            page.repeat_signs(self.bars, 0, 0, 1)

    def test_a_sign_follows_the_bar_it_repeats(self):
        signs = page.repeat_signs(self.bars, 1, 1, 1)
        changed = STROKES["drop"](signs[0], TWO, Drum.CRASH)
        after = Chart("", page.put(signs, 0, changed)).bars
        self.assertEqual(after[1].hits, after[0].hits)

    def test_a_sign_is_written_out_when_its_bar_goes(self):
        signs = page.repeat_signs(self.bars, 2, 2, 1)
        bars = page.delete(signs, 1, 1)
        self.assertEqual(self.order(bars), "124")
        self.assertEqual(bars[1].again, 0)

    def test_a_pick_up_stands_first_and_takes_the_tempo_along(self):
        bars = page.put_pickup(make_chart("tempo crotchet = 96\n" + SONG).bars)
        self.assertEqual(self.numbers(bars), ["0", "1", "2", "3", "4"])
        self.assertEqual((bars[0].length, bars[0].tempo.bpm, bars[1].tempo), (1, 96, None))
        with self.assertRaisesRegex(ChartError, "there is a pick-up already"):
            page.put_pickup(bars)
        with self.assertRaisesRegex(ChartError, "the pick-up stays first"):
            page.move(bars, 0, 0, 1)
        self.assertEqual(self.numbers(page.move(bars, 1, 1, -1))[0], "0")

    def test_empty_bars_follow_a_new_metre(self):
        bars = make_chart("bar 1\nsnare 1\nbars 2-3 rest\nbar 4\nsnare 1").bars
        after = page.set_meter(bars, 0, make_bar("snare 1", "3/4"))
        self.assertEqual([str(bar.meter) for bar in after], ["3/4", "3/4", "3/4", "4/4"])

    @given(charts(), charts())
    def test_every_change_can_be_undone_and_done_again(self, before, after):
        splice = page.difference(before.bars, after.bars)
        self.assertEqual(splice.apply(before.bars), after.bars)
        self.assertEqual(splice.undone.apply(after.bars), before.bars)

    @given(charts(), st.data())
    def test_whatever_is_done_to_the_page_it_is_a_chart(self, chart, data):
        bars = chart.bars
        last = data.draw(st.integers(0, len(bars) - 1))
        first = data.draw(st.integers(0, last))
        ways = {
            "insert": lambda: page.insert(bars, last + 1),
            "delete": lambda: page.delete(bars, first, last),
            "on": lambda: page.move(bars, first, last, 1),
            "back": lambda: page.move(bars, first, last, -1),
            "fill": lambda: page.fill_down(bars, first, last),
            "paste": lambda: page.paste(bars, last, bars[first : last + 1]),
            "repeat": lambda: page.repeat_signs(bars, first, last, 1),
            "repeat 2": lambda: page.repeat_signs(bars, first, last, 2),
            "clear": lambda: page.clear(bars, first, last),
            "pick-up": lambda: page.put_pickup(bars),
        }
        try:
            after = Chart("", ways[data.draw(st.sampled_from(list(ways)))]()).bars
        except ChartError:
            return
        self.assertGreaterEqual(len(after), 1)
        self.assertEqual(Chart("", after).bars, after)
