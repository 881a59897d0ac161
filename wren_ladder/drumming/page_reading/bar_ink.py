"""The ink that is a bar's music: without staff lines, words and what is other bars'."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.dynamics import find_dynamics
from wren_ladder.drumming.page_reading.found import MARGIN, ROOM, SPACE, FoundBar, FoundLine
from wren_ladder.drumming.page_reading.lines import without_lines
from wren_ladder.drumming.page_reading.pixels import Ink

LEAST_SPECK = 6  # pixels; less is dust
TOUCHES = 1.2 * SPACE  # of the staff: what is no further off is music
# Off the music: accents, circles, crosses, numbers of tuplets.
REACHES = tuple(share * SPACE for share in (0.3, 0.5, 0.8, 0.8, 1.1, 1.1, 1.6, 1.6))
ASIDE = 0.3 * SPACE  # and no further to the side
MOST_HIGH = 1.8 * SPACE  # of such a mark
LETTER_GAP = 0.6 * SPACE
LEAST_WORD = 2  # letters
LONG_WORD = 3
ARM = 4  # pixels of the line of a bracket
MOSTLY = 0.6  # of its parts: figures with brackets have fewer
LEAST_LETTER = 0.5 * SPACE
MOST_LETTER = 1.15  # of its height a letter is wide
NEARER = 2 * SPACE  # by which another staff may be nearer, a mark being over high notes
NOBODY = -1

Boxes = np.ndarray  # parts of ink that hang together: left, top, right, bottom


@dataclass(frozen=True, slots=True, eq=False)
class BarInk:
    """The ink of one bar's music: ``lined`` with its staff lines, ``bare`` without. As high as
    from ``ROOM`` above the staff to as much below it. The ``dynamics`` that stand at it are no
    part of it."""

    lined: Ink
    bare: Ink
    dynamics: tuple[tuple[str, float], ...] = ()  # (text, x)


def inks_of_page(ink: Ink, lines: Sequence[FoundLine]) -> list[list[BarInk]]:
    """The music of each bar of each line."""
    bare = ink
    for line in lines:
        bare = without_lines(bare, line)
    _, labels, stats, _ = cv2.connectedComponentsWithStats(bare.astype(np.uint8))
    boxes = np.stack([stats[:, 0], stats[:, 1], *(stats[:, :2] + stats[:, 2:4]).T], axis=1)
    dynamics = find_dynamics(boxes, labels, lines)
    real = stats[:, 4] >= LEAST_SPECK
    real[[part for one in dynamics for part in one.parts]] = False
    owners = _owners(boxes, real, lines, labels)
    owned = owners[labels]
    found = []
    for number, line in enumerate(lines):
        rows = slice(max(0, line.top - ROOM), line.bottom + ROOM)
        music = owned[rows] == number
        lined = ink[rows] & ~(bare[rows] & ~music)
        missing = (max(0, ROOM - line.top), max(0, line.bottom + ROOM - len(ink)))
        lined, music = (np.pad(one, (missing, (0, 0))) for one in (lined, music))
        own = [(one.text, one.x) for one in dynamics if one.line == number]
        found.append(
            [
                BarInk(_of_bar(lined, bar), _of_bar(music, bar), _under(bar, own))
                for bar in line.bars
            ]
        )
    return found


def _under(
    bar: FoundBar, dynamics: Sequence[tuple[str, float]]
) -> tuple[tuple[str, float], ...]:
    return tuple((text, x - bar.music_left) for text, x in dynamics if bar.left < x < bar.right)


def _of_bar(ink: Ink, bar: FoundBar) -> Ink:
    return ink[:, bar.music_left : bar.right - MARGIN + 1]


def _owners(
    boxes: Boxes, real: np.ndarray, lines: Sequence[FoundLine], labels: np.ndarray
) -> np.ndarray:
    """Whose each part is: the number of its line, or nobody's."""
    owners = np.full(len(boxes), NOBODY)
    real = real.copy()
    real[0] = False  # the paper
    real[[part for row in _words_beside(boxes, real, lines, labels) for part in row]] = False
    for number, line in enumerate(lines):
        touching = (boxes[:, 3] > line.top - TOUCHES) & (boxes[:, 1] < line.bottom + TOUCHES)
        inside = (boxes[:, 2] > line.left) & (boxes[:, 0] < line.right + SPACE)
        owners[real & touching & inside] = number
    free = np.flatnonzero(real & (owners == NOBODY))
    rows = [row for row in _rows(boxes, free) if not _is_word(boxes, row, labels)]
    units = [(row, _around(boxes[row])) for row in rows]
    units = [(row, box) for row, box in units if box[3] - box[1] <= MOST_HIGH]
    # The nearest first: an accent over its beam, then the number over the accent.
    for reach in REACHES:
        taken = np.flatnonzero(owners != NOBODY)
        left = []
        for row, box in units:
            near = _nearest(box, boxes[taken], reach)
            if near is None:
                left.append((row, box))
            elif _can_be_of(box, owners[taken[near]], lines):
                owners[row] = owners[taken[near]]
        units = left
    return owners


def _words_beside(
    boxes: Boxes, real: np.ndarray, lines: Sequence[FoundLine], labels: np.ndarray
) -> list[list[int]]:
    """Words so close to a staff that they could be its notes: they are outside of it, and
    longer than what stands over notes."""
    outside = np.ones(len(boxes), bool)
    for line in lines:
        outside &= (boxes[:, 3] < line.top) | (boxes[:, 1] > line.bottom)
    rows = _rows(boxes, np.flatnonzero(real & outside))
    return [row for row in rows if len(row) >= LONG_WORD and _is_word(boxes, row, labels)]


def _around(boxes: Boxes) -> np.ndarray:
    """The box around some."""
    return np.concatenate([boxes[:, :2].min(axis=0), boxes[:, 2:].max(axis=0)])


def _can_be_of(box: np.ndarray, owner: int, lines: Sequence[FoundLine]) -> bool:
    """Is no other staff much nearer?"""
    off = [max(line.top - box[3], box[1] - line.bottom) for line in lines]
    return off[owner] < min(off) + NEARER


def _nearest(box: np.ndarray, others: Boxes, reach: float) -> int | None:
    """Which of the others stands right above or below a part."""
    aside = np.maximum(box[0], others[:, 0]) - np.minimum(box[2], others[:, 2])
    apart = np.maximum(box[1], others[:, 1]) - np.minimum(box[3], others[:, 3])
    apart = np.where(aside < ASIDE, apart, np.inf)
    return int(apart.argmin()) if len(apart) and apart.min() < reach else None


def _rows(boxes: Boxes, parts: Iterable[int]) -> list[list[int]]:
    """What stands close beside each other at one height: letters, or a bracket and its 3."""
    found = []
    rest = sorted(parts, key=lambda part: boxes[part, 0])
    while rest:
        row = [rest.pop(0)]
        for part in list(rest):
            last, box = boxes[row[-1]], boxes[part]
            if box[0] - last[2] > 3 * LETTER_GAP:
                break
            level = min(box[3], last[3]) - max(box[1], last[1])
            lower = min(box[3] - box[1], last[3] - last[1])
            if box[0] - last[2] < LETTER_GAP and level > 0.4 * lower:
                row.append(part)
                rest.remove(part)
        found.append(row)
    return found


def _is_word(boxes: Boxes, row: Sequence[int], labels: np.ndarray) -> bool:
    wide, high = (boxes[row, n + 2] - boxes[row, n] for n in (0, 1))
    letters = (wide < MOST_LETTER * high) & (high > LEAST_LETTER)
    if letters.sum() < LEAST_WORD:
        return False
    arms = [
        n for n, part in enumerate(row) if letters[n] and _is_arm(boxes[part], labels, part)
    ]
    letters[arms] = False
    return letters.sum() >= max(LEAST_WORD, MOSTLY * len(row))


def _is_arm(box: np.ndarray, labels: np.ndarray, part: int) -> bool:
    """Is it an arm of a bracket: a thin line along one edge of its box, a foot at an end?"""
    left, top, right, bottom = box
    ink = labels[top:bottom, left:right] == part
    if min(ink.shape) <= 2 * ARM:
        return False
    for rows in (slice(ARM, None), slice(None, -ARM)):
        for columns in (slice(ARM, None), slice(None, -ARM)):
            if not ink[rows, columns].any():
                return True
    return False
