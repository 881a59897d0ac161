"""What is asked of a take, by grade; the teacher's to change.

House limits: a beginner within 30 ms of the click at 80 plays in time, at grade 5 half of that
is asked (common practice). A displaced stroke of a steady pulse is noticed from about 2.5 % of
the interval where that is longer than 240 ms, from about 6 ms where it is shorter (Friberg and
Sundberg, Journal of the Acoustical Society of America 98, 1995); two onsets within about 30 ms
are heard as one (Rasch, Acustica 43, 1979).
"""

from dataclasses import dataclass
from itertools import pairwise

from wren_ladder.drumming.performance import Performance
from wren_ladder.drumming.wording import Coded

TOGETHER = 0.030  # seconds: Rasch 1979
LONG, NOTICED, LEAST_NOTICED = 0.240, 0.025, 0.006  # Friberg and Sundberg 1995
GRACES = (0.012, 0.050)  # seconds from note to note of a flam, drag or ruff, from memory
HELD = 0.015  # of the tempo: who stays nearer has held it
CONTRAST = 1.3  # times louder that an accent is than a ghost, at least; the house's
LIGHT = 1.2  # times as loud as snare and kick that a cymbal may be; the house's
ROUGH = 0.3  # of the time between strokes of a roll that it may vary by; the house's
SPREADS = {0: 30, 3: 25, 4: 20, 5: 15}  # milliseconds, from this grade on
SLIPS = {0: 8, 3: 5, 5: 3}  # per cent of a pass's strokes, missed, wrong or extra
SHORTEST = 0.05  # seconds: what is nearer is no subdivision but one stroke after another


class Unit(Coded):
    MILLISECONDS = "ms", "milliseconds"
    SHARE = "share", "per cent of the subdivision"


@dataclass(frozen=True, slots=True)
class Limits:
    """``slips`` of a pass's strokes; ``spread`` and ``lean`` of a limb in seconds."""

    slips: float
    spread: float
    lean: float


@dataclass(frozen=True, slots=True)
class Rule:
    """When a pass is clean, as a teacher says it: slips in per cent of its strokes, how uneven
    a limb may be and how early or late as a whole, in ``unit``."""

    slips: int
    spread: int
    lean: int
    unit: Unit = Unit.MILLISECONDS

    def limits(self, performance: Performance) -> Limits:
        each = 0.001 if self.unit is Unit.MILLISECONDS else subdivision(performance) / 100
        return Limits(self.slips / 100, self.spread * each, self.lean * each)


def house_rule(grade: int) -> Rule:
    spread = _from(SPREADS, grade)
    return Rule(_from(SLIPS, grade), spread, spread)


def subdivision(performance: Performance) -> float:
    """Seconds between the nearest two moments that something is struck in."""
    moments = sorted({round(one.at, 4) for one in performance.onsets if not one.place})
    gaps = [after - before for before, after in pairwise(moments)]
    return min((gap for gap in gaps if gap >= SHORTEST), default=performance.seconds)


def noticed(interval: float) -> float:
    """How far a stroke of a steady pulse is displaced before it is noticed, in seconds."""
    return NOTICED * interval if interval > LONG else LEAST_NOTICED


def _from(table: dict[int, int], grade: int) -> int:
    return table[max(first for first in table if first <= max(0, grade))]
