"""The microphone: a file in its place, rendered from the shipped sounds, with noise."""

import base64
import random
import tempfile
import wave
from functools import cached_property
from pathlib import Path

import mir_eval
import numpy
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.templatetags.static import static
from django.urls import reverse
from playwright.sync_api import expect, sync_playwright

from tests import mixes
from tests.browser.base import CHROMIUM, QUIET
from tests.studio.base import make_piece, make_plan, make_student, make_teacher
from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.performance import perform
from wren_ladder.studio.climb.models import Take
from wren_ladder.studio.climb.takes import bars_of, share_of
from wren_ladder.studio.drawing.sound import LEAD, sound_of_take

RATE = 48_000
NOISE = 10 ** (-20 / 20)  # of the sound's own level: 20 dB below
WINDOW = 0.015  # seconds
PAD = "tempo crotchet = 100\nbar 1\nsnare 1 2 2& 3 4\nbar 2 as 1\n"
RHYTHM = (0, 1, 1.5, 2, 3)  # its strokes, in crotchets
BEAT = 0.6  # seconds of a crotchet
COUNTED = 2.4  # seconds of the count-in
FAKE = ("--use-fake-device-for-media-stream", "--use-fake-ui-for-media-stream")
LOUD = "--autoplay-policy=no-user-gesture-required"
# What the worklet tells of the file in the microphone's place, while it lasts.
LISTEN = """async ([address, seconds]) => {
  const context = new AudioContext({ sampleRate: 48000 });
  await context.resume();
  await context.audioWorklet.addModule(address);
  const plain = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };
  const stream = await navigator.mediaDevices.getUserMedia({ audio: plain });
  const node = new AudioWorkletNode(context, "onsets", { numberOfOutputs: 0 });
  const found = [];
  node.port.onmessage = ({ data }) => found.push(data);
  context.createMediaStreamSource(stream).connect(node);
  await new Promise((go) => setTimeout(go, seconds * 1000));
  stream.getTracks().forEach((track) => track.stop());
  return found;
}"""


def pad_strokes(dice: random.Random) -> list[tuple[float, Drum, float]]:
    """Two seconds each of 2, 4 .. 12 strokes a second, some strong and some soft."""
    found, at = [], 1.0
    for each in (2, 4, 6, 8, 10, 12):
        for _ in range(2 * each):
            found.append((at + dice.gauss(0, 0.004), Drum.SNARE, dice.choice((0.4, 0.65, 0.9))))
            at += 1 / each
    return found


class Microphone(StaticLiveServerTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.playwright = sync_playwright().start()
        cls.folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(cls.folder.cleanup)
        cls.addClassCleanup(cls.playwright.stop)

    def setUp(self):
        student = make_student(make_teacher(), grade=2)
        self.plan = make_plan(make_piece(student.owner, PAD), student, 80, 100)
        self.step = self.plan.steps.filter(kind=StepKind.BAR).first()

    def browse(self, *more):
        browser = self.playwright.chromium.launch(
            executable_path=CHROMIUM, args=[*QUIET, LOUD, *more]
        )
        self.addCleanup(browser.close)
        page = browser.new_page()
        page.set_default_timeout(20_000)
        page.goto(f"{self.live_server_url}/log-in/")
        page.get_by_label("Username").fill("ada")
        page.get_by_label("Password").fill("a-long-password")
        page.get_by_role("button", name="Log in").click()
        page.locator(".desk-head h1").wait_for()
        page.goto(self.live_server_url + reverse("step", args=[self.step.pk]))
        page.get_by_text("Record a take").click()
        return page

    @cached_property
    def renderer(self):
        return self.browse()

    def recorded(self, heard, seconds: float, silence: float = 0.0) -> Path:
        """A WAV of some strokes, with seeded noise 20 dB below them all along."""
        performance = perform(bars_of(self.step), share_of(self.step, 100))
        score = sound_of_take(performance, 1, heard, False)
        bars = [[0.0, seconds, "", 1, 0, seconds / 2, 0]]  # as long as the file
        data = self.renderer.evaluate(
            mixes.RENDER, [{**score, "pulses": [], "bars": bars}, seconds, RATE]
        )
        sound = numpy.frombuffer(base64.b64decode(data), "<i2").astype(float)
        sound = numpy.concatenate([numpy.zeros(int(silence * RATE)), sound])
        level = numpy.sqrt(numpy.mean(sound[sound != 0] ** 2))
        sound += numpy.random.default_rng(5).normal(0, NOISE * level, len(sound))
        path = Path(self.folder.name) / f"{len(heard)}-{seconds}.wav"
        with wave.open(str(path), "wb") as file:
            file.setnchannels(1)
            file.setsampwidth(2)
            file.setframerate(RATE)
            file.writeframes(numpy.clip(sound, -32767, 32767).astype("<i2").tobytes())
        return path

    def listening(self, path: Path):
        return self.browse(*FAKE, f"--use-file-for-fake-audio-capture={path}%noloop")

    @property
    def onsets(self) -> str:
        return self.live_server_url + static("wren/room/onsets.js")

    def test_strokes_are_found_where_they_are(self):
        """mir_eval's onset F-measure within 15 ms, after the delay is taken off."""
        strokes = pad_strokes(random.Random(11))
        path = self.recorded(strokes, 15.0)
        with wave.open(str(path)) as file:
            data = base64.b64encode(file.readframes(file.getnframes())).decode()
        told = self.renderer.evaluate(mixes.READ, [self.onsets, data, RATE])
        f, error = measured(strokes, told)
        self.assertGreaterEqual(f, 0.97, (f, error, len(told), len(strokes)))
        self.assertLess(error, 0.003)

    def test_a_kick_is_heard_once_in_noise_in_a_room_and_beside_a_click(self):
        """Own sounds, drum by drum: what is masked by another drum is no test's (`mixes`)."""
        found = {}
        for whose, drums, room, rate in mixes.cases():
            if whose == "own" and len(mixes.SETS[drums]) == 1:
                case = (self.renderer, self.onsets, whose, drums, room, rate)
                found[drums, room] = mixes.heard(*case)
        recall = [one.recall for one in found.values()]
        self.assertGreaterEqual(numpy.mean(recall), 0.97, found)
        self.assertGreaterEqual(min(recall), 0.88, found)
        self.assertLess(numpy.mean([one.false for one in found.values()]), 0.03, found)
        self.assertLess(max(one.false for one in found.values()), 0.1, found)
        self.assertEqual(len(found), 12)

    def test_and_through_the_browsers_microphone(self):
        strokes = pad_strokes(random.Random(12))
        path = self.recorded(strokes, 15.0)
        told = self.listening(path).evaluate(LISTEN, [self.onsets, 15.5])
        # How well depends on how busy the machine is, so that is no test's: see above.
        self.assertGreater(len(told), 0)

    def test_a_take_on_the_pad_is_recorded_judged_and_told_without_limbs(self):
        strokes = [
            (BEAT * (4 * number + at), Drum.SNARE, 0.8) for number in (0, 1) for at in RHYTHM
        ]
        path = self.recorded(strokes, 6.0, silence=COUNTED)
        page = self.listening(path)
        page.get_by_label("times", exact=True).fill("2")
        page.get_by_label("at", exact=True).fill("100")
        page.get_by_role("button", name="Record by microphone").click()
        nothing = page.get_by_text("Nothing was heard.")  # a machine that is busy loses sound
        page.get_by_role("heading", name="Take of Bar 1").or_(nothing).wait_for(timeout=45_000)
        if nothing.count():
            self.skipTest("this machine was too busy to hear in real time")
        expect(page.get_by_text("a microphone, 2 times through at 100")).to_be_visible()
        take = Take.objects.get()
        self.assertEqual({(drum, strong) for _, drum, strong in take.strokes}, {("", None)})

    def test_its_delay_is_measured_by_sixteen_taps_and_kept_on_the_device(self):
        beat = 60 / 90
        taps = [(beat * number, Drum.SNARE, 0.8) for number in range(24)]
        path = self.recorded(taps, 16.5)
        page = self.listening(path)
        page.get_by_text("Your kit, your microphone, their delay").click()
        page.get_by_role("button", name="Tap it for the microphone").click()
        told = page.get_by_text("measured to within")
        uneven = page.get_by_text("too uneven to measure by")  # a busy machine loses sound
        few = page.get_by_text("are needed. Tap once")
        told.or_(uneven).or_(few).wait_for(timeout=40_000)
        kept = page.evaluate("() => JSON.parse(localStorage.getItem('wren-set-up') || '{}')")
        known = kept.get("delays", {}).get("microphone")
        self.assertEqual(known is not None, told.count() == 1)
        if known:
            self.assertIn(f"{known['latency']} ms late", told.inner_text())


def measured(strokes, told) -> tuple[float, float]:
    """(F within 15 ms, mean error in seconds), the constant delay taken off."""
    meant = numpy.array(sorted(at + LEAD for at, *_ in strokes))
    heard = numpy.array([at for at, _ in told] or [0.0])
    best = max(numpy.arange(-3, 3, 0.005), key=lambda off: _f(meant, heard - off, 0.05))
    pairs = mir_eval.util.match_events(meant, numpy.sort(heard - best), 0.05)
    if not pairs:
        return 0.0, 1.0
    late = [numpy.sort(heard)[j] - meant[i] for i, j in pairs]
    delay = numpy.median(late)
    return _f(meant, heard - delay, WINDOW), numpy.mean([abs(one - delay) for one in late])


def _f(meant, heard, window) -> float:
    heard = numpy.sort(heard[heard >= 0])
    return mir_eval.onset.f_measure(meant, heard, window=window)[0]
