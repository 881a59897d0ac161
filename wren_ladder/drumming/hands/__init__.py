"""Which limb plays what, and how high each stick goes."""

from wren_ladder.drumming.hands.limbs import Limb
from wren_ladder.drumming.hands.sticking import Stick, landing_hand, stick_bar, stick_page
from wren_ladder.drumming.hands.strokes import Height, Stroke, StrokeKind, strokes_of

__all__ = [
    "Height",
    "Limb",
    "Stick",
    "Stroke",
    "StrokeKind",
    "landing_hand",
    "stick_bar",
    "stick_page",
    "strokes_of",
]
