"""How late a set-up is: sixteen taps to the click, and their middle.

What is found is the way from the click in the ear to the stroke in the studio, and the tapper's
own habit with it: most people tap a little before a click, so two people measure a little
differently. What a player is late by beyond it is theirs.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import median

TAPS = 16
FEWEST = 12  # of them that have to be heard
TEMPO = 90  # beats a minute of its click
FURTHEST = 0.4  # seconds: no set-up is later
UNEVEN = 0.040  # seconds of spread from which it is not believed; the house's
SIGMA = 1.4826  # of a normal distribution, from its median deviation


class CalibrationError(ValueError):
    """Why nothing could be measured, and what to do, in words."""


@dataclass(frozen=True, slots=True)
class Calibration:
    """``latency`` is to be taken off every stroke, ``spread`` is about it; in seconds."""

    latency: float
    spread: float
    taps: int


def calibrated(taps: Sequence[float], clicks: Sequence[float]) -> Calibration:
    """Both in seconds on one clock. CalibrationError where there are too few taps, or where
    they are too uneven to be believed."""
    late = [_nearest(click, taps) for click in clicks]
    found = [one for one in late if one is not None]
    if len(found) < FEWEST:
        raise CalibrationError(
            f"{len(found)} of {len(clicks)} clicks had a tap; {FEWEST} are needed. Tap once "
            "with every click, and see that the right input is chosen."
        )
    latency = median(found)
    spread = SIGMA * median(abs(one - latency) for one in found)
    if spread > UNEVEN:
        raise CalibrationError(
            f"The taps are {round(1000 * spread)} ms apart from one another, too uneven to "
            "measure by. Once more, relaxed, with the click."
        )
    return Calibration(latency, spread, len(found))


def clicks_at() -> list[float]:
    """When the sixteen clicks come, in seconds."""
    return [place * 60 / TEMPO for place in range(TAPS)]


def _nearest(click: float, taps: Sequence[float]) -> float | None:
    near = [tap - click for tap in taps if abs(tap - click) <= min(FURTHEST, 30 / TEMPO)]
    return min(near, key=abs, default=None)
