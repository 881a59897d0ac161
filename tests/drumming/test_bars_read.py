"""What stands in printed bars: shapes, rhythm, the key of the staff, typed lines.

Truth from outside: pages drawn by two engravers that are not ours (``tests/printed_pages.py``);
shapes from five music fonts. All ways of being worse are measured by ``python -m bench.pages``.
"""

from dataclasses import replace
from fractions import Fraction
from unittest import TestCase

import numpy as np
from parameterized import parameterized

from tests.printed_pages import (
    HOUSE_KEY,
    PHOTOGRAPHS,
    as_read,
    hits_of,
    key_of,
    made_worse,
    printed_pages,
)
from wren_ladder.demo import CHARTS
from wren_ladder.drumming.chart import Drum, Grace, Hit, Meter, RollKind, Touch
from wren_ladder.drumming.notation.counts import read_bar, read_chart
from wren_ladder.drumming.page_reading.bar_ink import BarInk
from wren_ladder.drumming.page_reading.bars.heads import LINES, y_of
from wren_ladder.drumming.page_reading.bars.level import level
from wren_ladder.drumming.page_reading.bars.long_rest import bars_of_rest
from wren_ladder.drumming.page_reading.bars.read_bar import ReadBar, Stroke
from wren_ladder.drumming.page_reading.bars.reading import agreed, find_marks, read_bars
from wren_ladder.drumming.page_reading.bars.shapes import Sign, shapes
from wren_ladder.drumming.page_reading.bars.signs import find_rests
from wren_ladder.drumming.page_reading.bars.voices import Event, Tuplet, timed
from wren_ladder.drumming.page_reading.found import ROOM, SPACE, FoundBar, FoundLine
from wren_ladder.drumming.page_reading.key import (
    HeadPlace,
    code_of,
    drum_of,
    guessed_key,
    head_places,
)
from wren_ladder.drumming.page_reading.page import printed_bars, read_page
from wren_ladder.drumming.page_reading.proposed import (
    ROLLED,
    meter_of,
    proposal,
    usual_meter,
)
from wren_ladder.drumming.page_reading.proposed import hits_of as hits_by_key
from wren_ladder.drumming.page_reading.serial import read_from_json, read_to_json

PAGES = {page.name: page for page in printed_pages()}
HIGH = 2 * ROOM + 4 * SPACE
FOUR = Meter(4, 4)


def blank(wide: int = 300) -> np.ndarray:
    return np.zeros((HIGH, wide), bool)


def stamped(picture: np.ndarray, sign: Sign, style: int, x: int, y: int) -> np.ndarray:
    """The same ink with a sign of one font, its upper left at a place."""
    shape = shapes(sign)[style].picture > 0.5
    found = picture.copy()
    found[y : y + shape.shape[0], x : x + shape.shape[1]] |= shape
    return found


class Pages(TestCase):
    """Read bar by bar as a teacher who has answered the key would find them."""

    def read(self, name: str, picture=None) -> tuple[int, int, list[str]]:
        """How many different bars, how many right, and those that are wrong in silence."""
        page = PAGES[name]
        found = read_page(page.picture if picture is None else picture)
        bars = printed_bars([(found.picture, found.lines)])
        self.assertEqual(len(bars), len(page.kinds))
        new = [n for n, kind in enumerate(page.kinds) if kind == n and bars[n].is_written]
        right, silent = 0, []
        key, truth = key_of(page), hits_of(page)
        read = read_bars([bars[n].ink for n in new], [bars[n].meter for n in new])
        for place, one in zip(new, read, strict=True):
            same = as_read(truth[place]) == as_read(hits_by_key(one.strokes, key, one.length))
            right += same
            if not same and not one.doubts:
                silent.append(f"bar {place + 1}")
        return len(new), right, silent

    @parameterized.expand(
        [
            "weir_lane",
            "bossa_for_the_ferry",
            "long_pier_signals",
            "slow_lantern_leland",
            "mirrorball_quay_petaluma",
            "rolls",
        ]
    )
    def test_a_page_as_it_was_drawn(self, name):
        new, right, silent = self.read(name)
        self.assertEqual((right, silent), (new, []))

    def test_graces_of_a_small_staff(self):
        new, right, silent = self.read("fernhill_street_cadence")
        self.assertGreaterEqual(right, new - 1)
        self.assertEqual(silent, [])

    def test_strokes_through_stems_are_rolls_or_so_many_strokes(self):
        """Bars 5 and 6 of the page: three strokes on a crotchet and a minim; two on a quaver;
        two on a crotchet, which are four semiquavers."""
        found = read_page(PAGES["rolls"].picture)
        bars = printed_bars([(found.picture, found.lines)])
        five, six = read_bars([bars[n].ink for n in (4, 5)], [FOUR, FOUR])
        rolls = [(one.at, one.length) for one in five.strokes if one.roll]
        self.assertEqual(rolls, [(0, 1), (2, 2)])
        self.assertEqual([(one.at, one.length) for one in six.strokes if one.roll], [(1, 0.5)])
        self.assertEqual(
            [(one.at, one.times) for one in six.strokes if one.times > 1], [(3, 4)]
        )
        offer = proposal(six, key_of(PAGES["rolls"]), FOUR, FOUR, False)
        self.assertEqual(offer.text, "snare 1 1a 2& 3 4*, roll 2-2&")
        self.assertIn("buzz", offer.second)
        self.assertIn(ROLLED, offer.doubts)

    def test_a_metre_that_most_of_its_bars_speak_against_was_misread(self):
        found = read_page(PAGES["weir_lane"].picture)
        inks = [one.ink for one in printed_bars([(found.picture, found.lines)])][:4]
        for wrong in (Meter(19, 8), Meter(3, 4)):
            for one in read_bars(inks, [wrong] * 4):
                self.assertEqual((one.length, one.doubts), (4, ()))
        # One bar in another metre is believed its signature.
        cut = read_bars([*inks, inks[0]], [FOUR] * 4 + [Meter(3, 4)])
        self.assertEqual([bool(one.doubts) for one in cut][:4], [False] * 4)

    def test_a_photograph_on_a_table(self):
        picture = made_worse(PAGES["weir_lane"].picture, PHOTOGRAPHS["on a table"], 4)
        new, right, silent = self.read("weir_lane", picture)
        self.assertGreaterEqual(right, new - 1)
        self.assertEqual(silent, [])


class Shapes(TestCase):
    def test_each_rest_of_each_font_is_that_rest(self):
        for sign in (Sign.REST_4, Sign.REST_8, Sign.REST_16):
            for style, shape in enumerate(shapes(sign)):
                with self.subTest(sign, style=shape.style):
                    rests, left = find_rests(stamped(blank(), sign, style, 40, 90))
                    self.assertEqual([one.kind for one in rests], [sign])
                    self.assertFalse(left.any())

    def test_the_figures_of_every_font_are_read_over_a_long_rest(self):
        line = FoundLine(116, 180, 0, 299, 0, HIGH)
        bar = FoundBar(0, 299, 0)
        for style in range(len(shapes(Sign.NUMBER_1))):
            for number in (*range(2, 10), 10, 14, 23, 67, 98):
                ink, x = blank(), 120
                for figure in str(number):
                    ink = stamped(ink, Sign(f"number {figure}"), style, x, 46)
                    x += 46
                with self.subTest(number, style=style):
                    self.assertEqual(bars_of_rest(ink, line, bar), number)
        self.assertIsNone(bars_of_rest(blank(), line, bar))

    def test_a_head_with_its_stem_is_no_rest(self):
        for style in range(len(shapes(Sign.BLACK))):
            ink = stamped(blank(), Sign.BLACK, style, 40, 140)
            ink[148:200, 40:43] = True
            self.assertEqual(find_rests(ink)[0], [])

    def test_bent_lines_are_made_level_and_heads_stay_on_their_rows(self):
        bare = stamped(blank(), Sign.BLACK, 0, 100, y_of(5) - 8)
        lined = bare.copy()
        for row in LINES:
            lined[y_of(row) : y_of(row) + 2] = True
        for off in (-4, 3, 4):
            moved = [np.roll(one, off, axis=0) for one in (lined, bare)]
            back = level(*moved)
            with self.subTest(off):
                self.assertTrue((back[1] == bare)[:, 80:200].mean() > 0.995)

    def test_whatever_ink_it_is_something_is_answered(self):
        chance = np.random.default_rng(7)
        inks = [blank(), blank(40), ~blank(60)]
        for _ in range(12):
            ink = blank(int(chance.integers(36, 260)))
            for _ in range(int(chance.integers(1, 40))):
                x, y = chance.integers(0, ink.shape[1]), chance.integers(0, HIGH)
                wide, tall = chance.integers(1, 60, 2)
                ink[y : y + tall, x : x + wide] = True
            inks.append(ink)
        read = read_bars([BarInk(ink, ink) for ink in inks])
        self.assertEqual(len(read), len(inks))
        for one in read:
            self.assertTrue(all(stroke.at >= 0 for stroke in one.strokes))


def run(lengths, up: bool, wide: float = 400) -> list[Event]:
    """One voice as it stands on a page: as far apart as its times, one sounding after the
    other, a rest for each negative length."""
    found, at, total = [], Fraction(0), sum(abs(one) for one in lengths)
    for key, length in enumerate(lengths):
        x = 20 + float(at / total) * wide
        found.append(Event(x, abs(length), up, length > 0, key=key + (0 if up else 100)))
        at += abs(length)
    return found


class Rhythm(TestCase):
    def test_any_two_voices_that_fill_a_bar_have_the_times_that_they_were_written_with(self):
        """The same times by adding up as by a voice of its own, for bars nobody thought of."""
        chance = np.random.default_rng(11)
        values = [Fraction(1), Fraction(1, 2), Fraction(1, 4), Fraction(3, 2), Fraction(3, 4)]

        def some(length: Fraction) -> list[Fraction]:
            found: list[Fraction] = []
            while (left := length - sum(abs(one) for one in found)) > 0:
                fitting = [one for one in values if one <= left] or [left]
                value = fitting[chance.integers(len(fitting))]
                found.append(-value if chance.random() < 0.25 else value)
            return found

        for _ in range(150):
            length = Fraction(int(chance.integers(2, 6)))
            voices = (some(length), some(length))
            events = run(voices[0], True) + run(voices[1], False)
            best = timed(events, [], None, 440)[0]
            expected = {}
            for start, voice in zip((0, 100), voices, strict=True):
                at = Fraction(0)
                for key, value in enumerate(voice):
                    if value > 0:
                        expected[start + key] = at
                    at += abs(value)
            if not expected:
                continue
            self.assertEqual((best.times, best.doubts), (expected, ()), voices)

    def test_a_figure_makes_three_of_two(self):
        events = [
            replace(one, joined=n in (0, 1))
            for n, one in enumerate(run([Fraction(1, 2)] * 3 + [Fraction(1)] * 3, True))
        ]
        three = Tuplet("3", events[1].x, events[1].x, events[1].x, True, False)
        best = timed(events, [three], Fraction(4), 440)[0]
        self.assertEqual(best.doubts, ())
        self.assertEqual(
            list(best.times.values()),
            [0, Fraction(1, 3), Fraction(2, 3), 1, 2, 3],
        )

    def test_triplets_without_a_figure_are_read_so_and_said(self):
        events = [
            replace(one, joined=n in (0, 1))
            for n, one in enumerate(run([Fraction(1, 2)] * 3 + [Fraction(1)] * 3, True))
        ]
        found = timed(events, [], Fraction(4), 440)
        self.assertEqual(found[0].doubts, ("triplets without a figure?",))
        self.assertEqual(found[0].times[1], Fraction(1, 3))
        self.assertEqual(len(found), 2)  # and another reading, by place

    def test_a_voice_that_does_not_fill_the_bar_is_said(self):
        events = run([Fraction(1)] * 4, True) + run([Fraction(1)] * 3, False, 150)
        found = timed(events, [], None, 440)
        self.assertIn("the notes last 3 crotchets, the bar 4 crotchets", found[0].doubts)

    def test_rests_that_a_page_leaves_out_are_seen_by_what_stands_above(self):
        feet = [Event(20, Fraction(1), False, True, key=100)]
        feet.append(Event(220, Fraction(1), False, True, key=101))
        best = timed(run([Fraction(1)] * 4, True) + feet, [], None, 440)[0]
        self.assertEqual(best.doubts, ())
        self.assertEqual((best.times[100], best.times[101]), (0, 2))

    def test_a_silent_voice_below_is_no_part_of_the_one_above(self):
        rests = [Event(20 + 100 * n, Fraction(1), False, False) for n in range(4)]
        best = timed(run([Fraction(1)] * 4, True) + rests, [], None, 440)[0]
        self.assertEqual((best.length, best.doubts), (4, ()))


class WholePieces(TestCase):
    def bar(self, length, doubts=(), row=5, head="black", lean=0.0) -> ReadBar:
        stroke = Stroke(Fraction(0), row, head, Fraction(1), lean=lean)
        return ReadBar((stroke,), Fraction(length), doubts)

    def test_a_row_is_of_ovals_or_of_diamonds_in_the_whole_piece(self):
        faint = [self.bar(4, row=8, head="black", lean=0.2), self.bar(4, row=8, lean=-0.02)]
        self.assertEqual({one.strokes[0].head for one in agreed(faint)}, {"diamond"})
        ovals = [self.bar(4, lean=0.04), self.bar(4, head="diamond", lean=0.03)]
        self.assertEqual({one.strokes[0].head for one in agreed(ovals)}, {"black"})

    def test_an_accent_over_a_cymbal_and_a_drum_is_the_drums(self):
        ride = Stroke(Fraction(0), 8, "diamond", Fraction(1), accent="accent", lean=0.3)
        snare = Stroke(Fraction(0), 5, "black", Fraction(1), lean=-0.2)
        found = agreed([ReadBar((ride, snare), Fraction(4))])[0].strokes
        self.assertEqual([one.accent for one in found], ["", "accent"])

    def test_the_metre_is_what_most_bars_last(self):
        bars = [self.bar(3), self.bar(3), self.bar(4), self.bar(2, ("why",))]
        self.assertEqual(usual_meter(bars), Meter(3, 4))
        threes = [replace(bar, in_threes=True) for bar in bars]
        self.assertEqual(usual_meter(threes), Meter(6, 8))
        self.assertIsNone(usual_meter([self.bar(2, ("why",))]))
        self.assertEqual(str(meter_of(Fraction(7, 2), False)), "7/8")

    def test_nothing_in_a_bar_is_said_and_a_rest_is_a_rest(self):
        self.assertEqual(find_marks(BarInk(blank(), blank())).notes, ())
        empty = read_bars([BarInk(blank(), blank())])[0]
        self.assertTrue(empty.doubts)
        self.assertIsNone(proposal(empty, {}, FOUR, FOUR, False))
        silent = ReadBar((), Fraction(4))
        self.assertEqual(proposal(silent, {}, FOUR, FOUR, False).text, "rest")

    def test_what_was_read_is_stored_and_comes_back(self):
        stroke = Stroke(
            Fraction(1, 3), 5, "black", Fraction(2, 3), 12.5, True, "accent", "o", 2, True
        )
        read = ReadBar((stroke,), Fraction(4), ("why",), (stroke,), True)
        self.assertEqual(read_from_json(read_to_json(read)), read)


class Key(TestCase):
    def guess(self, *places, known=None) -> dict[str, str]:
        rows = [HeadPlace(row, head, often) for row, head, often in places]
        return guessed_key(rows, known or {})

    def test_the_houses_own_places_are_guessed_as_they_are(self):
        places = [(int(code.split()[0]), code.split()[1], 1) for code in HOUSE_KEY]
        found = self.guess(*places)
        for code, drum in HOUSE_KEY.items():
            with self.subTest(code):
                self.assertEqual(Drum(found[code]).surface, Drum(drum).surface)

    def test_where_the_hat_stands_in_the_top_space_ride_and_crash_stand_above_it(self):
        found = self.guess(
            (9, "circled", 2), (9, "cross", 8), (7, "cross", 40), (1, "black", 9)
        )
        self.assertEqual(list(found.values()), ["crash", "ride", "hihat", "kick"])

    def test_what_a_teacher_has_confirmed_goes_before(self):
        found = self.guess((9, "cross", 40), known={"9 cross": "cowbell"})
        self.assertEqual(found, {"9 cross": "cowbell"})

    def test_every_place_is_said_in_words(self):
        said = {place: HeadPlace(place, "cross", 1).said for place in (9, 8, 7, 0, -1, 10, 11)}
        self.assertEqual(said[9], "a cross just above the staff")
        self.assertEqual(said[8], "a cross on the top line")
        self.assertEqual(said[7], "a cross in the top space")
        self.assertEqual(said[0], "a cross on the lowest line")
        self.assertEqual(said[-1], "a cross just below the staff")
        self.assertEqual(said[10], "a cross on 1 short line above the staff")
        self.assertEqual(said[11], "a cross past 1 short line above the staff")

    def test_heads_are_counted_as_often_as_their_bar_comes(self):
        strokes = tuple(
            Stroke(Fraction(n), row, "black", Fraction(1)) for n, row in enumerate((5, 1, 5))
        )
        found = head_places([(ReadBar(strokes, Fraction(4)), 4)])
        self.assertEqual([(one.row, one.often) for one in found], [(5, 8), (1, 4)])

    def test_a_circle_above_opens_a_hat_and_nothing_else(self):
        hat = Stroke(Fraction(0), 9, "cross", Fraction(1), mark="o")
        self.assertEqual(drum_of(hat, {"9 cross": "hihat"}), Drum.HIHAT_OPEN)
        self.assertEqual(drum_of(hat, {"9 cross": "ride"}), Drum.RIDE)
        self.assertIsNone(drum_of(hat, {"9 cross": ""}))


ACCENTS = {Touch.ACCENT: "accent", Touch.STRONG: "strong accent"}
ROWS = {drum: code for code, drum in HOUSE_KEY.items()}


def as_strokes(hits) -> tuple[Stroke, ...] | None:
    """Hits as they stand on the house's own staff; None where it has no place of its own."""
    found = []
    for hit in hits:
        name = "hihat" if hit.drum is Drum.HIHAT_OPEN else hit.drum.value
        if name not in ROWS or hit.roll or (hit.drum.by_foot and hit.touch is Touch.STRONG):
            return None
        row, head = ROWS[name].split()
        found.append(
            Stroke(
                hit.at, int(row), head, Fraction(1, 4),
                ghost=hit.touch is Touch.GHOST,
                accent=ACCENTS.get(hit.touch, ""),
                mark="o" if hit.drum is Drum.HIHAT_OPEN else "",
                graces=hit.grace.notes,
            )
        )  # fmt: skip
    return tuple(found)


class Typed(TestCase):
    def test_every_bar_of_the_demo_comes_back_from_its_strokes_as_typed_lines(self):
        compared = 0
        for path in sorted(CHARTS.glob("*.wren")):
            for bar in read_chart(path.read_text()).bars:
                strokes = as_strokes(bar.music)
                if strokes is None or bar.meter.sizes or bar.length != bar.meter.length:
                    continue
                read = ReadBar(strokes, bar.length)
                offer = proposal(read, HOUSE_KEY, bar.meter, bar.meter, False)
                text = offer.text if offer.text != "rest" else ""
                back = read_bar(text, "1", bar.meter)
                with self.subTest(path.stem, bar=bar.number):
                    written = tuple(replace(hit, hand=None) for hit in bar.music)
                    self.assertEqual(back.music, written)
                compared += 1
        self.assertGreater(compared, 100)

    def test_a_first_bar_that_is_short_is_a_pick_up(self):
        stroke = Stroke(Fraction(0), 5, "black", Fraction(1))
        offer = proposal(ReadBar((stroke,), Fraction(1)), HOUSE_KEY, FOUR, FOUR, True)
        self.assertEqual(offer.text, "beats 1\nsnare 4")

    def test_another_metre_is_typed_where_it_begins(self):
        stroke = Stroke(Fraction(0), 5, "black", Fraction(1))
        read = ReadBar((stroke,), Fraction(3))
        offer = proposal(read, HOUSE_KEY, Meter(3, 4), FOUR, False)
        self.assertEqual(offer.text, "meter 3/4\nsnare 1")
        offer = proposal(read, HOUSE_KEY, Meter(3, 4), Meter(3, 4), False)
        self.assertEqual(offer.text, "snare 1")

    def test_strokes_through_a_stem_are_a_roll_of_one_kind_or_the_other(self):
        stroke = Stroke(Fraction(0), 5, "black", Fraction(2), roll=True)
        offer = proposal(ReadBar((stroke,), Fraction(4)), HOUSE_KEY, FOUR, FOUR, False)
        self.assertEqual(offer.doubts, (ROLLED,))
        kinds = [
            read_bar(text, "1", FOUR).hits[0].roll.kind for text in (offer.text, offer.second)
        ]
        self.assertEqual(kinds, [RollKind.OPEN, RollKind.BUZZ])

    def test_two_heads_on_one_drum_at_once_are_no_proposal(self):
        both = tuple(Stroke(Fraction(0), row, "black", Fraction(1)) for row in (5, 6))
        key = {code_of(5, "black"): "snare", code_of(6, "black"): "snare"}
        self.assertIsNone(proposal(ReadBar(both, Fraction(4)), key, FOUR, FOUR, False))

    def test_graces_are_flams_drags_and_ruffs_on_hands_only(self):
        rows = ((5, 1), (5, 2), (5, 3), (1, 1))
        strokes = tuple(
            Stroke(Fraction(n), row, "black", Fraction(1), graces=graces)
            for n, (row, graces) in enumerate(rows)
        )
        hits = hits_by_key(strokes, HOUSE_KEY, Fraction(4))
        self.assertEqual(
            [hit.grace for hit in hits], [Grace.FLAM, Grace.DRAG, Grace.RUFF, Grace.NONE]
        )
        self.assertEqual(hits[3], Hit(Fraction(3), Drum.KICK))
