"""The number of a line's first bar, which pages print at its beginning. Figures are held
against two plain typefaces of the picture library: that is enough to tell a number from those
next to it, and not to read any at all."""

from functools import lru_cache

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.bars.figures import trimmed
from wren_ladder.drumming.page_reading.found import SPACE, FoundLine
from wren_ladder.drumming.page_reading.miscounts import Likes
from wren_ladder.drumming.page_reading.pixels import Ink

TYPEFACES = ("sans", "italic")
SIZE = 60  # points, of the figures that others are held against
ABOVE, OFF = int(3.6 * SPACE), 3  # pixels over the staff: from, to
LEFT, RIGHT = int(3.2 * SPACE), int(2.5 * SPACE)  # of the staff's left end
HIGH = (0.7 * SPACE, 1.8 * SPACE)
WIDEST = 1.2  # times its height
BOX = (20, 30)  # pixels that both are made
NARROW = 0.62  # of its height, at most, a 1 is wide: some have feet, some have not
UPRIGHT = 0.8  # share of its rows that a 1's stem goes through


def printed_number(ink: Ink, line: FoundLine) -> Likes:
    """What stands at the beginning of a line; nothing where no figures do. ``ink`` is the
    page's."""
    rows = slice(max(0, line.top - ABOVE), max(0, line.top - OFF))
    part = ink[rows, max(0, line.left - LEFT) : line.left + RIGHT]
    _, labels, stats, _ = cv2.connectedComponentsWithStats(part.astype(np.uint8), None, 8)
    found = [
        (left, _likes(labels[top : top + high, left : left + wide] == number))
        for number, (left, top, wide, high, _) in enumerate(stats[1:].tolist(), 1)
        if HIGH[0] < high < HIGH[1] and wide < WIDEST * high
    ]
    return tuple(likes for _, likes in sorted(found))


def _likes(part: Ink) -> tuple[float, ...]:
    likes = [max(_likeness(part, one) for one in ones) for ones in _figures()]
    if part.shape[1] <= NARROW * part.shape[0] and _is_one(part):
        likes[1] = 1.0
    return tuple(round(one, 3) for one in likes)


def _is_one(part: Ink) -> bool:
    """One stem, with nothing beside it but a foot and a flag."""
    stem = part.mean(axis=0) > UPRIGHT
    rest = part[:, ~stem]
    middle = slice(len(part) // 3, -max(1, len(part) // 5))
    return bool(stem.any() and not rest[middle].any())


def _likeness(part: Ink, picture: np.ndarray) -> float:
    ratio = part.shape[1] / part.shape[0] * picture.shape[0] / picture.shape[1]
    if not 0.6 < ratio < 1.7:
        return 0.0
    one, two = (
        cv2.GaussianBlur(
            np.pad(cv2.resize(each.astype(np.float32), BOX, interpolation=cv2.INTER_AREA), 2),
            (0, 0),
            1.2,
        )
        for each in (part, picture)
    )
    return float(cv2.matchTemplate(one, two, cv2.TM_CCOEFF_NORMED)[0, 0])


@lru_cache(maxsize=1)
def _figures() -> tuple[tuple[np.ndarray, ...], ...]:
    """0 to 9 in each typeface."""
    faces = [cv2.FontFace(name) for name in TYPEFACES]
    return tuple(tuple(_drawn(str(figure), face) for face in faces) for figure in range(10))


def _drawn(figure: str, face: cv2.FontFace) -> np.ndarray:
    picture = np.zeros((2 * SIZE, 2 * SIZE), np.uint8)
    white, regular = (255, 255, 255), 400
    cv2.putText(
        picture, figure, (SIZE // 2, 3 * SIZE // 2), white, face, SIZE, regular,
        cv2.PUT_TEXT_ALIGN_LEFT,
    )  # fmt: skip
    return trimmed(picture > 127)
