"""What people and machines leave in MIDI files: spread, layers, late tempos, damaged events."""

import io
import random
import unittest
from collections import Counter
from fractions import Fraction

import mido

from tests.drumming.test_midi import made
from wren_ladder.drumming.chart import ChartError, Drum, Grace
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.notation.midi import open_midi
from wren_ladder.drumming.notation.midi.keys import drums_of, said_of
from wren_ladder.drumming.notation.reading import Reading

F = Fraction
GROOVES = (  # as typed, and the grid that fits
    ("hat 1 2 3 4\nsnare 2 4\nkick 1 3", 1),
    ("hat 8ths\nsnare 2 4\nkick 1 3 3&", 2),
    ("hat 16ths\nsnare 2 4, ghost 2a 3e\nkick 1 1a 3 3&", 4),
    ("hat 8ths\nsnare 2 4, 2a 3e\nkick 1 1a 2& 3 4a", 4),
    ("ride triplets\nsnare 2 4\nkick 1 1l 3", 3),
    ("ride 1 1l 2 2l 3 3l 4 4l\nsnare 2 4\nkick 1 2l 3", 3),
    ("hat 16ths\nsnare 2 4\nkick 1 2a 3 4e", 4),
    ("snare 16ths\nkick 1 3", 4),
    ("hat 8ths\nsnare 2 4, 4& 4a\nkick 1 2e 3a", 4),
    ("ride 1 2 2l 3 4 4l\nsnare 2l 4l\nkick 1 3", 3),
)
BARS = 24
ONE_IN, SEEDS = 500, 3
HANDS = ((15, 120), (15, 160), (25, 160))  # ms of spread, BPM: in time, and a beginner's


def tempo(bpm: float, at: float = 0.0, ticks: int = 480) -> mido.MetaMessage:
    return mido.MetaMessage("set_tempo", tempo=mido.bpm2tempo(bpm), time=round(at * ticks))


def meter(beats: int, unit: int, at: float = 0.0) -> mido.MetaMessage:
    time = round(at * 480)
    return mido.MetaMessage("time_signature", numerator=beats, denominator=unit, time=time)


def two_tracks(notes, *metas) -> bytes:
    """As ``made``, the metas on a track of their own with times between them."""
    played = mido.MidiFile(file=io.BytesIO(made(notes)))
    file = mido.MidiFile(type=1, ticks_per_beat=480)
    file.tracks += [mido.MidiTrack(metas), *played.tracks]
    buffer = io.BytesIO()
    file.save(file=buffer)
    return buffer.getvalue()


BEAT = ((0, 36), (1, 38), (2, 36), (3, 38), (0, 42), (0.5, 42), (1, 42), (1.5, 42))
TUNE = tuple((n / 2, 60 + n) for n in range(8))
BASS = tuple((n, 35 + 2 * n) for n in range(4))


def tracks_of(*tracks) -> bytes:
    """(name, channel from 0, ((crotchets, key), ...)) each."""
    file = mido.MidiFile(type=1, ticks_per_beat=480)
    for name, channel, notes in tracks:
        track, now = mido.MidiTrack(), 0
        if name:
            track.append(mido.MetaMessage("track_name", name=name))
        for at, key in sorted(notes):
            tick = round(480 * at)
            track.append(
                mido.Message("note_on", channel=channel, note=key, velocity=90, time=tick - now)
            )
            now = tick
        file.tracks.append(track)
    buffer = io.BytesIO()
    file.save(file=buffer)
    return buffer.getvalue()


def struck(reading: Reading) -> Counter:
    """(crotchets from the start, drum), how often."""
    found, start = Counter(), F(0)
    for bar in reading.chart.bars:
        found.update((start + hit.at, hit.drum) for hit in bar.hits)
        start += bar.length
    return found


def told(reading: Reading) -> str:
    return "\n".join(map(str, reading.problems))


def places(reading: Reading) -> list[list[Fraction]]:
    return [[hit.at for hit in bar.hits] for bar in reading.chart.bars]


class Spread(unittest.TestCase):
    """Seeded grooves against the known truth."""

    def test_no_more_strokes_are_misplaced_than_by_the_grid_that_fits(self):
        for lines, parts in GROOVES:
            (bar,) = read_chart(f"bar 1\n{lines}").bars
            truth = [(n * 4 + hit.at, hit.drum) for n in range(BARS) for hit in bar.hits]
            for spread, bpm in HANDS:
                misplaced = by_rounding = 0
                for seed in range(SEEDS):
                    dice = random.Random(f"{lines} {bpm} {seed}")
                    played = [
                        (max(0.0, float(at) + dice.gauss(0, spread) * bpm / 60_000), drum)
                        for at, drum in truth
                    ]
                    notes = [(at, drum.row.key_written, 90) for at, drum in played]
                    found = struck(open_midi(made(notes, tempo(bpm))))
                    plain = Counter(
                        (F(int(at * parts + 0.5), parts), drum) for at, drum in played
                    )
                    misplaced += sum((Counter(truth) - found).values())
                    by_rounding += sum((Counter(truth) - plain).values())
                with self.subTest(lines, spread=spread, bpm=bpm):
                    # One in so many where knowing the grid misplaces none.
                    allowed = SEEDS * len(truth) // ONE_IN
                    self.assertLessEqual(misplaced, by_rounding + allowed)

    def test_a_bar_that_differs_from_all_others_stays_different(self):
        (bar,) = read_chart("bar 1\nhat 16ths\nsnare 2 4\nkick 1 1a 3 3&").bars
        for seed in range(5):
            dice = random.Random(seed)
            notes = []
            for n in range(BARS):
                for hit in bar.hits:
                    other = n == 17 and (hit.drum, hit.at) == (Drum.KICK, F(3, 4))
                    at = 4 * n + (0.5 if other else float(hit.at))
                    off = dice.gauss(0, 15) * 120 / 60_000
                    notes.append((max(0.0, at + off), hit.drum.row.key_written, 90))
            read = open_midi(made(notes, tempo(120))).chart.bars[17]
            kicks = [hit.at for hit in read.hits if hit.drum is Drum.KICK]
            self.assertEqual(kicks, [0, F(1, 2), 2, F(5, 2)])

    def test_an_early_stroke_belongs_to_the_beat_it_is_early_for(self):
        """40 ms at 160: a tenth of a beat and more; over the bar line too."""
        early = 0.04 * 160 / 60
        notes = [(n / 2, 42, 80) for n in range(16)]
        notes += [(1 - early, 38, 90), (3 - early, 38, 90), (4 - early, 36, 90)]
        reading = open_midi(made(notes, tempo(160)))
        snares = [hit.at for hit in reading.chart.bars[0].hits if hit.drum is Drum.SNARE]
        self.assertEqual(snares, [1, 3])
        kicks = [hit.at for hit in reading.chart.bars[1].hits if hit.drum is Drum.KICK]
        self.assertEqual(kicks, [0])
        self.assertIn("notes moved to the grid by more than 30 ms (bars 1, 2)", told(reading))

    def test_the_last_stroke_early_for_the_next_bar_opens_it(self):
        reading = open_midi(made([(0, 36, 90), (3.95, 36, 90)]))
        self.assertEqual(places(reading), [[0], [0]])

    def test_a_triplet_fill_is_found_among_semiquavers(self):
        lines = "hat 16ths 1-3\nsnare 2 4, 4t 4l"
        text = "\n".join(f"bar {n}\n{lines if n == 4 else 'hat 16ths'}" for n in range(1, 5))
        chart = read_chart(text)
        dice, notes, start = random.Random(5), [], F(0)
        for bar in chart.bars:
            for hit in bar.hits:
                at = float(start + hit.at) + dice.gauss(0, 8) * 100 / 60_000
                notes.append((max(0.0, at), hit.drum.row.key_written, 90))
            start += bar.length
        reading = open_midi(made(notes, tempo(100)))
        self.assertEqual(
            [bar.hits for bar in reading.chart.bars], [bar.hits for bar in chart.bars]
        )


class Together(unittest.TestCase):
    def test_strokes_of_one_drum_do_not_fall_together_where_a_finer_grid_parts_them(self):
        for parts in (6, 8):
            notes = [(n / 2, 42, 80) for n in range(8)]
            notes += [(2 + n / parts, 38, 90) for n in range(parts)]
            with self.subTest(parts):
                reading = open_midi(made(notes))
                snares = [
                    hit.at for hit in reading.chart.bars[0].hits if hit.drum is Drum.SNARE
                ]
                self.assertEqual(snares, [2 + F(n, parts) for n in range(parts)])

    def test_what_still_falls_together_is_told_of_its_bar(self):
        notes = [(0, 36, 90), (4, 38, 60), (4, 38, 90), (5, 38, 90), (5, 37, 80), (6, 42, 70)]
        reading = open_midi(made([*notes, (6, 46, 80)]))
        self.assertEqual([hit.at for hit in reading.chart.bars[1].hits], [0, 1, 2])
        self.assertEqual(
            reading.report[1].left_out,
            (
                "snare struck twice at one place; once is kept",
                "snare and cross-stick at one place; the snare is kept",
                "open hat and hat at one place; the open hat is kept",
            ),
        )

    def test_two_toms_at_once_are_two_toms(self):
        reading = open_midi(made([(0, 41, 90), (0, 45, 90)]))
        drums = {hit.drum for hit in reading.chart.bars[0].hits}
        self.assertEqual(drums, {Drum.TOM_FLOOR, Drum.TOM_MID})
        self.assertTrue(reading.report[0].whole)

    def test_as_many_notes_come_out_as_went_in_or_are_told(self):
        dice = random.Random(8)
        keys = (35, 36, 37, 38, 39, 40, 41, 42, 43, 44, 45, 46, 48, 50, 51, 54, 69, 82, 22, 26)
        for seed in range(40):
            notes = [
                (dice.uniform(0, 16), dice.choice(keys), dice.randint(1, 127))
                for _ in range(dice.randint(1, 120))
            ]
            reading = open_midi(made(notes, tempo(dice.choice((60, 120, 200)))))
            hits = [hit for bar in reading.chart.bars for hit in bar.hits]
            out = len(hits) + sum(hit.grace.notes for hit in hits)
            merged = 0
            for row in reading.report:
                for said in row.left_out:
                    if said.startswith("key "):
                        continue  # counted with the keys
                    many = said.rpartition("(")[2].rstrip(")")
                    merged += int(many) if many.isdigit() else 1
            unknown = sum(one.notes for one in reading.sources if one.drum is None)
            with self.subTest(seed):
                self.assertEqual(out + merged + unknown, len(notes))


class Graces(unittest.TestCase):
    def graces(self, *notes, bpm=120) -> list[Grace]:
        reading = open_midi(made(list(notes), tempo(bpm)))
        return [hit.grace for bar in reading.chart.bars for hit in bar.hits]

    def test_a_grace_lies_before_its_main_stroke_by_a_plausible_gap(self):
        def gap(ms):
            return 1 - ms * 120 / 60_000

        for ms, expected in (
            (0, [Grace.NONE]),  # two layers at one tick
            (5, [Grace.NONE]),  # a pad that rings twice
            (15, [Grace.FLAM]),
            (45, [Grace.FLAM]),
            (120, [Grace.NONE, Grace.NONE]),
        ):
            with self.subTest(ms):
                self.assertEqual(self.graces((gap(ms), 38, 40), (1, 38, 90)), expected)
        self.assertEqual(self.graces((gap(30), 38, 85), (1, 38, 90)), [Grace.NONE])
        self.assertEqual(
            self.graces((gap(60), 38, 40), (gap(30), 38, 40), (1, 38, 90)), [Grace.DRAG]
        )

    def test_a_roll_of_singles_that_grows_is_no_grace(self):
        notes = [(2 + n / 8, 38, 40 + 6 * n) for n in range(8)]  # 32nds at 160: 47 ms
        self.assertEqual(self.graces(*notes, bpm=160), [Grace.NONE] * 8)

    def test_a_cymbal_is_not_flammed(self):
        self.assertEqual(self.graces((0.94, 42, 40), (1, 42, 90)), [Grace.NONE])

    def test_it_is_told_of_its_bar(self):
        reading = open_midi(made([(0.94, 38, 40), (1, 38, 90)]))
        self.assertEqual(
            reading.report[0].guessed,
            ("a soft stroke just before a louder one read as grace notes",),
        )


class Tempos(unittest.TestCase):
    NOTES = tuple((n, 36, 90) for n in range(12))

    def marks(self, *metas) -> list[str]:
        chart = open_midi(two_tracks(self.NOTES, *metas)).chart
        return [str(bar.tempo) if bar.tempo else "" for bar in chart.bars]

    def test_no_tempo_means_120_and_a_late_one_starts_late(self):
        self.assertEqual(self.marks(), ["crotchet = 120", "", ""])
        self.assertEqual(self.marks(tempo(90, 4)), ["crotchet = 120", "crotchet = 90", ""])

    def test_a_change_inside_a_bar_is_told(self):
        reading = open_midi(two_tracks(self.NOTES, tempo(90), tempo(100, 6)))
        self.assertEqual([bar.tempo and bar.tempo.bpm for bar in reading.chart.bars],
                         [90, None, 100])  # fmt: skip
        self.assertIn("bar 2: the tempo changes inside the bar", told(reading))

    def test_the_beat_is_that_of_the_metre(self):
        self.assertEqual(self.marks(tempo(90), meter(6, 8))[0], "dotted crotchet = 60")

    def test_slower_than_any_mark_is_said_in_smaller_notes_or_told(self):
        self.assertEqual(self.marks(tempo(15))[0], "quaver = 30")
        reading = open_midi(two_tracks(self.NOTES, tempo(5)))
        self.assertEqual(str(reading.chart.tempo), "crotchet = 20")
        self.assertIn("a tempo of 5 crotchets a minute is read as 20", told(reading))


class BarLines(unittest.TestCase):
    NOTES = Tempos.NOTES

    def shapes(self, *metas) -> tuple[list[tuple[str, Fraction]], str]:
        reading = open_midi(two_tracks(self.NOTES, *metas))
        return [(str(b.meter), b.length) for b in reading.chart.bars], told(reading)

    def test_the_files_metres_make_them(self):
        bars, _ = self.shapes(meter(3, 4), meter(4, 4, 6))
        self.assertEqual(bars, [("3/4", 3), ("3/4", 3), ("4/4", 4), ("4/4", 4)])

    def test_a_change_inside_a_bar_cuts_it_short_and_is_told(self):
        bars, said = self.shapes(meter(4, 4), meter(3, 4, 6))
        self.assertEqual(bars, [("4/4", 4), ("4/4", 2), ("3/4", 3), ("3/4", 3)])
        self.assertIn("bar 2: the metre changes to 3/4 inside the bar, which is cut", said)

    def test_a_metre_that_is_not_read_is_told(self):
        bars, said = self.shapes(meter(4, 32))
        self.assertEqual({shape for shape, _ in bars}, {"4/4"})
        self.assertIn("a metre that is not read: metre 4/32", said)

    def test_a_pick_up_is_offered_and_not_assumed(self):
        data = made([(3, 38, 90), (3.5, 38, 90), *((n, 36, 90) for n in range(4, 12))])
        reading = open_midi(data)
        (offer,) = reading.offers
        self.assertEqual(
            offer.said, "bar 1 begins with 3 silent beats: read what follows them as a pick-up"
        )
        self.assertEqual((offer.taken, [b.number for b in reading.chart.bars]),
                         (False, ["1", "2", "3"]))  # fmt: skip
        chosen = open_midi(data, taken=("0",))
        self.assertEqual([b.number for b in chosen.chart.bars], ["0", "1", "2"])
        self.assertEqual(chosen.chart.bars[0].length, 1)
        self.assertEqual(places(chosen)[0], [0, F(1, 2)])
        self.assertEqual([row.number for row in chosen.report], ["0", "1", "2"])
        self.assertTrue(chosen.offers[0].taken)


class Keys(unittest.TestCase):
    def test_toms_by_their_rank(self):
        low, floor, mid, high = Drum.TOM_FLOOR_2, Drum.TOM_FLOOR, Drum.TOM_MID, Drum.TOM_HIGH
        for keys, drums in (
            ((43,), [floor]),
            ((41,), [floor]),
            ((45,), [mid]),
            ((50,), [high]),
            ((41, 43), [low, floor]),
            ((41, 45), [floor, mid]),
            ((43, 48), [floor, high]),
            ((45, 47), [mid, high]),
            ((43, 47, 50), [floor, mid, high]),
            ((45, 47, 48), [floor, mid, high]),
            ((41, 43, 47), [low, floor, mid]),
            ((41, 45, 48, 50), [low, floor, mid, high]),
            ((41, 43, 45, 47, 48, 50), [low, floor, floor, mid, mid, high]),
        ):
            with self.subTest(keys):
                self.assertEqual([drums_of(Counter(keys))[key][0] for key in keys], drums)

    def test_electronic_hats_and_names(self):
        self.assertEqual(
            [drums_of(Counter([22, 26]))[key][0] for key in (22, 26)],
            [Drum.HIHAT, Drum.HIHAT_OPEN],
        )
        # General MIDI's percussion key map.
        for key, name in ((39, "Hand Clap"), (54, "Tambourine"), (69, "Cabasa"),
                          (70, "Maracas"), (82, "Shaker")):  # fmt: skip
            self.assertEqual(said_of(key), f"key {key}, {name}")
        reading = open_midi(made([(0, 36, 90), (1, 39, 90), (2, 39, 90)]))
        self.assertEqual(reading.report[0].left_out, ("key 39, Hand Clap, is no drum here",))
        self.assertEqual([(one.said, one.notes) for one in reading.sources][1:],
                         [("key 39, Hand Clap", 2)])  # fmt: skip

    def test_a_single_track_on_another_channel_is_read_and_told(self):
        data = tracks_of(("", 0, BEAT))
        self.assertIn("track 1 on channel 1 is read as the drums", told(open_midi(data)))

    def test_a_track_is_known_by_its_name_and_told(self):
        data = tracks_of(("Piano", 0, TUNE), ("Drum Kit", 0, BEAT), ("Bass", 0, BASS))
        reading = open_midi(data)
        self.assertIn("Drum Kit on channel 1 is read as the drums, by its name", told(reading))
        self.assertEqual([part.chosen for part in reading.parts], [False, True, False])
        kicks = sum(many for (_, drum), many in struck(reading).items() if drum is Drum.KICK)
        self.assertEqual(kicks, 2)

    def test_a_track_is_known_by_what_is_played_on_it(self):
        data = tracks_of(("Track A", 0, TUNE), ("Track B", 1, BASS), ("Track C", 2, BEAT))
        reading = open_midi(data)
        self.assertIn(
            "Track C on channel 3 is read as the drums, by what is played", told(reading)
        )

    def test_an_instruments_name_is_no_title(self):
        data = tracks_of(("Piano", 0, TUNE), ("Drums", 0, BEAT))
        self.assertEqual(open_midi(data).chart.title, "")
        data = tracks_of(("Low Tide", 0, ()), ("Piano", 0, TUNE), ("Drums", 0, BEAT))
        self.assertEqual(open_midi(data).chart.title, "Low Tide")

    def test_all_tracks_on_channel_one_without_drums_is_no_drum_part(self):
        data = tracks_of(("Piano", 0, TUNE), ("Bass", 0, BASS))
        with self.assertRaisesRegex(ChartError, r"Piano \(8 notes on channel 1\), Bass"):
            open_midi(data)

    def test_channel_ten_goes_before_names_and_another_track_can_be_chosen(self):
        data = tracks_of(("Percussion", 0, BEAT), ("Ten", 9, BEAT[:2]))
        reading = open_midi(data)
        self.assertEqual([part.chosen for part in reading.parts], [False, True])
        self.assertEqual(sum(struck(reading).values()), 2)
        other = open_midi(data, parts=[reading.parts[0].key])
        self.assertEqual([part.chosen for part in other.parts], [True, False])
        self.assertEqual(sum(struck(other).values()), len(BEAT))

    def test_a_damaged_key_signature_is_passed_over(self):
        good = mido.MetaMessage("key_signature", key="C")
        data = made([(0, 36, 90), (1, 38, 90)], good)
        bad = data.replace(b"\xff\x59\x02\x00\x00", b"\xff\x59\x02\x55\x07")
        self.assertNotEqual(data, bad)
        self.assertEqual(places(open_midi(bad)), [[0, 1]])

    def test_a_title_has_no_control_characters(self):
        data = made([(0, 36, 90)], mido.MetaMessage("track_name", name="Quay\x00 \x07Wall"))
        self.assertEqual(open_midi(data).chart.title, "Quay Wall")


class Summary(unittest.TestCase):
    def test_it_is_never_better_than_the_list(self):
        clean = open_midi(made([(n, 36, 90) for n in range(8)]))
        self.assertEqual(str(clean.problems[0]), "every note lay on the grid")
        merged = open_midi(made([(0, 38, 90), (0, 38, 60), (1, 38, 90)]))
        self.assertIn("what was guessed or left out is told", str(merged.problems[0]))
