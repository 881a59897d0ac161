"""What stands on a page instead of notes, or over them: the sign that repeats a bar, the thick
stroke of a long rest, the bracket of an ending. Common practice of engraving, no source.
"""

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.found import (
    SPACE,
    BarLine,
    FoundBar,
    FoundLine,
    Shorthand,
)
from wren_ladder.drumming.page_reading.pixels import Ink

LEAST_PART = 0.05 * SPACE * SPACE  # pixels; a dot has three times as many
DOT = (0.25 * SPACE, 0.75 * SPACE)  # from the smallest to the largest, across and high
ROUND = 0.25 * SPACE  # by which it may be higher than it is wide, less than so much
SIGN_WIDTH, SIGN_HEIGHT = (1.2 * SPACE, 3.6 * SPACE), (1.5 * SPACE, 2.8 * SPACE)
SIGN_OF_TWO = int(2.5 * SPACE)  # on each side of the bar line
LEAST_SLASHES = 2
SLASH_WIDTH, SLASH_HEIGHT = (0.7 * SPACE, 2.6 * SPACE), (1.5 * SPACE, 2.5 * SPACE)
REST_STROKE = (int(0.35 * SPACE), 3 * SPACE)  # high, across: at least
BRACKET = 4 * SPACE  # across: at least
THIN = 5  # pixels of height that the line of a bracket has not
HOOK = int(0.8 * SPACE)


def with_shorthand(
    ink: Ink, bare: Ink, line: FoundLine, bars: Sequence[FoundBar]
) -> tuple[FoundBar, ...]:
    """The same bars with what is said by signs. ``bare`` is the ink without staff lines."""
    starts = _brackets(ink, line)
    parted = [half for bar in bars for half in _parted(bare, line, bar)]
    bars = _with_repeats_of_two(bare, line, parted)
    return tuple(
        replace(
            bar,
            shorthand=bar.shorthand or _shorthand(bare, line, bar),
            ending=any(abs(start - bar.left) < 1.5 * SPACE for start in starts),
        )
        for bar in bars
    )


def _shorthand(bare: Ink, line: FoundLine, bar: FoundBar) -> Shorthand:
    inside = bare[line.top - 2 : line.bottom + 3, bar.ink_left + 3 : bar.right - 3]
    if not inside.size:
        return Shorthand.NONE
    if _is_long_rest(inside):
        return Shorthand.RESTS
    parts = _parts(inside)
    if _is_repeat(parts, len(inside)):
        return Shorthand.REPEAT
    return Shorthand.SLASHES if _are_slashes(inside, parts) else Shorthand.NONE


def _parted(bare: Ink, line: FoundLine, bar: FoundBar) -> list[FoundBar]:
    """Two bars where a sign that repeats two hides the bar line between them: it touches it."""
    inside = bare[line.top - 2 : line.bottom + 3, bar.ink_left + 3 : bar.right - 3]
    parts = _parts(inside) if inside.size else []
    dots = [one for one in parts if _is_dot(one)]
    rest = [one for one in parts if not _is_dot(one)]
    if len(dots) != 2 or len(rest) != 1 or not _slants(dots):
        return [bar]
    left, _, wide, high, _ = rest[0].tolist()
    if high < line.bottom - line.top or wide > 2 * SIGN_OF_TWO:
        return [bar]
    at = bar.ink_left + 3 + left + wide // 2
    first = replace(bar, right=at, after=BarLine.SINGLE, shorthand=Shorthand.REPEAT_2)
    second = FoundBar(at, bar.right, at, after=bar.after, shorthand=Shorthand.REPEAT_2)
    return [first, second]


def _with_repeats_of_two(
    bare: Ink, line: FoundLine, bars: Sequence[FoundBar]
) -> list[FoundBar]:
    """The sign that repeats two bars stands over the bar line between two empty ones."""
    found = list(bars)
    for n, (first, second) in enumerate(pairwise(bars)):
        if first.shorthand or second.shorthand:
            continue
        rows = slice(line.top - 2, line.bottom + 3)
        across = slice(first.right - SIGN_OF_TWO, first.right + SIGN_OF_TWO)
        around = bare[rows, first.ink_left + 3 : second.right - 3].copy()
        sign = bare[rows, across].copy()
        upright = slice(SIGN_OF_TWO - 3, SIGN_OF_TWO + (second.left - first.right) + 4)
        sign[:, upright] = False  # the bar line; a slanting stroke stays beside it
        dots = [one for one in _parts(sign) if _is_dot(one)]
        alone = around.sum() - bare[rows, across].sum() < LEAST_PART
        slanted = sign.sum() - sum(one[4] for one in dots) > SPACE * SPACE
        if alone and slanted and len(dots) == 2 and _slants(dots):
            found[n : n + 2] = (
                replace(one, shorthand=Shorthand.REPEAT_2) for one in (first, second)
            )
    return found


def _are_slashes(inside: Ink, parts: Sequence[np.ndarray]) -> bool:
    """Several slanting strokes alike around the middle line, without stems."""
    if len(parts) < LEAST_SLASHES:
        return False
    for left, top, wide, high, area in parts:
        sized = SLASH_WIDTH[0] < wide < SLASH_WIDTH[1]
        sized = sized and SLASH_HEIGHT[0] < high < SLASH_HEIGHT[1]
        centred = abs(top + high / 2 - len(inside) / 2) < 0.5 * SPACE
        if not (sized and centred) or area > 0.7 * wide * high:
            return False
        picture = inside[top : top + high, left : left + wide]
        upper, lower = picture[: high // 3], picture[-(high // 3) :]
        # It leans to the right, and is a stroke from one corner to the other.
        if np.argwhere(upper)[:, 1].mean() - np.argwhere(lower)[:, 1].mean() < 0.35 * wide:
            return False
    return True


def _parts(inside: Ink) -> list[np.ndarray]:
    """What hangs together: (left, top, wide, high, pixels) each, dust apart."""
    _, _, stats, _ = cv2.connectedComponentsWithStats(inside.astype(np.uint8))
    return [one for one in stats[1:] if one[4] >= LEAST_PART]


def _is_dot(part: np.ndarray) -> bool:
    return all(DOT[0] < part[n] < DOT[1] for n in (2, 3)) and abs(part[2] - part[3]) < ROUND


def _is_long_rest(inside: Ink) -> bool:
    """A thick stroke along the middle line, over most of the bar or a good part of it."""
    middle = len(inside) // 2
    band = inside[middle - SPACE : middle + SPACE].astype(np.uint8)
    thick = cv2.morphologyEx(band, cv2.MORPH_OPEN, np.ones(REST_STROKE, np.uint8))
    rows = np.flatnonzero(thick.any(axis=1))
    return len(rows) > 0 and abs(float(rows.mean()) - SPACE) < 0.4 * SPACE


def _is_repeat(parts: Sequence[np.ndarray], height: int) -> bool:
    """A slanting stroke over the two middle spaces, a dot on each side, and nothing else."""
    if not 3 <= len(parts) <= 5:
        return False
    left, top = min(one[0] for one in parts), min(one[1] for one in parts)
    right = max(one[0] + one[2] for one in parts)
    bottom = max(one[1] + one[3] for one in parts)
    centre = (top + bottom) / 2 - height / 2
    sized = SIGN_WIDTH[0] < right - left < SIGN_WIDTH[1]
    sized = sized and SIGN_HEIGHT[0] < bottom - top < SIGN_HEIGHT[1]
    dots = [one for one in parts if _is_dot(one)]
    return bool(sized and abs(centre) < 0.5 * SPACE and len(dots) == 2 and _slants(dots))


def _slants(dots: Sequence[np.ndarray]) -> bool:
    """The dot on the left stands higher."""
    first, second = sorted(dots, key=lambda one: one[0])
    return second[1] - first[1] > 0.4 * SPACE and second[0] - first[0] > 0.6 * SPACE


def _brackets(ink: Ink, line: FoundLine) -> list[int]:
    """Where a thin line above the staff begins with a hook downwards."""
    above = ink[line.above : line.top - SPACE // 2].astype(np.uint8)
    if len(above) < SPACE:
        return []
    long = cv2.morphologyEx(above, cv2.MORPH_OPEN, np.ones((1, BRACKET), np.uint8))
    high = cv2.morphologyEx(above, cv2.MORPH_OPEN, np.ones((THIN, BRACKET // 2), np.uint8))
    long &= ~cv2.dilate(high, np.ones((5, 5), np.uint8)) & 1
    _, _, stats, _ = cv2.connectedComponentsWithStats(long)
    found = []
    for left, top, _, height, _ in stats[1:]:
        below = above[top + height : top + height + HOOK, max(0, left - 3) : left + 5]
        if len(below) == HOOK and below.any(axis=1).mean() > 0.85:
            found.append(int(left))
    return found
