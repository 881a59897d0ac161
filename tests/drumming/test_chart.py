"""Values of the page: what they hold, and what they refuse."""

import unittest
from fractions import Fraction

from hypothesis import given

from tests.builders import make_bar
from tests.strategies import bars
from wren_ladder.drumming.chart import (
    Bar,
    Chart,
    ChartError,
    Drum,
    Grace,
    Hand,
    Hit,
    Mark,
    MarkKind,
    Meter,
    Problem,
    Roll,
    RollKind,
    Tempo,
)
from wren_ladder.drumming.chart.serial import bar_from_json, bar_to_json

FOUR = Meter(4, 4)


class Meters(unittest.TestCase):
    def test_beats_gather_as_they_are_felt(self):
        felt = {
            "4/4": [1, 1, 1, 1],
            "6/8": [Fraction(3, 2)] * 2,
            "12/8": [Fraction(3, 2)] * 4,
            "5/8": [Fraction(3, 2), 1],
            "7/8": [1, 1, Fraction(3, 2)],
            "3/8": [Fraction(3, 2)],
            "2/2": [2, 2],
        }
        for text, groups in felt.items():
            with self.subTest(text):
                meter = Meter.parse(text)
                self.assertEqual(list(meter.groups), groups)
                self.assertEqual(sum(meter.groups), meter.length)

    def test_only_counts_in_threes_over_eight_are_compound(self):
        compound = [text for text in ("3/8", "6/8", "7/8", "9/8", "6/4") if self._is(text)]
        self.assertEqual(compound, ["6/8", "9/8"])

    def _is(self, text):
        return Meter.parse(text).compound

    def test_refusals_say_what_would_be_right(self):
        for text, said in {
            "4": "write it like 4/4",
            "4/5": "the lower number is 2, 4, 8 or 16",
            "0/4": "the upper number is 1 to 32",
            "99/4": "the upper number is 1 to 32",
        }.items():
            with self.subTest(text), self.assertRaisesRegex(ChartError, said):
                Meter.parse(text)


class Tempos(unittest.TestCase):
    def test_the_beat_unit_is_part_of_the_mark(self):
        self.assertEqual(Tempo.parse("dotted crotchet = 60"), Tempo(Fraction(3, 2), 60))
        self.assertEqual(Tempo.parse("96"), Tempo(Fraction(1), 96))
        self.assertEqual(Tempo.parse("Quarter=96"), Tempo(Fraction(1), 96))
        self.assertEqual(str(Tempo.parse("dotted quarter 72")), "dotted crotchet = 72")

    def test_refusals_say_what_would_be_right(self):
        for text, said in {
            "fast": "write it like crotchet = 92",
            "breve = 60": "'breve' is not a beat",
            "crotchet = 5": "it is 20 to 400 a minute",
        }.items():
            with self.subTest(text), self.assertRaisesRegex(ChartError, said):
                Tempo.parse(text)


class Hits(unittest.TestCase):
    def test_feet_take_no_hand_no_roll_and_no_grace(self):
        roll = Roll(RollKind.OPEN, Fraction(1), 7)
        for extra, said in (
            ({"hand": Hand.LEFT}, "kick cannot take a sticking"),
            ({"roll": roll}, "kick cannot take a roll"),
            ({"grace": Grace.FLAM}, "kick cannot take a grace note"),
        ):
            with self.subTest(said), self.assertRaisesRegex(ChartError, said):
                Hit(Fraction(0), Drum.KICK, **extra)

    def test_a_roll_has_a_count_that_exists_and_lasts(self):
        with self.assertRaisesRegex(ChartError, "no roll has 8 strokes"):
            Roll(RollKind.OPEN, Fraction(1), 8)
        with self.assertRaisesRegex(ChartError, "a buzz roll has no stroke count"):
            Roll(RollKind.BUZZ, Fraction(1), 7)
        with self.assertRaisesRegex(ChartError, "longer than nothing"):
            Roll(RollKind.OPEN, Fraction(0))


class Bars(unittest.TestCase):
    def test_hits_stand_in_time_order_top_of_the_page_first(self):
        kick, hat = Hit(Fraction(0), Drum.KICK), Hit(Fraction(0), Drum.HIHAT)
        later = Hit(Fraction(1), Drum.CRASH)
        self.assertEqual(Bar("1", FOUR, (later, kick, hat)).hits, (hat, kick, later))

    def test_an_open_and_a_closed_hat_cannot_sound_at_once(self):
        both = (Hit(Fraction(3), Drum.HIHAT), Hit(Fraction(3), Drum.HIHAT_OPEN))
        with self.assertRaisesRegex(ChartError, "bar 7, beat 4: .*struck twice at once"):
            Bar("7", FOUR, both)

    def test_a_hit_outside_the_bar_is_refused(self):
        with self.assertRaisesRegex(ChartError, "bar 2: snare lies 4 crotchets"):
            Bar("2", FOUR, (Hit(Fraction(4), Drum.SNARE),))

    def test_a_roll_ends_at_the_bar_line(self):
        roll = Hit(Fraction(3), Drum.SNARE, roll=Roll(RollKind.OPEN, Fraction(2), 9))
        with self.assertRaisesRegex(ChartError, "bar 1, beat 4: the roll on snare runs past"):
            Bar("1", FOUR, (roll,))

    def test_a_bar_holds_no_more_than_its_metre(self):
        with self.assertRaisesRegex(ChartError, "the bar lasts 5 crotchets, but 4/4 holds 4"):
            Bar("1", FOUR, length=Fraction(5))

    def test_a_repeat_has_a_sensible_number_of_passes(self):
        with self.assertRaisesRegex(ChartError, "a repeat has 2 to 16 passes"):
            Bar("1", FOUR, repeat_passes=17)

    def test_marks_lie_in_the_bar_and_two_of_a_kind_not_at_once(self):
        late = Mark(Fraction(4), MarkKind.FERMATA)
        with self.assertRaisesRegex(ChartError, "bar 3: the fermata lies outside the bar"):
            Bar("3", FOUR, marks=(late,))
        loud, soft = (Mark(Fraction(1), MarkKind.DYNAMIC, text) for text in ("f", "p"))
        with self.assertRaisesRegex(ChartError, "bar 3, beat 2: two dynamics at once"):
            Bar("3", FOUR, marks=(loud, soft))

    def test_a_pick_up_counts_into_the_bar_it_leads_to(self):
        pickup = Bar("0", FOUR, length=Fraction(1))
        self.assertEqual(pickup.count_offset, 3)
        self.assertEqual(pickup.beat_of(Fraction(0)), "4")
        self.assertEqual(pickup.beats, ((0, 1),))

    @given(bars())
    def test_every_hit_is_in_exactly_one_beat(self, bar):
        gathered = [hit for _, _, hits in bar.by_beat() for hit in hits]
        self.assertEqual(tuple(gathered), bar.hits)

    @given(bars())
    def test_what_is_stored_is_read_back_the_same(self, bar):
        self.assertEqual(bar_from_json(bar_to_json(bar)), bar)


class Charts(unittest.TestCase):
    def test_bar_numbers_are_unique(self):
        with self.assertRaisesRegex(ChartError, "bar 1: this bar number is used twice"):
            Chart("", (make_bar(), make_bar()))

    def test_only_the_first_bar_is_a_pick_up(self):
        with self.assertRaisesRegex(ChartError, "bar 0: only the first bar"):
            Chart("", (make_bar(), make_bar(number="0")))

    def test_an_empty_chart_and_a_monstrous_one_are_refused(self):
        with self.assertRaisesRegex(ChartError, "there are no bars yet"):
            Chart("", ())
        many = tuple(Bar(str(n), FOUR) for n in range(1, 1002))
        with self.assertRaisesRegex(ChartError, "1001 bars; a chart has at most 1000"):
            Chart("", many)

    def test_without_a_mark_the_tempo_is_crotchet_60(self):
        self.assertEqual(str(Chart("", (make_bar(),)).tempo), "crotchet = 60")

    def test_a_problem_names_its_bar_in_words(self):
        self.assertEqual(str(Problem("x", "is odd", "4")), "bar 4: is odd")
        self.assertEqual(str(Problem("x", "is odd")), "is odd")
