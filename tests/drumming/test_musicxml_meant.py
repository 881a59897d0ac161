"""MusicXML read as it was meant, or told: parts of one drum, melodies, tempo and feel in words,
repeats in mid bar, slashes, hats' signs, flams in chords. Common practice, no source."""

import unittest
from fractions import Fraction

from tests.drumming.test_musicxml import FOUR, GRACE, note, read, rest, score
from tests.drumming.test_musicxml_told import words
from wren_ladder.drumming.chart import ChartError, Drum, Grace, MarkKind, Tempo
from wren_ladder.drumming.chart.swing import STRAIGHT, Swing
from wren_ladder.drumming.notation.musicxml import open_musicxml
from wren_ladder.drumming.notation.musicxml.names import by_name
from wren_ladder.drumming.roadmap import road_map

F = Fraction
LINES = "<staff-details><staff-lines>{}</staff-lines></staff-details>"


def part(name: str) -> str:
    return f'<score-part id="P1"><part-name>{name}</part-name></score-part>'


def at_place(step="B", octave=4, head="", tag="unpitched", duration=4) -> str:
    names = ("display-step", "display-octave") if tag == "unpitched" else ("step", "octave")
    place = f"<{names[0]}>{step}</{names[0]}><{names[1]}>{octave}</{names[1]}>"
    shape = f"<notehead>{head}</notehead>" if head else ""
    return f"<note><{tag}>{place}</{tag}><duration>{duration}</duration>{shape}</note>"


def start(lines=5, clef="percussion", fifths="") -> str:
    key = f"<key><fifths>{fifths}</fifths></key>" if fifths else ""
    return (
        f"<attributes><divisions>4</divisions>{key}<time><beats>4</beats>"
        f"<beat-type>4</beat-type></time><clef><sign>{clef}</sign></clef>"
        f"{LINES.format(lines) if lines != 5 else ''}</attributes>"
    )


def said(problems) -> str:
    return "\n".join(map(str, problems))


class OneDrum(unittest.TestCase):
    def drums(self, name: str, inside: str) -> set:
        reading = open_musicxml(score(inside, parts=part(name)))
        return {hit.drum for bar in reading.chart.bars for hit in bar.hits}

    def test_a_part_on_one_line_is_what_its_name_says(self):
        for name, drum in (
            ("Snare Drum", Drum.SNARE), ("Tambourine", Drum.TAMBOURINE),
            ("Bass Drum", Drum.KICK), ("Cowbell", Drum.COWBELL), ("Woodblock", Drum.WOODBLOCK),
        ):  # fmt: skip
            for step, octave in (("B", 4), ("E", 4), ("F", 5)):
                inside = start(1) + at_place(step, octave) * 4
                with self.subTest(name, step=step):
                    self.assertEqual(self.drums(name, inside), {drum})

    def test_five_lines_and_one_place_too(self):
        self.assertEqual(
            self.drums("Tambourine", start() + at_place("C", 5) * 4), {Drum.TAMBOURINE}
        )

    def test_heads_set_it_otherwise(self):
        inside = start(1) + at_place(head="x") * 2 + at_place() * 2
        self.assertEqual(self.drums("Snare", inside), {Drum.SNARE, Drum.CROSS_STICK})

    def test_a_single_line_without_a_name_is_a_guess(self):
        reading = open_musicxml(score(start(1) + at_place() * 4, parts=part("Percussion")))
        (source,) = reading.sources
        self.assertEqual((source.drum, source.guessed), (Drum.SNARE, True))

    def test_a_kit_goes_by_its_places_which_is_called_a_guess(self):
        inside = start() + at_place("F", 4) + at_place("C", 5) + at_place("G", 5, "x") * 2
        reading = open_musicxml(score(inside, parts=part("Drums")))
        self.assertEqual(
            {one.drum for one in reading.sources}, {Drum.KICK, Drum.SNARE, Drum.HIHAT}
        )
        self.assertTrue(all(one.guessed for one in reading.sources))
        named = open_musicxml(score(FOUR + note("S") * 4))
        self.assertFalse(any(one.guessed for one in named.sources))

    def test_another_instrument_is_left_out_and_told(self):
        reading = open_musicxml(score(start(1) + at_place() * 4, parts=part("Triangle")))
        self.assertEqual(self.drums("Triangle", start(1) + at_place() * 4), set())
        self.assertIn("is no drum known here", said(reading.problems))


class Melodies(unittest.TestCase):
    TUNE = "".join(at_place(step, 5, tag="pitch") for step in "CDEF")

    def test_a_tune_is_refused_with_what_would_be_right(self):
        for inside in (
            start(clef="G", fifths="-2") + self.TUNE,
            start(clef="G") + self.TUNE.replace("</step>", "</step><alter>1</alter>", 1),
            start(clef="F")
            + "".join(at_place(s, 2, tag="pitch") for s in "CDEC").replace("C", "B"),
        ):
            with self.assertRaisesRegex(ChartError, "Flute is a melody; export the drum part"):
                open_musicxml(score(inside, parts=part("Flute")))

    def test_a_bass_line_is_a_tune_even_on_keys_of_drums(self):
        keys = "".join(at_place(step, 2, tag="pitch") for step in "CDCE")
        with self.assertRaisesRegex(ChartError, "Bass Guitar is a melody"):
            open_musicxml(score(start(clef="F") + keys, parts=part("Bass Guitar")))

    def test_it_is_read_where_somebody_asks_for_it(self):
        inside = start(clef="G", fifths="-2") + self.TUNE
        reading = open_musicxml(score(inside, parts=part("Flute")), ("P1",))
        self.assertEqual(len(reading.chart.bars), 1)

    def test_places_as_pitches_are_no_tune(self):
        places = (("F", 4), ("C", 5), ("F", 4), ("C", 5))
        inside = start(clef="G") + "".join(at_place(*one, tag="pitch") for one in places)
        chart, problems = read(inside, parts=part("Part 1"))
        self.assertEqual([hit.drum for hit in chart.bars[0].hits], [Drum.KICK, Drum.SNARE] * 2)
        self.assertIn("no percussion part was found", said(problems))

    def test_midi_keys_written_as_pitches_are_those_drums(self):
        keys = (("C", 2), ("D", 2), ("C", 2), ("D", 2))
        hats = at_place("F", 2, tag="pitch").replace("</step>", "</step><alter>1</alter>")
        inside = start(clef="F") + "".join(at_place(*one, tag="pitch") for one in keys)
        reading = open_musicxml(score(inside, start(clef="F") + hats * 4, parts=part("Drums")))
        first, second = reading.chart.bars
        self.assertEqual([hit.drum for hit in first.hits], [Drum.KICK, Drum.SNARE] * 2)
        self.assertEqual({hit.drum for hit in second.hits}, {Drum.HIHAT})
        self.assertIn("taken for a MIDI key", " ".join(one.why for one in reading.sources))


class Names(unittest.TestCase):
    def test_in_other_words(self):
        for name, drum in (
            ("Upper Tom", Drum.TOM_HIGH), ("Lower Tom", Drum.TOM_FLOOR),
            ("Large Tom", Drum.TOM_FLOOR), ("Small Tom", Drum.TOM_HIGH),
            ("Lower Floor Tom", Drum.TOM_FLOOR_2), ("Concert Bass Drum", Drum.KICK),
            ("Half-open hats", Drum.HIHAT_HALF), ("Hi-hats (half open)", Drum.HIHAT_HALF),
            ("Open Hi-Hats", Drum.HIHAT_OPEN), ("Closed Hats", Drum.HIHAT),
        ):  # fmt: skip
            with self.subTest(name):
                self.assertIs(by_name(name), drum)


class Spoken(unittest.TestCase):
    def first(self, text: str):
        chart, problems = read(FOUR + words(text) + note() * 4)
        return chart.bars[0], said(problems)

    def test_a_tempo_in_words(self):
        for text, tempo in (
            ("♩ = 104", Tempo(F(1), 104)), ("♩=96", Tempo(F(1), 96)),
            ("Allegro (♩. = 60)", Tempo(F(3, 2), 60)), ("104 bpm", Tempo(F(1), 104)),
            ("Quarter note = 120", Tempo(F(1), 120)), ("Tempo: 88", Tempo(F(1), 88)),
            ("M.M. ♪ = 168", Tempo(F(1, 2), 168)),
        ):  # fmt: skip
            with self.subTest(text):
                bar, problems = self.first(text)
                self.assertEqual(bar.tempo, tempo)
                self.assertEqual(problems, "")

    def test_a_range_and_about_are_guesses_that_are_told(self):
        for text, told in (
            ("♩ = 96-104", "the tempo goes from 96 to 104; the slower is read"),
            ("♩ = 96 to 104", "the tempo goes from 96 to 104; the slower is read"),
            ("♩ = c. 92", "the tempo is about 92; read as that"),
            ("ca. 92 bpm", "the tempo is about 92; read as that"),
        ):
            with self.subTest(text):
                bar, problems = self.first(text)
                self.assertIn(bar.tempo.bpm, (92, 96))
                self.assertIn(told, problems)

    def test_a_metronome_marks_range_too(self):
        mark = (
            "<direction><direction-type><metronome><beat-unit>quarter</beat-unit><per-minute>"
        )
        mark += "{}</per-minute></metronome></direction-type></direction>"
        for text, bpm in (("96-104", 96), ("c. 92", 92)):
            chart, problems = read(FOUR + mark.format(text) + note() * 4)
            self.assertEqual(chart.bars[0].tempo.bpm, bpm)
            self.assertIn("the tempo", said(problems))

    def test_pieces_of_words_are_read_together(self):
        pieces = "".join(f"<words>{one}</words>" for one in ("Brisk (", "♩", "= 132)"))
        direction = f"<direction><direction-type>{pieces}</direction-type></direction>"
        chart, _ = read(FOUR + direction + note() * 4)
        self.assertEqual(chart.bars[0].tempo, Tempo(F(1), 132))
        self.assertEqual([mark.text for mark in chart.bars[0].marks], ["Brisk"])

    def test_numbers_that_are_no_tempo_stay_words(self):
        for text in ("bars 96 to 104", "Letter 12", "play 4 x", "120 years old"):
            with self.subTest(text):
                self.assertIsNone(self.first(text)[0].tempo)

    def test_the_feel_in_usual_words(self):
        for text, swing in (
            ("Medium Swing", Swing(F(1, 2))), ("Shuffle feel", Swing(F(1, 2))),
            ("half-time shuffle", Swing(F(1, 4))), ("Swing (♫ = ♩♪)", Swing(F(1, 2))),
            ("Swing 16ths", Swing(F(1, 4))), ("Slow blues shuffle", Swing(F(1, 2))),
            ("♫ = ♩3♪", Swing(F(1, 2))), ("Straight 8ths", STRAIGHT), ("even 8ths", STRAIGHT),
            ("Triplet feel", Swing(F(1, 2))), ("Swung quavers", Swing(F(1, 2))),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertEqual(self.first(text)[0].swing, swing)

    def test_words_with_swing_in_them_that_say_nothing_of_the_feel(self):
        for text in ("Swing your arms wide", "swing low", "Latin", "back to the top, softly"):
            with self.subTest(text):
                self.assertIsNone(self.first(text)[0].swing)

    def test_it_can_be_taken_straight(self):
        data = score(FOUR + words("Medium Swing") + note() * 4)
        (choice,) = open_musicxml(data).choices
        self.assertEqual((choice.name, choice.chosen), ("feel", "feel page"))
        straight = open_musicxml(data, taken=["feel straight"])
        self.assertEqual(straight.chart.swings[0], STRAIGHT)
        self.assertEqual(open_musicxml(score(FOUR + note() * 4)).choices, ())

    def test_what_else_is_said_stays(self):
        bar, _ = self.first("Medium Swing ♩ = 144")
        self.assertEqual((bar.tempo.bpm, bar.swing), (144, Swing(F(1, 2))))
        self.assertEqual([mark.text for mark in bar.marks], ["Medium Swing"])


BACK = '<barline location="{}"><repeat direction="backward"/></barline>'
FORWARD = '<barline location="{}"><repeat direction="forward"/></barline>'


class Repeats(unittest.TestCase):
    def test_one_in_mid_bar_parts_the_bar(self):
        inside = (
            note("S") * 2 + BACK.format("middle") + FORWARD.format("middle") + note("K") * 2
        )
        chart, problems = read(FOUR + note("H") * 4, FOUR + inside, FOUR + note("H") * 4)
        self.assertEqual([bar.number for bar in chart.bars], ["1", "2", "2b", "3"])
        self.assertEqual([bar.length for bar in chart.bars], [4, 2, 2, 4])
        self.assertEqual({hit.drum for hit in chart.bars[1].hits}, {Drum.SNARE})
        self.assertEqual({hit.drum for hit in chart.bars[2].hits}, {Drum.KICK})
        self.assertEqual([v.index for v in road_map(chart.bars).visits], [0, 1, 0, 1, 2, 3])
        self.assertIn("a repeat inside the bar: read as bars of their own", said(problems))

    def test_many_in_one_bar_part_it_in_order(self):
        inside = BACK.format("middle").join(note("S", 1) for _ in range(12)) + rest(4)
        chart, _ = read(FOUR + note("H") * 4, inside)
        self.assertEqual(len({bar.number for bar in chart.bars}), len(chart.bars))
        lengths = [bar.length for bar in chart.bars]
        self.assertEqual(lengths, [4, *[F(1, 4)] * 11, F(5, 4)])
        self.assertEqual([bar.number for bar in chart.bars][:4], ["1", "2", "2b", "2bb"])

    def test_one_at_the_end_without_a_place_parts_nothing(self):
        inside = note("S") * 4 + '<barline><repeat direction="backward"/></barline>'
        chart, _ = read(FOUR + inside)
        self.assertEqual([(bar.number, bar.length) for bar in chart.bars], [("1", 4)])

    def test_a_last_bar_that_lacks_what_the_pick_up_has_is_short(self):
        opening = f'<measure number="0" implicit="yes">{FOUR}{note("S")}</measure>'
        body = (
            score(note("H") * 4, note("H") * 3)
            .decode()
            .replace('<part id="P1">', f'<part id="P1">{opening}')
        )
        chart = open_musicxml(body.encode()).chart
        self.assertEqual([bar.length for bar in chart.bars], [1, 4, 3])

    def test_a_short_bar_without_a_pick_up_stays_whole(self):
        chart, _ = read(FOUR + note("H") * 4, note("H") * 3)
        self.assertEqual([bar.length for bar in chart.bars], [4, 4])


class Slashes(unittest.TestCase):
    def test_slash_heads_are_nobodys_strokes(self):
        inside = start() + at_place("B", 4, "slash") * 4
        chart, problems = read(inside, parts=part("Drums"))
        self.assertEqual(chart.bars[0].hits, ())
        self.assertEqual([mark.kind for mark in chart.bars[0].marks], [MarkKind.SLASHES])
        self.assertIn("slash heads are read as slashes", said(problems))

    def test_after_notes_they_begin_where_they_stand(self):
        inside = start() + at_place("C", 5) * 2 + at_place("B", 4, "slash") * 2
        chart, _ = read(inside, parts=part("Drums"))
        self.assertEqual([hit.at for hit in chart.bars[0].hits], [0, 1])
        self.assertEqual([mark.at for mark in chart.bars[0].marks], [2])


class HatSigns(unittest.TestCase):
    def test_circle_and_cross_as_words(self):
        inside = (
            words("o") + note("H") + words("+") + note("H") + note("S") + words("ø") + note("H")
        )
        chart, _ = read(FOUR + inside)
        self.assertEqual(
            [hit.drum for hit in chart.bars[0].hits],
            [Drum.HIHAT_OPEN, Drum.HIHAT, Drum.SNARE, Drum.HIHAT_HALF],
        )
        self.assertEqual(chart.bars[0].marks, ())

    def test_over_no_hat_they_are_told(self):
        _, problems = read(FOUR + words("o") + note("S") * 4)
        self.assertIn("stands over no hat", said(problems))


class FlamsInChords(unittest.TestCase):
    def grace_of(self, *inside: str) -> dict:
        chart, problems = read(FOUR + "".join(inside) + rest(12))
        return {hit.drum: hit.grace for hit in chart.bars[0].hits}, said(problems)

    def test_with_the_kick_written_first(self):
        found, told = self.grace_of(GRACE, note("K"), note("S", chord=True))
        self.assertEqual(found, {Drum.KICK: Grace.NONE, Drum.SNARE: Grace.FLAM})
        self.assertEqual(told, "")

    def test_with_the_hat_written_first(self):
        found, told = self.grace_of(GRACE, note("H"), note("S", chord=True))
        self.assertEqual(found, {Drum.HIHAT: Grace.NONE, Drum.SNARE: Grace.FLAM})
        self.assertEqual(told, "")

    def test_with_no_note_of_its_drum_it_is_read_on_the_hand_and_told(self):
        found, told = self.grace_of(GRACE, note("K"), note("H", chord=True))
        self.assertEqual(found, {Drum.KICK: Grace.NONE, Drum.HIHAT: Grace.FLAM})
        self.assertIn("a grace note of snare is read on hat", told)

    def test_before_a_kick_alone_it_is_left_out_and_told(self):
        found, told = self.grace_of(GRACE, note("K"))
        self.assertEqual(found, {Drum.KICK: Grace.NONE})
        self.assertIn("kick takes no roll, grace note or sticking", told)

    def test_the_next_note_does_not_take_it(self):
        found, _ = self.grace_of(GRACE, note("K"), note("S"))
        self.assertEqual(found[Drum.SNARE], Grace.NONE)


if __name__ == "__main__":
    unittest.main()
