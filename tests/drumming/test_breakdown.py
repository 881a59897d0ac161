"""Breaking pieces down by the three schools. Common practice, no source."""

import unittest
from dataclasses import replace
from datetime import date
from fractions import Fraction

from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.builders import FIRST_PIECE, UNSEEN, make_chart, sixty_bars
from tests.strategies import charts
from wren_ladder.demo import CHARTS
from wren_ladder.drumming.breakdown import (
    Ahead,
    Learner,
    Pace,
    Step,
    StepKind,
    Work,
    break_down,
    describe,
    left_out,
    needs,
    plan_work,
    schedule,
    slowly_first,
    start_for,
    step_seconds,
)
from wren_ladder.drumming.breakdown.chunks import sections, with_pickup
from wren_ladder.drumming.breakdown.played import step_bars
from wren_ladder.drumming.breakdown.schools import MOST_LINES, SCAFFOLD
from wren_ladder.drumming.breakdown.step import RUNS
from wren_ladder.drumming.building.layers import LayerCode, in_layer
from wren_ladder.drumming.building.parts import Part
from wren_ladder.drumming.chart import Bar, Chart, ChartError, Drum
from wren_ladder.drumming.climb import Gate, GateKind, rungs
from wren_ladder.drumming.description.phrases import phrases
from wren_ladder.drumming.judging.judgement import Player, judge, music_of
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.study import study
from wren_ladder.drumming.style import HOUSE, School

PIECE = """bar 1
section A Verse
hat 8ths
bars 2-3 as 1
bar 4
snare 8ths
bars 5-8 as 1-4
bar 9
section B End
crash 1
snare 3
"""
HARD = "snare flam 1, drag 2, ruff 3, accent 3e, ghost 3a, ruff 4"


def player(school: School = School.BAR, **fields) -> Player:
    return Player(style=replace(HOUSE, school=school), **fields)


def steps_of(text: str, school: School = School.BAR, **fields) -> list[tuple]:
    steps = break_down(study(make_chart(text)), player(school, **fields))
    return [
        (step.kind.value, step.first, step.last, *([step.part] * bool(step.part)))
        for step in steps
    ]


class Phrases(unittest.TestCase):
    def test_four_bars_each_and_a_new_one_at_every_section(self):
        chart = make_chart(PIECE.replace("bars 5-8", "bars 5-7").replace("1-4", "1-3"))
        found = [(p.first, p.last, p.section) for p in phrases(chart.bars)]
        self.assertEqual(found, [(0, 3, "A Verse"), (4, 6, ""), (7, 7, "B End")])

    def test_a_pick_up_goes_with_the_first_phrase_and_its_section(self):
        chart = make_chart(
            "bar 0\nbeats 1\nsnare 4\nbar 1\nsection A Verse\nhat 8ths\nbars 2-5 as 1"
        )
        found = [(phrase.first, phrase.last, phrase.section) for phrase in phrases(chart.bars)]
        self.assertEqual(found, [(0, 4, "A Verse"), (5, 5, "")])

    @given(charts(most=12))
    def test_every_bar_is_in_exactly_one_phrase(self, chart):
        covered = [i for p in phrases(chart.bars) for i in range(p.first, p.last + 1)]
        self.assertEqual(covered, list(range(len(chart.bars))))

    def test_sections_hold_their_phrases_and_no_more_than_about_eight_bars(self):
        chart = make_chart(
            "bar 1\nsection A\nhat 8ths\nbars 2-18 as 1\nbar 19\nsection B\nkick 1"
        )
        found = [(part.first, part.last, part.name) for part in sections(chart.bars)]
        self.assertEqual(found, [(0, 7, "A"), (8, 15, "A"), (16, 17, "A"), (18, 18, "B")])

    def test_a_chunk_takes_its_pick_up_notes_along(self):
        chart = make_chart("bar 1\nhat 8ths\nbar 2\nsnare 4&\nbar 3\nhat 8ths\nbar 4\nsnare 1")
        self.assertEqual([with_pickup(chart.bars, i) for i in range(4)], [0, 1, 1, 3])


class BarSchool(unittest.TestCase):
    def test_bars_and_line_of_each_line_then_section_and_whole(self):
        expected = [
            ("bar", 0, 0),
            ("bar", 3, 3),
            ("phrase", 0, 3),
            ("section", 0, 7),
            ("bar", 8, 8),
            ("pair", 7, 8),
            ("whole", 0, 8),
        ]
        self.assertEqual(steps_of(PIECE), expected)

    def test_a_last_crash_is_no_line(self):
        steps = steps_of(f"{PIECE}bar 10\nsection End\ncrash accent 1\nkick 1\n")
        self.assertEqual([step for step in steps if 9 in step[1:3] and step[0] != "whole"], [])

    def test_the_first_backbeat_is_a_step_for_a_beginner_in_every_school(self):
        beat = "bar 1\nhat quarters\nsnare 2 4\nkick 1 3\nbars 2-4 as 1"
        for school in School:
            with self.subTest(school):
                self.assertIn(("bar", 0, 0), steps_of(beat, school, grade=1))
        self.assertNotIn(("bar", 0, 0), steps_of(beat, School.PHRASE, grade=4))

    def test_a_step_says_why(self):
        by_name = {(s.kind.value, s.first): s.why for s in break_down(study(make_chart(PIECE)))}
        self.assertEqual(by_name["bar", 0], "learned once for 2, 3, 5, 6 and 7 too")
        self.assertEqual(by_name["bar", 8], "a bar of its own")
        self.assertTrue(by_name["pair", 7].startswith("section to section: "))
        self.assertEqual(by_name["whole", 0], "along the road map, 9 bars played")

    def test_a_join_is_a_step_where_it_has_a_reason_of_its_own(self):
        text = PIECE.replace("hat 8ths", "hat 8ths, open 4&", 1)  # it closes over the bar line
        self.assertIn(("pair", 2, 3), steps_of(text.replace("snare 8ths", "hat 8ths\nkick 1")))

    def test_easy_bars_are_learned_in_their_line_which_says_how(self):
        text = "\n".join(
            ("bar 1\nhat 8ths\nsnare 2 4\nkick 1 3", "bar 2 as 1\nkick 1 3 3&", "bar 3 as 1",
             "bar 4 as 1\nhat 8ths, open 4&", "bars 5-8 as 1-4",
             "bar 9\nsection B\ncrash 1\nsnare 3")
        )  # fmt: skip
        self.assertEqual(
            [step for step in steps_of(text) if step[0] == "bar"],
            [("bar", 0, 0), ("bar", 8, 8)],
        )
        line = next(s for s in break_down(study(make_chart(text))) if s.kind == "phrase")
        self.assertEqual(
            line.why,
            "a line in one breath; in it 2 is 1 with the kick on 3& and 4 is 1 with the hat "
            "open on 4&",
        )

    def test_what_helps_a_bar_depends_on_what_is_hard_in_it(self):
        groove = "bar 1\nhat 8ths\nsnare 2 4\nkick 1 3\nbar 2\n"
        for lines, kinds in (
            ("snare flam 1, flam 3", ["layer"]),  # two flams have no first half
            ("snare 1 1a 2& 3e 3a 4e 4& 4a\nhigh 2e 3&", ["half", "half"]),
            ("hat 8ths, open 1& 2& 3& 4&\nsnare 2 4, ghost 2a\nkick 1 1a 3a",
             ["notes", "layer"]),
        ):  # fmt: skip
            with self.subTest(lines):
                steps = steps_of(f"{groove}{lines}\nbars 3-4 as 1", grade=2)
                found = [
                    step[0] for step in steps if step[1:3] == (1, 1) and step[0] != "figure"
                ]
                self.assertEqual(found[: len(kinds)], kinds, steps)

    def test_a_half_says_what_to_watch_for_in_itself(self):
        text = "bar 1\nhat 8ths\nbar 2\nsnare 1 1a 2& 3e 3a 4e 4& 4a\nhigh 2e, flam 3&"
        steps = break_down(study(make_chart(text)), player(grade=5))
        halves = {step.part: step.watch for step in steps if step.kind is StepKind.HALF}
        self.assertNotIn("flams", halves[Part.FIRST])
        self.assertIn("flams", halves[Part.SECOND])

    def test_a_bar_taught_by_one_change_is_one_step(self):
        text = f"bar 1\n{HARD}\nbar 2 as 1\nkick 1\nbar 3\nhat 8ths\nbar 4\nkick 1"
        ours = [step for step in steps_of(text, ranks={1: 6.0}) if step[1:3] == (1, 1)]
        self.assertEqual(ours, [("bar", 1, 1)])

    def test_a_hard_bar_is_taken_apart_and_looped_with_an_empty_bar(self):
        text = f"bar 1\nhat 8ths\nbar 2\n{HARD}\nbar 3\nhat 8ths\nkick 1"
        self.assertEqual(
            [step for step in steps_of(text) if step[1] == 1 and step[0] != "pair"],
            [
                ("layer", 1, 1, "flams"),
                ("bar", 1, 1),
                ("on", 1, 2),
            ],
        )
        bar = next(
            s for s in break_down(study(make_chart(text))) if (s.kind, s.first) == ("bar", 1)
        )
        self.assertEqual((bar.repeats, bar.gap), (8, 1))
        self.assertIn("flams", bar.watch[0])

    def test_a_figure_the_player_has_not_had_is_learned_by_itself_first(self):
        text = "bar 1\nhat 8ths\nbar 2\nsnare 1 2, 3 3a\nkick 4\nbar 3 as 2\nbar 4 as 1"
        fresh = "new: dotted quaver + semiquaver, by itself on the snare"
        for grade, expected in ((2, [(1, "3", fresh)]), (3, [])):
            steps = break_down(study(make_chart(text)), player(grade=grade))
            found = [step for step in steps if step.kind is StepKind.FIGURE]
            self.assertEqual([(one.first, one.part, one.why) for one in found], expected)
        step = Step(StepKind.FIGURE, 1, 1, 4, "", "3")
        (bar,) = step_bars(step, study(make_chart(text)))
        quarters = [Fraction(n) + part for n in range(4) for part in (0, Fraction(3, 4))]
        self.assertEqual([hit.at for hit in bar.bar.hits], quarters)
        self.assertEqual({hit.drum for hit in bar.bar.hits}, {Drum.SNARE})
        last = bar.bar
        self.assertEqual(
            describe(StepKind.FIGURE, "3", last, last), "Bar 2, the figure of beat 3"
        )

    def test_every_turn_of_the_road_is_joined(self):
        text = "bar 1\nrepeat start\nhat 8ths\nbar 2\nsnare 8ths\nrepeat end 2\nbar 3\nkick 1"
        self.assertIn(("jump", 1, 0), steps_of(text))

    def test_a_one_bar_groove_is_one_step(self):
        self.assertEqual(steps_of("hat 8ths"), [("bar", 0, 0)])

    def test_a_bar_of_rests_needs_no_step(self):
        self.assertEqual(
            steps_of("bar 1\nbar 2\nhat 8ths"), [("bar", 1, 1), ("pair", 0, 1), ("whole", 0, 1)]
        )


class OtherSchools(unittest.TestCase):
    def test_the_phrase_school_goes_down_only_where_needed(self):
        text = f"bar 1\nhat 8ths\nbars 2-7 as 1\nbar 8\n{HARD}\nbars 9-16 as 1"
        self.assertEqual(
            [step for step in steps_of(text, School.PHRASE) if step[0] in ("bar", "section")],
            [("bar", 7, 7), ("section", 0, 7), ("section", 8, 15)],
        )

    def test_the_layer_school_builds_a_bar_from_its_pulse(self):
        text = "hat 8ths, open 1& 3&\nsnare 2 4, ghost 2a\nkick 1 3"
        parts = [step[3] for step in steps_of(text, School.LAYER) if step[0] == "layer"]
        self.assertEqual(parts, ["pulse", "feet", "backbeat", "open-hats"])

    def test_the_layer_school_has_layers_from_the_first_rock_beat_on(self):
        text = "bar 1\nhat 8ths\nsnare 2 4\nkick 1 3\nbar 2\nkick 1\nbar 3\nsnare 1"
        parts = [step[3] for step in steps_of(text, School.LAYER) if step[0] == "layer"]
        self.assertEqual(parts, ["pulse", "feet"])

    def test_a_fill_is_learned_alone_on_the_pad(self):
        text = "hat 8ths 1-2\nsnare 2 3*\nfloor 4*\nkick 1"
        parts = [step[3] for step in steps_of(text, School.LAYER) if step[0] == "layer"]
        self.assertEqual(parts[0], "fill")
        pad = in_layer(make_chart(text).bars[0], "fill")
        self.assertEqual({hit.drum for hit in pad.hits}, {Drum.SNARE})
        self.assertEqual(min(hit.at for hit in pad.hits), 2)

    def test_a_plan_for_a_known_groove_is_short(self):
        text = "bar 1\nhat 8ths\nsnare 2 4\nkick 1 3\nbars 2-8 as 1"
        groove = music_of(make_chart(text).bars[0])
        for school in School:
            with self.subTest(school):
                self.assertEqual(steps_of(text, school, known={groove}), [("whole", 0, 7)])


class Size(unittest.TestCase):
    """A plan is something a teacher hands out. Common practice, no source."""

    def lines(self, text: str, grade: int, school: School = School.BAR) -> int:
        steps = break_down(study(make_chart(text)), player(school, grade=grade))
        return sum(step.kind not in SCAFFOLD for step in steps)

    def test_sixteen_bars_at_grade_1_are_8_to_15_lines(self):
        for school, least in ((School.BAR, 8), (School.LAYER, 8), (School.PHRASE, 5)):
            with self.subTest(school):
                self.assertIn(self.lines(FIRST_PIECE, 1, school), range(least, 16))

    def test_sixty_bars_at_grade_3_are_40_to_60_lines(self):
        steps = break_down(study(sixty_bars()), player(School.BAR, grade=3))
        lines = sum(step.kind not in SCAFFOLD for step in steps)
        self.assertIn(lines, range(40, 61))

    @settings(max_examples=25)
    @given(charts(most=24), st.sampled_from(School), st.integers(1, 8))
    def test_never_over_eighty(self, chart, school, grade):
        """120 bars or so: the chart several times over, so that its bars come in new lines."""
        bars = [
            Bar(str(number), bar.meter, bar.hits, section="" if number % 9 else f"S{number}")
            for number, bar in enumerate(chart.bars * 6, 1)
            if not (bar.pickup or bar.length != bar.meter.length)
        ]
        assume(bars)
        studied = study(Chart("", tuple(bars)))
        steps = break_down(studied, player(school, grade=grade))
        self.assertLessEqual(sum(step.kind not in SCAFFOLD for step in steps), MOST_LINES)


class Properties(unittest.TestCase):
    @settings(max_examples=60)
    @given(charts(most=12), st.sampled_from(School), st.integers(1, 8))
    def test_nothing_is_left_out_and_nothing_comes_before_what_it_needs(
        self, chart, school, grade
    ):
        studied = study(chart)
        who = player(school, grade=grade)
        judged = judge(studied, who)
        steps = break_down(studied, who, judged)
        self.assertEqual(left_out(steps, studied, judged), [])
        for here, needed in enumerate(needs(steps, studied)):
            self.assertTrue(all(place < here for place in needed), steps[here])

    @settings(max_examples=60)
    @given(charts(most=12), st.sampled_from(School))
    def test_equal_bars_are_built_once(self, chart, school):
        studied = study(chart)
        built = [
            studied.kinds[step.first]
            for step in break_down(studied, player(school))
            if step.kind is StepKind.BAR
        ]
        self.assertEqual(len(built), len(set(built)))

    @settings(max_examples=40)
    @given(charts(most=8), st.sampled_from(School))
    def test_what_is_known_makes_no_plan_longer(self, chart, school):
        studied = study(chart)
        known = {music_of(bar) for bar in chart.bars}
        self.assertLessEqual(
            len(break_down(studied, player(school, known=known))),
            len(break_down(studied, player(school))),
        )

    def test_a_missing_bar_and_join_are_told(self):
        studied = study(make_chart(PIECE))
        judged = judge(studied)
        steps = [s for s in break_down(studied) if s.kind in (StepKind.WHOLE, StepKind.PHRASE)]
        self.assertEqual(
            left_out(steps, studied, judged),
            ["bar 9", "the join 4 to 5", "the join 8 to 9"],
        )


class Minutes(unittest.TestCase):
    """Metronome arithmetic: bars × beats × 60 / BPM × repeats, and the empty bars between."""

    def check(self, text, step, bpm, expected):
        studied = study(make_chart(text))
        self.assertAlmostEqual(step_seconds(step, studied, bpm), expected)

    def test_to_the_second(self):
        four = "tempo crotchet = 120\nbar 1\nhat 8ths\nbars 2-4 as 1"
        phrase = Step(StepKind.PHRASE, 0, 3, 4, "")
        self.check(four, phrase, 60, 4 * 4 * 60 / 60 * 4)
        self.check(four, phrase, 96, 4 * 4 * 60 / 96 * 4)
        bar = Step(StepKind.BAR, 0, 0, 8, "", gap=1)
        self.check(four, bar, 60, 4 * 8 + 4 * 7)  # seven empty bars between eight tries
        half = Step(StepKind.HALF, 0, 0, 4, "", "first", gap=1)
        self.check(four, half, 60, 2 * 4 + 4 * 3)
        self.check(four, Step(StepKind.ON, 0, 1, 4, ""), 60, 5 * 4)

    def test_in_compound_time_and_with_a_later_mark(self):
        first = "meter 6/8\ntempo dotted crotchet = 60\nbar 1\nhat 8ths"
        text = f"{first}\nbar 2\ntempo dotted crotchet = 120\nhat 8ths"
        self.check(text, Step(StepKind.PAIR, 0, 1, 4, ""), 60, (2 + 1) * 4)
        self.check(text, Step(StepKind.PAIR, 0, 1, 4, ""), 30, (4 + 2) * 4)

    def test_the_whole_run_goes_along_the_road(self):
        text = "tempo crotchet = 60\nbar 1\nrepeat start\nhat 8ths\nrepeat end 3"
        self.check(text, Step(StepKind.WHOLE, 0, 0, 1, ""), 60, 4 * 3)


def one_work(step: Step, studied, gate: Gate, learner: Learner) -> Work:
    """What a step takes up two rungs, its bars being slow already."""
    (work,) = plan_work([Ahead(step, (60, 65), begun=True)], studied, gate, learner)
    return work


class HowLong(unittest.TestCase):
    """Weeks of a lesson of 30 minutes and 15 minutes on five days. Common practice, no
    source."""

    def weeks(
        self, chart: Chart, grade: int, target: int, learner: Learner, school=School.BAR
    ) -> float:
        return self.weeks_of(study(chart), grade, target, learner, school)

    def weeks_of(self, studied, grade: int, target: int, learner: Learner, school) -> float:
        ahead = [
            Ahead(step, rungs(start_for(target, 75, step.rank, grade), target))
            for step in break_down(studied, player(school, grade=grade))
        ]
        works = plan_work(ahead, studied, Gate(), learner)
        ends = [one.step.kind in (*RUNS, StepKind.WHOLE) for one in ahead]
        order = slowly_first(works, ends)
        return schedule(works, Pace(), date(2026, 3, 2), None, order).needed

    def test_the_schools_change_the_order_and_hardly_the_sum(self):
        for path in [*sorted(CHARTS.glob("*.wren")), *sorted(UNSEEN.glob("*.wren"))]:
            studied = study(read_chart(path.read_text()))
            target = studied.chart.tempo.bpm
            for grade in (1, 5):
                with self.subTest(path.stem, grade=grade):
                    weeks = [
                        self.weeks_of(studied, grade, target, Learner(grade), school)
                        for school in School
                    ]
                    self.assertLessEqual(max(weeks), 1 + min(weeks) * 4 / 3)

    def test_a_first_piece_takes_6_to_10_weeks(self):
        weeks = self.weeks(make_chart(FIRST_PIECE), 1, 84, Learner(1))
        self.assertTrue(6 <= weeks <= 10, weeks)

    def test_two_pages_at_grade_3_take_8_to_14(self):
        weeks = self.weeks(sixty_bars(), 3, 104, Learner(3))
        self.assertTrue(8 <= weeks <= 14, weeks)

    def test_what_the_log_says_goes_before_the_grade(self):
        chart = make_chart(FIRST_PIECE)
        quick, slow = (self.weeks(chart, 1, 84, Learner(1, gain)) for gain in (5.0, 1.5))
        self.assertLess(quick, slow)
        self.assertLess(quick, self.weeks(chart, 1, 84, Learner(1)))

    def test_a_longer_row_at_the_gate_takes_longer(self):
        studied = study(make_chart(FIRST_PIECE))
        line = Step(StepKind.PHRASE, 0, 3, 4, "")
        usual, twice = (
            one_work(line, studied, Gate(clean_bars=bars), Learner(1)) for bars in (16, 32)
        )
        self.assertGreater(twice.minutes, usual.minutes)
        self.assertEqual(twice.days, usual.days)
        self.assertEqual(plan_work([Ahead(line, ())], studied, Gate(), Learner(1)), [Work()])

    def test_the_gate_itself_is_asked_its_tries_and_its_days(self):
        studied = study(make_chart(FIRST_PIECE))
        line = Step(StepKind.PHRASE, 0, 3, 4, "")
        row, tries, days, more_days = (
            one_work(line, studied, gate, Learner(3))
            for gate in (
                Gate(clean_bars=32),
                Gate(GateKind.TRIES, clean=2, tries=3),
                Gate(GateKind.DAYS, clean_bars=32, days=3),
                Gate(GateKind.DAYS, clean_bars=32, days=7),
            )
        )
        self.assertLess(tries.minutes, row.minutes)
        # Two rungs on three days each, and what is forgotten besides.
        self.assertGreaterEqual(days.days, 2 * 3)
        self.assertAlmostEqual(more_days.days, days.days * 7 / 3)
        self.assertGreater(days.minutes, row.minutes)


class Steps(unittest.TestCase):
    def test_names_are_spoken(self):
        chart = make_chart("bar 0\nbeats 1\nsnare 4\nbar 1\nhat 8ths\nbar 2\nkick 1")
        pickup, first, second = chart.bars
        for kind, part, start, end, section, name in (
            (StepKind.BAR, "", pickup, pickup, "", "Pick-up"),
            (StepKind.BAR, "", first, first, "A", "Bar 1"),
            (StepKind.NOTES, "", first, first, "", "Bar 1, note by note"),
            (StepKind.LAYER, LayerCode.FLAMS, first, first, "", "Bar 1, + flams"),
            (StepKind.ON, "", first, second, "", "Bar 1 and the next note"),
            (StepKind.PAIR, "", first, second, "", "Bars 1 to 2"),
            (StepKind.JUMP, "", second, first, "", "From 2 to 1"),
            (StepKind.PHRASE, "", first, second, "A Verse", "Bars 1–2, A Verse"),
            (StepKind.WHOLE, "", first, second, "", "Whole piece"),
        ):
            with self.subTest(name):
                self.assertEqual(describe(kind, part, start, end, section), name)

    def test_a_step_runs_forward_and_is_repeated_sensibly(self):
        with self.assertRaisesRegex(ChartError, "from a bar to the same or a later one"):
            Step(StepKind.OWN, 3, 2, 4, "")
        with self.assertRaisesRegex(ChartError, "repeated 1 to 64 times"):
            Step(StepKind.OWN, 0, 0, 0, "")
        with self.assertRaisesRegex(ChartError, "0 to 4 empty bars"):
            Step(StepKind.BAR, 0, 0, 4, "", gap=5)
