"""MIDI out, as it sounds, and in, onto the grid that fits."""

import io
import random
import unittest
from fractions import Fraction

import mido
from hypothesis import given, settings

from tests.builders import make_bar, make_chart, midi_of
from tests.strategies import charts
from wren_ladder.drumming.chart import Chart, ChartError, Drum, Grace, Touch
from wren_ladder.drumming.files import write_file
from wren_ladder.drumming.notation.midi import read_midi
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.performance.midi import CLICK, MOST_TICKS
from wren_ladder.drumming.roadmap import road_map
from wren_ladder.drumming.study import study

F = Fraction


def order_of(chart: Chart) -> list[int]:
    return [visit.index for visit in road_map(chart.bars).visits]


def written(chart: Chart, counted: bool = False) -> mido.MidiFile:
    data = write_file("take.mid", chart, count_in=counted)
    return mido.MidiFile(file=io.BytesIO(data))


def struck(file: mido.MidiFile) -> list[tuple[Fraction, int, int]]:
    """(crotchets from the start, key, strength) of every key struck, as mido reads it."""
    found, ticks = [], 0
    for message in file.tracks[0]:
        ticks += message.time
        if message.type == "note_on":
            found.append((F(ticks, file.ticks_per_beat), message.note, message.velocity))
    return found


def made(notes: list[tuple[float, int, int]], *metas, ticks: int = 480) -> bytes:
    """A file of (crotchets, key, strength) as a drum machine or a player would leave it."""
    track = mido.MidiTrack(metas)
    now = 0
    for at, key, strength in sorted(notes):
        tick = round(at * ticks)
        track.append(
            mido.Message("note_on", channel=9, note=key, velocity=strength, time=tick - now)
        )
        now = tick
    return saved(track, ticks)


def saved(track: mido.MidiTrack, ticks: int) -> bytes:
    file = mido.MidiFile(type=0, ticks_per_beat=ticks)
    file.tracks.append(track)
    buffer = io.BytesIO()
    file.save(file=buffer)
    return buffer.getvalue()


class Writing(unittest.TestCase):
    def test_it_is_a_type_0_file_on_channel_10_with_metre_and_tempo(self):
        file = written(
            make_chart("title Quay\ntempo dotted crotchet = 60\nmeter 6/8\nhat 8ths")
        )
        messages = {message.type: message for message in file.tracks[0]}
        self.assertEqual(file.type, 0)
        self.assertEqual(messages["track_name"].name, "Quay")
        self.assertEqual(messages["note_on"].channel, 9)
        meter = messages["time_signature"]
        self.assertEqual((meter.numerator, meter.denominator), (6, 8))
        # Dotted crotchet = 60 is crotchet = 90.
        self.assertEqual(round(mido.tempo2bpm(messages["set_tempo"].tempo)), 90)

    def test_strength_follows_the_touch(self):
        chart = make_chart("snare 2, ghost 1, accent 3, strong 4")
        strengths = [strength for _, _, strength in struck(written(chart))]
        self.assertEqual(strengths, sorted(strengths))
        self.assertEqual(len(set(strengths)), 4)

    def test_a_count_in_clicks_one_bar_and_stops_where_a_pick_up_starts(self):
        full = struck(written(make_chart("kick 1"), counted=True))
        self.assertEqual(
            [(at, key) for at, key, _ in full], [*((n, CLICK) for n in range(4)), (4, 36)]
        )
        pickup = make_chart("bar 0\nbeats 1\nsnare 4\nbar 1\nkick 1")
        clicked = struck(written(pickup, counted=True))
        self.assertEqual([key for _, key, _ in clicked], [CLICK] * 3 + [38, 36])
        waltz = struck(written(make_chart("meter 3/4\nbar 1\nkick 1"), counted=True))
        self.assertEqual([key for _, key, _ in waltz], [CLICK] * 6 + [36])

    def test_a_first_stroke_with_graces_moves_no_bar_line(self):
        """The flam begins the file; everything behind it stays on its beat."""
        chart = make_chart("tempo crotchet = 100\nsnare flam 1, 2 3 4\nkick 1 3")
        found = struck(written(chart))
        self.assertEqual(found[0][0], 0)
        mains = [(at, key) for at, key, _ in found[1:]]
        self.assertLess(mains[0][0], F(1, 10))
        self.assertEqual([at for at, _ in mains[2:]], [1, 2, 2, 3])
        again, _ = read_midi(midi_of(chart, [0]))
        self.assertEqual(again.bars[0].hits, chart.bars[0].hits)

    def test_a_tempo_mark_inside_is_written_where_it_stands(self):
        file = written(
            make_chart("tempo crotchet = 60\nkick 1\nbar 2\ntempo crotchet = 120\nkick 1")
        )
        ticks, tempos = 0, []
        for message in file.tracks[0]:
            ticks += message.time
            if message.type == "set_tempo":
                tempos.append((F(ticks, file.ticks_per_beat), mido.tempo2bpm(message.tempo)))
        self.assertEqual(tempos, [(0, 60), (4, 120)])

    @settings(max_examples=120)
    @given(charts(most=3))
    def test_mido_reads_every_stroke_of_the_performance_at_its_tick(self, chart):
        order = order_of(chart)[:40]
        heard = perform(study(chart).played(order), count_in=True)
        file = mido.MidiFile(file=io.BytesIO(midi_of(chart, order, count_in=True)))
        expected = [(click.position, CLICK) for click in heard.clicks if click.counted_in]
        expected += [(one.position, one.drum.row.key_written) for one in heard.onsets]
        ticks, start = file.ticks_per_beat, heard.before_length
        early = max([F(0), *(-(at + start) for at, _ in expected)])
        read = sorted((round(at * ticks), key) for at, key, _ in struck(file))
        if not early:
            wanted = [(round((at + start) * ticks), key) for at, key in expected]
            self.assertEqual(read, sorted(wanted))
        self.assertEqual(len(read), len(expected))
        self.assertLessEqual(ticks, MOST_TICKS)


class Reading(unittest.TestCase):
    def hits(self, notes, *metas):
        chart, problems = read_midi(made(notes, *metas))
        return chart, problems

    def test_a_played_groove_falls_on_its_grid_and_how_far_off_it_was_is_told(self):
        dice = random.Random(3)
        notes = [(n / 2 + dice.uniform(0, 0.03), 42, 80) for n in range(8)]
        notes += [(1.02, 38, 84), (3.01, 38, 84), (0.01, 36, 90), (2.49, 36, 90)]
        chart, problems = self.hits(notes)
        self.assertEqual(chart.bars[0].hits, make_bar("hat 8ths\nsnare 2 4\nkick 1 3&").hits)
        self.assertRegex(
            str(problems[0]), r"moved to the grid by \d+ ms on average, \d+ at most"
        )

    def test_triplets_semiquavers_and_compound_time_find_their_own_grids(self):
        for lines, meter in (
            ("snare triplets 1-1, 2 2e&a 3 4", "4/4"),
            ("hat 8ths\nsnare 4 5&", "6/8"),
            ("ride 1 1l 2 2l 3 3l 4 4l", "4/4"),
        ):
            bar = make_bar(lines, meter)
            chart = Chart("", (bar,))
            with self.subTest(lines):
                again, _ = read_midi(midi_of(chart, [0]))
                self.assertEqual(again.bars[0].hits, bar.hits)
                self.assertEqual(again.bars[0].meter, bar.meter)

    def test_soft_is_a_ghost_loud_an_accent_and_a_soft_note_just_before_a_grace(self):
        notes = [(0, 38, 30), (1, 38, 80), (2, 38, 110), (3, 38, 125)]
        chart, _ = self.hits(notes)
        touches = [hit.touch for hit in chart.bars[0].hits]
        self.assertEqual(touches, [Touch.GHOST, Touch.NORMAL, Touch.ACCENT, Touch.STRONG])
        flam = [(0.96, 38, 40), (1, 38, 90), (2.9, 38, 40), (2.95, 38, 40), (3, 38, 90)]
        chart, _ = self.hits(flam)
        self.assertEqual([h.grace for h in chart.bars[0].hits], [Grace.FLAM, Grace.DRAG])

    def test_a_soft_kick_just_before_a_louder_one_is_a_kick_not_a_grace(self):
        chart, _ = self.hits([(0.9, 36, 60), (0.98, 36, 90), (2, 36, 90), (3, 38, 80)])
        kicks = [hit.at for hit in chart.bars[0].hits if hit.drum is Drum.KICK]
        self.assertEqual(len(kicks), 3)

    def test_a_note_just_before_the_bar_line_belongs_to_the_next_bar(self):
        chart, _ = self.hits([(0, 36, 80), (3.97, 36, 80)])
        self.assertEqual([[h.at for h in bar.hits] for bar in chart.bars], [[0], [0]])

    def test_what_was_written_is_read_back_as_it_is_played(self):
        chart = make_chart(
            "tempo crotchet = 96\nbar 1\nhat 8ths, open 4&\nsnare flam 2, ghost 2a, accent 4\n"
            "kick 1 3\nrepeat end 2"
        )
        again, problems = read_midi(midi_of(chart, order_of(chart)))
        self.assertEqual([bar.hits for bar in again.bars], [chart.bars[0].hits] * 2)
        self.assertEqual(str(again.tempo), "crotchet = 96")
        self.assertEqual(
            [str(problem) for problem in problems],
            [
                "every note lay on the grid; what was guessed or left out is told",
                "a soft stroke just before a louder one read as grace notes (bars 1, 2)",
            ],
        )

    def test_unknown_keys_are_told(self):
        chart, problems = self.hits([(0, 36, 80), (1, 81, 80)])
        self.assertEqual([hit.drum for hit in chart.bars[0].hits], [Drum.KICK])
        self.assertEqual(str(problems[1]), "bar 1: key 81, Open Triangle, is no drum here")

    def test_refusals_say_what_is_wrong(self):
        silent = made([])
        melody = mido.MidiFile(type=2)
        melody.tracks.append(mido.MidiTrack())
        buffer = io.BytesIO()
        melody.save(file=buffer)
        for data, said in (
            (b"RIFF....", "this is no MIDI file"),
            (b"", "this is no MIDI file"),
            (silent, "has no notes"),
            (buffer.getvalue(), "type 2 holds several songs"),
        ):
            with self.subTest(said), self.assertRaisesRegex(ChartError, said):
                read_midi(data)

    def test_damaged_files_give_a_chart_or_a_chart_error_and_nothing_else(self):
        chart = make_chart("tempo crotchet = 96\nhat 8ths\nsnare flam 2 4\nkick 1 3")
        whole = midi_of(chart, [0] * 4)
        dice = random.Random(11)
        outcomes = set()
        for _ in range(1000):
            data = bytearray(whole)
            for _ in range(dice.randint(1, 6)):
                data[dice.randrange(len(data))] = dice.randrange(256)
            try:
                read_midi(bytes(data))
                outcomes.add("chart")
            except ChartError:
                outcomes.add("error")
        self.assertEqual(outcomes, {"chart", "error"})
