"""Which drum a MusicXML note means: by MIDI key, by the instrument's name, by its place.

The MIDI keys are those of General MIDI level 1 plus its near neighbours; places and
heads follow the common drum-set convention (common practice, no source).
"""

from collections.abc import Iterable
from xml.etree.ElementTree import Element

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.notation.staff import MIDI_DRUMS, NOTEHEADS

# The first entry whose every word is in the instrument's name wins.
NAMED = (
    (("cowbell",), Drum.COWBELL),
    (("cross",), Drum.CROSS_STICK),
    (("side stick",), Drum.CROSS_STICK),
    (("rim",), Drum.RIM_SHOT),
    (("half", "hat"), Drum.HIHAT_HALF),
    (("open", "hat"), Drum.HIHAT_OPEN),
    (("pedal", "hat"), Drum.HIHAT_FOOT),
    (("foot", "hat"), Drum.HIHAT_FOOT),
    (("hat",), Drum.HIHAT),
    (("bell",), Drum.RIDE_BELL),
    (("ride",), Drum.RIDE),
    (("crash", "2"), Drum.CRASH_2),
    (("crash",), Drum.CRASH),
    (("splash",), Drum.SPLASH),
    (("china",), Drum.CHINA),
    (("chinese",), Drum.CHINA),
    (("snare",), Drum.SNARE),
    (("kick",), Drum.KICK),
    (("bass drum",), Drum.KICK),
    (("floor",), Drum.TOM_FLOOR),
    (("low tom",), Drum.TOM_FLOOR),
    (("high", "tom"), Drum.TOM_HIGH),
    (("mid", "tom"), Drum.TOM_MID),
)
STEPS = {step: index for index, step in enumerate("CDEFGAB")}
LOWEST_LINE = 4 * 7 + STEPS["E"]  # E4 is the lowest line
SHAPES = {"normal": "", "x": "x", "circle-x": "x", "cross": "x", "diamond": "diamond"}
SHAPES |= {"triangle": "isotriangle", "slash": "slash", "inverted triangle": "isotriangle"}
MORE_PLACES = {
    (9, "circle"): Drum.HIHAT_OPEN,
    (11, "x"): Drum.CRASH_2,
    (4, ""): Drum.TOM_MID,
    (2, ""): Drum.TOM_FLOOR,
    (0, ""): Drum.KICK,
}
PLACES = {(head.line, head.shape): drum for drum, head in reversed(NOTEHEADS.items())}
PLACES |= MORE_PLACES


def instruments_of(score_part: Element) -> dict[str, Drum | None]:
    """Instrument id -> drum, None where neither its key nor its name is known.

    ``midi-unpitched`` counts from 1, so key 38 is written 39.
    """
    found: dict[str, Drum | None] = {}
    for instrument in score_part.findall("score-instrument"):
        name = instrument.findtext("instrument-name", "")
        found[instrument.get("id", "")] = by_name(name)
    for midi in score_part.findall("midi-instrument"):
        key = midi.findtext("midi-unpitched", "")
        if key.strip().isdigit():
            drum = MIDI_DRUMS.get(int(key) - 1)
            identity = midi.get("id", "")
            # A name is more exact where the key can only say "hat" or "snare".
            named = found.get(identity)
            if drum and not (named and named.surface == drum.surface):
                found[identity] = drum
    return found


def by_name(name: str) -> Drum | None:
    lowered = name.lower().replace("-", " ").replace("_", " ")
    lowered = lowered.replace("hihat", "hi hat")
    for words, drum in NAMED:
        if all(word in lowered for word in words):
            return drum
    return None


def by_place(note: Element) -> Drum | None:
    """From display-step, display-octave and notehead; None where no drum lives there."""
    unpitched = note.find("unpitched")
    if unpitched is None:
        unpitched = note.find("pitch")
    if unpitched is None:
        return None
    step = unpitched.findtext("display-step") or unpitched.findtext("step") or ""
    octave = unpitched.findtext("display-octave") or unpitched.findtext("octave") or ""
    if step.strip() not in STEPS or not octave.strip().isdigit():
        return None
    line = int(octave) * 7 + STEPS[step.strip()] - LOWEST_LINE
    head = note.findtext("notehead", "normal").strip()
    if (line, head) in PLACES:
        return PLACES[line, head]
    return PLACES.get((line, SHAPES.get(head, head)))


def is_percussion(part: Element, score_part: Element | None) -> bool:
    """Unpitched notes, or a MIDI channel 10, make a part percussion."""
    if part.find("measure/note/unpitched") is not None:
        return True
    channels: Iterable[Element] = (
        score_part.iterfind("midi-instrument/midi-channel") if score_part is not None else ()
    )
    return any((channel.text or "").strip() == "10" for channel in channels)
