"""A piece copied from its printed pages: in, bars typed, corrected by hand, kept, gone."""

import json
from datetime import date, timedelta
from io import BytesIO
from unittest.mock import patch

import pikepdf
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse
from django.utils import timezone

from tests.printed_pages import HERE
from tests.studio.base import StudioTest, make_student, make_teacher
from wren_ladder.demo import CHARTS
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.studio.changes.scans import (
    add_scan,
    change_bars,
    compare,
    read_next,
    set_key,
)
from wren_ladder.studio.exchange.studio_file import (
    StudioFileError,
    read_studio_file,
    restore,
    studio_lines,
)
from wren_ladder.studio.pages.scans.proposals import heads_asked
from wren_ladder.studio.pieces.fence import run_fenced
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.privacy.expiry import expire
from wren_ladder.studio.privacy.naming import names_of, places_of
from wren_ladder.studio.scans.models import Scan
from wren_ladder.studio.scans.reading import open_pages, read_page

PRINTED = CHARTS.parent / "printed" / "weir_lane.wren"
WEIR = (HERE / "weir_lane.png").read_bytes()
# What a teacher types beside Weir Lane, bar for bar of those that look different.
TYPED = {
    0: "meter 4/4\ntempo crotchet = 96\ncrash 1\nhat 8ths, no 1\nsnare 2 4\nkick 1 3 3&",
    1: "hat 8ths\nsnare 2 4\nkick 1 3 3&",
    3: "hat 8ths 1-3\nsnare 2, 16ths 4\nkick 1 3 3&",
    7: "hat 8ths 1-2\nsnare 2\nhigh 3 3&\nkick 1\nfloor 4 4&",
    8: "ride 8ths\nsnare accent 2 4\nkick 1 2& 3",
    9: "as 9\nsnare accent 2 4, ghost 3a",
    15: "crash 1\nkick 1",
}


class ScanTest(StudioTest):
    @classmethod
    def setUpTestData(cls):
        """One page opened and read once; each test has a copy of its rows."""
        cls.opened = open_pages("weir.png", WEIR)[0]
        cls.read = read_page(cls.opened, [])

    def scan(self) -> Scan:
        scan = add_scan(self.teacher, [("weir.png", self.opened)], timezone.localdate())
        page = scan.pages.get()
        for name, value in self.read.items():
            setattr(page, name, value)
        page.save()
        compare(scan)
        return scan

    def scan_with_key(self, read: bool = True) -> Scan:
        """Its key answered as it is guessed; nothing ``read`` in its bars, if so asked."""
        scan = self.scan()
        set_key(
            scan, {one.place.code: one.drum for one in heads_asked(scan)}, timezone.localdate()
        )
        if not read:
            scan.bars = [row | {"read": None} for row in scan.bars]
            scan.save()
        return scan

    def right(self, scan: Scan, place: int, text: str, **more):
        address = reverse("scan-bar", args=[scan.pk, place])
        return self.client.post(address, {"op": "right", "text": text, **more})


class In(ScanTest):
    def upload(self, name: str, data: bytes, **fields):
        file = SimpleUploadedFile(name, data)
        return self.client.post(reverse("scan-new"), {"files": file, "pages": "", **fields})

    def test_a_picture_is_read_page_by_page_and_leads_to_its_first_bar(self):
        answer = self.upload("weir.png", WEIR)
        scan = Scan.objects.get()
        self.assertRedirects(answer, scan.get_absolute_url(), fetch_redirect_response=False)
        page = self.client.get(scan.get_absolute_url())
        self.assertContains(page, "Page 1 of 1")
        done = self.client.post(reverse("scan-read", args=[scan.pk]))
        self.assertEqual(done["HX-Redirect"], scan.get_absolute_url())
        scan.refresh_from_db()
        self.assertEqual(len(scan.bars), 16)
        page = self.client.get(scan.get_absolute_url(), follow=True)
        self.assertContains(page, "Which drum is where?")
        drums = [one["row"].drum for one in page.context["rows"]]
        self.client.post(reverse("scan-key", args=[scan.pk]), {"drum": drums})
        page = self.client.get(scan.get_absolute_url())
        self.assertContains(page, "<h1>Bar 1</h1>", html=True)

    def test_what_is_no_page_is_told_and_nothing_is_kept(self):
        locked = BytesIO()
        document = pikepdf.new()
        document.add_blank_page()
        document.save(locked, encryption=pikepdf.Encryption(owner="a", user="b"))
        for name, data, said in (
            ("notes.txt", b"hat 8ths", "is no picture and no PDF"),
            ("locked.pdf", locked.getvalue(), "locked with a password"),
            ("empty.png", b"", "The submitted file is empty"),
        ):
            with self.subTest(name):
                page = self.upload(name, data)
                self.assertContains(page, said, status_code=422)
        self.assertContains(
            self.upload("w.png", WEIR, pages="5-3"), "say which", status_code=422
        )
        self.assertEqual(Scan.objects.count(), 0)

    def test_several_pages_come_in_their_order_and_are_read_one_by_one(self):
        scan = add_scan(
            self.teacher, [("1", self.opened), ("2", self.opened)], date(2026, 1, 5)
        )
        self.assertTrue(read_next(scan))
        self.assertFalse(read_next(scan))
        self.assertEqual(len(scan.bars), 32)
        # The second page is the first again: nothing of it is to be typed.
        kinds = [row["kind"] for row in scan.bars]
        self.assertEqual(kinds[16:], kinds[:16])


class Copying(ScanTest):
    def test_seven_bars_are_typed_and_sixteen_are_there(self):
        scan, typed = self.scan_with_key(read=False), 0
        address = scan.get_absolute_url()
        while (page := self.client.get(address, follow=True)).context.get("bar"):
            place = page.context["bar"].place
            self.right(scan, place, TYPED[place])
            typed += 1
            self.assertLess(typed, 12)
        self.assertEqual(typed, len(TYPED))
        self.assertContains(page, "9 bars not called right")
        for line in range(4):
            self.client.post(reverse("scan-look", args=[scan.pk]), {"line": line})
        page = self.client.get(reverse("scan-look", args=[scan.pk]))
        self.assertContains(page, "every bar was called right")
        kept = self.client.post(reverse("scan-keep", args=[scan.pk]), {"title": "Weir Lane"})
        piece = Piece.objects.get()
        self.assertRedirects(kept, piece.get_absolute_url(), fetch_redirect_response=False)
        bars = piece.chart().bars
        self.assertEqual(len(bars), 16)
        self.assertEqual(bars[4].hits, bars[0].hits)
        self.assertEqual(bars[13].hits, bars[9].hits)
        self.assertEqual(len(bars[9].hits), len(bars[8].hits) + 1)
        self.assertEqual(piece.import_report, [])
        scan.refresh_from_db()
        self.assertEqual(scan.until, timezone.localdate() + timedelta(days=7))
        self.assertContains(
            self.client.get(reverse("piece-edit", args=[piece.pk])),
            "printed page</a> is here until",
        )

    def test_a_wrong_word_is_shown_where_it_is_and_what_was_typed_stays(self):
        scan = self.scan()
        page = self.right(scan, 1, "hat 8ths\nsnar 2 4")
        self.assertContains(page, "<mark>snar</mark>", html=True)
        self.assertContains(page, "snar 2 4</textarea>")
        scan.refresh_from_db()
        self.assertEqual(scan.bars[1]["state"], "")

    def test_a_bar_is_drawn_while_it_is_typed_and_nothing_is_kept(self):
        scan = self.scan()
        address = reverse("scan-draw", args=[scan.pk, 1])
        self.assertContains(self.client.post(address, {"text": "kick 1"}), "<svg")
        self.assertContains(self.client.post(address, {"text": "kik 1"}), "typed-wrong")
        scan.refresh_from_db()
        self.assertEqual(scan.bars[1]["text"], "")

    def test_what_is_right_put_off_or_a_line_is_taken_back(self):
        scan = self.scan()
        self.right(scan, 1, TYPED[1])
        self.right(scan, 0, TYPED[0], op="later")
        undo = {"op": "undo", "text": ""}
        page = self.client.post(reverse("scan-bar", args=[scan.pk, 2]), undo)
        self.assertEqual(page.context["bar"].place, 0)
        page = self.client.post(reverse("scan-bar", args=[scan.pk, 2]), undo)
        self.assertEqual(page.context["bar"].place, 1)
        scan.refresh_from_db()
        self.assertEqual({row["state"] for row in scan.bars}, {""})

    def test_a_near_bar_is_offered_as_its_like_once_that_is_typed(self):
        scan = self.scan_with_key(read=False)
        self.assertEqual(scan.bars[9]["near"], 8)
        page = self.client.get(f"{scan.get_absolute_url()}?bar=9")
        self.assertContains(page, "Nearly bar")
        self.assertNotContains(page, "as 9")
        self.right(scan, 8, TYPED[8])
        self.assertContains(self.client.get(f"{scan.get_absolute_url()}?bar=9"), "as 9\n")

    def test_a_line_with_bars_that_nobody_typed_is_not_called_right(self):
        scan = self.scan_with_key(read=False)
        self.client.post(reverse("scan-look", args=[scan.pk]), {"line": 0})
        scan.refresh_from_db()
        self.assertEqual({row["state"] for row in scan.bars}, {""})

    def test_kept_before_its_end_it_says_what_nobody_saw(self):
        scan = self.scan()
        self.right(scan, 0, TYPED[0])
        self.client.post(reverse("scan-keep", args=[scan.pk]), {"title": "Half"})
        report = Piece.objects.get().import_report
        self.assertEqual(report, ["15 printed bars were not called right by anybody"])

    def test_without_a_title_it_is_not_kept(self):
        page = self.client.post(reverse("scan-keep", args=[self.scan().pk]), {"title": " "})
        self.assertContains(page, "give the piece its title", status_code=422)


class Read(ScanTest):
    """What was read is offered, never taken."""

    def test_a_bar_is_offered_as_it_was_read_and_taken_by_one_key(self):
        scan = self.scan_with_key()
        page = self.client.get(f"{scan.get_absolute_url()}?bar=9")
        self.assertContains(page, "Read from the page.")
        self.assertContains(page, "ride 8ths\nsnare accent 2 4, ghost 3a\nkick 1 2&amp; 3\n<")
        self.assertContains(page, '<div class="score mb-0"><svg')  # and drawn
        scan.refresh_from_db()
        self.assertEqual({row["text"] for row in scan.bars}, {""})
        self.right(scan, 9, page.context["text"])
        scan.refresh_from_db()
        self.assertEqual(scan.bars[9]["state"], "right")
        self.assertEqual(scan.bars[9]["text"], page.context["text"])

    def test_four_lines_are_right_by_four_presses_and_a_press_is_taken_back(self):
        scan = self.scan_with_key()
        look = reverse("scan-look", args=[scan.pk])
        for line in range(4):
            self.client.post(look, {"line": line})
        self.assertContains(self.client.get(look), "every bar was called right")
        self.client.post(look, {"undo": 1})
        self.assertContains(self.client.get(look), "4 bars not called right")
        self.client.post(look, {"line": 3})
        self.client.post(reverse("scan-keep", args=[scan.pk]), {"title": "Weir Lane"})
        kept = Piece.objects.get().chart().bars
        printed = read_chart(PRINTED.read_text()).bars
        self.assertEqual([bar.hits for bar in kept], [bar.hits for bar in printed])

    def test_a_doubtful_bar_says_why_and_has_another_reading(self):
        scan = self.scan_with_key()
        read = scan.bars[1]["read"]
        read["doubts"] = ["the notes last 3.5 crotchets, the bar 4 crotchets"]
        read["second"] = [one for one in read["strokes"] if one["at"] != "0"]
        scan.save()
        page = self.client.get(f"{scan.get_absolute_url()}?bar=1")
        self.assertContains(page, "not surely")
        self.assertContains(page, "the other reading")
        page = self.client.get(f"{scan.get_absolute_url()}?bar=1&reading=2")
        self.assertNotIn("kick 1 3", page.context["text"])
        self.assertContains(page, "the first")
        # A line with it is not right at one press: somebody has to look at it.
        look = self.client.get(reverse("scan-look", args=[scan.pk]))
        self.assertContains(look, "Not surely read: ", 2)  # bar 2, and those like it
        self.client.post(reverse("scan-look", args=[scan.pk]), {"line": 0})
        scan.refresh_from_db()
        self.assertEqual({row["state"] for row in scan.bars}, {""})

    def test_another_drum_in_the_key_is_another_drum_in_every_bar_nobody_has_typed(self):
        scan = self.scan_with_key()
        self.right(scan, 1, TYPED[1])
        address = reverse("scan-key", args=[scan.pk])
        rows = self.client.get(address).context["rows"]
        drums = ["cowbell" if one["row"].drum == "hihat" else one["row"].drum for one in rows]
        self.client.post(address, {"drum": drums})
        page = self.client.get(f"{scan.get_absolute_url()}?bar=3")
        self.assertIn("cowbell 8ths 1-3", page.context["text"])
        scan.refresh_from_db()
        self.assertEqual(scan.bars[1]["text"], TYPED[1])

    def test_the_key_of_the_last_piece_is_the_guess_for_the_next(self):
        scan = self.scan_with_key()
        key = scan.key | {"7 cross": "tambourine"}
        set_key(scan, key, timezone.localdate())
        rows = self.client.get(reverse("scan-key", args=[self.scan().pk])).context["rows"]
        self.assertIn("tambourine", [one["row"].drum for one in rows])

    def test_a_page_with_signs_rolls_and_dynamics_is_the_chart_that_it_prints(self):
        """A sign over two bars, slashes, three metres, rolls, flams; dynamics that a bar like
        another does not take over."""
        opened = open_pages("rolls.png", (HERE / "rolls.png").read_bytes())
        scan = add_scan(self.teacher, [("rolls.png", opened[0])], timezone.localdate())
        while read_next(scan):
            pass
        rows = self.client.get(reverse("scan-key", args=[scan.pk])).context["rows"]
        asked = [one["row"] for one in rows]
        self.assertEqual([one.place.head for one in asked].count("triangle"), 1)
        drums = ["cowbell" if one.place.head == "triangle" else one.drum for one in asked]
        look = reverse("scan-look", args=[scan.pk])
        self.client.post(reverse("scan-key", args=[scan.pk]), {"drum": drums})
        # Rolls and slashes in a rhythm are looked at one by one; all other lines are right.
        page = self.client.get(look)
        unsure = [bar.number for row in page.context["rows"] for bar in row["unsure"]]
        self.assertEqual(unsure, [5, 6, 10, 12, 15])
        for number in unsure:
            bar = self.client.get(f"{scan.get_absolute_url()}?bar={number - 1}")
            self.right(scan, number - 1, bar.context["text"])
        for line in range(5):
            self.client.post(look, {"line": line})
        self.client.post(reverse("scan-keep", args=[scan.pk]), {"title": "Rolls and flams"})
        kept = Piece.objects.get().chart().bars
        printed = read_chart((HERE / "rolls.wren").read_text()).bars
        for ours, theirs in zip(kept, printed, strict=True):
            with self.subTest(bar=theirs.number):
                self.assertEqual(ours.hits, theirs.hits)
                self.assertEqual((ours.marks, ours.meter), (theirs.marks, theirs.meter))
                self.assertEqual(ours.again, theirs.again)

    def test_a_line_whose_number_is_another_one_asks_for_its_bars(self):
        scan = self.scan_with_key()
        look = reverse("scan-look", args=[scan.pk])
        self.assertNotContains(self.client.get(look), "Is a bar line missing")
        for place, figures in ((8, (1, 0)), (12, (1, 4))):
            scan.bars[place]["number"] = [
                [float(n == one) for n in range(10)] for one in figures
            ]
        scan.save()
        page = self.client.get(look)
        self.assertContains(page, "The page says bar 10 here; counted it is bar", 1)

    def test_the_printed_line_stands_beside_the_editor(self):
        scan = self.scan_with_key()
        for line in range(4):
            self.client.post(reverse("scan-look", args=[scan.pk]), {"line": line})
        self.client.post(reverse("scan-keep", args=[scan.pk]), {"title": "Weir Lane"})
        edit = reverse("piece-edit", args=[Piece.objects.get().pk])
        beside = reverse("scan-beside", args=[scan.pk])
        self.assertContains(self.client.get(f"{edit}?as=bars"), beside)
        self.assertContains(self.client.get(f"{edit}?as=text"), beside)
        self.assertContains(self.client.get(f"{beside}?bar=9"), "bar 10 in its printed line")
        self.assertContains(self.client.get(beside), "<image", 4)
        self.client.force_login(make_teacher("other"))
        self.assertEqual(self.client.get(beside).status_code, 404)

    def test_bars_that_take_too_long_to_read_are_compared_and_typed(self):
        def fenced(module, limits, asked, too_long):
            if asked[-1] is True:
                raise too_long
            return run_fenced(module, limits, asked, too_long)

        with patch("wren_ladder.studio.scans.reading.run_fenced", fenced):
            scan = self.scan()
        self.assertEqual(scan.bars[4]["kind"], 0)
        self.assertEqual({row["read"] for row in scan.bars}, {None})
        page = self.client.get(scan.get_absolute_url())
        self.assertContains(page, "<h1>Bar 1</h1>", html=True)

    def test_a_long_rest_is_offered_with_its_number(self):
        scan = self.scan_with_key(read=False)
        scan.bars[3]["rests"] = 12
        scan.save()
        page = self.client.get(f"{scan.get_absolute_url()}?bar=3")
        self.assertEqual(page.context["text"], "12 bars rest\n")

    def test_a_key_that_is_none_is_told_and_nothing_is_kept(self):
        scan = self.scan()
        for drums in ([], ["kick"], ["no drum"] * 7):
            page = self.client.post(reverse("scan-key", args=[scan.pk]), {"drum": drums})
            self.assertContains(page, "choose a drum", status_code=422)
        scan.refresh_from_db()
        self.assertEqual(scan.key, {})

    def test_bars_of_before_that_nothing_was_read_in_are_typed_as_they_were(self):
        scan = self.scan()
        scan.bars = [{k: v for k, v in row.items() if k != "read"} for row in scan.bars]
        scan.save()
        page = self.client.get(f"{scan.get_absolute_url()}?bar=1")
        self.assertContains(page, "<h1>Bar 2</h1>", html=True)
        self.assertEqual(page.context["text"], "")


class ByHand(ScanTest):
    def lines(self, scan: Scan) -> list[dict]:
        return [{**line} for line in scan.pages.get().lines]

    def send(self, scan: Scan, lines) -> object:
        sent = lines if isinstance(lines, str) else json.dumps(lines)
        return self.client.post(reverse("scan-lines", args=[scan.pk, 1]), {"lines": sent})

    def test_a_bar_parted_by_hand_leaves_what_was_typed_with_the_others(self):
        scan = self.scan_with_key()
        self.right(scan, 3, TYPED[3])
        lines = self.lines(scan)
        first = lines[0]["bars"][0]
        half = (first["left"] + first["right"]) // 2
        second = {**first, "left": half, "ink_left": half}
        lines[0]["bars"][:1] = [{**first, "right": half}, second]
        self.assertRedirects(self.send(scan, lines), scan.get_absolute_url())
        scan.refresh_from_db()
        self.assertEqual(len(scan.bars), 17)
        self.assertEqual([n for n, row in enumerate(scan.bars) if row["text"]], [4])

    def test_lines_that_cannot_be_are_told_and_the_page_stays_as_it_was(self):
        scan = self.scan()
        before = scan.pages.get().lines
        narrow = self.lines(scan)
        narrow[0]["bars"][0]["right"] = narrow[0]["bars"][0]["left"] + 3
        over = self.lines(scan)
        over[1]["bars"][0]["right"] += 300
        for sent, said in (
            (narrow, "narrower than a note"),
            (over, "lie over each other"),
            ("{", "load it again"),
            ([{"top": "x"}], "load it again"),
            ([{"top": 5, "bottom": 60, "left": 0, "right": 9, "bars": 7}], "load it again"),
        ):
            with self.subTest(said):
                self.assertContains(self.send(scan, sent), said, status_code=422)
        self.assertEqual(scan.pages.get().lines, before)

    def test_the_sheet_is_cut_out_anew_by_its_corners(self):
        scan = self.scan()
        address = reverse("scan-sheet", args=[scan.pk, 1])
        page = self.client.post(address, {"corners": "[[0,0],[9,9],[9,0],[0,9]]"})
        self.assertContains(page, "crossed", status_code=422)
        corners = [[0, 0], [2480, 0], [2480, 600], [0, 600]]
        self.client.post(address, {"corners": json.dumps(corners)})
        scan.refresh_from_db()
        self.assertEqual(scan.pages.get().corners, corners)
        self.assertEqual(len(scan.bars), 4)  # one line is on that stretch

    def test_a_page_is_added_and_taken_out(self):
        scan = self.scan()
        self.right(scan, 1, TYPED[1])
        file = SimpleUploadedFile("two.png", WEIR)
        self.client.post(reverse("scan-add", args=[scan.pk]), {"files": file, "pages": ""})
        self.client.post(reverse("scan-read", args=[scan.pk]))
        scan.refresh_from_db()
        self.assertEqual(len(scan.bars), 32)
        self.assertEqual(scan.bars[1]["text"], TYPED[1])
        self.client.post(reverse("scan-take", args=[scan.pk, 2]))
        scan.refresh_from_db()
        self.assertEqual(len(scan.bars), 16)
        self.assertEqual(scan.bars[1]["text"], TYPED[1])


class Private(ScanTest):
    """The pictures are a teacher's own copy."""

    def addresses(self, scan: Scan) -> list[str]:
        jpgs = [reverse("scan-jpg", args=[scan.pk, 1, which]) for which in ("came", "straight")]
        pages = [
            reverse(name, args=[scan.pk])
            for name in ("scan", "scan-key", "scan-look", "scan-discard")
        ]
        return [*jpgs, *pages, reverse("scan-page", args=[scan.pk, 1])]

    def test_nobody_else_sees_them_and_they_are_in_no_export(self):
        scan = self.scan()
        for address in self.addresses(scan):
            self.assertEqual(self.client.get(address, follow=True).status_code, 200)
        self.assertNotIn("scan", "".join(studio_lines(self.teacher)))
        self.client.force_login(make_teacher("bob"))
        for address in self.addresses(scan):
            self.assertEqual(self.client.get(address).status_code, 404)
        self.client.logout()
        for address in self.addresses(scan):
            self.assertEqual(self.client.get(address).status_code, 302)

    def test_they_are_in_the_studio_file_if_asked_for_and_come_back(self):
        scan = self.scan_with_key()
        self.right(scan, 1, TYPED[1])
        scan.refresh_from_db()
        piece = Piece.objects.create(owner=self.teacher, title="Kept before")
        scan.piece = piece
        scan.save()
        answer = self.client.get(reverse("studio-json"), {"printed": "1"})
        data = b"".join(answer.streaming_content)
        other = make_teacher("elsewhere")
        restore(read_studio_file(data), other)
        copy = Scan.objects.get(owner=other)
        self.assertEqual(copy.piece.title, "Kept before")
        self.assertEqual((copy.key, copy.until), (scan.key, scan.until))
        pages, ours = copy.pages.get(), scan.pages.get()
        self.assertEqual(bytes(pages.picture), bytes(ours.picture))
        self.assertEqual(pages.lines, ours.lines)
        self.assertEqual(
            [row | {"box": row["box"][1:]} for row in copy.bars],
            [row | {"box": row["box"][1:]} for row in scan.bars],
        )
        self.assertEqual({row["box"][0] for row in copy.bars}, {pages.pk})
        self.client.force_login(other)
        page = self.client.get(f"{copy.get_absolute_url()}?bar=1")
        self.assertEqual(page.context["text"], TYPED[1])

    def test_a_studio_file_with_wrong_pages_changes_nothing(self):
        scan = self.scan_with_key()
        whole = json.loads("".join(studio_lines(self.teacher, printed=True)))
        good = whole["printed"][0]
        page = good["pages"][0]
        for wrong, said in (
            ({"bars": good["bars"][:-1]}, "its lines have 16 bars, and 15 are copied"),
            ({"bars": [good["bars"][0] | {"kind": 99}, *good["bars"][1:]]}, "not there"),
            ({"pages": [page | {"picture": "bm8gcGljdHVyZQ=="}]}, "no JPEG"),
            ({"pages": [page | {"picture": "?"}]}, "no base64"),
            ({"until": "some day"}, "printed piece, row 1"),
            ({"piece": 4711}, "there is no piece 4711"),
        ):
            data = json.dumps(whole | {"printed": [good | wrong]}).encode()
            with self.subTest(said), self.assertRaisesMessage(StudioFileError, said):
                restore(read_studio_file(data), self.teacher)
        scan.refresh_from_db()
        self.assertEqual(len(scan.bars), 16)

    def test_they_end_by_themselves(self):
        self.scan()
        now = timezone.now()
        expire(now + timedelta(days=59))
        self.assertTrue(Scan.objects.exists())
        expire(now + timedelta(days=62))
        self.assertFalse(Scan.objects.exists())

    def test_they_go_by_one_press(self):
        scan = self.scan()
        self.client.post(reverse("scan-discard", args=[scan.pk]))
        self.assertFalse(Scan.objects.exists())

    def test_a_students_name_typed_beside_a_bar_is_found_when_the_student_is_erased(self):
        scan = self.scan()
        change_bars(scan, {0: {"text": "note for Wilhelmine\nkick 1"}}, timezone.localdate())
        student = make_student(self.teacher, "Wilhelmine")
        places = places_of(student, names_of(student), self.teacher)
        self.assertTrue(any("printed pages" in place.where for place in places))
