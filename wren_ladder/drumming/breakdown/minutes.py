"""How long a step takes: beats by the metronome, repeats, empty bars between; and what a
student needs for a rung: the passes that the gate asks for, failed tries, days that forget.

A first grade-1 piece of 16 bars takes 6 to 10 weeks of 15 minutes a day, two pages at grade 3
take 8 to 14 (common practice, no source); the figures here are set so that it comes out.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from wren_ladder.drumming.breakdown.played import played_bars
from wren_ladder.drumming.breakdown.step import PARTS, Step, StepKind
from wren_ladder.drumming.climb import Gate
from wren_ladder.drumming.performance import bars_seconds, seconds
from wren_ladder.drumming.study import Study

# Of the minutes of a lesson or at home, the share in which sticks are on the drums: the
# rest is listening, talking, resting. Common practice, no source.
PLAYING = 0.5
A_THING = 4.0  # minutes that one thing has on a day of practice: three or four in 15 minutes
FAILED = 1.5  # tries for each that counts, the failed ones with them; the house's
AGAIN = 1.3  # for what is forgotten and taken up again; the house's
# Practice days for a rung of a new bar, by grade, while no log says it; the house's.
DAYS_A_RUNG = {0: 3.0, 1: 2.5, 2: 1.7, 3: 1.0}
LATER_DAYS = 0.9
ALONE = (StepKind.BAR, StepKind.OWN)  # bars that nothing before them has taught
FEW = 4  # strokes; a bar with fewer is sooner learned
BUILT = 0.35  # of them, where the bars are held already: joins, lines, sections, the whole
HARDER = 0.1  # of them more for each point of its rank, as far as MOST_RANK
MOST_RANK = 5.0
LEAST_GAIN, MOST_GAIN = 0.8, 8.0  # BPM a practice day that a log is believed


@dataclass(frozen=True, slots=True)
class Learner:
    """For whom minutes are reckoned: by grade, or by the BPM that a practice day has won them,
    or the studio, so far."""

    grade: int | None = None
    gain: float | None = None

    def days(self, rung: int) -> float:
        """Practice days for a new bar to win so many BPM."""
        if self.gain is not None:
            return rung / min(MOST_GAIN, max(LEAST_GAIN, self.gain))
        return DAYS_A_RUNG.get(3 if self.grade is None else self.grade, LATER_DAYS)


def step_seconds(step: Step, study: Study, bpm: int) -> float:
    """One rung of a step: its bars as often as it is repeated, and the empty bars between
    tries. ``bpm`` is that of the piece's opening beat; later marks are scaled alike."""
    once, empty = _once(step, study, bpm)
    return once * step.repeats + empty * step.gap * (step.repeats - 1)


def effort(kind: StepKind, rank: float) -> float:
    """How many practice days a step of this kind takes to win so many BPM, for each that a
    new bar with nothing hard in it takes."""
    harder = 1 + HARDER * min(MOST_RANK, rank)
    return harder if kind in ALONE else harder * BUILT


@dataclass(frozen=True, slots=True)
class Work:
    """What a step takes: ``minutes`` of lesson or practice, on so many practice ``days``. Hands
    don't learn faster by a week's minutes on one day."""

    minutes: float = 0.0
    days: float = 0.0

    @property
    def a_day(self) -> float:
        return self.minutes / self.days if self.days else 0.0


def climb_work(
    step: Step, study: Study, rungs: Sequence[int], gate: Gate, learner: Learner
) -> Work:
    """What it takes to bring a step up the rungs that are still ahead, each of which the gate
    earns: by its row or its tries, on its days. What only helps to build a bar is done with
    once it goes slowly.
    """
    if not rungs:
        return Work()
    if step.kind in (*PARTS, StepKind.ON):
        return Work(A_THING, 1)
    height = rungs[1] - rungs[0] if len(rungs) > 1 else 5
    days = learner.days(height) * effort(step.kind, step.rank)
    if step.kind in ALONE:
        strokes = sum(len(study.bars[place].bar.hits) for place in step.played)
        days *= min(1.0, strokes / FEW)
    days = max(days, gate.least_days)
    once, empty = _once(step, study, rungs[0])
    passes = gate.passes_a_day(len(step.played) or 1)
    earned = passes * (once + empty * step.gap) * FAILED / 60
    each = [max(A_THING, earned * rungs[0] / bpm / PLAYING) for bpm in rungs]
    return Work(AGAIN * days * sum(each), AGAIN * days * len(rungs))


def _once(step: Step, study: Study, bpm: int) -> tuple[float, float]:
    """Seconds of (the step's bars, an empty bar behind them)."""
    share = Fraction(bpm, study.chart.tempo.bpm)
    played = played_bars(step, study)
    once = bars_seconds(played, share)
    return once, seconds(played[-1].bar.meter.length, played[-1].tempo, share)
