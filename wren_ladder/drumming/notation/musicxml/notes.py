"""How one hit is written as a MusicXML note, and which voice it stands in."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from xml.etree.ElementTree import Element, SubElement

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Grace, Hit, RollKind, Touch
from wren_ladder.drumming.notation.lengths import note_ends
from wren_ladder.drumming.notation.rhythm import BeatValues, Value, halves, write_beat

STEPS = "CDEFGAB"
LOWEST_LINE = 4 * 7 + STEPS.index("E")
HEADS = {"": "normal", "isotriangle": "triangle"}
TYPES = {"1": "whole", "2": "half", "4": "quarter", "8": "eighth", "16": "16th"}
TYPES |= {"32": "32nd", "64": "64th", "128": "128th", "256": "256th"}
ROLL_WORDS = {RollKind.OPEN: "roll", RollKind.SINGLE: "singles"}
ARTICULATIONS = {Touch.ACCENT: "accent", Touch.STRONG: "strong-accent"}


def identity(drum: Drum) -> str:
    """The instrument's id in the part list."""
    return f"P1-{drum.value}"


@dataclass(frozen=True, slots=True)
class Voice:
    number: str
    stem: str


HANDS, FEET, EXTRA = Voice("1", "up"), Voice("2", "down"), Voice("3", "up")


def split_voices(bar: Bar) -> tuple[list[Hit], list[Hit], list[Hit]]:
    """(hands, feet, those that need a voice of their own)."""
    hands, feet, alone = [], [], []
    graced: set[Fraction] = set()
    for hit in bar.hits:
        if hit.drum.by_foot:
            feet.append(hit)
        elif hit.roll or (hit.grace is not Grace.NONE and hit.at in graced):
            alone.append(hit)
        else:
            hands.append(hit)
            if hit.grace is not Grace.NONE:
                graced.add(hit.at)
    return hands, feet, alone


def beats_of_voices(bar: Bar) -> Iterable[tuple[list[Hit], list[BeatValues]]]:
    """Hands, then feet: (their hits, their note values beat by beat)."""
    hands, feet, _ = split_voices(bar)
    for hits in (hands, feet):
        onsets = sorted({hit.at for hit in hits})
        ends, until, beats = note_ends(hits, bar), Fraction(0), []
        for start, length in bar.beats:
            if until >= start + length:
                continue  # a note of the beat before lasts over it
            inside = [at for at in onsets if start <= at < start + length]
            beats.append(write_beat(inside, start, length, ends, max(start, until)))
            until = beats[-1].end
        yield hits, beats


def merge_rests(bar: Bar, beats: Sequence[BeatValues]) -> list[BeatValues]:
    """Two silent beats of a half of 4/4 as one rest."""
    merged: list[BeatValues] = []
    for beat in beats:
        before = merged[-1] if merged else None
        start = beat.values[0].at
        begin = start - 1
        opens = before and before.values[0].at == begin and begin in halves(bar)
        if before and opens and _silent(before) and _silent(beat):
            merged[-1] = BeatValues((Value(begin, "2", 0, False),), None, beat.end)
        else:
            merged.append(beat)
    return merged


def _silent(beat: BeatValues) -> bool:
    return len(beat.values) == 1 and not beat.sounding and beat.end - beat.values[0].at == 1


def put_place(note: Element, drum: Drum) -> None:
    """Where the head stands, as unpitched display step and octave."""
    octave, step = divmod(LOWEST_LINE + drum.row.line, 7)
    unpitched = SubElement(note, "unpitched")
    SubElement(unpitched, "display-step").text = STEPS[step]
    SubElement(unpitched, "display-octave").text = str(octave)


def put_value(note: Element, value: Value, beat: BeatValues, length: Fraction) -> None:
    """Type, dots and tuplet of a note value; none where no value is so long, or where it is
    shorter than the format has names for: its duration says it then."""
    actual, normal = beat.tuplet or (1, 1)
    named = Fraction(4, int(value.name)) * (2 - Fraction(1, 2**value.dots))
    if named * normal / actual != length or value.name not in TYPES:
        return
    SubElement(note, "type").text = TYPES[value.name]
    for _ in range(value.dots):
        SubElement(note, "dot")
    if beat.tuplet:
        actual, normal = beat.tuplet
        modification = SubElement(note, "time-modification")
        SubElement(modification, "actual-notes").text = str(actual)
        SubElement(modification, "normal-notes").text = str(normal)


def put_head(note: Element, hit: Hit) -> None:
    """The note head, bracketed for a ghost."""
    shape = hit.drum.row.head
    ghost = hit.touch is Touch.GHOST
    if shape or ghost:
        head = SubElement(note, "notehead", {"parentheses": "yes"} if ghost else {})
        head.text = HEADS.get(shape, shape)


def put_notations(note: Element, hit: Hit, tied: Sequence[str] = ()) -> None:
    """Ties, rolls, the circle over an open hat, accents."""
    opened = hit.drum is Drum.HIHAT_OPEN
    if not (tied or opened or hit.roll or hit.touch in ARTICULATIONS):
        return
    notations = SubElement(note, "notations")
    for end in tied:
        SubElement(notations, "tied", {"type": end})
    if hit.roll:
        ornaments = SubElement(notations, "ornaments")
        if hit.roll.kind is RollKind.BUZZ:
            SubElement(ornaments, "tremolo", {"type": "unmeasured"}).text = "0"
        else:
            SubElement(ornaments, "tremolo", {"type": "single"}).text = "3"
            words = f"{ROLL_WORDS[hit.roll.kind]} {hit.roll.strokes or ''}".strip()
            SubElement(ornaments, "other-ornament").text = words
    if opened:
        SubElement(SubElement(notations, "technical"), "open")
    if hit.touch in ARTICULATIONS:
        SubElement(SubElement(notations, "articulations"), ARTICULATIONS[hit.touch])
