"""Bars that look the same, and what is different in those that nearly do.

The same music is set wider in one line than in another: white and beams stretch, heads do not.
Two bars are laid over each other column by column with such stretches free, and what ink of
either has none of the other near it is what differs.

Method: dynamic time warping (H. Sakoe and S. Chiba, "Dynamic programming algorithm optimization
for spoken word recognition", IEEE Trans. ASSP 26, 1978), over columns of ink.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.found import ROOM, SPACE, Likeness, Place
from wren_ladder.drumming.page_reading.pixels import Ink

STEP = 2  # pixels of a column
ROWS = 4  # pixels of a column's cells
SAME_COLUMN = 0.9  # cells of ink by which neighbours may differ and be one stretch
LONGEST_STRETCH = 2  # columns that are left of one
TOLERANCE = 3  # pixels that ink may lie off
BEAM_TOLERANCE = 6  # pixels by which a beam may slant otherwise
LEAST_DIFFERENCE = 0.045 * SPACE * SPACE  # pixels that hang together: half a dot
MOST_NEAR = 6  # places in which bars that are nearly the same differ
MOST_NEAR_INK = 0.16  # of a bar's ink
STEM = 2 * SPACE
MOST_OFF = 0.18  # of the ink at other heights; equal bars of a photograph have 0.12
MOST_STEMS_OFF = 2  # two close together are seen as one
# How many kinds a bar is laid over, and how many where there are bars for a whole book.
LIKELIEST, MANY_BARS, LIKELIEST_OF_MANY = 10, 200, 3
THIN = 6  # pixels of height that an arm of a bracket has not
LINE_LEFT = 6  # pixels, of what a staff line leaves


@dataclass(frozen=True, slots=True)
class _Columns:
    """A bar as columns, its stretches shortened: ``cells`` of each, and where it stands."""

    ink: Ink
    cells: np.ndarray  # columns x cells, share of ink
    at: np.ndarray  # of each kept column, its number in the whole bar
    stems: int
    profile: np.ndarray  # quarters of the kept columns x ink at each height


def likenesses(inks: Sequence[Ink]) -> list[Likeness | None]:
    """For each bar the first one that it equals, else the one that it is nearest to; None
    where it is like none before it."""
    bars = [_columns(ink) for ink in inks]
    most = LIKELIEST if len(bars) <= MANY_BARS else LIKELIEST_OF_MANY
    found: list[Likeness | None] = []
    kinds: list[int] = []  # the first bar of each kind
    for index, bar in enumerate(bars):
        likeness = _like(bar, _likeliest(bar, [(kind, bars[kind]) for kind in kinds], most))
        if likeness is None or not likeness.equal:
            kinds.append(index)
        found.append(likeness)
    return found


def _likeliest(
    bar: _Columns, kinds: Sequence[tuple[int, _Columns]], most: int
) -> list[tuple[int, _Columns]]:
    """The kinds that are worth laying over a bar, the likeliest first: as many stems, and as
    much ink at each height. Staves drawn by hand may be of other heights."""
    near = [
        (*_profile_off(bar, kind), index, kind)
        for index, kind in kinds
        if abs(kind.stems - bar.stems) <= MOST_STEMS_OFF
        and kind.ink.shape[0] == bar.ink.shape[0]
    ]
    near = sorted((one for one in near if one[0] < MOST_OFF), key=lambda one: one[1:3])
    return [(index, kind) for *_, index, kind in near[:most]]


def _profile_off(bar: _Columns, kind: _Columns) -> tuple[float, float]:
    """The share of both bars' ink that stands at other heights, over all of them and quarter by
    quarter."""
    both = float(bar.profile.sum() + kind.profile.sum()) or 1.0
    off = kind.profile - bar.profile
    return float(np.abs(off.sum(axis=0)).sum()) / both, float(np.abs(off).sum()) / both


def _profile(kept: np.ndarray) -> np.ndarray:
    return np.stack([part.sum(axis=0) for part in np.array_split(kept, 4)])


def _like(bar: _Columns, kinds: Sequence[tuple[int, _Columns]]) -> Likeness | None:
    nearest, least = None, MOST_NEAR_INK
    for index, kind in kinds:
        likeness, share = _compared(index, bar, kind)
        if likeness.equal:
            return likeness
        if share < least and len(likeness.here) + len(likeness.there) <= MOST_NEAR:
            nearest, least = likeness, share
    return nearest


def _columns(ink: Ink) -> _Columns:
    width = ink.shape[1] // STEP * STEP
    high = ink.shape[0] // ROWS
    cut = ink[: high * ROWS, :width].reshape(high, ROWS, width // STEP, STEP)
    cells = cut.mean(axis=(1, 3)).T.astype(np.float32)
    # Ink a cell further up or down is nearly the same.
    cells = (cells + 0.5 * (np.roll(cells, 1, axis=1) + np.roll(cells, -1, axis=1))) / 2
    kept: list[int] = []
    stretch = 0
    for n, column in enumerate(cells):
        same = kept and np.abs(column - cells[kept[-1]]).sum() < SAME_COLUMN
        stretch = stretch + 1 if same else 0
        if stretch < LONGEST_STRETCH:
            kept.append(n)
    at = np.array(kept, int)
    return _Columns(ink, cells[at], at, _stems(ink), _profile(cells[at]))


def _stems(ink: Ink) -> int:
    upright = cv2.morphologyEx(
        ink.astype(np.uint8), cv2.MORPH_OPEN, np.ones((int(STEM), 1), np.uint8)
    )
    there = np.asarray(upright.any(axis=0)).astype(np.uint8)
    columns = cv2.dilate(there[None], np.ones((1, 3)))[0]
    return int((np.diff(np.pad(columns, 1).astype(np.int8)) == 1).sum())


def _compared(index: int, bar: _Columns, kind: _Columns) -> tuple[Likeness, float]:
    """How two bars are alike, and how much of their ink differs."""
    if not len(bar.at) or not len(kind.at):
        empty = not bar.ink.any() and not kind.ink.any()
        whole = (Place(0, 0, bar.ink.shape[1], bar.ink.shape[0]),)
        return Likeness(index, () if empty else whole), 0.0 if empty else 1.0
    pairs = _path(np.abs(bar.cells[:, None] - kind.cells[None]).sum(axis=2))
    here = _left_over(bar, kind, pairs)
    there = _left_over(kind, bar, [(b, a) for a, b in pairs])
    share = (here.sum() + there.sum()) / max(1, bar.ink.sum() + kind.ink.sum())
    return Likeness(index, _places(here), _places(there)), float(share)


def _path(cost: np.ndarray) -> list[tuple[int, int]]:
    """Pairs of columns, from the first two to the last two, of least cost together."""
    rows, columns = cost.shape
    best = np.full((rows + 1, columns + 1), np.inf, np.float32)
    best[0, 0] = 0
    for diagonal in range(rows + columns - 1):
        i = np.arange(max(0, diagonal - columns + 1), min(rows - 1, diagonal) + 1)
        j = diagonal - i
        before = np.minimum(best[i, j], np.minimum(best[i, j + 1], best[i + 1, j]))
        best[i + 1, j + 1] = cost[i, j] + before
    i, j, pairs = rows, columns, []
    while i and j:
        pairs.append((i - 1, j - 1))
        steps = ((i - 1, j - 1), (i - 1, j), (i, j - 1))
        i, j = min(steps, key=lambda step: best[step])
    return pairs[::-1]


def _left_over(bar: _Columns, other: _Columns, pairs: Sequence[tuple[int, int]]) -> Ink:
    """Ink of the bar that the other has nowhere near, laid over it."""
    x = np.arange(bar.ink.shape[1])
    # Between two kept columns a stretch goes on: the one before it stands for it.
    kept = np.searchsorted(bar.at, x // STEP, side="right").clip(1) - 1
    laid = np.zeros_like(bar.ink)
    for partner in _partners(pairs, len(bar.at)):
        at = other.at[partner[kept]] * STEP + x % STEP
        laid |= other.ink[:, at.clip(0, other.ink.shape[1] - 1)]
    around = np.ones((2 * TOLERANCE + 1, 2 * TOLERANCE + 3), np.uint8)
    near = cv2.dilate(laid.astype(np.uint8), around).astype(bool)
    slanting = np.ones((2 * BEAM_TOLERANCE + 1, 2 * SPACE + 1), np.uint8)
    level = _level(bar.ink) & cv2.dilate(_level(laid).astype(np.uint8), slanting).astype(bool)
    return bar.ink & ~near & ~level


def _partners(pairs: Sequence[tuple[int, int]], count: int) -> list[np.ndarray]:
    """The first, a middle and the last column of the other bar on each of ``count``."""
    mine, its = np.array(pairs).T
    first = np.searchsorted(mine, np.arange(count), side="left")
    last = np.searchsorted(mine, np.arange(count), side="right") - 1
    return [its[first], its[(first + last) // 2], its[last]]


def _level(ink: Ink) -> Ink:
    """What is long and thin across: beams, the arms of brackets."""
    ink = ink.astype(np.uint8)
    arms = cv2.morphologyEx(ink, cv2.MORPH_OPEN, np.ones((1, SPACE // 2), np.uint8))
    high = cv2.morphologyEx(arms, cv2.MORPH_OPEN, np.ones((THIN, 1), np.uint8))
    beams = cv2.morphologyEx(ink, cv2.MORPH_OPEN, np.ones((1, int(1.2 * SPACE)), np.uint8))
    return ((arms & ~high) | beams).astype(bool)


def _places(left_over: Ink) -> tuple[Place, ...]:
    joined = cv2.dilate(left_over.astype(np.uint8), np.ones((3, 3), np.uint8))
    count, labels, stats, _ = cv2.connectedComponentsWithStats(joined)
    real = np.bincount(labels[left_over], minlength=count)
    return tuple(
        Place(int(x), int(y), int(x + w), int(y + h))
        for n, (x, y, w, h, _) in enumerate(stats)
        if n and real[n] >= LEAST_DIFFERENCE and not _is_of_a_line(int(y), int(h))
    )


def _is_of_a_line(top: int, height: int) -> bool:
    """Something that a staff line left when it was taken away?"""
    middle = top + height / 2 - ROOM
    off = abs(middle - SPACE * round(middle / SPACE))
    return height <= LINE_LEFT and off < 4 and -4 < middle < 4 * SPACE + 4
