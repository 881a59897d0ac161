"""Pieces: list, upload, look at, take out, delete; the editor has views of its own."""

from django.contrib import messages
from django.core.paginator import Paginator
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.utils.text import slugify
from django.views.decorators.http import require_http_methods, require_safe

from wren_ladder.drumming.files import WRITTEN, write_file
from wren_ladder.studio.pieces.forms import UploadForm
from wren_ladder.studio.pieces.models import Draft, Piece
from wren_ladder.studio.pieces.pages import panel_context, wall_context
from wren_ladder.studio.pieces.road import road_context
from wren_ladder.studio.pieces.score import score_context, score_pdf
from wren_ladder.studio.pieces.services import add_piece
from wren_ladder.studio.requests import confirm_delete, owned_or_404, posted

PAGE = 40


@require_safe
def piece_list(request):
    query = request.GET.get("q", "").strip()
    pieces = Piece.objects.filter(owner=request.user)
    if query:
        pieces = pieces.filter(title__icontains=query)
    page = Paginator(pieces, PAGE).get_page(request.GET.get("page"))
    begun = Draft.objects.filter(owner=request.user).select_related("piece")
    context = {"page": page, "query": query, "begun": begun}
    return render(request, "pieces/list.html", context)


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


@require_safe
def piece_road(request, pk):
    piece = owned_or_404(Piece, request.user, pk)
    return render(request, "pieces/road.html", road_context(request, piece))


@require_safe
def piece_score(request, pk):
    piece = owned_or_404(Piece, request.user, pk)
    return render(request, "pieces/score.html", score_context(request, piece))


@require_safe
def piece_score_pdf(request, pk):
    piece = owned_or_404(Piece, request.user, pk)
    pdf = score_pdf(score_context(request, piece))
    name = slugify(piece.title) or "piece"
    headers = {"Content-Disposition": f'inline; filename="{name}.pdf"'}
    return HttpResponse(pdf, content_type="application/pdf", headers=headers)


@require_safe
def piece_file(request, pk, ending):
    """The piece as a file for other programs: MusicXML, MIDI, typed bars or MEI."""
    piece = owned_or_404(Piece, request.user, pk)
    if f".{ending}" not in WRITTEN:
        raise Http404("no such kind of file")
    name = f"{slugify(piece.title) or 'piece'}.{ending}"
    data = write_file(name, piece.chart(), count_in="count-in" in request.GET)
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(data, content_type="application/octet-stream", headers=headers)


@require_http_methods(["GET", "POST"])
def piece_delete(request, pk):
    piece = owned_or_404(Piece, request.user, pk)
    climbing = [plan.student.name for plan in piece.plans.exclude(student=None)]
    lost = f"its {piece.bar_count} bars"
    if climbing:
        lost += f", and the plans and attempts of {', '.join(climbing)}"
    return confirm_delete(
        request,
        piece,
        what=piece.title,
        lost=lost,
        back=piece.get_absolute_url(),
        then="pieces",
        done=f"{piece.title} is deleted.",
    )
