"""What a microphone heard: onsets alone, and the click among them.

Headphones keep the click out. Where it comes through the loudspeaker, the count-in tells how
late and how loud it arrives: nobody plays there.
"""

from collections.abc import Sequence
from statistics import median

from wren_ladder.drumming.take_sources.heard import Heard

NEAR = 0.35  # seconds behind a click in which it may arrive
SAME = 0.012  # seconds about its usual lateness
LOUDER = 1.6  # times as loud as the click alone: then something was struck with it
HEARD = 0.75  # of the counted clicks that have to be heard before any is taken out


def without_clicks(
    heard: Sequence[Heard], counted: Sequence[float], clicks: Sequence[float]
) -> tuple[Heard, ...]:
    """``counted``: when the clicks of the count-in were; ``clicks``: the others. All in seconds
    on the strokes' clock; ``strength`` of a stroke is how loud the microphone had it."""
    late, loud = _arriving(heard, counted)
    if late is None:
        return _begun(heard, counted, 0.0)
    times = [click + late for click in clicks]
    return tuple(
        one
        for one in _begun(heard, counted, late)
        if (one.strength or 0.0) >= LOUDER * loud
        or all(abs(one.at - at) > SAME for at in times)
    )


def _arriving(heard: Sequence[Heard], counted: Sequence[float]) -> tuple[float | None, float]:
    """How late and how loud the click is heard: None where it is not, as with headphones."""
    found = []
    for click in counted:
        near = [one for one in heard if 0 <= one.at - click < NEAR]
        if near:
            found.append((near[0].at - click, near[0].strength or 0.0))
    if not found or len(found) < HEARD * len(counted):
        return None, 0.0
    late = median(lateness for lateness, _ in found)
    if any(abs(lateness - late) > SAME for lateness, _ in found):
        return None, 0.0
    return late, median(loudness for _, loudness in found)


def _begun(heard: Sequence[Heard], counted: Sequence[float], late: float) -> tuple[Heard, ...]:
    """Without what was heard before the music: who taps along with the count has not begun."""
    if not counted:
        return tuple(heard)
    return tuple(one for one in heard if one.at > counted[-1] + late + SAME)
