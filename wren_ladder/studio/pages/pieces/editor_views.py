"""The chart editor: bar by bar, or all of it as text; both change the same draft."""

from dataclasses import dataclass
from uuid import uuid4

from django.contrib import messages
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST, require_safe
from django_htmx.http import retarget

from wren_ladder.drumming.chart import Bar, Chart, ChartError
from wren_ladder.drumming.chart.serial import bar_from_json, bar_to_json
from wren_ladder.drumming.editing.bars import put
from wren_ladder.drumming.notation.counts import write_chart
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.studio.changes.pieces import save_draft
from wren_ladder.studio.pages.pieces import editor
from wren_ladder.studio.pages.pieces.editor_pages import (
    bar_context,
    fills_made,
    names_drawn,
)
from wren_ladder.studio.pages.pieces.forms import HeadForm, MarksForm
from wren_ladder.studio.pages.pieces.wall_page import (
    MOST_TEXT,
    error_context,
    preview_of,
    preview_of_chart,
    read_text,
)
from wren_ladder.studio.pages.requests import owned_or_404, read_key
from wren_ladder.studio.pieces import drafts
from wren_ladder.studio.pieces.models import Draft, Piece
from wren_ladder.studio.teaching.models import style_of

CLIPBOARD = "copied_bars"
MOST_COPIED = 200
BEHIND = (
    "This piece was changed in another tab or on another device after this page was opened, "
    "so what you did here is not written yet"
)
SAVED = "This piece has been saved from this page; open the editor anew to go on"


def _draft(request: HttpRequest, pk: int | None) -> Draft:
    piece = owned_or_404(Piece, request.user, pk) if pk else None
    return drafts.draft_of(request.user, piece)


def _page(request: HttpRequest) -> drafts.EditorPage | None:
    """The page a form was sent from; None where the form does not say."""
    key = read_key(request.POST.get("page"))
    version = read_whole(request.POST.get("version"), 0) or 0
    return drafts.EditorPage(key, version) if key else None


def _in_the_way(draft: Draft, page: drafts.EditorPage | None) -> str:
    """Why the page may not write the draft, "" where it may."""
    if page is None:
        return ""
    if drafts.saved_from(draft, page):
        return SAVED
    return BEHIND if drafts.is_behind(draft, page) else ""


def _addresses(draft: Draft) -> dict:
    """Where the pages of this draft are; a new piece has no key yet."""
    pages = ("", "-bar", "-text", "-save", "-discard")
    if draft.piece_id:
        found = {page: reverse(f"piece-edit{page}", args=[draft.piece_id]) for page in pages}
    else:
        found = {page: reverse(f"piece-new{page}") for page in pages}
    return {"at": {f"edit{page.replace('-', '_')}": url for page, url in found.items()}}


def _head(draft: Draft, form: HeadForm | None = None, after=None) -> dict:
    """What every page of the editor shows. A page that answers another in its place goes on
    under its key, so that letters still on their way from there disturb nobody."""
    kept = {"title": draft.title, "grade": draft.grade, "notes": draft.notes}
    outdated = draft.pk and draft.piece and draft.base != draft.piece.fingerprint
    return {
        "form": form or HeadForm(initial=kept),
        "draft": draft,
        "page_key": after.key if after else uuid4(),
        "piece": draft.piece,
        "heading": f"Edit {draft.piece.title}" if draft.piece else "New piece",
        "begun": draft.pk and draft.changed,
        "outdated": outdated,
        **_addresses(draft),
    }


@require_safe
def piece_editor(request, pk=None):
    """A new piece is typed as text unless one asks otherwise, a piece edited by bars."""
    draft = _draft(request, pk)
    asked = request.GET.get("as", "bars" if pk else "text")
    if asked == "text" or draft.text:
        return _text_page(request, draft, left="bars" if asked == "bars" and draft.pk else "")
    bars = drafts.bars_of(draft)
    cursor = editor.read_cursor(request.GET, bars)
    if draft.lines_bar is not None and "bar" not in request.GET:
        cursor = cursor.on(min(draft.lines_bar, len(bars) - 1))
    context = {**_head(draft), **bar_context(draft, bars, cursor), "as": "bars"}
    if draft.lines_bar == cursor.bar and draft.lines:
        context |= _unreadable(draft, bars, cursor)
    return render(request, "pieces/editor/bars.html", context)


def _unreadable(draft: Draft, bars, cursor) -> dict:
    try:
        editor.read_lines(bars, cursor.bar, draft.lines)
    except ChartError as error:
        return error_context(error, draft.lines)
    return {}


@dataclass(frozen=True, slots=True)
class Pressed:
    """What a press did to a draft, stored and not drawn yet."""

    draft: Draft
    bars: tuple[Bar, ...]
    cursor: editor.Cursor
    drawn: frozenset[str] = frozenset()  # drawings that the page has
    error: ChartError | None = None
    said: str = ""
    refused: str = ""


@require_POST
def editor_bar(request, pk=None):
    """One press, or letters typed in a bar's lines: change the draft, answer with what
    looks different now. The database is held for the change alone, not for the drawing."""
    op = request.POST.get("op", "type")
    with transaction.atomic():
        pressed = _pressed(request, _draft(request, pk), op)
    draft, bars, cursor, error = pressed.draft, pressed.bars, pressed.cursor, pressed.error
    if pressed.refused:
        return _refused(request, draft, bars, cursor, pressed.refused)
    if not request.htmx:
        if error:
            messages.error(request, str(error))
        return redirect(f"{_addresses(draft)['at']['edit']}?as=bars&bar={cursor.bar}")
    cursor = cursor.within(bars)
    if draft.lines:  # a bar that can't be read stays open
        cursor = cursor.on(min(draft.lines_bar, len(bars) - 1))
    context = {
        **_addresses(draft),
        **bar_context(draft, bars, cursor, pressed.drawn),
        "op": op,
        "said": pressed.said,
        "lines_seen": _newlines(request.POST.get("lines", "")),
    }
    if error:
        context |= error_context(error, draft.lines or request.POST.get("lines", ""))
    return render(request, "pieces/editor/_answer.html", context)


def _pressed(request: HttpRequest, draft: Draft, op: str) -> Pressed:
    bars = drafts.bars_of(draft)
    drawn = names_drawn(bars, style_of(draft.owner_id)) if request.htmx else frozenset()
    cursor = editor.read_cursor(request.POST, bars)
    page = _page(request)
    writes = op not in ("look", "copy") or _typed_since(request.POST) is not None
    if writes:
        if why := _in_the_way(draft, page):
            return Pressed(draft, bars, cursor, refused=why)
        drafts.sign(draft, page)
    error, said = None, ""
    writes = _take_head(draft, request.POST) or writes
    try:
        bars = _take_lines(draft, bars, request.POST, op)
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
    return Pressed(draft, bars, cursor, drawn, error, said)


def _refused(request, draft: Draft, bars, cursor, why: str) -> HttpResponse:
    """The press was not done: the draft as it is now, and the lines as they were typed."""
    if not request.htmx:
        messages.error(request, f"{why}.")
        return redirect(f"{_addresses(draft)['at']['edit']}?as=bars&bar={cursor.bar}")
    context = {
        **_addresses(draft),
        **bar_context(draft, bars, cursor),
        "op": "refused",
        "preview_error": f"{why}: the bars here are as they are now, press again to go on.",
    }
    context |= _lines_kept(request.POST, bars, cursor)
    return render(request, "pieces/editor/_answer.html", context)


def _take_head(draft: Draft, sent) -> bool:
    """Title, grade and notes are kept as typed, and read when the piece is saved; True if
    they changed."""
    before = (draft.title, draft.grade, draft.notes)
    draft.title = " ".join(sent.get("title", draft.title).split())[:120]
    draft.grade = sent.get("grade", draft.grade)[:8]
    draft.notes = _newlines(sent.get("notes", draft.notes))[:4000]
    return before != (draft.title, draft.grade, draft.notes)


def _take_lines(draft: Draft, bars, sent, op: str):
    """What was typed since the lines were shown, before anything else is done."""
    typed, shown = (_newlines(sent.get(name, "")) for name in ("lines", "lines_were"))
    if op == "put-back":
        draft.lines, draft.lines_bar = "", None
        return bars
    if typed == shown and not draft.lines:
        return bars
    place = read_whole(sent.get("lines_bar"), 0, len(bars) - 1)
    if place is None or len(typed) > MOST_TEXT:
        return bars
    try:
        after = editor.read_lines(bars, place, typed)
        label = f"typing in {drafts.name_of(bars[place])}"
        after = drafts.change(draft, bars, after, label, together=True)
    except ChartError as error:
        draft.lines, draft.lines_bar, draft.text = typed, place, ""
        raise error
    draft.lines, draft.lines_bar, draft.text = "", None, ""
    return after


def _typed_since(sent) -> str | None:
    """The lines of the bar where they are not those that were shown."""
    typed, shown = (_newlines(sent.get(name, "")) for name in ("lines", "lines_were"))
    return typed if typed != shown else None


def _lines_kept(sent, bars, cursor) -> dict:
    """What was typed in the bar's lines and is not taken, for its page to show again."""
    typed = _typed_since(sent)
    if typed is None:
        return {}
    return {"lines": typed, "lines_were": editor.lines_of(bars, cursor.bar)}


def _newlines(text: str) -> str:
    return text.replace("\r\n", "\n").strip()


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
        done = editor.vary(code, fill and fill[1], bars, cursor)
        return drafts.change(draft, bars, done.bars, done.label), done.cursor, done.label
    done = editor.perform(op, bars, cursor, _copied(request), style_of(draft.owner_id))
    return drafts.change(draft, bars, done.bars, done.label), done.cursor, done.label


def _copied(request) -> tuple[Bar, ...]:
    return tuple(bar_from_json(data) for data in request.session.get(CLIPBOARD, []))


def _looked_at(sent, bars, cursor):
    """The hand on the bar that is asked for, if there is one."""
    goal = read_whole(sent.get("goto"), 0, len(bars) - 1)
    return cursor if goal is None else cursor.on(goal)


@require_POST
def editor_text(request, pk=None):
    """The music as typed so far, and what is wrong with the rest; where nothing can be read
    the bars stay as they were drawn."""
    text = request.POST.get("text", "")
    try:
        chart = read_text(text)
    except ChartError:
        chart = None
    with transaction.atomic():
        draft, page = _draft(request, pk), _page(request)
        why = _in_the_way(draft, page)
        if not why:
            drafts.sign(draft, page)
            _take_head(draft, request.POST)
            chart = _take_text(draft, text, chart)
            draft.save()
    if why:
        error = {"preview_error": f"{why}; save to put this text in its place."}
        response = render(request, "pieces/_preview_error.html", error)
        return retarget(response, "#preview-error")
    style = style_of(draft.owner_id)
    preview = preview_of_chart(chart, style) if chart else preview_of(text, style)
    if "preview" in preview:
        return render(request, "pieces/_preview.html", preview)
    response = render(request, "pieces/_preview_error.html", preview)
    return retarget(response, "#preview-error")


def _take_text(draft: Draft, text: str, chart: Chart | None) -> Chart | None:
    """The text as typed, and its bars where they can be read and be the draft's."""
    _keep_text(draft, text)
    try:
        if chart:
            _take_chart(draft, chart)
        return chart
    except ChartError:
        return None


def _keep_text(draft: Draft, text: str) -> None:
    """The page as it was typed, readable or not."""
    draft.text = text[:MOST_TEXT]
    draft.lines, draft.lines_bar = "", None


def _take_chart(draft: Draft, chart: Chart) -> None:
    drafts.change(draft, drafts.bars_of(draft), chart.bars, "typing", together=True)
    draft.title = draft.title or chart.title


def _text_page(request, draft: Draft, form=None, left: str = "", after=None) -> HttpResponse:
    text = draft.text or _as_typed(draft)
    preview = preview_of(text, style_of(draft.owner_id))
    context = {**_head(draft, form, after), **preview, "text": text, "as": "text"}
    if left and "preview_error" not in context:
        return _to_bars(request, draft)
    context["left"] = left
    return render(request, "pieces/editor/text.html", context, status=422 if form else 200)


def _as_typed(draft: Draft) -> str:
    """The text that the piece was typed as, with its comments and its own words, while it still
    says these bars."""
    bars = drafts.bars_of(draft)
    kept = draft.piece.typed if draft.piece else ""
    try:
        if kept and read_text(kept).bars == bars:
            return kept
    except ChartError:
        pass  # typed in an older way
    return write_chart(Chart("", bars))


def _to_bars(request, draft: Draft) -> HttpResponse:
    """From readable text to the bars."""
    Draft.objects.filter(pk=draft.pk).update(text="")
    return redirect(f"{_addresses(draft)['at']['edit']}?as=bars")


@require_POST
@transaction.atomic
def editor_save(request, pk=None):
    """The draft becomes the piece, if everything in it can be read."""
    draft = _draft(request, pk)
    page = _page(request)
    saved = page and drafts.saved_from(draft, page)
    if saved and _says_the_same(saved, request.POST):
        return redirect(saved)  # Save was pressed twice
    if why := _in_the_way(draft, page):
        return _not_saved(request, draft, why)
    drafts.sign(draft, page)
    _take_head(draft, request.POST)
    error = None
    try:
        if "text" in request.POST:
            _keep_text(draft, request.POST["text"])
            _take_chart(draft, read_text(request.POST["text"]))
        else:
            _take_lines(draft, drafts.bars_of(draft), request.POST, "save")
    except ChartError as caught:
        error = caught
    form = HeadForm(request.POST)
    if form.is_valid() and not error:
        piece = save_draft(draft, **form.cleaned_data)
        messages.success(request, "Saved. Plans and tries stay with their bars.")
        return redirect(piece)
    draft.save()
    if "text" in request.POST:
        return _text_page(request, draft, form, after=page)
    bars = drafts.bars_of(draft)
    cursor = editor.read_cursor(request.POST, bars)
    context = {**_head(draft, form, page), **bar_context(draft, bars, cursor), "as": "bars"}
    if error:
        context |= error_context(error, draft.lines)
    return render(request, "pieces/editor/bars.html", context, status=422)


def _says_the_same(piece: Piece, sent) -> bool:
    if "text" not in sent:
        return _typed_since(sent) is None
    try:
        return read_text(sent["text"]).bars == piece.chart().bars
    except ChartError:
        return False


def _not_saved(request, draft: Draft, why: str) -> HttpResponse:
    """The page again with what was typed; saving from it puts that in place."""
    form = HeadForm(request.POST)
    told = {"in_the_way": f"{why}. Save again to put what is on this page in its place."}
    if "text" in request.POST:
        text = request.POST["text"]
        preview = preview_of(text, style_of(draft.owner_id))
        context = {**_head(draft, form), **preview, "text": text, "as": "text", **told}
        return render(request, "pieces/editor/text.html", context, status=409)
    bars = drafts.bars_of(draft)
    cursor = editor.read_cursor(request.POST, bars)
    context = {**_head(draft, form), **bar_context(draft, bars, cursor), "as": "bars", **told}
    context |= _lines_kept(request.POST, bars, cursor)
    return render(request, "pieces/editor/bars.html", context, status=409)


@require_http_methods(["GET", "POST"])
def editor_discard(request, pk=None):
    draft = _draft(request, pk)
    back = draft.piece.get_absolute_url() if draft.piece else reverse("pieces")
    if request.method == "POST" or not draft.pk:
        if draft.pk:
            draft.delete()
            messages.success(request, "What was not saved is gone.")
        return redirect(back)
    what = f"the changes of {draft.piece.title}" if draft.piece else "the new piece"
    lost = "everything typed since it was last saved"
    words = {"verb": "Discard", "also": "This throws away", "what": what, "lost": lost}
    context = {**words, "for_good": True, "back": _addresses(draft)["at"]["edit"]}
    return render(request, "_delete.html", context)
