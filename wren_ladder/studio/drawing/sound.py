"""A performance as the script of a page plays it: times in seconds, voices by name."""

from collections.abc import Sequence

from wren_ladder.drumming.chart import Tempo
from wren_ladder.drumming.performance import Performance, PlayedBar, perform
from wren_ladder.drumming.study import BarStudy


def sound_of(performance: Performance, bpm: int) -> dict:
    """For JSON. ``bpm`` is what the page calls the tempo of this performance; at another one
    the script scales all times but ``ahead``, which graces have of their own.

    strokes: [seconds of the main stroke, voice, strength from 0 to 1, seconds ahead of it].
    """
    return {
        "strokes": [
            [_round(one.at + one.ahead), one.drum.row.sound, _round(one.strength), one.ahead]
            for one in performance.onsets
        ],
        "clicks": [_round(one.at) for one in performance.clicks if not one.counted_in],
        "countIn": [_round(one.at) for one in performance.clicks if one.counted_in],
        "before": _round(performance.before),
        "length": _round(performance.seconds),
        "bpm": bpm,
    }


def sound_of_bars(bars: Sequence[BarStudy], tempo: Tempo) -> dict:
    """Some bars one after the other, all at one tempo, counted in."""
    played = [PlayedBar(bar.bar, bar.sticks, tempo, swing=bar.swing) for bar in bars]
    return sound_of(perform(played, count_in=True), tempo.bpm)


def _round(seconds: float) -> float:
    return round(seconds, 5)
