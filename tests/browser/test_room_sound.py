"""What the practice room plays, looked at as sound: rendered by the browser's own offline audio
through the same script, against the onsets, clicks and MIDI file that the core works out.
"""

import io
from fractions import Fraction
from itertools import pairwise

import mido

from tests.browser.base import BrowserTest
from tests.studio.base import make_teacher
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.performance.midi import write_midi
from wren_ladder.drumming.study import study
from wren_ladder.studio.drawing.sound import sound_of

START = 0.08  # seconds from the beginning of what is rendered to the first click
MILLISECOND = 0.001
FIND = """async ([score, choice, seconds, rate, quiet]) => {
  const { marks, render } = await wren.rehearse(score, choice, seconds, rate);
  const data = (await render()).getChannelData(0), found = [];
  let peak = 0, last = -1e9;
  for (let i = 0; i < data.length; i += 1) {
    const loud = Math.abs(data[i]);
    if (loud > peak) peak = loud;
    if (loud < 0.002) continue;
    if (i - last > quiet * rate) found.push(i / rate); // the rise after silence
    last = i;
  }
  return { found, peak, marks: marks.filter((one) => one.audio < seconds) };
}"""
SCHEDULE = """async ([score, choice, seconds]) => {
  const change = (at, player) => (choice.tempos || []).filter(([when]) => at > when)
    .forEach(([, bpm]) => { player.choice.bpm = bpm; player.tempo(bpm); });
  return (await wren.rehearse(score, choice, seconds, 8000, change)).marks;
}"""
ENERGY = """async ([score, choice, seconds, from, to]) => {
  const { render } = await wren.rehearse(score, choice, seconds, 44100);
  const data = (await render()).getChannelData(0).slice(from * 44100, to * 44100);
  return Math.sqrt(data.reduce((sum, one) => sum + one * one, 0) / data.length);
}"""

GROOVE = "meter 4/4\ntempo crotchet = 97\nhat 8ths\nsnare 2 4\nkick 1 3 3&\n"
SEVEN = "meter 7/8\ntempo quaver = 180\nhat 1 3 5 6 7\nsnare 5\nkick 1\n"
SWUNG = "meter 4/4\ntempo crotchet = 120\nswing\nride 8ths\nhat foot 2 4\n"
CHANGING = """meter 4/4
tempo crotchet = 100
bar 1
hat 8ths
snare 2 4
bar 2
tempo crotchet = 140
hat 8ths
bar 3
hat 1
fermata 1
"""


def score_of(text: str, bpm: int) -> dict:
    studied = study_of(text)
    road, share = studied.road, Fraction(bpm, studied.chart.tempo.bpm)
    return sound_of(road, [studied.bars[one.index] for one in road], bpm, share)


def sounded(text: str):
    """(score, performance) of a chart along its road, at its own tempo."""
    studied = study_of(text)
    performance = perform(studied.road, count_in=True)
    return score_of(text, bpm=studied.chart.tempo.bpm), performance


class Sound(BrowserTest):
    def setUp(self):
        super().setUp()
        make_teacher()
        self.log_in()
        self.go("/workshop/").wait_for_function("() => window.wren !== undefined")

    def near(self, found, expected, error=MILLISECOND):
        self.assertEqual(len(found), len(expected))
        worst = max(abs(one - other) for one, other in zip(found, expected, strict=True))
        self.assertLess(worst, error)

    def test_five_minutes_of_click_do_not_drift_at_any_tempo(self):
        seconds, rate = 300, 8000
        score = score_of(GROOVE, bpm=97)
        for bpm in (30, 60, 97, 120, 208):
            with self.subTest(bpm):
                choice = {"bpm": bpm, "kit": 0}
                heard = self.page.evaluate(FIND, [score, choice, seconds, rate, 0.05])
                gap, count = 60 / bpm, int((seconds - START) * bpm / 60) + 1
                expected = [START + place * gap for place in range(count)]
                expected = [at for at in expected if at < seconds - 0.01]
                # Of each click, rendered at 8 kHz: a sample lasts an eighth of a millisecond.
                self.near(heard["found"][: len(expected)], expected)

    def test_every_stroke_is_scheduled_where_the_core_has_it(self):
        for text in (GROOVE, SEVEN, SWUNG, CHANGING):
            with self.subTest(text):
                score, performance = sounded(text)
                length = START + performance.before + performance.seconds
                marks = self.page.evaluate(SCHEDULE, [score, {"rounds": 1}, length])
                zero = START + performance.before
                strokes = sorted(one["audio"] for one in marks if one["what"] == "stroke")
                self.near(strokes, [zero + one.at for one in performance.onsets])
                clicks = [one["audio"] for one in marks if one["what"] in ("count", "click")]
                self.near(sorted(clicks), [zero + one.at for one in performance.clicks])

    def test_the_snare_is_heard_when_it_is_scheduled(self):
        score, performance = sounded("meter 4/4\ntempo crotchet = 60\nsnare 1 2 3 4\n")
        choice = {"rounds": 1, "clickGain": 0}
        heard = self.page.evaluate(FIND, [score, choice, 8.2, 44100, 0.25])
        expected = [START + performance.before + one.at for one in performance.onsets]
        # The samples' attacks reach 30 % of their peak within 0.3 to 4.7 ms.
        self.near(heard["found"], expected, 5 * MILLISECOND)

    def test_the_schedule_is_the_midi_file_to_the_tick(self):
        for text in (GROOVE, SEVEN, SWUNG):
            score, performance = sounded(text)
            marks = self.page.evaluate(SCHEDULE, [score, {"rounds": 1}, 12])
            file = mido.MidiFile(file=io.BytesIO(write_midi(perform(study_of(text).road))))
            ticks, now = [], 0
            for message in mido.merge_tracks(file.tracks):
                now += message.time
                if message.type == "note_on" and message.velocity and message.note != 33:
                    ticks.append(now)
            tempo = next(m for m in file.tracks[0] if m.type == "set_tempo").tempo
            per_second = file.ticks_per_beat * 1_000_000 / tempo
            zero = START + performance.before
            played = sorted(
                round((one["audio"] - zero) * per_second)
                for one in marks
                if one["what"] == "stroke"
            )
            struck = sorted(set(ticks))
            self.assertLessEqual(set(played), set(struck))
            self.assertTrue(played)

    def test_two_hundred_rounds_have_one_length(self):
        score = score_of(GROOVE, bpm=97)
        bar = 4 * 60 / 208
        marks = self.page.evaluate(SCHEDULE, [score, {"bpm": 208, "gap": 1}, 1 + 201 * 2 * bar])
        rounds = [one["audio"] for one in marks if one["what"] == "round"][:200]
        lasting = [(after - rounds[0]) / place for place, after in enumerate(rounds) if place]
        self.near(lasting, [2 * bar] * 199, 1e-8)

    def test_a_silenced_limb_takes_its_own_strokes_away_and_no_other(self):
        score = score_of(GROOVE, bpm=97)
        kick = score["limbs"].index("right foot")
        every, without = (
            self.page.evaluate(SCHEDULE, [score, {"rounds": 1, "limbs": limbs}, 6])
            for limbs in ({}, {kick: 0})
        )

        def strokes(marks, *limbs):
            return [
                (one["limb"], round(one["audio"], 6), bool(one["loud"]))
                for one in marks
                if one["what"] == "stroke" and one["limb"] in limbs
            ]

        others = [place for place in range(4) if place != kick]
        self.assertEqual(strokes(every, *others), strokes(without, *others))
        self.assertEqual({loud for *_, loud in strokes(without, kick)}, {False})
        self.assertEqual({loud for *_, loud in strokes(every, kick)}, {True})

    def test_a_change_of_tempo_makes_no_gap_and_nothing_twice(self):
        score = score_of(GROOVE, bpm=97)
        choice = {"tempos": [[5.03, 120], [9.4, 61]], "bpm": 97}
        marks = self.page.evaluate(SCHEDULE, [score, choice, 20])
        clicks = [one["audio"] for one in marks if one["what"] in ("click", "count")]
        gaps = [after - before for before, after in pairwise(clicks)]
        slow, first, fast = 60 / 61, 60 / 97, 60 / 120
        for gap in gaps:
            self.assertTrue(fast - 1e-4 < gap < slow + 1e-4, gap)
        steady = [gap for gap in gaps if min(abs(gap - g) for g in (slow, first, fast)) < 1e-4]
        self.assertLessEqual(len(gaps) - len(steady), 2)  # the beats with a change inside

    def test_empty_bars_click_patterns_and_bars_without_click(self):
        score = score_of(GROOVE, bpm=120)
        bars = 4 * 0.5
        zero = START + bars

        def clicks(**choice):
            given = {"bpm": 120, "rounds": 2, **choice}
            marks = self.page.evaluate(SCHEDULE, [score, given, 15])
            return [round(m["audio"] - zero, 4) for m in marks if m["what"] == "click"]

        self.assertEqual(len(clicks(gap=2)), 4 * 6)
        self.assertEqual(clicks(pattern=6), [0, 2])  # 1 only
        self.assertEqual(clicks(pattern=4, rounds=1), [0.5, 1.5])  # 2 and 4
        self.assertEqual(clicks(pattern=5, rounds=1), [0.25, 0.75, 1.25, 1.75])
        self.assertEqual(clicks(on=1, off=1), [0, 0.5, 1, 1.5])  # the second round is silent

    def test_nothing_clips_and_the_open_hat_is_choked(self):
        accents = "crash 1, accent 1\nsnare 8ths, accent 1 2 3 4\nkick 8ths\n"
        score = score_of(f"meter 4/4\ntempo crotchet = 120\n{accents}", bpm=120)
        found = self.page.evaluate(FIND, [score, {"clickGain": 1}, 12, 44100, 0.05])
        self.assertTrue(0.2 < found["peak"] < 1, found["peak"])
        level = []
        for closing in ("hat 1 open\n", "hat 1 open\nhat 2\n"):
            text = f"meter 4/4\ntempo crotchet = 120\n{closing}"
            choice = {"clickGain": 0, "countIn": False, "rounds": 1}
            window = [START + 0.8, START + 0.95]  # after the closed hat has rung out
            level.append(
                self.page.evaluate(ENERGY, [score_of(text, bpm=120), choice, 3, *window])
            )
        self.assertGreater(level[0], 4 * level[1])

    def test_a_ghost_is_duller_and_not_only_softer(self):
        score = score_of(
            "meter 4/4\ntempo crotchet = 60\nsnare 1 2, ghost 1, accent 2\n", bpm=60
        )
        voices = {row[6]: score["voices"][row[1]] for row in score["strokes"]}
        (_, ghost, dull, *_), (_, accent, bright, *_) = voices[0], voices[1]
        self.assertTrue(ghost < accent / 3 and dull < bright / 2)

    def test_a_part_of_a_bar_and_the_count_aloud(self):
        score = score_of(GROOVE, bpm=120)
        second = score["bars"][0][5]
        self.assertEqual(second, 1.0)
        choice = {"bpm": 120, "from": second, "rounds": 1, "aloud": True, "wordGain": 1}
        marks = self.page.evaluate(SCHEDULE, [score, choice, 6])
        zero = START + 2.0
        strokes = [round(m["audio"] - zero, 3) for m in marks if m["what"] == "stroke"]
        self.assertEqual(sorted(set(strokes)), [0, 0.25, 0.5, 0.75])
        silent = {"kit": 0, "clickGain": 0, "bpm": 60, "rounds": 1, "countIn": False}
        slow = score_of("meter 4/4\ntempo crotchet = 60\nhat 1 2 3 4\n", bpm=60)
        choice = {**silent, "aloud": True}
        heard = self.page.evaluate(FIND, [slow, choice, 4.2, 44100, 0.3])
        self.near(heard["found"], [START + place for place in range(4)], 0.05)


def study_of(text: str):
    return study(read_chart(text, title="Sounded"))
