"""Where one step stands, decided from its log of attempts alone.

Nothing is kept between calls, so that a corrected or deleted attempt recomputes
everything.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from wren_ladder.drumming.tempo.gate import passes_needed
from wren_ladder.drumming.tempo.ladder import rung_above, rung_below


@dataclass(frozen=True, slots=True)
class Attempt:
    """One recorded try: tempo in BPM of the piece's beat, passes played in a row."""

    day: date
    tempo: int
    clean: bool
    passes: int = 1


@dataclass(frozen=True, slots=True)
class Climb:
    """The rule of one step: its rungs, its length in bars, its gate."""

    rungs: tuple[int, ...]
    bars: int
    clean_bars: int = 32
    failures: int = 2

    @property
    def passes(self) -> int:
        return passes_needed(self.bars, self.clean_bars)

    @property
    def target(self) -> int:
        return self.rungs[-1]


@dataclass(frozen=True, slots=True)
class Standing:
    """``held`` is the fastest tempo earned, None before the first; ``next`` the tempo to
    try now, with its reason in words."""

    held: int | None
    next: int
    reason: str
    dropped: bool = False  # the proposal is a step down after failed tries

    def reached(self, target: int) -> bool:
        return self.held is not None and self.held >= target


def stand(climb: Climb, log: Sequence[Attempt]) -> Standing:
    """The standing after a log in the order it happened.

    Clean passes count while no try fails; those at a faster tempo count for a slower
    one. A rung is earned once they fill the gate. Failed tries in a row at the working
    rung or above call for a drop of one rung.
    """
    state = ClimbState(climb)
    for attempt in log:
        state.take(attempt)
    return Standing(
        state.held, state.working, _reason(state, log), state.dropped_from is not None
    )


class ClimbState:
    """The fold over a log: what is held and worked on after each attempt taken."""

    def __init__(self, climb: Climb) -> None:
        self.climb = climb
        self.working = climb.rungs[0]
        self.held: int | None = None
        self.run: list[Attempt] = []  # clean attempts since the last failure
        self.failed = 0
        self.dropped_from: int | None = None

    def take(self, attempt: Attempt) -> None:
        """Move on by one attempt."""
        rungs = self.climb.rungs
        if not attempt.clean:
            self.run = []
            self.failed += 1
            if self.failed >= self.climb.failures:
                self.dropped_from = attempt.tempo
                self.working, self.failed = rung_below(rungs, attempt.tempo), 0
            return
        self.failed = 0
        self.run.append(attempt)
        earned = _earned(self.run, self.climb.passes)
        if earned is None:
            return
        self.held = max(self.held or 0, earned)
        if earned >= self.working:
            self.working = rung_above(rungs, earned) or self.climb.target
            self.dropped_from = None

    @property
    def passed(self) -> int:
        """Clean passes in a row at the working rung or faster."""
        return sum(attempt.passes for attempt in self.run if attempt.tempo >= self.working)


def _earned(run: Sequence[Attempt], needed: int) -> int | None:
    """The fastest tempo at which the run's clean passes fill the gate."""
    passes = 0
    for attempt in sorted(run, key=lambda attempt: -attempt.tempo):
        passes += attempt.passes
        if passes >= needed:
            return attempt.tempo
    return None


def _reason(state: ClimbState, log: Sequence[Attempt]) -> str:
    climb, held, working = state.climb, state.held, state.working
    if not log:
        return f"start where it is easy: {working}"
    if state.failed:
        return f"not yet at {log[-1].tempo}: try {working} once more before going down"
    if state.dropped_from is not None:
        down = (
            f"drop to {working} and come back"
            if working < state.dropped_from
            else "stay on the lowest rung, a layer simpler"
        )
        return f"{climb.failures} failed tries at {state.dropped_from}: {down}"
    if held is not None and held >= climb.target:
        return f"{held} held: the target is reached; keep it with a run now and then"
    if state.passed:
        return f"{state.passed} of the {climb.passes} clean passes that earn {working}"
    if held is not None:
        return f"{held} earned by {climb.passes} clean passes; next rung {working}"
    return f"{climb.passes} clean passes in a row earn {working}"
