"""A performance as the practice room of a page plays it: times in seconds, voices by number.

The script plays what stands here and works out nothing of the trade.
"""

from collections.abc import Sequence
from dataclasses import astuple

from quicktions import Fraction

from wren_ladder.drumming.building.parts import middle
from wren_ladder.drumming.chart import Bar, Drum, Meter, Tempo
from wren_ladder.drumming.counting import count_in
from wren_ladder.drumming.counting.spoken import SAMPLES
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.notation.reading import Heard
from wren_ladder.drumming.performance import Performance, PlayedBar, perform, seconds
from wren_ladder.drumming.performance.clock import bar_seconds
from wren_ladder.drumming.performance.looped import instead_of_the_crash
from wren_ladder.drumming.performance.onset import BarSpan, Onset
from wren_ladder.drumming.performance.pulse import ClickPattern, pulses
from wren_ladder.drumming.performance.recorded import RecordedTime
from wren_ladder.drumming.performance.voice import Voice, voice_of
from wren_ladder.drumming.study import BarStudy, study_bar
from wren_ladder.drumming.style import HOUSE

PATTERNS = tuple(ClickPattern)
LIMBS = tuple(Limb)
SILENT = -1  # in place of a limb
LEAD = 0.25  # seconds before a take, for what came early
RINGS = 1.0  # seconds after the last stroke of a file


def sound_of(
    played: Sequence[PlayedBar],
    studied: Sequence[BarStudy],
    bpm: int,
    share: Fraction = Fraction(1),
    gap: int = 0,
    recorded: RecordedTime | None = None,
) -> dict:
    """For JSON: bars in turn with their studies. ``bpm`` is what the page calls the tempo of
    this performance; at another one the script scales all times but ``ahead``. ``gap`` is how
    many empty bars come between two rounds. Beside a recording all times are its own seconds.

    strokes: [seconds of the main stroke, voice, limb, drum, seconds ahead of it, turn of its
    bar, place of its hit, voice from the second round on where that is another one].
    bars: [start, seconds, number, which time, its count-in, where its second half starts,
    index in the piece].
    pulses: [seconds, 2 on 1 and 1 on a beat, bits of the patterns that click there].
    syllables: [seconds, what is said, 1 for a beat]; spoken: what is said -> its sample.
    """
    performance = perform(played, share)
    when = recorded.second if recorded else float
    voices: dict[Voice, int] = {}
    drums: dict[str, int] = {}
    again = [instead_of_the_crash(one.bar) for one in played]

    def voice(drum, strength):
        return voices.setdefault(voice_of(drum, strength), len(voices))

    def stroke(one: Onset) -> list:
        row = [
            _round(when(one.at + one.ahead)),
            voice(one.drum, one.strength),
            LIMBS.index(one.limb) if one.limb else SILENT,
            drums.setdefault(one.drum.spoken, len(drums)),
            _round(one.ahead),
            one.turn,
            one.hit,
        ]
        other = again[one.turn].get(one.hit)
        return [*row, voice(other, one.strength)] if other else row

    strokes = sorted(map(stroke, performance.onsets))
    count_ins = _CountIns(share)
    syllables = _syllables(played, studied, performance.bars, share, when)
    said = {say for _, say, _ in syllables}.union(*(count_in(one.bar).words for one in played))
    return {
        "bpm": bpm,
        "length": _round(when(performance.seconds)),
        "gap": gap,
        "strokes": strokes,
        "voices": [astuple(one) for one in voices],
        "limbs": [limb.value for limb in LIMBS],
        "drums": list(drums),
        "bars": [
            [
                _exactly(when(span.at)),
                _exactly(when(span.at + span.seconds) - when(span.at)),
                one.bar.number,
                span.time,
                count_ins.of(one.bar, one.tempo, _pace(when, span)),
                _round(when(span.at + _half(one, share)) - when(span.at)),
                one.index,
            ]
            for one, span in zip(played, performance.bars, strict=True)
        ],
        "countIns": count_ins.found,
        "pulses": [
            [_round(when(one.at)), one.is_beat + one.is_first, _bits(one.patterns)]
            for one in pulses(played, performance)
        ],
        "syllables": syllables,
        "spoken": {say: SAMPLES[say] for say in sorted(said) if say in SAMPLES},
    }


def sound_of_bars(bars: Sequence[BarStudy], tempo: Tempo) -> dict:
    """Some bars one after the other, all at one tempo."""
    played = [PlayedBar(bar.bar, bar.sticks, tempo, swing=bar.swing) for bar in bars]
    return sound_of(played, bars, tempo.bpm)


def click_alone(bpm: int) -> dict:
    """A bar of four with nothing in it, to warm up to."""
    tempo = Tempo(Fraction(1), bpm)
    return sound_of_bars([study_bar(Bar("1", Meter(4, 4), ()), tempo, HOUSE)], tempo)


class _CountIns:
    """The different counts that the bars call for, each once: [seconds before the bar, each
    click's seconds from it, the words]."""

    def __init__(self, share: Fraction) -> None:
        self.share = share
        self.found: list[list] = []

    def of(self, bar: Bar, tempo: Tempo, pace: float) -> int:
        counted = count_in(bar)
        before = seconds(counted.length, tempo, self.share) * pace
        clicks = [
            _round(seconds(at, tempo, self.share) * pace - before) for at in counted.clicks
        ]
        row = [_round(before), clicks, list(counted.words)]
        if row not in self.found:
            self.found.append(row)
        return self.found.index(row)


def _pace(when, span: BarSpan) -> float:
    """Seconds of the recording that a second of the notes lasts in this bar."""
    return (when(span.at + span.seconds) - when(span.at)) / span.seconds


def _half(one: PlayedBar, share: Fraction) -> float:
    return bar_seconds(middle(one.bar), one.tempo, share, one.graduals)


def _syllables(played, studied, spans, share, when) -> list[list]:
    """What is said aloud over the bars: every beat, and between them what is played."""
    return [
        [_round(when(span.at + _later(one, count.at, share))), count.say, int(count.main)]
        for one, bar, span in zip(played, studied, spans, strict=True)
        for count in bar.counts
        if count.main or not count.silent
    ]


def _later(one: PlayedBar, at: Fraction, share: Fraction) -> float:
    """Seconds from where its bar starts until a place in it sounds."""
    return bar_seconds(one.sounds_at(at), one.tempo, share, one.graduals)


def _bits(patterns) -> int:
    return sum(1 << PATTERNS.index(pattern) for pattern in patterns)


def _round(value: float) -> float:
    return round(value, 5)


def _exactly(value: float) -> float:
    """Of what is added up round after round."""
    return round(value, 10)


def sound_of_file(heard: Sequence[Heard], bpm: int) -> dict:
    """What a file has, as it has it, once and without a click."""
    first = min((one.seconds for one in heard), default=0.0)
    strokes = _Strokes()
    rows = sorted(strokes.row(at - first, drum, strength) for at, drum, strength in heard)
    last = max((one.seconds - first for one in heard), default=0.0)
    return strokes.alone(rows, bpm, LEAD + last + RINGS)


class _Strokes:
    """Rows of strokes that belong to no bar, and the voices they have by number."""

    def __init__(self) -> None:
        self.voices: dict[Voice, int] = {}
        self.drums: dict[str, int] = {}

    def row(self, at: float, drum: Drum, strength: float) -> list:
        voice = self.voices.setdefault(voice_of(drum, strength), len(self.voices))
        number = self.drums.setdefault(drum.spoken, len(self.drums))
        return [_round(LEAD + at), voice, SILENT, number, 0.0, 0, 0]

    def alone(self, rows: list[list], bpm: int, whole: float) -> dict:
        """One round of them, in the shape of ``sound_of``."""
        return {
            "bpm": bpm,
            "length": _round(whole),
            "gap": 0,
            "rounds": 1,
            "strokes": rows,
            "voices": [astuple(one) for one in self.voices],
            "limbs": [limb.value for limb in LIMBS],
            "drums": list(self.drums),
            "bars": [[0.0, whole, "", 1, 0, _round(whole / 2), 0]],
            "countIns": [[0.0, [], []]],
            "pulses": [],
            "syllables": [],
            "spoken": {},
        }


def sound_of_take(
    performance: Performance,
    passes: int,
    heard: Sequence[tuple[float, Drum, float]],
    meant: bool,
) -> dict:
    """All passes of a take as one round: what was ``heard`` (seconds, drum, strength) and what
    was ``meant``, either or both, over a click on each beat. The shape of ``sound_of``."""
    row = (voiced := _Strokes()).row
    strokes = [row(at, drum, strength) for at, drum, strength in heard if at >= -LEAD]
    starts = [number * performance.seconds for number in range(passes)]
    if meant:
        strokes += [
            row(start + one.at, one.drum, one.strength)
            for start in starts
            for one in performance.onsets
            if start + one.at >= -LEAD
        ]
    clicks = [one for one in performance.clicks if not one.counted_in]
    bit = 1 << PATTERNS.index(ClickPattern.BEATS)
    whole = LEAD + passes * performance.seconds
    bpm = round(float(performance.share * performance.tempos[0][1].bpm))
    pulse_rows = [
        [_round(LEAD + start + one.at), 1 + one.first, bit]
        for start in starts
        for one in clicks
    ]
    return {**voiced.alone(sorted(strokes), bpm, whole), "pulses": pulse_rows}
