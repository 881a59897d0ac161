"""Swing: written straight, played long and short. Common practice, no source."""

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from tests.builders import make_chart
from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.chart.serial import bar_from_json, bar_to_json
from wren_ladder.drumming.chart.swing import STRAIGHT, Swing
from wren_ladder.drumming.notation.counts import read_chart, write_chart
from wren_ladder.drumming.notation.mei import Layout, Scored, write_mei
from wren_ladder.drumming.notation.musicxml import read_musicxml, write_musicxml
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.study import study

SWUNG = "tempo crotchet = 60\nbar 1\nswing 8ths\nhat 8ths\nbar 2\nhat 8ths\n"
BACK = f"{SWUNG}bar 3\nstraight\nhat 8ths\nbar 4\nswing 16ths 3:2\nhat 16ths 1"


def sounding(text: str) -> list[float]:
    played = perform(study(make_chart(text)).road)
    return [round(one.at, 4) for one in played.onsets]


HALF = Fraction(1, 2)


class Places(unittest.TestCase):
    def test_swung_quavers_are_the_first_and_third_of_a_triplet(self):
        swing = Swing(Fraction(1, 2))
        found = [swing.sounds_at(Fraction(n, 2)) for n in range(4)]
        self.assertEqual(found, [0, Fraction(2, 3), 1, Fraction(5, 3)])

    def test_what_is_written_in_threes_stays_and_semiquavers_move_along(self):
        swing = Swing(Fraction(1, 2))
        self.assertEqual(
            [swing.sounds_at(Fraction(n, 3)) for n in range(3)],
            [0, Fraction(1, 3), Fraction(2, 3)],
        )
        self.assertEqual(swing.sounds_at(Fraction(1, 4)), Fraction(1, 3))
        self.assertEqual(swing.sounds_at(Fraction(3, 4)), Fraction(5, 6))

    @given(
        st.sampled_from([Fraction(1, 2), Fraction(1, 4)]), st.integers(1, 9), st.integers(1, 9)
    )
    def test_time_only_goes_on_and_the_beats_stay(self, unit, one, other):
        long, short = max(one, other) + 1, min(one, other)
        swing = Swing(unit, Fraction(long, long + short))
        found = [swing.sounds_at(Fraction(n, 8)) for n in range(32)]
        self.assertEqual(found, sorted(set(found)))
        self.assertEqual(found[::8], [0, 1, 2, 3])
        self.assertEqual(Swing.parse(str(swing)), swing)

    def test_what_is_no_swing_is_told_with_what_would_be_right(self):
        for text in ("swing quavers", "swing 8ths 1:2", "swing 8ths 2", "straight on"):
            with self.subTest(text), self.assertRaisesRegex(ChartError, "write swing 8ths"):
                Swing.parse(text)
        with self.assertRaisesRegex(ChartError, "line 2.*is no swing"):
            read_chart("bar 1\nswing 12ths\nhat 8ths")


class Pieces(unittest.TestCase):
    def test_a_mark_holds_until_the_next_and_is_heard(self):
        self.assertEqual(
            [str(one) for one in make_chart(BACK).swings],
            ["swing 8ths", "swing 8ths", "straight", "swing 16ths 3:2"],
        )
        found = sounding(BACK)
        self.assertEqual(found[1], 0.6667)  # seconds
        self.assertEqual(found[9], 4.6667)
        self.assertEqual(found[17], 8.5)
        self.assertEqual(found[24:28], [12, 12.3, 12.5, 12.8])

    def test_a_pick_up_swings_on_its_own_beat(self):
        text = "tempo crotchet = 60\nbar 0\nbeats 1/2\nswing 8ths\nsnare 4&\nbar 1\nkick 1"
        self.assertEqual(sounding(text), [0.1667, 0.5])

    def test_a_step_of_a_later_bar_swings_too(self):
        studied = study(make_chart(SWUNG))
        self.assertEqual(studied.bars[1].swing, Swing(Fraction(1, 2)))
        second = perform(studied.played([1]))
        self.assertEqual(round(second.onsets[1].at, 4), 0.6667)

    def test_the_count_follows_and_the_page_stays_as_written(self):
        bars = study(make_chart(BACK)).bars
        said = [" ".join(count.say for count in bar.counts) for bar in bars[:3]]
        self.assertEqual(said[0], "1 let 2 let 3 let 4 let")
        self.assertEqual(said[2], "1 & 2 & 3 & 4 &")
        self.assertEqual(bars[0].bar.hits, bars[2].bar.hits)
        (mixed,) = study(make_chart("bar 1\nswing 8ths\nsnare 1 1&, 16ths 2, 3 4&")).bars
        said = " ".join(count.say for count in mixed.counts)
        self.assertEqual(said, "1 e & a 2 e & a 3 e & a 4 e & a")
        mei = write_mei([Scored(bar.bar) for bar in bars], Layout(counts=False))
        self.assertEqual(mei.count("swing 8ths"), 1)

    def test_it_comes_back_from_text_json_and_musicxml(self):
        chart = make_chart(BACK)
        self.assertEqual(read_chart(write_chart(chart)).bars, chart.bars)
        again = [bar_from_json(bar_to_json(bar)) for bar in chart.bars]
        self.assertEqual([bar.swing for bar in again], [bar.swing for bar in chart.bars])
        self.assertNotIn("swing", bar_to_json(chart.bars[1]))  # as earlier versions wrote it
        read, problems = read_musicxml(write_musicxml(chart).encode())
        self.assertEqual([bar.swing for bar in read.bars], [bar.swing for bar in chart.bars])
        self.assertEqual(problems, ())

    def test_musicxml_says_it_by_words_or_by_its_sound(self):
        xml = write_musicxml(make_chart("bar 1\nswing 8ths\nhat 8ths"))
        for found, swing in (
            (xml.replace("swing 8ths</words>", "Shuffle</words>"), Swing(Fraction(1, 2))),
            (
                xml.replace("<first>2</first>", "<first>3</first>"),
                Swing(Fraction(1, 2), Fraction(3, 4)),
            ),
            (xml.replace("eighth</swing-type>", "16th</swing-type>"), Swing(Fraction(1, 4))),
        ):
            self.assertEqual(read_musicxml(found.encode())[0].bars[0].swing, swing)
        plain = write_musicxml(make_chart("bar 1\nstraight\nhat 8ths"))
        self.assertEqual(read_musicxml(plain.encode())[0].bars[0].swing, STRAIGHT)
