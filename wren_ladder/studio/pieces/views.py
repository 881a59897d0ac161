"""Pieces: list, enter, look at, change, delete."""

from django.contrib import messages
from django.core.paginator import Paginator
from django.db import transaction
from django.http import Http404
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe
from django_htmx.http import retarget

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import Study, study
from wren_ladder.drumming.style import HOUSE
from wren_ladder.drumming.units import clock
from wren_ladder.studio.drawing.engraving import BAR_WIDTH, engrave
from wren_ladder.studio.drawing.limb_view import limb_view
from wren_ladder.studio.drawing.wall import tag_of
from wren_ladder.studio.lessons.models import Plan
from wren_ladder.studio.pieces.forms import MOST_TEXT, PieceForm, UploadForm
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.pieces.services import add_piece, save_chart
from wren_ladder.studio.pieces.studies import study_of, wall_of
from wren_ladder.studio.requests import owned_or_404, posted

PAGE = 40


@require_safe
def piece_list(request):
    query = request.GET.get("q", "").strip()
    pieces = Piece.objects.filter(owner=request.user)
    if query:
        pieces = pieces.filter(title__icontains=query)
    page = Paginator(pieces, PAGE).get_page(request.GET.get("page"))
    return render(request, "pieces/list.html", {"page": page, "query": query})


@require_http_methods(["GET", "POST"])
def piece_new(request):
    form = PieceForm(posted(request))
    if form.is_valid():
        piece = add_piece(
            request.user,
            form.chart,
            grade=form.cleaned_data["grade"],
            notes=form.cleaned_data["notes"],
        )
        return redirect(piece)
    return _editor(request, form, "New piece")


@require_http_methods(["GET", "POST"])
def piece_edit(request, pk):
    piece = owned_or_404(Piece, request.user, pk)
    form = PieceForm(posted(request), instance=piece)
    if form.is_valid():
        with transaction.atomic():
            form.save()
            save_chart(piece, form.chart)
        messages.success(request, "Saved. Plans and attempts stay with their bars.")
        return redirect(piece)
    return _editor(request, form, f"Edit {piece.title}", piece)


def _editor(request, form, heading, piece=None):
    text = form["text"].value() or ""
    context = {"form": form, "heading": heading, "piece": piece, **preview_of(text)}
    status = 422 if form.is_bound else 200
    return render(request, "pieces/edit.html", context, status=status)


@require_POST
def piece_preview(request):
    """The music as typed so far; while a word is wrong, only the error's place changes."""
    context = preview_of(request.POST.get("text", ""))
    if "preview_error" not in context:
        return render(request, "pieces/_preview.html", context)
    response = render(request, "pieces/_preview_error.html", context)
    return retarget(response, "#preview-error")


def preview_of(text: str) -> dict:
    """What the typed text gives: the bars that are new, drawn, or the error's place."""
    if len(text) > MOST_TEXT:
        return {"preview_error": ChartError("that is too much text for one piece")}
    try:
        studied = study(read_chart(text))
    except ChartError as error:
        return {"preview_error": error, "error_line": _error_line(text, error)}
    return {"preview": studied, "preview_bars": _preview_bars(studied), **_facts(studied)}


def _error_line(text: str, error: ChartError) -> dict | None:
    if not error.place:
        return None
    lines = text.splitlines()
    line = lines[error.place.line - 1] if error.place.line <= len(lines) else ""
    start = error.place.column - 1
    end = start + len(error.place.word)
    return {"before": line[:start], "word": line[start:end], "after": line[end:]}


def _preview_bars(studied: Study) -> list[dict]:
    return [
        {
            "number": bar.bar.number,
            "tag": tag_of(bar, studied),
            "svg": engrave([bar], Layout(), BAR_WIDTH, f"p{index}-"),
        }
        for index, bar in enumerate(studied.bars)
        if bar.twin_of is None
    ]


def _facts(studied: Study) -> dict:
    return {
        "length": clock(studied.seconds),
        "played": len(studied.visits),
        "again": sum(bar.twin_of is not None for bar in studied.bars),
    }


@require_http_methods(["GET", "POST"])
def piece_upload(request):
    form = UploadForm(posted(request), request.FILES)
    if form.is_valid():
        report = [str(problem) for problem in form.problems]
        piece = add_piece(
            request.user,
            form.chart,
            grade=form.cleaned_data["grade"],
            import_report=report,
        )
        messages.success(request, f"{len(form.chart.bars)} bars read.")
        return redirect(piece)
    status = 422 if form.is_bound else 200
    return render(request, "pieces/upload.html", {"form": form}, status=status)


@require_safe
def piece_page(request, pk):
    piece = owned_or_404(Piece, request.user, pk)
    plans = piece.plans.select_related("student", "held_by")
    context = {
        **wall_context(request, piece),
        "plans": [plan for plan in plans if plan.student_id],
        "model_plan": next((plan for plan in plans if not plan.student_id), None),
        "today": timezone.localdate(),
    }
    return render(request, "pieces/piece.html", context)


@require_safe
def bar_panel(request, pk, index):
    piece = owned_or_404(Piece, request.user, pk)
    return render(request, "pieces/_bar.html", panel_context(request, piece, index))


def wall_context(request, piece: Piece, plan: Plan | None = None) -> dict:
    """The wall and the opened bar, for the piece itself or for one student's plan."""
    style = plan.student.style if plan else HOUSE
    studied = study_of(piece, style)
    asked = request.GET.get("bar", "0")
    index = int(asked) if asked.isdigit() and int(asked) < len(studied.bars) else 0
    return {
        "piece": piece,
        "plan": plan,
        "rows": wall_of(piece, style),
        "warnings": studied.warnings,
        "played": len(studied.visits),
        **panel_context(request, piece, index, plan),
    }


def panel_context(request, piece: Piece, index: int, plan: Plan | None = None) -> dict:
    """One bar opened: staff, count, hands and the limb view."""
    if plan is None and request.GET.get("plan", "").isdigit():
        plan = owned_or_404(
            Plan.objects.select_related("student"), request.user, request.GET["plan"]
        )
    style = plan.student.style if plan and plan.student_id else HOUSE
    studied = study_of(piece, style)
    if not 0 <= index < len(studied.bars):
        raise Http404("no such bar")
    bar = studied.bars[index]
    shown = [limb for limb in Limb if limb.value in request.GET.getlist("limb")] or list(Limb)
    return {
        "piece": piece,
        "plan": plan,
        "index": index,
        "last_index": len(studied.bars) - 1,
        "opened": bar,
        "twin_tag": tag_of(bar, studied) if bar.twin_of is not None else "",
        "staff": engrave([bar], Layout(), BAR_WIDTH, "open-"),
        "limbs": limb_view(bar, shown),
        "limb_names": [(limb.value, limb in shown) for limb in Limb],
    }


@require_http_methods(["GET", "POST"])
def piece_delete(request, pk):
    piece = owned_or_404(Piece, request.user, pk)
    if request.method == "POST":
        piece.delete()
        messages.success(request, f"{piece.title} is deleted.")
        return redirect("pieces")
    climbing = [plan.student.name for plan in piece.plans.exclude(student=None)]
    lost = f"its {piece.bar_count} bars"
    if climbing:
        lost += f", and the plans and attempts of {', '.join(climbing)}"
    context = {"what": piece.title, "lost": lost, "back": piece.get_absolute_url()}
    return render(request, "_delete.html", context)
