"""The lines of a straightened page: how far each staff goes, and its bars.

A bar line runs from the staff's top line to its bottom line, no further, and nothing touches
it; a stem goes further or has a head beside it. What stands beside it (another line, a thick
one, two dots) says what kind it is. Common practice of engraving, no source.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.found import ROOM, SPACE, BarLine, FoundBar, FoundLine
from wren_ladder.drumming.page_reading.pixels import Ink, runs
from wren_ladder.drumming.page_reading.shorthand import with_shorthand

COVERED = 0.85  # of each space of the staff by a bar line's ink
MOST_LEAN = 5  # pixels that a bar line may lean over the height of a staff
NEAR = SPACE  # bar lines no further apart are one sign
THICK = 0.3 * SPACE
THICK_AND_THIN = 0.8 * SPACE
ATTACHED = 7  # pixels beside it that are all dark in one space: a head
HELD = int(0.6 * SPACE)  # beside the end of a stroke
LEAST_HELD = 0.4  # share of ink there
MOST_SIGN = 1.6 * SPACE  # across: a thin and a thick line that a blur has made one
DOTTED = {1, 2}  # spaces with the dots of a repeat, from the top
EMPTY = 0.3  # share of ink beside a bar line, at most
STAFF_GAP = 2.5 * SPACE  # white in a staff that parts it in two
LEAST_FIGURE = 0.2  # share of ink in the half of a staff that a figure fills
BEHIND_CLEF = 1.3 * SPACE
WIDEST_TIME = 4.2 * SPACE
TALL_FIGURE = 2.2 * SPACE  # beyond the staff, of a figure of the time signature
WIDE_FIGURE = 1.6 * SPACE  # then it is wider than two rests above each other
WIDEST_HEADER = 12 * SPACE
DOTS = int(1.2 * SPACE)  # from a bar line to behind the dots beside it
MOST_LINE = 5  # pixels of a staff line's height
LEAST_STAFF = 8 * SPACE
LEAST_BAR = 2.2 * SPACE
LEAST_OPEN_BAR = 7 * SPACE  # behind the last bar line: narrower is a time signature of warning


def find_lines(ink: Ink, faint: Ink, middles: Sequence[int]) -> tuple[FoundLine, ...]:
    """The lines of a page with their bars, of its ink, its ink with what is faint, and its
    staves' middles."""
    lines: list[FoundLine] = []
    half = 2 * SPACE
    for middle in middles:
        for left, right in _stretches(faint, middle, half):
            line = FoundLine(middle - half, middle + half, left, right, 0, 0)
            lines.append(line)
    lines = [_bounded(line, lines, len(ink)) for line in lines]
    return tuple(replace(line, bars=find_bars(ink, faint, line)) for line in lines)


def _stretches(ink: Ink, middle: int, half: int) -> list[tuple[int, int]]:
    """From where to where the staff's lines go on; a staff with a gap is two."""
    ys = range(middle - half, middle + half + 1, SPACE)
    if ys[0] < 0 or ys[-1] >= len(ink):  # what was taken for a staff hangs over the edge
        return []
    rows = np.stack([ink[max(0, y - 3) : y + 4].any(axis=0) for y in ys])
    there = (rows.mean(axis=0) >= 0.6).astype(np.uint8)[None]
    closed = cv2.morphologyEx(there, cv2.MORPH_CLOSE, np.ones((1, int(STAFF_GAP)), np.uint8))
    edges = runs(closed[0])
    between = np.stack([ink[y + SPACE // 2] for y in list(ys)[:-1]])
    return [
        (int(a), int(b) - 1)
        for a, b in edges
        # Letters are dark between the lines as well, and the lines are not.
        if b - a >= LEAST_STAFF and rows[:, a:b].mean() > 0.85 and between[:, a:b].mean() < 0.45
    ]


def _bounded(line: FoundLine, lines: Sequence[FoundLine], height: int) -> FoundLine:
    """With the room above and below in which something can be this line's."""
    tops = [other.top for other in lines if other.top > line.bottom]
    bottoms = [other.bottom for other in lines if other.bottom < line.top]
    above = max(line.top - ROOM, max(bottoms) + SPACE if bottoms else 0)
    below = min(line.bottom + ROOM, min(tops) - SPACE if tops else height)
    return replace(line, above=max(above, 0), below=min(below, height))


@dataclass(frozen=True, slots=True)
class _Stroke:
    """One upright line through the staff."""

    left: int
    right: int

    @property
    def thick(self) -> bool:
        return self.right - self.left + 1 >= THICK


def find_bars(ink: Ink, faint: Ink, line: FoundLine) -> tuple[FoundBar, ...]:
    """The bars of one line from left to right."""
    signs = _signs(_strokes(ink, faint, line))
    kinds = [_kind(ink, line, sign) for sign in signs]
    bare = without_lines(ink, line)
    header = _after_time(bare, line, _after_clef(ink, line), True)
    bars: list[FoundBar] = []
    left, before = line.left, BarLine.NONE
    for sign, kind in zip(signs, kinds, strict=True):
        start, end = sign[0].left, sign[-1].right
        if start - left < LEAST_BAR or (
            left == line.left and _is_header(bare, line, header, sign)
        ):
            left, before = end, _begins(kind)
            continue
        bars.append(FoundBar(left, start, max(left, header), before, _ends(kind)))
        left, before = end, _begins(kind)
    if line.right - left > LEAST_OPEN_BAR:
        bars.append(FoundBar(left, line.right, max(left, header), before, BarLine.NONE))
    bars = [replace(bar, ink_left=_music_from(bare, line, bar)) for bar in bars]
    return with_shorthand(ink, bare, line, bars)


def _is_header(bare: Ink, line: FoundLine, header: int, sign: Sequence["_Stroke"]) -> bool:
    """Does only a clef and a time signature stand before the first sign of a line?"""
    start = sign[0].left
    if start - line.left > WIDEST_HEADER:
        return False
    return (
        start <= header + SPACE
        or not bare[line.top : line.bottom, header + 3 : start - 3].any()
    )


def _music_from(bare: Ink, line: FoundLine, bar: FoundBar) -> int:
    """Behind the dots of a repeat and a time signature."""
    at = bar.ink_left
    if bar.before is BarLine.REPEAT_START:
        at = max(at, bar.left + DOTS)
    return _after_time(bare, line, at)


def _begins(kind: BarLine) -> BarLine:
    both = (BarLine.REPEAT_START, BarLine.REPEAT_BOTH)
    return BarLine.REPEAT_START if kind in both else BarLine.NONE


def _ends(kind: BarLine) -> BarLine:
    if kind is BarLine.REPEAT_BOTH:
        return BarLine.REPEAT_END
    return BarLine.DOUBLE if kind is BarLine.REPEAT_START else kind


def _strokes(ink: Ink, faint: Ink, line: FoundLine) -> list[_Stroke]:
    """What runs straight from the top line to the bottom line and is touched by nothing."""
    left, right = line.left, line.right + SPACE
    staff = faint[line.top : line.bottom + 1, left : right + 1]
    height = len(staff)
    wide = cv2.dilate(staff.astype(np.uint8), np.ones((1, 3), np.uint8))
    covered = np.zeros(staff.shape[1])
    for lean in range(-MOST_LEAN, MOST_LEAN + 1):
        shifts = np.round(np.linspace(-lean / 2, lean / 2, height)).astype(int)
        leaning = np.stack([np.roll(row, by) for row, by in zip(wide, shifts, strict=True)])
        # Between the lines, space by space: the lines themselves are dark everywhere.
        inner = [leaning[top + 3 : top + SPACE - 2].mean(axis=0) for top in _spaces(height)]
        covered = np.maximum(covered, np.min(inner, axis=0))
    thin = covered >= COVERED
    upright = np.zeros(ink.shape[1], bool)
    upright[left : right + 1] = cv2.dilate(thin.astype(np.uint8)[None], np.ones((1, 5)))[0]
    # The three pixels' tolerance made it wider on both sides.
    edges = runs(thin)
    strokes = []
    for start, end in edges:
        a, b = int(start) + left, int(end) - 1 + left
        if b - a >= 3:
            a, b = a + 1, b - 1
        stroke = _Stroke(a, b)
        apart = _is_apart(ink, line, stroke, upright)
        if apart and not _goes_on(ink, line, stroke) and not _is_held(ink, line, stroke):
            strokes.append(stroke)
    return strokes


def _spaces(height: int) -> range:
    """Where each space of a staff begins, from its top line."""
    return range(0, height - SPACE, SPACE)


def _goes_on(ink: Ink, line: FoundLine, stroke: _Stroke) -> bool:
    """Does it go on above the top line or below the bottom line, as stems do?"""
    a, b = stroke.left - 2, stroke.right + 3
    far, near = int(0.9 * SPACE), int(0.35 * SPACE)
    above = ink[max(0, line.top - far) : line.top - near, a:b]
    below = ink[line.bottom + near : line.bottom + far, a:b]
    return any(part.size and part.any(axis=1).mean() > 0.7 for part in (above, below))


def _is_held(ink: Ink, line: FoundLine, stroke: _Stroke) -> bool:
    """Does a head or a beam hang at its very end, beyond the staff, as at a stem that is just
    as long as the staff is high?"""
    right = slice(stroke.right + 1, stroke.right + 1 + HELD)
    left = slice(max(0, stroke.left - HELD), stroke.left)
    above = slice(max(0, line.top - HELD), line.top - 3)
    below = slice(line.bottom + 4, line.bottom + 1 + HELD)
    for rows, end in ((above, slice(-3, None)), (below, slice(0, 3))):
        own = np.asarray(ink[rows, stroke.left : stroke.right + 1].any(axis=1))[end]
        beside = max(ink[rows, side].mean() for side in (left, right) if ink[rows, side].size)
        if own.all() and beside > LEAST_HELD:
            return True
    return False


def _is_apart(ink: Ink, line: FoundLine, stroke: _Stroke, upright: np.ndarray) -> bool:
    """Is it white beside it, between the lines of the staff, other such strokes apart?"""
    if stroke.right - stroke.left > MOST_SIGN:
        return False
    staff = ink[line.top : line.bottom + 1]
    inner = [staff[n * SPACE + 4 : (n + 1) * SPACE - 3] for n in range(4)]
    left, right, far = stroke.left, stroke.right, int(0.35 * SPACE)
    for touching, beside in (
        (slice(max(0, left - ATTACHED), left), slice(max(0, left - far), left - 2)),
        (slice(right + 1, right + 1 + ATTACHED), slice(right + 3, right + far + 1)),
    ):
        if any((part[:, touching].mean(axis=0) > 0.5).all() for part in inner):
            return False
        white = [part[:, beside][:, ~upright[beside]] for part in inner]
        full = {n for n, part in enumerate(white) if part.size and part.mean() > EMPTY}
        if len(full) > 1 and not full <= DOTTED:
            return False
    return True


def _signs(strokes: Sequence[_Stroke]) -> list[list[_Stroke]]:
    """Strokes close together are one sign."""
    signs: list[list[_Stroke]] = []
    for stroke in strokes:
        if signs and stroke.left - signs[-1][-1].right < NEAR:
            signs[-1].append(stroke)
        else:
            signs.append([stroke])
    return signs


def _kind(ink: Ink, line: FoundLine, sign: Sequence[_Stroke]) -> BarLine:
    before = _has_dots(ink, line, sign[0].left - int(1.3 * SPACE), sign[0].left - 2)
    after = _has_dots(ink, line, sign[-1].right + 3, sign[-1].right + int(1.3 * SPACE) + 1)
    if len(sign) > 1 or sign[0].thick:
        if before and after:
            return BarLine.REPEAT_BOTH
        if before:
            return BarLine.REPEAT_END
        if after:
            return BarLine.REPEAT_START
    if sign[-1].thick and (len(sign) > 1 or sign[-1].right - sign[-1].left > THICK_AND_THIN):
        return BarLine.FINAL
    return BarLine.DOUBLE if len(sign) > 1 else BarLine.SINGLE


def _has_dots(ink: Ink, line: FoundLine, left: int, right: int) -> bool:
    """Two dots above each other around the middle line, and nothing else there."""
    left = max(left, 0)
    spaces = []
    for n in range(4):
        inner = ink[line.top + n * SPACE + 3 : line.top + (n + 1) * SPACE - 2, left:right]
        spaces.append(int(inner.sum()))
    area = 0.05 * SPACE * SPACE
    most = 0.5 * SPACE * SPACE
    return all(area < spaces[n] < most for n in (1, 2)) and max(spaces[0], spaces[3]) < area


def _after_clef(ink: Ink, line: FoundLine) -> int:
    """A percussion clef is two thick strokes over the two middle spaces."""
    a, b = line.left, line.left + 6 * SPACE
    inner = ink[line.middle - SPACE + 3 : line.middle + SPACE - 2, a:b].mean(axis=0) > 0.9
    edges = runs(inner)
    thick = [(s, e) for s, e in edges if e - s >= THICK]
    if len(thick) < 2 or thick[1][0] - thick[0][1] > SPACE:
        return a
    return int(a + thick[1][1] + 2)


def _after_time(bare: Ink, line: FoundLine, at: int, is_header: bool = False) -> int:
    """Two figures above each other fill the staff and go no further; or a C in its middle.
    Some fonts have figures that are taller than the staff, as chords are: those are looked for
    close behind a clef alone."""
    at += 3  # of the bar line
    for beyond in (SPACE, min(int(2.5 * SPACE), line.top))[: 1 + is_header]:
        rows = bare[line.top - beyond : line.bottom + beyond, at : at + 7 * SPACE]
        group = _first_group(rows)
        if group is None or group[1] - group[0] > WIDEST_TIME:
            continue
        start, end = group
        piece = rows[:, start:end]
        ys = np.flatnonzero(piece.any(axis=1))
        height = line.bottom - line.top
        above, below = beyond - ys[0], ys[-1] - beyond - height
        # Figures fill both halves of the staff, where a note has a head in one and a stem in
        # both.
        halves = np.array_split(piece[beyond : beyond + height], 2)
        full = min(half.mean() for half in halves) > LEAST_FIGURE
        tall = 6.0
        if is_header and end - start > WIDE_FIGURE and start < BEHIND_CLEF:
            tall = TALL_FIGURE
        figures = -6 < above < tall and -6 < below < tall and full
        letter = abs(above + SPACE) < 7 and abs(below + SPACE) < 7 and end - start > SPACE
        if figures or letter:
            return at + end + 1
    return at - 3


def _first_group(rows: Ink) -> tuple[int, int] | None:
    """From where to where the first of what hangs together stands, seen from above."""
    edges = runs(rows.any(axis=0))
    found: list[int] = []
    for start, end in edges.tolist():
        if found and start - found[1] >= 0.52 * SPACE:
            break
        found = [found[0] if found else start, end]
    return (found[0], found[1]) if found else None


def without_lines(ink: Ink, line: FoundLine) -> Ink:
    """The same ink without the staff's lines: only what is higher than a line stays."""
    upright = np.ones((MOST_LINE + 1, 1), np.uint8)
    high = cv2.morphologyEx(ink.astype(np.uint8), cv2.MORPH_OPEN, upright).astype(bool)
    bare = ink.copy()
    for y in range(line.top, line.bottom + 1, SPACE):
        band = slice(y - 3, y + 4)
        bare[band] &= high[band]
    return bare
