"""What stands on a page instead of notes, or over them: the sign that repeats a bar, the thick
stroke of a long rest, the bracket of an ending. Common practice of engraving, no source.
"""

from collections.abc import Sequence
from dataclasses import replace

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.found import SPACE, FoundBar, FoundLine, Shorthand
from wren_ladder.drumming.page_reading.pixels import Ink

LEAST_PART = 0.05 * SPACE * SPACE  # pixels; a dot has three times as many
DOT = (0.25 * SPACE, 0.75 * SPACE)  # from the smallest to the largest, across and high
SIGN_WIDTH, SIGN_HEIGHT = (1.2 * SPACE, 3.6 * SPACE), (1.5 * SPACE, 2.8 * SPACE)
REST_STROKE = (int(0.35 * SPACE), 3 * SPACE)  # high, across: at least
BRACKET = 4 * SPACE  # across: at least
THIN = 5  # pixels of height that the line of a bracket has not
HOOK = int(0.8 * SPACE)


def with_shorthand(
    ink: Ink, bare: Ink, line: FoundLine, bars: Sequence[FoundBar]
) -> tuple[FoundBar, ...]:
    """The same bars with what is said by signs. ``bare`` is the ink without staff lines."""
    starts = _brackets(ink, line)
    return tuple(
        replace(
            bar,
            shorthand=_shorthand(bare, line, bar),
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
    return Shorthand.REPEAT if _is_repeat(inside) else Shorthand.NONE


def _is_long_rest(inside: Ink) -> bool:
    """A thick stroke along the middle line, over most of the bar or a good part of it."""
    middle = len(inside) // 2
    band = inside[middle - SPACE : middle + SPACE].astype(np.uint8)
    thick = cv2.morphologyEx(band, cv2.MORPH_OPEN, np.ones(REST_STROKE, np.uint8))
    rows = np.flatnonzero(thick.any(axis=1))
    return len(rows) > 0 and abs(float(rows.mean()) - SPACE) < 0.4 * SPACE


def _is_repeat(inside: Ink) -> bool:
    """A slanting stroke over the two middle spaces, a dot on each side, and nothing else."""
    _, _, stats, _ = cv2.connectedComponentsWithStats(inside.astype(np.uint8))
    parts = [one for one in stats[1:] if one[4] >= LEAST_PART]
    if not 3 <= len(parts) <= 5:
        return False
    left, top = min(one[0] for one in parts), min(one[1] for one in parts)
    right = max(one[0] + one[2] for one in parts)
    bottom = max(one[1] + one[3] for one in parts)
    centre = (top + bottom) / 2 - len(inside) / 2
    sized = SIGN_WIDTH[0] < right - left < SIGN_WIDTH[1]
    sized = sized and SIGN_HEIGHT[0] < bottom - top < SIGN_HEIGHT[1]
    dots = [one for one in parts if all(DOT[0] < one[n] < DOT[1] for n in (2, 3))]
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
