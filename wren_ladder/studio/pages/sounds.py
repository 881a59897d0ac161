"""Sounds as they are sent: a recording of a piece, in parts where that is asked for, and what
the teacher said aloud."""

from django.http import FileResponse, Http404, HttpRequest, HttpResponse

from wren_ladder.studio.pages.ranges import part_of
from wren_ladder.studio.pieces.models import Recording

KEPT = "private, max-age=3600"


def sent_recording(request: HttpRequest, recording: Recording) -> HttpResponse:
    try:
        file = recording.file.open("rb")
    except FileNotFoundError:
        raise Http404("the file is not there any more") from None
    response = FileResponse(file, content_type=recording.content_type)
    response["Cache-Control"] = KEPT
    return part_of(response, request.headers.get("Range", ""), recording.size)


def sent_sound(sound: tuple[bytes, str] | None) -> HttpResponse:
    """(the sound, its kind); 404 where there is none."""
    if sound is None:
        raise Http404("nothing was said aloud")
    data, kind = sound
    return HttpResponse(data, content_type=kind, headers={"Cache-Control": KEPT})
