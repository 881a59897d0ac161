"""Dynamics, hairpins, fermatas, fills and cues between directions and the chart's marks.

Source: MusicXML 4.0, direction, dynamics, wedge, fermata. A fill space has no element of
its own; it is the word "fill", and a fermata over no note the word "fermata".
"""

import re
from collections.abc import Sequence
from xml.etree.ElementTree import Element

from quicktions import Fraction

from wren_ladder.drumming.chart import DYNAMICS, ChartError, Mark, MarkKind, Meter
from wren_ladder.drumming.notation.musicxml.measure import Cursor
from wren_ladder.drumming.numbers import read_ratio

WORDS = {"fill": MarkKind.FILL, "slashes": MarkKind.SLASHES, "fermata": MarkKind.FERMATA}
GRADUALS = re.compile(
    r"(?P<rit>rit|ritard|ritardando|rall|rallentando|slow down)\.?(?: to (?P<slow>\d{2,3}))?"
    r"|(?P<accel>accel|accelerando|speed up)\.?(?: to (?P<fast>\d{2,3}))?"
)
ROAD = re.compile(
    r"\b(d\. ?[cs]\.|d[cs] al|da capo|dal segno|al (fine|coda)|codas?|segnos?|repeats?)(?!\w)"
    r"|[𝄋𝄌⊕]"
)
WEDGES = {"crescendo": MarkKind.CRESCENDO, "diminuendo": MarkKind.DIMINUENDO}


def position(direction: Element, cursor: Cursor) -> Fraction:
    """Where a direction stands: at the cursor, moved by its offset."""
    offset = read_ratio(direction.findtext("offset")) or Fraction(0)
    return max(Fraction(0), cursor.at + offset / cursor.divisions)


def read_dynamics(element: Element, at: Fraction, marks: dict, cursor: Cursor) -> None:
    for dynamic in element:
        if dynamic.tag in DYNAMICS:
            keep(Mark(at, MarkKind.DYNAMIC, dynamic.tag), marks, cursor)
        else:
            cursor.reading_notes.leave(
                f"the dynamic '{dynamic.tag}' is not kept", cursor.number
            )


def read_words(element: Element, at: Fraction, marks: dict, cursor: Cursor) -> None:
    """Words that are no sign of the road are a cue, or name a mark."""
    text = " ".join((element.text or "").split())
    gradual = GRADUALS.fullmatch(text.lower().strip("() "))
    if gradual:
        kind = MarkKind.RIT if gradual["rit"] else MarkKind.ACCEL
        goal = gradual["slow"] or gradual["fast"] or ""
        marks.setdefault("graduals", []).append((at, kind, goal))
        return
    kind = WORDS.get(text.lower().strip("()"), MarkKind.CUE)
    if kind is MarkKind.CUE and ROAD.search(text.lower()):
        said = (
            f"'{text[:40]}' looks like a sign of the road and is not understood; kept as words"
        )
        cursor.reading_notes.guess(said, cursor.number)
    if text:
        keep(Mark(at, kind, text if kind is MarkKind.CUE else ""), marks, cursor)


def read_wedge(element: Element, at: Fraction, marks: dict) -> None:
    """Remember where a hairpin starts or stops; its length is known at the end."""
    kind, number = element.get("type", ""), element.get("number", "1")
    if kind in WEDGES or kind == "stop":
        marks.setdefault("wedges", []).append((kind, number, at))


def read_dashes(element: Element, at: Fraction, marks: dict) -> None:
    """Remember where a dashed line starts or stops: behind a "rit." it says how far it goes."""
    kind, number = element.get("type", ""), element.get("number", "1")
    marks.setdefault("dashes", []).append((kind, number, at))


def keep(mark: Mark, marks: dict, cursor: Cursor) -> None:
    found = marks.setdefault("marks", {})
    if (mark.at, mark.kind) in found:
        cursor.reading_notes.leave(
            f"two {mark.kind}s at once; the first is kept", cursor.number
        )
    found.setdefault((mark.at, mark.kind), mark)


def finish_marks(
    measures: Sequence[dict], numbers: Sequence[str], shapes: Sequence[tuple], reading_notes
) -> None:
    """Turn what was remembered into tuples of marks; ``shapes`` are (metre, length)."""
    starts = [Fraction(0)]
    for _, length in shapes:
        starts.append(starts[-1] + length)
    opened: dict[str, tuple[int, MarkKind, Fraction]] = {}
    for index, marks in enumerate(measures):
        for kind, number, at in marks.pop("wedges", []):
            if kind in WEDGES:
                opened[number] = (index, WEDGES[kind], at)
            elif number in opened:
                first, kind, began = opened.pop(number)
                length = starts[index] + at - starts[first] - began
                mark = (began, kind, "", length)
                _add_span(measures[first], mark, numbers[first], reading_notes)
    _add_graduals(measures, numbers, shapes, starts, reading_notes)
    for first, kind, _ in opened.values():
        reading_notes.leave(f"a {kind} that never stops is left out", numbers[first])
    for index, marks in enumerate(measures):
        found = marks.get("marks", {})
        meter, length = shapes[index]
        inside: dict[tuple, Mark] = {}
        for mark in found.values():
            moved = _inside(mark, meter, length)
            inside.setdefault((moved.at, moved.kind), moved)
        marks["marks"] = tuple(inside.values())


def _add_graduals(
    measures: Sequence[dict], numbers: Sequence[str], shapes, starts, reading_notes
) -> None:
    """A rit. goes as far as the dashes that start with it, else to the end of its bar."""
    lines, opened = {}, {}
    for index, marks in enumerate(measures):
        for kind, number, at in marks.pop("dashes", []):
            if kind == "start":
                opened[number] = starts[index] + at
            elif kind == "stop" and number in opened:
                lines[opened.pop(number)] = starts[index] + at
    for index, marks in enumerate(measures):
        for at, kind, goal in marks.pop("graduals", []):
            begins, bar_line = starts[index] + at, starts[index] + shapes[index][1]
            stop = lines.pop(begins, None)
            if stop is None:
                said = f"how far the {kind}. goes is not said; read to the end of the bar"
                reading_notes.guess(said, numbers[index])
            span = (at, kind, goal, (stop or bar_line) - begins)
            _add_span(marks, span, numbers[index], reading_notes)
    for begins in [*lines, *opened.values()]:
        index = max(place for place, start in enumerate(starts[:-1]) if start <= begins)
        reading_notes.leave("'dashes' is not kept", numbers[index])


def _add_span(marks: dict, span: tuple, number: str, reading_notes) -> None:
    """``span`` is what a Mark is made of."""
    at, kind, *_ = span
    try:
        marks.setdefault("marks", {}).setdefault((at, kind), Mark(*span))
    except ChartError as error:
        reading_notes.leave(f"{error.text}; left out", number)


def _inside(mark: Mark, meter: Meter, length: Fraction) -> Mark:
    """A mark at the bar line belongs to the last count of its bar."""
    if mark.at < length:
        return mark
    at = max(Fraction(0), length - meter.count_length)
    return Mark(at, mark.kind, mark.text, mark.length)
