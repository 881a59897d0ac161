"""Where things stand: a small plan of a drum kit, seen from above by its player.

Left to right and near to far in steps of about a hand's breadth; a usual set-up of a
right-handed player, which a left-handed one mirrors. From memory; only distances and
sides are used.
"""

from functools import lru_cache
from math import hypot

from wren_ladder.drumming.chart import Drum, Hand, Surface

# Where each surface stands that hands strike, see the table of drums.
PLACES = {drum.surface: drum.row.kit for drum in Drum if drum.row.kit is not None}


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
