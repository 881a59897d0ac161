"""The practice room of a piece, and the recording beside it."""

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from wren_ladder.studio.changes.recordings import attach, place
from wren_ladder.studio.pages.deleting import tell_binned
from wren_ladder.studio.pages.piece_room.page import (
    kind_of,
    read_anchors,
    room_context,
    why_not,
)
from wren_ladder.studio.pages.requests import owned_or_404, piece_to_read_or_404
from wren_ladder.studio.pages.sounds import sent_recording
from wren_ladder.studio.pieces.models import Piece, Recording


@require_safe
def piece_room(request, pk):
    piece = piece_to_read_or_404(request.user, pk)
    context = room_context(piece, request.GET.get("with") == "recording")
    return render(request, "pieces/room.html", context)


@require_POST
def recording_attach(request, pk):
    piece = owned_or_404(Piece, request.user, pk)
    file = request.FILES.get("recording")
    if wrong := why_not(file):
        messages.error(request, f"Not attached: {wrong}.")
        return redirect("piece-room", pk)
    attach(piece, file, kind_of(file))
    messages.success(request, f"{file.name} is attached. Say where its bars are.")
    return redirect("piece-room", pk)


@require_POST
def recording_place(request, pk):
    recording = _recording(owned_or_404(Piece, request.user, pk))
    try:
        place(recording, read_anchors(recording, request.POST))
    except ValueError as error:
        messages.error(request, f"Not placed: {error}.")
        context = room_context(recording.piece, False) | {"sent": request.POST}
        return render(request, "pieces/room.html", context, status=422)
    messages.success(request, "The recording follows the notes now.")
    return redirect(f"{request.path.removesuffix('recording/place/')}?with=recording")


@require_POST
def recording_delete(request, pk):
    recording = _recording(owned_or_404(Piece, request.user, pk))
    what = f"The recording {recording.name} of {recording.piece}"
    tell_binned(
        request,
        recording,
        request.user,
        what,
        "the sound file",
        "The recording is gone.",
    )
    return redirect("piece-room", pk)


@require_safe
def recording_file(request, pk) -> HttpResponse:
    """The file to the piece's teachers, whole or the part that a player asks for."""
    return sent_recording(request, _recording(piece_to_read_or_404(request.user, pk)))


def _recording(piece: Piece) -> Recording:
    recording = Recording.objects.filter(piece=piece).first()
    if recording is None:
        raise Http404("there is no recording")
    return recording
