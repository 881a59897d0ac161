"""MusicXML as others write it: what is mended, read in other words, or told. Common practice,
no source, unless said."""

import unittest
from fractions import Fraction

from tests.drumming.test_musicxml import FOUR, TIME, first_hits, note, read, rest, score
from wren_ladder.drumming.chart import Drum, Grace
from wren_ladder.drumming.notation.musicxml import open_musicxml
from wren_ladder.drumming.notation.musicxml.names import NAMES, by_name, names_another
from wren_ladder.drumming.roadmap import road_map

F = Fraction
FINE = f"<attributes><divisions>480</divisions>{TIME}</attributes>"


def told(problems) -> str:
    return "\n".join(map(str, problems))


def typed(duration, value, drum="S", more="") -> str:
    return note(drum, duration, after=f"<type>{value}</type>{more}")


def words(text: str) -> str:
    return f"<direction><direction-type><words>{text}</words></direction-type></direction>"


def order(*measures: str) -> list[int]:
    chart, _ = read(FOUR + measures[0], *measures[1:])
    return [visit.index + 1 for visit in road_map(chart.bars).visits]


BACK = '<barline location="right"><repeat direction="backward"/></barline>'


class Rounding(unittest.TestCase):
    def test_a_tick_too_much_is_read_by_the_value(self):
        chart, problems = read(FINE + typed(481, "quarter") + typed(480, "quarter") * 3)
        self.assertEqual([hit.at for hit in chart.bars[0].hits], [0, 1, 2, 3])
        self.assertEqual(str(chart.bars[0].meter), "4/4")
        self.assertIn(
            "lengths a tick off their notes' values are read by the values", told(problems)
        )

    def test_triplets_of_85_85_and_86_are_triplets(self):
        triplet = "<time-modification><actual-notes>3</actual-notes>"
        triplet += "<normal-notes>2</normal-notes></time-modification>"
        start = f"<attributes><divisions>256</divisions>{TIME}</attributes>"
        inside = "".join(typed(n, "eighth", more=triplet) for n in (85, 85, 86)) + rest(768)
        chart, _ = read(start + inside)
        self.assertEqual([hit.at for hit in chart.bars[0].hits], [0, F(1, 3), F(2, 3)])

    def test_places_without_a_value_go_back_to_the_beat(self):
        chart, problems = read(FINE + note("S", 481) + note("S", 959) + note("S", 480))
        self.assertEqual([hit.at for hit in chart.bars[0].hits], [0, 1, 3])
        self.assertIn("places a tick off the beat are read on it", told(problems))
        self.assertEqual(chart.bars[0].length, 4)


class Parts(unittest.TestCase):
    def test_a_shorter_second_part_loses_no_bars(self):
        one = f"<measure number='1'>{FOUR}{note('S', 16)}</measure>"
        two = f"<measure number='2'>{note('S', 16)}</measure>"
        data = (
            "<score-partwise><part-list>"
            "<score-part id='P1'><part-name>Kit</part-name></score-part>"
            "<score-part id='P2'><part-name>Street</part-name></score-part></part-list>"
            f"<part id='P1'>{one}</part><part id='P2'>{one}{two}</part></score-partwise>"
        )
        reading = open_musicxml(data.encode(), ("P1", "P2"))
        self.assertEqual(len(reading.chart.bars), 2)
        self.assertIn("Kit ends with bar 1", told(reading.problems))

    def test_a_percussion_clef_makes_pitches_percussion(self):
        clef = "<clef><sign>percussion</sign></clef>"
        pitched = "<note><pitch><step>C</step><octave>5</octave></pitch>"
        pitched += "<duration>16</duration></note>"
        attributes = f"<attributes><divisions>4</divisions>{TIME}{clef}</attributes>"
        parts = "<score-part id='P1'><part-name>Kit</part-name></score-part>"
        reading = open_musicxml(score(attributes + pitched, parts=parts))
        self.assertTrue(reading.parts[0].percussion)
        self.assertEqual([hit.drum for hit in reading.chart.bars[0].hits], [Drum.SNARE])


class Names(unittest.TestCase):
    def test_there_are_more_than_170(self):
        self.assertGreater(sum(map(len, NAMES.values())), 170)

    def test_whole_words_decide(self):
        for name, drum in (
            ("Tom 1", Drum.TOM_HIGH), ("Tom 2", Drum.TOM_MID), ("Tom 3", Drum.TOM_FLOOR),
            ("Tom 4", Drum.TOM_FLOOR_2), ("Sidestick", Drum.CROSS_STICK), ("BD", Drum.KICK),
            ("SD", Drum.SNARE), ("HH", Drum.HIHAT), ("Snare Drum (wires off)", Drum.SNARE),
            ("Große Trommel", Drum.KICK), ("kleine Trommel", Drum.SNARE),
            ("Standtom", Drum.TOM_FLOOR),
            ("Grosse caisse", Drum.KICK), ("Caisse claire", Drum.SNARE),
            ("Charleston ouvert", Drum.HIHAT_OPEN), ("Rullante", Drum.SNARE),
            ("Grancassa", Drum.KICK), ("Bombo", Drum.KICK), ("Caja", Drum.SNARE),
            ("Tom de piso", Drum.TOM_FLOOR), ("Ride Cymbal Bell", Drum.RIDE_BELL),
        ):  # fmt: skip
            with self.subTest(name):
                self.assertIs(by_name(name), drum)
        for name in ("Sleigh Bells", "Bongos", "Timpani", "Bass Guitar", "Hand Clap", "Shaker"):
            with self.subTest(name):
                self.assertIsNone(by_name(name))
                self.assertTrue(names_another(name))

    def read_as(self, name: str, key: int | None, head: str = "") -> tuple:
        midi = f"<midi-unpitched>{(key or 0) + 1}</midi-unpitched>"
        midi = f"<midi-instrument id='X'>{midi}</midi-instrument>"
        parts = "<score-part id='P1'><part-name>Kit</part-name><score-instrument id='X'>"
        parts += f"<instrument-name>{name}</instrument-name></score-instrument>"
        parts += "<score-instrument id='Y'><instrument-name>Snare</instrument-name>"
        parts += "</score-instrument>"
        parts += (midi if key is not None else "") + "</score-part>"
        place = "<display-step>G</display-step><display-octave>5</display-octave>"
        place = f"<unpitched>{place}</unpitched>"
        shown = f"<notehead>{head}</notehead>" if head else ""
        one = f"<note>{place}<duration>16</duration><instrument id='X'/>{shown}</note>"
        (source,) = open_musicxml(score(FOUR + one, parts=parts)).sources
        return source.drum, source.why

    def test_what_decided_is_what_is_said(self):
        for name, key, head, drum, why in (
            ("Snare", 37, "", Drum.SNARE, "by its name"),
            ("Snare", 35, "", Drum.SNARE, "by its name; its key says kick"),
            ("Snare", None, "x", Drum.CROSS_STICK, "by its name and its head"),
            ("Thing", 35, "", Drum.KICK, "by its key"),
            ("Sleigh Bells", 53, "x", None, "no drum known for it"),
            ("Cabasa", 69, "x", None, "no drum known for it"),
            ("Thing", 69, "x", None, "no drum known for it"),
            ("Drumset", 35, "x", Drum.HIHAT, "by its place on the staff"),
            ("Thing", None, "x", Drum.HIHAT,
             "by its place on the staff; the name 'Thing' is not known"),
        ):  # fmt: skip
            with self.subTest(name, key=key):
                self.assertEqual(self.read_as(name, key, head), (drum, why))


class Road(unittest.TestCase):
    def test_words_in_their_usual_spellings(self):
        full = rest(16)
        for said, expected in (
            ("Play 4 times", [1, 1, 1, 1, 2]),
            ("repeat 3×", [1, 1, 1, 2]),
            ("(3x)", [1, 1, 1, 2]),
            ("x3", [1, 1, 1, 2]),
        ):
            with self.subTest(said):
                self.assertEqual(order(words(said) + full + BACK, full), expected)

    def test_the_second_coda(self):
        full, coda = rest(16), "<direction><direction-type><coda/></direction-type></direction>"
        measures = (full, words("To 2nd Coda") + full, full + words("D.C. al 2nd Coda"))
        self.assertEqual(order(*measures, words("2nd Coda") + full), [1, 2, 3, 1, 2, 4])
        # A page with one coda has no second one to go to.
        measures = (full, words("To Coda") + full, full + words("D.C. al 2nd Coda"))
        self.assertEqual(order(*measures, coda + full), [1, 2, 3, 1, 2, 4])

    def test_signs_among_the_words(self):
        full = rest(16)
        sign = "<direction><direction-type><segno/></direction-type></direction>"
        self.assertEqual(
            order(full, sign + full, full + words("D.S. 𝄋 al Fine"), full + words("x")),
            order(full, sign + full, full + words("D.S. al Fine"), full),
        )

    def test_endings_from_to(self):
        start = '<barline location="left"><ending number="1-3" type="start"/></barline>'
        stop = '<barline location="right"><ending number="1-3" type="stop"/>'
        stop += '<repeat direction="backward" times="4"/></barline>'
        chart, _ = read(FOUR + rest(16), start + rest(16) + stop, rest(16))
        self.assertEqual(chart.bars[1].endings, (1, 2, 3))

    def test_what_looks_like_a_jump_is_never_a_quiet_cue(self):
        _, problems = read(FOUR + rest(16), rest(16) + words("D.C. after the solo"))
        self.assertIn("'D.C. after the solo' looks like a sign of the road", told(problems))
        _, problems = read(FOUR + note("S", 16) + words("brushes"))
        self.assertEqual(problems, ())


class Strokes(unittest.TestCase):
    GRACE = '<note><grace/><unpitched/><instrument id="{}"/></note>'

    def test_graces_that_lead_nowhere_are_told(self):
        grace = self.GRACE.format("S")
        for inside in (grace + rest(16), rest(16) + grace):
            chart, problems = read(FOUR + inside)
            self.assertEqual(chart.bars[0].hits, ())
            self.assertIn("a grace note before no stroke is left out", told(problems))

    def test_a_grace_of_another_drum_and_graces_at_once(self):
        chart, problems = read(FOUR + self.GRACE.format("H") + note("S", 16))
        self.assertEqual(chart.bars[0].hits[0].grace, Grace.FLAM)
        self.assertIn("a grace note of hat is read on snare", told(problems))
        both = self.GRACE.format("S") + self.GRACE.format("S").replace(
            "<grace/>", "<grace/><chord/>"
        )
        chart, problems = read(FOUR + both + note("S", 16))
        self.assertEqual(chart.bars[0].hits[0].grace, Grace.FLAM)
        self.assertIn("two grace notes at once are read as one", told(problems))

    def tremolo(self, slashes: int, kind: str = "single") -> str:
        mark = f'<tremolo type="{kind}">{slashes}</tremolo>'
        return f"<notations><ornaments>{mark}</ornaments></notations>"

    def test_one_two_and_three_strokes_through_a_stem(self):
        for value, duration, slashes, places in (
            ("quarter", 4, 1, [0, F(1, 2)]),
            ("quarter", 4, 2, [0, F(1, 4), F(1, 2), F(3, 4)]),
            ("eighth", 2, 1, [0, F(1, 4)]),
            ("half", 8, 1, [0, F(1, 2), 1, F(3, 2)]),
        ):
            with self.subTest(value, slashes=slashes):
                inside = typed(duration, value, more=self.tremolo(slashes)) + rest(
                    16 - duration
                )
                chart, problems = read(FOUR + inside)
                self.assertEqual([hit.at for hit in chart.bars[0].hits], places)
                self.assertIn(f"read as {len(places)} strokes", told(problems))
        (hit,) = first_hits(typed(4, "quarter", more=self.tremolo(3)))
        self.assertIsNotNone(hit.roll)

    def test_a_tremolo_between_two_drums_is_struck_in_turn(self):
        first = typed(2, "quarter", "S", self.tremolo(1, "start"))
        second = typed(2, "quarter", "K", self.tremolo(1, "stop"))
        chart, problems = read(FOUR + first + second + rest(12))
        hits = [(hit.at, hit.drum) for hit in chart.bars[0].hits]
        self.assertEqual(hits, [(0, Drum.SNARE), (F(1, 2), Drum.KICK)])
        self.assertIn(
            "a tremolo between two drums is read as 2 strokes in turn", told(problems)
        )

    def test_hidden_notes_are_told_and_noise_is_not(self):
        hidden = note("S", 4).replace("<note>", '<note print-object="no">')
        chart, problems = read(FOUR + hidden + note("S", 4) + rest(8))
        self.assertEqual([hit.at for hit in chart.bars[0].hits], [1])
        self.assertIn("hidden notes are left out", told(problems))
        slurred = note("S", 16, after="<notations><slur type='start'/></notations>")
        self.assertEqual(read(FOUR + slurred)[1], ())

    def test_dynamics_at_a_note_are_dynamics(self):
        loud = "<notations><dynamics><f/></dynamics></notations>"
        chart, _ = read(FOUR + note("S", 8) + note("S", 8, after=loud))
        (mark,) = chart.bars[0].marks
        self.assertEqual((mark.at, mark.text), (2, "f"))

    def test_a_tempo_inside_a_bar_is_told(self):
        mark = "<direction><direction-type><metronome><beat-unit>quarter</beat-unit>"
        mark += "<per-minute>{}</per-minute></metronome></direction-type></direction>"
        inside = mark.format(90) + note("S", 8) + mark.format(80) + note("S", 8)
        chart, problems = read(FOUR + inside)
        self.assertEqual(str(chart.tempo), "crotchet = 90")
        self.assertIn("a second tempo in the bar, crotchet = 80", told(problems))
        _, problems = read(FOUR + note("S", 8) + mark.format(80) + note("S", 8))
        self.assertIn(
            "crotchet = 80 stands inside the bar; it is put at its start", told(problems)
        )
