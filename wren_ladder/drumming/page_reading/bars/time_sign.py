"""The time signature before a bar: two figures above each other, or a C."""

import cv2
import numpy as np

from wren_ladder.drumming.chart import ChartError, Meter
from wren_ladder.drumming.page_reading.bars.figures import number_of, trimmed
from wren_ladder.drumming.page_reading.bars.shapes import Sign, likeness, shapes
from wren_ladder.drumming.page_reading.found import SPACE, FoundBar, FoundLine
from wren_ladder.drumming.page_reading.lines import without_lines
from wren_ladder.drumming.page_reading.pixels import Ink, runs

WIDEST = int(4.2 * SPACE)
APART = 0.75 * SPACE  # white before it, at least
HIGH = (1.1 * SPACE, 2.6 * SPACE)  # of a figure
BEYOND = int(0.6 * SPACE)  # the staff
LIKE = 0.72  # a clef is like a C to 0.6
TOUCHING = 3  # rows on each side of the middle, where figures meet
LETTERS = {Sign.COMMON: Meter(4, 4), Sign.CUT: Meter(2, 2)}


def meter_before(ink: Ink, line: FoundLine, bar: FoundBar) -> Meter | None:
    """What stands before a bar's music; None where nothing does, or nothing that is read
    surely. ``ink`` is the page's."""
    left = max(bar.left + 3, bar.ink_left - WIDEST)
    if bar.ink_left - left < SPACE / 2:
        return None
    rows = slice(max(0, line.top - BEYOND), line.bottom + BEYOND)
    part = _last_group(without_lines(ink, line)[rows, left : bar.ink_left + 1])
    if part is None:
        return None
    for sign, meter in LETTERS.items():
        if any(likeness(trimmed(part), shape.picture) > LIKE for shape in shapes(sign)):
            return meter
    middle = line.middle - rows.start
    above, below = _number(part[: middle - TOUCHING]), _number(part[middle + TOUCHING :])
    try:
        return Meter(above, below) if above and below else None
    except ChartError:
        return None


def _number(half: Ink) -> int | None:
    """The figures in one half of the staff, which may lie in pieces where lines were."""
    joined = cv2.morphologyEx(half.astype(np.uint8), cv2.MORPH_CLOSE, np.ones((5, 3), np.uint8))
    edges = runs(joined.any(axis=0)).tolist()
    parts = [(start, trimmed(joined[:, start:end].astype(bool))) for start, end in edges]
    return number_of([one for one in parts if HIGH[0] < len(one[1]) < HIGH[1]])


def _last_group(part: Ink) -> Ink | None:
    """What stands last, behind a clef."""
    edges = runs(part.any(axis=0)).tolist()
    if not edges:
        return None
    start, end = edges[-1]
    for before, until in reversed(edges[:-1]):
        if start - until >= APART:
            break
        start = before
    return part[:, start:end]
