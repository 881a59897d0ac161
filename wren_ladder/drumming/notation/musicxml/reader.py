"""Reads a whole MusicXML score into one Chart, and tells what it left out."""

import re
from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace
from itertools import zip_longest
from xml.etree.ElementTree import Element

from quicktions import Fraction

from wren_ladder.drumming.chart import (
    Chart,
    ChartError,
    Drum,
    Hit,
    Mark,
    MarkKind,
    Problem,
)
from wren_ladder.drumming.chart.bar import MOST_REPEAT_PASSES
from wren_ladder.drumming.chart.shorthand import without_crash
from wren_ladder.drumming.notation.musicxml.attributes import (
    State,
    read_attributes,
    read_metronome,
    read_swing,
    read_tempo,
)
from wren_ladder.drumming.notation.musicxml.bars import (
    Measure,
    cut_at_repeats,
    make_bars,
    merge,
    offer_full_pickup,
    take_feel,
    unused,
)
from wren_ladder.drumming.notation.musicxml.document import read_document
from wren_ladder.drumming.notation.musicxml.instruments import (
    Kit,
    is_melody,
    is_percussion,
    kit_of,
)
from wren_ladder.drumming.notation.musicxml.marks import (
    keep,
    position,
    read_dashes,
    read_dynamics,
    read_wedge,
    read_words,
)
from wren_ladder.drumming.notation.musicxml.measure import (
    Cursor,
    lasting,
    leave_graces,
    read_note,
    set_hats_by_words,
    settle,
    stick_by_words,
)
from wren_ladder.drumming.notation.musicxml.signs import (
    complete_jumps,
    plain_swing,
    read_sign,
    read_sound,
    said_played,
)
from wren_ladder.drumming.notation.reading import (
    Part,
    Reading,
    ReadingNotes,
    Sources,
    report_bars,
)
from wren_ladder.drumming.notation.said_feel import SaidTempo, said_swing, said_tempo
from wren_ladder.drumming.numbers import read_ratio, read_whole
from wren_ladder.drumming.wording import listed as said_together

# What stands over a hat as words.
HAT_SIGNS = {
    **dict.fromkeys(("o", "O", "○", "◦", "º", "°"), Drum.HIHAT_OPEN),
    **dict.fromkeys(("+", "＋"), Drum.HIHAT),
    **dict.fromkeys(("ø", "⌀", "◐"), Drum.HIHAT_HALF),
}
# Directions of other instruments, or of how the page looks: a drummer loses nothing by them.
NOISE = {
    "octave-shift", "pedal", "bracket", "image", "harp-pedals", "scordatura", "string-mute",
    "accordion-registration", "principal-voice", "eyeglasses", "staff-divide", "percussion",
    "symbol", "damp", "damp-all",
}  # fmt: skip


def read_musicxml(data: bytes, part: str = "") -> tuple[Chart, tuple[Problem, ...]]:
    """A chart and what was mended or left out, as ``open_musicxml`` reads them."""
    reading = open_musicxml(data, (part,) if part else ())
    return reading.chart, reading.problems


def open_musicxml(
    data: bytes,
    parts: Sequence[str] = (),
    drums: Mapping[str, str] | None = None,
    taken: Collection[str] = (),
) -> Reading:
    """Everything that a score's data say of the drums, and how it was understood.

    Without ``parts`` (ids or names) all percussion parts are read together as one
    player's kit. ``drums`` are a teacher's corrections, by the key of a Source, ``taken`` the
    codes of the offers that were chosen. Raises ChartError if the data make no chart.
    """
    root = read_document(data)
    reading_notes = ReadingNotes()
    sources = Sources(drums or {})
    listed, elements = _parts(root, parts, reading_notes)
    kits = {part.key: _kit(root, part.key, elements[part.key], sources) for part in listed}
    columns = [
        _read_part(elements[part.key], kits[part.key], reading_notes)
        for part in listed
        if part.chosen
    ]
    if not any(columns):
        raise ChartError("the part holds no measures")
    _tell_shorter(columns, listed, reading_notes)
    rows = zip_longest(*columns)
    measures = [merge([one for one in row if one], reading_notes) for row in rows]
    complete_jumps([measure.marks for measure in measures])
    bars, offers = offer_full_pickup(make_bars(measures, reading_notes), measures[0], taken)
    reading_notes.renumber({measures[0].number: bars[0].number})
    bars, choices = take_feel(bars, taken)
    chart = Chart(_title(root), bars)
    if any(source.guessed for source in sources.all()):
        reading_notes.guess(
            "drums that nothing names are read by their places on the staff", ""
        )
    if not any(bar.hits for bar in bars):
        reading_notes.leave("no drum was found in this part; every bar is empty", "")
    return Reading(
        chart,
        reading_notes.problems("musicxml"),
        sources.all(),
        listed,
        report_bars(chart, reading_notes),
        offers,
        choices,
    )


def _tell_shorter(
    columns: Sequence[Sequence[Measure]], listed: Sequence[Part], reading_notes: ReadingNotes
) -> None:
    """A part that stops before the others is silent from there on."""
    longest = max(map(len, columns))
    chosen = [part for part in listed if part.chosen]
    for part, column in zip(chosen, columns, strict=True):
        if len(column) < longest:
            last = column[-1].number if column else "none"
            reading_notes.guess(f"{part.name} ends with bar {last}", last if column else "")


def _title(root: Element) -> str:
    title = root.findtext("work/work-title") or root.findtext("movement-title") or ""
    return " ".join("".join(c if c.isprintable() else " " for c in title).split())[:120]


def _parts(
    root: Element, wanted: Sequence[str], reading_notes: ReadingNotes
) -> tuple[tuple[Part, ...], dict[str, Element]]:
    """(the parts of the score, their elements by id); at least one is chosen."""
    elements = {part.get("id", ""): part for part in root.findall("part")}
    if not elements:
        raise ChartError("the score has no parts")
    listed = _listed(root)
    names = {key: listed[key].findtext("part-name", "").strip() for key in listed}
    drums = {key for key in elements if is_percussion(elements[key], listed.get(key))}
    chosen = drums or {next(iter(elements))}
    for name in wanted:
        if name not in elements and name not in names.values():
            there = ", ".join(names.get(key) or key for key in elements)
            raise ChartError(f"there is no part '{name}'; there are: {there}")
    if wanted:
        chosen = {key for key in elements if key in wanted or names.get(key) in wanted}
    elif not drums:
        chosen = _perhaps_drums(elements, names, reading_notes)
    parts = tuple(
        Part(key, names.get(key) or key, key in drums, key in chosen) for key in elements
    )
    if len(chosen) > 1:
        together = ", ".join(part.name for part in parts if part.chosen)
        reading_notes.guess(f"these parts are read together: {together}", "")
    return parts, elements


def _perhaps_drums(
    elements: Mapping[str, Element], names: Mapping[str, str], reading_notes: ReadingNotes
) -> set[str]:
    """Of parts that say nothing of drums the first that is no melody; ChartError where all
    are."""
    for key, element in elements.items():
        if not is_melody(element, names.get(key, "")):
            said = names.get(key) or "the first part" if len(elements) > 1 else "the part"
            reading_notes.guess(f"no percussion part was found; {said} is read", "")
            return {key}
    there = said_together([names.get(key) or key for key in elements])
    what = "is a melody" if len(elements) == 1 else "are melodies"
    raise ChartError(
        f"no part of the score is one of drums: {there} {what}; export the drum part, with a "
        "percussion clef"
    )


def _listed(root: Element) -> dict[str, Element]:
    return {part.get("id", ""): part for part in root.findall("part-list/score-part")}


def _kit(root: Element, key: str, part: Element, sources: Sources) -> Kit:
    return kit_of(_listed(root).get(key), part, sources)


def _read_part(part: Element, kit: Kit, reading_notes: ReadingNotes) -> list[Measure]:
    state = State()
    measures: list[Measure] = []
    numbers: set[str] = set()
    for index, element in enumerate(part.findall("measure")):
        number = (element.get("number") or str(index + 1)).strip()[:8] or str(index + 1)
        number = unused(number, numbers)
        try:
            measure = _read_measure(element, number, state, kit, reading_notes)
            whole = _filled_in(measure, measures, state.repeating, reading_notes)
            measures += cut_at_repeats(whole, numbers, reading_notes)
        except ChartError as error:
            raise error.in_bar(number) from error
    return measures


def _filled_in(
    measure: Measure, before: list[Measure], back: int, reading_notes: ReadingNotes
) -> Measure:
    """A repeat-bar sign stands for the music one or more measures back."""
    if not back:
        return measure
    place = len(before) - back
    if place < 0 or before[place].meter != measure.meter or before[place].pickup(place):
        reading_notes.leave("a repeat-bar sign has no bar before it to repeat", measure.number)
        return measure
    source = before[place]
    plain = without_crash(tuple(sorted(source.hits, key=lambda hit: hit.at)))
    written, whole, without = map(_struck, (measure.hits, source.hits, plain))
    crash = written == whole != without
    if written and not crash and written != without:
        reading_notes.leave(
            "a repeat-bar sign stands over other notes; those are kept", measure.number
        )
        return measure
    hits = source.hits if crash else plain
    marks = measure.marks
    if back <= 2:
        marks = {**marks, "again": back, "crash_again": crash}
    return replace(measure, hits=hits, content=source.content, marks=marks)


def _struck(hits: Sequence[Hit]) -> set[Hit]:
    """What is struck, however long it is written and wherever a roll goes from there."""
    return {
        replace(hit, written=None, roll=hit.roll and replace(hit.roll, tied=False))
        for hit in hits
    }


def _read_measure(
    element: Element, number: str, state: State, kit: Kit, reading_notes: ReadingNotes
) -> Measure:
    cursor = Cursor(number, state.divisions, kit, reading_notes, rolling=state.rolling)
    marks: dict = {"endings": state.ending} if state.ending else {}
    slashing = carried = state.slashing
    for child in element:
        match child.tag:
            case "note":
                start = cursor.at
                read_note(child, cursor)
                if cursor.slashed is not None:
                    _read_slash(marks, cursor)
                notations = child.find("notations")
                if notations is not None:
                    _read_marks_at(notations, start, marks, cursor)
            case "backup" | "forward":
                length = _crotchets(child, cursor)
                cursor.move(-length if child.tag == "backup" else length)
            case "attributes":
                read_attributes(child, state, number, reading_notes)
                cursor.divisions = state.divisions
                footnote = child.findtext("footnote")
                if footnote:
                    marks["note"] = footnote
                if slashing != state.slashing:
                    _read_slashes(state.slashing, marks, cursor)
                    slashing = state.slashing
            case "direction":
                _read_direction(child, marks, cursor)
            case "sound":
                read_sound(child, marks)
                read_swing(child, marks)
                read_tempo(child, marks, number, reading_notes)
            case "barline":
                repeat = child.find("repeat")
                if repeat is not None and _is_inside(child, element, cursor):
                    marks.setdefault("cuts", []).append((cursor.at, _signs_of(repeat)))
                else:
                    _read_barline(child, marks, state, cursor)
    if carried and slashing:
        keep(Mark(Fraction(0), MarkKind.SLASHES), marks, cursor)
    if marks.pop("ending_ends", False):
        state.ending = ()
    implicit = element.get("implicit") == "yes"
    leave_graces(cursor)
    lasting(cursor)
    set_hats_by_words(cursor)
    hits = stick_by_words(cursor)
    state.rolling = frozenset(hit.drum for hit in hits if hit.roll and hit.roll.tied)
    numbered = element.get("text") == number
    content = settle(cursor.content, cursor)
    return Measure(number, state.meter, hits, content, implicit, numbered, marks)


def _read_marks_at(notations: Element, at: Fraction, marks: dict, cursor: Cursor) -> None:
    """What a note's notations say of the bar rather than of the note."""
    for dynamics in notations.findall("dynamics"):
        read_dynamics(dynamics, at, marks, cursor)
    if notations.find("fermata") is not None:
        keep(Mark(at, MarkKind.FERMATA), marks, cursor)


def _read_slash(marks: dict, cursor: Cursor) -> None:
    """Slashes with or without stems stand for "play time": no strokes of their own."""
    at, cursor.slashed = cursor.slashed, None
    found = marks.setdefault("marks", {})
    if at is not None and not any(kind is MarkKind.SLASHES for _, kind in found):
        found[at, MarkKind.SLASHES] = Mark(at, MarkKind.SLASHES)
        text = "slash heads are read as slashes, which nobody strikes"
        cursor.reading_notes.guess(text, cursor.number)


def _read_slashes(start: bool, marks: dict, cursor: Cursor) -> None:
    if start:
        keep(Mark(cursor.at, MarkKind.SLASHES), marks, cursor)
    elif cursor.at:
        cursor.reading_notes.guess(
            "slashes that stop inside a bar are read to its start", cursor.number
        )


def _crotchets(element: Element, cursor: Cursor) -> Fraction:
    duration = read_ratio(element.findtext("duration"))
    if duration is None:
        raise ChartError(f"a <{element.tag}> has no duration that can be read")
    return duration / cursor.divisions


def _read_direction(element: Element, marks: dict, cursor: Cursor) -> None:
    number, reading_notes = cursor.number, cursor.reading_notes
    at = position(element, cursor)
    spoken = _read_spoken(element, at, marks, cursor)
    for kind in element.iterfind("direction-type/*"):
        if spoken and kind.tag == "words":
            continue
        if kind.tag == "rehearsal":
            marks["section"] = " ".join((kind.text or "").split())[:60]
        elif kind.tag == "metronome":
            said = read_metronome(kind)
            if said:
                _keep_tempo(said, at, marks, cursor)
            else:
                reading_notes.leave("a metronome mark can't be read as one tempo", number)
        elif kind.tag in ("segno", "coda", "words"):
            _read_sign_or_words(kind, element, at, marks, cursor)
        elif kind.tag == "dynamics":
            read_dynamics(kind, at, marks, cursor)
        elif kind.tag == "wedge":
            read_wedge(kind, at, marks)
        elif kind.tag == "dashes":
            read_dashes(kind, at, marks)
        elif kind.tag not in NOISE:
            reading_notes.leave(f"'{kind.tag}' is not kept", number)
    sound = element.find("sound")
    if sound is not None:
        read_sound(sound, marks)
        read_swing(sound, marks)
        read_tempo(sound, marks, number, reading_notes)


def _read_sign_or_words(
    kind: Element, element: Element, at: Fraction, marks: dict, cursor: Cursor
) -> None:
    """A sign of the road, or words: hands, how the hat is, a sign that is spelled, a cue."""
    said = (kind.text or "").strip()
    letters = "".join(said.split()).upper()
    if kind.tag == "words" and letters and not letters.strip("RL"):
        cursor.stickings.append((at, letters))
    elif kind.tag == "words" and said in HAT_SIGNS:
        cursor.hat_signs.append((at, HAT_SIGNS[said]))
    elif not read_sign(kind, element, marks):
        read_words(kind, at, marks, cursor)
    elif "play_times" in marks and said_played(kind.text or ""):
        cue = Mark(at, MarkKind.CUE, " ".join(said.split()))
        if marks.setdefault("play_words", cue) != cue:
            keep(cue, marks, cursor)


def _read_spoken(element: Element, at: Fraction, marks: dict, cursor: Cursor) -> bool:
    """Tempo and feel as words, which may stand in several pieces: "Allegro (", "♩", "= 104)".
    True where they say nothing else. What else they say stays as words."""
    text = " ".join("".join(one.itertext()) for one in element.iterfind("direction-type/words"))
    text = " ".join(text.split())
    tempo, swing = said_tempo(text), said_swing(text)
    if tempo is None and (swing is None or plain_swing(text.lower().strip("() "))):
        return False  # the signs of the page know it
    if tempo is not None:
        _keep_tempo(tempo, at, marks, cursor)
    if swing is not None:
        marks.setdefault("swing", swing)
    besides = tempo.besides if tempo else text
    if besides:
        keep(Mark(at, MarkKind.CUE, besides), marks, cursor)
    return True


def _keep_tempo(said: SaidTempo, at: Fraction, marks: dict, cursor: Cursor) -> None:
    """A bar has one tempo mark, at its start."""
    tempo, before = said.tempo, marks.get("tempo")
    if before is not None and before != tempo:
        cursor.reading_notes.leave(f"a second tempo in the bar, {tempo}", cursor.number)
        return
    if said.guess:
        cursor.reading_notes.guess(said.guess, cursor.number)
    if at:
        text = f"the tempo {tempo} stands inside the bar; it is put at its start"
        cursor.reading_notes.guess(text, cursor.number)
    marks["tempo"] = tempo


def _read_barline(element: Element, marks: dict, state: State, cursor: Cursor) -> None:
    number, reading_notes = cursor.number, cursor.reading_notes
    repeat = element.find("repeat")
    if repeat is not None and repeat.get("direction") == "forward":
        marks["repeat_start"] = True
    elif repeat is not None:
        times = repeat.get("times", "2")
        passes = read_whole(times, 2, MOST_REPEAT_PASSES)
        if passes is None:
            reading_notes.guess(f"a repeat of {times} times is played twice", number)
            passes = 2
        marks["repeat_passes"] = passes
        marks["repeat_counted"] = repeat.get("times") is not None
        if repeat.get("after-jump") == "yes":
            marks["after_jump"] = True
    ending = element.find("ending")
    if ending is not None:
        _read_ending(ending, marks, state, number, reading_notes)
    for mark in ("segno", "coda"):
        if element.find(mark) is not None:
            marks[mark] = True
    if element.find("fermata") is not None:
        keep(Mark(cursor.content, MarkKind.FERMATA), marks, cursor)


def _read_ending(
    element: Element, marks: dict, state: State, number: str, reading_notes: ReadingNotes
) -> None:
    if element.get("type") == "start":
        state.ending = _passes(element.get("number", "") or element.text or "")
        if not state.ending:
            reading_notes.leave("an ending without a number is left out", number)
    elif not state.ending:
        reading_notes.leave("an ending stops here that never started", number)
    if state.ending:
        marks["endings"] = state.ending
    if element.get("type") != "start":
        marks["ending_ends"] = True


def _is_inside(barline: Element, measure: Element, cursor: Cursor) -> bool:
    """A repeat in mid bar: neither at its start nor behind its last note."""
    if not cursor.at:
        return False
    behind = list(measure)[list(measure).index(barline) + 1 :]
    return any(one.tag == "note" for one in behind) and barline.get("location") != "right"


def _signs_of(repeat: Element) -> tuple[bool, int]:
    """(whether a repeat starts there, how often the one before is played, 0 for none)."""
    if repeat.get("direction") == "forward":
        return True, 0
    return False, read_whole(repeat.get("times", "2"), 2, MOST_REPEAT_PASSES) or 2


def _passes(said: str) -> tuple[int, ...]:
    """ "1, 2" and "1-3" as the passes they name."""
    found: list[int] = []
    for first, last in re.findall(r"([0-9]+)(?:\.? ?[-–] ?([0-9]+))?", said):
        begin = read_whole(first, 1, MOST_REPEAT_PASSES)
        end = read_whole(last, 1, MOST_REPEAT_PASSES) if last else begin
        if begin is not None and end is not None:
            found += range(begin, end + 1)
    return tuple(dict.fromkeys(found))
