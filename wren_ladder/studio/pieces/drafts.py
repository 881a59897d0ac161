"""Drafts: a piece while it is edited, with every change kept so that it can be undone."""

from dataclasses import dataclass
from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from wren_ladder.drumming.chart import Bar, Chart
from wren_ladder.drumming.chart.serial import bar_from_json, bar_to_json
from wren_ladder.drumming.editing.bars import Bars, Splice, difference
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.studio.pieces.models import Draft, Edit, Piece
from wren_ladder.studio.pieces.storing import matched

FIRST_TEXT = """meter 4/4
tempo crotchet = 80

bar 1
section A Groove
hat 8ths
snare 2 4
kick 1 3
"""
MOST_EDITS = 300  # that can be undone


@dataclass(frozen=True, slots=True)
class EditorPage:
    """A page on which a draft is changed: its own key, and the version of the draft that it
    shows. What a page wrote itself it knows, so its presses need not wait for answers."""

    key: UUID
    version: int


def draft_of(owner: AbstractBaseUser, piece: Piece | None) -> Draft:
    """The draft that was begun, else a fresh one, which is not stored until it changes."""
    begun = Draft.objects.filter(owner=owner, piece=piece).first()
    if begun:
        return begun
    if piece is None:
        return Draft(owner=owner, bars=_stored(read_chart(FIRST_TEXT).bars))
    return Draft(
        owner=owner,
        piece=piece,
        title=piece.title,
        grade="" if piece.grade is None else str(piece.grade),
        notes=piece.notes,
        bars=[{**bar_to_json(row.bar), "row": row.pk} for row in piece.bars.all()],
        base=piece.fingerprint,
    )


def saved_from(draft: Draft, page: EditorPage) -> Piece | None:
    """The piece that this page was saved as; a late letter or a second press comes after."""
    return Piece.objects.filter(owner=draft.owner, saved_by=page.key).first()


def is_behind(draft: Draft, page: EditorPage) -> bool:
    """Has another page, tab or device changed the draft since this page was shown?"""
    return draft.writer != page.key and draft.version != page.version


def sign(draft: Draft, page: EditorPage | None) -> None:
    """The next write of the draft is this page's."""
    draft.writer = page.key if page else None
    draft.version += 1


def bars_of(draft: Draft) -> Bars:
    return tuple(bar_from_json(data) for data in draft.bars)


def _stored(bars: Bars) -> list[dict]:
    return [bar_to_json(bar) for bar in bars]


@transaction.atomic
def change(draft: Draft, before: Bars, after: Bars, label: str, together: bool = False) -> Bars:
    """Make ``after`` the draft's bars, filled in, and remember what changed.

    ChartError if they make no chart, and nothing is changed. With ``together`` a change
    right behind one with the same label joins it, so that a bar typed letter by letter is
    undone at once.
    """
    after = Chart("", after).bars
    splice = difference(before, after)
    if not splice.removed and not splice.added:
        return before
    if draft.pk is None:
        draft.save()  # its edits point at it
    draft.edits.filter(position__gte=draft.done).delete()
    last = draft.edits.last() if together else None
    joins = last is not None and last.label == label
    old, draft.bars = draft.bars, _with_rows(draft.bars, _stored(after))
    position = draft.done
    draft.done += 0 if joins else 1
    draft.save()
    if joins:
        at_first = _spliced(old, last.first, last.added, last.removed)
        earliest = tuple(bar_from_json(data) for data in at_first)
        _keep(last, difference(earliest, after), at_first, draft.bars)
        return after
    _keep(Edit(draft=draft, position=position, label=label), splice, old, draft.bars)
    draft.edits.filter(position__lt=draft.done - MOST_EDITS).delete()
    return after


def _with_rows(old: list[dict], new: list[dict]) -> list[dict]:
    """The new bars with the piece's rows that they continue, so that steps of plans stay
    with a bar wherever it is moved and whatever is changed in it."""
    places = matched(old, new)
    rows = [None if place is None else old[place].get("row") for place in places]
    return [{**data, "row": row} for data, row in zip(new, rows, strict=True)]


def _keep(edit: Edit, splice: Splice, old: list[dict], new: list[dict]) -> None:
    edit.first = splice.first
    edit.removed = old[splice.first : splice.first + len(splice.removed)]
    edit.added = new[splice.first : splice.first + len(splice.added)]
    edit.save()


def _spliced(bars: list[dict], first: int, out: list[dict], into: list[dict]) -> list[dict]:
    return [*bars[:first], *into, *bars[first + len(out) :]]


def undoable(draft: Draft) -> Edit | None:
    """The edit that undoing takes back, None where there is none."""
    return _edit(draft, draft.done - 1)


def redoable(draft: Draft) -> Edit | None:
    return _edit(draft, draft.done)


def _edit(draft: Draft, position: int) -> Edit | None:
    return draft.edits.filter(position=position).first() if draft.pk else None


@transaction.atomic
def undo(draft: Draft) -> Edit | None:
    """Take the last edit back; the edit, None where there was none."""
    edit = undoable(draft)
    if edit:
        draft.bars = _spliced(draft.bars, edit.first, edit.added, edit.removed)
        draft.done -= 1
        draft.save()
    return edit


@transaction.atomic
def redo(draft: Draft) -> Edit | None:
    edit = redoable(draft)
    if edit:
        draft.bars = _spliced(draft.bars, edit.first, edit.removed, edit.added)
        draft.done += 1
        draft.save()
    return edit


def name_of(bar: Bar) -> str:
    return "the pick-up" if bar.pickup else f"bar {bar.number}"
