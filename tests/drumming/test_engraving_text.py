"""Note values, and the MEI made of them."""

import unittest
from fractions import Fraction
from xml.etree.ElementTree import fromstring

from hypothesis import given

from tests.builders import make_bar, make_chart, study_bar
from tests.strategies import bars
from wren_ladder.drumming.notation.mei import NAMESPACE, Around, Layout, Scored, write_mei
from wren_ladder.drumming.notation.rhythm import write_beat

F = Fraction
MEI = f"{{{NAMESPACE}}}"


def values(*onsets, length=F(1)) -> tuple[str, tuple | None]:
    beat = write_beat([F(o) for o in onsets], F(0), F(length))
    words = [("" if v.sounds else "r") + v.name + "." * v.dots for v in beat.values]
    return " ".join(words), beat.tuplet


class NoteValues(unittest.TestCase):
    def test_each_note_lasts_to_the_next_or_to_the_end_of_the_beat(self):
        self.assertEqual(values(0, F(1, 2)), ("8 8", None))
        self.assertEqual(values(0, F(3, 4)), ("8. 16", None))
        self.assertEqual(values(F(1, 4)), ("r16 8.", None))
        self.assertEqual(values(), ("r4", None))

    def test_thirds_and_fifths_become_tuplets(self):
        self.assertEqual(values(0, F(1, 3), F(2, 3)), ("8 8 8", (3, 2)))
        self.assertEqual(values(0, F(2, 3)), ("4 8", (3, 2)))
        self.assertEqual(values(0, F(1, 5)), ("16 4", (5, 4)))

    def test_compound_beats_are_written_in_threes(self):
        self.assertEqual(values(0, F(1, 2), 1, length=F(3, 2)), ("8 8 8", None))
        self.assertEqual(values(0, length=F(3, 2)), ("4.", None))
        self.assertEqual(values(0, 1, length=F(3, 2)), ("4 8", None))

    @given(bars())
    def test_the_values_start_at_the_onsets_and_fill_the_beat(self, bar):
        for start, length, hits in bar.by_beat():
            onsets = sorted({hit.at for hit in hits})
            beat = write_beat(onsets, start, length)
            self.assertEqual([v.at for v in beat.values if v.sounds], onsets)
            num, normal = beat.tuplet or (1, 1)
            written = sum(
                Fraction(4, int(v.name)) * (Fraction(3, 2) if v.dots else 1)
                for v in beat.values
            )
            self.assertEqual(written * normal / num, length)


class Documents(unittest.TestCase):
    def mei(self, lines, meter="4/4", **layout):
        bar = study_bar(lines, meter)
        counts = tuple((c.at, c.say, c.silent) for c in bar.counts)
        scored = Scored(bar.bar, counts, tuple(stick.hand for stick in bar.sticks))
        return fromstring(write_mei([scored], Layout(**layout)))

    def test_the_whole_count_stands_under_the_bar_silent_parts_greyed(self):
        mei = self.mei("snare 2", "2/4")
        staff = mei.findall(f".//{MEI}staff[@n='2']")[0]
        syllables = [syl.text for syl in staff.iter(f"{MEI}syl")]
        greyed = [verse.get("color") is not None for verse in staff.iter(f"{MEI}verse")]
        self.assertEqual(syllables, ["1", "&", "2", "&"])
        self.assertEqual(greyed, [True, True, False, True])

    def test_each_hand_has_its_own_row_where_both_strike_at_once(self):
        mei = self.mei("hat 1\nsnare 1", counts=False)
        rows = [(v.get("n"), v[0].text) for v in mei.iter(f"{MEI}verse")]
        self.assertEqual(rows, [("1", "R"), ("2", "L")])

    def test_graces_are_written_in_the_sticking(self):
        mei = self.mei("snare flam 1, drag 2, ruff 3", "3/4", counts=False)
        said = [verse[0].text for verse in mei.iter(f"{MEI}verse")]
        self.assertEqual(said, ["lR", "rrL", "lrlR"])

    def test_a_closed_hat_after_an_open_one_carries_the_plus(self):
        mei = self.mei("hat 1, open 1&, 2")
        self.assertEqual([a.get("artic") for a in mei.iter(f"{MEI}artic")], ["open", "stop"])

    def page(self, text, **around):
        bars = [Scored(bar) for bar in make_chart(text).bars]
        layout = Layout(counts=False, numbers=True)
        return fromstring(write_mei(bars, layout, around=Around(**around)))

    def test_the_plus_is_carried_over_the_bar_line(self):
        mei = self.page("bar 1\nhat 8ths, open 4&\nbar 2\nsnare 1\nhat 2 3")
        second = mei.findall(f".//{MEI}measure")[1]
        self.assertEqual([a.get("artic") for a in second.iter(f"{MEI}artic")], ["stop"])
        begun = self.page("bar 1\nhat 1 2", hat_open=True)
        self.assertEqual([a.get("artic") for a in begun.iter(f"{MEI}artic")], ["stop"])
        footed = self.page("bar 1\nhat open 4\nfoot 4&\nbar 2\nhat 1")
        self.assertEqual([a.get("artic") for a in footed.iter(f"{MEI}artic")], ["open"])

    def test_a_section_has_a_double_bar_line_before_it_and_the_piece_a_final_one(self):
        text = "bar 1\nsnare 1\nbar 2\nsnare 1\nbar 3\nsection B\nsnare 1\nrepeat end 2"
        lines = [m.get("right") for m in self.page(text, closes="end").iter(f"{MEI}measure")]
        self.assertEqual(lines, ["single", "dbl", "rptend"])
        up = "bar 0\nbeats 1\nsnare 4\nbar 1\nsection A\nsnare 1"
        lines = [m.get("right") for m in self.page(up).iter(f"{MEI}measure")]
        self.assertEqual(lines, ["single", "single"])  # a pick-up belongs to its section
        (last,) = self.page("bar 1\nsnare 1", closes="end").iter(f"{MEI}measure")
        self.assertEqual(last.get("right"), "end")

    def test_a_dynamic_that_holds_is_not_printed_again(self):
        text = "bar 1\nsnare 1\ndynamics p 1\nbars 2-3 as 1\nbar 4\nsnare 1\ndynamics f 1"
        said = [one.text for one in self.page(text).iter(f"{MEI}dynam")]
        self.assertEqual(said, ["p", "f"])
        swelling = f"{text}\ncresc 1-4\nbar 5\nsnare 1\ndynamics f 1"
        self.assertEqual(len(list(self.page(swelling).iter(f"{MEI}dynam"))), 3)

    def values(self, lines):
        (layer, *_) = self.page(f"bar 1\n{lines}").findall(f".//{MEI}layer")
        return [one.tag.removeprefix(MEI) + one.get("dur", "") for one in layer.iter()
                if one.get("dur") and one.tag in (f"{MEI}note", f"{MEI}rest")]  # fmt: skip

    def test_rests_are_merged_as_far_as_the_middle_of_the_bar_can_be_seen(self):
        self.assertEqual(self.values("snare 1"), ["note4", "rest4", "rest2"])
        self.assertEqual(self.values("snare 3"), ["rest2", "note4", "rest4"])
        self.assertEqual(self.values("snare 1 4"), ["note4", "rest4", "rest4", "note4"])

    def test_a_roll_of_two_beats_is_a_minim_with_strokes(self):
        self.assertEqual(self.values("snare roll 9 1-3, 3"), ["note2", "note4", "rest4"])
        self.assertEqual(self.values("snare roll 1-end"), ["note2", "note2"])
        self.assertEqual(
            self.values("snare roll 5 2-3, 3"), ["rest4", "note4", "note4", "rest4"]
        )

    def test_a_rolls_ties_leave_its_last_note(self):
        text = "bar 1\nsnare buzz 1-tied\nbar 2\nsnare buzz 1-2, 2"
        ties = [(t.get("startid"), t.get("endid")) for t in self.page(text).iter(f"{MEI}tie")]
        self.assertEqual(
            ties,
            [
                ("#note_b0h0", "#note_b0h0t1"),
                ("#note_b0h0t1", "#note_b1h0"),
            ],
        )

    def test_a_tuplet_without_a_beam_has_a_bracket_and_the_feet_their_number(self):
        mei = self.page("bar 1\nsnare triplets\nkick 1 1l")
        hands, feet = mei.findall(f".//{MEI}layer")
        brackets = {t.get("bracket.visible") for t in hands.iter(f"{MEI}tuplet")}
        self.assertEqual(brackets, {"false"})
        first = next(feet.iter(f"{MEI}tuplet"))
        self.assertEqual(first.get("bracket.visible"), "true")
        self.assertIsNone(first.get("num.visible"))
        alone = self.page("bar 1\nsnare triplets\nkick 1l").findall(f".//{MEI}layer")[1]
        self.assertEqual(next(alone.iter(f"{MEI}tuplet")).get("num.visible"), "false")

    def test_a_triplet_that_begins_with_a_rest_has_its_bracket(self):
        layer = self.page("bar 1\nsnare 1t 1l 2 2t 2l").findall(f".//{MEI}layer")[0]
        shown = [t.get("bracket.visible") for t in layer.iter(f"{MEI}tuplet")]
        self.assertEqual(shown[:2], ["true", "false"])

    def test_a_metronome_mark_is_a_note_and_its_number(self):
        """The letters are SMuFL's: U+ECA5 a crotchet, U+ECA3 a minim, U+ECB7 a dot."""
        for typed, letters, said in (
            ("crotchet = 96", "\ueca5", {"mm.unit": "4", "mm": "96"}),
            ("dotted crotchet = 60", "\ueca5\uecb7", {"mm.unit": "4", "mm.dots": "1"}),
            ("minim = 80", "\ueca3", {"mm.unit": "2", "mm": "80"}),
        ):
            chart = make_chart(f"tempo {typed}\nbar 1\nsnare 1")
            around = Around(chart.tempo)
            mei = fromstring(write_mei([Scored(chart.bars[0])], Layout(), around=around))
            mark = mei.find(f".//{MEI}tempo")
            with self.subTest(typed):
                number = typed.rpartition(" ")[2]
                self.assertEqual("".join(mark.itertext()), f"{letters} = {number}")
                self.assertLessEqual(said.items(), mark.attrib.items())

    def test_ornaments_stand_before_their_note(self):
        mei = self.mei("snare flam 1, drag 3", hands=False, counts=False)
        graced = [n.get("grace") for n in mei.iter(f"{MEI}note")]
        self.assertEqual(graced[:2], ["unacc", None])
        group = next(mei.iter(f"{MEI}graceGrp"))
        self.assertEqual(len(list(group.iter(f"{MEI}note"))), 2)

    def test_notes_have_ids_by_bar_and_hit(self):
        mei = self.mei("hat 1\nkick 1")
        ids = {
            n.get("{http://www.w3.org/XML/1998/namespace}id") for n in mei.iter(f"{MEI}note")
        }
        self.assertLessEqual({"note_b0h0", "note_b0h1"}, ids)

    def test_a_roll_over_the_beat_is_written_on(self):
        mei = self.mei("snare roll 17 2-4", counts=False)
        self.assertEqual(len(list(mei.iter(f"{MEI}bTrem"))), 2)
        self.assertEqual([d.text for d in mei.iter(f"{MEI}dir")], ["17"])

    def test_repeats_stand_at_the_bar_lines(self):
        bar = make_bar("hat 8ths\nrepeat start\nrepeat end 3")
        mei = fromstring(write_mei([Scored(bar)], Layout(counts=False)))
        measure = next(mei.iter(f"{MEI}measure"))
        self.assertEqual((measure.get("left"), measure.get("right")), ("rptstart", "rptend"))
        self.assertEqual([d.text for d in mei.iter(f"{MEI}dir")], ["×3"])

    def test_endings_are_brackets_and_the_signs_stand_over_their_bars(self):
        chart = make_chart(
            "bar 1\nsegno\nkick 1\nbar 2 as 1\nending 1 2\nbar 3 as 1\nending 1 2\n"
            "repeat end 3\nbar 4 as 1\nending 3\nto coda\njump D.S. al Coda\n"
            "bar 5 as 1\ncoda\nfine"
        )
        mei = fromstring(write_mei([Scored(bar) for bar in chart.bars], Layout(counts=False)))
        endings = [(e.get("n"), len(e), e.get("rendsym")) for e in mei.iter(f"{MEI}ending")]
        self.assertEqual(endings, [("1, 2.", 2, "angledown"), ("3.", 1, "none")])
        self.assertEqual(
            [m.get("func") for m in mei.iter(f"{MEI}repeatMark")], ["segno", "coda"]
        )
        words = [d.text for d in mei.iter(f"{MEI}dir")]
        self.assertEqual(words, ["×3", "To Coda", "D.S. al Coda", "Fine"])
