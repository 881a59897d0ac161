"""What a measure says of its time: divisions, metre, tempo, and signs of many bars."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, field
from xml.etree.ElementTree import Element

from quicktions import Fraction

from wren_ladder.drumming.chart import ChartError, Drum, Meter, Tempo
from wren_ladder.drumming.chart.swing import STRAIGHT, Swing
from wren_ladder.drumming.notation.reading import ReadingNotes
from wren_ladder.drumming.notation.said_feel import SaidTempo, said_of_number
from wren_ladder.drumming.numbers import read_ratio, read_whole

BEATS = {
    "whole": Fraction(4),
    "half": Fraction(2),
    "quarter": Fraction(1),
    "eighth": Fraction(1, 2),
}
STYLES = {
    "beat-repeat": "beat-repeat signs are not filled in yet",
}


SWUNG = {"eighth": Fraction(1, 2), "16th": Fraction(1, 4)}


@dataclass
class State:
    """What a part carries from measure to measure."""

    meter: Meter = field(default_factory=lambda: Meter(4, 4))
    divisions: Fraction = Fraction(1)
    ending: tuple[int, ...] = ()  # the bracket that is open
    repeating: int = 0  # measures back that a repeat-bar sign copies, 0 for none
    slashing: bool = False
    rolling: frozenset[Drum] = frozenset()  # drums whose roll is tied over the bar line


def read_attributes(
    element: Element, state: State, number: str, reading_notes: ReadingNotes
) -> None:
    divisions = element.findtext("divisions")
    if divisions is not None:
        state.divisions = read_ratio(divisions) or Fraction(0)
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
            state.repeating = (read_whole(bars) or 0) if starts else 0
        elif style.tag == "slash":
            state.slashing = style.get("type") == "start"
        elif style.tag in STYLES:
            reading_notes.leave(STYLES[style.tag], number)


def _numbers(texts: Sequence[str]) -> list[int]:
    found = [read_whole(text.strip(), 1) for text in texts]
    if None in found:
        raise ChartError("a time signature that can't be read as numbers")
    return [number for number in found if number is not None]


def _meter(time: Element, number: str, reading_notes: ReadingNotes) -> Meter:
    beats = [beat.text or "" for beat in time.findall("beats")]
    units = [unit.text or "" for unit in time.findall("beat-type")]
    groups = [_numbers(beat.split("+")) for beat in beats]
    over = _numbers(units)
    if not over:
        raise ChartError("a time signature that can't be read as numbers")
    unit = max(over)
    total = sum(sum(sizes) * unit // low for sizes, low in zip(groups, over, strict=False))
    if len(beats) == 1 and "+" not in beats[0]:
        return Meter(total, unit)
    sizes = tuple(size for group in groups for size in group)
    try:
        return Meter(total, unit, sizes)
    except ChartError:
        reading_notes.guess("a metre in several parts is read as their sum", number)
        return Meter(total, unit)


def read_metronome(element: Element) -> SaidTempo | None:
    beat = BEATS.get(element.findtext("beat-unit", "").strip())
    per_minute = element.findtext("per-minute", "")
    found = re.search(r"[0-9]+(\.[0-9]+)?", per_minute)
    number = read_ratio(found[0]) if found else None
    guess = said_of_number(per_minute)
    if beat is None or number is None or len(element.findall("beat-unit")) != 1:
        return None
    beat *= Fraction(3, 2) if element.find("beat-unit-dot") is not None else 1
    try:
        return SaidTempo(Tempo(beat, round(number)), guess, "")
    except ChartError:
        return None


def read_swing(element: Element, marks: dict) -> None:
    """How it is played from here on, of a <sound>; the ratio is of the two notes of a pair."""
    swing = element.find("swing")
    if swing is None:
        return
    if swing.find("straight") is not None:
        marks["swing"] = STRAIGHT
        return
    first, second = (read_whole(swing.findtext(name), 1, 99) for name in ("first", "second"))
    unit = SWUNG.get(swing.findtext("swing-type", "eighth").strip())
    if first and second and unit and first > second:
        marks["swing"] = Swing(unit, Fraction(first, first + second))


def read_tempo(element: Element, marks: dict, number: str, reading_notes: ReadingNotes) -> None:
    """The playback tempo is in crotchets a minute; a printed mark goes before it."""
    tempo = element.get("tempo")
    if tempo and "tempo" not in marks:
        try:
            marks["tempo"] = Tempo(Fraction(1), round(float(tempo)))
        except (ChartError, ValueError, OverflowError):
            reading_notes.leave(f"the playback tempo {tempo} can't be used", number)
