"""How hard a bar is: what must hold of any weighing. Reasons are common practice."""

import unittest
from dataclasses import replace
from fractions import Fraction

from hypothesis import assume, given
from hypothesis import strategies as st

from tests.builders import make_bar
from tests.strategies import bars, charts
from wren_ladder.drumming.chart import Grace, Hand, Tempo
from wren_ladder.drumming.findings import rank
from wren_ladder.drumming.findings import weigh as weigh_findings
from wren_ladder.drumming.findings.ground import (
    BELL_OFF_BEAT,
    LEFT_FOOT_UNDER,
    moving_patterns,
)
from wren_ladder.drumming.findings.playing import playing_findings
from wren_ladder.drumming.hands import stick_bar
from wren_ladder.drumming.judging.judgement import NEW
from wren_ladder.drumming.study import study, study_bar
from wren_ladder.drumming.style import HOUSE, WEIGHTS, Reason

SLOW = Tempo(Fraction(1), 60)


def difficulty(bar, sticks, tempo=SLOW, style=HOUSE, new=()):
    fresh = [NEW.found(name=name, again=False) for name in new]
    return weigh_findings([*fresh, *playing_findings(bar, sticks, tempo, style)], style)


def weigh(bar, tempo=SLOW, style=HOUSE, new=()):
    return rank(difficulty(bar, stick_bar(bar, style), tempo, style, new))


class Properties(unittest.TestCase):
    @given(bars(), st.integers(40, 200), st.integers(1, 100))
    def test_a_faster_tempo_never_makes_a_bar_easier(self, bar, bpm, more):
        slow, fast = Tempo(Fraction(1), bpm), Tempo(Fraction(1), bpm + more)
        self.assertGreaterEqual(weigh(bar, fast), weigh(bar, slow))

    @given(bars(), st.data())
    def test_an_added_ornament_never_makes_a_bar_easier(self, bar, data):
        plain = [
            hit
            for hit in bar.hits
            if not (hit.drum.by_foot or hit.roll or hit.grace is not Grace.NONE)
        ]
        assume(plain)
        chosen = data.draw(st.sampled_from(plain))
        grace = data.draw(st.sampled_from([Grace.FLAM, Grace.DRAG, Grace.RUFF]))
        hits = tuple(replace(h, grace=grace) if h is chosen else h for h in bar.hits)
        self.assertGreaterEqual(weigh(replace(bar, hits=hits)), weigh(bar))

    @given(bars(), st.sets(st.sampled_from(["triplet", "flams", "ruffs"])))
    def test_something_new_never_makes_a_bar_easier(self, bar, new):
        self.assertGreaterEqual(weigh(bar, new=[*new, "drags"]), weigh(bar, new=new))

    @given(bars())
    def test_mirrored_hands_are_as_hard_for_a_mirrored_player(self, bar):
        mirrored = tuple(replace(h, hand=h.hand and h.hand.other) for h in bar.hits)
        left = replace(HOUSE, lead=Hand.LEFT)
        self.assertEqual(weigh(bar), weigh(replace(bar, hits=mirrored), style=left))

    @given(charts(most=6))
    def test_a_bar_of_a_piece_is_found_as_hard_as_by_itself_at_its_tempo(self, chart):
        studied = study(chart)
        for bar, tempo in zip(studied.bars, studied.tempos, strict=True):
            alone = study_bar(bar.bar, tempo, HOUSE)
            # Which hand it falls on may come from the bar before; how hard it is does not.
            found = [[(one.kind, one.at) for one in each.findings] for each in (bar, alone)]
            self.assertEqual(*found)


class Reasons(unittest.TestCase):
    def test_each_reason_is_found(self):
        for lines, reason in (
            ("snare flam 1", Reason.ORNAMENTS),
            ("snare accent 2, ghost 2&\nhands L L", Reason.GHOST_ACCENT),
            ("hat 8ths, open 1&", Reason.HAT_CLOSES),
            ("hat 8ths\nkick 1 2e", Reason.FEET),
            ("hat 8ths\nkick 3 3e", Reason.QUICK_KICKS),
            ("snare 1 3&", Reason.ENTRY),
            ("hat 1\nfloor 1&\nhands R R", Reason.REACH),
            ("hat quarters\nsnare 2e 2&", Reason.DOUBLES),
            ("snare 32nds 1-2\nhands RRRRRRRRRRRRRRRR", Reason.SPEED),
            ("snare 1 1a 2&", Reason.RHYTHM),
            ("snare 1 1t 1l 2 2&", Reason.RHYTHM),
            ("snare 16ths, accent 1e", Reason.ACCENTS),
            ("snare 1 1e 1& 2e 2&\nhigh 1a 2", Reason.GROUPS),
        ):
            with self.subTest(reason):
                bar = make_bar(lines)
                found = difficulty(bar, stick_bar(bar), Tempo(Fraction(1), 126))
                self.assertIn(reason, [trouble.reason for trouble in found])

    def test_the_heaviest_comes_first_and_the_sum_is_the_rank(self):
        bar = make_bar("snare flam 1, drag 2, ruff 3, ghost 4")
        found = difficulty(bar, stick_bar(bar), SLOW, new=["ruffs"])
        scores = [trouble.score for trouble in found]
        self.assertEqual(scores, sorted(scores, reverse=True))
        self.assertAlmostEqual(rank(found), sum(scores), places=2)

    def test_a_weight_of_nothing_leaves_the_reason_out(self):
        weights = tuple((r, 0.0 if r is Reason.ORNAMENTS else w) for r, w in WEIGHTS)
        bar = make_bar("snare flam 1")
        style = replace(HOUSE, weights=weights)
        self.assertEqual(difficulty(bar, stick_bar(bar), SLOW, style), ())


class WhatGoesOn(unittest.TestCase):
    def found(self, lines: str, meter: str = "4/4") -> set[str]:
        return {one.kind.code for one in moving_patterns(make_bar(lines, meter))}

    def test_a_bell_on_the_off_beats_alone(self):
        self.assertEqual(self.found("ride bell 1& 2& 3& 4&"), {BELL_OFF_BEAT.code})
        self.assertEqual(self.found("ride bell 1 2 3 4"), set())
        self.assertEqual(self.found("ride bell 1& 2& 3& 4&, bell 1"), set())

    def test_in_compound_time_the_beat_is_dotted(self):
        """The count of 6/8 is a quaver: what is on a count is on no off-beat."""
        self.assertEqual(self.found("ride bell 1 2 3 4 5 6", "6/8"), set())

    def test_the_left_foot_under_the_ride(self):
        ride = "ride 8ths\nhat foot 2 4"
        self.assertEqual(self.found(ride), {LEFT_FOOT_UNDER.code})
        self.assertEqual(self.found("hat 8ths\nhat foot 2 4"), set())
