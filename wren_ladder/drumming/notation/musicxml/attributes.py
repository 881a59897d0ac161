"""What a measure says of its time: divisions, metre, tempo, and signs of many bars."""

from dataclasses import dataclass, field
from fractions import Fraction
from xml.etree.ElementTree import Element

from wren_ladder.drumming.chart import ChartError, Meter, Tempo
from wren_ladder.drumming.notation.reading import ReadingNotes

BEATS = {
    "whole": Fraction(4),
    "half": Fraction(2),
    "quarter": Fraction(1),
    "eighth": Fraction(1, 2),
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


def read_attributes(
    element: Element, state: State, number: str, reading_notes: ReadingNotes
) -> None:
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
            reading_notes.guess("free time is read in the metre before it", number)
        else:
            state.meter = _meter(time, number, reading_notes)
    for style in element.iterfind("measure-style/*"):
        if style.tag == "measure-repeat":
            bars = (style.text or "1").strip()
            starts = style.get("type") == "start"
            state.repeating = int(bars) if starts and bars.isdigit() else 0
        elif style.tag == "slash":
            state.slashing = style.get("type") == "start"
        elif style.tag in STYLES:
            reading_notes.leave(STYLES[style.tag], number)


def _meter(time: Element, number: str, reading_notes: ReadingNotes) -> Meter:
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
        reading_notes.guess("a metre in several parts is read as their sum", number)
        return Meter(total, unit)


def read_metronome(element: Element) -> Tempo | None:
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


def read_tempo(element: Element, marks: dict, number: str, reading_notes: ReadingNotes) -> None:
    """The playback tempo is in crotchets a minute; a printed mark goes before it."""
    tempo = element.get("tempo")
    if tempo and "tempo" not in marks:
        try:
            marks["tempo"] = Tempo(Fraction(1), round(float(tempo)))
        except (ChartError, ValueError, OverflowError):
            reading_notes.leave(f"the playback tempo {tempo} can't be used", number)
