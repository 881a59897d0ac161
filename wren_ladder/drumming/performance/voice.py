"""What one stroke sounds like: the one place that says it.

A softer stroke is not only quieter but duller; a hat that is struck or closed silences the one
that rings. The figures are the house's own, by ear and by what the samples show.
"""

from dataclasses import dataclass

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.chart.drum import Family

LOUDNESS = 1.5  # the power of a stroke's strength that its gain is
DULLEST, BRIGHTEST = 1500, 12  # Hz of the softest stroke's low-pass, and how many times more


@dataclass(frozen=True, slots=True)
class Voice:
    """A sample with its gain, the cutoff of its low-pass in Hz, after how many seconds it fades
    (None: by itself) and how fast it runs; ``chokes`` what is silenced by it."""

    sample: str
    gain: float
    cutoff: int
    fade: float | None
    rate: float
    chokes: str = ""


def voice_of(drum: Drum, strength: float) -> Voice:
    """``strength`` from 0 to 1, as a performance has it."""
    sound = drum.row.sound
    return Voice(
        sample=sound.sample,
        gain=round(sound.gain * strength**LOUDNESS, 4),
        cutoff=round(DULLEST * BRIGHTEST**strength),
        fade=sound.fade,
        rate=sound.rate,
        chokes=Family.HAT.value if drum.row.family is Family.HAT else "",
    )
