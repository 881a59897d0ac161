"""Open fills and bars in style. Common practice, no source."""

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from tests.builders import make_bar
from wren_ladder.drumming.building.fills import (
    FILL_DRUMS,
    Choice,
    check_fill,
    figures_owned,
    fill_space,
    variations,
    write_fill,
)
from wren_ladder.drumming.chart import ChartError, Drum, MarkKind, Tempo
from wren_ladder.drumming.description.figures import name_figure, names_for, onsets_of
from wren_ladder.drumming.grades import HOUSE_SYLLABUS

OPEN = make_bar("hat quarters 1-2\nsnare 2\nkick 1\nfill 3", number="4")
AFTER = make_bar("crash 1\nhat 8ths 2-4\nsnare 2 4\nkick 1 3", number="5")
SPACE = fill_space(OPEN)
SLOW = Tempo(Fraction(1), 80)
SNARE, KICK, FLOOR = Drum.SNARE, Drum.KICK, Drum.TOM_FLOOR


def fill(*beats: tuple) -> tuple:
    choices = [Choice(figure, drums) for figure, *drums in beats]
    choices = [Choice(one.figure, tuple(one.drums)) for one in choices]
    return write_fill(OPEN, SPACE, choices)


def said(*beats: tuple, after=AFTER, grade=3) -> list[str]:
    return list(check_fill(fill(*beats), SPACE, after, SLOW, grade))


class Spaces(unittest.TestCase):
    def test_the_open_beats_run_to_the_bar_line(self):
        self.assertEqual(SPACE.beats, ((2, 1), (3, 1)))
        self.assertIsNone(fill_space(AFTER))
        compound = fill_space(make_bar("hat 1 2 3\nfill 4", "6/8"))
        self.assertEqual(compound.beats, ((Fraction(3, 2), Fraction(3, 2)),))

    def test_a_space_that_begins_inside_a_beat(self):
        self.assertEqual(
            fill_space(make_bar("snare 1\nfill 3&")).beats[0], (Fraction(5, 2), Fraction(1, 2))
        )

    @given(st.sampled_from([Fraction(1), Fraction(3, 2)]), st.data())
    def test_every_figure_is_written_as_its_name_says(self, length, data):
        name = data.draw(st.sampled_from(names_for(length)))
        self.assertEqual(name_figure(set(onsets_of(name, length)), length), name)

    def test_a_grade_owns_its_figures_simplest_first(self):
        first = figures_owned(Fraction(1), 1, HOUSE_SYLLABUS)
        self.assertIn("four semiquavers", first)
        self.assertNotIn("triplet", first)
        fourth = figures_owned(Fraction(1), 4, HOUSE_SYLLABUS)
        self.assertIn("triplet", fourth)
        grades = [HOUSE_SYLLABUS[name] for name in fourth]
        self.assertEqual(grades, sorted(grades))


class Writing(unittest.TestCase):
    def test_what_stood_before_the_space_stays_and_the_sign_goes(self):
        bar = fill(("two quavers", SNARE, FLOOR), ("crotchet", KICK))
        self.assertEqual([h for h in bar.hits if h.at < 2], list(OPEN.hits))
        self.assertEqual(
            [(h.at, h.drum) for h in bar.hits if h.at >= 2],
            [(2, SNARE), (Fraction(5, 2), FLOOR), (3, KICK)],
        )
        self.assertNotIn(MarkKind.FILL, [mark.kind for mark in bar.marks])

    def test_a_figure_needs_its_drums_and_a_beat_it_fits(self):
        with self.assertRaisesRegex(ChartError, "beat 3.*has 4 notes; choose a drum for each"):
            fill(("four semiquavers", SNARE), ("rest",))
        with self.assertRaisesRegex(ChartError, "beat 4.*fills no beat of 1 crotchets"):
            fill(("rest",), ("three quavers", SNARE, SNARE, SNARE))

    def test_a_crash_is_among_the_drums_and_a_pedal_hat_is_not(self):
        self.assertIn(Drum.CRASH, FILL_DRUMS)
        self.assertNotIn(Drum.HIHAT_FOOT, FILL_DRUMS)


class Checks(unittest.TestCase):
    def test_a_sound_fill_needs_no_word(self):
        self.assertEqual(said(("two quavers", SNARE, SNARE), ("crotchet", FLOOR)), [])

    def test_silence_is_a_fill(self):
        self.assertIn("silence is a fill", said(("rest",), ("rest",))[0])

    def test_what_a_listener_would_say(self):
        crotchet, crash = ("crotchet", SNARE), "a crash right before the crash"
        for beats, words in (
            ((("off-beat quaver", SNARE), crotchet), "it starts late"),
            ((crotchet, ("two quavers", SNARE, KICK)), "two kicks in a row at the landing: 4&"),
            ((("four semiquavers", KICK, KICK, SNARE, SNARE), crotchet), "in a row, 3 and 3e"),
            ((crotchet, ("two quavers", SNARE, Drum.CRASH)), crash),
        ):
            with self.subTest(words):
                self.assertTrue(any(words in line for line in said(*beats)), said(*beats))

    def test_crowding_depends_on_the_grade(self):
        busy = (("four semiquavers", *[SNARE] * 4), ("four semiquavers", *[FLOOR] * 4))
        self.assertIn("crowded: 8 notes in 2 beats", said(*busy, grade=2)[0])
        self.assertEqual(said(*busy, grade=5), [])

    def test_there_must_be_something_to_land_on(self):
        beats = (("crotchet", SNARE), ("crotchet", FLOOR))
        late = make_bar("snare 2", number="5")
        self.assertEqual(
            said(*beats, after=late), ["nothing is played on 1 of bar 5 to land on"]
        )
        self.assertIn("nothing follows it", said(*beats, after=None)[0])


class InStyle(unittest.TestCase):
    def test_the_kick_takes_a_pattern_that_is_owned_if_the_change_is_small(self):
        groove = make_bar("hat 8ths\nsnare 2 4\nkick 1 3")
        owned = [
            make_bar(f"snare 2\nkick {kick}")
            for kick in ("1 3 3&", "1 2& 3", "1e 2& 3a 4", "1 3")
        ]
        owned += [make_bar("kick 1 2", "3/4"), make_bar("snare 1")]
        found = variations(groove, owned)
        self.assertEqual(
            [one.text for one in found], ["with the kick on 3&", "with the kick on 2&"]
        )
        for one in found:
            hands = [hit for hit in one.bar.hits if hit.drum is not KICK]
            self.assertEqual(hands, [hit for hit in groove.hits if hit.drum is not KICK])
