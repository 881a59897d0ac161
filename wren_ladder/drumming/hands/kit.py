"""Where things stand: a small plan of a drum kit, seen from above by its player.

Left to right and near to far in steps of about a hand's breadth; a usual set-up of a
right-handed player, which a left-handed one mirrors. From memory; only distances and
sides are used.
"""

from functools import lru_cache
from math import hypot

from wren_ladder.drumming.chart import Hand, Surface

PLACES = {
    Surface.HIHAT: (-4.0, 1.0),
    Surface.CRASH: (-3.0, 4.0),
    Surface.SNARE: (-1.0, 0.0),
    Surface.TOM_HIGH: (-0.5, 3.0),
    Surface.SPLASH: (0.5, 4.5),
    Surface.COWBELL: (0.8, 3.6),
    Surface.TOM_MID: (2.0, 3.0),
    Surface.TOM_FLOOR: (4.0, 0.0),
    Surface.RIDE: (4.5, 2.5),
    Surface.CRASH_2: (4.0, 4.5),
    Surface.CHINA: (6.0, 4.0),
}


def side(surface: Surface, lead: Hand) -> float:
    """How far right of the middle; mirrored for a left-handed player."""
    across, _ = PLACES[surface]
    return across if lead is Hand.RIGHT else -across


@lru_cache(maxsize=256)
def travel(start: Surface, end: Surface) -> float:
    """How far a stick goes from one to the other."""
    (x, y), (u, v) = PLACES[start], PLACES[end]
    return hypot(u - x, v - y)


def crossed(right: Surface, left: Surface, lead: Hand) -> bool:
    """Does the right hand stand left of the left hand?"""
    return side(right, lead) < side(left, lead)
