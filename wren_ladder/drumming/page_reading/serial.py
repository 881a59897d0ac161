"""Lines of a page as plain data, to be stored."""

from dataclasses import asdict, astuple

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
    equal = likeness is not None and likeness.equal
    return {
        "kind": likeness.like if equal else place,
        "near": likeness.like if likeness and not equal else None,
        "here": [astuple(one) for one in likeness.here] if likeness and not equal else [],
        "there": [astuple(one) for one in likeness.there] if likeness and not equal else [],
    }
