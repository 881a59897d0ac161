"""Where one step stands, decided from its log of attempts alone.

Nothing is kept between calls, so that a corrected or deleted attempt recomputes
everything.
"""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from wren_ladder.drumming.climb.gate import USUAL, Gate, GateKind
from wren_ladder.drumming.climb.ladder import rung_above, rung_below

LOST_BY = 2  # failed tries on one later day


@dataclass(frozen=True, slots=True)
class Attempt:
    """One recorded try: tempo in BPM of the piece's beat, passes played in a row; or, ``by`` a
    longer step of this name, what was earned in that and holds here."""

    day: date
    tempo: int
    clean: bool
    passes: int = 1
    by: str = ""


@dataclass(frozen=True, slots=True)
class ClimbRule:
    """The rule of one step: its rungs, its length in bars, its gate; ``tolerance`` is how many
    BPM below the target will do."""

    rungs: tuple[int, ...]
    bars: int
    gate: Gate = USUAL
    tolerance: int = 0

    @property
    def passes(self) -> int:
        return self.gate.passes(self.bars)

    @property
    def earned_by(self) -> str:
        return self.gate.spoken(self.bars)

    @property
    def target(self) -> int:
        return self.rungs[-1]

    @property
    def enough(self) -> int:
        """The tempo that counts as being there."""
        return max(self.rungs[0], self.target - self.tolerance)

    def is_reached(self, held: int | None) -> bool:
        """Is what is held the target, or near enough to it?"""
        return held is not None and held >= self.enough


@dataclass(frozen=True, slots=True)
class Standing:
    """``held`` is the fastest tempo earned, None before the first; ``next`` the tempo to
    try now, with its reason in words."""

    held: int | None
    next: int
    reason: str
    dropped: bool = False  # the proposal is a step down after failed tries
    by: str = ""  # the longer step in which it is held as fast, where it is not by itself


def stand(climb: ClimbRule, log: Sequence[Attempt]) -> Standing:
    """The standing after a log in the order it happened.

    A faster clean try counts for a slower rung. In a row means that no try fails between;
    out of tries looks at the last ones. Failed tries in a row call for a drop by the gate. A
    rung that is failed twice on a later day is lost, down to the one below.
    """
    state = ClimbState(climb)
    for attempt in log:
        state.take(attempt)
    return Standing(
        state.held,
        state.working,
        _reason(state, log),
        state.dropped_from is not None,
        state.held_in,
    )


class ClimbState:
    """The fold over a log: what is held and worked on after each attempt taken."""

    def __init__(self, climb: ClimbRule) -> None:
        self.climb = climb
        self.working = climb.rungs[0]
        self.earned: dict[int, date] = {}  # tempo -> the day it was earned
        self.longer: dict[int, str] = {}  # of those, which were in a longer step
        # Clean passes since the last failure by their tempo, in all and on the last day.
        self.run: Counter[int] = Counter()
        self.run_of_day: tuple[date | None, Counter[int]] = (None, Counter())
        self.last: list[Attempt] = []  # the last tries, clean or not
        self.filled: dict[int, set[date]] = {}  # tempo -> the days on which a row filled it
        self.failed = 0
        self.failed_today: list[Attempt] = []  # at what is held, on a later day
        self.dropped_from: int | None = None
        self.lost: int | None = None  # what was held before, while it is not held again
        self.just_lost = False  # by the last try

    @property
    def held(self) -> int | None:
        return max(self.earned, default=None)

    def take(self, attempt: Attempt) -> None:
        """Move on by one attempt."""
        if attempt.by:
            self._take_longer(attempt)
            return
        self.last = [*self.last, attempt][-self.climb.gate.tries :]
        if attempt.clean:
            self._take_clean(attempt)
        else:
            self._take_failed(attempt)
        self.working = min(self.working, self.in_reach)

    @property
    def in_reach(self) -> int:
        """The rung over what is held: nothing above it is proposed."""
        if self.held is None:
            return self.climb.rungs[0]
        return rung_above(self.climb.rungs, self.held) or self.climb.target

    @property
    def held_in(self) -> str:
        """The longer step in which what is held was earned, "" for the step itself."""
        return self.longer.get(self.held, "") if self.held is not None else ""

    def _take_longer(self, attempt: Attempt) -> None:
        """What a longer step has earned is held here too; its failed tries are its own."""
        if attempt.tempo not in self.earned:
            self.longer[attempt.tempo] = attempt.by
        self._earn(attempt.tempo, attempt.day)

    def _take_clean(self, attempt: Attempt) -> None:
        self.failed, self.just_lost = 0, False
        self.run[attempt.tempo] += attempt.passes
        if self.run_of_day[0] != attempt.day:
            self.run_of_day = (attempt.day, Counter())
        self.run_of_day[1][attempt.tempo] += attempt.passes
        earned = self._earned(attempt.day)
        if earned is not None:
            self.longer.pop(earned, None)
            self._earn(earned, attempt.day)

    def _earn(self, tempo: int, day: date) -> None:
        self.earned.setdefault(tempo, day)
        if self.lost is not None and tempo >= self.lost:
            self.lost = None
        if tempo >= self.working:
            self.working = rung_above(self.climb.rungs, tempo) or self.climb.target
            self.dropped_from, self.failed, self.just_lost = None, 0, False

    def _take_failed(self, attempt: Attempt) -> None:
        rungs = self.climb.rungs
        self.run, self.run_of_day = Counter(), (None, Counter())
        self.failed += 1
        self.just_lost = self._lose(attempt)
        if self.failed >= self.climb.gate.failures:
            self.dropped_from = attempt.tempo
            self.working, self.failed = attempt.tempo, 0
            for _ in range(self.climb.gate.drop):
                self.working = rung_below(rungs, self.working)

    def _lose(self, attempt: Attempt) -> bool:
        """What is held is lost by failing it twice on a day after the one it was earned."""
        held = self.held
        if held is None or attempt.tempo > held or attempt.day <= self.earned[held]:
            return False
        today = [one for one in self.failed_today if one.day == attempt.day]
        self.failed_today = [*today, attempt]
        if len(self.failed_today) < LOST_BY:
            return False
        failed = min(one.tempo for one in self.failed_today)
        self.failed_today, self.lost = [], held
        self.last = []  # what earned the lost rung does not earn it again
        below = rung_below(self.climb.rungs, failed)
        kept = {bpm: day for bpm, day in self.earned.items() if bpm < failed}
        if below < failed:
            kept.setdefault(below, self.earned[held])
        self.earned = kept
        self.filled = {bpm: days for bpm, days in self.filled.items() if bpm < failed}
        return True

    def _earned(self, day: date) -> int | None:
        """The fastest tempo that the gate is filled at now."""
        gate = self.climb.gate
        if gate.kind is GateKind.TRIES:
            clean = sorted((one.tempo for one in self.last if one.clean), reverse=True)
            return clean[gate.clean - 1] if len(clean) >= gate.clean else None
        if gate.kind is GateKind.ROW:
            return _filled(self.run, self.climb.passes)
        filled = _filled(self.run_of_day[1], self.climb.passes)
        if filled is None:
            return None
        self.filled.setdefault(filled, set()).add(day)
        return self._on_enough_days()

    def _on_enough_days(self) -> int | None:
        for bpm in sorted(self.filled, reverse=True):
            if len(self.days_filled(bpm)) >= self.climb.gate.days:
                return bpm
        return None

    def days_filled(self, tempo: int) -> set[date]:
        """The days on which a row filled a tempo; one at a faster tempo counts for it too."""
        return set().union(*(days for bpm, days in self.filled.items() if bpm >= tempo))

    @property
    def passed(self) -> int:
        """Clean passes in a row at the working rung or faster."""
        return sum(many for tempo, many in self.run.items() if tempo >= self.working)


def _filled(run: Mapping[int, int], needed: int) -> int | None:
    """The fastest tempo at which the run's clean passes fill the row."""
    passes = 0
    for tempo in sorted(run, reverse=True):
        passes += run[tempo]
        if passes >= needed:
            return tempo
    return None


def _reason(state: ClimbState, log: Sequence[Attempt]) -> str:
    climb, held, working = state.climb, state.held, state.working
    if not log:
        return f"start where it is easy: {working}"
    if state.just_lost and state.failed:
        left = f"{held} held" if held is not None else "nothing held"
        return f"{state.lost} is lost, failed twice on a later day: {left}, {working} next"
    if state.failed:
        return f"not yet at {log[-1].tempo}: try {working} once more before going down"
    if state.dropped_from is not None:
        down = (
            f"drop to {working} and come back"
            if working < state.dropped_from
            else "stay on the lowest rung, a layer simpler"
        )
        lost = f"{state.lost} is lost: " if state.lost is not None else ""
        return f"{lost}{climb.gate.failures} failed tries at {state.dropped_from}: {down}"
    if held is not None and climb.is_reached(held) and held >= climb.target:
        if state.held_in:
            return f"held by {state.held_in} at {held}: the target is reached"
        return f"{held} held: the target is reached; keep it with a run now and then"
    if climb.is_reached(held):
        return f"{held} held, near enough to {climb.target}; {working} would be all of it"
    return _on_the_way(state)


def _on_the_way(state: ClimbState) -> str:
    climb, held, working = state.climb, state.held, state.working
    if climb.gate.kind is GateKind.ROW and state.passed:
        return f"{state.passed} of the {climb.passes} clean times through that earn {working}"
    done = state.days_filled(working) if climb.gate.kind is GateKind.DAYS else set()
    if done:
        more = climb.gate.days - len(done)
        days = "on another day" if more == 1 else f"on {more} other days"
        said = " and ".join(f"{day:%-d %B}" for day in sorted(done)[-2:])
        return f"{working} done on {said}; once more {days} earns it"
    if state.held_in:
        return f"held by {state.held_in} at {held}; next rung {working}"
    if held is not None:
        by = climb.earned_by.removesuffix(" in a row")
        return f"{held} earned by {by}; next rung {working}"
    return f"{climb.earned_by} earn {working}"
