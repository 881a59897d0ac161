"""Which drum a MusicXML note means: by MIDI key, by the instrument's name, by its place.

The MIDI keys are those of General MIDI level 1 plus its near neighbours; places and
heads follow the common drum-set convention (common practice, no source).
"""

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from xml.etree.ElementTree import Element

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.notation.reading import Sources
from wren_ladder.drumming.notation.staff import MIDI_DRUMS, PLACES
from wren_ladder.drumming.numbers import read_whole

# Settings of a drum before the drum itself, the longest names first.
NAMED = sorted(
    ((words, drum) for drum in Drum for words in drum.row.names),
    key=lambda entry: (not entry[1].row.word, -len(entry[0])),
)
WORDS = re.compile(r"[a-z]+|[0-9]+")
STEPS = {step: index for index, step in enumerate("CDEFGAB")}
LOWEST_LINE = 4 * 7 + STEPS["E"]  # E4 is the lowest line
SHAPES = {"normal": "", "x": "x", "circle-x": "x", "cross": "x", "diamond": "diamond"}
SHAPES |= dict.fromkeys(("triangle", "inverted triangle"), "isotriangle")
SHAPES |= dict.fromkeys(("slash", "slashed", "back slashed"), "slashed")
HEAD_NAMES = {"normal": "round head", "x": "cross", "circle-x": "circled cross"}


@dataclass
class Kit:
    """Finds the drum of each note of a part: by its instrument, else by where it stands."""

    named: Mapping[str, Drum | None]  # by instrument id
    labels: Mapping[str, str]  # instrument id -> the name in the file
    sources: Sources

    def drum_of(self, note: Element) -> Drum | None:
        identity = _identity(note)
        named = self.named.get(identity)
        if named:
            label = self.labels.get(identity) or identity
            return self.sources.meet(f"instrument {identity}", label, named, "by its name")
        placed, only = by_place(note), None
        if placed is None and len(self.named) == 1:
            only = next(iter(self.named.values()))
        why = "by its place on the staff" if placed else "the part's only instrument"
        said = self.name_of(note)
        return self.sources.meet(said, said, placed or only, why)

    def name_of(self, note: Element) -> str:
        """A kind of note as the page shows it: "a cross on G5"; its instrument where no
        drum has that place."""
        identity = _identity(note)
        if identity and by_place(note) is None:
            return f"instrument {self.labels.get(identity) or identity}"
        placed = note.find("unpitched")
        placed = note.find("pitch") if placed is None else placed
        if placed is None:
            return "a note without a place"
        step = placed.findtext("display-step") or placed.findtext("step") or "?"
        octave = placed.findtext("display-octave") or placed.findtext("octave") or ""
        head = note.findtext("notehead", "normal").strip() or "normal"
        return f"a {HEAD_NAMES.get(head, head)} on {step.strip()}{octave.strip()}"[:60]


def kit_of(score_part: Element | None, sources: Sources) -> Kit:
    """How the notes of a part are understood; None where the score lists no such part."""
    if score_part is None:
        return Kit({}, {}, sources)
    labels = {
        instrument.get("id", ""): instrument.findtext("instrument-name", "").strip()
        for instrument in score_part.findall("score-instrument")
    }
    return Kit(instruments_of(score_part), labels, sources)


def instruments_of(score_part: Element) -> dict[str, Drum | None]:
    """Instrument id -> drum, None where neither its key nor its name is known.

    ``midi-unpitched`` counts from 1, so key 38 is written 39.
    """
    found: dict[str, Drum | None] = {}
    for instrument in score_part.findall("score-instrument"):
        name = instrument.findtext("instrument-name", "")
        found[instrument.get("id", "")] = by_name(name)
    for midi in score_part.findall("midi-instrument"):
        key = read_whole(midi.findtext("midi-unpitched", "").strip(), 1, 128)
        if key is not None:
            drum = MIDI_DRUMS.get(key - 1)
            identity = midi.get("id", "")
            # A name is more exact where the key can only say "hat", "snare" or "tom".
            named = found.get(identity)
            if drum and not (named and named.row.family is drum.row.family):
                found[identity] = drum
    return found


def _identity(note: Element) -> str:
    instrument = note.find("instrument")
    return instrument.get("id", "") if instrument is not None else ""


def by_name(name: str) -> Drum | None:
    """By whole words, or how words begin: "Kickdrum" is a kick, "Cowbell" no bell."""
    said = WORDS.findall(name.lower().replace("hihat", "hi hat"))
    for words, drum in NAMED:
        if all(any(one.startswith(word) for one in said) for word in words):
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
    register = read_whole(octave.strip(), 0, 9)
    if step.strip() not in STEPS or register is None:
        return None
    line = register * 7 + STEPS[step.strip()] - LOWEST_LINE
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
