"""The workshop's core: families of grooves, walks, displacement, phrases, stickings."""

import unittest
from collections import deque
from fractions import Fraction
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from wren_ladder.drumming.building.chains import chain
from wren_ladder.drumming.chart import ChartError, Drum, Hand, Tempo, Touch
from wren_ladder.drumming.description.differences import ChangeKind
from wren_ladder.drumming.findings.conflicts import conflicts
from wren_ladder.drumming.hands import stick_bar
from wren_ladder.drumming.judging.syllabus import Status, vocabulary
from wren_ladder.drumming.rudiments import RUDIMENTS
from wren_ladder.drumming.rudiments.drills import inversions
from wren_ladder.drumming.study import study
from wren_ladder.drumming.workshop.grooves import (
    USUAL_TEMPO,
    Groove,
    displaced,
    family,
    neighbours,
    next_grooves,
    phrase,
    step_between,
    walk,
    why_not,
    with_extra_snare,
)
from wren_ladder.drumming.workshop.patterns import (
    EXTRA_SNARES,
    KICKS,
    SEMIQUAVERS,
    Backbeat,
    Hands,
    LeftFoot,
)
from wren_ladder.drumming.workshop.shelf import KINDS, read_exercise, shelf
from wren_ladder.drumming.workshop.stickings import (
    HOUSE_STICKINGS,
    on_the_pad,
    read_sticking,
    sticking_bar,
    written,
)

FIRST = Groove(Hands.HAT_QUAVERS, KICKS[1])
FAMILY = family()
grooves = st.builds(
    Groove,
    st.sampled_from(list(Hands)),
    st.sampled_from(KICKS),
    st.sampled_from(list(Backbeat)),
    st.sampled_from(list(LeftFoot)),
)


class Families(unittest.TestCase):
    def test_twelve_hands_over_more_than_two_dozen_feet(self):
        self.assertEqual(len(Hands), 12)
        self.assertGreaterEqual(len(KICKS), 24)
        self.assertEqual(len({kick.places for kick in KICKS}), len(KICKS))
        self.assertEqual(len({kick.code for kick in KICKS}), len(KICKS))
        self.assertEqual(
            [kick.grade() for kick in KICKS], sorted(kick.grade() for kick in KICKS)
        )

    def test_every_groove_of_the_family_is_playable_at_its_tempo(self):
        for groove in FAMILY:
            self.assertEqual(why_not(groove, USUAL_TEMPO), "", groove.name)

    @given(grooves)
    def test_any_hands_feet_and_left_foot_are_playable_or_told_why_not(self, groove):
        said = why_not(groove)
        rings = groove.hands in (Hands.HAT_OPEN, Hands.HAT_SEMIQUAVERS_OPEN)
        if rings and groove.left_foot is LeftFoot.OFF_BEATS:
            self.assertIn("the foot closes it there", said)
        elif said:
            self.assertRegex(said, r"^beat \d")
        limbs = [stick.limb for stick in stick_bar(groove.bar)]
        self.assertTrue(all(limb is not None for limb in limbs))

    def test_too_fast_a_foot_is_told_with_its_limit(self):
        kick = next(one for one in KICKS if one.code == "1-2a-3")
        said = why_not(Groove(Hands.HAT_QUAVERS, kick), Tempo(Fraction(1), 120))
        self.assertIn("the right foot plays", said)

    def test_in_semiquavers_the_backbeat_hand_leaves_the_hat(self):
        bar = Groove(Hands.HAT_SEMIQUAVERS, KICKS[1]).bar
        snares = {hit.at for hit in bar.hits if hit.drum is Drum.SNARE}
        hats = {hit.at for hit in bar.hits if hit.drum is Drum.HIHAT}
        self.assertFalse(snares & hats)
        self.assertEqual(len(snares | hats), 16)

    def test_an_extra_snare_note_goes_wherever_it_fits(self):
        found = [with_extra_snare(FIRST, at) for at in EXTRA_SNARES]
        self.assertEqual(len(found), 8)
        for groove in found:
            self.assertEqual(why_not(groove), "")
            self.assertEqual(len(groove.bar.hits), len(FIRST.bar.hits) + 1)


class Walks(unittest.TestCase):
    @given(st.sampled_from(FAMILY))
    def test_neighbours_differ_by_one_change_of_one_limb(self, groove):
        for one, change in neighbours(groove, FAMILY):
            before, after = set(groove.bar.music), set(one.bar.music)
            gone, new = before - after, after - before
            self.assertEqual((set(change.gone), set(change.new)), (gone, new))
            self.assertEqual((one.hands == groove.hands) + (one.kick == groove.kick), 1)
            if one.kick != groove.kick:
                self.assertTrue({hit.drum for hit in gone | new} <= {Drum.KICK})
                whole = change.kind is ChangeKind.PATTERN
                self.assertTrue(whole or max(len(gone), len(new)) <= 1)
            self.assertLessEqual(abs(one.grade() - groove.grade()), 1)

    def test_from_the_first_beat_every_groove_is_reached_and_next_is_never_less(self):
        first = min(FAMILY, key=lambda one: (one.grade(), len(one.bar.hits)))
        reached, waiting = {first}, [first]
        while waiting:
            for one, change in neighbours(waiting.pop(), FAMILY):
                self.assertTrue(change.spoken)
                if one not in reached:
                    reached.add(one)
                    waiting.append(one)
        self.assertEqual(len(reached), len(FAMILY))
        for held in FAMILY[::11]:
            for one in next_grooves([held], FAMILY):
                self.assertGreaterEqual(one.grade(), held.grade())

    def test_being_near_is_mutual(self):
        for one in FAMILY[::7]:
            for other, _ in neighbours(one, FAMILY):
                self.assertIsNotNone(step_between(other, one))

    def test_what_comes_next_says_the_change_and_the_easiest_comes_first(self):
        found = next_grooves([FIRST], FAMILY)
        said = {groove.kick.code: change.spoken for groove, (_, change) in found.items()}
        self.assertEqual(said["1-3-3n"], "with the kick on 3&")
        grades = [groove.grade() for groove in found]
        self.assertEqual(grades, sorted(grades))
        self.assertNotIn(FIRST, found)

    @given(st.sampled_from(FAMILY), st.sampled_from(FAMILY))
    def test_a_walk_goes_by_single_changes_and_none_is_shorter_than_its_parts(self, one, other):
        way = walk(one, other, FAMILY)
        if way:
            self.assertEqual((way[0], way[-1]), (one, other))
            for here, there in pairwise(way):
                self.assertIsNotNone(step_between(here, there))
            self.assertEqual(len(set(way)), len(way))
            self.assertEqual(len(walk(other, one, FAMILY)), len(way))

    def test_the_way_under_one_hand_pattern_is_as_long_as_the_chain_of_changes(self):
        row = family([Hands.HAT_QUAVERS])
        end = next(one for one in row if one.kick.code == "1-2n-3-4n")
        links = chain(FIRST.bar, end.bar)
        self.assertEqual(len(walk(FIRST, end, row)) - 1, len(links))


class Displacement(unittest.TestCase):
    @given(st.sampled_from(FAMILY), st.integers(0, 16))
    def test_it_is_a_rotation_of_the_onset_grid(self, groove, steps):
        # Against the rotation of Python's own deque.
        moved = displaced(groove.bar, steps * Fraction(1, 4))
        for drum in {hit.drum for hit in groove.bar.hits}:
            grid = deque(self.grid(groove.bar, drum))
            grid.rotate(steps)
            self.assertEqual(list(grid), self.grid(moved, drum))

    @given(st.sampled_from(KICKS), st.integers(0, 16))
    def test_one_limb_moves_and_the_others_stay(self, kick, steps):
        bar = Groove(Hands.HAT_QUAVERS, kick).bar
        moved = displaced(bar, steps * Fraction(1, 4), [Drum.KICK])
        grid = deque(self.grid(bar, Drum.KICK))
        grid.rotate(steps)
        self.assertEqual(self.grid(moved, Drum.KICK), list(grid))
        for drum in (Drum.HIHAT, Drum.SNARE):
            self.assertEqual(self.grid(moved, drum), self.grid(bar, drum))

    @staticmethod
    def grid(bar, drum) -> list[bool]:
        struck = {hit.at for hit in bar.hits if hit.drum is drum}
        return [at in struck for at in SEMIQUAVERS]


class Phrases(unittest.TestCase):
    def test_a_crash_begins_it_a_fill_ends_it_and_its_bars_are_numbered(self):
        fill = sticking_bar(read_sticking("RLRLRLRLRLRLRLRL"))
        for length in (2, 4, 8):
            bars = phrase([FIRST.bar], length, fill).bars
            numbers = [bar.number for bar in bars]
            self.assertEqual(numbers, [str(n) for n in range(1, length + 1)])
            self.assertIn(Drum.CRASH, {hit.drum for hit in bars[0].hits if hit.at == 0})
            self.assertEqual(bars[-1].hits, fill.hits)
        self.assertEqual(phrase([FIRST.bar], 2, crash=False).bars[0].hits, FIRST.bar.hits)

    def test_two_bars_in_turn_and_four_on_the_hat_four_on_the_ride(self):
        ride = Groove(Hands.RIDE_QUAVERS, KICKS[1])
        bars = phrase([FIRST.bar] * 4 + [ride.bar] * 4, 8, crash=False).bars
        self.assertEqual([bar.hits == ride.bar.hits for bar in bars], [False] * 4 + [True] * 4)
        bars = phrase([FIRST.bar, ride.bar], 4, crash=False).bars
        self.assertEqual([bar.hits == ride.bar.hits for bar in bars], [False, True] * 2)


class Stickings(unittest.TestCase):
    def test_capitals_are_accents_and_small_letters_ghosts(self):
        bar = sticking_bar(read_sticking("R l r L R l r l"))
        snares = [hit for hit in bar.hits if hit.drum is Drum.SNARE]
        self.assertEqual([hit.touch for hit in snares], [
            Touch.GHOST, Touch.ACCENT, Touch.GHOST, Touch.GHOST,
        ])  # fmt: skip
        self.assertTrue(all(hit.hand is Hand.LEFT for hit in snares))

    def test_exceptions_go_where_they_are_said(self):
        bar = sticking_bar(read_sticking("RlrLRlrl, snare 4 4&"))
        self.assertEqual([hit.drum for hit in bar.hits[-2:]], [Drum.SNARE] * 2)
        self.assertEqual(
            {hit.drum for hit in on_the_pad(read_sticking("RlrLRlrl")).hits}, {Drum.SNARE}
        )

    def test_wrong_letters_are_told_with_what_would_be_right(self):
        with self.assertRaisesRegex(ChartError, "'x', letter 3, is no hand; write R and L"):
            read_sticking("R l x l")
        with self.assertRaisesRegex(
            ChartError, "7 letters do not fill this bar; write 8 or 12"
        ):
            read_sticking("RlrLRlr")

    def test_twelve_of_the_house_all_playable(self):
        self.assertEqual(len(HOUSE_STICKINGS), 12)
        for one in HOUSE_STICKINGS:
            self.assertEqual(written(read_sticking(one.letters)), one.letters)
            self.assertTrue(stick_bar(sticking_bar(read_sticking(one.letters))))

    def test_the_paradiddles_are_those_of_the_published_list(self):
        # Percussive Arts Society, "International Drum Rudiments" (1984), as listed in
        # rudiments/listed.py; inversions by rotation of that sticking.
        listed = next(one for one in RUDIMENTS if one.name == "single paradiddle")
        paddle = "".join(hit.hand for hit in listed.bar().hits)
        names = {one.name: one.letters.upper() for one in HOUSE_STICKINGS}
        self.assertEqual(names["single paradiddle"], paddle * 2)
        turned = {turn[:4]: turn * 2 for turn in inversions()}
        for start in ("RLLR", "RRLR", "RLRL"):
            self.assertEqual(names[f"inverted paradiddle {start}"], turned[start])


class Shelf(unittest.TestCase):
    def test_forty_at_least_of_every_kind_and_from_before_grade_1_to_5(self):
        self.assertGreaterEqual(len(shelf()), 40)
        self.assertEqual({one.kind for one in shelf()}, set(KINDS))
        self.assertEqual({one.grade() for one in shelf()}, {0, 1, 2, 3, 4})
        self.assertEqual(len({one.name for one in shelf()}), len(shelf()))

    def test_each_passes_the_cores_own_checks_for_its_grade(self):
        for one in shelf():
            with self.subTest(one.code):
                studied = study(one.chart)
                for bar in studied.bars:
                    tempo = Tempo(Fraction(1), one.target)
                    self.assertEqual(conflicts(bar.sticks, bar.bar, tempo), ())
                # Whoever is before grade 1 begins with what grade 1 has.
                above = [
                    item.name
                    for item in vocabulary(studied, max(1, one.grade()))
                    if item.status is Status.NEW
                ]
                self.assertEqual(above, [])
                self.assertLess(one.start, one.target)

    def test_a_file_that_lacks_its_name_is_told(self):
        with self.assertRaisesRegex(ChartError, "mine: say its name, kind"):
            read_exercise("mine", "# kind: groove\nbar 1\nsnare 1")
