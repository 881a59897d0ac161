"""The chart editor, bar by bar; its text is the same draft (``editor_text``)."""

from dataclasses import dataclass

from django.contrib import messages
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from wren_ladder.drumming.chart import Bar, ChartError
from wren_ladder.drumming.chart.serial import bar_from_json, bar_to_json
from wren_ladder.drumming.editing.bars import Bars, put
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.studio.pages.editor import presses
from wren_ladder.studio.pages.editor.drafting import (
    addresses_of,
    draft_asked,
    head_of,
    in_the_way,
    lines_kept,
    newlines,
    page_of,
    take_head,
    take_lines,
    typed_since,
)
from wren_ladder.studio.pages.editor.page import (
    bar_context,
    cards_changed,
    fills_made,
    names_drawn,
)
from wren_ladder.studio.pages.editor.text import text_page
from wren_ladder.studio.pages.pieces.forms import MarksForm
from wren_ladder.studio.pages.pieces.wall_page import (
    error_context,
)
from wren_ladder.studio.pieces import drafts
from wren_ladder.studio.pieces.models import Draft
from wren_ladder.studio.teaching.models import style_of

CLIPBOARD = "copied_bars"
MOST_COPIED = 200


@require_safe
def piece_editor(request, pk=None):
    """A new piece is typed as text unless one asks otherwise, a piece edited by bars."""
    draft = draft_asked(request, pk)
    asked = request.GET.get("as", "bars" if pk else "text")
    if asked == "text" or draft.text:
        return text_page(request, draft, left="bars" if asked == "bars" and draft.pk else "")
    bars = drafts.bars_of(draft)
    cursor = presses.read_cursor(request.GET, bars)
    if draft.lines_bar is not None and "bar" not in request.GET:
        cursor = cursor.on(min(draft.lines_bar, len(bars) - 1))
    context = {**head_of(draft), **bar_context(draft, bars, cursor), "as": "bars"}
    if draft.lines_bar == cursor.bar and draft.lines:
        context |= _unreadable(draft, bars, cursor)
    return render(request, "pieces/editor/bars.html", context)


def _unreadable(draft: Draft, bars, cursor) -> dict:
    try:
        presses.read_lines(bars, cursor.bar, draft.lines)
    except ChartError as error:
        return error_context(error, draft.lines)
    return {}


@dataclass(frozen=True, slots=True)
class Pressed:
    """What a press did to a draft, stored and not drawn yet."""

    draft: Draft
    bars: tuple[Bar, ...]
    cursor: presses.Cursor
    before: Bars = ()
    known: bool = False  # that the page shows them
    error: ChartError | None = None
    said: str = ""
    refused: str = ""


@require_POST
def editor_bar(request, pk=None):
    """One press, or letters typed in a bar's lines: change the draft, answer with what
    looks different now. The database is held for the change alone, not for the drawing."""
    op = request.POST.get("op", "type")
    with transaction.atomic():
        pressed = _pressed(request, draft_asked(request, pk), op)
    draft, bars, cursor, error = pressed.draft, pressed.bars, pressed.cursor, pressed.error
    if pressed.refused:
        return _refused(request, draft, bars, cursor, pressed.refused)
    if not request.htmx:
        if error:
            messages.error(request, str(error))
        return redirect(f"{addresses_of(draft)['at']['edit']}?as=bars&bar={cursor.bar}")
    cursor = cursor.within(bars)
    if draft.lines:  # a bar that can't be read stays open
        cursor = cursor.on(min(draft.lines_bar, len(bars) - 1))
    context = {
        **addresses_of(draft),
        **_wall_answered(draft, bars, cursor, pressed),
        "op": op,
        "said": pressed.said,
        "lines_seen": newlines(request.POST.get("lines", "")),
    }
    if error:
        context |= error_context(error, draft.lines or request.POST.get("lines", ""))
    return render(request, "pieces/editor/_answer.html", context)


def _wall_answered(draft: Draft, bars: Bars, cursor: presses.Cursor, pressed: Pressed) -> dict:
    """What the page does not have yet: a card or two after a press, not a wall of hundreds."""
    style = style_of(draft.owner_id)
    context = bar_context(draft, bars, cursor, names_drawn(pressed.before, style))
    return context | {
        "few": cards_changed(pressed.before, bars, style) if pressed.known else None
    }


def _pressed(request: HttpRequest, draft: Draft, op: str) -> Pressed:
    bars = drafts.bars_of(draft)
    cursor = presses.read_cursor(request.POST, bars)
    page = page_of(request)
    before, known = bars, page is None or page.version == draft.version
    writes = op not in ("look", "copy") or typed_since(request.POST) is not None
    if writes:
        if why := in_the_way(draft, page):
            return Pressed(draft, bars, cursor, refused=why)
        drafts.sign(draft, page)
    error, said = None, ""
    writes = take_head(draft, request.POST) or writes
    try:
        bars = take_lines(draft, bars, request.POST, op)
        if op == "marks":
            bars = _take_marks(draft, bars, cursor, request.POST)
        elif op not in ("type", "look", "put-back"):
            bars, cursor, said = _press(request, draft, op, bars, cursor)
    except ChartError as caught:
        error = caught
    if op == "look" and not error:
        cursor = _looked_at(request.POST, bars, cursor)
    if writes:
        draft.save()
    return Pressed(draft, bars, cursor, before, known, error, said)


def _refused(request, draft: Draft, bars, cursor, why: str) -> HttpResponse:
    """The press was not done: the draft as it is now, and the lines as they were typed."""
    if not request.htmx:
        messages.error(request, f"{why}.")
        return redirect(f"{addresses_of(draft)['at']['edit']}?as=bars&bar={cursor.bar}")
    context = {
        **addresses_of(draft),
        **bar_context(draft, bars, cursor),
        "op": "refused",
        "preview_error": f"{why}: the bars here are as they are now, press again to go on.",
    }
    context |= lines_kept(request.POST, bars, cursor)
    return render(request, "pieces/editor/_answer.html", context)


def _take_marks(draft: Draft, bars, cursor, sent):
    form = MarksForm(bars[cursor.bar], sent)
    if not form.is_valid():
        name, errors = next(iter(form.errors.items()))
        field = "" if name == "__all__" else f"{form.fields[name].label or name}: "
        raise ChartError(f"{field}{errors[0]}", bar=bars[cursor.bar].number)
    label = f"marks of {drafts.name_of(form.bar)}"
    return drafts.change(draft, bars, put(bars, cursor.bar, form.bar), label)


def _press(request, draft: Draft, op: str, bars, cursor):
    """Do what the key says; what is told about it comes back with the bars."""
    if op == "copy":
        chosen = bars[cursor.first : cursor.last + 1][:MOST_COPIED]
        request.session[CLIPBOARD] = [bar_to_json(bar) for bar in chosen]
        many = f"{len(chosen)} bars" if len(chosen) > 1 else drafts.name_of(chosen[0])
        return bars, cursor, f"{many} copied"
    if op in ("undo", "redo"):
        edit = drafts.undo(draft) if op == "undo" else drafts.redo(draft)
        if edit is None:
            raise ChartError(f"there is nothing to {op}")
        bars = drafts.bars_of(draft)
        there = cursor.on(min(edit.first, len(bars) - 1))
        said = f"{'undone' if op == 'undo' else 'done again'}: {edit.label}"
        return bars, there if there.bar != cursor.bar else cursor, said
    if op == "vary":
        code = request.POST.get("vary", "")
        fill = fills_made(draft.owner_id).get(code)
        done = presses.vary(code, fill and fill[1], bars, cursor)
        return drafts.change(draft, bars, done.bars, done.label), done.cursor, done.label
    done = presses.perform(op, bars, cursor, _copied(request), style_of(draft.owner_id))
    return drafts.change(draft, bars, done.bars, done.label), done.cursor, done.label


def _copied(request) -> tuple[Bar, ...]:
    return tuple(bar_from_json(data) for data in request.session.get(CLIPBOARD, []))


def _looked_at(sent, bars, cursor):
    """The hand on the bar that is asked for, if there is one."""
    goal = read_whole(sent.get("goto"), 0, len(bars) - 1)
    return cursor if goal is None else cursor.on(goal)
