"""Where each drum stands on the staff, its note head, and its General MIDI key.

Keys: General MIDI System Level 1, percussion key map (MIDI Manufacturers Association);
None where the map has no sound of that kind. Staff places and heads are the common
drum-set convention (common practice, no source); ``line`` counts lines and spaces up
from the lowest line.
"""

from dataclasses import dataclass

from wren_ladder.drumming.chart import Drum


@dataclass(frozen=True, slots=True)
class Notehead:
    line: int
    shape: str  # "" for an oval head, else as MEI names it
    midi: int | None


NOTEHEADS = {
    Drum.CRASH_2: Notehead(11, "x", 57),
    Drum.CHINA: Notehead(12, "x", 52),
    Drum.SPLASH: Notehead(11, "diamond", 55),
    Drum.CRASH: Notehead(10, "x", 49),
    Drum.HIHAT: Notehead(9, "x", 42),
    Drum.HIHAT_HALF: Notehead(9, "x", None),
    Drum.HIHAT_OPEN: Notehead(9, "x", 46),
    Drum.RIDE: Notehead(8, "x", 51),
    Drum.RIDE_BELL: Notehead(8, "diamond", 53),
    Drum.COWBELL: Notehead(7, "isotriangle", 56),
    Drum.TOM_HIGH: Notehead(7, "", 50),
    Drum.TOM_MID: Notehead(6, "", 47),
    Drum.SNARE: Notehead(5, "", 38),
    Drum.CROSS_STICK: Notehead(5, "x", 37),
    Drum.RIM_SHOT: Notehead(5, "slash", None),
    Drum.TOM_FLOOR: Notehead(3, "", 43),
    Drum.KICK: Notehead(1, "", 36),
    Drum.HIHAT_FOOT: Notehead(-1, "x", 44),
}
# Key -> drum, with the near neighbours that files use for the same sound.
MIDI_DRUMS = {head.midi: drum for drum, head in NOTEHEADS.items() if head.midi}
MIDI_DRUMS |= {
    35: Drum.KICK,
    40: Drum.SNARE,
    41: Drum.TOM_FLOOR,
    45: Drum.TOM_FLOOR,
    48: Drum.TOM_MID,
    59: Drum.RIDE,
}
