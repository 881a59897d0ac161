"""What stands in a bar beside its notes: rests, accents, circles, crosses, figures of tuplets
and their brackets. Each is a part of the ink that hangs together, held against shapes."""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.bars.heads import y_of
from wren_ladder.drumming.page_reading.bars.notes import Note
from wren_ladder.drumming.page_reading.bars.shapes import Sign, likeness, shapes
from wren_ladder.drumming.page_reading.found import SPACE
from wren_ladder.drumming.page_reading.pixels import Ink

LIKE = 0.6
LIKE_REST = 0.5  # that stands alone
LIKE_UPRIGHT = 0.7  # and could be a note with its stem
RESTS = (Sign.REST_4, Sign.REST_8, Sign.REST_16)
FIGURES = (Sign.THREE, Sign.FIVE, Sign.SIX, Sign.SEVEN)
ACCENTS = (Sign.ACCENT, Sign.STRONG)
HIGHEST_REST, LOWEST_REST = 11, -6  # rows
BLOCK = ((0.9 * SPACE, 2.3 * SPACE), (0.3 * SPACE, 0.75 * SPACE))
MARK = (0.5 * SPACE, 1.6 * SPACE)  # a circle or a cross, across and high
MOST_UPRIGHT = int(2.2 * SPACE)  # pixels of a rest in one column
LEAST = 10  # pixels
LEFT_OVER = 0.35 * SPACE * SPACE  # pixels of ink that nobody reads, at most
BRACKET_LINE = 4  # pixels of height


class Mark(StrEnum):
    """What stands above a note and is no shape of a font."""

    OPEN = "o"
    CLOSED = "+"


@dataclass(frozen=True, slots=True)
class Found:
    """A sign at a place; ``left`` and ``right`` are what a tuplet's bracket spans."""

    kind: str
    x: float
    y: float
    left: float
    right: float


@dataclass(frozen=True, slots=True)
class Signs:
    rests: tuple[Found, ...]
    figures: tuple[Found, ...]
    accents: tuple[Found, ...]
    marks: tuple[Found, ...]
    unread: int  # pixels of ink that nothing was made of


def find_rests(bare: Ink) -> tuple[list[Found], Ink]:
    """The rests that stand alone in a bar's ink without staff lines, and what is left of it."""
    rests, left_ink = [], bare.copy()
    count, labels, stats, _ = cv2.connectedComponentsWithStats(bare.astype(np.uint8), None, 8)
    for number in range(1, count):
        left, top, wide, high, _ = (int(one) for one in stats[number])
        if not _fits(high, (1.2 * SPACE, 3.6 * SPACE)) or wide > 1.7 * SPACE:
            continue
        part = labels[top : top + high, left : left + wide] == number
        least = LIKE_UPRIGHT if _has_stem(part) else LIKE_REST
        kind = _likest(part, _tall(top + high / 2), least)
        if kind in RESTS:
            rests.append(Found(kind, left + wide / 2, top + high / 2, left, left + wide))
            left_ink &= labels != number
    return rests, left_ink


def _has_stem(part: Ink) -> bool:
    """Hardly a rest is upright for so long."""
    upright = np.ones((MOST_UPRIGHT, 1), np.uint8)
    alone = np.pad(part.astype(np.uint8), ((1, 1), (0, 0)))
    opened = cv2.morphologyEx(alone, cv2.MORPH_OPEN, upright, borderValue=0)
    return bool(opened.any())


def find_signs(bare: Ink, notes: Sequence[Note], rests: Sequence[Found]) -> Signs:
    """All signs of a bar's ink without staff lines and without its ``notes``, small ones too,
    beside the ``rests`` that were found."""
    rest = _without_notes(bare, notes)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(rest.astype(np.uint8), None, 8)
    rests, figures, accents, marks = list(rests), [], [], []
    brackets, unread = [], 0
    for number in range(1, count):
        left, top, wide, high, area = (int(one) for one in stats[number])
        if area < LEAST:
            continue
        part = labels[top : top + high, left : left + wide] == number
        x, y = left + wide / 2, top + high / 2
        box = (x, y, left, left + wide)
        kind = _kind(part, y)
        if kind in (Sign.REST_1, Sign.REST_2):
            rests.append(Found(_hanging(y), *box))
        elif kind in RESTS and not _has_stem(part):
            rests.append(Found(kind, *box))
        elif kind in FIGURES:
            figures.append(Found(kind, *box))
        elif kind in ACCENTS:
            accents.append(Found(kind, *box))
        elif kind in (Mark.OPEN, Mark.CLOSED):
            marks.append(Found(kind, *box))
        elif _is_bracket(part):
            brackets.append((left, left + wide, top, top + high))
        elif not _is_of_a_note(box, top, top + high, notes):
            unread += area
    figures = [_spanned(one, brackets) for one in figures]
    return Signs(tuple(rests), tuple(figures), tuple(accents), tuple(marks), unread)


def _without_notes(bare: Ink, notes: Sequence[Note]) -> Ink:
    """Without heads, stems, beams and flags."""
    rest = bare.copy()
    for note in notes:
        for head, ghost in zip(note.heads, note.ghosts or [False] * 9, strict=False):
            aside = int(0.95 * SPACE) if ghost else 3
            half = int(0.75 * SPACE * head.size) if ghost else int(0.62 * SPACE * head.size)
            x0, x1 = int(head.left) - aside, int(head.right) + aside
            y = int(head.y)
            rest[max(0, y - half) : y + half + 1, max(0, x0) : x1 + 1] = False
    seeds = np.zeros(rest.shape, bool)
    for note in notes:
        if note.stem:
            stem = note.stem
            seeds[stem.top : stem.bottom + 1, max(0, stem.left - 1) : stem.right + 2] = True
    # All that hangs on a stem is a beam, a flag or a bracket's foot that touches it.
    _, labels = cv2.connectedComponents((rest | (seeds & bare)).astype(np.uint8), None, 8)
    hanging = np.unique(labels[seeds & bare])
    hanging = hanging[hanging > 0]
    return rest & ~np.isin(labels, hanging)


def _tall(y: float) -> tuple[Sign, ...]:
    """What a tall sign with its middle there may be: rests stand in the staff and near it."""
    return (*RESTS, *FIGURES) if y_of(HIGHEST_REST) < y < y_of(LOWEST_REST) else FIGURES


def _kind(part: Ink, y: float) -> str | None:
    high, wide = part.shape
    if _fits(wide, BLOCK[0]) and _fits(high, BLOCK[1]) and part.mean() > 0.8:
        return Sign.REST_1
    if _fits(high, (1.2 * SPACE, 3.6 * SPACE)) and wide < 1.7 * SPACE:
        kind = _likest(part, _tall(y))
        if kind:
            return kind
    if _fits(wide, (0.8 * SPACE, 2.4 * SPACE)) and _fits(high, (0.4 * SPACE, 1.5 * SPACE)):
        kind = _likest(part, (Sign.ACCENT,))
        if kind:
            return kind
    if _fits(wide, MARK) and _fits(high, MARK) and abs(wide - high) < 0.35 * SPACE:
        mark = _mark(part)
        if mark:
            return mark
    if _fits(wide, (0.5 * SPACE, 1.4 * SPACE)) and _fits(high, (0.6 * SPACE, 1.6 * SPACE)):
        return _likest(part, (Sign.STRONG, *FIGURES))
    return None


def _fits(size: float, between: tuple[float, float]) -> bool:
    return between[0] <= size <= between[1]


def _likest(part: Ink, signs: Sequence[Sign], least: float = LIKE) -> Sign | None:
    """Which shape a part is, laid over in its own size as well as the shapes'."""
    best, found = least, None
    for sign in signs:
        for shape in shapes(sign):
            like = likeness(part, shape.picture)
            if like > best:
                best, found = like, sign
    return found


def _mark(part: Ink) -> str | None:
    """A circle is white in its middle, a cross is white in its corners."""
    high, wide = part.shape
    y, x = high // 2, wide // 2
    third_y, third_x = max(1, high // 4), max(1, wide // 4)
    middle = part[y - 1 : y + 2, x - 1 : x + 2].mean()
    corners = [
        part[rows, columns].mean()
        for rows in (slice(0, third_y), slice(high - third_y, high))
        for columns in (slice(0, third_x), slice(wide - third_x, wide))
    ]
    sides = (part[y, :2].any(), part[y, -2:].any(), part[:2, x].any(), part[-2:, x].any())
    if middle < 0.2 and all(sides) and max(corners) < 0.7:
        return Mark.OPEN
    if middle > 0.8 and all(sides) and max(corners) < 0.15:
        return Mark.CLOSED
    return None


def _hanging(y: float) -> Sign:
    """A block below a line is a whole rest, one on a line a half rest."""
    off = (y - y_of(8)) % SPACE
    return Sign.REST_1 if off < SPACE / 2 else Sign.REST_2


def _is_bracket(part: Ink) -> bool:
    """A thin line with a hook at one end."""
    high, wide = part.shape
    if wide < 0.8 * SPACE or high > 1.3 * SPACE:
        return False
    return bool(np.median(part.sum(axis=0)) <= BRACKET_LINE)


def _spanned(figure: Found, brackets: Sequence[tuple[int, int, int, int]]) -> Found:
    """A figure with as much as the brackets at its sides span."""
    level = [
        one
        for one in brackets
        if one[2] - SPACE < figure.y < one[3] + SPACE
    ]  # fmt: skip
    left = [one for one in level if 0 <= figure.left - one[1] < SPACE]
    right = [one for one in level if 0 <= one[0] - figure.right < SPACE]
    if not left or not right:
        return figure
    return Found(figure.kind, figure.x, figure.y, left[0][0], right[0][1])


def _is_of_a_note(box: tuple, top: int, bottom: int, notes: Sequence[Note]) -> bool:
    """Is it what is left of a note, its dot or its short line beyond the staff?"""
    _, y, left, right = box
    return any(
        left < head.right + 1.7 * SPACE
        and right > head.left - 0.5 * SPACE
        and abs(y - head.y) < 0.9 * SPACE
        and (bottom - top) < SPACE
        for note in notes
        for head in note.heads
    )
