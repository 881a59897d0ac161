"""Stems of one bar, and what hangs on their ends: beams and flags."""

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.found import SPACE
from wren_ladder.drumming.page_reading.pixels import Ink, runs

LEAST_STEM = int(1.6 * SPACE)
MOST_WIDE = int(0.5 * SPACE)
RAGGED = 8  # pixels by which the columns of a stem may begin and end apart
GAP = 4  # pixels of a stem that may be white
OPEN = 0.6  # of a stem, at least, is white on one side, or a staff space of it on both
BESIDE = int(0.3 * SPACE)


@dataclass(frozen=True, slots=True)
class Stem:
    """An upright line, in pixels of the bar's ink."""

    x: float
    top: int
    bottom: int
    left: int
    right: int


def find_stems(bare: Ink) -> list[Stem]:
    """The stems of a bar's ink without staff lines, from left to right."""
    wide = cv2.dilate(bare.astype(np.uint8), np.ones((1, 3), np.uint8))
    wide = cv2.morphologyEx(wide, cv2.MORPH_CLOSE, np.ones((GAP, 1), np.uint8))
    tall = cv2.morphologyEx(wide, cv2.MORPH_OPEN, np.ones((LEAST_STEM, 1), np.uint8))
    found: list[Stem] = []
    for stem in sorted(_upright(tall), key=lambda stem: stem.top - stem.bottom):
        if _is_free(bare, stem) and not any(_is_part(stem, other) for other in found):
            found.append(stem)
    return sorted((one for one in found if not _is_tail(one, found)), key=lambda one: one.x)


def _upright(tall: Ink) -> list[Stem]:
    """What goes up and down in columns side by side that begin and end nearly together."""
    groups: list[list[tuple[int, int, int]]] = []  # of (column, top, bottom)
    for x in range(tall.shape[1]):
        edges = runs(tall[:, x])
        for top, bottom in edges.tolist():
            for group in groups:
                last, above, below = group[-1]
                if x - last == 1 and abs(top - above) < RAGGED and abs(bottom - below) < RAGGED:
                    group.append((x, top, bottom))
                    break
            else:
                groups.append([(x, top, bottom)])
    found = []
    for group in groups:
        left, right = group[0][0], group[-1][0]
        if right - left < MOST_WIDE:
            top = min(one[1] for one in group)
            bottom = max(one[2] for one in group) - 1
            found.append(Stem((left + right) / 2, top, bottom, left, right))
    return found


def _is_part(stem: Stem, other: Stem) -> bool:
    """Is it the ragged side of a longer one?"""
    shared = min(stem.bottom, other.bottom) - max(stem.top, other.top)
    return abs(stem.x - other.x) <= MOST_WIDE and shared > (stem.bottom - stem.top) / 2


def _is_tail(stem: Stem, stems: Sequence[Stem]) -> bool:
    """Is it the upright end of a flag, right of its stem and short of its end?"""
    off, slack = 0.6 * SPACE, 0.5 * SPACE
    return any(
        0.5 * SPACE < stem.x - other.x < 1.35 * SPACE
        and stem.bottom - stem.top < other.bottom - other.top
        and (
            (stem.top > other.top + off and stem.bottom < other.bottom + slack)
            or (stem.bottom < other.bottom - off and stem.top > other.top - slack)
        )
        for other in stems
    )


def _is_free(bare: Ink, stem: Stem) -> bool:
    """Is it a line between white and white for a good part of its way?"""
    rows = slice(stem.top, stem.bottom + 1)
    left = bare[rows, max(0, stem.left - BESIDE) : stem.left].any(axis=1)
    right = bare[rows, stem.right + 1 : stem.right + 1 + BESIDE].any(axis=1)
    longest = max((end - start for start, end in runs(~left & ~right)), default=0)
    return bool(longest >= SPACE or max((~left).mean(), (~right).mean()) > OPEN)


def without_stems(ink: Ink, stems: Sequence[Stem]) -> Ink:
    """What is left beside them: a stem stays where something is on both its sides."""
    found = ink.copy()
    for stem in stems:
        rows = slice(stem.top, stem.bottom + 1)
        a, b = stem.left, stem.right + 1
        left = ink[rows, max(0, a - 2) : a].any(axis=1) if a else np.zeros(len(ink[rows]), bool)
        right = ink[rows, b : b + 2].any(axis=1)
        found[rows, a:b] &= np.expand_dims(left & right, 1)
    return found
