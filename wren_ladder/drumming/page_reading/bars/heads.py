"""Note heads of one bar: by their shapes, on the lines and spaces of the staff and beyond."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.bars.shapes import Sign, shapes
from wren_ladder.drumming.page_reading.found import ROOM, SPACE
from wren_ladder.drumming.page_reading.pixels import Ink

HEADS = (
    Sign.BLACK, Sign.HALF, Sign.WHOLE, Sign.CROSS, Sign.CIRCLED, Sign.DIAMOND,
    Sign.OPEN_DIAMOND, Sign.SLASHED, Sign.SLASH, Sign.TRIANGLE,
)  # fmt: skip
ROWS = range(-4, 15)  # lines and spaces counted up from the lowest line
# Slashes are as high as two spaces; what has triangles stands high on the staff.
ROWS_OF = {Sign.SLASH: (3, 4, 5), Sign.TRIANGLE: range(6, 15)}
LINES = range(0, 9, 2)
STRAYS = 3  # pixels that a head may stand off its row
LIKE = 0.52  # where a stem must touch it as well
FULL = 1.0  # the size of a head
# What is taken only where it is so much likelier than others.
RATHER = {
    Sign.CROSS: 0.04, Sign.WHOLE: 0.05, Sign.DIAMOND: 0.1, Sign.OPEN_DIAMOND: 0.1,
    Sign.SLASHED: 0.12, Sign.TRIANGLE: 0.12,
}  # fmt: skip
LEAST_TRIANGLE = 0.66  # likeness: ovals of a small print are nearly as like
LINE = 2  # pixels of a staff line
COARSE = 2  # pixels that are one, where shapes are held against the page
LEAST_INK = 0.55  # of a shape's, that is there without the staff lines


@dataclass(frozen=True, slots=True)
class Head:
    """``x`` and ``y`` of its middle in pixels of the bar's ink; how like it is from 0 to 1."""

    row: int
    sign: Sign
    x: float
    y: float
    wide: float
    like: float
    size: float = FULL
    lean: float = 0.0  # how much liker to a diamond than to an oval

    @property
    def left(self) -> float:
        return self.x - self.wide / 2

    @property
    def half(self) -> float:
        """From its middle to its upper end, with what a blur adds."""
        return (1.2 if self.sign is Sign.SLASH else 0.7) * SPACE

    @property
    def right(self) -> float:
        return self.x + self.wide / 2


def y_of(row: int) -> int:
    """Where a row is in a bar's ink."""
    return ROOM + 4 * SPACE - row * SPACE // 2


def find_heads(
    inked: Ink, bare: Ink, signs: Sequence[Sign] = HEADS, size: float = FULL
) -> list[Head]:
    """What may be a head in a bar's ink with its staff lines and without (``bare``), stems
    being taken away from both."""
    picture = _coarse(np.pad(inked.astype(np.float32), ((0, 0), (SPACE, SPACE))))
    found = []
    for row in ROWS:
        for sign in signs:
            if row not in ROWS_OF.get(sign, ROWS):
                continue
            for lined in _lines_about(row, sign):
                for pattern, full in _patterns(sign, lined, size):
                    for head in _matches(picture, bare, pattern, full, row, sign):
                        found.append(replace(head, size=size))
    return found


def _coarse(picture: np.ndarray) -> np.ndarray:
    high, wide = (side // COARSE for side in picture.shape)
    return cv2.resize(picture, (wide, high), interpolation=cv2.INTER_AREA)


def _lines_about(row: int, sign: Sign) -> tuple[tuple[int, ...], ...]:
    """At which distances in rows a staff line may run through a head of this row."""
    if sign is Sign.SLASH:
        return ((-2, 0, 2) if row % 2 == 0 else (-1, 1),)
    inside = tuple(line - row for line in LINES if abs(line - row) <= 1)
    if row in range(-1, 10):
        return (inside,)
    return ((), (0,)) if row % 2 == 0 else ((), (-1 if row > 8 else 1,))


@lru_cache(maxsize=512)
def _patterns(
    sign: Sign, lined: tuple[int, ...], size: float
) -> list[tuple[np.ndarray, float]]:
    """A head of each style as it stands on a page, with lines at these rows off its middle; and
    how many pixels of ink its own are."""
    found = []
    for shape in shapes(sign, size):
        high, wide = shape.picture.shape
        half = max(int(SPACE * 0.6 * size), (high + 1) // 2 + 1) // COARSE * COARSE
        picture = np.zeros((2 * half + COARSE, (wide + 5) // COARSE * COARSE), np.float32)
        for line in lined:
            y = half - line * SPACE // 2
            if 0 <= y < len(picture):
                picture[max(0, y - LINE // 2) : y - LINE // 2 + LINE] = 1
        top = half - round(shape.origin[1])
        part = picture[max(0, top) : top + high, 2 : 2 + wide]
        np.maximum(part, shape.picture[: len(part), : part.shape[1]], out=part)
        found.append((_coarse(picture), float(shape.picture.sum())))
    return found


def _matches(
    picture: np.ndarray, bare: Ink, pattern: np.ndarray, full: float, row: int, sign: Sign
) -> list[Head]:
    half = len(pattern) // 2
    middle = y_of(row) // COARSE
    top = max(0, middle - half - STRAYS // COARSE)
    strip = picture[top : middle + half + STRAYS // COARSE + 1]
    if len(strip) < len(pattern) or strip.shape[1] < pattern.shape[1] or not strip.any():
        return []
    like = cv2.matchTemplate(strip, pattern, cv2.TM_CCOEFF_NORMED)
    like[~np.isfinite(like)] = 0
    best = like.max(axis=0)
    tops = (best >= LIKE) & (best >= cv2.dilate(best[None], np.ones((1, 5)))[0])
    wide, found = pattern.shape[1] * COARSE, []
    for x in np.flatnonzero(tops):
        middle_x = int(x) * COARSE + wide / 2 - SPACE
        y = (top + int(like[:, x].argmax()) + half) * COARSE
        left = max(0, int(middle_x - wide / 2))
        if sign is Sign.TRIANGLE and best[x] < LEAST_TRIANGLE:
            continue
        ink = bare[max(0, y - SPACE // 2) : y + SPACE // 2, left : int(middle_x + wide / 2) + 1]
        if ink.sum() >= LEAST_INK * full and not (sign is Sign.CROSS and _is_full(ink)):
            found.append(Head(row, sign, middle_x, y, wide - 4, float(best[x])))
    return found


def _is_full(ink: Ink) -> bool:
    """Is it dark on all sides of its middle, where a cross is white?"""
    y, x = ink.shape[0] // 2, ink.shape[1] // 2
    sides = (
        ink[y - 1 : y + 2, x - 7 : x - 4],
        ink[y - 1 : y + 2, x + 4 : x + 7],
        ink[y - 5 : y - 2, x - 1 : x + 2],
        ink[y + 3 : y + 6, x - 1 : x + 2],
    )
    return bool(all(side.size and side.mean() > 0.7 for side in sides))


def each_once(heads: Sequence[Head]) -> list[Head]:
    """Each place once, the likest."""
    found: list[Head] = []
    for head in sorted(heads, key=lambda head: RATHER.get(head.sign, 0) - head.like):
        head = _leaning(head, heads) if head.sign in (Sign.BLACK, Sign.DIAMOND) else head
        apart = (
            abs(head.x - one.x) > 0.7 * SPACE or abs(head.row - one.row) >= 2 for one in found
        )
        if all(apart):
            found.append(head)
    return sorted(found, key=lambda head: head.x)


def _leaning(head: Head, heads: Sequence[Head]) -> Head:
    """A filled head as what it is liker to: ovals and diamonds are not far from each other."""
    here = [one for one in heads if one.row == head.row and abs(one.x - head.x) < SPACE / 2]
    oval, diamond = (
        max((one.like for one in here if one.sign is sign and one.size == FULL), default=LIKE)
        for sign in (Sign.BLACK, Sign.DIAMOND)
    )
    return replace(head, lean=diamond - oval)
