"""Players for takes: they play stretches of the music, each at a time and a pace of its own, so
that they can stop, begin again, leave out, come in late and get faster. Not the made-up player
of the product: it has never seen these."""

import random
from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.performance import OnsetKind, Performance
from wren_ladder.drumming.takes.heard import Heard


@dataclass(frozen=True, slots=True)
class Stretch:
    """From one second of the music to another (pass after pass), begun at ``at`` as it is
    heard; ``slope``: seconds played for one that is written."""

    first: float
    last: float
    at: float
    slope: float = 1.0

    @property
    def ends(self) -> float:
        return self.at + self.slope * (self.last - self.first)


def play(
    performance: Performance,
    passes: int,
    stretches: Sequence[Stretch],
    seed: int,
    spread: float = 0.01,
    recorded: float | None = None,
    missing: float = 0.0,
) -> tuple[tuple[Heard, ...], int]:
    """(what is heard until the recording ends, how many main strokes are among it)."""
    dice, found, mains = random.Random(seed), [], 0
    ends = recorded if recorded is not None else passes * performance.seconds + 0.3
    for one in stretches:
        for number in range(passes):
            for onset in performance.onsets:
                written = number * performance.seconds + onset.at
                if not one.first - 1e-6 <= written < one.last - 1e-6:
                    continue
                at = one.at + one.slope * (written - one.first) + dice.gauss(0, spread)
                if at > ends or dice.random() < missing:
                    continue
                strength = min(1.0, max(0.05, onset.strength * dice.uniform(0.9, 1.1)))
                found.append(Heard(at, onset.drum, strength))
                mains += onset.kind is OnsetKind.MAIN
    return tuple(sorted(found, key=lambda one: one.at)), mains
