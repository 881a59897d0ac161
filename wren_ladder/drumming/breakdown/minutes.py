"""How long a step takes: beats by the metronome, repeats, and the empty bars between."""

from collections.abc import Sequence
from fractions import Fraction

from wren_ladder.drumming.breakdown.played import played_bars
from wren_ladder.drumming.breakdown.step import Step
from wren_ladder.drumming.performance import bars_seconds, seconds
from wren_ladder.drumming.study import Study

# Of the minutes of a lesson or at home, the share in which sticks are on the drums: the
# rest is listening, talking, resting. Common practice, no source.
PLAYING = 0.5


def step_seconds(step: Step, study: Study, bpm: int) -> float:
    """One rung of a step: its bars as often as it is repeated, and the empty bars between
    tries. ``bpm`` is that of the piece's opening beat; later marks are scaled alike."""
    share = Fraction(bpm, study.chart.tempo.bpm)
    played = played_bars(step, study)
    once = bars_seconds(((one.bar.length, one.tempo) for one in played), share)
    empty = seconds(played[-1].bar.meter.length, played[-1].tempo, share)
    return once * step.repeats + empty * step.gap * (step.repeats - 1)


def climb_minutes(step: Step, study: Study, rungs: Sequence[int]) -> float:
    """Minutes of lesson or practice to take a step up its rungs, one go at each."""
    if not rungs:
        return 0.0
    lowest = step_seconds(step, study, rungs[0])
    return sum(lowest * rungs[0] / bpm for bpm in rungs) / 60 / PLAYING
