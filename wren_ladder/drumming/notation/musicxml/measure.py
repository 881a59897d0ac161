"""The notes of one measure: time from divisions, voices, chords, graces, rolls."""

import re
from dataclasses import dataclass, field, replace
from fractions import Fraction
from xml.etree.ElementTree import Element

from wren_ladder.drumming.chart import (
    ChartError,
    Drum,
    Grace,
    Hand,
    Hit,
    Roll,
    RollKind,
    Surface,
    Touch,
)
from wren_ladder.drumming.chart.hit import ROLL_COUNTS
from wren_ladder.drumming.notation.musicxml.instruments import Kit
from wren_ladder.drumming.notation.reading import ReadingNotes
from wren_ladder.drumming.numbers import read_ratio, read_whole

GRACES = {1: Grace.FLAM, 2: Grace.DRAG, 3: Grace.RUFF}
TREMOLO = "notations/ornaments/tremolo"
MOST_LENGTH = 64  # crotchets in one measure; more is a damaged file


@dataclass
class Cursor:
    """Where reading stands inside one measure; times in crotchets."""

    number: str
    divisions: Fraction
    kit: Kit
    reading_notes: ReadingNotes
    at: Fraction = Fraction(0)
    furthest: Fraction = Fraction(0)
    last_start: Fraction = Fraction(0)
    graces: int = 0
    rolling: frozenset[Drum] = frozenset()  # what rolls into this measure
    hits: dict[tuple[Fraction, Surface], Hit] = field(default_factory=dict)
    stickings: list[tuple[Fraction, str]] = field(default_factory=list)  # words, by place
    voices: dict[tuple[Fraction, Surface], str] = field(default_factory=dict)
    layers: dict[str, set[bool]] = field(default_factory=dict)  # whether feet stand in a voice

    def move(self, length: Fraction) -> None:
        self.at += length
        if self.at < 0:
            self.reading_notes.guess(
                "a backup leads before the bar line; read from there", self.number
            )
            self.at = Fraction(0)
        if self.at > MOST_LENGTH:
            raise ChartError(f"time runs to {self.at} crotchets", bar=self.number)
        self.furthest = max(self.furthest, self.at)


ROLL_SAID = re.compile(r"(roll|singles)(?: (\d+))?")  # the count, as our writer puts it
UNDERSTOOD = {
    "fermata",
    "other-ornament",
    "accent", "strong-accent", "staccato", "tenuto", "detached-legato", "stress", "unstress",
    "open", "stopped", "open-string", "half-muted", "tremolo", "tied", "tuplet",
    "articulations", "technical", "ornaments",
}  # fmt: skip


def read_note(note: Element, cursor: Cursor) -> None:
    """Take one <note>: advance time, and keep what it strikes."""
    if note.find("grace") is not None:
        cursor.graces += 1
        return
    length = _duration(note, cursor)
    chord = note.find("chord") is not None
    start = cursor.last_start if chord else cursor.at
    if not chord:
        cursor.last_start = cursor.at
        cursor.move(length)
    if note.find("rest") is not None or note.find("cue") is not None:
        if note.find("cue") is not None:
            cursor.reading_notes.leave("cue notes are left out", cursor.number)
        cursor.graces = 0
        return
    drum = _drum(note, cursor)
    if drum is None:
        return
    if _tied(note, "stop"):
        if note.find(TREMOLO) is None:
            if not _ends_roll(cursor, drum, start):
                _last_longer(cursor, drum, start, length)
                return  # a tied note strikes nothing new
        elif start:
            _lengthen(cursor, drum, start, length, _tied(note, "start"))
            return
    cursor.layers.setdefault(note.findtext("voice", "").strip(), set()).add(drum.by_foot)
    cursor.voices[start, drum.surface] = note.findtext("voice", "").strip()
    _strike(cursor, _hit(note, drum, start, length, cursor))


def _duration(note: Element, cursor: Cursor) -> Fraction:
    text = note.findtext("duration", "").strip()
    duration = read_ratio(text)
    if duration is None:
        raise ChartError(
            f"a note has the duration '{text}'; a number of divisions is wanted",
            bar=cursor.number,
        )
    length = duration / cursor.divisions
    if length < 0:
        raise ChartError("a note lasts less than nothing", bar=cursor.number)
    return length


def _drum(note: Element, cursor: Cursor) -> Drum | None:
    drum = cursor.kit.drum_of(note)
    if drum is None:
        said = f"{cursor.kit.name_of(note)} is no drum known here; left out"
        cursor.reading_notes.leave(said, cursor.number)
        cursor.graces = 0
        return None
    if drum is Drum.HIHAT:
        return _set_hat(note)
    return drum


def _set_hat(note: Element) -> Drum:
    """A circle over a hat opens it, however the file says so."""
    head = note.findtext("notehead", "").strip()
    technical = note.find("notations/technical")
    marks = {mark.tag for mark in technical} if technical is not None else set()
    if "half-muted" in marks:
        return Drum.HIHAT_HALF
    if marks & {"open", "open-string"} or head in ("circle-x", "circle"):
        return Drum.HIHAT_OPEN
    return Drum.HIHAT


def _tied(note: Element, end: str) -> bool:
    return any(tie.get("type") == end for tie in note.findall("tie"))


def _lengthen(
    cursor: Cursor, drum: Drum, start: Fraction, length: Fraction, goes_on: bool
) -> None:
    """A tied note with strokes through its stem makes the roll before it longer."""
    before = [hit for hit in cursor.hits.values() if hit.drum is drum and hit.at < start]
    if before and before[-1].roll:
        hit = before[-1]
        roll = replace(hit.roll, length=start + length - hit.at, tied=goes_on)
        cursor.hits[hit.at, drum.surface] = replace(hit, roll=roll)


def _last_longer(cursor: Cursor, drum: Drum, start: Fraction, length: Fraction) -> None:
    """A tied note makes the one before it longer on the page."""
    for key, hit in cursor.hits.items():
        if hit.drum is drum and hit.written and hit.at + hit.written == start:
            cursor.hits[key] = replace(hit, written=hit.written + length)


def _ends_roll(cursor: Cursor, drum: Drum, start: Fraction) -> bool:
    """Is a roll tied to this plain note, so that it is the stroke on which the roll ends?"""
    if not start:
        return drum in cursor.rolling
    before = next(
        (hit for hit in cursor.hits.values() if hit.drum is drum and hit.end == start), None
    )
    if before is None:
        return False
    roll = replace(before.roll, tied=False)
    cursor.hits[before.at, drum.surface] = replace(before, roll=roll)
    return True


def _hit(note: Element, drum: Drum, start: Fraction, length: Fraction, cursor: Cursor) -> Hit:
    grace, roll = _grace(cursor), _roll(note, length)
    hand = _hand(note)
    _tell_unread(note, cursor)
    if drum.by_foot and (roll or hand or grace is not Grace.NONE):
        reading_notes = f"{drum.spoken} takes no roll, grace note or sticking; left out"
        cursor.reading_notes.leave(reading_notes, cursor.number)
        grace, roll, hand = Grace.NONE, None, None
    if roll and grace is not Grace.NONE:
        cursor.reading_notes.leave("a grace note before a roll is left out", cursor.number)
        grace = Grace.NONE
    written = None if roll or not length else length
    return Hit(start, drum, _touch(note), grace, roll, hand, written)


def _grace(cursor: Cursor) -> Grace:
    count, cursor.graces = cursor.graces, 0
    if not count:
        return Grace.NONE
    if count not in GRACES:
        cursor.reading_notes.guess(
            f"{count} grace notes in a row are read as a ruff", cursor.number
        )
    return GRACES.get(count, Grace.RUFF)


def _roll(note: Element, length: Fraction) -> Roll | None:
    tremolo = note.find(TREMOLO)
    if tremolo is None or not length:
        return None
    goes_on = _tied(note, "start")
    if tremolo.get("type") == "unmeasured":
        return Roll(RollKind.BUZZ, length, None, goes_on)
    said = note.findtext("notations/ornaments/other-ornament", "")
    match = ROLL_SAID.fullmatch(said.strip())
    strokes = read_whole(match[2]) if match else None
    kind = RollKind.SINGLE if match and match[1] == "singles" else RollKind.OPEN
    return Roll(kind, length, strokes if strokes in ROLL_COUNTS else None, goes_on)


def _touch(note: Element) -> Touch:
    head = note.find("notehead")
    if head is not None and head.get("parentheses") == "yes":
        return Touch.GHOST
    if note.find("notations/articulations/strong-accent") is not None:
        return Touch.STRONG
    if note.find("notations/articulations/accent") is not None:
        return Touch.ACCENT
    return Touch.NORMAL


def _hand(note: Element) -> Hand | None:
    """From a lyric or a fingering that says R or L."""
    said = [lyric.findtext("text", "") for lyric in note.findall("lyric")]
    said += [finger.text or "" for finger in note.iterfind("notations/technical/fingering")]
    hands = (Hand(text) for text in map(_letter, said) if text in tuple(Hand))
    return next(hands, None)


def _letter(text: str) -> str:
    return text.strip().upper()


def stick_by_words(cursor: Cursor) -> tuple[Hit, ...]:
    """The hits, with the hands that words over them name: "R", or "R L R R" from there on.

    A sticking at the note itself goes before them; feet are passed over.
    """
    hits = dict(cursor.hits)
    for start, letters in cursor.stickings:
        waiting = [
            key for key in sorted(hits) if key[0] >= start and not hits[key].drum.by_foot
        ]
        times = sorted({at for at, _ in waiting})
        for at, letter in zip(times, letters, strict=False):
            key = next(key for key in waiting if key[0] == at)
            if hits[key].hand is None:
                hits[key] = replace(hits[key], hand=Hand(letter))
    return tuple(hits.values())


def lasting(cursor: Cursor) -> None:
    """Lengths say something only where hands and feet stand in voices of their own: the value
    of a chord of both is that of neither."""
    for key, hit in cursor.hits.items():
        if hit.written and len(cursor.layers[cursor.voices[key]]) > 1:
            cursor.hits[key] = replace(hit, written=None)


def _tell_unread(note: Element, cursor: Cursor) -> None:
    for notations in note.findall("notations"):
        for mark in notations.iter():
            fingered = mark.tag == "fingering" and _letter(mark.text or "") in tuple(Hand)
            if mark is not notations and mark.tag not in UNDERSTOOD and not fingered:
                cursor.reading_notes.leave(f"'{mark.tag}' marks are not kept", cursor.number)
    for lyric in note.findall("lyric"):
        if lyric.findtext("text", "").strip().upper() not in tuple(Hand):
            cursor.reading_notes.leave("words under the notes are not kept", cursor.number)


def _strike(cursor: Cursor, hit: Hit) -> None:
    key = (hit.at, hit.drum.surface)
    if key in cursor.hits:
        kept = cursor.hits[key].drum.spoken
        reading_notes = (
            f"{hit.drum.spoken} and {kept} at once on one surface; the first is kept"
        )
        cursor.reading_notes.leave(reading_notes, cursor.number)
        return
    cursor.hits[key] = hit
