"""Reading MusicXML: what is taken, what is told, what is refused."""

import unittest
from fractions import Fraction

from tests.builders import make_bar
from wren_ladder.drumming.chart import Drum, Grace, Hand, RollKind, Touch
from wren_ladder.drumming.notation.musicxml import open_musicxml, read_musicxml
from wren_ladder.drumming.notation.musicxml.names import by_name

F = Fraction

KIT = """<score-part id="P1"><part-name>Kit</part-name>
<score-instrument id="K"><instrument-name>Kick Drum</instrument-name></score-instrument>
<score-instrument id="S"><instrument-name>Snare</instrument-name></score-instrument>
<score-instrument id="H"><instrument-name>Hi-Hat</instrument-name></score-instrument>
<midi-instrument id="K"><midi-unpitched>37</midi-unpitched></midi-instrument>
<midi-instrument id="S"><midi-unpitched>39</midi-unpitched></midi-instrument>
<midi-instrument id="H"><midi-unpitched>43</midi-unpitched></midi-instrument></score-part>"""
TIME = "<time><beats>4</beats><beat-type>4</beat-type></time>"
FOUR = f"<attributes><divisions>4</divisions>{TIME}</attributes>"


def score(*measures: str, parts: str = KIT, title: str = "Quay") -> bytes:
    """A one-part score; each measure is the text inside its element."""
    body = "".join(
        f'<measure number="{number}">{inside}</measure>'
        for number, inside in enumerate(measures, start=1)
    )
    return (
        f"<score-partwise><work><work-title>{title}</work-title></work>"
        f'<part-list>{parts}</part-list><part id="P1">{body}</part></score-partwise>'
    ).encode()


def note(instrument="S", duration=4, inside="", chord=False, after="") -> str:
    return (
        f"<note>{'<chord/>' if chord else ''}{inside}<unpitched/>"
        f"<duration>{duration}</duration>"
        f'<instrument id="{instrument}"/>{after}</note>'
    )


def rest(duration) -> str:
    return f"<note><rest/><duration>{duration}</duration></note>"


GRACE = '<note><grace/><unpitched/><instrument id="S"/></note>'


def read(*measures: str, **given):
    return read_musicxml(score(*measures, **given))


def first_hits(*inside: str):
    chart, _ = read(FOUR + "".join(inside) + rest(16 - 4 * len(inside)))
    return chart.bars[0].hits


class WrittenLengths(unittest.TestCase):
    def test_the_page_that_came_in_is_the_page_that_is_printed(self):
        """A dotted crotchet and its quaver, a short quaver with its rest."""
        chart, problems = read(
            FOUR + note(duration=6) + note(duration=2) + note(duration=2) + rest(2) + rest(4)
        )
        self.assertEqual(chart.bars[0].hits, make_bar("snare 1 for 1.5, 2& 3 for 1/2").hits)
        self.assertEqual(problems, ())

    def test_a_tied_note_is_written_longer(self):
        stop = note(duration=1, after='<tie type="stop"/>')
        chart, _ = read(FOUR + note(duration=4) + stop + rest(3) + rest(8))
        self.assertEqual(chart.bars[0].hits, make_bar("snare 1 for 5/4").hits)

    def test_a_chord_of_hands_and_feet_says_nothing_of_either(self):
        chart, _ = read(FOUR + note("S", 16) + note("K", 16, chord=True))
        self.assertEqual(chart.bars[0].hits, make_bar("snare 1\nkick 1").hits)

    def test_in_a_voice_of_their_own_the_feet_keep_theirs(self):
        back = "<backup><duration>16</duration></backup>"
        voice = "<voice>2</voice>"
        hands = note("H", 8) + note("H", 8)
        feet = note("K", 16, after=voice)
        chart, _ = read(FOUR + hands + back + feet)
        self.assertEqual(chart.bars[0].hits, make_bar("hat 1 3 for 2\nkick 1 for 4").hits)


class Times(unittest.TestCase):
    def test_words_say_when_a_bar_is_played(self):
        chart, _ = read(
            FOUR + words("2nd time only") + rest(16), words("1st x tacet") + rest(16)
        )
        self.assertEqual([str(bar.times) for bar in chart.bars], ["2 only", "1 tacet"])

    def test_a_vamp_is_the_repeat_that_ends_next(self):
        end = '<barline><repeat direction="backward" times="4"/></barline>'
        chart, _ = read(
            FOUR + words("Vamp till cue") + rest(16), rest(16) + end, rest(16) + end
        )
        self.assertEqual([bar.vamp for bar in chart.bars], [False, True, False])

    def test_a_vamp_without_a_repeat_stays_as_words(self):
        chart, _ = read(FOUR + words("vamp") + rest(16))
        self.assertEqual([mark.text for mark in chart.bars[0].marks], ["vamp"])


class TwoSigns(unittest.TestCase):
    def test_a_second_segno_is_told_by_the_jump_to_it(self):
        sign = "<direction><direction-type><segno/></direction-type></direction>"
        chart, _ = read(
            FOUR + sign + rest(16),
            sign + words("To Coda 2") + rest(16),
            rest(16) + words("D.S.S. al Double Coda"),
            words("Double Coda") + rest(16),
        )
        self.assertEqual(
            [bar.road_words for bar in chart.bars],
            [("segno",), ("segno 2", "To Coda 2"), ("D.S.S. al Coda 2",), ("coda 2",)],
        )


class Time(unittest.TestCase):
    def test_voices_meet_again_by_backup_and_forward(self):
        chart, problems = read(
            FOUR
            + note("H") * 4
            + "<backup><duration>16</duration></backup>"
            + note("K")
            + "<forward><duration>6</duration></forward>"
            + note("K", 6)
        )
        kicks = [hit.at for hit in chart.bars[0].hits if hit.drum is Drum.KICK]
        self.assertEqual(kicks, [0, F(5, 2)])
        self.assertEqual(problems, ())

    def test_chords_sound_together_and_dots_and_triplets_are_durations(self):
        triplets = FOUR.replace("4</divisions>", "12</divisions>")
        chart, _ = read(
            triplets
            + note("H", 4)
            + note("S", 4, chord=True)
            + note("H", 4) * 2
            + note("H", 18)
            + note("H", 6)
            + rest(12)
        )
        onsets = [(hit.at, hit.drum) for hit in chart.bars[0].hits]
        self.assertEqual(onsets[:2], [(0, Drum.HIHAT), (0, Drum.SNARE)])
        self.assertEqual([at for at, _ in onsets[2:]], [F(1, 3), F(2, 3), 1, F(5, 2)])

    def test_a_backup_too_far_is_told_and_read_from_the_bar_line(self):
        back = "<backup><duration>99</duration></backup>"
        chart, problems = read(FOUR + note("S") + back + note("K") + rest(12))
        self.assertEqual([hit.at for hit in chart.bars[0].hits], [0, 0])
        self.assertIn("a backup leads before the bar line", str(problems[0]))

    def test_metres_change_and_hold(self):
        three = "<attributes><time><beats>3</beats><beat-type>4</beat-type></time></attributes>"
        chart, _ = read(FOUR + rest(16), three + rest(12), rest(12))
        self.assertEqual([str(bar.meter) for bar in chart.bars], ["4/4", "3/4", "3/4"])

    def test_a_first_measure_that_is_not_full_may_be_the_pick_up(self):
        data = score(FOUR + note(), note() * 4)
        reading = open_musicxml(data)
        self.assertEqual([bar.length for bar in reading.chart.bars], [4, 4])
        self.assertEqual(
            [(offer.said, offer.taken) for offer in reading.offers],
            [("bar 1 holds 1 of its 4 crotchets: read it as a pick-up", False)],
        )
        bars = open_musicxml(data, taken=("0",)).chart.bars
        self.assertEqual([(bar.number, bar.length) for bar in bars], [("0", 1), ("2", 4)])

    def test_a_first_measure_that_says_so_is_the_pick_up(self):
        for said in ('number="0"', 'number="1" implicit="yes"'):
            data = score(FOUR + note(), note() * 4).replace(b'number="1"', said.encode(), 1)
            reading = open_musicxml(data)
            opening = reading.chart.bars[0]
            self.assertEqual((opening.number, opening.length, reading.offers), ("0", 1, ()))

    def test_an_overfull_measure_grows_its_metre_and_is_told(self):
        chart, problems = read(FOUR + note() * 5, note() * 4)
        self.assertEqual(str(chart.bars[0].meter), "5/4")
        self.assertIn("bar 1: holds more than 4/4; read as 5/4", map(str, problems))

    def test_tempo_marks_know_their_beat_unit(self):
        metronome = (
            "<direction><direction-type><metronome><beat-unit>quarter</beat-unit>"
            "<beat-unit-dot/><per-minute>60</per-minute></metronome></direction-type>"
            '<sound tempo="90"/></direction>'
        )
        chart, _ = read(FOUR + metronome + rest(16))
        self.assertEqual(str(chart.tempo), "dotted crotchet = 60")
        chart, _ = read(FOUR + '<sound tempo="96.4"/>' + rest(16))
        self.assertEqual(str(chart.tempo), "crotchet = 96")

    def test_repeats_and_their_times(self):
        end = '<barline><repeat direction="backward" times="3"/></barline>'
        start = '<barline><repeat direction="forward"/></barline>'
        chart, problems = read(FOUR + note() * 4, start + note() * 4 + end)
        self.assertEqual([bar.repeat_start for bar in chart.bars], [False, True])
        self.assertEqual([bar.repeat_passes for bar in chart.bars], [0, 3])
        self.assertEqual(problems, ())


class Drums(unittest.TestCase):
    def test_midi_unpitched_counts_from_one(self):
        hits = first_hits(note("K"), note("S"), note("H"))
        self.assertEqual([hit.drum for hit in hits], [Drum.KICK, Drum.SNARE, Drum.HIHAT])

    def test_without_an_instrument_the_place_and_the_head_decide(self):
        def placed(step, octave, head=""):
            shape = f"<notehead>{head}</notehead>" if head else ""
            return (
                f"<note><unpitched><display-step>{step}</display-step><display-octave>"
                f"{octave}</display-octave></unpitched><duration>2</duration>{shape}</note>"
            )

        for step, octave, head, drum in (
            ("F", 4, "", Drum.KICK),
            ("C", 5, "", Drum.SNARE),
            ("C", 5, "x", Drum.CROSS_STICK),
            ("G", 5, "x", Drum.HIHAT),
            ("G", 5, "circle-x", Drum.HIHAT_OPEN),
            ("F", 5, "x", Drum.RIDE),
            ("A", 5, "x", Drum.CRASH),
            ("A", 4, "", Drum.TOM_FLOOR),
            ("D", 4, "x", Drum.HIHAT_FOOT),
        ):
            with self.subTest(drum):
                chart, _ = read(FOUR + placed(step, octave, head) + rest(14), parts="")
                self.assertEqual([hit.drum for hit in chart.bars[0].hits], [drum])

    def test_names_of_instruments(self):
        for name, drum in {
            "Hi-Hat Closed": Drum.HIHAT,
            "Open Hi-Hat": Drum.HIHAT_OPEN,
            "Pedal Hi-hat": Drum.HIHAT_FOOT,
            "Ride Bell": Drum.RIDE_BELL,
            "Acoustic Bass Drum": Drum.KICK,
            "Low Floor Tom": Drum.TOM_FLOOR,
            "High-Mid Tom": Drum.TOM_HIGH,
            "Cowbell": Drum.COWBELL,
            "Vibraphone": None,
        }.items():
            with self.subTest(name):
                self.assertEqual(by_name(name), drum)

    def test_an_unknown_drum_is_left_out_and_told_not_swallowed(self):
        parts = KIT.replace("<midi-unpitched>39</midi-unpitched>", "").replace(
            ">Snare<", ">Gong<"
        )
        chart, problems = read(FOUR + note("S") + note("K") + rest(8), parts=parts)
        self.assertEqual([hit.drum for hit in chart.bars[0].hits], [Drum.KICK])
        self.assertIn(
            "bar 1: instrument Gong is no drum known here; left out", map(str, problems)
        )


class Marks(unittest.TestCase):
    def notations(self, inside):
        return f"<notations>{inside}</notations>"

    def test_accents_and_ghosts(self):
        accent = self.notations("<articulations><accent/></articulations>")
        strong = self.notations("<articulations><strong-accent/></articulations>")
        ghost = '<notehead parentheses="yes">normal</notehead>'
        hits = first_hits(*(note(after=mark) for mark in (accent, strong, ghost)))
        self.assertEqual([h.touch for h in hits], [Touch.ACCENT, Touch.STRONG, Touch.GHOST])

    def test_grace_notes_make_the_ornament(self):
        for count, grace in enumerate((Grace.NONE, Grace.FLAM, Grace.DRAG, Grace.RUFF)):
            with self.subTest(grace):
                self.assertEqual(first_hits(GRACE * count + note())[0].grace, grace)

    def test_a_circle_over_the_hat_opens_it(self):
        opened = self.notations("<technical><open/></technical>")
        hits = first_hits(note("H", after=opened), note("H"))
        self.assertEqual([hit.drum for hit in hits], [Drum.HIHAT_OPEN, Drum.HIHAT])

    def test_tremolos_are_rolls_and_ties_lengthen_them(self):
        tremolo = self.notations('<ornaments><tremolo type="single">3</tremolo></ornaments>')
        buzz = self.notations('<ornaments><tremolo type="unmeasured">0</tremolo></ornaments>')
        tied = note(inside="", after='<tie type="stop"/>' + tremolo)
        first, second = first_hits(note(after=tremolo), tied, note(after=buzz))
        self.assertEqual((first.roll.kind, first.roll.length), (RollKind.OPEN, 2))
        self.assertEqual((second.roll.kind, second.roll.length), (RollKind.BUZZ, 1))

    def test_a_plain_note_that_a_roll_is_tied_to_is_the_stroke_it_ends_on(self):
        tremolo = self.notations('<ornaments><tremolo type="single">3</tremolo></ornaments>')
        minim = note(duration=8, after='<tie type="start"/>' + tremolo)
        ending = note(after='<tie type="stop"/>')
        chart, _ = read(FOUR + minim + ending + rest(4))
        roll, last = chart.bars[0].hits
        self.assertEqual((roll.roll.length, roll.roll.tied), (2, False))
        self.assertEqual((last.at, last.roll), (2, None))
        over, _ = read(FOUR + rest(8) + minim, ending + rest(12))
        self.assertFalse(over.bars[0].hits[0].roll.tied)
        self.assertEqual([(hit.at, hit.roll) for hit in over.bars[1].hits], [(0, None)])
        ringing = note("H") + note("H", after='<tie type="stop"/>')
        self.assertEqual(len(first_hits(ringing)), 1)  # a tied cymbal only rings

    def test_stickings_under_the_notes_are_kept(self):
        lyric = "<lyric><text>L</text></lyric>"
        self.assertEqual(first_hits(note(after=lyric))[0].hand, Hand.LEFT)

    def test_what_is_not_understood_is_listed_with_its_bars(self):
        direction = "<direction><direction-type>{}</direction-type></direction>"
        dynamics = direction.format("<other-direction>ring</other-direction>")
        words = direction.format("<dynamics><rfz/></dynamics>")
        ending = '<barline><ending number="1" type="stop"/></barline>'
        trill = note(after=self.notations("<ornaments><trill-mark/></ornaments>"))
        second = dynamics + ending + words + rest(16)
        _, problems = read(FOUR + dynamics + trill + rest(12), second)
        told = [str(problem) for problem in problems]
        self.assertIn("'other-direction' is not kept (bars 1, 2)", told)
        self.assertIn("bar 2: an ending stops here that never started", told)
        self.assertIn("bar 1: 'trill-mark' marks are not kept", told)
        self.assertIn("bar 2: the dynamic 'rfz' is not kept", told)

    def test_dynamics_hairpins_cues_and_fermatas_are_kept_in_their_places(self):
        direction = "<direction><direction-type>{}</direction-type>{}</direction>"
        wedge = '<wedge type="{}" number="1"/>'
        chart, problems = read(
            FOUR
            + direction.format("<dynamics><mf/></dynamics>", "")
            + note()
            + direction.format(wedge.format("crescendo"), "")
            + direction.format("<words>band only</words>", "<offset>4</offset>")
            + note() * 3,
            note()
            + direction.format(wedge.format("stop"), "")
            + note(after=self.notations("<fermata/>"))
            + rest(8),
        )
        first, second = (bar.marks for bar in chart.bars)
        told = [(mark.at, mark.kind.value, mark.text, mark.length) for mark in first]
        self.assertEqual(
            told, [(0, "dynamic", "mf", 0), (1, "crescendo", "", 4), (2, "cue", "band only", 0)]
        )
        self.assertEqual([(mark.at, mark.kind.value) for mark in second], [(1, "fermata")])
        self.assertEqual(problems, ())

    def test_a_hairpin_that_never_stops_is_told(self):
        wedge = '<wedge type="diminuendo"/>'
        start = f"<direction><direction-type>{wedge}</direction-type></direction>"
        _, problems = read(FOUR + start + note() * 4)
        self.assertEqual(str(problems[0]), "bar 1: a diminuendo that never stops is left out")

    def test_one_surface_struck_twice_is_kept_once_and_told(self):
        chart, problems = read(FOUR + note("S") + note("S", chord=True) + rest(12))
        self.assertEqual(len(chart.bars[0].hits), 1)
        self.assertIn("at once on one surface; the first is kept", str(problems[0]))


class Road(unittest.TestCase):
    """Signs as attributes, as signs, and as words alone."""

    DIRECTION = "<direction><direction-type>{}</direction-type>{}</direction>"

    def said(self, words="", sound="", sign=""):
        kind = f"<words>{words}</words>" if words else f"<{sign}/>" if sign else "<other/>"
        return self.DIRECTION.format(kind, f"<sound {sound}/>" if sound else "")

    def bars(self, *before):
        """One full bar for each, with what stands in front of its notes."""
        chart, _ = read(
            *(FOUR * (not n) + inside + note() * 4 for n, inside in enumerate(before))
        )
        return chart.bars

    def test_endings_run_from_start_to_stop_and_may_be_for_several_passes(self):
        def bracket(number, kind):
            return f'<barline><ending number="{number}" type="{kind}"/></barline>'

        first = bracket("1, 2", "start")
        bars = self.bars("", first, bracket("1, 2", "stop"), bracket("3", "start"), "")
        self.assertEqual([b.endings for b in bars], [(), (1, 2), (1, 2), (3,), (3,)])

    def test_a_jump_is_read_from_words_alone(self):
        for words, jump in {
            "D.C. al Fine": "D.C. al Fine",
            "D. S. al Coda": "D.S. al Coda",
            "Da Capo": "D.C.",
            "(D.S. al Fine with repeats)": "D.S. al Fine with repeats",
            "D.S. al Coda (with repeats)": "D.S. al Coda with repeats",
            "D.C. al Fine, no repeats": "D.C. al Fine without repeats",
            "D.C. al Fine con rep.": "D.C. al Fine with repeats",
            "D.S. al Coda senza rep.": "D.S. al Coda without repeats",
        }.items():
            with self.subTest(words):
                self.assertEqual(str(self.bars("", self.said(words))[1].jump), jump)

    def test_to_coda_and_the_coda_are_told_apart(self):
        bars = self.bars(
            self.said(sign="segno"),
            self.said(sign="coda", sound='tocoda="c"'),
            self.said("To Coda"),
            self.said("D.S. al Coda"),
            self.said(sign="coda"),
        )
        self.assertEqual([b.to_coda for b in bars], [False, True, True, False, False])
        self.assertEqual([b.coda for b in bars], [False] * 4 + [True])
        self.assertTrue(bars[0].segno)

    def test_a_jump_given_only_as_an_attribute_goes_by_what_the_page_has(self):
        coda = self.bars("", self.said(sound='tocoda="c"'), self.said(sound='dalsegno="s"'),
                         self.said(sound='coda="c"'))  # fmt: skip
        self.assertEqual(str(coda[2].jump), "D.S. al Coda")
        fine = self.bars(self.said(sound='fine="yes"'), self.said(sound='dacapo="yes"'))
        self.assertEqual(str(fine[1].jump), "D.C. al Fine")
        plain = self.bars("", self.said(sound='dacapo="yes"'))
        self.assertEqual(str(plain[1].jump), "D.C.")

    def test_the_words_decide_over_the_attribute_and_may_stand_by_themselves(self):
        sound = 'dalsegno="s"'
        for words, again in (
            ("D.S. al Coda (with repeats)", True),
            ("D.S. al Coda (no repeats)", False),
            ("D.S. al Coda", None),
        ):
            with self.subTest(words):
                bars = self.bars(self.said(sign="segno"), self.said(words, sound=sound))
                self.assertEqual(bars[1].jump.with_repeats, again)
        end = '<barline><repeat direction="backward" after-jump="yes"/></barline>'
        bars = self.bars(end, self.said("D.C.") + self.said("senza rep."))
        self.assertIs(bars[1].jump.with_repeats, False)
        self.assertEqual(bars[1].note, "")

    def test_after_jump_means_that_repeats_are_taken_again(self):
        end = '<barline><repeat direction="backward" after-jump="yes"/></barline>'
        bars = self.bars(end, self.said("D.C. al Fine"))
        self.assertEqual(str(bars[1].jump), "D.C. al Fine with repeats")

    def test_a_repeat_bar_sign_is_filled_with_the_music_before_it(self):
        sign = '<attributes><measure-style><measure-repeat type="{}">1</measure-repeat>'
        sign += "</measure-style></attributes>"
        chart, _ = read(
            FOUR + note("K") + rest(12), sign.format("start") + rest(16), rest(16),
            sign.format("stop") + note("S") + rest(12),
        )  # fmt: skip
        drums = [[hit.drum for hit in bar.hits] for bar in chart.bars]
        self.assertEqual(drums, [[Drum.KICK]] * 3 + [[Drum.SNARE]])


def words(text: str) -> str:
    kind = f"<direction-type><words>{text}</words></direction-type>"
    return f"<direction>{kind}</direction>"


def style(inside: str) -> str:
    return f"<attributes><measure-style>{inside}</measure-style></attributes>"


class Stickings(unittest.TestCase):
    def hands(self, *inside):
        return [hit.hand for hit in first_hits(*inside)]

    def test_a_fingering_of_r_or_l_is_a_sticking(self):
        finger = "<notations><technical><fingering>{}</fingering></technical></notations>"
        found = self.hands(note(after=finger.format("r")), note(after=finger.format("L")))
        self.assertEqual(found, [Hand.RIGHT, Hand.LEFT])

    def test_another_fingering_is_told(self):
        finger = "<notations><technical><fingering>3</fingering></technical></notations>"
        _, problems = read(FOUR + note(after=finger) + rest(12))
        self.assertIn("'fingering' marks are not kept", str(problems[0]))

    def test_words_over_the_notes_name_their_hands_one_by_one(self):
        chart, problems = read(FOUR + words("R L") + note() * 2 + words("L") + note() * 2)
        hands = [hit.hand for hit in chart.bars[0].hits]
        self.assertEqual(hands, [Hand.RIGHT, Hand.LEFT, Hand.LEFT, None])
        self.assertEqual(problems, ())

    def test_feet_are_passed_over(self):
        chart, _ = read(FOUR + words("R L") + note("K") + note() * 2 + rest(4))
        self.assertEqual([hit.hand for hit in chart.bars[0].hits], [None, "R", "L"])


class Shorthand(unittest.TestCase):
    """Source: MusicXML 4.0, measure-repeat, slash, multiple-rest, footnote, time."""

    REPEAT = style('<measure-repeat type="start">1</measure-repeat>')
    STOP = style('<measure-repeat type="stop"/>')

    def test_a_repeat_sign_over_an_empty_measure_is_filled_in(self):
        chart, problems = read(FOUR + note() * 4, self.REPEAT + rest(16), self.STOP + rest(16))
        self.assertEqual([bar.again for bar in chart.bars], [0, 1, 0])
        self.assertEqual([len(bar.hits) for bar in chart.bars], [4, 4, 0])
        self.assertEqual(problems, ())

    def test_a_repeat_sign_over_other_notes_keeps_those_and_is_told(self):
        chart, problems = read(FOUR + note() * 4, self.REPEAT + note("K") * 4)
        self.assertEqual(chart.bars[1].again, 0)
        self.assertEqual(chart.bars[1].hits[0].drum, Drum.KICK)
        self.assertIn("bar 2: a repeat-bar sign stands over other notes", str(problems[0]))

    def test_slashes_until_they_stop(self):
        start, stop = style('<slash type="start"/>'), style('<slash type="stop"/>')
        chart, _ = read(FOUR + note() * 4, start + rest(16), rest(16), stop + rest(16))
        self.assertEqual([len(bar.marks) for bar in chart.bars], [0, 1, 1, 0])
        self.assertEqual(chart.bars[2].hits, chart.bars[0].hits)

    def test_groups_of_a_metre_are_kept(self):
        time = "<time><beats>3+2+2</beats><beat-type>8</beat-type></time>"
        chart, problems = read(FOUR.replace(TIME, time) + note() + rest(10))
        self.assertEqual(str(chart.bars[0].meter), "3+2+2/8")
        self.assertEqual(problems, ())

    def test_a_roll_tied_over_the_bar_line_goes_on(self):
        tremolo = '<tremolo type="single">3</tremolo>'
        roll = f"<notations><ornaments>{tremolo}</ornaments></notations>"
        first = note(after='<tie type="start"/>' + roll)
        then = note(after='<tie type="stop"/>' + roll)
        chart, _ = read(FOUR + rest(12) + first, then + rest(12))
        self.assertTrue(chart.bars[0].hits[0].roll.tied)
        self.assertEqual(chart.bars[1].hits[0].at, 0)

    def test_a_footnote_is_a_note_on_the_bar(self):
        foot = FOUR.replace("<divisions>", "<footnote>palm down</footnote><divisions>")
        self.assertEqual(read(foot + rest(16))[0].bars[0].note, "palm down")

    def test_a_fermata_at_the_bar_line_stands_on_the_last_count(self):
        line = "<barline><fermata/></barline>"
        chart, problems = read(FOUR + note() * 4 + line)
        self.assertEqual([mark.at for mark in chart.bars[0].marks], [3])
        self.assertEqual(problems, ())
