"""The four limbs, which of them are hands, and whose foot is on which pedal."""

from enum import StrEnum

from wren_ladder.drumming.chart import Drum, Hand


class Limb(StrEnum):
    RIGHT_HAND = "right hand"
    LEFT_HAND = "left hand"
    RIGHT_FOOT = "right foot"
    LEFT_FOOT = "left foot"


LIMB_OF = {Hand.RIGHT: Limb.RIGHT_HAND, Hand.LEFT: Limb.LEFT_HAND}
HAND_OF = {limb: hand for hand, limb in LIMB_OF.items()}


def foot_of(drum: Drum, lead: Hand) -> Limb:
    """The kick pedal is under the lead side's foot, the hat pedal under the other."""
    right = (drum is Drum.KICK) == (lead is Hand.RIGHT)
    return Limb.RIGHT_FOOT if right else Limb.LEFT_FOOT
