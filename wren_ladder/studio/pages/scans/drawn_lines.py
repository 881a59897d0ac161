"""What a page's script sends when bars or corners were moved by hand, read and checked."""

import json
from itertools import pairwise

from wren_ladder.drumming.page_reading.found import (
    ROOM,
    SPACE,
    BarLine,
    FoundBar,
    FoundLine,
    Shorthand,
)
from wren_ladder.drumming.page_reading.serial import line_to_json

MOST_LINES, MOST_BARS = 40, 40  # of a page, of a line
LEAST_BAR = SPACE
NOT_READ = "what the page sent cannot be read; load it again"


def read_lines(text: str, width: int, height: int) -> list[dict]:
    """The lines of a page from top to bottom; ValueError says what is wrong."""
    sent = _json(text)
    if not isinstance(sent, list) or len(sent) > MOST_LINES:
        raise ValueError(f"a page has at most {MOST_LINES} lines")
    if not all(isinstance(one, dict) and isinstance(one.get("bars"), list) for one in sent):
        raise ValueError(NOT_READ)
    lines = [line_to_json(_line(one, width, height)) for one in sent]
    return sorted(lines, key=lambda line: (line["top"], line["left"]))


def _line(sent: dict, width: int, height: int) -> FoundLine:
    top, bottom = _whole(sent, "top", height), _whole(sent, "bottom", height)
    if bottom < top:
        raise ValueError("a line ends below where it begins")
    bars = tuple(_bar(bar, width) for bar in sent["bars"][:MOST_BARS])
    bars = tuple(sorted(bars, key=lambda bar: bar.left))
    if any(one.right > other.left + SPACE for one, other in pairwise(bars)):
        raise ValueError("two bars of a line lie over each other")
    left = min([_whole(sent, "left", width), *(bar.left for bar in bars)])
    right = max([_whole(sent, "right", width), *(bar.right for bar in bars)])
    return FoundLine(
        top, bottom, left, right, max(0, top - ROOM), min(height, bottom + ROOM), bars
    )


def _bar(sent: dict, width: int) -> FoundBar:
    left, right = _whole(sent, "left", width), _whole(sent, "right", width)
    if right - left < LEAST_BAR:
        raise ValueError("a bar is narrower than a note; take one of its bar lines away")
    ink = min(max(_whole(sent, "ink_left", width), left), right)
    before = BarLine(sent.get("before", "none"))
    after = BarLine(sent.get("after", "single"))
    shorthand = Shorthand(sent.get("shorthand", ""))
    return FoundBar(left, right, ink, before, after, shorthand, bool(sent.get("ending")))


def read_corners(text: str) -> list[list[float]]:
    """Four corners clockwise from the upper left, or none for the whole picture."""
    sent = _json(text)
    if not sent:
        return []
    if not isinstance(sent, list) or len(sent) != 4:
        raise ValueError("a sheet has four corners")
    corners = [[float(x), float(y)] for x, y in sent]
    turns = []
    for n in range(4):
        (ax, ay), (bx, by), (cx, cy) = (corners[(n + k) % 4] for k in range(3))
        turns.append((bx - ax) * (cy - by) - (by - ay) * (cx - bx))
    if min(turns) <= 0:
        raise ValueError(
            "the corners go around the sheet from its upper left; two have crossed"
        )
    return corners


def _json(text: str) -> object:
    try:
        return json.loads(text or "[]")
    except json.JSONDecodeError as error:
        raise ValueError(NOT_READ) from error


def _whole(sent: dict, name: str, most: int) -> int:
    value = sent.get(name)
    if not isinstance(value, (int, float)) or isinstance(value, bool):
        raise ValueError(NOT_READ)
    return max(0, min(most, round(value)))
