"""The rules by which a hand is chosen for a stroke."""

from wren_ladder.drumming.wording import Coded


class StickRule(Coded):
    """Why this hand: by the page, by the groove, or by a school."""

    WRITTEN = "written", "written on the page"
    KEEPS_CYMBAL = "keeps-cymbal", "one hand keeps the cymbal"
    WITH_CYMBAL = "with-cymbal", "the other hand plays with the cymbal"
    BETWEEN = "between", "the other hand plays between cymbal strokes"
    IN_SEMIQUAVERS = "in-semiquavers", "semiquavers on the cymbal go hand to hand"
    UNDER_SNARE = "under-snare", "the other hand stays on the cymbal; it may be left out"
    LEAD_STARTS = "lead-starts", "the lead hand starts"
    HAND_TO_HAND = "hand-to-hand", "hand to hand"
    TOGETHER = "together", "both hands together"
    GRID_LEAD = "grid-lead", "the lead hand has 1 and &"
    GRID_OTHER = "grid-other", "the other hand has e and a"
    ACCENTED = "accented", "the lead hand plays the accents"
    NOT_ACCENTED = "not-accented", "the other hand plays what is not accented"
    ROLL_ENDS = "roll-ends", "the hand that the roll ends on"
    TO_THE_ROLL = "to-the-roll", "the hand from which the roll ends right"
    LEAST_TRAVEL = "least-travel", "the way round the kit with the least travel"
    PEDALS = "pedals", "feet keep their pedals"
    NOBODY = "nobody", "no hand is free"


GROOVE_RULES = (
    StickRule.KEEPS_CYMBAL,
    StickRule.WITH_CYMBAL,
    StickRule.BETWEEN,
    StickRule.IN_SEMIQUAVERS,
    StickRule.UNDER_SNARE,
)
Rule = StickRule | str  # or the name of the rudiment that brings the hand
