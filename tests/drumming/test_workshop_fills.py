"""Fills by length and warm-ups: counted, checked, seeded, never above the grade."""

import unittest
from dataclasses import replace
from datetime import date, timedelta
from fractions import Fraction
from itertools import pairwise, product

from hypothesis import given, settings
from hypothesis import strategies as st

from wren_ladder.drumming.building.fills import figures_owned
from wren_ladder.drumming.chart import Chart, Drum, Grace, MarkKind, Tempo, Touch
from wren_ladder.drumming.counting.count_in import count_in
from wren_ladder.drumming.findings.conflicts import conflicts
from wren_ladder.drumming.grades import HOUSE_SYLLABUS
from wren_ladder.drumming.judging.syllabus import Status, vocabulary
from wren_ladder.drumming.study import study
from wren_ladder.drumming.workshop.fills import (
    BEATS,
    BY_HANDS,
    Dynamic,
    Fill,
    Length,
    Orchestration,
    beat_figures_owned,
    figures_held,
    fill_bar,
    is_one_idea,
    notes_of,
    pickup_bar,
    three_to_try,
    way_grade,
    what_is_said,
)
from wren_ladder.drumming.workshop.grooves import USUAL_TEMPO, Groove
from wren_ladder.drumming.workshop.patterns import KICKS, Hands
from wren_ladder.drumming.workshop.warm_up import LINES, sheet_number, warm_up

GROOVE = Groove(Hands.HAT_QUAVERS, KICKS[1]).bar


class OnTheDrums(unittest.TestCase):
    FILL = Fill(
        Length.HALF,
        ("two quavers", "crotchet"),
        placed=(Drum.SNARE, Drum.TOM_HIGH, Drum.TOM_FLOOR),
    )

    def test_each_note_is_on_the_drum_that_was_pressed_for_it(self):
        bar = fill_bar(self.FILL, GROOVE)
        filled = [(hit.at, hit.drum) for hit in bar.hits if hit.at >= 2]
        self.assertEqual(filled, list(zip(notes_of(self.FILL), self.FILL.placed, strict=True)))
        self.assertEqual([at for at, _ in filled], [2, Fraction(5, 2), 3])
        before = [hit for hit in GROOVE.hits if hit.at < 2]
        self.assertEqual([hit for hit in bar.hits if hit.at < 2], before)

    def test_what_is_not_placed_yet_waits_on_the_snare(self):
        some = replace(self.FILL, placed=(Drum.TOM_HIGH,))
        drums = [hit.drum for hit in fill_bar(some, GROOVE).hits if hit.at >= 2]
        self.assertEqual(drums, [Drum.TOM_HIGH, Drum.SNARE, Drum.SNARE])

    def test_it_is_called_by_its_drums_and_graded_by_its_way(self):
        self.assertEqual(self.FILL.name, "Snare, high tom, floor tom from 3")
        self.assertEqual(self.FILL.grade(), Fill(Length.HALF, self.FILL.figures,
                         Orchestration.DOWN).grade())  # fmt: skip
        kicked = replace(self.FILL, placed=(Drum.SNARE, Drum.SNARE, Drum.KICK))
        self.assertGreaterEqual(kicked.grade(), way_grade(Orchestration.KICK))

    def test_the_same_drums_as_an_orchestration_are_the_same_bar(self):
        for way in (Orchestration.DOWN, Orchestration.UP, Orchestration.TWO_DRUMS):
            written = Fill(Length.BAR, ("two quavers",) * 4, way)
            drums = tuple(hit.drum for hit in fill_bar(written, GROOVE).hits)
            placed = replace(written, orchestration=Orchestration.SNARE, placed=drums)
            self.assertEqual(fill_bar(placed, GROOVE), fill_bar(written, GROOVE))


class Writing(unittest.TestCase):
    def test_what_stood_before_it_stays_and_it_fills_its_space(self):
        for length in Length:
            fill = Fill(length, ("two quavers",) * BEATS[length])
            bar = fill_bar(fill, GROOVE)
            first = 4 - BEATS[length]
            before = [hit for hit in GROOVE.hits if hit.at < first]
            self.assertEqual([hit for hit in bar.hits if hit.at < first], before)
            onsets = [hit.at for hit in bar.hits if hit.at >= first]
            self.assertEqual(onsets, [first + Fraction(n, 2) for n in range(2 * BEATS[length])])

    def test_a_pick_up_is_its_beat_alone_and_counted_in_for_the_others(self):
        fill = Fill(Length.PICKUP, ("four semiquavers",), Orchestration.DOWN)
        bar = pickup_bar(fill, GROOVE)
        self.assertTrue(bar.pickup)
        self.assertEqual([hit.at for hit in bar.hits], [Fraction(n, 4) for n in range(4)])
        first = replace(GROOVE, number="1")
        studied = study(Chart("", (replace(bar, tempo=USUAL_TEMPO), first)))
        self.assertEqual(studied.bars[0].bar.length, 1)
        self.assertEqual(count_in(bar).spoken, "1 2 3")

    def drums(self, how: Orchestration, figure="four semiquavers"):
        fill = Fill(Length.BAR, (figure,) * 4, how)
        return [hit.drum for hit in fill_bar(fill, GROOVE).hits]

    def test_down_and_up_the_kit_are_mirrors(self):
        down = self.drums(Orchestration.DOWN)
        self.assertEqual(down[::4], [
            Drum.SNARE, Drum.TOM_HIGH, Drum.TOM_MID, Drum.TOM_FLOOR,
        ])  # fmt: skip
        self.assertEqual(self.drums(Orchestration.UP), down[::-1])

    def test_kick_flams_unison_and_space(self):
        kicks = self.drums(Orchestration.KICK).count(Drum.KICK)
        self.assertEqual((kicks, self.drums(Orchestration.UNISON).count(Drum.KICK)), (4, 4))
        flams = fill_bar(Fill(Length.HALF, ("two quavers",) * 2, Orchestration.FLAMS), GROOVE)
        self.assertEqual([h.grace for h in flams.hits].count(Grace.FLAM), 2)
        self.assertEqual(len(self.drums(Orchestration.SPACE)), 4)

    def test_louder_is_a_hairpin_that_leads_into_what_it_lands_on(self):
        for length in Length:
            fill = Fill(length, ("crotchet",) * BEATS[length], dynamic=Dynamic.BUILD)
            bar = fill_bar(fill, GROOVE)
            (mark,) = bar.marks
            self.assertEqual((mark.kind, mark.at + mark.length), (MarkKind.CRESCENDO, 4))
            self.assertEqual({hit.touch for hit in bar.hits}, {Touch.NORMAL})
            (mark,) = pickup_bar(fill, GROOVE).marks
            self.assertEqual((mark.at, mark.length), (0, BEATS[length]))

    def test_paradiddles_and_hand_hand_kick(self):
        figures = ("four semiquavers",) * 2
        diddle = fill_bar(Fill(Length.HALF, figures, Orchestration.PARADIDDLE), GROOVE)
        hands = [hit.hand.value for hit in diddle.hits if hit.hand]
        self.assertEqual("".join(hands), "RLRRLRLL")
        linear = fill_bar(Fill(Length.HALF, figures, Orchestration.LINEAR), GROOVE)
        filled = [hit for hit in linear.hits if hit.at >= 2]
        self.assertEqual([h.drum is Drum.KICK for h in filled][:6], [False, False, True] * 2)
        self.assertEqual(len({hit.at for hit in filled}), len(filled))

    def test_a_title_says_what_is_played(self):
        fill = Fill(Length.HALF, ("two quavers",) * 2, Orchestration.DOWN, Dynamic.BUILD)
        self.assertEqual(fill.name, "Down the kit from 3, getting louder")
        space = replace(fill, orchestration=Orchestration.SPACE)
        self.assertEqual(space.figures_said, "one note on each of 2 beats")


class ThreeToTry(unittest.TestCase):
    @settings(max_examples=40)
    @given(st.sampled_from(list(Length)), st.integers(0, 8), st.integers(0, 10_000))
    def test_all_are_sound_of_the_grade_and_differ_as_music(self, length, grade, seed):
        found = three_to_try(length, grade, GROOVE, USUAL_TEMPO, seed)
        again = three_to_try(length, grade, GROOVE, USUAL_TEMPO, seed)
        self.assertEqual(found, again)
        rhythms = [
            tuple(hit.at for hit in fill_bar(fill, GROOVE).hits if hit.at >= fill.space.start)
            for fill in found
        ]
        ways = [fill.orchestration for fill in found]
        self.assertEqual(len(set(zip(ways, rhythms, strict=True))), 3)
        self.assertTrue(all(is_one_idea(fill) for fill in found))
        self.assertTrue(all(max(rhythm) >= 3 for rhythm in rhythms))  # it comes to beat 4
        if grade > 1:
            self.assertEqual(len(set(rhythms)), 3, [fill.name for fill in found])
        owned = figures_owned(Fraction(1), max(1, grade), HOUSE_SYLLABUS)
        for fill in found:
            self.assertEqual(what_is_said(fill, GROOVE, max(1, grade), USUAL_TEMPO), ())
            self.assertLessEqual(set(fill.figures), set(owned))
            self.assertLessEqual(fill.grade(), max(1, grade))

    def test_there_are_three_of_every_length_at_every_grade(self):
        for length, grade in product(Length, range(9)):
            self.assertEqual(len(three_to_try(length, grade, GROOVE, USUAL_TEMPO, 1)), 3)

    def test_they_are_made_of_the_figures_that_are_asked_for_alone(self):
        held = figures_held([GROOVE], beat_figures_owned(2))
        self.assertEqual(held, ("two quavers",))
        for fill in three_to_try(Length.HALF, 2, GROOVE, USUAL_TEMPO, 1, held):
            self.assertEqual(set(fill.figures), {"two quavers"})

    def test_from_grade_5_on_one_is_of_what_that_grade_brings(self):
        for grade, seed in product(range(5, 9), range(5)):
            found = three_to_try(Length.HALF, grade, GROOVE, USUAL_TEMPO, seed)
            ways = {fill.orchestration for fill in found}
            self.assertTrue(ways & {*BY_HANDS, Orchestration.LINEAR}, ways)

    def test_another_seed_has_others(self):
        seen = {three_to_try(Length.BAR, 2, GROOVE, USUAL_TEMPO, seed) for seed in range(8)}
        self.assertGreater(len(seen), 6)


class WarmUps(unittest.TestCase):
    @given(st.integers(0, 8), st.integers(1, 15), st.integers(0, 99))
    def test_it_never_exceeds_its_minutes_nor_its_grade(self, grade, minutes, seed):
        made = warm_up(grade, minutes, seed)
        self.assertLessEqual(made.seconds, minutes * 60)
        self.assertTrue(all(line.grade() <= grade for line in made.lines))
        beats = len(made.lines) * made.times * 4
        self.assertEqual(made.seconds, Fraction(beats * 60, made.tempo.bpm))
        self.assertEqual(made, warm_up(grade, minutes, seed))  # the same for some weeks

    def test_five_minutes_are_about_five_at_every_grade(self):
        for grade in range(9):
            with self.subTest(grade):
                self.assertTrue(270 <= warm_up(grade, 5).seconds <= 300)

    def test_what_is_on_it_is_had_and_can_be_played(self):
        for grade in range(6):
            made = warm_up(grade, 5)
            studied = study(made.chart)
            above = [
                item.name
                for item in vocabulary(studied, max(1, grade))
                if item.status is Status.NEW
            ]
            self.assertEqual(above, [], grade)
            for bar in studied.bars:
                self.assertEqual(conflicts(bar.sticks, bar.bar, made.tempo), ())

    def test_five_minutes_are_filled_from_grade_2_on(self):
        for grade in range(2, 9):
            self.assertGreater(warm_up(grade, 5).seconds, 240)

    def test_the_newest_of_the_grade_is_always_there(self):
        for seed in range(20):
            for grade, newest in ((5, "nine-stroke rolls"), (8, "doubles round the kit")):
                names = [line.name for line in warm_up(grade, 2, seed).lines]
                self.assertIn(newest, names)

    def test_a_sheet_stays_for_its_weeks_from_monday_to_sunday(self):
        monday = date(2026, 11, 23)
        self.assertEqual(monday.isoweekday(), 1)
        days = [monday + timedelta(days=n) for n in range(7 * 12)]
        for weeks in (1, 2, 4):
            numbers = [sheet_number(day, weeks) for day in days]
            changes = [
                day for day, one, two in zip(days[1:], numbers, numbers[1:], strict=False)
                if one != two
            ]  # fmt: skip
            self.assertTrue(all(day.isoweekday() == 1 for day in changes))
            self.assertEqual(
                {after - before for before, after in pairwise(changes)},
                {timedelta(weeks=weeks)},
            )

    def test_what_the_pieces_ask_for_comes_first_for_half_of_the_sheet(self):
        for asked in ("flams", "buzz roll", "toms"):
            for seed in range(20):
                made = warm_up(5, 5, seed, {asked})
                self.assertTrue(any(asked in one.asks for one in made.lines), asked)
                self.assertLessEqual(made.seconds, 300)
        without = [warm_up(5, 3, seed).lines for seed in range(20)]
        self.assertFalse(all(any("flams" in one.asks for one in had) for had in without))

    def test_every_line_is_typed_as_a_drummer_reads_it(self):
        for line in LINES:
            self.assertTrue(line.bar.hits, line.name)
            self.assertIsInstance(warm_up(8, 5).tempo, Tempo)
