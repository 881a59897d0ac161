"""What is held in a longer step is held in what it contains.

Who plays the line clean at 90 holds every bar and join in it at 90; a line failed at 95 takes
nothing from its bars. Common practice, no source.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.climb.standing import Attempt, ClimbRule, ClimbState

Music = tuple[int, ...]  # bar by bar, equal bars by one number


@dataclass(frozen=True, slots=True)
class LoggedStep:
    """A step with its tries, each with its place in the log of the whole plan.

    ``plays`` is what somebody has played who played it; ``needs`` is what a longer step has to
    play for this one to be in it.
    """

    name: str
    climb: ClimbRule
    plays: Music
    needs: Music
    log: tuple[tuple[int, Attempt], ...] = ()


def with_longer(steps: Sequence[LoggedStep]) -> list[tuple[Attempt, ...]]:
    """The log of each step, with what was earned in steps that contain it among its own tries,
    in the order in which it all happened."""
    earned = [(step, _earned(step)) for step in steps if step.log and step.plays]
    earned = [(step, found) for step, found in earned if found]
    logs = []
    for step in steps:
        found = list(step.log)
        for longer, tempos in earned:
            if longer is not step and contains(longer.plays, step.needs):
                found += tempos
        found.sort(key=lambda one: one[0])  # a step's own try before what it is in
        logs.append(tuple(attempt for _, attempt in found))
    return logs


def contains(longer: Music, shorter: Music) -> bool:
    """Does the one play the other, bar after bar?"""
    many = len(shorter)
    return many > 0 and any(
        longer[place : place + many] == shorter for place in range(len(longer) - many + 1)
    )


def _earned(step: LoggedStep) -> list[tuple[int, Attempt]]:
    """Whenever a try of the step earned a tempo, as what it holds for others."""
    state, found = ClimbState(step.climb), []
    for place, attempt in step.log:
        before = dict(state.earned)
        state.take(attempt)
        for tempo in state.earned:
            if attempt.clean and tempo not in before:
                found.append((place, Attempt(attempt.day, tempo, True, 1, step.name)))
    return found
