"""Upright figures, as they stand in time signatures and over long rests."""

from collections.abc import Sequence

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.bars.shapes import FIGURES, likeness, shapes
from wren_ladder.drumming.page_reading.pixels import Ink

ONE = 0.95  # of its height a figure is wide, at most: wider are two that touch
LEAST = 0.55  # likeness


def read_number(ink: Ink, least: float, most: float) -> int | None:
    """The number of one or two figures in some ink, each so many pixels high; None where one of
    them is not read surely."""
    _, labels, stats, _ = cv2.connectedComponentsWithStats(ink.astype(np.uint8), None, 8)
    parts = [
        (left, labels[y : y + high, left : left + wide] == number)
        for number, (left, y, wide, high, _) in enumerate(stats[1:].tolist(), 1)
        if least < high < most
    ]
    return number_of(parts)


def number_of(parts: Sequence[tuple[int, Ink]]) -> int | None:
    """The number that these (left, ink) are, one figure each or two that touch."""
    found = []
    for left, whole in parts:
        for part in _parted(whole):
            figure = _figure(part)
            if figure is None:
                return None
            found.append((left, figure))
            left += part.shape[1]
    said = "".join(str(figure) for _, figure in sorted(found))
    return int(said) if 1 <= len(said) <= 2 else None


def _parted(part: Ink) -> list[Ink]:
    """One figure, or two that touch: parted where least ink is between them."""
    high, wide = part.shape
    if wide <= ONE * high:
        return [part]
    columns = part.sum(axis=0)[wide // 4 : -(wide // 4)]
    at = wide // 4 + int(columns.argmin())
    return [trimmed(part[:, :at]), trimmed(part[:, at:])]


def trimmed(part: Ink) -> Ink:
    """Without what is white around it."""
    rows, columns = np.flatnonzero(part.any(axis=1)), np.flatnonzero(part.any(axis=0))
    if not len(rows):
        return part
    return part[rows[0] : rows[-1] + 1, columns[0] : columns[-1] + 1]


def _figure(part: Ink) -> int | None:
    likes = [
        (max(likeness(part, shape.picture) for shape in shapes(sign)), figure)
        for figure, sign in enumerate(FIGURES)
    ]
    like, figure = max(likes)
    return figure if like > LEAST else None
