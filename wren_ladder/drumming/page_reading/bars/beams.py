"""Beams and flags: what is as thick as a beam and goes from one stem to another, and what hangs
at the end of a stem alone."""

from collections.abc import Sequence
from itertools import pairwise

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.bars.heads import Head
from wren_ladder.drumming.page_reading.bars.stems import Stem
from wren_ladder.drumming.page_reading.found import SPACE
from wren_ladder.drumming.page_reading.pixels import Ink, runs

BEAM = (int(0.2 * SPACE), int(0.8 * SPACE))  # thick
SLOPES = (-0.5, -0.36, -0.24, -0.12, 0, 0.12, 0.24, 0.36, 0.5)
NEXT = 1.45 * SPACE  # from a stem to the next of its beam, at least
ROOT = 1.6 * SPACE  # high, of a flag where it begins, at most: longer is a leaning stem
SHORT = int(1.2 * SPACE)
STUB = int(0.75 * SPACE)
THREE_BEAMS = int(1.6 * SPACE)
LONG = int(2.6 * SPACE)


def find_beams(plain: Ink, stems: Sequence[Stem]) -> Ink:
    """All that is as thick as a beam, and as long as the stub of one."""
    return _beams(plain, stems, STUB)


def find_whole_beams(plain: Ink, stems: Sequence[Stem]) -> Ink:
    """What is surely a beam: no head is so long, or it goes from stem to stem."""
    return _beams(plain, stems, LONG) | _short_beams(plain, stems)


def _short_beams(plain: Ink, stems: Sequence[Stem]) -> Ink:
    """Beams from one stem to the very next, which could hold a head as well."""
    found = np.zeros(plain.shape, bool)
    _, labels = cv2.connectedComponents(_beams(plain, stems, SHORT).astype(np.uint8), None, 8)
    for stem, after in pairwise(stems):
        if not NEXT < after.x - stem.x < LONG + SPACE:
            continue
        # At the same ends of both: a head may hang between the top of one and the other's foot.
        for end, next_end in ((stem.top, after.top), (stem.bottom, after.bottom)):
            left = _labels_near(labels, end, stem.right)
            right = _labels_near(labels, next_end, after.left - 4)
            found |= np.isin(labels, list(left & right))
    return found


def _labels_near(labels: np.ndarray, y: int, x: int) -> set[int]:
    """Of what begins at a stem's end, up to three beams."""
    part = labels[max(0, y - THREE_BEAMS) : y + THREE_BEAMS, max(0, x) : x + 5]
    return set(np.unique(part[part > 0]).tolist())


def _beams(plain: Ink, stems: Sequence[Stem], long: int) -> Ink:
    """What is so long, in pixels, and as thick as a beam."""
    picture = plain.copy()
    for stem in stems:  # what was taken away from between two beams
        rows = slice(stem.top, stem.bottom + 1)
        left = plain[rows, max(0, stem.left - 2)]
        right = plain[rows, min(stem.right + 2, plain.shape[1] - 1)]
        picture[rows, stem.left : stem.right + 1] |= (left | right)[:, None]
    picture = picture.astype(np.uint8)
    found = np.zeros_like(picture)
    for slope in SLOPES:
        kernel = np.zeros((BEAM[0] + int(abs(slope) * long) + 1, long), np.uint8)
        for x in range(long):
            start = round(slope * x) - min(0, round(slope * (long - 1)))
            kernel[start : start + BEAM[0], x] = 1
        found |= cv2.morphologyEx(picture, cv2.MORPH_OPEN, kernel)
    return found.astype(bool)


def bars_of(
    beams: Ink,
    plain: Ink,
    stem: Stem,
    stems: Sequence[Stem],
    heads: Sequence[Head],
    up: bool,
) -> tuple[int, int, int]:
    """How many beams go left and right of a stem's end, and how many flags hang there."""
    rows = _free_end(stem, heads, up)
    left, right = _runs(beams, rows, stem.left - 4), _runs(beams, rows, stem.right + 4)
    if (left or right) and _is_joined(beams, rows, stem, stems):
        return left, right, 0
    # What reaches beyond the end is no flag, but the foot of a bracket.
    rows = slice(max(rows.start, stem.top + 2), min(rows.stop, stem.bottom - 1))
    return 0, 0, _flags(plain, rows, stem)


def _free_end(stem: Stem, heads: Sequence[Head], up: bool) -> slice:
    """The rows of a stem's end beyond its heads."""
    if up:
        last = int(min(head.y - head.half for head in heads))
        return slice(max(0, stem.top - 4), max(stem.top, last))
    last = int(max(head.y + head.half for head in heads))
    return slice(min(last, stem.bottom), stem.bottom + 5)


def _is_joined(beams: Ink, rows: slice, stem: Stem, stems: Sequence[Stem]) -> bool:
    """Do beams go from its end to another stem?"""
    left, right = stem.left - 8 * SPACE, stem.right + 8 * SPACE
    left = max(0, left)
    top, bottom = max(0, rows.start - 2 * SPACE), rows.stop + 2 * SPACE
    _, labels = cv2.connectedComponents(beams[top:bottom, left:right].astype(np.uint8), None, 8)
    inner = slice(rows.start - top, rows.stop - top)
    own = _labels_at(labels[inner], stem, left)
    return any(
        own & _labels_at(labels, other, left)
        for other in stems
        if abs(other.x - stem.x) > NEXT and left < other.x < right
    )


def _labels_at(labels: np.ndarray, stem: Stem, left: int) -> set[int]:
    part = labels[:, max(0, stem.left - 5 - left) : stem.right + 6 - left]
    return set(np.unique(part[part > 0]).tolist())


def _runs(beams: Ink, rows: slice, x: int) -> int:
    """How many beams cross a column."""
    if not 0 <= x < beams.shape[1]:
        return 0
    column = beams[rows, x]
    edges = runs(column)
    count = 0
    for start, end in edges:
        if BEAM[0] <= end - start:
            count += max(1, round(int(end - start) / (0.75 * SPACE)))
    return count


def _flags(plain: Ink, rows: slice, stem: Stem) -> int:
    """How many flags begin at a stem without beams."""
    x = stem.right + 3
    if x + 2 >= plain.shape[1]:
        return 0
    column = plain[rows, x : x + 2].any(axis=1)
    # What is on both sides goes through it: a slur.
    before = plain[rows, max(0, stem.left - 4) : max(1, stem.left - 2)]
    other = np.asarray(before.any(axis=1))
    return sum(
        bool(3 <= end - start <= ROOT and not other[start:end].any())
        for start, end in runs(column)
    )
