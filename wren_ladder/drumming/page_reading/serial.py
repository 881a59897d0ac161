"""Lines of a page and what was read in its bars as plain data, to be stored."""

from dataclasses import asdict, astuple

from wren_ladder.drumming.chart.serial import exact
from wren_ladder.drumming.page_reading.bars.read_bar import ReadBar, Stroke
from wren_ladder.drumming.page_reading.found import (
    BarLine,
    FoundBar,
    FoundLine,
    Likeness,
    Shorthand,
)


def line_to_json(line: FoundLine) -> dict:
    return asdict(line)


def line_from_json(data: dict) -> FoundLine:
    bars = tuple(
        FoundBar(
            **bar
            | {
                "before": BarLine(bar["before"]),
                "after": BarLine(bar["after"]),
                "shorthand": Shorthand(bar["shorthand"]),
            }
        )
        for bar in data["bars"]
    )
    return FoundLine(**data | {"bars": bars})


def likeness_to_json(place: int, likeness: Likeness | None) -> dict:
    """``kind`` is the first bar that looks the same, the bar itself where none does; ``near``
    one that nearly does."""
    near = None if likeness is None or likeness.equal else likeness
    return {
        "kind": likeness.like if likeness and not near else place,
        "near": near.like if near else None,
        "here": [astuple(one) for one in near.here] if near else [],
        "there": [astuple(one) for one in near.there] if near else [],
    }


def read_to_json(read: ReadBar) -> dict:
    """Times as "3/4", in crotchets."""
    return {
        "strokes": [_stroke_to_json(one) for one in read.strokes],
        "length": str(read.length),
        "doubts": list(read.doubts),
        "second": [_stroke_to_json(one) for one in read.second],
        "in_threes": read.in_threes,
    }


def read_from_json(data: dict) -> ReadBar:
    return ReadBar(
        tuple(_stroke_from_json(one) for one in data["strokes"]),
        exact(data["length"]),
        tuple(data["doubts"]),
        tuple(_stroke_from_json(one) for one in data["second"]),
        data["in_threes"],
    )


def _stroke_to_json(stroke: Stroke) -> dict:
    times = {"at": str(stroke.at), "length": str(stroke.length)}
    return asdict(stroke) | times | {"lean": round(stroke.lean, 3)}


def _stroke_from_json(data: dict) -> Stroke:
    return Stroke(**data | {"at": exact(data["at"]), "length": exact(data["length"])})
