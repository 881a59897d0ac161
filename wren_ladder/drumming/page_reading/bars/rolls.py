"""Short slanting strokes through stems: a roll, or a note that is struck several times.

A stroke is as thick as a beam and goes only a little beyond its stem, on both sides. Common
practice of engraving, no source."""

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.bars.stems import LEAST_STEM, Stem
from wren_ladder.drumming.page_reading.found import SPACE
from wren_ladder.drumming.page_reading.pixels import Ink, runs

LONG = int(0.9 * SPACE)  # a stroke, at least
WIDE, HIGH = (0.9 * SPACE, 2 * SPACE), (0.3 * SPACE, 1.1 * SPACE)
MOST_THICK = 0.78 * SPACE
THICK = int(0.25 * SPACE)
FULL = (0.4, 0.85)  # share of the box around it
SLOPES = (-0.12, -0.24, -0.36, -0.5)  # up to the right
BEYOND = int(0.25 * SPACE)  # a stem goes on above and below a stroke
CENTRED = 0.25  # of its width, that the stem may be off its middle
MOST_BESIDE = 0.3  # share of ink beside its ends
ON_STEM = 0.3 * SPACE  # that it may be off a stem's middle


@dataclass(frozen=True, slots=True)
class RollStroke:
    """The middle of a stroke, in pixels of the bar's ink."""

    x: float
    y: float


def find_roll_strokes(bare: Ink) -> tuple[list[RollStroke], Ink]:
    """The strokes through stems in a bar's ink without staff lines, and what is left of it: the
    stems go on."""
    found, left_ink = [], bare.copy()
    for slope in SLOPES:  # one by one: together they would join what stands close
        thick = cv2.morphologyEx(left_ink.astype(np.uint8), cv2.MORPH_OPEN, _slanted(slope))
        count, labels, stats, _ = cv2.connectedComponentsWithStats(thick, None, 8)
        for number in range(1, count):
            stem = _crossed(bare, labels == number, stats[number])
            if stem is None:
                continue
            middle = stats[number][1] + stats[number][3] / 2
            found.append(RollStroke((stem.start + stem.stop - 1) / 2, float(middle)))
            kept = left_ink[:, stem].copy()
            around = cv2.dilate((labels == number).astype(np.uint8), np.ones((5, 3), np.uint8))
            left_ink &= around == 0
            left_ink[:, stem] = kept
    return found, left_ink


def strokes_on(stem: Stem, strokes: Sequence[RollStroke]) -> int:
    return sum(
        abs(one.x - stem.x) <= ON_STEM and stem.top <= one.y <= stem.bottom for one in strokes
    )


def _slanted(slope: float) -> np.ndarray:
    kernel = np.zeros((THICK + int(abs(slope) * LONG) + 1, LONG), np.uint8)
    for x in range(LONG):
        start = round(slope * x) - round(slope * (LONG - 1))
        kernel[start : start + THICK, x] = 1
    return kernel


def _crossed(bare: Ink, part: Ink, stats: np.ndarray) -> slice | None:
    """The columns of the stem that a part crosses as a stroke; None where it is none."""
    left, top, wide, high, area = (int(one) for one in stats)
    sized = WIDE[0] <= wide <= WIDE[1] and HIGH[0] <= high <= HIGH[1]
    if not sized or not FULL[0] < area / (wide * high) < FULL[1]:
        return None
    box = part[top : top + high, left : left + wide]
    if not _is_slanted(box) or not _is_alone(bare, box, left, top):
        return None
    stem = _stem_through(bare, left, top, wide, high)
    if stem is None:
        return None
    aside = [x for x in range(wide) if x < stem.start - left - 2 or x > stem.stop - left + 1]
    return stem if all(_is_thin(bare, box, left, top, x) for x in aside) else None


def _stem_through(bare: Ink, left: int, top: int, wide: int, high: int) -> slice | None:
    """The columns of what goes up and down through the middle of a box and on beyond it."""
    rows = slice(max(0, top - BEYOND), top + high + BEYOND)
    off = int(CENTRED * wide)
    middle = slice(left + wide // 2 - off, left + wide // 2 + off + 1)
    part = cv2.dilate(bare[rows, middle].astype(np.uint8), np.ones((3, 1), np.uint8))
    through = np.flatnonzero(part.mean(axis=0) > 0.95)
    if not len(through) or top < BEYOND:
        return None
    column = bare[:, middle.start + int(through[len(through) // 2])]
    if not any(a <= top < b and b - a >= LEAST_STEM for a, b in runs(column).tolist()):
        return None  # of a head
    return slice(middle.start + int(through[0]), middle.start + int(through[-1]) + 1)


def _is_thin(bare: Ink, part: Ink, left: int, top: int, x: int) -> bool:
    """Is the ink in a column of a part no higher than a stroke? A head's is."""
    rows = np.flatnonzero(part[:, x])
    return not any(
        start <= top + rows[0] < end and end - start > MOST_THICK
        for start, end in runs(bare[:, left + x]).tolist()
        if len(rows)
    )


def _is_slanted(part: Ink) -> bool:
    """Is its right end higher than its left one?"""
    third = part.shape[1] // 3
    left, right = (np.argwhere(side)[:, 0] for side in (part[:, :third], part[:, -third:]))
    return bool(len(left) and len(right) and left.mean() - right.mean() > 1)


def _is_alone(bare: Ink, part: Ink, left: int, top: int) -> bool:
    """Does nothing go on at its two ends, as a beam does?"""
    right = left + part.shape[1]
    beside = (slice(max(0, left - 5), max(0, left - 2)), slice(right + 2, right + 5))
    for end, columns in zip((part[:, :3], part[:, -3:]), beside, strict=True):
        rows = np.flatnonzero(end.any(axis=1)) + top
        side = bare[rows[0] : rows[-1] + 1, columns]
        if side.size and side.mean() > MOST_BESIDE:
            return False
    return True
