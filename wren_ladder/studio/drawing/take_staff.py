"""A take on its staff: beside every note a small mark for each of its strokes, above the head
where it came early and below where it came late."""

import re
from collections.abc import Mapping, Sequence
from html import escape
from statistics import fmean

HEAD = re.compile(
    r'<g id="(?P<id>[^"]*)" class="note">'
    r"(?=<g><use [^>]*translate\((?P<x>-?\d+), (?P<y>-?\d+)\))"
)
NOTE = re.compile(r"(?:l(?P<line>\d+)-)?b(?P<bar>\d+)h(?P<hit>\d+)$")
PER_MILLISECOND = 6  # units of the drawing; a staff space is 180
FURTHEST = 60  # milliseconds that are still told apart
ASIDE = -130  # of a mark from its head's left edge
RADIUS = 40
TEXT = 210


def with_times(svg: str, times: Mapping[tuple[int, int], Sequence[float]], told: float) -> str:
    """``times``: (bar, hit) -> milliseconds late of each stroke; a mean beyond ``told`` is
    written beside its note. Bars are counted as the drawing counts them."""

    def marked(found: re.Match) -> str:
        note = NOTE.search(found["id"])
        if not note:
            return found[0]
        bar = int(note["line"] or 0) + int(note["bar"])
        late = times.get((bar, int(note["hit"])))
        return found[0] + (_marks(int(found["x"]), int(found["y"]), late, told) if late else "")

    return HEAD.sub(marked, svg)


def _marks(x: int, y: int, late: Sequence[float], told: float) -> str:
    at, mean = x + ASIDE, fmean(late)
    dots = "".join(
        f'<circle cx="{at}" cy="{round(y + _far(one))}" r="{RADIUS}"/>' for one in late
    )
    said = f"{abs(round(mean))} ms {'late' if mean > 0 else 'early'}"
    title = f"{said} on average, {len(late)} stroke{'s' if len(late) > 1 else ''}"
    text = ""
    if abs(mean) > told:
        side = "late" if mean > 0 else "early"
        low = round(y + _far(mean) + TEXT / 3)
        text = (
            f'<text x="{at - 2 * RADIUS}" y="{low}" font-size="{TEXT}" text-anchor="end">'
            f"{abs(round(mean))} {side}</text>"
        )
    line = f'<path d="M{at} {y}V{round(y + _far(mean))}"/>'
    return f'<g class="take-time"><title>{escape(title)}</title>{line}{dots}{text}</g>'


def _far(milliseconds: float) -> float:
    return PER_MILLISECOND * max(-FURTHEST, min(FURTHEST, milliseconds))
