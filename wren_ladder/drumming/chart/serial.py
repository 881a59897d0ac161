"""Bars as plain JSON values and back; what the database keeps of a bar."""

from typing import Any

from quicktions import Fraction

from wren_ladder.drumming.chart.bar import Bar
from wren_ladder.drumming.chart.drum import Drum
from wren_ladder.drumming.chart.hit import Grace, Hand, Hit, Roll, RollKind, Touch
from wren_ladder.drumming.chart.marks import Mark, MarkKind
from wren_ladder.drumming.chart.meter import Meter
from wren_ladder.drumming.chart.problems import ChartError
from wren_ladder.drumming.chart.signs import Jump
from wren_ladder.drumming.chart.swing import Swing
from wren_ladder.drumming.chart.tempo import Tempo
from wren_ladder.drumming.chart.times import Times
from wren_ladder.drumming.numbers import read_ratio
from wren_ladder.drumming.plain_text import plain

FINEST_LENGTH = 96  # parts of a crotchet: triplets of 64ths
SIGNS = ("segno", "coda", "to_coda", "segno_2", "coda_2", "to_coda_2", "fine")
# What the first versions' bars do not say yet.
CAME_LATER = {
    "endings": (),
    "signs": (),
    "jump": None,
    "marks": (),
    "again": 0,
    "crash_again": False,
    "note": "",
    "swing": None,
    "vamp": False,
    "times": None,
}


def bar_to_json(bar: Bar) -> dict[str, Any]:
    """Every field, fractions as strings such as "7/4". What came later is written only where it
    says something, so that bars stored earlier stay what they are."""
    said = {"swing": bar.swing, "times": bar.times}
    later: dict[str, Any] = {name: str(value) for name, value in said.items() if value}
    if bar.vamp:
        later["vamp"] = True
    return later | {
        "number": bar.number,
        "meter": str(bar.meter),
        "length": str(bar.length),
        "hits": [hit_to_json(hit) for hit in bar.hits],
        "section": bar.section,
        "repeat_start": bar.repeat_start,
        "repeat_passes": bar.repeat_passes,
        "tempo": str(bar.tempo) if bar.tempo else None,
        "endings": list(bar.endings),
        "signs": [name for name in SIGNS if getattr(bar, name)],
        "jump": str(bar.jump) if bar.jump else None,
        "marks": [mark_to_json(mark) for mark in bar.marks],
        "again": bar.again,
        "crash_again": bar.crash_again,
        "note": bar.note,
    }


def bar_from_json(data: dict[str, Any]) -> Bar:
    """The inverse of bar_to_json; ChartError where the values make no bar.

    Bars stored by an earlier version lack what came later, and are lifted as they are read;
    their words may hold what no page can show.
    """
    data = {**CAME_LATER, **data}
    return Bar(
        number=plain(data["number"]),
        meter=Meter.parse(data["meter"]),
        hits=tuple(hit_from_json(hit) for hit in data["hits"]),
        length=exact(data["length"]),
        section=plain(data["section"]),
        repeat_start=data["repeat_start"],
        repeat_passes=data["repeat_passes"],
        tempo=Tempo.parse(data["tempo"]) if data["tempo"] else None,
        swing=Swing.parse(data["swing"]) if data["swing"] else None,
        vamp=data["vamp"],
        times=Times.parse(data["times"]) if data["times"] else None,
        endings=tuple(data["endings"]),
        **dict.fromkeys(data["signs"], True),
        jump=Jump.parse(data["jump"]) if data["jump"] else None,
        marks=tuple(mark_from_json(mark) for mark in data["marks"]),
        again=data["again"],
        crash_again=data["crash_again"],
        note=data["note"],
    )


def mark_to_json(mark: Mark) -> dict[str, Any]:
    return {
        "at": str(mark.at),
        "kind": mark.kind.value,
        "text": mark.text,
        "length": str(mark.length),
    }


def mark_from_json(data: dict[str, Any]) -> Mark:
    kind = MarkKind(data["kind"])
    return Mark(exact(data["at"]), kind, plain(data["text"]), exact(data["length"]))


def hit_to_json(hit: Hit) -> dict[str, Any]:
    roll = hit.roll and {
        "kind": hit.roll.kind.value,
        "length": str(hit.roll.length),
        "strokes": hit.roll.strokes,
        "tied": hit.roll.tied,
    }
    later = {"written": str(hit.written)} if hit.written else {}
    return later | {
        "at": str(hit.at),
        "drum": hit.drum.value,
        "touch": hit.touch.value,
        "grace": hit.grace.value,
        "roll": roll,
        "hand": hit.hand.value if hit.hand else None,
    }


def hit_from_json(data: dict[str, Any]) -> Hit:
    roll = data.get("roll")
    return Hit(
        at=exact(data["at"]),
        drum=Drum(data["drum"]),
        touch=Touch(data["touch"]),
        grace=Grace(data["grace"]),
        roll=roll and _roll_from_json(roll),
        hand=Hand(data["hand"]) if data["hand"] else None,
        written=_lasts(data["written"]) if data.get("written") else None,
    )


def _roll_from_json(data: dict[str, Any]) -> Roll:
    kind, length = RollKind(data["kind"]), exact(data["length"])
    return Roll(kind, length, data["strokes"], data.get("tied", False))


def _lasts(text: str) -> Fraction | None:
    """A length that notes have; one that an early reader took from a damaged file as it was is
    read as the nearest."""
    length = exact(text)
    if length.denominator > FINEST_LENGTH:
        length = Fraction(round(length * FINEST_LENGTH), FINEST_LENGTH)
    return length or None


def exact(text: str) -> Fraction:
    """ "7/4" as it was stored; ChartError for what no version of ours has written."""
    number = read_ratio(str(text))
    if number is None:
        raise ChartError(f"{text!r:.40} is no time in crotchets")
    return number
