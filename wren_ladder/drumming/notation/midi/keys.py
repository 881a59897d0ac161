"""Which drum a MIDI key means: by the map, and toms by their rank among those a file uses.

Source of the names: General MIDI System Level 1 and 2, percussion key map (MIDI Manufacturers
Association).
"""

from collections.abc import Mapping

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.notation.midi.pads import EDGES, Kit, heads_of
from wren_ladder.drumming.notation.staff import MIDI_DRUMS

NAMES = {
    27: "High Q",
    28: "Slap",
    29: "Scratch Push",
    30: "Scratch Pull",
    31: "Sticks",
    32: "Square Click",
    33: "Metronome Click",
    34: "Metronome Bell",
    35: "Acoustic Bass Drum",
    36: "Bass Drum 1",
    37: "Side Stick",
    38: "Acoustic Snare",
    39: "Hand Clap",
    40: "Electric Snare",
    41: "Low Floor Tom",
    42: "Closed Hi-Hat",
    43: "High Floor Tom",
    44: "Pedal Hi-Hat",
    45: "Low Tom",
    46: "Open Hi-Hat",
    47: "Low-Mid Tom",
    48: "Hi-Mid Tom",
    49: "Crash Cymbal 1",
    50: "High Tom",
    51: "Ride Cymbal 1",
    52: "Chinese Cymbal",
    53: "Ride Bell",
    54: "Tambourine",
    55: "Splash Cymbal",
    56: "Cowbell",
    57: "Crash Cymbal 2",
    58: "Vibraslap",
    59: "Ride Cymbal 2",
    60: "Hi Bongo",
    61: "Low Bongo",
    62: "Mute Hi Conga",
    63: "Open Hi Conga",
    64: "Low Conga",
    65: "High Timbale",
    66: "Low Timbale",
    67: "High Agogo",
    68: "Low Agogo",
    69: "Cabasa",
    70: "Maracas",
    71: "Short Whistle",
    72: "Long Whistle",
    73: "Short Guiro",
    74: "Long Guiro",
    75: "Claves",
    76: "Hi Wood Block",
    77: "Low Wood Block",
    78: "Mute Cuica",
    79: "Open Cuica",
    80: "Mute Triangle",
    81: "Open Triangle",
    82: "Shaker",
    83: "Jingle Bell",
    84: "Belltree",
    85: "Castanets",
    86: "Mute Surdo",
    87: "Open Surdo",
}
TOMS = (41, 43, 45, 47, 48, 50)  # from the lowest up
FLOORS = (41, 43)
LOW_RACK = (45, 47)
# From the lowest up, for so many keys; with more, what lies between falls to the nearest.
RANKS = {
    2: (Drum.TOM_MID, Drum.TOM_HIGH),
    3: (Drum.TOM_FLOOR, Drum.TOM_MID, Drum.TOM_HIGH),
    4: (Drum.TOM_FLOOR_2, Drum.TOM_FLOOR, Drum.TOM_MID, Drum.TOM_HIGH),
}


def said_of(key: int) -> str:
    """ "key 39, Hand Clap"."""
    return f"key {key}, {NAMES[key]}" if key in NAMES else f"key {key}"


def drums_of(keys: Mapping[int, int], kit: str = Kit.MAP) -> dict[int, tuple[Drum, str]]:
    """The drum of each key for which there is one, and what decided; ``keys`` with how often
    each is struck."""
    heads = heads_of(keys) if kit == Kit.PADS else {}
    used = set(keys) - heads.keys()
    found = {}
    for key in used & MIDI_DRUMS.keys() - set(TOMS):
        why = "by the General MIDI map" if key in NAMES else "as electronic kits use it"
        found[key] = (MIDI_DRUMS[key], why)
    toms = [key for key in TOMS if key in used]
    why = "the only tom" if len(toms) == 1 else "by its rank among the toms"
    found |= {key: (drum, why) for key, drum in _by_rank(toms).items()}
    for rim, head in heads.items():
        part = "edge" if rim in EDGES else "rim"
        drum = Drum.RIM_SHOT if found[head][0] is Drum.SNARE else found[head][0]
        found[rim] = (drum, f"the {part} of key {head}, as electronic kits send it")
    return found


def _by_rank(toms: list[int]) -> dict[int, Drum]:
    floors = [key for key in toms if key in FLOORS]
    rack = [key for key in toms if key not in FLOORS]
    if floors and len(rack) < 2:
        low = (Drum.TOM_FLOOR,) if len(floors) == 1 else (Drum.TOM_FLOOR_2, Drum.TOM_FLOOR)
        return dict(zip(floors, low, strict=True)) | {key: _on_the_rack(key) for key in rack}
    if len(toms) < 2:
        return {key: _on_the_rack(key) for key in toms}
    drums = RANKS.get(len(toms), RANKS[4])
    places = [round(n * (len(drums) - 1) / (len(toms) - 1)) for n in range(len(toms))]
    return {key: drums[place] for key, place in zip(toms, places, strict=True)}


def _on_the_rack(key: int) -> Drum:
    """Of a single tom beside the floor toms."""
    return Drum.TOM_MID if key in LOW_RACK else Drum.TOM_HIGH
