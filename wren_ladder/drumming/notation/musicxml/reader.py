"""Reads a whole MusicXML score into one Chart, and tells what it left out."""

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from fractions import Fraction
from xml.etree.ElementTree import Element

from wren_ladder.drumming.chart import (
    Bar,
    Chart,
    ChartError,
    Drum,
    Hit,
    Mark,
    MarkKind,
    Meter,
    Problem,
    Tempo,
)
from wren_ladder.drumming.chart.bar import MOST_PASSES, PICKUP
from wren_ladder.drumming.chart.shorthand import without_crash
from wren_ladder.drumming.notation.musicxml.document import read_document
from wren_ladder.drumming.notation.musicxml.instruments import instruments_of, is_percussion
from wren_ladder.drumming.notation.musicxml.marks import (
    finish_marks,
    keep,
    position,
    read_dynamics,
    read_wedge,
    read_words,
)
from wren_ladder.drumming.notation.musicxml.measure import Cursor, Told, read_note
from wren_ladder.drumming.notation.musicxml.signs import complete_jumps, read_sign, read_sound

BEATS = {
    "whole": Fraction(4),
    "half": Fraction(2),
    "quarter": Fraction(1),
    "eighth": Fraction(1, 2),
}
UNREAD = {
    "octave-shift": "octave shifts mean nothing to drums",
}
STYLES = {
    "beat-repeat": "beat-repeat signs are not filled in yet",
}


@dataclass
class State:
    """What a part carries from measure to measure."""

    meter: Meter = field(default_factory=lambda: Meter(4, 4))
    divisions: Fraction = Fraction(1)
    ending: tuple[int, ...] = ()  # the bracket that is open
    repeating: int = 0  # measures back that a repeat-bar sign copies, 0 for none
    slashing: bool = False


@dataclass
class Measure:
    """One measure as read, before it becomes a Bar."""

    number: str
    meter: Meter
    hits: tuple[Hit, ...]
    content: Fraction  # how far its notes and rests reach, in crotchets
    implicit: bool
    numbered: bool  # says that it has its number although it is not full
    marks: dict

    def pickup(self, index: int) -> bool:
        """Is the first measure, not being full, the pick-up?"""
        return index == 0 and 0 < self.content < self.meter.length and not self.numbered


def read_musicxml(data: bytes, part: str = "") -> tuple[Chart, tuple[Problem, ...]]:
    """A chart and what was mended or left out.

    Without ``part`` (an id or a name) all percussion parts are read together as one
    player's kit. Raises ChartError if the data make no chart.
    """
    root = read_document(data)
    told = Told()
    parts = _chosen_parts(root, part, told)
    columns = [_read_part(element, drums, told) for element, drums in parts]
    if not columns[0]:
        raise ChartError("the part holds no measures")
    measures = [_merge(rows, told) for rows in zip(*columns, strict=False)]
    complete_jumps([measure.marks for measure in measures])
    bars = _bars(measures, told)
    chart = Chart(_title(root), tuple(bars))
    if not any(bar.hits for bar in bars):
        told.say("no drum was found in this part; every bar is empty", "")
    return chart, tuple(_problems(told))


def _title(root: Element) -> str:
    title = root.findtext("work/work-title") or root.findtext("movement-title") or ""
    return " ".join(title.split())[:120]


def _chosen_parts(
    root: Element, wanted: str, told: Told
) -> list[tuple[Element, dict[str, Drum | None]]]:
    listed = {part.get("id", ""): part for part in root.findall("part-list/score-part")}
    names = {key: part.findtext("part-name", "").strip() for key, part in listed.items()}
    parts = {part.get("id", ""): part for part in root.findall("part")}
    if not parts:
        raise ChartError("the score has no parts")
    if wanted:
        chosen = [key for key in parts if wanted in (key, names.get(key))]
        if not chosen:
            there = ", ".join(names.get(key) or key for key in parts)
            raise ChartError(f"there is no part '{wanted}'; there are: {there}")
    else:
        chosen = [key for key in parts if is_percussion(parts[key], listed.get(key))]
        if not chosen:
            chosen = [next(iter(parts))]
            told.say("no percussion part was found; the first part is read", "")
    if len(chosen) > 1:
        together = ", ".join(names.get(key) or key for key in chosen)
        told.say(f"these parts are read together: {together}", "")
    found = []
    for key in chosen:
        score_part = listed.get(key)
        found.append((parts[key], instruments_of(score_part) if score_part is not None else {}))
    return found


def _read_part(part: Element, drums: dict[str, Drum | None], told: Told) -> list[Measure]:
    state, measures, numbers = State(), [], set()
    for index, element in enumerate(part.findall("measure")):
        number = (element.get("number") or str(index + 1)).strip()[:8] or str(index + 1)
        while number in numbers:
            number += "b"
        numbers.add(number)
        try:
            measure = _read_measure(element, number, state, drums, told)
            measures.append(_filled_in(measure, measures, state.repeating, told))
        except ChartError as error:
            raise error.in_bar(number) from error
    return measures


def _filled_in(measure: Measure, before: list[Measure], back: int, told: Told) -> Measure:
    """A repeat-bar sign stands for the music one or more measures back."""
    if not back:
        return measure
    place = len(before) - back
    if place < 0 or before[place].meter != measure.meter or before[place].pickup(place):
        told.say("a repeat-bar sign has no bar before it to repeat", measure.number)
        return measure
    source = before[place]
    plain = without_crash(tuple(sorted(source.hits, key=lambda hit: hit.at)))
    written = set(measure.hits)
    crash = written == set(source.hits) != set(plain)
    if written and not crash and written != set(plain):
        told.say("a repeat-bar sign stands over other notes; those are kept", measure.number)
        return measure
    hits = source.hits if crash else plain
    marks = measure.marks
    if back <= 2:
        marks = {**marks, "again": back, "crash_again": crash}
    return replace(measure, hits=hits, content=source.content, marks=marks)


def _read_measure(
    element: Element, number: str, state: State, drums: dict, told: Told
) -> Measure:
    cursor = Cursor(number, state.divisions, drums, told)
    marks: dict = {"endings": state.ending} if state.ending else {}
    slashing = state.slashing
    for child in element:
        match child.tag:
            case "note":
                start = cursor.at
                read_note(child, cursor)
                if child.find("notations/fermata") is not None:
                    keep(Mark(start, MarkKind.FERMATA), marks, cursor)
            case "backup" | "forward":
                length = _crotchets(child, cursor)
                cursor.move(-length if child.tag == "backup" else length)
            case "attributes":
                _read_attributes(child, state, number, told)
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
                _read_tempo(child, marks, number, told)
            case "barline":
                _read_barline(child, marks, state, number, told)
    if slashing and not any(kind is MarkKind.SLASHES for _, kind in marks.get("marks", ())):
        keep(Mark(Fraction(0), MarkKind.SLASHES), marks, cursor)
    if marks.pop("ending_ends", False):
        state.ending = ()
    implicit = element.get("implicit") == "yes"
    hits = tuple(cursor.hits.values())
    numbered = element.get("text") == number
    return Measure(number, state.meter, hits, cursor.furthest, implicit, numbered, marks)


def _read_slashes(start: bool, marks: dict, cursor: Cursor) -> None:
    if start:
        keep(Mark(cursor.at, MarkKind.SLASHES), marks, cursor)
    elif cursor.at:
        cursor.told.say("slashes that stop inside a bar are read to its start", cursor.number)


def _crotchets(element: Element, cursor: Cursor) -> Fraction:
    try:
        return Fraction(element.findtext("duration", "").strip()) / cursor.divisions
    except (ValueError, ZeroDivisionError):
        raise ChartError(f"a <{element.tag}> has no duration that can be read") from None


def _read_attributes(element: Element, state: State, number: str, told: Told) -> None:
    divisions = element.findtext("divisions")
    if divisions is not None:
        try:
            state.divisions = Fraction(divisions.strip())
        except (ValueError, ZeroDivisionError):
            state.divisions = Fraction(0)
        if state.divisions <= 0:
            raise ChartError(f"'{divisions}' is no number of divisions")
    time = element.find("time")
    if time is not None:
        if time.find("senza-misura") is not None:
            told.say("free time is read in the metre before it", number)
        else:
            state.meter = _meter(time, number, told)
    for style in element.iterfind("measure-style/*"):
        if style.tag == "measure-repeat":
            bars = (style.text or "1").strip()
            starts = style.get("type") == "start"
            state.repeating = int(bars) if starts and bars.isdigit() else 0
        elif style.tag == "slash":
            state.slashing = style.get("type") == "start"
        elif style.tag in STYLES:
            told.say(STYLES[style.tag], number)


def _meter(time: Element, number: str, told: Told) -> Meter:
    beats = [beat.text or "" for beat in time.findall("beats")]
    units = [unit.text or "" for unit in time.findall("beat-type")]
    try:
        counts = [sum(int(part) for part in beat.split("+")) for beat in beats]
        unit = max(int(text) for text in units)
        total = sum(
            count * unit // int(text) for count, text in zip(counts, units, strict=False)
        )
    except (ValueError, ZeroDivisionError):
        raise ChartError("a time signature that can't be read as numbers") from None
    if len(beats) == 1 and "+" not in beats[0]:
        return Meter(total, unit)
    sizes = tuple(int(size) for beat in beats for size in beat.split("+"))
    try:
        return Meter(total, unit, sizes)
    except ChartError:
        told.say("a metre in several parts is read as their sum", number)
        return Meter(total, unit)


def _read_direction(element: Element, marks: dict, cursor: Cursor) -> None:
    number, told = cursor.number, cursor.told
    at = position(element, cursor)
    for kind in element.iterfind("direction-type/*"):
        if kind.tag == "rehearsal":
            marks["section"] = " ".join((kind.text or "").split())[:60]
        elif kind.tag == "metronome":
            tempo = _metronome(kind)
            if tempo:
                marks.setdefault("tempo", tempo)
            else:
                told.say("a metronome mark can't be read as one tempo", number)
        elif kind.tag in ("segno", "coda", "words"):
            if not read_sign(kind, element, marks):
                read_words(kind, at, marks, cursor)
        elif kind.tag == "dynamics":
            read_dynamics(kind, at, marks, cursor)
        elif kind.tag == "wedge":
            read_wedge(kind, at, marks)
        elif kind.tag in UNREAD:
            told.say(UNREAD[kind.tag], number)
        else:
            told.say(f"'{kind.tag}' is not kept", number)
    sound = element.find("sound")
    if sound is not None:
        read_sound(sound, marks)
        _read_tempo(sound, marks, number, told)


def _metronome(element: Element) -> Tempo | None:
    beat = BEATS.get(element.findtext("beat-unit", "").strip())
    per_minute = element.findtext("per-minute", "")
    digits = "".join(c if c.isdigit() or c == "." else " " for c in per_minute).split()
    if beat is None or not digits or len(element.findall("beat-unit")) != 1:
        return None
    beat *= Fraction(3, 2) if element.find("beat-unit-dot") is not None else 1
    try:
        return Tempo(beat, round(float(digits[0])))
    except (ChartError, ValueError):
        return None


def _read_tempo(element: Element, marks: dict, number: str, told: Told) -> None:
    """The playback tempo is in crotchets a minute; a printed mark goes before it."""
    tempo = element.get("tempo")
    if tempo and "tempo" not in marks:
        try:
            marks["tempo"] = Tempo(Fraction(1), round(float(tempo)))
        except (ChartError, ValueError, OverflowError):
            told.say(f"the playback tempo {tempo} can't be used", number)


def _read_barline(element: Element, marks: dict, state: State, number: str, told: Told) -> None:
    repeat = element.find("repeat")
    if repeat is not None and repeat.get("direction") == "forward":
        marks["repeat_start"] = True
    elif repeat is not None:
        times = repeat.get("times", "2")
        passes = int(times) if times.isdigit() else 2
        if not 2 <= passes <= MOST_PASSES:
            told.say(f"a repeat of {times} times is played twice", number)
            passes = 2
        marks["repeat_passes"] = passes
        if repeat.get("after-jump") == "yes":
            marks["after_jump"] = True
    ending = element.find("ending")
    if ending is not None:
        _read_ending(ending, marks, state, number, told)
    for mark in ("segno", "coda"):
        if element.find(mark) is not None:
            marks[mark] = True
    if element.find("fermata") is not None:
        told.say("the fermata at a bar line is not kept yet", number)


def _read_ending(element: Element, marks: dict, state: State, number: str, told: Told) -> None:
    if element.get("type") == "start":
        digits = "".join(c if c.isdigit() else " " for c in element.get("number", "")).split()
        state.ending = tuple(int(d) for d in digits if 1 <= int(d) <= MOST_PASSES)
        if not state.ending:
            told.say("an ending without a number is left out", number)
    elif not state.ending:
        told.say("an ending stops here that never started", number)
    if state.ending:
        marks["endings"] = state.ending
    if element.get("type") != "start":
        marks["ending_ends"] = True


def _merge(rows: Iterable[Measure], told: Told) -> Measure:
    """The same measure of several parts as one; a surface is struck once at a time."""
    first, *others = rows = list(rows)
    if len({row.marks.get("again", 0) for row in rows}) > 1:
        for row in rows:  # not every part repeats here, so what they play is written out
            row.marks.pop("again", None)
    hits = {(hit.at, hit.drum.surface): hit for hit in first.hits}
    marks = dict(first.marks)
    content = first.content
    for other in others:
        content = max(content, other.content)
        for name, value in other.marks.items():
            marks.setdefault(name, value)
        for hit in other.hits:
            if (hit.at, hit.drum.surface) in hits:
                told.say("two parts strike the same drum at once; kept once", first.number)
            hits.setdefault((hit.at, hit.drum.surface), hit)
    return replace(first, hits=tuple(hits.values()), content=content, marks=marks)


def _bars(measures: list[Measure], told: Told) -> list[Bar]:
    """Bars from measures; a first one that is not full is the pick-up."""
    shapes = [_shape(measures, index, told) for index in range(len(measures))]
    numbers = [number for number, _, _ in shapes]
    marks = [measure.marks for measure in measures]
    finish_marks(marks, numbers, [(meter, length) for _, meter, length in shapes], told)
    return [
        Bar(number, meter, _untied(measure.hits, length), length, **measure.marks)
        for measure, (number, meter, length) in zip(measures, shapes, strict=True)
    ]


def _untied(hits: tuple[Hit, ...], length: Fraction) -> tuple[Hit, ...]:
    """A tie that does not lead over the bar line says nothing."""
    return tuple(
        replace(hit, roll=replace(hit.roll, tied=False))
        if hit.roll and hit.roll.tied and hit.at + hit.roll.length != length
        else hit
        for hit in hits
    )


def _shape(measures: list[Measure], index: int, told: Told) -> tuple[str, Meter, Fraction]:
    """The number, metre and length of the bar that a measure becomes."""
    measure = measures[index]
    full = measure.meter.length
    number, meter, length = measure.number, measure.meter, full
    short = 0 < measure.content < full
    if measure.pickup(index) and len(measures) > 1:
        number, length = PICKUP, measure.content
    elif short and measure.implicit:
        length = measure.content
    elif measure.content > full:
        meter, length = _longer(measure, told)
    if index and number == PICKUP:
        number = f"X{index}"
    return number, meter, length


def _longer(measure: Measure, told: Told) -> tuple[Meter, Fraction]:
    """A measure holding more than its metre: the metre grows, and the teacher is told."""
    units = (unit for unit in (4, 8, 16) if (measure.content * unit / 4).denominator == 1)
    unit = next(units, None)
    if unit is None:
        raise ChartError(
            f"the bar holds {measure.content} crotchets, but {measure.meter} "
            f"holds {measure.meter.length}"
        ).in_bar(measure.number)
    grown = Meter(int(measure.content * unit / 4), unit)
    told.say(f"holds more than {measure.meter}; read as {grown}", measure.number)
    return grown, grown.length


def _problems(told: Told) -> Iterable[Problem]:
    for text, numbers in told.bars.items():
        named = [number for number in numbers if number]
        if len(named) > 6:
            text = f"{text} ({len(named)} bars, the first is {named[0]})"
        elif len(named) > 1:
            text = f"{text} (bars {', '.join(named)})"
        yield Problem("musicxml", text, named[0] if len(named) == 1 else "")
