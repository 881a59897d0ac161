"""The notes of one measure: time from divisions, voices, chords, graces, rolls."""

import re
from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from functools import lru_cache
from xml.etree.ElementTree import Element

from quicktions import Fraction

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
from wren_ladder.drumming.chart.positions import FINEST
from wren_ladder.drumming.notation.musicxml.instruments import Kit
from wren_ladder.drumming.notation.reading import ReadingNotes
from wren_ladder.drumming.numbers import read_ratio, read_whole

GRACES = {1: Grace.FLAM, 2: Grace.DRAG, 3: Grace.RUFF}
VALUES = {
    "long": Fraction(16), "breve": Fraction(8), "whole": Fraction(4), "half": Fraction(2),
    "quarter": Fraction(1), "eighth": Fraction(1, 2), "16th": Fraction(1, 4),
    "32nd": Fraction(1, 8), "64th": Fraction(1, 16), "128th": Fraction(1, 32),
}  # fmt: skip
FLAGS = {"eighth": 1, "16th": 2, "32nd": 3, "64th": 4, "128th": 5}
ROLL_BEAMS = 3  # flags and strokes through a stem from which on it is a roll
GRIDS = (1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 14, 16, 18, 20, 24, 28, 32, 36, 48, 64, 96)
A_TICK = Fraction(1, 100)  # crotchets
# Ticks; a length further from its value is meant so, and so is any where ticks are large.
OFF_BY, FINE = 2, 96
OFF_SHARE = Fraction(1, 25)  # and this share of its length
TREMOLO = "ornaments/tremolo"
MOST_IN_TURN = 256  # strokes of one tremolo
HAT_SIGN_REACHES = Fraction(1, 2)  # crotchets that a sign may stand before its hat
MOST_LENGTH = 64  # crotchets in one measure; more is a damaged file


@dataclass
class Cursor:
    """Where reading stands inside one measure; times in crotchets."""

    number: str
    divisions: Fraction
    kit: Kit
    reading_notes: ReadingNotes
    at: Fraction = Fraction(0)
    turned: Fraction = Fraction(0)  # the furthest place from which a backup led back
    last_start: Fraction = Fraction(0)
    graces: list[Drum | None] = field(default_factory=list)  # that wait for their note
    tremolo: tuple[Drum, Fraction, Fraction] | None = (
        None  # between two drums: (first, at, unit)
    )
    rolling: frozenset[Drum] = frozenset()  # what rolls into this measure
    hits: dict[tuple[Fraction, Surface], Hit] = field(default_factory=dict)
    graced_at: Fraction | None = None  # where they have waited for a note of their own drum
    slashed: Fraction | None = None  # where a slash stands that nobody strikes
    stickings: list[tuple[Fraction, str]] = field(default_factory=list)  # words, by place
    hat_signs: list[tuple[Fraction, Drum]] = field(default_factory=list)  # words over a hat
    voices: dict[tuple[Fraction, Surface], str] = field(default_factory=dict)
    layers: dict[str, set[bool]] = field(default_factory=dict)  # whether feet stand in a voice

    def move(self, length: Fraction) -> None:
        if length.numerator < 0:
            self._move_back(length)
            return
        self.at += length
        if self.at.numerator > MOST_LENGTH * self.at.denominator:
            raise ChartError(f"time runs to {self.at} crotchets", bar=self.number)

    def _move_back(self, length: Fraction) -> None:
        self.turned = self.content
        self.at += length
        if self.at < 0:
            if self.at < -A_TICK:
                text = "a backup leads before the bar line; read from there"
                self.reading_notes.guess(text, self.number)
            self.at = Fraction(0)

    @property
    def content(self) -> Fraction:
        """How far the notes and rests read so far reach."""
        return max(self.turned, self.at)


ROLL_SAID = re.compile(r"(roll|singles)(?: (\d+))?")  # the count, as our writer puts it
UNDERSTOOD = {
    "fermata",
    "other-ornament",
    "accent",
    "strong-accent",
    "staccato",
    "tenuto",
    "detached-legato",
    "stress",
    "unstress",
    "open",
    "stopped",
    "open-string",
    "half-muted",
    "tremolo",
    "tied",
    "tuplet",
    "articulations",
    "technical",
    "ornaments",
    "dynamics",
    "footnote",
    "level",
}
HOLDERS = ("articulations", "technical", "ornaments")
# Of other instruments, or of how the page looks: nothing is lost that a drummer plays.
NOISE = {
    "slur", "slide", "glissando", "arpeggiate", "non-arpeggiate", "accidental-mark", "fret",
    "string", "other-notation", "other-technical", "other-articulation", "bend", "hammer-on",
    "pull-off", "up-bow", "down-bow", "harmonic", "breath-mark", "caesura", "phrase",
    "wavy-line",
}  # fmt: skip


def read_note(note: Element, cursor: Cursor) -> None:
    """Take one <note>: advance time, and keep what it strikes."""
    chord = note.find("chord") is not None
    if not chord and cursor.graced_at is not None:
        _settle_graces(cursor)
    if note.find("grace") is not None:
        _wait(note, cursor)
        return
    length = _duration(note, cursor)
    start = cursor.last_start if chord else cursor.at
    if not chord:
        cursor.last_start = cursor.at
        cursor.move(length)
    silent = note.find("rest") is not None
    unseen = note.get("print-object") == "no" or note.find("cue") is not None
    if silent or unseen:
        if note.find("cue") is not None:
            cursor.reading_notes.leave("cue notes are left out", cursor.number)
        elif unseen and not silent:
            cursor.reading_notes.leave("hidden notes are left out", cursor.number)
        leave_graces(cursor)
        return
    if note.findtext("notehead", "").strip() == "slash" and note.find("instrument") is None:
        cursor.slashed = settle(start, cursor)
        leave_graces(cursor)
        return
    drum = _drum(note, cursor)
    if drum is None:
        return
    if _tied(note, "stop"):
        if _inside(note, TREMOLO) is None:
            if not _ends_roll(cursor, drum, start):
                _last_longer(cursor, drum, start, length)
                return  # a tied note strikes nothing new
        elif start:
            _lengthen(cursor, drum, start, length, _tied(note, "start"))
            return
    cursor.layers.setdefault(note.findtext("voice", "").strip(), set()).add(drum.by_foot)
    hit = _hit(note, drum, settle(start, cursor), length, cursor)
    for stroke in _strokes(note, hit, length, cursor):
        cursor.voices[stroke.at, stroke.drum.surface] = note.findtext("voice", "").strip()
        _strike(cursor, stroke)


def _wait(note: Element, cursor: Cursor) -> None:
    """Keep a grace for the note that follows; two at once are one stroke before it."""
    if note.find("chord") is not None:
        text = "two grace notes at once are read as one"
        cursor.reading_notes.guess(text, cursor.number)
        return
    cursor.graces.append(cursor.kit.drum_seen(note))


def leave_graces(cursor: Cursor) -> None:
    """Graces that lead to no stroke."""
    if cursor.graced_at is not None:
        _settle_graces(cursor)
    if cursor.graces:
        text = "a grace note before no stroke is left out"
        cursor.reading_notes.leave(text, cursor.number)
        cursor.graces = []


def _strokes(note: Element, hit: Hit, length: Fraction, cursor: Cursor) -> list[Hit]:
    """The strokes that a note stands for: its stem may be crossed once or twice, and a tremolo
    may go between two drums."""
    tremolo = _inside(note, TREMOLO)
    kind = tremolo.get("type", "single") if tremolo is not None else ""
    if tremolo is None or not length or kind not in ("single", "start", "stop"):
        return [hit]
    slashes = read_whole((tremolo.text or "").strip(), 1, 8) or ROLL_BEAMS
    beams = slashes + FLAGS.get(note.findtext("type", "").strip(), 0)
    unit = Fraction(1, 2**beams)
    if kind == "single":
        if beams >= ROLL_BEAMS or length % unit:
            return [hit]
        many = int(length / unit)
        text = f"strokes through a stem are read as {many} strokes"
        cursor.reading_notes.guess(text, cursor.number)
        return _repeated(hit, hit.at, unit, range(many))
    if kind == "start":
        cursor.tremolo = (hit.drum, hit.at, unit)
        return []
    return _between(hit, length, cursor)


def _repeated(hit: Hit, start: Fraction, unit: Fraction, places: Iterable[int]) -> list[Hit]:
    plain = replace(hit, grace=Grace.NONE, roll=None, hand=None, written=None)
    return [
        replace(hit, at=start, roll=None, written=None)
        if not place
        else replace(plain, at=start + place * unit)
        for place in places
    ]


def _between(second: Hit, length: Fraction, cursor: Cursor) -> list[Hit]:
    """A tremolo between two drums: struck in turn."""
    if cursor.tremolo is None:
        return [replace(second, roll=None)]
    drum, start, unit = cursor.tremolo
    cursor.tremolo = None
    many = int((second.at + length - start) / unit)
    if not 2 <= many <= MOST_IN_TURN:
        many = 2
        unit = second.at - start
    text = f"a tremolo between two drums is read as {many} strokes in turn"
    cursor.reading_notes.guess(text, cursor.number)
    first = _repeated(
        replace(second, drum=drum, grace=Grace.NONE), start, unit, range(0, many, 2)
    )
    return first + _repeated(second, start, unit, range(1, many, 2))


def _duration(note: Element, cursor: Cursor) -> Fraction:
    text = note.findtext("duration", "").strip()
    length = _crotchets(text, cursor.divisions)
    if length is None:
        raise ChartError(
            f"a note has the duration '{text}'; a number of divisions is wanted",
            bar=cursor.number,
        )
    if length < 0:
        raise ChartError("a note lasts less than nothing", bar=cursor.number)
    return _as_written(note, length, cursor)


def _as_written(note: Element, length: Fraction, cursor: Cursor) -> Fraction:
    """The length that a note's value says, where its duration is a tick or two off."""
    if cursor.divisions < FINE:
        return length
    dots, actual, normal = len(note.findall("dot")), "", ""
    changed = note.find("time-modification")
    if changed is not None:
        actual = changed.findtext("actual-notes", "")
        normal = changed.findtext("normal-notes", "")
    value = _nominal(note.findtext("type", ""), dots, actual, normal)
    if value is None or value == length:
        return length
    off = abs(value - length)
    if off * cursor.divisions > OFF_BY or off > OFF_SHARE * length:
        return length
    text = "lengths a tick off their notes' values are read by the values"
    cursor.reading_notes.guess(text, cursor.number)
    return value


@lru_cache(maxsize=1024)
def _crotchets(duration: str, divisions: Fraction) -> Fraction | None:
    ratio = read_ratio(duration)
    return None if ratio is None else ratio / divisions


@lru_cache(maxsize=256)
def _nominal(value: str, dots: int, actual: str, normal: str) -> Fraction | None:
    """The crotchets that a note's type, dots and tuplet say."""
    length = VALUES.get(value.strip())
    if length is None:
        return None
    length *= 2 - Fraction(1, 2**dots)
    many, of = read_whole(actual.strip(), 1, 64), read_whole(normal.strip(), 1, 64)
    return length * of / many if many and of else length


def _drum(note: Element, cursor: Cursor) -> Drum | None:
    drum = cursor.kit.drum_of(note)
    if drum is None:
        said = f"{cursor.kit.name_of(note)} is no drum known here; left out"
        cursor.reading_notes.leave(said, cursor.number)
        leave_graces(cursor)
        return None
    if drum is Drum.HIHAT:
        return _set_hat(note)
    return drum


def _set_hat(note: Element) -> Drum:
    """A circle over a hat opens it, however the file says so."""
    head = note.findtext("notehead", "").strip()
    technical = _inside(note, "technical")
    marks = {mark.tag for mark in technical} if technical is not None else set()
    if "half-muted" in marks:
        return Drum.HIHAT_HALF
    if marks & {"open", "open-string"} or head in ("circle-x", "circle"):
        return Drum.HIHAT_OPEN
    return Drum.HIHAT


def _inside(note: Element, path: str) -> Element | None:
    """Of a note's notations, which most notes have none of."""
    notations = note.find("notations")
    return notations.find(path) if notations is not None else None


def _tied(note: Element, end: str) -> bool:
    return any(tie.get("type") == end for tie in note.findall("tie"))


def _lengthen(
    cursor: Cursor, drum: Drum, start: Fraction, length: Fraction, goes_on: bool
) -> None:
    """A tied note with strokes through its stem makes the roll before it longer."""
    before = [hit for hit in cursor.hits.values() if hit.drum is drum and hit.at < start]
    hit = before[-1] if before else None
    if hit and hit.roll:
        end = settle(start + length, cursor)
        roll = replace(hit.roll, length=max(end - hit.at, hit.roll.length), tied=goes_on)
        cursor.hits[hit.at, drum.surface] = replace(hit, roll=roll)


def _last_longer(cursor: Cursor, drum: Drum, start: Fraction, length: Fraction) -> None:
    """A tied note makes the one before it longer on the page."""
    for key, hit in cursor.hits.items():
        if hit.drum is drum and hit.written and abs(hit.at + hit.written - start) <= A_TICK:
            end = settle(start + length, cursor)
            cursor.hits[key] = replace(hit, written=_lasts(hit.at, end))


def _ends_roll(cursor: Cursor, drum: Drum, start: Fraction) -> bool:
    """Is a roll tied to this plain note, so that it is the stroke on which the roll ends?"""
    if not start:
        return drum in cursor.rolling
    before = next(
        (hit for hit in cursor.hits.values() if hit.drum is drum and hit.end == start), None
    )
    if before is None:
        return False
    roll = before.roll and replace(before.roll, tied=False)
    cursor.hits[before.at, drum.surface] = replace(before, roll=roll)
    return True


def _hit(note: Element, drum: Drum, start: Fraction, length: Fraction, cursor: Cursor) -> Hit:
    lasts = _lasts(start, settle(start + length, cursor))  # its end has a place too
    grace, roll = _grace(cursor, drum, start), _roll(note, lasts or Fraction(0))
    hand = _hand(note)
    _tell_unread(note, cursor)
    if drum.by_foot and (roll or hand or grace is not Grace.NONE):
        reading_notes = f"{drum.spoken} takes no roll, grace note or sticking; left out"
        cursor.reading_notes.leave(reading_notes, cursor.number)
        grace, roll, hand = Grace.NONE, None, None
    if roll and grace is not Grace.NONE:
        cursor.reading_notes.leave("a grace note before a roll is left out", cursor.number)
        grace = Grace.NONE
    return Hit(start, drum, _touch(note), grace, roll, hand, None if roll else lasts)


def _lasts(start: Fraction, end: Fraction) -> Fraction | None:
    return end - start if end > start else None


def _grace(cursor: Cursor, drum: Drum, start: Fraction) -> Grace:
    """The ornament of the graces that wait, where they are of this drum; a chord may have the
    drum they lead to further on."""
    if not cursor.graces:
        return Grace.NONE
    own = {one.surface for one in cursor.graces if one}
    if own and drum.surface not in own:
        cursor.graced_at = start
        return Grace.NONE
    if drum.by_foot and not own:
        cursor.graced_at = start
        return Grace.NONE
    cursor.graced_at = None
    return _ornament(cursor, start)


def _ornament(cursor: Cursor, at: Fraction) -> Grace:
    count = len(cursor.graces)
    cursor.graces = []
    if count not in GRACES:
        text = f"{count} grace notes in a row are read as a ruff"
        cursor.reading_notes.guess(text, cursor.number, at)
    return GRACES.get(count, Grace.RUFF)


def _settle_graces(cursor: Cursor) -> None:
    """Graces whose chord has no note of their drum belong to the first note that a hand plays
    there."""
    start, cursor.graced_at = cursor.graced_at, None
    there = [key for key in cursor.hits if key[0] == start]
    by_hand = [key for key in there if not cursor.hits[key].drum.by_foot]
    if start is None or not by_hand:
        foot = cursor.hits[there[0]].drum.spoken if there else "a rest"
        text = f"{foot} takes no roll, grace note or sticking; left out"
        cursor.reading_notes.leave(text, cursor.number)
        cursor.graces = []
        return
    hit = cursor.hits[by_hand[0]]
    others = {one.spoken for one in cursor.graces if one}
    if others:
        text = f"a grace note of {' and '.join(sorted(others))} is read on {hit.drum.spoken}"
        cursor.reading_notes.guess(text, cursor.number, start)
    grace = _ornament(cursor, start)
    if hit.roll:
        cursor.reading_notes.leave("a grace note before a roll is left out", cursor.number)
    else:
        cursor.hits[by_hand[0]] = replace(hit, grace=grace)


def set_hats_by_words(cursor: Cursor) -> None:
    """A circle or a cross over a hat, written as words."""
    for start, drum in cursor.hat_signs:
        key = next(
            (key for key in sorted(cursor.hits) if key[0] >= start and _is_hat(cursor, key)),
            None,
        )
        if key is not None and key[0] - start < HAT_SIGN_REACHES:
            cursor.hits[key] = replace(cursor.hits[key], drum=drum)
        else:
            text = "a sign over the staff that stands over no hat is left out"
            cursor.reading_notes.leave(text, cursor.number)


def _is_hat(cursor: Cursor, key: tuple[Fraction, Surface]) -> bool:
    return cursor.hits[key].drum in (Drum.HIHAT, Drum.HIHAT_HALF, Drum.HIHAT_OPEN)


def _roll(note: Element, length: Fraction) -> Roll | None:
    tremolo = _inside(note, TREMOLO)
    if tremolo is None or not length or tremolo.get("type") in ("start", "stop"):
        return None
    slashes = read_whole((tremolo.text or "").strip(), 0, 8)
    beams = (slashes or ROLL_BEAMS) + FLAGS.get(note.findtext("type", "").strip(), 0)
    if tremolo.get("type") != "unmeasured" and beams < ROLL_BEAMS:
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
    if _inside(note, "articulations/strong-accent") is not None:
        return Touch.STRONG
    if _inside(note, "articulations/accent") is not None:
        return Touch.ACCENT
    return Touch.NORMAL


def _hand(note: Element) -> Hand | None:
    """From a lyric or a fingering that says R or L."""
    said = [lyric.findtext("text", "") for lyric in note.findall("lyric")]
    if note.find("notations") is not None:
        fingers = note.iterfind("notations/technical/fingering")
        said += [finger.text or "" for finger in fingers]
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
    if note.find("notations") is None and note.find("lyric") is None:
        return
    for mark in note.iterfind("notations/*"):
        for one in mark if mark.tag in HOLDERS else (mark,):
            fingered = one.tag == "fingering" and _letter(one.text or "") in tuple(Hand)
            if one.tag not in UNDERSTOOD and one.tag not in NOISE and not fingered:
                cursor.reading_notes.leave(f"'{one.tag}' marks are not kept", cursor.number)
    for lyric in note.findall("lyric"):
        if lyric.findtext("text", "").strip().upper() not in tuple(Hand):
            cursor.reading_notes.leave("words under the notes are not kept", cursor.number)


def settle(at: Fraction, cursor: Cursor) -> Fraction:
    """A place that notes can be written at: one that rounded ticks have moved off the grid goes
    back to it, and none is finer than any format has."""
    if at.denominator <= GRIDS[-2]:
        return at
    nearest = min(
        (Fraction(round(at * grid), grid) for grid in GRIDS), key=lambda one: abs(at - one)
    )
    if abs(at - nearest) > A_TICK and FINEST % at.denominator == 0:
        return at
    text = "places a tick off the beat are read on it"
    cursor.reading_notes.guess(text, cursor.number)
    return nearest


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
