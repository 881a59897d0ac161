"""Bars as teachers type them."""

import unittest
from fractions import Fraction

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.builders import make_bar
from tests.strategies import charts
from wren_ladder.drumming.chart import ChartError, Drum, Grace, Hand, RollKind, Tempo, Touch
from wren_ladder.drumming.chart.positions import PATTERNS, STEPS
from wren_ladder.drumming.notation.counts import read_chart, write_bar, write_chart
from wren_ladder.drumming.notation.counts.words import ALIASES, LINES

F = Fraction


def times(bar, drum=Drum.SNARE):
    return [hit.at for hit in bar.hits if hit.drum is drum]


class Signs(unittest.TestCase):
    def test_a_page_may_have_two_of_a_sign(self):
        bar = make_bar("segno 2\ncoda 2\nto coda 2\njump D.S.S. al Coda 2")
        self.assertEqual(bar.road_words, ("segno 2", "coda 2", "To Coda 2", "D.S.S. al Coda 2"))
        self.assertEqual(read_chart(f"bar 1\n{write_bar(bar)}").bars[0], bar)

    def test_there_is_no_third(self):
        for typed, said in (
            ("segno 3", "write: segno, or segno 2"),
            ("to coda 3", "write: coda, or coda 2"),
            ("fine 2", "write: fine"),
        ):
            with self.subTest(typed), self.assertRaisesRegex(ChartError, said):
                make_bar(typed)


class Positions(unittest.TestCase):
    def test_single_parts_runs_and_whole_beats(self):
        for typed, onsets in {
            "2 4": [1, 3],
            "1e 1& 1a": [F(1, 4), F(1, 2), F(3, 4)],
            "3e&a": [F(9, 4), F(5, 2), F(11, 4)],
            "4*": [3, F(13, 4), F(7, 2), F(15, 4)],
            "1t 1l": [F(1, 3), F(2, 3)],
            "1+1/8": [F(1, 8)],
        }.items():
            with self.subTest(typed):
                self.assertEqual(times(make_bar(f"snare {typed}")), onsets)

    def test_over_eight_every_quaver_has_a_number(self):
        self.assertEqual(times(make_bar("snare 4 6&", "6/8")), [F(3, 2), F(11, 4)])
        self.assertEqual(times(make_bar("snare 2*", "6/8")), [F(1, 2), F(3, 4)])

    def test_patterns_fill_the_bar_or_some_counts_of_it(self):
        for typed, meter, onsets in (
            ("quarters", "3/4", [0, 1, 2]),
            ("offbeats", "2/4", [F(1, 2), F(3, 2)]),
            ("triplets 2-2", "4/4", [1, F(4, 3), F(5, 3)]),
            ("8ths 1-2", "4/4", [0, F(1, 2), 1, F(3, 2)]),
            ("beats", "6/8", [0, F(3, 2)]),
        ):
            with self.subTest(typed):
                self.assertEqual(times(make_bar(f"snare {typed}", meter)), onsets)

    def test_a_narrowed_pattern_leaves_earlier_positions_alone(self):
        self.assertEqual(times(make_bar("snare 4, 8ths 1-1")), [0, F(1, 2), 3])


class Words(unittest.TestCase):
    def test_words_change_what_is_there_and_add_what_is_not(self):
        bar = make_bar("hat 8ths, open 4&\nsnare 2 4, ghost 2a, accent flam 4")
        opened = [hit.at for hit in bar.hits if hit.drum is Drum.HIHAT_OPEN]
        self.assertEqual(opened, [F(7, 2)])
        self.assertEqual(len([h for h in bar.hits if h.drum is Drum.HIHAT]), 7)
        four = next(hit for hit in bar.hits if hit.at == 3 and hit.drum is Drum.SNARE)
        self.assertEqual((four.touch, four.grace), (Touch.ACCENT, Grace.FLAM))
        ghost = next(hit for hit in bar.hits if hit.at == F(7, 4))
        self.assertEqual(ghost.touch, Touch.GHOST)

    def test_a_roll_lasts_to_the_next_hit_unless_its_end_is_said(self):
        bar = make_bar("snare roll 7 1, 2, roll 5 3-3&, buzz 4-end")
        rolls = {hit.at: hit.roll for hit in bar.hits if hit.roll}
        self.assertEqual(rolls[F(0)].length, 1)
        self.assertEqual((rolls[F(2)].length, rolls[F(2)].strokes), (F(1, 2), 5))
        self.assertEqual((rolls[F(3)].kind, rolls[F(3)].length), (RollKind.BUZZ, 1))

    def test_hands_are_named_in_time_order_the_higher_note_first(self):
        bar = make_bar("hat 1 2\nsnare 2\nkick 1\nhands R L -")
        named = [(hit.drum, hit.hand) for hit in bar.hits if not hit.drum.by_foot]
        right, left = Hand.RIGHT, Hand.LEFT
        self.assertEqual(named, [(Drum.HIHAT, right), (Drum.HIHAT, left), (Drum.SNARE, None)])

    def test_other_names_of_a_line_mean_the_same(self):
        for other, name in ALIASES.items():
            with self.subTest(other):
                self.assertEqual(make_bar(f"{other} 1"), make_bar(f"{name} 1"))


class WholeCharts(unittest.TestCase):
    def test_a_sign_that_repeats_a_tied_roll_is_untied_where_it_ends(self):
        """The sign's bar holds the tied roll too, though nobody typed one there."""
        chart = read_chart("bar 1\nsnare roll 5 1-tied\nbar 2\nrepeat bar")
        self.assertEqual([bar.hits[0].roll.tied for bar in chart.bars], [True, False])
        self.assertEqual(read_chart(write_chart(chart)), chart)

    def test_a_likeness_takes_the_music_and_its_own_lines_replace(self):
        chart = read_chart("bar 1\nhat 8ths\nsnare 2 4\nbar 2 as 1\nsnare 4\nbars 3-4 as 1-2")
        first, second, third, fourth = chart.bars
        self.assertEqual(times(second), [3])
        self.assertEqual(times(second, Drum.HIHAT), times(first, Drum.HIHAT))
        self.assertEqual((third.hits, fourth.hits), (first.hits, second.hits))

    def test_marks_stay_with_the_bar_they_are_typed_in(self):
        chart = read_chart(
            "title Quay\ntempo crotchet = 90\nbar 1\nsection A Verse\nrepeat start\n"
            "hat 8ths\nbars 2-3 as 1\nrepeat end 3\nbar 4\nmeter 3/4\nhat 8ths"
        )
        self.assertEqual(chart.title, "Quay")
        self.assertEqual(chart.tempo, Tempo(F(1), 90))
        self.assertEqual([bar.repeat_passes for bar in chart.bars], [0, 0, 3, 0])
        self.assertEqual([bar.section for bar in chart.bars], ["A Verse", "", "", ""])
        self.assertEqual([str(bar.meter) for bar in chart.bars], ["4/4"] * 3 + ["3/4"])

    def test_signs_of_the_road_are_typed_as_they_are_called(self):
        chart = read_chart(
            "bar 1\nsegno\nkick 1\nbar 2 as 1\nending 1 2\nrepeat end 3\nbar 3 as 1\nending 3\n"
            "to coda\nbars 4-5 as 1-2\njump D.S. al Coda with repeats\nbar 6 as 1\ncoda\nfine"
        )
        first, second, third, fourth, fifth, sixth = chart.bars
        self.assertTrue(first.segno and third.to_coda and sixth.coda and sixth.fine)
        self.assertEqual((second.endings, third.endings), ((1, 2), (3,)))
        # Of a copied passage the jump belongs to the last bar, an ending to all of them.
        self.assertIsNone(fourth.jump)
        copied = read_chart("bar 1\nkick 1\nbars 2-3 as 1\nending 1\nrepeat end 2").bars
        self.assertEqual([bar.endings for bar in copied], [(), (1,), (1,)])
        self.assertEqual([bar.repeat_passes for bar in copied], [0, 0, 2])
        self.assertEqual(str(fifth.jump), "D.S. al Coda with repeats")

    def test_marks_stand_where_they_are_typed_and_hairpins_may_cross_the_bar_line(self):
        bar = make_bar(
            "hat 8ths\ndynamics p 1 f 3\ncresc 1-3 3-end\ndim 4 for 6\nfermata 4\nfill 3\n"
            "cue 2 band only\ncue 4 play 8 times"
        )
        told = [(str(m.at), m.kind.value, m.text, str(m.length)) for m in bar.marks]
        self.assertEqual(
            told,
            [
                ("0", "crescendo", "", "2"),
                ("0", "dynamic", "p", "0"),
                ("1", "cue", "band only", "0"),
                ("2", "crescendo", "", "2"),
                ("2", "dynamic", "f", "0"),
                ("2", "fill", "", "0"),
                ("3", "cue", "play 8 times", "0"),
                ("3", "diminuendo", "", "6"),
                ("3", "fermata", "", "0"),
            ],
        )

    def test_a_metre_holds_until_the_next_but_a_likeness_brings_its_own(self):
        chart = read_chart(
            "bar 1\nhat 8ths\nbar 2\nmeter 6/8\nhat 8ths\nbar 3\nhat 8ths\nbar 4 as 1"
        )
        self.assertEqual([str(bar.meter) for bar in chart.bars], ["4/4", "6/8", "6/8", "4/4"])

    def test_a_pick_up_is_counted_from_where_it_starts(self):
        chart = read_chart("bar 0\nbeats 1\nsnare 4 4&\nbar 1\nhat 8ths")
        self.assertEqual(times(chart.bars[0]), [0, F(1, 2)])
        self.assertEqual(chart.bars[0].length, 1)

    def test_a_tempo_over_the_first_full_bar_is_the_pieces(self):
        chart = read_chart("bar 0\nbeats 1\nsnare 4\nbar 1\ntempo crotchet = 96\nkick 1")
        self.assertEqual([str(tempo) for tempo in chart.tempos], ["crotchet = 96"] * 2)

    def test_lines_without_a_bar_are_bar_1(self):
        self.assertEqual([bar.number for bar in read_chart("kick 1").bars], ["1"])

    def test_numbers_go_on_by_themselves(self):
        chart = read_chart("bar 7\nkick 1\nbar\nkick 2\nbars 20-21 as 7\nbar\nkick 3")
        numbers = [bar.number for bar in chart.bars]
        self.assertEqual(numbers, ["7", "8", "20", "21", "22"])

    @settings(max_examples=300)
    @given(charts())
    def test_writing_and_reading_again_is_the_identity(self, chart):
        self.assertEqual(read_chart(write_chart(chart)), chart)

    @given(st.sampled_from(sorted(LINES)), st.sampled_from(sorted(PATTERNS)))
    def test_a_pattern_fills_its_bar_evenly_to_the_end(self, line, pattern):
        for meter, beat in (("4/4", 1), ("5/4", 1), ("2/2", 2)):
            bar = make_bar(f"{line} {pattern}", meter)
            step = STEPS.get(pattern, Fraction(beat))
            first = step / 2 if pattern == "offbeats" else Fraction(0)
            many = int(bar.length / step)
            if pattern == "quarter-triplets":  # three over two, as often as two are whole
                many = 3 * int(bar.length / 2)
            expected = [first + place * step for place in range(many)]
            self.assertEqual([hit.at for hit in bar.hits], expected, meter)

    def test_what_is_written_reads_as_it_is_spoken(self):
        typed = "hat 8ths, open 4&\nsnare 2, ghost 2a 3e, flam 4\nkick 1 3 3&"
        bar = make_bar(typed)
        self.assertEqual(write_bar(bar, bar.meter), typed)


class Errors(unittest.TestCase):
    """Each message says where, and what would be right."""

    CASES = (
        ("hatt 8ths", "hatt", "did you mean hat?"),
        ("xyzzy 1", "xyzzy", "a line begins with a drum (hat, ride, crash, snare, kick"),
        ("hat 8ths, opn 4", "opn", "'opn' is not known on a hat line; did you mean open?"),
        ("hat zzzz 4", "zzzz", "write hat 1 3, or hat 8ths"),
        ("snare 2 5", "5", "in 4/4 it counts from 1 to 4"),
        ("snare 0", "0", "'0' lies outside the bar"),
        ("snare 2q", "2q", "'2q' is no position; write 2, 2&, 2e, 2a or 2e&a"),
        ("snare 2+3/2", "2+3/2", "the part after + lies between 0 and 1"),
        ("snare bell 2", "bell", "'bell' belongs on the ride line, not on snare"),
        ("snare roll 7 3-2", "3-2", "a roll ends after it starts"),
        ("snare flam roll 5 1-2", "1-2", "snare: a roll with a flam on it"),
        ("hat 8ths 3-9", "3-9", "the bar has 4 counts"),
        ("hat 8ths 3-x", "3-x", "say from which count to which: 8ths 1-3"),
        ("kick flam 1", "1", "kick cannot take a grace note"),
        ("snare 1 2\nhands R", "R", "1 hands are named for the 2 notes"),
        ("snare 1 2\nhands R X", "X", "'X' is no hand; write R, L"),
        ("meter 4/5", "4/5", "the lower number is 2, 4, 8 or 16"),
        ("tempo brisk", "brisk", "write it like crotchet = 92"),
        ("bar 1\nrepeat end 99", "99", "say how often it is played, 2 to 16"),
        ("bar 1\nrepeat twice", "twice", "write: repeat start, repeat end 2"),
        ("bar 1\nsection", "section", "name the section"),
        ("bar 1\nending", "ending", "say for which passes: ending 1"),
        ("bar 1\nending 1 99", "99", "an ending is for passes 1 to 16"),
        ("bar 1\njump back", "back", "write: jump D.C. al Fine"),
        ("bar 1\ndynamics loud 1", "loud", "'loud' is no dynamic; use ppp, pp"),
        ("bar 1\ndynamics mf", "mf", "say where it stands: mf 1"),
        ("bar 1\ncresc 2", "2", "say how far: 2-4, 2-end, or 2 for 6"),
        ("bar 1\ncresc 2 for ever", "for", "say for how many counts: 3 for 6"),
        ("bar 1\ndim 3-2", "3-2", "a diminuendo lasts longer than nothing"),
        ("bar 1\nfermata 7", "7", "in 4/4 it counts from 1 to 4"),
        ("bar 1\nfill", "fill", "say where: fill 3"),
        ("bar 1\ncue 3", "3", "a cue has words: cue 3 band only"),
        ("bar 1\nto the end", "to", "write: to coda"),
        ("bar 1\nbeats 9", "9", "say how many counts the bar has, up to 4"),
        ("bar 2 as 1", "1", "bar 1 has not been typed yet"),
        ("bar 1\nbar 1", "1", "bar 1 is there already"),
        ("bar 1 like 2", "2", "bar 2 has not been typed yet"),
        ("bar 1 of 2", "of", "write: bar 5, or bar 5 as 1"),
        ("bar 1\nbars 5-2 as 1", "5-2", "the bar numbers rise"),
        ("bar 1\nbars 2-2000000 as 1", "2-2000000", "more than a thousand bars"),
        ("bar 1\nbar 2\nbars 3-5 as 1-2", "1-2", "3 bars cannot be filled by 2"),
        ("bar 1\nmeter 6/8\nhat offbeats", "offbeats", "wants a metre over 4, not 6/8"),
    )

    def test_the_word_is_pointed_at_and_the_right_one_named(self):
        for text, word, said in self.CASES:
            with self.subTest(text), self.assertRaises(ChartError) as caught:
                read_chart(text)
            error = caught.exception
            self.assertIn(said, str(error))
            line = text.splitlines()[error.place.line - 1]
            start = error.place.column - 1
            self.assertEqual((line[start : start + len(word)], error.place.word), (word, word))

    def test_an_error_inside_a_bar_names_the_bar_and_the_line(self):
        with self.assertRaisesRegex(ChartError, "line 4, bar 9: '5' lies outside the bar"):
            read_chart("bar 8\nhat 8ths\nbar 9\nsnare 5")

    def test_nothing_typed_is_a_clear_request(self):
        with self.assertRaisesRegex(ChartError, "there are no bars yet; type one"):
            read_chart("  \n\n")

    @settings(max_examples=300)
    @given(st.text("barsnkhto 1234&ea,-/*+tl\nas8ft", max_size=60))
    def test_any_text_is_a_chart_or_a_chart_error(self, text):
        try:
            chart = read_chart(text)
        except ChartError:
            return
        self.assertEqual(read_chart(write_chart(chart)), chart)
