"""The draft becomes the piece, or is thrown away."""

from django.contrib import messages
from django.db import transaction
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST

from wren_ladder.drumming.chart import ChartError
from wren_ladder.studio.changes.pieces import save_draft
from wren_ladder.studio.pages.editor import presses
from wren_ladder.studio.pages.editor.drafting import (
    addresses_of,
    draft_asked,
    head_of,
    in_the_way,
    lines_kept,
    page_of,
    take_head,
    take_lines,
    typed_since,
)
from wren_ladder.studio.pages.editor.page import (
    bar_context,
)
from wren_ladder.studio.pages.editor.text import keep_text, take_chart, text_page
from wren_ladder.studio.pages.pieces.forms import HeadForm
from wren_ladder.studio.pages.pieces.wall_page import (
    error_context,
    preview_of,
    read_text,
)
from wren_ladder.studio.pieces import drafts
from wren_ladder.studio.pieces.models import Draft, Piece
from wren_ladder.studio.teaching.models import style_of


@require_POST
@transaction.atomic
def editor_save(request, pk=None):
    """The draft becomes the piece, if everything in it can be read."""
    draft = draft_asked(request, pk)
    page = page_of(request)
    saved = page and drafts.saved_from(draft, page)
    if saved and _says_the_same(saved, request.POST):
        return redirect(saved)  # Save was pressed twice
    if why := in_the_way(draft, page):
        return _not_saved(request, draft, why)
    drafts.sign(draft, page)
    take_head(draft, request.POST)
    error = None
    try:
        if "text" in request.POST:
            keep_text(draft, request.POST["text"])
            take_chart(draft, read_text(request.POST["text"]))
        else:
            take_lines(draft, drafts.bars_of(draft), request.POST, "save")
    except ChartError as caught:
        error = caught
    form = HeadForm(request.POST)
    if form.is_valid() and not error:
        piece = save_draft(draft, **form.cleaned_data)
        messages.success(request, "Kept. Plans and tries stay with their bars.")
        return redirect(piece)
    draft.save()
    if "text" in request.POST:
        return text_page(request, draft, form, after=page)
    bars = drafts.bars_of(draft)
    cursor = presses.read_cursor(request.POST, bars)
    context = {**head_of(draft, form, page), **bar_context(draft, bars, cursor), "as": "bars"}
    if error:
        context |= error_context(error, draft.lines)
    return render(request, "pieces/editor/bars.html", context, status=422)


def _says_the_same(piece: Piece, sent) -> bool:
    if "text" not in sent:
        return typed_since(sent) is None
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
        context = {**head_of(draft, form), **preview, "text": text, "as": "text", **told}
        return render(request, "pieces/editor/text.html", context, status=409)
    bars = drafts.bars_of(draft)
    cursor = presses.read_cursor(request.POST, bars)
    context = {**head_of(draft, form), **bar_context(draft, bars, cursor), "as": "bars", **told}
    context |= lines_kept(request.POST, bars, cursor)
    return render(request, "pieces/editor/bars.html", context, status=409)


@require_http_methods(["GET", "POST"])
def editor_discard(request, pk=None):
    draft = draft_asked(request, pk)
    back = draft.piece.get_absolute_url() if draft.piece else reverse("pieces")
    if request.method == "POST" or not draft.pk:
        if draft.pk:
            draft.delete()
            messages.success(request, "What was not kept is gone.")
        return redirect(back)
    what = f"the changes of {draft.piece.title}" if draft.piece else "the new piece"
    lost = "everything typed since it was last kept"
    words = {"verb": "Discard", "also": "This throws away", "what": what, "lost": lost}
    context = {**words, "for_good": True, "back": addresses_of(draft)["at"]["edit"]}
    return render(request, "_delete.html", context)
