"""How long a step takes: beats by the metronome, repeats, and the empty bars between."""

from collections.abc import Sequence
from fractions import Fraction

from wren_ladder.drumming.breakdown.step import Step, StepKind, music
from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.study import Study
from wren_ladder.drumming.units import seconds

# Of the minutes of a lesson or at home, the share in which sticks are on the drums: the
# rest is listening, talking, resting. Common practice, no source.
PLAYING = 0.5


def step_seconds(step: Step, study: Study, bpm: int) -> float:
    """One rung of a step: bars × beats × 60 / BPM × repeats, and the empty bars between
    tries. ``bpm`` is that of the piece's opening beat; later marks are scaled alike."""
    chart, marks = study.chart, study.tempos
    scale = chart.tempo.bpm / bpm
    if step.kind is StepKind.WHOLE:
        return study.seconds * scale * step.repeats
    bars = [chart.bars[index] for index in step.played]
    shorter = step.kind in (StepKind.HALF, StepKind.ON)  # a layer lasts as long as its bar
    played = music(step.kind, step.part, bars) if shorter else bars
    once = sum(
        seconds(bar.length, marks[index])
        for bar, index in zip(played, step.played, strict=False)
    )
    empty = seconds(gap_length(played[-1]), marks[step.played[-1]])
    return scale * (once * step.repeats + empty * step.gap * (step.repeats - 1))


def gap_length(last: Bar) -> Fraction:
    """An empty bar is a full one of the metre that was played last, in crotchets."""
    return last.meter.length


def climb_minutes(step: Step, study: Study, rungs: Sequence[int]) -> float:
    """Minutes of lesson or practice to take a step up its rungs, one go at each."""
    if not rungs:
        return 0.0
    lowest = step_seconds(step, study, rungs[0])
    return sum(lowest * rungs[0] / bpm for bpm in rungs) / 60 / PLAYING
