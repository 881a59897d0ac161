"""What arrives with a request is no more than a studio can use, and plain text, or it does not
arrive: one place for every form and every address.
"""

from collections.abc import Callable

from django.http import Http404, HttpRequest, HttpResponse, QueryDict
from django.shortcuts import render
from django.urls import resolve, reverse

from wren_ladder.drumming.plain_text import is_plain, plain
from wren_ladder.studio.students.links import student_or_404

MOST_OF_A_STRANGER = 64 << 10  # bytes: a log-in, taps; nothing else is theirs to send
MOST_BY_LINK = 2 << 20  # a take of many strokes
MOST_BODY = 64 << 20  # a recording is the largest
MOST_STUDIO = 260 << 20  # a whole studio with its recordings


ENDLESS = 1 << 62


class PlainRequestsMiddleware:
    """Takes out of fields and addresses what nothing here could store or show. Behind the
    log-in, for a large body is read of somebody known only."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.headers.get("Transfer-Encoding"):  # a body that does not say how long it is
            return render(request, "411.html", status=411)
        length = _length(request)
        most = _most(request) if length > MOST_OF_A_STRANGER else MOST_OF_A_STRANGER
        if length > most:
            return render(request, "413.html", {"most": _said(most)}, status=413)
        if not _is_plain(request.GET):
            request.GET = _made_plain(request.GET)
        if request.method == "POST" and not _is_plain(request.POST):
            request.POST = _made_plain(request.POST)
        return self.get_response(request)


def _said(most: int) -> str:
    return f"{most >> 20} MB" if most >> 20 else f"{most >> 10} KB"


def _length(request: HttpRequest) -> int:
    """Bytes of the body, as announced, whatever number that is."""
    said = (request.META.get("CONTENT_LENGTH") or "0").strip()
    return int(said) if said.isascii() and said.isdigit() and len(said) < 1000 else ENDLESS


def _most(request: HttpRequest) -> int:
    """Bytes that whoever asks may send: asked before any of them is read."""
    if request.user.is_authenticated:
        return MOST_STUDIO if request.path == reverse("studio-in") else MOST_BODY
    try:
        student_or_404(resolve(request.path).kwargs.get("signed", ""))
    except Http404:
        return MOST_OF_A_STRANGER
    return MOST_BY_LINK


def _is_plain(sent: QueryDict) -> bool:
    return all(is_plain(one) for name in sent for one in (name, *sent.getlist(name)))


def _made_plain(sent: QueryDict) -> QueryDict:
    made = QueryDict(mutable=True)
    for name in sent:
        made.setlist(plain(name), [plain(one) for one in sent.getlist(name)])
    made._mutable = False
    return made
