"""A groove as a sign for a cell: its strokes stand on the lines of four limbs.

The same house as the limb view: an accent stands taller, an open hat and a bell have a ring.
"""

from collections import defaultdict
from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Touch

WIDTH, EDGE, SLOT = 100, 5, 90
TOP, LINE = 15, 14  # of the highest line, and between two
UP, TALL, HEAD = 8, 11, 1.7
LIMBS = ("cymbal", "snare", "kick", "foot")
RINGING = {Drum.HIHAT_OPEN, Drum.RIDE_BELL}


@dataclass(frozen=True, slots=True)
class LimbLine:
    """``y`` of a limb's line; ``strokes`` as a path from its foot up, ``heads`` as another."""

    limb: str
    y: int
    strokes: str
    heads: str
    rings: tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class GrooveSign:
    width: int
    height: int
    lines: tuple[LimbLine, ...]


def groove_sign(bar: Bar) -> GrooveSign:
    """The left foot has a line only where it plays."""
    by_limb = defaultdict(list)
    for hit in bar.hits:
        by_limb[_limb(hit.drum)].append(hit)
    limbs = [limb for limb in LIMBS if limb != "foot" or by_limb[limb]]
    lines = tuple(
        _line(limb, TOP + LINE * place, by_limb[limb], bar.length)
        for place, limb in enumerate(limbs)
    )
    return GrooveSign(WIDTH, TOP + LINE * (len(limbs) - 1) + 4, lines)


def _limb(drum: Drum) -> str:
    if drum is Drum.HIHAT_FOOT:
        return "foot"
    if drum is Drum.KICK:
        return "kick"
    return "snare" if drum is Drum.SNARE else "cymbal"


def _line(limb: str, y: int, hits, length: Fraction) -> LimbLine:
    strokes, heads, rings = [], [], []
    for hit in hits:
        x = round(EDGE + float(hit.at / length) * SLOT, 1)
        up = TALL if hit.touch is Touch.ACCENT else UP
        strokes.append(f"M{x} {y}v{-up}")
        heads.append(f"M{x - HEAD:.1f} {y}a{HEAD} {HEAD} 0 1 0 {2 * HEAD} 0z")
        if hit.drum in RINGING:
            rings.append((x, y - up - 2))
    return LimbLine(limb, y, "".join(strokes), "".join(heads), tuple(rings))
