"""What is asked of a take, by grade; the teacher's to change.

House limits: a beginner within 30 ms of the click at 80 plays in time, at grade 5 half of that
is asked (common practice). A displaced stroke of a steady pulse is noticed from about 2.5 % of
the interval where that is longer than 240 ms, from about 6 ms where it is shorter (Friberg and
Sundberg, Journal of the Acoustical Society of America 98, 1995); two onsets within about 30 ms
are heard as one (Rasch, Acustica 43, 1979).
"""

from dataclasses import dataclass

TOGETHER = 0.030  # seconds: Rasch 1979
LONG, NOTICED, LEAST_NOTICED = 0.240, 0.025, 0.006  # Friberg and Sundberg 1995
FLAM = (0.012, 0.050)  # seconds between grace and main stroke; 15 to 45 ms, from memory
HELD = 0.015  # of the tempo: who stays nearer has held it
CONTRAST = 1.3  # times louder that an accent is than a ghost, at least
SPREADS = {0: 0.030, 3: 0.025, 4: 0.020, 5: 0.015}  # seconds, from this grade on
SLIPS = {0: 0.08, 3: 0.05, 5: 0.03}  # of a pass's strokes that may be missed, wrong or extra


@dataclass(frozen=True, slots=True)
class Limits:
    """``slips`` of a pass's strokes; ``spread`` and ``lean`` of a limb in seconds."""

    slips: float
    spread: float
    lean: float


def limits_for(grade: int) -> Limits:
    spread = _from(SPREADS, grade)
    return Limits(_from(SLIPS, grade), spread, spread)


def noticed(interval: float) -> float:
    """How far a stroke of a steady pulse is displaced before it is noticed, in seconds."""
    return NOTICED * interval if interval > LONG else LEAST_NOTICED


def _from(table: dict[int, float], grade: int) -> float:
    return table[max(first for first in table if first <= max(0, grade))]
