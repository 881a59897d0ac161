"""Printed pages read: lines, bars, signs, bars that look the same.

Truth from outside: pages drawn by two engravers that are not ours, see
``tests/fixtures/printed/make.py``. Figures over all pages and ways of being worse are printed
by ``python -m bench.pages`` and stand in docs/sources.md; here each way is held by some.
"""

from fractions import Fraction
from io import BytesIO
from unittest import TestCase
from unittest.mock import patch

import cv2
import numpy as np
import pikepdf
from parameterized import parameterized
from PIL import Image, ImageFile

from tests.printed_pages import PHOTOGRAPHS, SCANS, made_worse, printed_pages
from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.page_reading.bars.read_bar import ReadBar, Stroke
from wren_ladder.drumming.page_reading.copied import (
    CopiedBar,
    State,
    following,
    numbers,
    text_of,
    to_type,
    typed_signs,
    unseen,
    whole_text,
)
from wren_ladder.drumming.page_reading.equal_bars import likenesses
from wren_ladder.drumming.page_reading.found import SPACE, BarLine, Shorthand
from wren_ladder.drumming.page_reading.miscounts import Miscount, miscounts
from wren_ladder.drumming.page_reading.page import (
    alike,
    notes_of,
    printed_bars,
    read_page,
    with_dynamics,
)
from wren_ladder.drumming.page_reading.picture import MOST_PIXELS, open_pictures, pack, unpack
from wren_ladder.drumming.page_reading.serial import line_from_json, line_to_json
from wren_ladder.drumming.page_reading.straighten import sheet_corners
from wren_ladder.drumming.page_reading.typed_dynamics import placed, typed

PAGES = {page.name: page for page in printed_pages()}
WEIR = PAGES["weir_lane"]


def bars_of(found) -> tuple[int, ...]:
    return tuple(len(line.bars) for line in found.lines)


class AsDrawn(TestCase):
    """Every page as its engraver drew it."""

    @classmethod
    def setUpClass(cls):
        cls.found = {name: read_page(page.picture) for name, page in PAGES.items()}

    def test_every_line_and_every_bar_is_found(self):
        for name, page in PAGES.items():
            with self.subTest(name):
                self.assertEqual(bars_of(self.found[name]), page.lines)

    def test_no_bars_are_called_equal_that_are_not_and_few_that_are_are_missed(self):
        equal = found = 0
        for name, page in PAGES.items():
            likeness = alike(printed_bars([(self.found[name].picture, self.found[name].lines)]))
            for place, one in enumerate(likeness):
                equal += page.kinds[place] != place
                if one is None or not one.equal:
                    continue
                found += 1
                with self.subTest(name, bar=place):
                    self.assertEqual(page.kinds[one.like], page.kinds[place])
        self.assertGreater(found, 0.85 * equal)

    def test_the_page_is_level_and_of_the_houses_size(self):
        for found in self.found.values():
            for line in found.lines:
                self.assertEqual(line.bottom - line.top, 4 * SPACE)
                rows = found.picture[line.top - 3 : line.bottom + 4, line.left : line.right]
                dark = rows.mean(axis=1)
                # The five lines are the darkest rows, those between them paler.
                for n in range(4):
                    between = dark[3 + n * SPACE + SPACE // 2]
                    self.assertLess(dark[n * SPACE : n * SPACE + 7].min(), between)

    def test_signs_of_the_road_and_shorthand(self):
        lines = [line.bars for line in self.found["signs"].lines]
        first, repeats = lines[0][0], lines[0][2:]
        self.assertEqual(first.before, BarLine.REPEAT_START)
        self.assertEqual([bar.shorthand for bar in repeats], [Shorthand.REPEAT] * 2)
        second = lines[1]
        self.assertEqual(
            [bar.after for bar in second], [BarLine.REPEAT_END, BarLine.DOUBLE, BarLine.SINGLE]
        )
        self.assertEqual(second[2].shorthand, Shorthand.RESTS)
        self.assertEqual([bar.ending for bar in lines[2]], [False, False, True, True])
        self.assertEqual(lines[2][2].after, BarLine.REPEAT_END)
        self.assertEqual(lines[3][-1].after, BarLine.FINAL)

    def test_a_sign_over_two_bars_and_slashes(self):
        said = [bar.shorthand for bar in self.found["rolls"].bars]
        self.assertEqual(said[2:4], [Shorthand.REPEAT_2] * 2)
        self.assertEqual(said[12:14], [Shorthand.SLASHES] * 2)
        self.assertEqual(sum(map(bool, said)), 4)

    def test_a_stem_as_high_as_the_staff_with_a_beam_at_its_foot_is_no_bar_line(self):
        self.assertEqual([len(line.bars) for line in self.found["rolls"].lines], [4] * 5)

    def test_time_signatures_hold_until_the_next(self):
        known = {
            "rolls": {0: "4/4", 8: "7/8", 10: "5/4", 12: "4/4"},
            "long_pier_signals": {0: "4/4", 17: "7/8", 21: "4/4"},
            "slow_lantern_leland": {0: "12/8"},
            "weir_lane": {0: "4/4"},
        }
        for name, changes in known.items():
            found = self.found[name]
            meters = [str(one.meter) for one in printed_bars([(found.picture, found.lines)])]
            starts = {
                place: meter
                for place, meter in enumerate(meters)
                if place == 0 or meters[place - 1] != meter
            }
            self.assertEqual(starts, changes, name)

    def test_dynamics_are_no_part_of_the_music_and_are_said_again_where_they_hold(self):
        """The last two bars of the page are its first: at p, and at f after it."""
        found = self.found["rolls"]
        bars = printed_bars([(found.picture, found.lines)])
        likeness = alike(bars)
        likeness, _read, lines = with_dynamics(bars, likeness, notes_of(bars, likeness))
        self.assertEqual([likeness[n].like for n in (18, 19)], [0, 0])
        self.assertEqual(
            {place: said for place, said in enumerate(lines) if said},
            {
                0: ["dynamics f 1"], 4: ["dynamics p 1"], 5: ["dynamics mf 1"],
                7: ["dynamics ff 1"], 9: ["dynamics pp 1"], 10: ["dynamics mp 1"],
                15: ["dynamics fp 3 sfz 4"], 16: ["dynamics p 1"], 18: ["dynamics p 1"],
                19: ["dynamics f 1"],
            },
        )  # fmt: skip

    def test_a_dynamic_is_at_the_stroke_that_it_stands_under(self):
        strokes = tuple(
            Stroke(Fraction(at), 5, "black", Fraction(1), x)
            for at, x in ((2, 200.0), (3, 300.0))
        )
        read = ReadBar(strokes, Fraction(4))
        for x, said in (
            (195.0, ["dynamics p 3"]),
            (320.0, ["dynamics p 4"]),
            (40.0, ["dynamics p 1"]),  # under the rest it begins with
        ):
            self.assertEqual(typed(placed([("p", x)], read), read), said)
        lost = placed([("p", 250.0)], read)
        self.assertEqual((lost.lost, typed(lost, read)), (("p",), []))

    def test_no_word_of_another_page_is_a_dynamic(self):
        for name in PAGES.keys() - {"rolls"}:
            found = self.found[name]
            for one in printed_bars([(found.picture, found.lines)]):
                self.assertEqual(one.ink.dynamics, (), name)

    def test_how_long_a_long_rest_is_stands_over_it(self):
        found = self.found["signs"]
        bars = printed_bars([(found.picture, found.lines)])
        self.assertEqual([one.rests for one in bars if one.rests], [12])
        self.assertEqual(bars[6].rests, 12)

    def test_bars_are_counted_against_the_numbers_at_the_lines(self):
        for name in PAGES.keys() - {"signs"}:
            found = self.found[name]
            bars = printed_bars([(found.picture, found.lines)])
            printed = [one.number for one in bars]
            self.assertGreaterEqual(sum(map(bool, printed)), len(found.lines) - 1, name)
            self.assertEqual(miscounts(printed, [1] * len(bars)), [], name)
        # Without one bar of the fifth line, the sixth is where it is noticed.
        found = self.found["harbour_wall_shuffle"]
        bars = printed_bars([(found.picture, found.lines)])
        del bars[17]
        printed = [one.number for one in bars]
        self.assertEqual(miscounts(printed, [1] * len(bars)), [Miscount(19, 20, 19)])

    def test_a_pick_up_is_no_miscount_and_a_misread_number_is_none(self):
        def likes(*figures: int) -> tuple:
            return tuple(tuple(float(n == one) for n in range(10)) for one in figures)

        lengths = [1] * 13
        self.assertEqual(
            miscounts([(), *[()] * 3, likes(4), *[()] * 3, likes(8)] + [()] * 4, lengths), []
        )
        printed = [()] * 13
        printed[4], printed[8], printed[12] = likes(5), likes(8), likes(1, 3)
        self.assertEqual(miscounts(printed, lengths), [])
        # A long rest is as many bars as it lasts.
        printed[8], printed[12] = likes(1, 6), likes(2, 0)
        self.assertEqual(miscounts(printed, [1] * 5 + [8] + [1] * 7), [])

    def test_a_stem_from_the_lowest_space_to_the_top_line_is_no_bar_line(self):
        """The last bar of the page with signs is four such notes of the kick."""
        last = self.found["signs"].lines[-1].bars[-1]
        self.assertGreater(last.right - last.left, 12 * SPACE)

    def test_signs_are_said_as_they_are_typed(self):
        said = typed_signs(self.found["signs"].bars)
        self.assertEqual(said[0], ("repeat start",))
        self.assertEqual(said[4:6], [("repeat end 2",), ()])
        self.assertEqual(
            said[7:11], [("repeat start",), (), ("ending 1", "repeat end 2"), ("ending 2",)]
        )

    def test_a_sign_that_repeats_the_bar_before_is_like_none(self):
        found = self.found["signs"]
        likeness = alike(printed_bars([(found.picture, found.lines)]))
        self.assertEqual(likeness[2:4], [None, None])
        self.assertNotIn(2, [one.like for one in likeness if one])

    def test_other_bars_have_no_signs(self):
        for name in PAGES.keys() - {"signs", "rolls"}:
            for bar in self.found[name].bars:
                self.assertEqual((bar.shorthand, bar.ending), (Shorthand.NONE, False))

    def test_lines_are_stored_and_come_back(self):
        for line in self.found["signs"].lines:
            self.assertEqual(line_from_json(line_to_json(line)), line)

    def test_what_differs_is_marked_where_it_differs(self):
        """Bar 10 of Weir Lane is bar 9 with a ghost before the last beat."""
        found = self.found["weir_lane"]
        likeness = alike(printed_bars([(found.picture, found.lines)]))[9]
        self.assertEqual(likeness.like, 8)
        self.assertFalse(likeness.equal)
        bar = found.bars[9]
        wide = bar.right - bar.ink_left
        for place in likeness.here:
            self.assertGreater(place.left, 0.5 * wide)
            self.assertLess(place.right, 0.85 * wide)


class AsTheWorldDoesIt(TestCase):
    """Scanned, turned, photographed, folded."""

    @parameterized.expand(["weir_lane", "slow_lantern_leland"])
    def test_scans(self, page):
        for name, how in SCANS.items():
            with self.subTest(name):
                found = read_page(made_worse(PAGES[page].picture, how, 1))
                self.assertEqual(bars_of(found), PAGES[page].lines)

    def test_photographs(self):
        for name in ("on a table", "in the dark", "edges outside", "folded"):
            with self.subTest(name):
                found = read_page(made_worse(WEIR.picture, PHOTOGRAPHS[name], 2))
                self.assertEqual(bars_of(found), WEIR.lines)

    def test_a_photograph_never_calls_bars_equal_that_are_not(self):
        found = read_page(made_worse(WEIR.picture, PHOTOGRAPHS["on a table"], 3))
        for place, one in enumerate(alike(printed_bars([(found.picture, found.lines)]))):
            if one is not None and one.equal:
                self.assertEqual(WEIR.kinds[one.like], WEIR.kinds[place])

    def test_the_sheet_is_cut_out_of_the_table_it_lies_on(self):
        picture = made_worse(WEIR.picture, PHOTOGRAPHS["on a table"], 4)
        corners = sheet_corners(picture)
        height, width = picture.shape
        # The table is 8 % of the sheet's width around it, its corners off by 3 % of that.
        edge = 0.08 / 1.16 * width
        most = 0.04 / 1.16 * width
        for (x, y), (right, down) in zip(
            corners, ((0, 0), (1, 0), (1, 1), (0, 1)), strict=True
        ):
            self.assertLess(abs(x - (width - edge if right else edge)), most)
            self.assertLess(abs(y - (height - edge if down else edge)), most)

    def test_a_scan_has_no_sheet_in_it(self):
        self.assertIsNone(sheet_corners(WEIR.picture))

    def test_pages_without_staves_have_no_lines(self):
        chance = np.random.default_rng(5)
        letters = np.full((2000, 1500), 255, np.uint8)
        for row in range(100, 1900, 40):
            cv2.putText(letters, "Words and more words upon a page", (80, row), 0, 1.1, 0, 2)
        noise = chance.integers(0, 255, (1200, 900)).astype(np.uint8)
        for picture in (np.full((1000, 800), 255, np.uint8), letters, noise):
            self.assertEqual(read_page(picture).lines, ())


class EqualBars(TestCase):
    """Drawn here stroke by stroke, so that one thing differs at a time."""

    def bar(self, wide: int = 300, **without) -> np.ndarray:
        ink = np.zeros((16 * SPACE, wide), bool)
        xs = np.linspace(20, wide - 40, 4).astype(int)
        for n, x in enumerate(xs):
            if without.get("head") != n:
                ink[130:146, x : x + 19] = True
            ink[80:140, x + 17 : x + 20] = True
        ink[80:88, xs[0] + 17 : xs[-1] + 20] = True
        if without.get("dot") is not None:
            x = xs[without["dot"]] + 28
            ink[134:141, x : x + 7] = True
        return ink

    def test_the_same_bar_set_wider_is_equal(self):
        for wide in (240, 300, 420, 520):
            found = likenesses([self.bar(300), self.bar(wide)])
            self.assertEqual((found[1].like, found[1].equal), (0, True), wide)

    def test_a_missing_head_and_one_dot_more_are_seen_and_marked(self):
        for n in range(4):
            for change in ({"head": n}, {"dot": n}):
                with self.subTest(change):
                    found = likenesses([self.bar(300), self.bar(380, **change)])[1]
                    self.assertFalse(found.equal)
                    places = (*found.here, *found.there)
                    self.assertEqual(len(places), 1)

    def test_staves_of_other_heights_drawn_by_hand_are_not_compared(self):
        found = likenesses([self.bar(), self.bar()[:-40], self.bar()])
        self.assertIsNone(found[1])
        self.assertEqual(found[2].like, 0)

    def test_a_whole_book_of_bars_is_laid_over_few_kinds_each(self):
        """Each bar has its own dots; every one twice."""
        bars = [self.bar(300, dot=n % 4, head=n // 4 % 4) for n in range(16)]
        found = likenesses([*bars, *bars * 13])
        self.assertTrue(all(one.equal for one in found[16:]))

    def test_bars_without_ink_are_equal_and_like_nothing_else(self):
        empty = np.zeros((16 * SPACE, 200), bool)
        found = likenesses([self.bar(), empty, empty[:, :150]])
        self.assertIsNone(found[1])
        self.assertEqual((found[2].like, found[2].equal), (1, True))


class Copied(TestCase):
    def bars(self, *said: tuple[int, str]) -> list[CopiedBar]:
        return [
            CopiedBar(kind, text, State.RIGHT if text else State.OPEN) for kind, text in said
        ]

    def test_equal_bars_are_typed_once(self):
        bars = self.bars((0, "hat 8ths\nkick 1 3"), (0, ""), (2, "snare 16ths"), (0, ""))
        chart = read_chart(whole_text(bars))
        self.assertEqual(chart.bars[1].hits, chart.bars[0].hits)
        self.assertEqual(chart.bars[3].hits, chart.bars[0].hits)
        self.assertEqual(to_type(bars), [])
        self.assertEqual(unseen(bars), [1, 3])

    def test_what_is_typed_for_a_bar_goes_before_what_it_looks_like(self):
        bars = self.bars((0, "kick 1"), (0, "as 1\nsnare 3"))
        self.assertEqual(text_of(bars, 1), "as 1\nsnare 3")
        self.assertEqual(len(read_chart(whole_text(bars)).bars[1].hits), 2)

    def test_a_pick_up_and_a_long_rest_count_as_musicians_count(self):
        bars = self.bars((0, "beats 1\nsnare 4"), (1, "kick 1"), (2, "4 bars rest"), (1, ""))
        self.assertEqual(numbers(bars), [0, 1, 2, 6])
        chart = read_chart(whole_text(bars))
        self.assertEqual([bar.number for bar in chart.bars], list("0123456"))
        self.assertEqual(chart.bars[6].hits, chart.bars[1].hits)

    def test_the_next_bar_is_one_that_nothing_is_known_of_and_those_put_off_come_last(
        self,
    ):
        bars = self.bars((0, ""), (1, ""), (0, ""), (3, ""))
        self.assertEqual(following(bars, 0), 1)
        bars[1] = CopiedBar(1, "", State.LATER)
        self.assertEqual(following(bars, 0), 2)
        bars[3] = CopiedBar(3, "kick 1", State.RIGHT)
        bars[0] = CopiedBar(0, "kick 2", State.RIGHT)
        self.assertEqual(following(bars, 3), 1)
        bars[1] = CopiedBar(1, "kick 3", State.RIGHT)
        self.assertIsNone(following(bars, 1))

    def test_a_bar_known_by_its_like_keeps_its_own_signs(self):
        first = CopiedBar(0, "repeat start\nkick 1", State.RIGHT, ("repeat start",))
        last = CopiedBar(0, signs=("ending 1", "repeat end 2"))
        second = CopiedBar(0, signs=("ending 2",))
        chart = read_chart(whole_text([first, last, second]))
        self.assertEqual([bar.endings for bar in chart.bars], [(), (1,), (2,)])
        self.assertEqual([bar.repeat_start for bar in chart.bars], [True, False, False])
        self.assertEqual(chart.bars[1].repeat_passes, 2)

    def test_signs_of_the_road_stay_with_their_own_bar(self):
        bars = self.bars((0, "repeat start\nkick 1"), (0, ""), (0, "repeat end 2"))
        chart = read_chart(whole_text(bars))
        self.assertEqual([bar.repeat_start for bar in chart.bars], [True, False, False])
        self.assertEqual([bar.repeat_passes for bar in chart.bars], [0, 0, 2])


class Opened(TestCase):
    """Files as they come from cameras, scanners and shops."""

    def saved(self, kind: str, **options) -> bytes:
        picture, out = Image.fromarray(WEIR.picture[:1200:2, ::2]), BytesIO()
        picture.save(out, kind, **options)
        return out.getvalue()

    def test_every_kind_of_picture(self):
        for kind in ("PNG", "JPEG", "WEBP", "TIFF", "HEIF"):
            with self.subTest(kind):
                pages = open_pictures(f"page.{kind.lower()}", self.saved(kind))
                self.assertEqual([page.shape for page in pages], [(600, 1240)])
                self.assertGreater(pages[0].mean(), 200)

    def test_a_telephone_that_was_held_upright_is_upright(self):
        turned = Image.fromarray(WEIR.picture[:1200:2, ::2]).rotate(90, expand=True)
        exif = Image.Exif()
        exif[0x0112] = 6  # "turn it a quarter clockwise", Exif 2.3, tag Orientation
        out = BytesIO()
        turned.save(out, "JPEG", exif=exif)
        self.assertEqual(open_pictures("a.jpg", out.getvalue())[0].shape, (600, 1240))

    def test_what_is_clear_is_white(self):
        out = BytesIO()
        Image.new("RGBA", (600, 600), (0, 0, 0, 0)).save(out, "PNG")
        self.assertEqual(int(open_pictures("a.png", out.getvalue())[0].min()), 255)

    def test_several_pages_of_a_tiff(self):
        picture, out = Image.fromarray(WEIR.picture[:1200:2, ::2]), BytesIO()
        picture.save(out, "TIFF", save_all=True, append_images=[picture, picture])
        self.assertEqual(len(open_pictures("a.tif", out.getvalue())), 3)

    def pdf(self, pages: int = 3, **options) -> bytes:
        document, out = pikepdf.new(), BytesIO()
        for _ in range(pages):
            document.add_blank_page(page_size=(595, 842))
        document.save(out, **options)
        return out.getvalue()

    def test_pages_of_a_pdf_are_chosen(self):
        self.assertEqual(len(open_pictures("a.pdf", self.pdf())), 3)
        page = open_pictures("a.pdf", self.pdf(), (2,))
        self.assertEqual([one.shape for one in page], [(3509, 2480)])
        with self.assertRaisesRegex(ChartError, "has no page 4, it has 3"):
            open_pictures("a.pdf", self.pdf(), (4,))
        with self.assertRaisesRegex(ChartError, "40 pages, one piece has at most 12"):
            open_pictures("a.pdf", self.pdf(40))

    def test_what_cannot_be_opened_says_why(self):
        locked = self.pdf(encryption=pikepdf.Encryption(owner="a", user="b"))
        whole = self.saved("PNG")
        for name, data, said in (
            ("locked.pdf", locked, "locked with a password"),
            ("a.pdf", b"%PDF-1.7 and no more", "no PDF that can be opened"),
            ("a.txt", b"hat 8ths", "no picture and no PDF"),
            ("cut.png", whole[: len(whole) // 2], "damaged or cut off"),
        ):
            with (
                self.subTest(name),
                # The printer beside these tests switches it on for its whole process.
                patch.object(ImageFile, "LOAD_TRUNCATED_IMAGES", False),
                self.assertRaisesRegex(ChartError, said),
            ):
                open_pictures(name, data)

    def test_too_small_and_too_large(self):
        small = BytesIO()
        Image.new("L", (200, 300)).save(small, "PNG")
        with self.assertRaisesRegex(ChartError, "200 x 300 pixels: too small"):
            open_pictures("a.png", small.getvalue())
        large = BytesIO()
        Image.new("1", (MOST_PIXELS // 10_000 + 10, 10_000)).save(large, "PNG")
        with self.assertRaisesRegex(ChartError, "million pixels, at most"):
            open_pictures("a.png", large.getvalue())

    def test_a_picture_comes_back_from_its_jpeg(self):
        again = unpack(pack(WEIR.picture))
        self.assertLess(np.abs(again.astype(int) - WEIR.picture).mean(), 2)
