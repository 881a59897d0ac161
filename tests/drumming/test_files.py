"""Files as they come: plain, zipped, several parts, damaged, dangerous."""

import io
import random
import unittest
import zipfile

from tests.drumming.test_musicxml import FOUR, GRACE, KIT, note, rest, score
from wren_ladder.drumming.chart import ChartError, Drum
from wren_ladder.drumming.files import read_file
from wren_ladder.drumming.notation.musicxml import MOST_BYTES, read_musicxml


class Files(unittest.TestCase):
    def zipped(self, **members):
        buffer = io.BytesIO()
        with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
            for name, data in members.items():
                archive.writestr(name.replace("__", "/").replace("_x", ".x"), data)
        return buffer.getvalue()

    def test_zipped_and_plain_files_and_typed_ones_are_told_by_their_ending(self):
        plain = score(FOUR + note() * 4)
        packed = self.zipped(score_xml=plain)
        for name, data in (
            ("a.musicxml", plain),
            ("a.XML", plain),
            ("a.mxl", packed),
            ("a.wren", b"title Quay\nsnare quarters"),
        ):
            with self.subTest(name):
                chart, _ = read_file(name, data)
                self.assertEqual(chart.title, "Quay")
                self.assertEqual([hit.at for hit in chart.bars[0].hits], [0, 1, 2, 3])

    def test_the_container_of_an_mxl_names_its_score(self):
        container = (
            '<container><rootfiles><rootfile full-path="score.xml"/></rootfiles></container>'
        )
        data = self.zipped(
            **{"other_xml": b"<nothing/>", "META-INF__container_xml": container.encode()},
            score_xml=score(FOUR + note() * 4),
        )
        self.assertEqual(len(read_musicxml(data)[0].bars), 1)

    def test_parts_are_chosen_by_name_or_read_together(self):
        both = KIT + KIT.replace("P1", "P2").replace(">Kit<", ">Street<")
        measure = f'<measure number="1">{FOUR}{note("K")}{rest(12)}</measure>'
        data = score(FOUR + note("S") + rest(12), parts=both).replace(
            b"</score-partwise>", f'<part id="P2">{measure}</part></score-partwise>'.encode()
        )
        together, problems = read_musicxml(data)
        self.assertEqual([h.drum for h in together.bars[0].hits], [Drum.SNARE, Drum.KICK])
        self.assertEqual(str(problems[0]), "these parts are read together: Kit, Street")
        alone, _ = read_musicxml(data, part="Street")
        self.assertEqual([h.drum for h in alone.bars[0].hits], [Drum.KICK])
        with self.assertRaisesRegex(ChartError, "no part 'Bass'; there are: Kit, Street"):
            read_musicxml(data, part="Bass")

    def test_refusals_are_friendly_and_say_what_would_be_right(self):
        bomb = (
            b'<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]>'
            b"<score-partwise>&b;</score-partwise>"
        )
        endless = FOUR.replace("<divisions>4", "<divisions>0")
        wrong = FOUR.replace("<beats>4", "<beats>x")
        for name, data, said in (
            ("a.xml", bomb, "defines XML entities"),
            ("a.xml", b"<html/>", "this is no MusicXML score: it starts with <html>"),
            ("a.xml", b"<score-timewise/>", "save it as score-partwise"),
            ("a.xml", b"hello", "not well-formed XML"),
            ("a.xml", b"<score-partwise/>", "the score has no parts"),
            ("a.mxl", b"PK\x03\x04rubbish", "damaged or unusual zip archive"),
            ("a.mxl", self.zipped(readme_x=b"-"), "holds no MusicXML file"),
            ("a.mxl", self.zipped(a_xml=b" " * (MOST_BYTES + 9)), "larger than 8 MB"),
            ("a.xml", score(endless), "bar 1: '0' is no number of divisions"),
            ("a.xml", score(wrong), "bar 1: a time signature that can't be read"),
            ("a.xml", score(FOUR + note(duration="x")), "bar 1: a note has the duration 'x'"),
            ("a.xml", score(FOUR + note(duration=-4)), "bar 1: a note lasts less than nothing"),
            ("a.xml", score(FOUR + note(duration=4000)), "bar 1: time runs to 1000 crotchets"),
            ("a.pdf", b"", "'.pdf' is not read; use .wren, .musicxml, .xml, .mxl, .mid, .midi"),
            ("a.wren", b"\xff\xfe", "the file is not UTF-8 text"),
            ("a.wren", b" " * (MOST_BYTES + 1), "larger than 8 MB"),
        ):
            with self.subTest(said), self.assertRaisesRegex(ChartError, said):
                read_file(name, data)

    def test_damaged_files_give_a_chart_or_a_chart_error_and_nothing_else(self):
        whole = score(
            FOUR + note("H") + note("S", chord=True) + GRACE + note() + rest(8),
            '<barline><repeat direction="backward"/></barline>' + note() * 4,
        )
        dice = random.Random(7)
        outcomes = set()
        for _ in range(1000):
            data = bytearray(whole)
            for _ in range(dice.randint(1, 4)):
                place = dice.randrange(len(data))
                data[place : place + dice.randint(0, 3)] = bytes(
                    dice.choice(b'<>/"0189-x&') for _ in range(dice.randint(0, 3))
                )
            try:
                read_musicxml(bytes(data))
                outcomes.add("chart")
            except ChartError:
                outcomes.add("error")
        self.assertEqual(outcomes, {"chart", "error"})
