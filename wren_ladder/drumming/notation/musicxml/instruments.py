"""Which drum a MusicXML note means: by its instrument's name, by its MIDI key, by its place.

The MIDI keys are those of General MIDI level 1 plus its near neighbours; places and
heads follow the common drum-set convention (common practice, no source).
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from xml.etree.ElementTree import Element

from wren_ladder.drumming.chart import Drum, Family
from wren_ladder.drumming.notation.musicxml.names import by_name, names_a_kit, names_another
from wren_ladder.drumming.notation.reading import BY_PLACE, Sources
from wren_ladder.drumming.notation.staff import MIDI_DRUMS, PLACES
from wren_ladder.drumming.numbers import read_whole

STEPS = {step: index for index, step in enumerate("CDEFGAB")}
LOWEST_LINE = 4 * 7 + STEPS["E"]  # E4 is the lowest line
SHAPES = {"normal": "", "x": "x", "circle-x": "x", "cross": "x", "diamond": "diamond"}
SHAPES |= dict.fromkeys(("triangle", "inverted triangle"), "isotriangle")
SHAPES |= dict.fromkeys(("slash", "slashed", "back slashed"), "slashed")
SEMITONES = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}
KICK_KEYS, SNARE_KEYS, HAT_KEYS = (35, 36), (38, 40), (42, 44, 46)
HIGHEST_KEY, MOSTLY = 59, 0.8  # of MIDI keys that are drums; the share of a part's notes
MOST_PLACES = 9  # on the staff of one kit; a tune has more
HEAD_NAMES = {"normal": "round head", "x": "cross", "circle-x": "circled cross"}


# A head that sets a drum in another way than its instrument's name does.
STRUCK_OTHERWISE = {
    (Drum.SNARE, "x"): Drum.CROSS_STICK,
    (Drum.SNARE, "slashed"): Drum.RIM_SHOT,
    (Drum.RIDE, "diamond"): Drum.RIDE_BELL,
}


@dataclass(frozen=True, slots=True)
class Instrument:
    """What a part's list says of one instrument: its drum and what decided, None where only
    the place of a note can say; ``other`` is one that is no drum here."""

    label: str
    drum: Drum | None
    why: str
    other: bool = False
    by_place_first: bool = False  # named like a whole kit, so that its key says little


@dataclass
class Kit:
    """Finds the drum of each note of a part: by its instrument, else by where it stands."""

    instruments: Mapping[str, Instrument]  # by their ids
    sources: Sources
    only: Instrument | None = None  # of the whole part, where nothing else names one
    by_pitch: bool = False  # its pitches are MIDI keys

    def drum_of(self, note: Element) -> Drum | None:
        identity = _identity(note)
        if self.only is not None:
            return self._named(note, identity, self.only)
        if self.by_pitch:
            key = _midi_key(note)
            said = f"{self.name_of(note)}, key {key}"
            why = "by its pitch, taken for a MIDI key"
            return self.sources.meet(said, said, _by_key(key), why)
        instrument = self.instruments.get(identity)
        placed = by_place(note)
        sure = placed is None or not (instrument and instrument.by_place_first)
        if instrument and sure and (instrument.other or instrument.drum):
            return self._named(note, identity, instrument)
        only, why = None, BY_PLACE
        if placed is None and len(self.instruments) == 1:
            only, why = next(iter(self.instruments.values())).drum, "the part's only instrument"
        if placed and instrument and instrument.why and not instrument.drum:
            why = f"{why}; {instrument.why}"
        said = self.name_of(note)
        return self.sources.meet(said, said, placed or only, why)

    def drum_seen(self, note: Element) -> Drum | None:
        """The same without counting the note, for a grace."""
        if self.only is not None:
            return self.only.drum
        if self.by_pitch:
            return _by_key(_midi_key(note))
        instrument = self.instruments.get(_identity(note))
        return instrument.drum if instrument and instrument.drum else by_place(note)

    def _named(self, note: Element, identity: str, instrument: Instrument) -> Drum | None:
        label = instrument.label or identity
        head = _shape(note)
        drum = instrument.drum
        otherwise = STRUCK_OTHERWISE.get((drum, head)) if drum else None
        if otherwise:
            name = f"{label}, {HEAD_NAMES.get(head, head + ' head')}"
            key = f"instrument {identity}, {head}"
            return self.sources.meet(key, name, otherwise, f"{instrument.why} and its head")
        key = f"instrument {identity}"
        return self.sources.meet(key, label, instrument.drum, instrument.why)

    def name_of(self, note: Element) -> str:
        """A kind of note as the page shows it: "a cross on G5"; its instrument where no
        drum has that place."""
        identity = _identity(note)
        if identity and by_place(note) is None:
            instrument = self.instruments.get(identity)
            return f"instrument {(instrument and instrument.label) or identity}"
        placed = _placed(note)
        if placed is None:
            return "a note without a place"
        step = placed.findtext("display-step") or placed.findtext("step") or "?"
        octave = placed.findtext("display-octave") or placed.findtext("octave") or ""
        head = note.findtext("notehead", "normal").strip() or "normal"
        return f"a {HEAD_NAMES.get(head, head)} on {step.strip()}{octave.strip()}"[:60]


def kit_of(score_part: Element | None, part: Element, sources: Sources) -> Kit:
    """How the notes of a part are understood; None where the score lists no such part."""
    found = instruments_of(score_part) if score_part is not None else {}
    if any(one.drum or one.other for one in found.values()):
        return Kit(found, sources)
    only = _by_the_part(score_part, part)
    return Kit(found, sources, only, only is None and _pitched_by_keys(part))


def _by_the_part(score_part: Element | None, part: Element) -> Instrument | None:
    """A part of one drum says in its name which; a single line without is the snare's."""
    name = score_part.findtext("part-name", "") if score_part is not None else ""
    name = " ".join(name.split())
    lines = part.findtext("measure/attributes/staff-details/staff-lines", "").strip()
    places = {_where(note) for note in part.iterfind("measure/note") if _where(note)}
    if names_another(name):
        return Instrument(name, None, "", other=True)
    if lines != "1" and len(places) != 1:
        return None
    drum = by_name(name)
    if drum:
        return Instrument(name, drum, "by the part's name")
    if lines == "1":
        return Instrument(name or "the part", Drum.SNARE, f"{BY_PLACE}, which has one line")
    return None


def _where(note: Element) -> tuple[str, str] | None:
    placed = _placed(note)
    if placed is None:
        return None
    step, octave = (
        (placed.findtext(f"display-{name}") or placed.findtext(name) or "").strip()
        for name in ("step", "octave")
    )
    return step, octave


def _placed(note: Element) -> Element | None:
    unpitched = note.find("unpitched")
    return note.find("pitch") if unpitched is None else unpitched


def _by_key(key: int | None) -> Drum | None:
    return None if key is None else MIDI_DRUMS.get(key)


def _midi_key(note: Element) -> int | None:
    """The key that a pitch sounds at; C4 is 60."""
    pitch = note.find("pitch")
    if pitch is None:
        return None
    step = pitch.findtext("step", "").strip()
    octave = read_whole(pitch.findtext("octave", "").strip(), 0, 9)
    if step not in SEMITONES or octave is None:
        return None
    alter = pitch.findtext("alter", "0").strip()
    turn = int(alter) if alter in ("-1", "0", "1") else 0
    return 12 * (octave + 1) + SEMITONES[step] + turn


def _pitched_by_keys(part: Element) -> bool:
    """Programs that make notes of MIDI write drums as the pitches of their keys: low ones, and
    nearly all of them a drum's."""
    pitches = (_midi_key(note) for note in part.iterfind("measure/note"))
    keys = [key for key in pitches if key is not None]
    known = sum(key in MIDI_DRUMS for key in keys)
    kit = [any(key in group for key in keys) for group in (KICK_KEYS, SNARE_KEYS, HAT_KEYS)]
    if sum(kit) < 2 or max(keys) > HIGHEST_KEY:
        return False
    return known >= MOSTLY * len(keys)


def is_melody(part: Element, name: str) -> bool:
    """Pitches of a tune rather than places of drums: sharps and flats, a key, many pitches or
    such as no drum has."""
    notes = [note for note in part.iterfind("measure/note") if note.find("pitch") is not None]
    if not notes:
        return False
    if names_another(name):
        return True
    if _pitched_by_keys(part):
        return False
    fifths = {
        (one.text or "").strip() for one in part.iterfind("measure/attributes/key/fifths")
    }
    altered = any(note.findtext("pitch/alter", "0").strip() != "0" for note in notes)
    pitches = {_where(note) for note in notes}
    strange = sum(by_place(note) is None for note in notes)
    return (
        bool(fifths - {"", "0"})
        or altered
        or len(pitches) > MOST_PLACES
        or strange > (1 - MOSTLY) * len(notes)
    )


def instruments_of(score_part: Element) -> dict[str, Instrument]:
    """The part's instruments by their ids. ``midi-unpitched`` counts from 1, so key 38 is
    written 39."""
    keys = {}
    for midi in score_part.findall("midi-instrument"):
        key = read_whole(midi.findtext("midi-unpitched", "").strip(), 1, 128)
        if key is not None:
            keys[midi.get("id", "")] = key - 1
    found = {
        one.get("id", ""): _instrument(
            " ".join(one.findtext("instrument-name", "").split()), keys.get(one.get("id", ""))
        )
        for one in score_part.findall("score-instrument")
    }
    floors = [one for one in found.values() if one.drum is Drum.TOM_FLOOR]
    if len(floors) > 1:  # of two floor toms the low one is the second
        for identity, one in found.items():
            if one in floors and "low" in one.label.lower():
                found[identity] = replace(one, drum=Drum.TOM_FLOOR_2)
    return found


def _instrument(label: str, key: int | None) -> Instrument:
    """A name goes before a key, which may only say "hat", "snare" or "tom"."""
    named, keyed = by_name(label), _by_key(key)
    if named:
        said = "by its name"
        toms = {Family.TOM} == {one.row.family for one in (named, keyed) if one}
        if keyed and keyed.surface is not named.surface and not toms:
            said += f"; its key says {keyed.spoken}"
        return Instrument(label, named, said)
    if names_another(label):
        return Instrument(label, None, "", other=True)
    if keyed:
        return Instrument(label, keyed, "by its key", by_place_first=names_a_kit(label))
    if key is not None and not names_a_kit(label):
        return Instrument(label, None, "", other=True)
    unknown = "" if names_a_kit(label) else f"the name '{label}' is not known"
    return Instrument(label, None, unknown)


def _identity(note: Element) -> str:
    instrument = note.find("instrument")
    return instrument.get("id", "") if instrument is not None else ""


def _shape(note: Element) -> str:
    head = note.findtext("notehead", "normal").strip()
    return SHAPES.get(head, head)


def by_place(note: Element) -> Drum | None:
    """From display-step, display-octave and notehead; None where no drum lives there."""
    unpitched = _placed(note)
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
    """Unpitched notes, a percussion clef, or MIDI channel 10, make a part percussion."""
    if part.find("measure/note/unpitched") is not None:
        return True
    clefs = (clef.text or "" for clef in part.iterfind("measure/attributes/clef/sign"))
    if any(clef.strip() == "percussion" for clef in clefs):
        return True
    channels: Iterable[Element] = (
        score_part.iterfind("midi-instrument/midi-channel") if score_part is not None else ()
    )
    return any((channel.text or "").strip() == "10" for channel in channels)
