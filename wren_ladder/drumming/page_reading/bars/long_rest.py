"""The number of bars that a long rest lasts: the figures over its thick stroke."""

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.bars.shapes import FIGURES, likeness, shapes
from wren_ladder.drumming.page_reading.found import SPACE, FoundBar, FoundLine
from wren_ladder.drumming.page_reading.pixels import Ink

FAR = 4.5 * SPACE  # above the staff, at most
HIGH = (1.1 * SPACE, 3.9 * SPACE)
ONE = 0.95  # of its height a figure is wide, at most: wider are two that touch
LEAST = 0.55  # likeness


def bars_of_rest(ink: Ink, line: FoundLine, bar: FoundBar) -> int | None:
    """What stands over a long rest; None where it is not read surely. ``ink`` is the page's."""
    top = max(0, line.top - int(FAR))
    over = ink[top : line.top - 2, bar.left + 4 : bar.right - 3]
    _, labels, stats, _ = cv2.connectedComponentsWithStats(over.astype(np.uint8), None, 8)
    found = []
    for number, (left, y, wide, high, _) in enumerate(stats[1:].tolist(), 1):
        if not HIGH[0] < high < HIGH[1]:
            continue
        for part in _parted(labels[y : y + high, left : left + wide] == number):
            figure = _figure(part)
            if figure is None:
                return None
            found.append((left, figure))
            left += part.shape[1]
    said = "".join(str(figure) for _, figure in sorted(found))
    return int(said) if 1 <= len(said) <= 2 and int(said) > 1 else None


def _parted(part: Ink) -> list[Ink]:
    """One figure, or two that touch: parted where least ink is between them."""
    high, wide = part.shape
    if wide <= ONE * high:
        return [part]
    columns = part.sum(axis=0)[wide // 4 : -(wide // 4)]
    at = wide // 4 + int(columns.argmin())
    return [_trimmed(part[:, :at]), _trimmed(part[:, at:])]


def _trimmed(part: Ink) -> Ink:
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
