"""Three pieces worked by hand, as a teacher would, and the plan held against it.

Groups, traps, the hardest bars and the order of the steps are argued beside them. Common
practice, no source.
"""

import unittest
from dataclasses import replace

from tests.builders import make_chart
from wren_ladder.drumming.breakdown import break_down, describe
from wren_ladder.drumming.judging.judgement import Player, judge
from wren_ladder.drumming.study import study
from wren_ladder.drumming.style import HOUSE, School


class Worked(unittest.TestCase):
    text: str
    school: School
    grade: int

    def work(self) -> None:
        self.studied = study(make_chart(self.text))
        player = Player(style=replace(HOUSE, school=self.school), grade=self.grade)
        self.judged = judge(self.studied, player)
        self.plan = break_down(self.studied, player, self.judged)
        self.bars = self.studied.chart.bars

    def groups(self) -> dict[str, list[str]]:
        """The number of each different bar with those of its twins."""
        found: dict[str, list[str]] = {}
        for bar, kind in zip(self.bars, self.studied.kinds, strict=True):
            found.setdefault(self.bars[kind].number, []).append(bar.number)
        return found

    def hardest(self, number: int = 3) -> list[str]:
        new = [i for i, kind in enumerate(self.studied.kinds) if i == kind]
        new.sort(key=lambda index: -self.judged.bars[index].rank)
        return [self.bars[index].number for index in new[:number]]

    def traps(self) -> dict[str, tuple[str, ...]]:
        return {bar.bar.number: bar.traps for bar in self.studied.bars if bar.traps}

    def steps(self) -> list[str]:
        return [
            describe(step.kind, step.part, self.bars[step.first], self.bars[step.last])
            for step in self.plan
        ]


class HarbourLight(Worked):
    """A first piece: one groove, a section crash, an open hat, one moved kick, a fill."""

    text = """tempo crotchet = 80
bar 1
section A
crash 1
hat 8ths 2-4, 1&
snare 2 4
kick 1 3
bar 2
hat 8ths
snare 2 4
kick 1 3
bar 3 as 2
bar 4 as 2
hat 8ths, open 2& 4&
bar 5 as 1
bar 6 as 2
bar 7 as 2
kick 1 2&
bar 8
hat 8ths 1-2
snare 2, 3 3&, flam 4
kick 1
"""
    school, grade = School.PHRASE, 2

    def test_it(self):
        self.work()
        # The crash marks the line: bars 1 and 5 are one bar, and bar 2 is it without the crash.
        self.assertEqual(
            self.groups(),
            {"1": ["1", "5"], "2": ["2", "3", "6"], "4": ["4"], "7": ["7"], "8": ["8"]},
        )
        self.assertEqual(
            self.studied.taught_from(self.studied.bars[1]), "1 without the section's crash"
        )
        self.assertEqual(
            self.studied.taught_from(self.studied.bars[3]), "2 with the hat open on 2& and 4&"
        )
        # After three times bar 2 the foot expects 3: bar 7 has it on 2& instead.
        self.assertEqual(
            self.traps(),
            {
                "7": (
                    "trap: with the kick moved from 3 to 2&, "
                    "not as in bar 2, which comes 3 times",
                )
            },
        )
        # Open hats off the beat are what grade 2 has not had, and one closes with the stick;
        # then the fill, whose flam is due now; then the trap.
        self.assertEqual(self.hardest(), ["4", "8", "7"])
        # Bar 4 is taken out of the eight bars, its hat left closed at first, and the fill with
        # its flam. The join 4 to 5 is played by itself: the hat opened on 4& closes over the
        # bar line.
        self.assertEqual(
            self.steps(),
            [
                "Bar 4, + backbeat, plain",
                "Bar 4",
                "Bar 8",
                "Bars 4 to 5",
                "Bars 1–8",
                "Whole piece",
            ],
        )


class LanternMarch(Worked):
    """A snare drum solo: accents, flams, drags and a roll, for a student of grade 3."""

    text = """tempo crotchet = 72
bar 1
section March
snare 16ths, accent 1 2 3 4
bar 2
snare accent 1, 16ths 2-4
bar 3
snare flam 1 2, 3 3&, flam 4
bar 4
snare drag 1 2, roll 7 3-4, accent 4
bar 5 as 1
bar 6 as 2
bar 7 as 3
bar 8
snare accent 1, 4
"""
    school, grade = School.LAYER, 3

    def test_it(self):
        self.work()
        self.assertEqual(
            self.groups(),
            {"1": ["1", "5"], "2": ["2", "6"], "3": ["3", "7"], "4": ["4"], "8": ["8"]},
        )
        # The last bar stops for a beat and a half before its last note.
        self.assertEqual(self.traps(), {"8": ("trap: a beat of silence on 2 before 4",)})
        # Two drags and a seven stroke roll, which grade 3 has not had; then three flams;
        # then the silence.
        self.assertEqual(self.hardest(), ["4", "3", "8"])
        # Bars 1 and 2: rhythm, then their accents. Bar 3: rhythm, then its flams. Bar 4:
        # rhythm, the accent, the drags, the three motions of the roll, then the roll.
        self.assertEqual(
            self.steps(),
            [
                "Bar 1, plain rhythm",
                "Bar 1",
                "Bar 2, plain rhythm",
                "Bar 2",
                "Bar 3, plain rhythm",
                "Bar 3",
                "Bar 4, plain rhythm",
                "Bar 4, + accents",
                "Bar 4, + drags",
                "Bar 4, + roll skeletons",
                "Bar 4",
                "Bars 2 to 3",  # one hand twice over the bar line; the others are in lines
                "Bars 1–4",
                "Bar 8, plain rhythm",
                "Bar 8",
                "Bars 5–8",
                "Bars 4 to 5",  # the two lines are the whole piece, so no section has it
                "Whole piece",
            ],
        )


class SlipwayRock(Worked):
    """A road with a repeat, a D.S. and a coda; quick kicks, ghosts, a fill round the kit."""

    text = """tempo crotchet = 110
bar 1
section Verse
segno
repeat start
hat 8ths
snare 2 4
kick 1 3
bar 2 as 1
kick 1 3& 3a
bar 3 as 1
bar 4
hat 8ths 1-2
snare 2, 16ths 3-4
kick 1
repeat end 2
bar 5
section Bridge
to coda
ride 8ths
snare accent 2 4, ghost 4e
kick 1 2& 4&
bar 6 as 5
bar 7 as 5
bar 8
snare 16ths 1-2
floor 16ths 3-4
jump D.S. al Coda
bar 9
section Coda
coda
crash accent 1
kick 1
"""
    school, grade = School.BAR, 4

    def test_it(self):
        self.work()
        self.assertEqual(
            self.groups(),
            {
                "1": ["1", "3"],
                "2": ["2"],
                "4": ["4"],
                "5": ["5", "6", "7"],
                "8": ["8"],
                "9": ["9"],
            },
        )
        # Two quick kicks, one of them between the hands; then the ghost, due now, right behind
        # an accent in the same hand; then the fill's reach from snare to floor tom.
        self.assertEqual(self.hardest(), ["2", "5", "8"])
        # The bridge ends each bar with a kick on 4& and lands on a kick: its habit, no trap.
        self.assertEqual(self.traps(), {})
        # Bars, then their line; the way into each section; then the three turns of the road.
        self.assertEqual(
            self.steps(),
            [
                "Bar 1",
                "Bar 2, first half",
                "Bar 2, second half",
                "Bar 2",
                "Bars 1–4",
                "Bar 5",
                "Bar 8",
                "Bars 7 to 8",
                "Bars 4 to 5",
                "Bars 5–8",
                "From 4 to 1",
                "From 8 to 1",
                "From 5 to 9",
                "Whole piece",
            ],
        )


del Worked
