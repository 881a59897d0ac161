"""How long a step takes: beats by the metronome, repeats, empty bars between; and what a
student needs for a rung: the passes that the gate asks for, failed tries, days that forget.

A first grade-1 piece of 16 bars takes 6 to 10 weeks of 15 minutes a day, two pages at grade 3
take 8 to 14 (common practice, no source); the figures here are set so that it comes out.
"""

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.breakdown.helps import is_landing
from wren_ladder.drumming.breakdown.played import played_bars
from wren_ladder.drumming.breakdown.schools import HARD
from wren_ladder.drumming.breakdown.step import (
    MEETINGS,
    PARTS,
    RUN_THROUGH,
    RUNS,
    Step,
    StepKind,
)
from wren_ladder.drumming.climb import Gate
from wren_ladder.drumming.performance import bars_seconds, seconds
from wren_ladder.drumming.study import Study

# Of the minutes of a lesson or at home, the share in which sticks are on the drums: the
# rest is listening, talking, resting. Common practice, no source.
PLAYING = 0.5
A_THING = 4.0  # minutes that one thing has on a day of practice: three or four in 15 minutes
FAILED = 1.5  # tries for each that counts, the failed ones with them; the house's
RUNG = 5  # BPM, where no ladder says it
AGAIN = 1.3  # for what is forgotten and taken up again; the house's
# Practice days for a rung of a line of four new bars, by grade, while no log says it; and
# minutes until one new bar goes slowly. The house's, set so that the weeks above come out.
DAYS_A_RUNG = {0: 5.0, 1: 4.2, 2: 2.6, 3: 1.4}
LATER_DAYS = 1.2
SLOWLY_MINUTES = {0: 16.0, 1: 12.0, 2: 8.0, 3: 5.0}
LATER_MINUTES = 4.0
A_LINE = 4  # bars
REPEATED = 0.5  # of a bar's climb, where the line has it again
CLIMBED = 0.15  # of it, where another line has climbed with it before
ALONE = (StepKind.BAR, StepKind.OWN)  # bars that nothing before them has taught
FEW = 4  # strokes; a bar with fewer is sooner learned
AS_ANOTHER = 0.5  # of a bar's slow minutes, where it is taught from another
A_JOIN = 2  # days; it climbs in its line
ONE_BAR = 0.5  # of the days of a line, for a bar that holds it back, by itself
BUILT = 0.35  # of them, for what only meets
HARDER = 0.1  # of them more for each point of its rank, as far as MOST_RANK
MOST_RANK = 5.0
LEAST_GAIN, MOST_GAIN = 0.8, 8.0  # BPM a practice day that a log is believed


@dataclass(frozen=True, slots=True)
class Learner:
    """For whom minutes are reckoned: by the BPM that a practice day has won them so far, as
    soon as their log says it, else by grade; never by what others need."""

    grade: int | None = None
    gain: float | None = None

    @property
    def usual(self) -> float:
        """BPM that a practice day wins a line of new bars at this grade."""
        return RUNG / DAYS_A_RUNG.get(self._like, LATER_DAYS)

    @property
    def _like(self) -> int:
        return 3 if self.grade is None else self.grade

    def days(self, height: int) -> float:
        """Practice days for a line of new bars to win so many BPM."""
        gain = self.usual if self.gain is None else self.gain
        return height / min(MOST_GAIN, max(LEAST_GAIN, gain))

    @property
    def slowly(self) -> float:
        """Minutes until a plain new bar goes slowly."""
        return SLOWLY_MINUTES.get(self._like, LATER_MINUTES)


def step_seconds(step: Step, study: Study, bpm: int) -> float:
    """One rung of a step: its bars as often as it is repeated, and the empty bars between
    tries. ``bpm`` is that of the piece's opening beat; later marks are scaled alike."""
    once, empty = _once(step, study, bpm)
    return once * step.repeats + empty * step.gap * (step.repeats - 1)


def effort(kind: StepKind, rank: float) -> float:
    """How many practice days a step of this kind takes to win so many BPM, for each that a
    line with nothing hard in it takes."""
    if kind in RUN_THROUGH:
        return harder(rank)
    return harder(rank) * (ONE_BAR if kind in ALONE else BUILT)


def harder(rank: float) -> float:
    """How much longer something of this rank takes than what has nothing hard in it."""
    return 1 + HARDER * min(MOST_RANK, rank)


@dataclass(frozen=True, slots=True)
class Work:
    """What a step takes: ``minutes`` of lesson or practice, on so many practice ``days``. Hands
    don't learn faster by a week's minutes on one day."""

    minutes: float = 0.0
    days: float = 0.0

    def __add__(self, other: "Work") -> "Work":
        return Work(self.minutes + other.minutes, self.days + other.days)

    @property
    def a_day(self) -> float:
        return self.minutes / self.days if self.days else 0.0


@dataclass(frozen=True, slots=True)
class Ahead:
    """A step of a plan and its rungs that are still ahead; ``begun`` where it holds one."""

    step: Step
    rungs: tuple[int, ...]
    begun: bool = False


def plan_work(plan: Sequence[Ahead], study: Study, gate: Gate, learner: Learner) -> list[Work]:
    """What each step of a plan takes, in its order, as teachers work: every new bar slowly;
    then lines climb rung by rung, and a bar climbs alone where it is hard enough to hold its
    line back. What a step has brought along costs nothing again, so that the schools differ
    in order and hardly in sum.
    """
    return _Reckoner(plan, study, gate, learner).works()


class _Reckoner:
    """Goes through a plan, remembering which music is slow already and which has climbed."""

    def __init__(
        self, plan: Sequence[Ahead], study: Study, gate: Gate, learner: Learner
    ) -> None:
        self.plan, self.study, self.gate, self.learner = plan, study, gate, learner
        self.kinds = study.kinds
        self.slow: set[int] = set()
        self.climbed: set[int] = set()
        self.held: set[int] = set()  # at the target, by a line that is there
        for one in plan:
            if (one.begun or not one.rungs) and one.step.kind not in PARTS:
                self.slow |= self._music(one.step)
            if not one.rungs and one.step.kind in RUN_THROUGH:
                self.held |= self._music(one.step)
        self.in_lines = {
            kind
            for one in plan
            if one.step.kind in RUN_THROUGH
            for kind in self._music(one.step)
        }
        # What helps to build a bar shares the bar's slow minutes with it.
        self.sharing = Counter(
            self.kinds[one.step.first]
            for one in plan
            if one.rungs and one.step.kind in (*PARTS, StepKind.ON, *ALONE)
        )

    def works(self) -> list[Work]:
        return [self._work(one) for one in self.plan]

    def _music(self, step: Step) -> set[int]:
        return {self.kinds[place] for place in step.played}

    def _work(self, one: Ahead) -> Work:
        step, rungs = one.step, one.rungs
        if not rungs:
            if step.kind in RUN_THROUGH:
                self.climbed |= self._music(step)
            return Work()
        if self._music(step) <= self.held and step.kind not in RUN_THROUGH:
            return Work()
        if step.kind in (*PARTS, StepKind.ON):
            return self._slowly({self.kinds[step.first]})
        if step.kind in ALONE:
            mine = self._slowly(self._music(step))
            self.slow |= self._music(step)
            in_line = self._music(step) <= self.in_lines
            if in_line and step.rank < HARD and step.kind is StepKind.BAR:
                return mine
            return mine + self._climb(step, rungs, effort(step.kind, step.rank))
        if step.kind in MEETINGS:
            return Work(A_JOIN * A_THING, A_JOIN)
        at_sight = self._slowly(self._music(step))
        share = self._new(step)
        self.slow |= self._music(step)
        rank = max((self.study.bars[kind].rank for kind in self._music(step)), default=0.0)
        return at_sight + self._climb(step, rungs, share * effort(step.kind, rank))

    def _new(self, step: Step) -> float:
        """How much of a line of new bars there is in a run that has not climbed before."""
        share, seen = 0.0, set(self.climbed)
        for kind in (self.kinds[place] for place in step.played):
            if self.study.bars[kind].bar.hits:
                share += CLIMBED if kind in self.climbed else REPEATED if kind in seen else 1.0
                seen.add(kind)
        self.climbed |= seen
        # The whole piece goes from line to line that each go already.
        return share / A_LINE if step.kind in RUNS else min(1.0, share / A_LINE)

    def _slowly(self, kinds: Iterable[int]) -> Work:
        """Until each of the bars that is not slow yet goes slowly; a last crash costs
        nothing."""
        minutes = sum(self._minutes(kind) for kind in kinds if kind not in self.slow)
        return Work(minutes, max(1.0, minutes / A_THING)) if minutes else Work()

    def _minutes(self, kind: int) -> float:
        bar = self.study.bars[kind]
        if is_landing(bar.bar):
            return 0.0
        share = min(1.0, len(bar.bar.hits) / FEW) / max(1, self.sharing[kind])
        share *= AS_ANOTHER if bar.difference else 1.0
        return self.learner.slowly * harder(bar.rank) * share

    def _climb(self, step: Step, rungs: Sequence[int], share: float) -> Work:
        """Up the rungs, each of which the gate earns: by its row or its tries, on its days."""
        height = rungs[1] - rungs[0] if len(rungs) > 1 else RUNG
        days = max(self.learner.days(height) * share, self.gate.least_days)
        once, empty = _once(step, self.study, rungs[0])
        passes = self.gate.passes_a_day(len(step.played) or 1)
        earned = passes * (once + empty * step.gap) * FAILED / 60
        each = [max(A_THING, earned * rungs[0] / bpm / PLAYING) for bpm in rungs]
        return Work(AGAIN * days * sum(each), AGAIN * days * len(rungs))


def _once(step: Step, study: Study, bpm: int) -> tuple[float, float]:
    """Seconds of (the step's bars, an empty bar behind them)."""
    share = Fraction(bpm, study.chart.tempo.bpm)
    played = played_bars(step, study)
    once = bars_seconds(played, share)
    return once, seconds(played[-1].bar.meter.length, played[-1].tempo, share)
