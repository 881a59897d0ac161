"""The chart editor, all of it as text."""

from django.db import transaction
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST
from django_htmx.http import retarget

from wren_ladder.drumming.chart import Chart, ChartError
from wren_ladder.drumming.notation.counts import write_chart
from wren_ladder.studio.pages.editor.drafting import (
    addresses_of,
    draft_asked,
    head_of,
    in_the_way,
    page_of,
    take_head,
)
from wren_ladder.studio.pages.pieces.wall_page import (
    MOST_TEXT,
    preview_of,
    preview_of_chart,
    read_text,
)
from wren_ladder.studio.pieces import drafts
from wren_ladder.studio.pieces.models import Draft
from wren_ladder.studio.teaching.models import style_of


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
        draft, page = draft_asked(request, pk), page_of(request)
        why = in_the_way(draft, page)
        if not why:
            drafts.sign(draft, page)
            take_head(draft, request.POST)
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
    keep_text(draft, text)
    try:
        if chart:
            take_chart(draft, chart)
        return chart
    except ChartError:
        return None


def keep_text(draft: Draft, text: str) -> None:
    """The page as it was typed, readable or not."""
    draft.text = text[:MOST_TEXT]
    draft.lines, draft.lines_bar = "", None


def take_chart(draft: Draft, chart: Chart) -> None:
    drafts.change(draft, drafts.bars_of(draft), chart.bars, "typing", together=True)
    draft.title = draft.title or chart.title


def text_page(request, draft: Draft, form=None, left: str = "", after=None) -> HttpResponse:
    text = draft.text or _as_typed(draft)
    preview = preview_of(text, style_of(draft.owner_id))
    context = {**head_of(draft, form, after), **preview, "text": text, "as": "text"}
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
    return redirect(f"{addresses_of(draft)['at']['edit']}?as=bars")
