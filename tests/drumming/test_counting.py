"""The count by its schools, count-ins, and parts of beats.

Numbers and words are common practice, no source; takadimi is published, see there.
"""

import unittest
from dataclasses import replace
from fractions import Fraction

from hypothesis import given

from tests.builders import make_bar, study_bar
from tests.strategies import bars
from wren_ladder.drumming.counting import beat_shares, count_bar, count_in, in_phrase
from wren_ladder.drumming.style import HOUSE, Compound, Counting, NoteNames

TAKADIMI = replace(HOUSE, counting=Counting.TAKADIMI)
WORDS = replace(HOUSE, counting=Counting.WORDS)
IN_BEATS = replace(HOUSE, compound=Compound.BEATS)


def said(lines: str, meter: str = "4/4", number: str = "1", style=HOUSE) -> str:
    """The count, silent syllables in brackets."""
    counts = count_bar(make_bar(lines, meter, number), style)
    return " ".join(f"({c.say})" if c.silent else c.say for c in counts)


class Counting(unittest.TestCase):
    def test_quavers_are_counted_in_halves(self):
        self.assertEqual(said("hat 8ths"), "1 & 2 & 3 & 4 &")

    def test_silent_positions_are_counted_and_marked(self):
        self.assertEqual(said("snare 2 4"), "(1) (&) 2 (&) (3) (&) 4 (&)")

    def test_one_semiquaver_makes_the_whole_bar_counted_in_quarters(self):
        expected = "1 (e) (&) (a) 2 (e) (&) a (3) (e) (&) (a) (4) (e) (&) (a)"
        self.assertEqual(said("snare 1 2 2a"), expected)

    def test_triplet_beats_are_counted_in_thirds_beside_plain_ones(self):
        self.assertEqual(said("snare 1 1t 1l 2 2&", "2/4"), "1 trip let 2 &")
        # Where nothing is divided otherwise, plain and empty beats are counted in thirds too.
        self.assertEqual(said("snare 1 1t 1l 2", "2/4"), "1 trip let 2 (trip) (let)")
        self.assertEqual(said("hat 1 1l", "2/4"), "1 (trip) let (2) (trip) (let)")
        self.assertEqual(
            said("snare 1 1t 1l 3 3t 3l", "3/4"), "1 trip let (2) (trip) (let) 3 trip let"
        )

    def test_thirds_and_quarters_in_one_beat_are_all_said(self):
        self.assertEqual(said("hat 1*\nsnare 1t", "1/4"), "1 e trip & (let) a")

    def test_under_a_roll_nothing_is_silent(self):
        rolled = make_bar("snare 1, roll 2-4, 4")
        for style in (HOUSE, TAKADIMI, WORDS):
            silent = [count.at for count in count_bar(rolled, style) if count.silent]
            self.assertTrue(all(at < 1 or at > 3 for at in silent), style)
        words = [count.say for count in count_bar(rolled, WORDS)]
        self.assertNotIn("(shh)", words)
        self.assertNotIn("rest", study_bar("snare 1, roll 2-4, 4").figures)

    def test_odd_groups_have_no_and_inside(self):
        five = make_bar("snare 1 1+1/5 1+2/5 1+3/5 1+4/5 2 3")
        said = [(count.say, count.silent) for count in count_bar(five)]
        self.assertEqual([say for say, _ in said], ["1", *"····", "2", "&", "3", "&", "4", "&"])

    def test_over_eight_every_quaver_has_its_number(self):
        self.assertEqual(said("hat 8ths", "6/8"), "1 2 3 4 5 6")
        self.assertEqual(said("hat 1 4&", "6/8"), "1 (&) (2) (&) (3) (&) (4) & (5) (&) (6) (&)")

    def test_five_eight_is_counted_to_five(self):
        self.assertEqual(said("hat 8ths", "5/8"), "1 2 3 4 5")

    def test_a_pick_up_takes_the_last_numbers(self):
        self.assertEqual(said("beats 1\nsnare 4 4&", number="0"), "4 &")

    def test_rests_are_counted_too(self):
        self.assertEqual(said("", "3/4"), "(1) (&) (2) (&) (3) (&)")

    def test_sextuplets_are_counted_in_sixths(self):
        self.assertEqual(said("snare sextuplets", "1/4"), "1 ta trip ta let ta")

    @given(bars())
    def test_every_hit_has_a_syllable_and_time_only_goes_on(self, bar):
        for style in (HOUSE, TAKADIMI, WORDS, IN_BEATS):
            counts = count_bar(bar, style)
            times = [count.at for count in counts]
            self.assertEqual(times, sorted(set(times)))
            self.assertTrue(all(0 <= at < bar.length for at in times))
            struck = {count.at for count in counts if not count.silent}
            self.assertLessEqual({hit.at for hit in bar.hits}, struck)
            rolled = {at for at in struck if bar.rolls_through(at)}  # a roll is no silence
            self.assertLessEqual(struck - rolled, {hit.at for hit in bar.hits})


class MainBeats(unittest.TestCase):
    def test_six_eight_has_two_beats_of_three(self):
        self.assertEqual(said("hat 8ths", "6/8", style=IN_BEATS), "1 trip let 2 trip let")
        self.assertEqual(
            said("kick 1\nsnare 4 6", "6/8", style=IN_BEATS), "1 (trip) (let) 2 (trip) let"
        )

    def test_semiquavers_are_counted_in_sixths(self):
        self.assertEqual(
            said("snare 1 1& 2 2& 3 3& 4", "6/8", style=IN_BEATS)[:22], "1 ta trip ta let ta 2 "
        )


class Takadimi(unittest.TestCase):
    """Source: Hoffman, Pelto and White (1996), the table of syllables."""

    def test_the_published_syllables(self):
        for lines, meter, syllables in (
            ("snare 1*", "1/4", "ta ka di mi"),
            ("snare 1 1t 1l", "1/4", "ta ki da"),
            ("snare 8ths", "3/8", "ta ki da"),
            ("snare sextuplets", "1/4", "ta va ki di da ma"),
            ("snare 1 1& 2 2& 3 3&", "3/8", "ta va ki di da ma"),
        ):
            with self.subTest(lines, meter=meter):
                self.assertEqual(said(lines, meter, style=TAKADIMI), syllables)

    def test_silent_places_are_marked(self):
        self.assertEqual(said("snare 1 1a", "1/4", style=TAKADIMI), "ta (ka) (di) mi")
        self.assertEqual(said("snare 2", "2/4", style=TAKADIMI), "(ta) (di) ta (di)")

    def test_uneven_metres_have_beats_of_two_and_three(self):
        self.assertEqual(said("snare 8ths", "3+2+2/8", style=TAKADIMI), "ta ki da ta di ta di")


class Words(unittest.TestCase):
    def test_each_figure_has_its_word(self):
        for lines, word in (
            ("snare 1", "wren"),
            ("snare 8ths", "rob in"),
            ("snare 1*", "yel low ham mer"),
            ("snare 1 1e 1&", "kit ti wake"),
            ("snare 1 1& 1a", "snow bun ting"),
            ("snare 1 1a", "swal low"),
            ("snare 1 1e 1a", "fla min go"),
            ("snare triplets", "al ba tross"),
            ("", "((shh))"),
        ):
            with self.subTest(word):
                self.assertEqual(said(lines, "1/4", style=WORDS), word)

    def test_a_figure_without_a_word_is_counted_by_numbers(self):
        self.assertEqual(said("snare 1 2&", "2/4", style=WORDS), "wren (2) &")

    def test_the_words_are_the_teachers(self):
        mine = replace(WORDS, words=(("two quavers", "tea-pot"),))
        self.assertEqual(said("hat 8ths", "1/4", style=mine), "tea pot")

    def test_a_word_with_the_wrong_number_of_syllables_is_not_said(self):
        mine = replace(WORDS, words=(("two quavers", "nightingale"),))
        self.assertEqual(said("hat 8ths", "1/4", style=mine), "1 &")


class Phrases(unittest.TestCase):
    def test_the_bars_number_stands_for_one(self):
        counts = in_phrase(count_bar(make_bar("hat quarters")), 3)
        numbers = [count.say for count in counts if count.main]
        self.assertEqual(numbers, ["3", "2", "3", "4"])


class CountIns(unittest.TestCase):
    def test_what_is_said_before_the_first_note(self):
        for lines, meter, number, words in (
            ("hat 8ths", "4/4", "1", "1 2 3 4"),
            ("hat 8ths", "3/4", "1", "1 2 3 1 2 3"),  # six clicks
            ("hat 8ths", "6/8", "1", "1 2 1 2"),
            ("beats 1\nsnare 4*", "4/4", "0", "1 2 3"),
            ("beats 2\nsnare 3*", "4/4", "0", "1 2 3 4 1 2"),
            ("snare 3 4", "4/4", "1", "1 2 3 4 1 2"),
            ("", "4/4", "1", "1 2 3 4"),
            ("beats 1/2\nsnare 4&", "4/4", "0", "1 2 3 4"),
            ("beats 3/2\nsnare 3& 4", "4/4", "0", "1 2 3"),
            ("snare 2& 3", "4/4", "1", "1 2 3 4 1 2"),
            ("snare 1&", "4/4", "1", "1 2 3 4 1"),
            ("beats 2\nsnare 4&", "4/4", "0", "1 2 3 4"),  # it begins with silence
            ("beats 1\nsnare 6", "6/8", "0", "1 2 1 2"),
            ("snare 5 6", "6/8", "1", "1 2 1 2 1 2"),
            ("beats 1/2\nsnare 3&", "3/4", "0", "1 2 3"),
        ):
            with self.subTest(lines, meter=meter):
                counted = count_in(make_bar(lines, meter, number))
                self.assertEqual(counted.spoken, words)
                self.assertEqual(len(counted.clicks), len(counted.words))

    @given(bars())
    def test_the_clicks_are_even_and_lead_up_to_the_first_note(self, bar):
        counted = count_in(bar)
        step = counted.clicks[1] - counted.clicks[0]
        even = tuple(step * place for place in range(len(counted.clicks)))
        self.assertEqual(counted.clicks, even)
        first = counted.length + (bar.hits[0].at if bar.hits else Fraction(0))
        # The last click is on the beat that the entry hangs on, or a beat before it.
        self.assertLess(even[-1], first)
        self.assertLessEqual(first - even[-1], step)
        self.assertGreaterEqual(len(even), 3)


class Shares(unittest.TestCase):
    def test_a_dotted_quaver_in_plain_words(self):
        (said_of_two,) = beat_shares(make_bar("snare 1 2 2a 3"))
        self.assertEqual(
            said_of_two,
            "beat 2: first and last of the four; the dotted quaver lasts three of the four "
            "quarters, the semiquaver lasts one of the four quarters",
        )

    def test_which_of_the_four(self):
        for lines, words in (
            ("snare 1 1e 1a", "first, second and fourth of the four"),
            ("snare 1e", "only the second of the four"),
        ):
            with self.subTest(words):
                self.assertIn(words, beat_shares(make_bar(lines, "1/4"))[0])

    def test_where_every_part_is_played_there_is_nothing_to_say(self):
        self.assertEqual(beat_shares(make_bar("snare 1* 2 2& 3")), ())

    def test_a_figure_over_two_beats_has_no_rest_in_its_sentence(self):
        (said_of_it,) = beat_shares(make_bar("snare 1 2& 3 4"))
        self.assertEqual(
            said_of_it,
            "beats 1 and 2: the dotted crotchet lasts three of the four quavers, the quaver is "
            "the last",
        )

    def test_names_of_either_set(self):
        (said_of_it,) = beat_shares(make_bar("snare 1 1a", "1/4"), NoteNames.QUARTERS)
        self.assertIn("the dotted eighth lasts three", said_of_it)
