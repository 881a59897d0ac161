"""Bars compared in words, and the traps of habit. Common practice, no source."""

import unittest
from dataclasses import replace
from fractions import Fraction
from itertools import combinations, product

from hypothesis import given
from hypothesis import strategies as st

from tests.builders import make_bar, make_chart
from tests.strategies import bars, charts
from wren_ladder.demo import CHARTS
from wren_ladder.drumming.chart import Bar, Chart, Drum, Grace, Hit, Surface, Touch
from wren_ladder.drumming.chart.drum import SECTION_CRASHES
from wren_ladder.drumming.description.differences import (
    ChangeKind,
    changes,
    chord_prints,
    may_be_a_step_apart,
)
from wren_ladder.drumming.description.nearest import MOST_CHANGES
from wren_ladder.drumming.description.timekeeping import timekeeper
from wren_ladder.drumming.findings.traps import SMALL
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.study import study

GROOVE = "hat 8ths\nsnare 2 4\nkick 1 3"


class Prints(unittest.TestCase):
    """The quick look that says which bars need not be compared in words misses none."""

    def misses(self, these: list[Bar]) -> list[tuple[str, str]]:
        prints = chord_prints(these, range(len(these)))
        return [
            (one.number, other.number)
            for (at, one), (place, other) in product(enumerate(these), repeat=2)
            if one is not other and not may_be_a_step_apart(prints[at], prints[place])
            and len(found := changes(one, other) or ()) == 1 and found[0].kind in SMALL
        ]  # fmt: skip

    def test_in_every_demo_piece(self):
        for path in sorted(CHARTS.glob("*.wren")):
            with self.subTest(path.stem):
                self.assertEqual(self.misses(list(read_chart(path.read_text()).bars)[:40]), [])

    @given(bars(), st.data())
    def test_whatever_stroke_comes_goes_or_moves(self, bar, data):
        if not bar.hits:
            return
        hit = data.draw(st.sampled_from(bar.hits))
        rest = tuple(one for one in bar.hits if one != hit)
        these = [bar, replace(bar, hits=rest)]
        at = data.draw(st.sampled_from(sorted({one.at for one in bar.hits})))
        if (at, hit.drum.surface) not in {(one.at, one.drum.surface) for one in bar.hits}:
            these.append(replace(bar, hits=(*rest, replace(hit, at=at, roll=None))))
        self.assertEqual(self.misses(these), [])

    def test_it_does_leave_most_of_them_out(self):
        these = read_chart((CHARTS / "five_gates.wren").read_text()).bars
        prints = list(chord_prints(these, range(len(these))).values())
        near = sum(may_be_a_step_apart(*pair) for pair in combinations(set(prints), 2))
        self.assertLess(near, len(set(prints)) * 3)


class Changes(unittest.TestCase):
    def said(self, lines, before=GROOVE):
        found = changes(make_bar(before), make_bar(lines))
        return [c.spoken.removeprefix("with ") for c in found]

    def test_the_smallest_musical_step_in_words(self):
        for lines, words in (
            ("hat 8ths, open 4&\nsnare 2 4\nkick 1 3", "the hat open on 4&"),
            ("hat 8ths\nsnare 2 4\nkick 1 3 3&", "the kick on 3&"),
            ("hat 8ths\nsnare 2 4\nkick 1", "without the kick on 3"),
            ("hat 8ths\nsnare 2 4\nkick 1 2&", "the kick moved from 3 to 2&"),
            ("hat 8ths\nsnare 2\nfloor 4\nkick 1 3", "the floor tom for the snare on 4"),
            ("hat 8ths\nsnare 2, accent 4\nkick 1 3", "the accent on 4 (snare)"),
            ("hat 8ths\nsnare 2, flam 4\nkick 1 3", "the flam on 4"),
            ("hat 8ths\nsnare 2, ghost 2a, 4\nkick 1 3", "the snare ghost on 2a"),
        ):
            with self.subTest(words):
                self.assertEqual(self.said(lines), [words])

    def test_a_section_crash_is_a_difference_of_its_own_kind(self):
        crashed = "crash 1\nhat 8ths 2-4, 1&\nsnare 2 4\nkick 1 3"
        self.assertEqual(self.said(crashed), ["the section's crash"])
        self.assertEqual(self.said(GROOVE, crashed), ["without the section's crash"])

    def test_another_metre_is_another_bar(self):
        self.assertIsNone(changes(make_bar("hat 8ths"), make_bar("hat 8ths", "3/4")))

    @given(bars())
    def test_nothing_differs_from_itself(self, bar):
        self.assertEqual(changes(bar, bar), ())


class TaughtFrom(unittest.TestCase):
    def test_each_new_bar_comes_from_the_nearest_before_it(self):
        chart = make_chart(
            f"bar 1\n{GROOVE}\nbar 2 as 1\nkick 1 3 3&\nbar 3 as 2\nhat 8ths, open 4&\n"
            "bar 4 as 1\nbar 5\nsnare 16ths"
        )
        found = [bar.difference for bar in study(chart).bars]
        self.assertIsNone(found[0])
        self.assertEqual(found[1].spoken("1"), "1 with the kick on 3&")
        self.assertEqual((found[2].source, len(found[2].changes)), (1, 1))
        self.assertIsNone(found[3])  # it is 1 again
        self.assertIsNone(found[4])  # nothing before is near

    @given(charts(most=6))
    def test_every_source_lies_before_and_is_near(self, chart):
        for index, bar in enumerate(study(chart).bars):
            if bar.difference:
                self.assertLess(bar.difference.source, index)
                self.assertLessEqual(len(bar.difference.changes), MOST_CHANGES)


class AsPlayed(unittest.TestCase):
    """Bars are compared by what is played."""

    def told(self, text: str, bar: int) -> str:
        studied = study(make_chart(text))
        return studied.taught_from(studied.bars[bar])

    def test_hands_that_it_would_have_anyway_are_no_difference(self):
        snare = "snare 1 1& 2 2& 3 3& 4 4&"
        text = f"bar 1\n{snare}\nbar 2\n{snare}\nhands RLRLRLRL\nkick 1"
        self.assertEqual(self.told(text, 1), "1 with the kick on 1")
        other = text.replace("RLRLRLRL", "RRLLRRLL")
        self.assertEqual(self.told(other, 1), "1 with the kick on 1 and another sticking")

    def test_a_fill_is_one_change_whatever_it_is_made_of(self):
        text = f"bar 1\n{GROOVE}\nbar 2\nhat 8ths 1-2\nsnare 2, 3*\nhigh 4 4&\nkick 1"
        self.assertEqual(self.told(text, 1), "1 with a fill from 3")

    def test_what_goes_is_told_and_a_roll_is_called_a_roll(self):
        text = "bar 1\nsnare flam 1, 2 2& flam 3, 4\nbar 2\nsnare 1 2 2& 3 4"
        self.assertEqual(self.told(text, 1), "1 without the flam on 1 and 3")
        text = "bar 1\nsnare 1 2 2& 3 4\nbar 2\nsnare roll 5 1-2, 2 2& 3 4"
        self.assertEqual(self.told(text, 1), "1 with the 5-stroke roll on 1")

    def test_never_from_a_rest_nor_across_subdivisions(self):
        self.assertEqual(self.told("bar 1\nbar 2\nsnare 1 2 3", 1), "")
        text = "bar 1\nsnare 1 1& 2 2& 3 4\nbar 2\nsnare 1 1t 1l 2 2t 2l 3 4"
        self.assertEqual(self.told(text, 1), "")

    def test_two_bars_that_always_come_together_are_one_thing(self):
        one, other = (
            f"hat 8ths\nsnare cross {at}\nkick 1 2& 3 4&" for at in ("1 2& 4", "2 3&")
        )
        text = f"bar 1\n{one}\nbar 2\n{other}\nbars 3-4 as 1-2\nbars 5-6 as 1-2"
        self.assertEqual(self.told(text, 1), "1's answer, a pattern of two bars")
        # Where the first also goes on otherwise, the second is told by its changes.
        self.assertNotIn("answer", self.told(f"{text}\nbars 7-10 as 1", 1))


class Traps(unittest.TestCase):
    def traps(self, text, bar):
        return list(study(make_chart(text)).bars[bar].traps)

    def test_a_small_departure_from_habit_names_the_habit(self):
        text = f"bar 1\n{GROOVE}\nbars 2-7 as 1\nbar 8 as 1\nkick 1 2&"
        self.assertEqual(
            self.traps(text, 7),
            ["trap: with the kick moved from 3 to 2&, not as in bar 1, which comes 7 times"],
        )
        self.assertEqual(self.traps(text, 0), [])

    def test_rests_and_single_strokes_make_no_habit(self):
        for often in ("", "kick 1\n"):
            text = f"bar 1\n{often}bars 2-5 as 1\nbar 6 as 1\nsnare 1"
            self.assertEqual(self.traps(text, 5), [])

    def test_what_is_as_common_as_the_other_is_no_trap(self):
        text = f"bar 1\n{GROOVE}\nbar 2 as 1\nkick 1 2&\nbars 3-8 as 1-2"
        self.assertEqual(self.traps(text, 1), [])

    def test_a_small_departure_from_the_commonest_form(self):
        plain = "bar 1\nhat 8ths\nsnare 2 4\nkick 1 3\nbars 2-4 as 1\nbar 5\n"
        for lines, said in (
            (
                "hat 8ths\nsnare 2 4&\nkick 1 1& 2& 3&",
                "snare on 4&, where the common form has 4",
            ),
            (
                "hat 8ths\nsnare 2 2& 4\nkick 1e 2a 3&",
                "kick on 1e, where the common form has 1",
            ),
        ):
            with self.subTest(said):
                self.assertEqual(self.traps(plain + lines, 4), [f"trap: {said}"])
        # What the piece has made a habit of is no trap in it, and no snare is no backbeat.
        often = "bar 1\nhat 8ths\nsnare 2 4&\nkick 1 3\nbars 2-3 as 1"
        self.assertEqual(self.traps(often, 0), [])
        self.assertEqual(self.traps("hat 8ths\nkick 1 3", 0), [])

    def test_the_common_form_is_that_of_a_groove_in_4_4(self):
        common = "hat 8ths\nsnare 2 4\nkick 1 3"
        beside = "snare 2 4&\nkick 1 1& 2& 3&"
        for head, plain, other, many in (
            ("", common, f"hat 8ths\n{beside}", 1),
            ("", common, beside, 0),  # nothing keeps time: no groove
            ("meter 3/4\n", "hat 8ths\nsnare 2\nkick 1", "hat 8ths\nsnare 2\nkick 1e 2& 3&", 0),
        ):
            with self.subTest(other, head=head):
                text = f"{head}bar 1\n{plain}\nbars 2-8 as 1\nbar 9\n{other}"
                said = [one for one in self.traps(text, 8) if "common form" in one]
                self.assertEqual(len(said), many, said)

    def test_a_beat_of_silence_where_the_piece_always_plays(self):
        often = "bar 1\nsnare 1 2 3 4\nbars 2-6 as 1\n"
        (said,) = self.traps(f"{often}bar 7\nsnare 1 2 2& 4 4&", 6)
        self.assertEqual(said, "trap: a beat of silence on 3 before 4")
        (said,) = self.traps(f"bar 1\n{GROOVE}\nbars 2-6 as 1\nbar 7\nhat 8ths 2-4", 6)
        self.assertEqual(said, "trap: a beat of silence on 1 before 2")

    def test_rests_of_an_exercise_and_silence_that_is_the_habit_are_none(self):
        self.assertEqual(self.traps("bar 1\nsnare 1 2 4", 0), [])
        rests = "bar 1\nsnare 1 2 4\nbar 2\nsnare 1 3 4\nbar 3\nsnare 2 4\nbars 4-9 as 1-3"
        self.assertEqual([self.traps(rests, place) for place in range(3)], [[], [], []])
        rolled = "bar 1\nsnare 1 2 3 4\nbars 2-6 as 1\nbar 7\nsnare roll 1-4, 4"
        self.assertEqual(self.traps(rolled, 6), [])

    def test_a_cross_stick_pattern_is_none(self):
        clave = "hat 8ths\nsnare cross 1 2& 4\nkick 1 3"
        self.assertEqual(self.traps(clave, 0), [])

    def test_crash_and_kick_moved_together_are_one_trap(self):
        push = "hat 8ths 1-3, 4\nsnare 2 4\n"
        text = f"bar 1\n{push}crash 4&\nkick 1 4&\nbars 2-7 as 1\nbar 8\n{push}"
        (said,) = self.traps(f"{text}crash 4a\nkick 1 4a", 7)
        self.assertEqual(
            said,
            "trap: with the crash and kick moved from 4& to 4a, not as in bar 1, "
            "which comes 7 times",
        )

    def test_the_same_foot_twice_over_a_landing(self):
        (said,) = self.traps(
            "tempo crotchet = 80\nbar 1\nsnare 1 2\nkick 3 4a\nbar 2\nkick 1 2 3 4", 1
        )
        self.assertEqual(
            said, "trap: two quick kicks over the bar line, on 4a of bar 1 and on 1"
        )

    def test_a_landing_that_comes_in_most_bars_is_none(self):
        text = "tempo crotchet = 80\nbar 1\nhat 8ths 1-3\nkick 1 4a\n"
        self.assertEqual(len(self.traps(f"{text}bar 2 as 1", 1)), 1)
        self.assertEqual(self.traps(f"{text}bars 2-8 as 1", 1), [])

    def test_with_a_hand_between_the_foot_is_ready(self):
        self.assertEqual(
            self.traps("bar 1\nkick 1 4&\nsnare 1 2 3 4a\nbar 2\nkick 1 2 3 4", 1), []
        )


def grooves() -> list[Bar]:
    """Every different bar of the demo's charts that keeps time on a cymbal and has a kick
    and a snare to change."""
    found = {}
    for path in sorted(CHARTS.glob("*.wren")):
        for bar in read_chart(path.read_text()).bars:
            surfaces = [hit.drum.surface for hit in bar.hits]
            full = bar.length == bar.meter.length
            if full and timekeeper(bar) and {Surface.SNARE, Surface.KICK} <= set(surfaces):
                found[bar.meter, bar.hits] = Bar("1", bar.meter, bar.hits)
    return list(found.values())


def planted(bar: Bar) -> dict[ChangeKind, Bar]:
    """The bar with one thing changed, of each kind that it has room for."""
    struck = {(hit.at, hit.drum.surface) for hit in bar.hits}
    grid = [Fraction(n, 4) for n in range(1, int(bar.length * 4))]
    free = [at for at in grid if (at, Surface.KICK) not in struck]
    kick = [hit for hit in bar.hits if hit.drum is Drum.KICK][-1]
    snare = next(hit for hit in bar.hits if hit.drum.surface is Surface.SNARE)
    keeper = timekeeper(bar)
    cymbal = [hit for hit in bar.hits if hit.drum.surface is keeper]

    def swap(old, *new) -> Bar:
        return Bar("8", bar.meter, (*(h for h in bar.hits if h is not old), *new))

    near = [at for at in free if 0 < abs(at - kick.at) <= Fraction(1, 2)]
    opened = Drum.HIHAT if cymbal[-1].drum is Drum.HIHAT_OPEN else Drum.HIHAT_OPEN
    set_otherwise = Drum.RIDE_BELL if cymbal[-1].drum is Drum.RIDE else Drum.RIDE
    louder = Touch.NORMAL if snare.touch.loud else Touch.ACCENT
    flam = Grace.NONE if snare.grace is Grace.FLAM else Grace.FLAM
    first = next((hit for hit in bar.hits if hit.at == 0 and hit.drum.surface is keeper), None)
    made = {
        ChangeKind.ADDED: swap(None, Hit(free[-1], Drum.KICK)),
        ChangeKind.REMOVED: swap(kick),
        ChangeKind.SET: swap(
            cymbal[-1],
            replace(cymbal[-1], drum=opened if keeper is Surface.HIHAT else set_otherwise),
        ),
        ChangeKind.TOUCH: swap(snare, replace(snare, touch=louder)),
        ChangeKind.ORNAMENT: swap(snare, replace(snare, grace=flam, roll=None)),
    }
    if near:
        made[ChangeKind.MOVED] = swap(kick, replace(kick, at=near[0]))
    if (snare.at, Surface.TOM_FLOOR) not in struck:
        made[ChangeKind.OTHER_DRUM] = swap(snare, replace(snare, drum=Drum.TOM_FLOOR))
    crashed = any((0, surface) in struck for surface in SECTION_CRASHES)
    if first and not crashed:
        made[ChangeKind.CRASH] = swap(first, Hit(Fraction(0), Drum.CRASH))
    return made


class Planted(unittest.TestCase):
    """One thing of each kind changed in one bar of every demo groove is found and said."""

    def test_the_difference_the_trap_and_the_sentence_are_found(self):
        # These have tests of their own.
        elsewhere = {ChangeKind.CYMBAL, ChangeKind.FILL, ChangeKind.HANDS, ChangeKind.PATTERN}
        seen = set()
        for groove in grooves():
            habit = [replace(groove, number=str(n)) for n in range(1, 8)]
            for kind, bar in planted(groove).items():
                with self.subTest(f"{kind}: {groove.hits}"):
                    last = study(Chart("", (*habit, bar))).bars[7]
                    (change,) = last.difference.changes
                    self.assertEqual((change.kind, last.difference.source), (kind, 0))
                    self.assertTrue(change.what)
                    if kind in SMALL:
                        self.assertEqual(
                            last.traps[0],
                            f"trap: {change.spoken}, not as in bar 1, which comes 7 times",
                        )
                    seen.add(kind)
        self.assertEqual(seen, set(ChangeKind) - elsewhere)

    def test_the_same_on_another_cymbal_is_one_difference(self):
        text = f"bar 1\n{GROOVE}\nbar 2\n{GROOVE.replace('hat 8ths', 'ride 8ths, bell 1 3')}"
        last = study(make_chart(text))
        said = last.taught_from(last.bars[1])
        self.assertEqual(said, "1 on the ride, with the ride bell on 1 and 3")
