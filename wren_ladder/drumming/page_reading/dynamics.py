"""Dynamics under a staff: letters of a music font that stand alone. They are no part of a
bar's notes: a bar is the same music at p and at f."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from wren_ladder.drumming.chart import DYNAMICS
from wren_ladder.drumming.page_reading.bars.shapes import LETTERS, likeness, shapes
from wren_ladder.drumming.page_reading.found import ROOM, SPACE, FoundLine

LEAST = 0.72  # likeness
HIGH, WIDE = (0.7 * SPACE, 3.4 * SPACE), (0.5 * SPACE, 6 * SPACE)
GAP = 0.9 * SPACE  # between the letters of one, at most
ALONE = 1.5 * SPACE  # from the next letter of anything else, at least
MOST_LETTERS = 3
OFF = 2  # pixels off the staff
OVER = 2  # times so near is a staff under it

Box = tuple[int, int, int, int]  # left, top, right, bottom


@dataclass(frozen=True, slots=True)
class FoundDynamic:
    """``text`` such as "mf"; ``x`` of its middle, its line's number, its parts of the ink."""

    text: str
    x: float
    line: int
    parts: tuple[int, ...]


def find_dynamics(
    boxes: np.ndarray, labels: np.ndarray, lines: Sequence[FoundLine]
) -> list[FoundDynamic]:
    """All of a page. ``boxes`` (left, top, right, bottom) are of the parts of its ink without
    staff lines, ``labels`` say which part a pixel is of."""
    beside = {
        part: box
        for part, box in enumerate((a, b, c, d) for a, b, c, d in boxes.tolist())
        if part and _is_beside(box, lines)
    }
    found = []
    for row in _rows(beside):
        box = _around([beside[part] for part in row])
        if len(row) > MOST_LETTERS or not _is_alone(box, beside, row):
            continue
        text = "".join(_letter(beside[part], labels, part) for part in row)
        if text in DYNAMICS:
            middle = (box[0] + box[2]) / 2
            found.append(FoundDynamic(text, middle, _line(box, lines), tuple(row)))
    return found


def _is_beside(box: Box, lines: Sequence[FoundLine]) -> bool:
    """Is it as large as a letter, and under a staff, where they stand in music for drums?"""
    left, top, right, bottom = box
    if not (HIGH[0] < bottom - top < HIGH[1] and WIDE[0] < right - left < WIDE[1]):
        return False
    return bool(lines) and OFF <= top - lines[_line(box, lines)].bottom < ROOM


def _rows(boxes: dict[int, Box]) -> list[list[int]]:
    """Parts close beside each other, from left to right."""
    rows: list[list[int]] = []
    for part in sorted(boxes, key=lambda part: boxes[part][0]):
        left, top, _, bottom = boxes[part]
        for row in rows:
            _, other_top, other_right, other_bottom = boxes[row[-1]]
            if left - other_right >= GAP:
                continue
            lower = min(bottom - top, other_bottom - other_top)
            if min(bottom, other_bottom) - max(top, other_top) > 0.4 * lower:
                row.append(part)
                break
        else:
            rows.append([part])
    return rows


def _around(boxes: Sequence[Box]) -> Box:
    left, top, right, bottom = zip(*boxes, strict=True)
    return min(left), min(top), max(right), max(bottom)


def _is_alone(box: Box, boxes: dict[int, Box], own: Sequence[int]) -> bool:
    """Does no other letter stand beside it, as in a word?"""
    return not any(
        max(box[0], other[0]) - min(box[2], other[2]) < ALONE
        and min(box[3], other[3]) > max(box[1], other[1])
        for part, other in boxes.items()
        if part not in own
    )


def _letter(box: Box, labels: np.ndarray, part: int) -> str:
    """What a part is, "?" where it is no letter of a dynamic."""
    left, top, right, bottom = box
    ink = labels[top:bottom, left:right] == part
    like, text = max(
        (max((likeness(ink, one.picture) for one in shapes(sign)), default=0.0), text)
        for sign, text in LETTERS.items()
    )
    return text if like > LEAST else "?"


def _line(box: Box, lines: Sequence[FoundLine]) -> int:
    """Whose it is, rather the staff's above it than below it."""
    off = [max(OVER * (line.top - box[3]), box[1] - line.bottom) for line in lines]
    return off.index(min(off))
