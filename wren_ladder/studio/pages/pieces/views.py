"""Pieces: list, look at, take out as a file, delete."""

from django.core.paginator import Paginator
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.utils.text import slugify
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from wren_ladder.drumming.files import WRITTEN, write_file
from wren_ladder.studio.changes.pieces import flip_hand
from wren_ladder.studio.pages.deleting import confirm_delete
from wren_ladder.studio.pages.pieces.bar_page import bar_page_context
from wren_ladder.studio.pages.pieces.chain_page import chain_context
from wren_ladder.studio.pages.pieces.list_page import piece_cards
from wren_ladder.studio.pages.pieces.road_page import road_context
from wren_ladder.studio.pages.pieces.score_page import score_context
from wren_ladder.studio.pages.pieces.vocabulary_page import vocabulary_context
from wren_ladder.studio.pages.pieces.wall_page import panel_context, wall_context
from wren_ladder.studio.pages.plans.lookups import plans_of
from wren_ladder.studio.pages.printing import inside_drawing, pdf
from wren_ladder.studio.pages.requests import (
    number_asked,
    owned_or_404,
    piece_to_read_or_404,
    words_asked,
)
from wren_ladder.studio.pages.undo import StaysError, tell_done, way_back
from wren_ladder.studio.pages.workshop.own_page import ShelfForm, can_be_put
from wren_ladder.studio.pieces.models import Draft, Import, Piece
from wren_ladder.studio.scans.models import Scan
from wren_ladder.studio.students.taught import students_of

PAGE = 40


@require_safe
def piece_list(request):
    query = words_asked(request)
    pieces = Piece.objects.filter(owner=request.user, kind=Piece.Kind.PIECE)
    if query:
        pieces = pieces.filter(title__icontains=query)
    page = Paginator(pieces, PAGE).get_page(request.GET.get("page"))
    asked = students_of(request.user).filter(pk=number_asked(request, "for") or 0).first()
    begun = Draft.objects.filter(owner=request.user).select_related("piece")
    read = Import.objects.filter(owner=request.user).defer("data")
    scans = Scan.objects.filter(owner=request.user, piece=None)
    context = {
        "page": page,
        "scans": scans,
        "waiting": len(read) + len(scans),
        "cards": piece_cards(request.user, list(page), asked),
        "query": query,
        "begun": begun,
        "read": read,
        "asked": asked,
    }
    return render(request, "pieces/list.html", context)


@require_safe
def piece_page(request, pk):
    piece = piece_to_read_or_404(request.user, pk)
    plans = plans_of(piece.plans, request.user).select_related("student", "standing__held_by")
    model = next((plan for plan in plans if not plan.student_id), None)
    context = {
        **wall_context(request, piece),
        "plans": [plan for plan in plans if plan.student_id],
        "model_plan": model,
        "model_lines": model.lines if model else 0,
        "today": timezone.localdate(),
        "shelf_form": ShelfForm(initial={"target": piece.tempo.bpm})
        if can_be_put(piece, request.user)
        else None,
    }
    return render(request, "pieces/piece.html", context)


@require_safe
def bar_panel(request, pk, index):
    piece = piece_to_read_or_404(request.user, pk)
    return render(request, "pieces/_bar.html", panel_context(request, piece, index))


@require_safe
def bar_page(request, pk, index):
    piece = piece_to_read_or_404(request.user, pk)
    return render(request, "pieces/bar.html", bar_page_context(request, piece, index))


@require_safe
def bar_chain(request, pk, index):
    """To this bar from another, one change at a time."""
    piece = piece_to_read_or_404(request.user, pk)
    return render(request, "pieces/chain.html", chain_context(request, piece, index))


@require_POST
def bar_flip(request, pk, index):
    """Write the other hand at one stroke; the row stays."""
    piece = owned_or_404(Piece, request.user, pk)
    stroke = request.POST.get("stroke", "")
    try:
        before = flip_hand(piece, index, stroke)
    except ValueError:
        raise Http404("no such stroke") from None
    said = "The hand is written on the page now, for every plan of it."
    tell_done(request, said, hand_of_before, pk, index, stroke, before or "-")
    return redirect("bar-page", piece.pk, index)


@way_back
def hand_of_before(request, pk: int, index: int, stroke: str, before: str) -> str:
    try:
        flip_hand(owned_or_404(Piece, request.user, pk), index, stroke, before)
    except ValueError:
        raise StaysError("The bar is another one by now: its hands stay.") from None
    return "The hand is as it was."


@require_safe
def piece_vocabulary(request, pk):
    piece = piece_to_read_or_404(request.user, pk)
    return render(request, "pieces/vocabulary.html", vocabulary_context(request, piece))


@require_safe
def piece_vocabulary_pdf(request, pk):
    piece = piece_to_read_or_404(request.user, pk)
    context = vocabulary_context(request, piece)
    return pdf(request, "pieces/vocabulary_sheet.html", context, f"{piece.title} vocabulary")


@require_safe
def piece_road(request, pk):
    piece = piece_to_read_or_404(request.user, pk)
    return render(request, "pieces/road.html", road_context(request, piece))


@require_safe
def piece_score(request, pk):
    piece = piece_to_read_or_404(request.user, pk)
    return render(request, "pieces/score.html", score_context(request, piece))


@require_safe
def piece_score_pdf(request, pk):
    piece = piece_to_read_or_404(request.user, pk)
    return pdf(request, "pieces/score_sheet.html", score_context(request, piece), piece.title)


@require_safe
def piece_road_pdf(request, pk):
    piece = piece_to_read_or_404(request.user, pk)
    title = f"{piece.title} road map"
    context = {**road_context(request, piece), "printed": inside_drawing("road-printed.css")}
    return pdf(request, "pieces/road_sheet.html", context, title)


@require_safe
def piece_file(request, pk, ending):
    """The piece as a file for other programs: MusicXML, MIDI, typed bars or MEI."""
    piece = piece_to_read_or_404(request.user, pk)
    if f".{ending}" not in WRITTEN:
        raise Http404("no such kind of file")
    name = f"{slugify(piece.title) or 'piece'}.{ending}"
    data = write_file(name, piece.chart(), count_in="count-in" in request.GET)
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(data, content_type="application/octet-stream", headers=headers)


@require_http_methods(["GET", "POST"])
def piece_delete(request, pk):
    piece = owned_or_404(Piece, request.user, pk)
    theirs = piece.plans.exclude(student=None)
    climbing = list(theirs.order_by("student__name").values_list("student__name", flat=True))
    lost = f"its {piece.bar_count} bars"
    if climbing:
        lost += f", and the plans and tries of {', '.join(climbing)}"
    return confirm_delete(
        request,
        piece,
        what=piece.title,
        lost=lost,
        back=piece.get_absolute_url(),
        then="pieces",
        done=f"{piece.title} is deleted.",
    )
