"""What a kit's notes mean: maps as data, a curve for its loudness, and where its hat stands.

The first map is General MIDI's own; the others are layouts that are often met, from memory.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field

from wren_ladder.drumming.chart import Drum, Surface
from wren_ladder.drumming.notation.staff import MIDI_DRUMS
from wren_ladder.drumming.wording import Coded

LOUDEST = 127
KEYS = range(128)
OPEN = 0.5  # of a pedal's way: further up the hat is open


class Layout(Coded):
    GENERAL = "general", "General MIDI"
    ZONES = "zones", "rims and edges on notes of their own"
    ROW = "row", "pads in a row from note 36"
    ONE_PAD = "one-pad", "one pad, whatever its note"


# From memory, no source: what many modules send for a second zone.
ZONES = {
    22: Drum.HIHAT,
    26: Drum.HIHAT_OPEN,
    37: Drum.CROSS_STICK,
    40: Drum.RIM_SHOT,
    39: Drum.TOM_FLOOR,
    58: Drum.TOM_FLOOR,
    47: Drum.TOM_MID,
    50: Drum.TOM_HIGH,
    52: Drum.CRASH_2,
    55: Drum.CRASH,
    59: Drum.RIDE,
}
ROW = dict(
    enumerate(
        (
            Drum.KICK, Drum.SNARE, Drum.HIHAT, Drum.HIHAT_OPEN,
            Drum.TOM_HIGH, Drum.TOM_MID, Drum.TOM_FLOOR, Drum.CRASH,
            Drum.RIDE, Drum.HIHAT_FOOT,
        ),
        start=36,
    )
)  # fmt: skip
LAYOUTS = {
    Layout.GENERAL: MIDI_DRUMS,
    Layout.ZONES: MIDI_DRUMS | ZONES,
    Layout.ROW: ROW,
    Layout.ONE_PAD: dict.fromkeys(KEYS, Drum.SNARE),
}


class Curve(Coded):
    """How a pad's velocity becomes strength: the exponent is the house's."""

    EVEN = "even", "as the kit sends it"
    LIGHT = "light", "for a light touch"
    HEAVY = "heavy", "for a heavy touch"


EXPONENTS = {Curve.EVEN: 1.0, Curve.LIGHT: 0.6, Curve.HEAVY: 1.6}


@dataclass(frozen=True, slots=True)
class Kit:
    """A kit as it is set up: one's own notes go before the layout's."""

    layout: Layout = Layout.GENERAL
    own: Mapping[int, Drum] = field(default_factory=dict)
    curve: Curve = Curve.EVEN

    def drum(self, note: int, openness: float | None = None) -> Drum | None:
        """None for a note that is no drum. ``openness`` of the hat's pedal, 0 closed to 1
        open, where the kit sends it: then a stroke on the hat is what the pedal says."""
        drum = self.own.get(note) or LAYOUTS[self.layout].get(note)
        if drum and drum.surface is Surface.HIHAT and openness is not None:
            return Drum.HIHAT_OPEN if openness > OPEN else Drum.HIHAT
        return drum

    def strength(self, velocity: int) -> float:
        """0 to 1 of a velocity from 1 to 127."""
        return (velocity / LOUDEST) ** EXPONENTS[self.curve]


def own_notes(rows: object) -> dict[int, Drum]:
    """{"38": "snare"} as a page keeps it; what is neither a note nor a drum is a ValueError."""
    if not isinstance(rows, dict):
        raise ValueError("the notes are wanted as note: drum")
    found = {int(note): Drum(drum) for note, drum in rows.items()}
    if any(note not in KEYS for note in found):
        raise ValueError("a note is a number from 0 to 127")
    return found
