"""A page made straight: its sheet from the photograph, its turn, and its staff lines level.

Staff lines are what a page of music is ruled by: they are traced strip by strip, and the
picture is bent so that all of them are level and equally far apart, which takes away what is
left of perspective, a fold and a curled edge.

Methods: the staff space from the commonest sum of a black run and the white run below it
(I. Fujinaga, "Staff detection and removal", 2004); the turn by the sharpest row profile.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import pairwise

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.found import SPACE
from wren_ladder.drumming.page_reading.light import faint_ink_of, flatten, ink_of
from wren_ladder.drumming.page_reading.pixels import Gray, Ink

LEAST_SPACE, MOST_SPACE = 5, 90  # pixels, of what comes in
MOST_TURN = 6.0  # degrees
TURN_WIDTH = 1000  # pixels across at which the turn is sought
LEAST_SHEET, MOST_SHEET = 0.3, 0.97  # of the picture
MOST_SHEAR = 0.3  # cosine of a corner's angle
STRIP = 3 * SPACE  # pixels across in which a staff's lines are sought at once
HOP = STRIP // 2
LEAST_STAFF = 14 * SPACE  # shorter is no staff
LEAST_SCORE = 0.5  # share of a strip that lines cover
MOST_GAP = 9  # strips through which a staff can be lost
FURTHEST_STEP = 0.3 * SPACE  # of a staff from one strip to the next, off its way
STEEPEST = 0.06  # of a staff, the page being turned upright
BLANK = 235  # what lies beyond the picture's edge

Chain = list[tuple[int, float, float]]  # a staff as it goes on: (strip, y, space)
Corners = Sequence[tuple[float, float]]  # of the sheet, clockwise from its top left


@dataclass(frozen=True, slots=True)
class Staff:
    """One staff as it was traced: at each of ``xs`` its middle line's y and its space."""

    xs: np.ndarray
    ys: np.ndarray
    spaces: np.ndarray


@dataclass(frozen=True, slots=True)
class Straight:
    """A page made straight, and the y of each staff's middle line."""

    picture: Gray = field(repr=False)
    middles: tuple[int, ...]


def sheet_corners(gray: Gray) -> Corners | None:
    """The sheet in a photograph, where its edges are plain to see; None where they are not."""
    height, width = gray.shape
    scale = 600 / max(height, width)
    small = cv2.resize(gray, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    small = cv2.medianBlur(cv2.morphologyEx(small, cv2.MORPH_CLOSE, np.ones((9, 9))), 7)
    limit, _ = cv2.threshold(small, 0, 255, cv2.THRESH_BINARY | cv2.THRESH_OTSU)
    quads = (_quad(small > limit * share) for share in (1.0, 0.9, 0.8, 0.7, 0.6, 0.5))
    found = [quad for quad in quads if quad is not None]
    if not found:
        return None
    # A corner in the picture's own corner is a table that has become bright.
    best = min(found, key=lambda quad: (_at_edge(quad, small), -cv2.contourArea(quad)))
    return _clockwise(best / scale)


def _at_edge(quad: np.ndarray, picture: np.ndarray) -> int:
    """How many corners lie in the picture's own."""
    size = np.array(picture.shape[::-1])
    return int(((quad < 0.02 * size) | (quad > 0.98 * size)).all(axis=1).sum())


def _quad(bright: Ink) -> np.ndarray | None:
    """The four corners of the largest bright thing, where it is as sheets are."""
    outlines, _ = cv2.findContours(
        bright.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_SIMPLE
    )
    if not outlines:
        return None
    outline = cv2.convexHull(max(outlines, key=cv2.contourArea))
    shape = cv2.approxPolyDP(outline, 0.03 * cv2.arcLength(outline, True), True)[:, 0]
    if len(shape) != 4 or not LEAST_SHEET < cv2.contourArea(shape) / bright.size < MOST_SHEET:
        return None
    if cv2.contourArea(shape) < 0.95 * cv2.contourArea(outline):
        return None
    if _at_edge(shape, bright) > 1:  # the picture itself, not a sheet in it
        return None
    sides = np.roll(shape, -1, axis=0) - shape
    sides = sides / np.linalg.norm(sides, axis=1, keepdims=True)
    leaning = np.abs((sides * np.roll(sides, 1, axis=0)).sum(axis=1))
    return shape if leaning.max() < MOST_SHEAR else None


def _clockwise(points: np.ndarray) -> Corners:
    across, down = points.sum(axis=1), points[:, 1] - points[:, 0]
    order = (across.argmin(), down.argmin(), across.argmax(), down.argmax())
    return [(float(points[n][0]), float(points[n][1])) for n in order]


def cut_out(gray: Gray, corners: Corners) -> Gray:
    """The sheet alone, seen from above."""
    source = np.array(corners, np.float32)
    top, right, bottom, left = (
        float(np.linalg.norm(source[n] - source[(n + 1) % 4])) for n in range(4)
    )
    width, height = round(max(top, bottom)), round(max(left, right))
    goal = np.array([(0, 0), (width, 0), (width, height), (0, height)], np.float32)
    bent = cv2.getPerspectiveTransform(source, goal)
    return cv2.warpPerspective(
        gray, bent, (width, height), flags=cv2.INTER_AREA, borderValue=BLANK
    )


def straighten(gray: Gray) -> Straight:
    """The page level and of the house's size, with its staves; without a staff it is only
    turned."""
    flat = flatten(gray)
    flat = _turned(flat, _turn(ink_of(flat)))
    space = _space(ink_of(flat))
    if space is None:
        return Straight(flat, ())
    scale = SPACE / space
    size = (round(flat.shape[1] * scale), round(flat.shape[0] * scale))
    method = cv2.INTER_AREA if scale < 1 else cv2.INTER_CUBIC
    flat = cv2.resize(flat, size, interpolation=method)
    staves = _trace(faint_ink_of(flat))
    if not staves:
        return Straight(flat, ())
    return _level(flat, staves)


def _turn(ink: Ink) -> float:
    """Degrees by which the page lies turned."""
    scale = TURN_WIDTH / ink.shape[1]
    small = cv2.resize(
        ink.astype(np.float32), None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA
    )
    best, step = 0.0, 0.5
    turns = np.arange(-MOST_TURN, MOST_TURN + 0.1, step)
    for step in (0.5, 0.1, 0.02):
        best = max(turns, key=lambda turn: _sharpness(small, float(turn)))
        turns = best + np.arange(-step, step + 0.001, step / 5)
    return float(best)


def _sharpness(small: np.ndarray, turn: float) -> float:
    rows = _turned(small, turn, 0).sum(axis=1)
    return float(np.square(np.diff(rows)).sum())


def _turned(picture: np.ndarray, turn: float, beyond: int = BLANK) -> np.ndarray:
    height, width = picture.shape
    if abs(turn) < 0.02:
        return picture
    middle = cv2.getRotationMatrix2D((width / 2, height / 2), turn, 1)
    return cv2.warpAffine(
        picture, middle, (width, height), flags=cv2.INTER_LINEAR, borderValue=beyond
    )


def _space(ink: Ink) -> float | None:
    """Pixels of a staff space; None where the page has no staves of several lines."""
    columns = np.pad(ink.T, ((0, 0), (1, 1)))[:: max(1, ink.shape[1] // 800)]
    edges = np.diff(columns.astype(np.int8).ravel())
    starts, ends = np.flatnonzero(edges == 1), np.flatnonzero(edges == -1)
    if len(starts) < 100:
        return None
    both = starts[1:] - starts[:-1]  # a black run and the white one below it
    black = (ends - starts)[:-1]
    fits = (both >= LEAST_SPACE) & (both <= MOST_SPACE) & (black * 2 < both)
    counts = np.bincount(both[fits], minlength=MOST_SPACE + 2).astype(float)
    smooth = np.convolve(counts, (0.5, 1, 0.5), "same")
    best = int(smooth.argmax())
    if smooth[best] < 0.02 * len(both):
        return None
    near = np.arange(max(0, best - 2), best + 3)
    return float((counts[near] * near).sum() / counts[near].sum())


def _trace(ink: Ink) -> list[Staff]:
    """The staves of five lines, from top to bottom."""
    found = [_candidates(ink[:, x : x + STRIP]) for x in range(0, ink.shape[1] - HOP, HOP)]
    chains: list[Chain] = []
    for strip, candidates in enumerate(found):
        open_chains = [
            (_expected(chain, strip), chain)
            for chain in chains
            if strip - chain[-1][0] <= MOST_GAP
        ]
        for y, space in candidates:
            off, nearest = min(
                ((abs(y - there), n) for n, (there, _) in enumerate(open_chains)),
                default=(np.inf, 0),
            )
            if off < FURTHEST_STEP:
                open_chains.pop(nearest)[1].append((strip, y, space))
            else:
                chains.append([(strip, y, space)])
    chains = _alone(_joined(chains))
    return sorted((_smoothed(chain) for chain in chains), key=lambda staff: staff.ys.mean())


def _alone(chains: list[Chain]) -> list[Chain]:
    """Without what is too short, or lies over a longer one: a staff taken one line too high."""
    kept: list[Chain] = []
    for chain in sorted(chains, key=len, reverse=True):
        if len(chain) * HOP >= LEAST_STAFF and not any(_lies_over(chain, one) for one in kept):
            kept.append(chain)
    return kept


def _lies_over(chain: Chain, other: Chain) -> bool:
    strips, ys, _ = zip(*other, strict=True)
    apart = [
        abs(y - np.interp(strip, strips, ys))
        for strip, y, _ in chain
        if strips[0] <= strip <= strips[-1]
    ]
    return len(apart) > len(chain) / 2 and float(np.median(apart)) < 5 * SPACE


def _candidates(strip: Ink) -> list[tuple[float, float]]:
    """(y of the middle line, space) of each staff in one strip of the page."""
    rows = strip.mean(axis=1)
    # A line is dark and its neighbours above and below are not: beams and heads are thicker.
    around = np.minimum(np.roll(rows, 5), np.roll(rows, -5))
    sharp = np.convolve(np.clip(rows - 0.7 * around, 0, 1), (0.6, 1, 0.6), "same").clip(0, 1)
    ys = np.arange(len(sharp), dtype=float)
    best, spaces = np.zeros_like(ys), np.full_like(ys, SPACE)
    for space in np.arange(0.86 * SPACE, 1.15 * SPACE, 0.25):
        five = np.stack([np.interp(ys + k * space, ys, sharp, 0, 0) for k in range(-2, 3)])
        five.sort(axis=0)
        score = np.where(five[1] > 0.35, five.mean(axis=0), 0)
        better = score > best
        best, spaces = np.where(better, score, best), np.where(better, space, spaces)
    found = []
    while best.max() > LEAST_SCORE:
        y = int(best.argmax())
        found.append((float(y), float(spaces[y])))
        best[max(0, y - 5 * SPACE) : y + 5 * SPACE] = 0
    return found


def _expected(chain: Chain, strip: int) -> float:
    """Where a staff goes on, by the way it came."""
    last = chain[-8:]
    if len(last) < 4:
        return last[-1][1]
    half = len(last) // 2
    first, second = last[:half], last[-half:]
    along = (sum(one[0] for one in second) - sum(one[0] for one in first)) / half
    up = (sum(one[1] for one in second) - sum(one[1] for one in first)) / half
    slope = min(max(up / along, -STEEPEST * HOP), STEEPEST * HOP)
    middle, y = (sum(one[n] for one in last) / len(last) for n in (0, 1))
    return y + slope * (strip - middle)


def _joined(chains: list[Chain]) -> list[Chain]:
    """Chains of one staff that was lost for a while, put together again."""
    joined: list[Chain] = []
    for chain in chains:
        y = np.median([y for _, y, _ in chain])
        for other in joined:
            apart = chain[0][0] > other[-1][0] or other[0][0] > chain[-1][0]
            if apart and abs(np.median([one[1] for one in other]) - y) < 1.2 * SPACE:
                other[:] = sorted([*other, *chain])
                break
        else:
            joined.append(list(chain))
    return joined


def _smoothed(chain: Chain) -> Staff:
    strips, ys, spaces = (np.array(row, float) for row in zip(*chain, strict=True))
    xs = strips * HOP + STRIP / 2
    return Staff(xs, _calm(ys), _calm(spaces, 15))


def _calm(values: np.ndarray, width: int = 5) -> np.ndarray:
    """Without what stands out, then smooth."""
    half = min(width, len(values) - 1) // 2
    if half < 1:
        return values
    padded = np.pad(values, half, mode="reflect", reflect_type="odd")
    windows = np.lib.stride_tricks.sliding_window_view(padded, 2 * half + 1)
    padded = np.pad(np.median(windows, axis=1), half, mode="reflect", reflect_type="odd")
    return np.lib.stride_tricks.sliding_window_view(padded, 2 * half + 1).mean(axis=1)


def _level(flat: Gray, staves: list[Staff]) -> Straight:
    """The picture bent so that all staves are level and ``SPACE`` wide."""
    height, width = flat.shape
    columns = np.append(np.arange(0, width - 1, SPACE, dtype=float), width - 1)
    goals, sources = [], []  # y in the straight picture; y in this one for each column
    last = None
    for staff in staves:
        ys, spaces = (
            np.interp(columns, staff.xs, staff.ys),
            np.interp(columns, staff.xs, staff.spaces),
        )
        ys = _extended(ys, columns, staff)
        middle = float(np.mean(staff.ys))
        if last is not None:
            middle = max(middle, last + 6 * SPACE)
        middle = last = round(middle)
        for k in (-2, 2):
            goals.append(middle + k * SPACE)
            sources.append(ys + k * spaces)
    goal_ys = np.arange(height, dtype=float)
    grid = np.empty((height, len(columns)), np.float32)
    for n in range(len(columns)):
        known = [source[n] for source in sources]
        inside = np.interp(goal_ys, goals, known)
        inside = np.where(goal_ys < goals[0], known[0] - (goals[0] - goal_ys), inside)
        grid[:, n] = np.where(goal_ys > goals[-1], known[-1] + (goal_ys - goals[-1]), inside)
    map_y = np.empty((height, width), np.float32)
    for n, (left, right) in enumerate(pairwise(columns)):
        share = (np.arange(int(left), int(right) + 1) - left) / (right - left)
        part = grid[:, n, None] * (1 - share) + grid[:, n + 1, None] * share
        map_y[:, int(left) : int(right) + 1] = part
    map_x = np.broadcast_to(np.arange(width, dtype=np.float32), (height, width)).copy()
    straight = cv2.remap(flat, map_x, map_y, cv2.INTER_LINEAR, borderValue=BLANK)
    middles = tuple(round(np.mean(goals[n : n + 2])) for n in range(0, len(goals), 2))
    return Straight(straight, middles)


def _extended(ys: np.ndarray, columns: np.ndarray, staff: Staff) -> np.ndarray:
    """Beyond where it was traced a staff goes on by the slope that it had there."""
    ends = (
        (columns < staff.xs[0], slice(0, 6), 0),
        (columns > staff.xs[-1], slice(-6, None), -1),
    )
    for beyond, part, end in ends:
        if len(staff.xs) < 6 or not beyond.any():
            continue
        slope = np.polyfit(staff.xs[part], staff.ys[part], 1)[0]
        ys = np.where(beyond, staff.ys[end] + slope * (columns - staff.xs[end]), ys)
    return ys
