"""Heads and stems of one bar put together into notes: which way a stem goes, its beams and
flags, its dots, its heads in brackets, the small notes before it."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.bars.beams import bars_of, find_beams, find_whole_beams
from wren_ladder.drumming.page_reading.bars.heads import (
    FULL,
    Head,
    each_once,
    find_heads,
)
from wren_ladder.drumming.page_reading.bars.rolls import RollStroke, strokes_on
from wren_ladder.drumming.page_reading.bars.shapes import Sign
from wren_ladder.drumming.page_reading.bars.stems import Stem, without_stems
from wren_ladder.drumming.page_reading.found import SPACE
from wren_ladder.drumming.page_reading.pixels import Ink, runs

SMALL = 0.68  # of a full note is one of grace
TOUCHING = 0.4 * SPACE  # between a head's side and its stem
AT_END = 0.9 * SPACE  # of a stem from its outermost head
FAR_FROM_END = 1.5 * SPACE
SHORTEST = 1.7 * SPACE  # of a stem beyond its last head
LEAST_ALONE = 0.75  # likeness of a head without a stem
LEAST_LOST = 0.8  # that belongs to no note
LEAST_SMALL = 0.6
BEFORE = 0.7 * SPACE  # its note, at least
MOST_LEAP = 3  # rows
GRACES = 6 * SPACE  # before their note, at most
SMALL_STEM = 3.3 * SPACE  # at most
LEAST_SECOND = 0.7  # likeness of a head on the other side of its stem
MOST_ARC = int(0.5 * SPACE)  # across
HOLLOW = (Sign.HALF, Sign.WHOLE, Sign.OPEN_DIAMOND)


@dataclass(frozen=True, slots=True)
class Note:
    """What is struck at once by one stem: ``bars`` across its end halve a crotchet each."""

    x: float
    heads: tuple[Head, ...]
    stem: Stem | None
    up: bool
    bars: int = 0  # beams or flags
    beamed_left: bool = False
    beamed_right: bool = False
    dots: int = 0
    ghosts: tuple[bool, ...] = ()  # for each head, is it in brackets
    strokes: int = 0  # across the stem
    graces: int = 0
    grace_row: int = 0

    @property
    def hollow(self) -> bool:
        return all(head.sign in HOLLOW for head in self.heads)

    @property
    def size(self) -> float:
        return self.heads[0].size


@dataclass(frozen=True, slots=True)
class FoundNotes:
    """The notes of a bar from left to right, the ``small`` ones before them, and how many heads
    and stems were ``lost``: seen, and of no note."""

    notes: tuple[Note, ...]
    small: tuple[Note, ...]
    lost: int


def find_notes(
    inked: Ink, bare: Ink, stems: Sequence[Stem], strokes: Sequence[RollStroke] = ()
) -> FoundNotes:
    """The notes in a bar's ink with its staff lines and without; ``strokes`` through stems were
    taken out of both."""
    plain = without_stems(bare, stems)
    all_heads = _heads(without_stems(inked, stems), plain, stems)
    heads = each_once([head for head in all_heads if _fits(head, stems)])
    found, taken = _on_stems(heads, plain, stems, strokes)
    for n, head in enumerate(heads):
        if n not in taken and _is_alone(head):
            found.append(Note(head.x, (head,), None, True))
    found = [note for note in found if not _is_flag(note, found)]
    found.sort(key=lambda note: note.x)
    notes = [_with_details(bare, note) for note in _with_graces(found)]
    small = tuple(one for one in found if one.size < FULL)
    lost = _lost_heads(all_heads, found) + sum(map(_has_no_head_at_its_end, found))
    lost += len(small) - sum(note.graces for note in notes)
    lost += sum(all(note.stem is not stem for note in found) for stem in stems)
    return FoundNotes(tuple(notes), small, lost)


def _heads(lined: Ink, plain: Ink, stems: Sequence[Stem]) -> list[Head]:
    """What may be a head beside the beams, of a full note or a small one."""
    long = find_whole_beams(plain, stems)
    long = cv2.dilate(long.astype(np.uint8), np.ones((5, 3), np.uint8)).astype(bool)
    lined, bald = lined & ~long, plain & ~long
    small = find_heads(lined, bald, (Sign.BLACK,), SMALL)
    return find_heads(lined, bald) + [head for head in small if head.like > LEAST_SMALL]


def _on_stems(
    heads: Sequence[Head],
    plain: Ink,
    stems: Sequence[Stem],
    strokes: Sequence[RollStroke],
) -> tuple[list[Note], set[int]]:
    """A note for each stem that has heads, and which heads these are."""
    beams = find_beams(plain, stems)
    notes: list[Note] = []
    taken: set[int] = set()
    # The longest first: a flag's end may stand beside a head as a stem does.
    for stem in sorted(stems, key=lambda stem: stem.top - stem.bottom):
        mine = [n for n, head in enumerate(heads) if n not in taken and _touches(head, stem)]
        up = _goes_up([heads[n] for n in mine], stem)
        if up is None:
            continue
        mine = _on_stem(heads, mine, stem, up)
        taken |= set(mine)
        own = sorted((_sized(heads[n], stem, up) for n in mine), key=lambda head: head.row)
        bars = bars_of(beams, plain, stem, stems, own, up)
        x = sum(head.x for head in own) / len(own)
        joined = (bars[0] > 0, bars[1] > 0)
        crossed = strokes_on(stem, strokes)
        notes.append(Note(x, tuple(own), stem, up, max(bars), *joined, strokes=crossed))
    return notes, taken


def _is_alone(head: Head) -> bool:
    """Is it a head that needs no stem?"""
    return head.sign is Sign.WHOLE and head.like > LEAST_ALONE


def _lost_heads(heads: Sequence[Head], notes: Sequence[Note]) -> int:
    """How many heads are seen well, and belong to no note."""
    taken = [head for note in notes for head in note.heads]
    lost = [
        head
        for head in heads
        if head.size == FULL
        and head.sign in (Sign.BLACK, Sign.CROSS)
        and head.like > LEAST_LOST
        and all(abs(head.x - one.x) > SPACE or abs(head.y - one.y) > SPACE for one in taken)
    ]
    return len(each_once(lost))


def _has_no_head_at_its_end(note: Note) -> bool:
    """Does its stem begin where none of its heads is? Something is there that is like none."""
    if note.stem is None:
        return False
    if note.up:
        return note.stem.bottom - max(head.y for head in note.heads) > FAR_FROM_END
    return min(head.y for head in note.heads) - note.stem.top > FAR_FROM_END


def _fits(head: Head, stems: Sequence[Stem]) -> bool:
    return _is_alone(head) or any(_touches(head, stem) for stem in stems)


def _touches(head: Head, stem: Stem) -> bool:
    """Has the head the stem at its side, as high as its end or beside its way?"""
    if not stem.top - AT_END < head.y < stem.bottom + AT_END:
        return False
    on_left = abs(stem.x - head.right) < TOUCHING and head.y > stem.top + SHORTEST * head.size
    on_right = (
        abs(stem.x - head.left) < TOUCHING and head.y < stem.bottom - SHORTEST * head.size
    )
    return on_left or on_right


def _goes_up(heads: Sequence[Head], stem: Stem) -> bool | None:
    """From which end its heads hang; None where they hang from neither."""
    if not heads:
        return None
    left = [head for head in heads if head.x < stem.x]
    right = [head for head in heads if head.x >= stem.x]
    up = any(abs(head.y - stem.bottom) < AT_END for head in left)
    down = any(abs(head.y - stem.top) < AT_END for head in right)
    if up == down:
        return None if not up else len(left) >= len(right)
    return up


def _sized(head: Head, stem: Stem, up: bool) -> Head:
    """Notes of grace have short stems, which go up."""
    is_small = up and stem.bottom - stem.top < SMALL_STEM
    return head if is_small else replace(head, size=FULL)


def _is_flag(note: Note, notes: Sequence[Note]) -> bool:
    """Is what looks like a note the end of another one's flag?"""
    if note.stem is None:
        return False
    for other in notes:
        if other.stem is None or other.bars == 0 or other.beamed_left or other.beamed_right:
            continue
        beside = 0.4 * SPACE < note.stem.x - other.stem.x < 1.4 * SPACE
        shared = min(note.stem.bottom, other.stem.bottom) - max(note.stem.top, other.stem.top)
        if beside and shared > 0.5 * (note.stem.bottom - note.stem.top):
            return True
    return False


def _on_stem(heads: Sequence[Head], mine: Sequence[int], stem: Stem, up: bool) -> list[int]:
    """Heads stand left of a stem that goes up; on its other side only beside the next row."""
    side = [n for n in mine if (heads[n].x < stem.x) == up]
    full = [n for n in side if heads[n].size == FULL]
    if not full:
        return side
    side = full
    rows = {heads[n].row for n in side}
    others = [
        n
        for n in mine
        if n not in side and heads[n].size == FULL and heads[n].like > LEAST_SECOND
    ]
    return side + [n for n in others if rows & {heads[n].row - 1, heads[n].row + 1}]


def _with_graces(notes: Sequence[Note]) -> list[Note]:
    """Small notes belong to the next full one, of two at once to the hands', whose stem goes
    up."""
    found, waiting = [], []
    for note in notes:
        if note.size < FULL:
            waiting.append(note)
            continue
        near = [one for one in waiting if _leads_to(one, note)]
        is_foot = not note.up and any(
            other.up and other.size == FULL and abs(other.x - note.x) < SPACE for other in notes
        )
        if near and not is_foot:
            row = near[-1].heads[0].row
            note = replace(note, graces=len(near), grace_row=row)
            waiting = []
        found.append(note)
    return found


def _leads_to(small: Note, note: Note) -> bool:
    """Is a small note close before a full one, and nearly as high?"""
    rows = [abs(small.heads[0].row - head.row) for head in note.heads]
    return BEFORE < note.x - small.x < GRACES and min(rows) <= MOST_LEAP


def _with_details(bare: Ink, note: Note) -> Note:
    ghosts = tuple(_in_brackets(bare, head) for head in note.heads)
    return replace(note, ghosts=ghosts, dots=_dots(bare, note))


def _in_brackets(bare: Ink, head: Head) -> bool:
    left = range(int(head.left - 0.9 * SPACE), int(head.left + 1))
    right = range(int(head.right - 1), int(head.right + 1.1 * SPACE))
    return _has_arc(bare, head, left) and _has_arc(bare, head, right)


def _has_arc(bare: Ink, head: Head, columns: range) -> bool:
    """Is a thin upright arc, no longer than a bracket, in these columns?"""
    columns = range(max(0, columns.start), min(bare.shape[1], columns.stop))
    y, half = int(head.y), int(0.5 * SPACE)
    if len(columns) < 3:
        return False
    part = bare[y - half : y + half + 1, columns.start : columns.stop]
    wide = cv2.dilate(part.astype(np.uint8), np.ones((3, 3), np.uint8))
    edges = runs(wide.mean(axis=0) > 0.8)
    beyond = [bare[y - 2 * half - 5 : y - 2 * half], bare[y + 2 * half + 1 : y + 2 * half + 6]]
    for start, end in edges:
        if start == 0 or end == len(columns):
            continue  # of something beyond
        around = slice(max(0, columns.start + start - 1), columns.start + end + 1)
        is_stem = any(one[:, around].any(axis=1).mean() > 0.5 for one in beyond)
        if end - start < MOST_ARC and not is_stem:
            return True
    return False


def _dots(bare: Ink, note: Note) -> int:
    """A dot stands right of a head, in a space."""
    head = note.heads[-1] if note.up else note.heads[0]
    left, right = int(head.x), int(head.right + 1.6 * SPACE)
    top, bottom = int(head.y - 0.8 * SPACE), int(head.y + 0.8 * SPACE)
    part = bare[max(0, top) : bottom, left:right].astype(np.uint8)
    if not part.size:
        return 0
    _, _, stats, _ = cv2.connectedComponentsWithStats(part)
    return sum(
        bool(0.2 * SPACE < one[2] < 0.6 * SPACE
        and 0.2 * SPACE < one[3] < 0.6 * SPACE
        and one[4] > 0.65 * one[2] * one[3]
        and one[0] > 0 and one[0] + one[2] < part.shape[1]
        and one[1] > 0 and one[1] + one[3] < part.shape[0])
        for one in stats[1:]
    )  # fmt: skip
