"""What a microphone may hear of a kit: the house's own sounds and made-up ones, with a click,
the noise of a room and its reverb. Made when they are asked for, seeded."""

import base64
import random
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

import mir_eval
import numpy

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.study import study
from wren_ladder.studio.drawing.sound import LEAD, sound_of_take

SECONDS = 14.0
NOISE = 10 ** (-30 / 20)  # of full scale
APART = 0.045  # seconds: what is nearer is one onset
NEAR = 0.025  # seconds by which a stroke is found
# Damped tones: (hertz, seconds until a third is left, share of noise, seconds of its attack).
MADE_UP = {
    Drum.KICK: (52, 0.16, 0.08, 0.004),
    Drum.TOM_FLOOR: (78, 0.28, 0.05, 0.003),
    Drum.TOM_HIGH: (160, 0.14, 0.06, 0.002),
    Drum.SNARE: (190, 0.06, 0.6, 0.001),
    Drum.HIHAT: (6200, 0.03, 0.9, 0.001),
}
SETS: dict[str, tuple[Drum, ...]] = {
    "kick": (Drum.KICK,),
    "floor tom": (Drum.TOM_FLOOR,),
    "snare": (Drum.SNARE,),
    "hat": (Drum.HIHAT,),
    "toms": (Drum.TOM_HIGH, Drum.TOM_FLOOR),
    "kick, snare and hat": (Drum.KICK, Drum.SNARE, Drum.HIHAT),
}
# Samples of a score as the page plays it, without click, in base64.
RENDER = """async ([score, seconds, rate]) => {
  const choice = { kit: 1, click: false, countIn: false, rounds: 1 };
  const { render } = await wren.rehearse(score, choice, seconds, rate);
  const data = (await render()).getChannelData(0), whole = new Int16Array(data.length);
  data.forEach((one, n) => { whole[n] = Math.round(32000 * Math.max(-1, Math.min(1, one))); });
  let text = "";
  const bytes = new Uint8Array(whole.buffer);
  for (let n = 0; n < bytes.length; n += 8192) {
    text += String.fromCharCode(...bytes.subarray(n, n + 8192));
  }
  return btoa(text);
}"""
# What the worklet tells of samples, without a clock: how busy the machine is does not matter.
READ = """async ([address, text, rate]) => {
  const bytes = Uint8Array.from(atob(text), (one) => one.charCodeAt(0));
  const whole = new Int16Array(bytes.buffer);
  const context = new OfflineAudioContext(1, whole.length, rate);
  await context.audioWorklet.addModule(address);
  const buffer = context.createBuffer(1, whole.length, rate);
  buffer.copyToChannel(Float32Array.from(whole, (one) => one / 32768), 0);
  const node = new AudioWorkletNode(context, "onsets", { numberOfOutputs: 0 });
  const found = [];
  node.port.onmessage = ({ data }) => found.push(data);
  const source = context.createBufferSource();
  source.buffer = buffer;
  source.connect(node);
  source.start();
  await context.startRendering();
  for (let quiet = 0, many = -1; quiet < 5; quiet += 1) {
    await new Promise((go) => setTimeout(go, 40));
    if (found.length !== many) { quiet = 0; many = found.length; }
  }
  return found;
}"""


@dataclass(frozen=True, slots=True)
class Heard:
    recall: float
    false: float  # of what was told, the share that nobody struck


def strokes(drums: Sequence[Drum], seed: int) -> list[tuple[float, Drum, float]]:
    dice, found, at = random.Random(seed), [], 0.5
    while at < SECONDS - 1:
        drum = dice.choice(drums)
        found.append((at, drum, dice.choice((0.4, 0.65, 0.9))))
        if len(drums) > 1 and dice.random() < 0.2:
            other = dice.choice([one for one in drums if one is not drum])
            found.append((at, other, 0.7))
        at += dice.choice((0.15, 0.2, 0.25, 0.33, 0.5, 0.75)) + dice.gauss(0, 0.004)
    return found


def made_up(played: Sequence[tuple[float, Drum, float]], rate: int, seed: int) -> numpy.ndarray:
    dice, sound = numpy.random.default_rng(seed), numpy.zeros(int(SECONDS * rate))
    for at, drum, strength in played:
        hertz, lasts, noise, attack = MADE_UP[drum]
        t = numpy.arange(int(min(1.2, 7 * lasts) * rate)) / rate
        falling = numpy.exp(-t / lasts) * numpy.minimum(1, t / attack)
        # A drum's tone falls a little, and its head is noisy at first.
        tone = numpy.sin(2 * numpy.pi * hertz * (t + 0.15 * lasts * (1 - numpy.exp(-t / 0.03))))
        head = dice.normal(0, 1, len(t)) * numpy.exp(-t / min(lasts, 0.02))
        one = strength * falling * ((1 - noise) * tone + noise * head)
        first = int((LEAD + at) * rate)
        one = one[: len(sound) - first]
        sound[first : first + len(one)] += one
    return sound / max(1e-9, numpy.abs(sound).max())


def rendered(page, played, rate: int) -> numpy.ndarray:
    """The house's own sounds."""
    road = study(read_chart("tempo crotchet = 100\nsnare 1", title="Mix")).road
    score = {**sound_of_take(perform(road), 1, played, False), "length": SECONDS, "pulses": []}
    bars = [[0.0, SECONDS, "", 1, 0, SECONDS / 2, 0]]
    data = page.evaluate(RENDER, [{**score, "bars": bars}, SECONDS, rate])
    sound = numpy.frombuffer(base64.b64decode(data), "<i2").astype(float)
    return sound / max(1.0, numpy.abs(sound).max())


def with_noise(sound, rate, dice):
    return sound * 0.7 + dice.normal(0, NOISE * 0.7, len(sound))


def with_reverb(sound, rate, dice):
    """Of a room of 0.35 seconds."""
    t = numpy.arange(int(0.4 * rate)) / rate
    tail = dice.normal(0, 1, len(t)) * 10 ** (-3 * t / 0.35)
    wet = numpy.fft.irfft(
        numpy.fft.rfft(sound, len(sound) + len(t)) * numpy.fft.rfft(tail, len(sound) + len(t))
    )[: len(sound)]
    wet *= 0.35 * numpy.sqrt(numpy.mean(sound**2) / max(1e-12, numpy.mean(wet**2)))
    return with_noise(sound + wet, rate, dice)


def with_click(sound, rate, dice):
    return with_noise(sound + clicks(rate), rate, dice)


def clicks(rate: int) -> numpy.ndarray:
    sound, t = numpy.zeros(int(SECONDS * rate)), numpy.arange(int(0.03 * rate)) / rate
    for at in click_times():
        first = int(at * rate)
        sound[first : first + len(t)] += (
            0.2 * numpy.sin(2 * numpy.pi * 1500 * t) * numpy.exp(-t / 0.008)
        )
    return sound


def click_times() -> list[float]:
    return [0.6 * n for n in range(1, int(SECONDS / 0.6))]


ROOMS: dict[str, Callable] = {"noise": with_noise, "reverb": with_reverb, "click": with_click}


def cases(rates=(44_100, 48_000)) -> Iterator[tuple[str, str, str, int]]:
    """(whose sounds, which drums, which room, samples a second)."""
    for number, (whose, drums, room) in enumerate(
        (whose, drums, room) for whose in ("own", "made up") for drums in SETS for room in ROOMS
    ):
        yield whose, drums, room, rates[number % len(rates)]


def heard(page, address: str, whose: str, drums: str, room: str, rate: int) -> Heard:
    """What the worklet at this address finds of it."""
    seed = len(drums) + 7 * len(room)
    played = strokes(SETS[drums], seed)
    sound = made_up(played, rate, seed) if whose == "made up" else rendered(page, played, rate)
    sound = ROOMS[room](sound, rate, numpy.random.default_rng(seed))
    data = (32000 * sound / max(1.0, numpy.abs(sound).max())).astype("<i2").tobytes()
    told = page.evaluate(READ, [address, base64.b64encode(data).decode(), rate])
    return measured(played, [at for at, _ in told], click_times() if room == "click" else ())


def _found(meant: numpy.ndarray, told: numpy.ndarray) -> int:
    return sum(bool(numpy.abs(told - at).min() < 0.02) for at in meant)


def measured(played, told, clicked=()) -> Heard:
    """A constant delay is taken off; the click's own onsets are neither right nor wrong."""
    meant = []
    for at, *_ in sorted(played):
        if not meant or LEAD + at - meant[-1] > APART:
            meant.append(LEAD + at)
    meant, told = numpy.array(meant), numpy.sort(numpy.array(told or [0.0]))
    off = max(numpy.arange(-0.1, 0.6, 0.01), key=lambda off: _found(meant, told - off))
    pairs = mir_eval.util.match_events(meant, told - off, 0.05)
    delay = numpy.median([told[j] - meant[i] for i, j in pairs]) if pairs else 0.0
    pairs = mir_eval.util.match_events(meant, told - delay, NEAR)
    right = {j for _, j in pairs}
    wrong = [
        at for j, at in enumerate(told)
        if j not in right and all(not -NEAR <= at - one < 2 * NEAR for one in clicked)
    ]  # fmt: skip
    return Heard(len(pairs) / len(meant), len(wrong) / max(1, len(told)))
