"""What arrives with a request is no more than a studio can use, and plain text, or it does not
arrive: one place for every form and every address.
"""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, QueryDict
from django.shortcuts import render
from django.urls import reverse

from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.plain_text import is_plain, plain

MOST_BODY = 64 << 20  # bytes: a recording is the largest
MOST_STUDIO = 260 << 20  # a whole studio with its recordings


class PlainRequestsMiddleware:
    """Takes out of fields and addresses what nothing here could store or show."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        most = MOST_STUDIO if request.path == reverse("studio-in") else MOST_BODY
        if (read_whole(request.META.get("CONTENT_LENGTH")) or 0) > most:
            told = {"most": most >> 20}
            return render(request, "413.html", told, status=413)
        if not _is_plain(request.GET):
            request.GET = _made_plain(request.GET)
        if request.method == "POST" and not _is_plain(request.POST):
            request.POST = _made_plain(request.POST)
        return self.get_response(request)


def _is_plain(sent: QueryDict) -> bool:
    return all(is_plain(one) for name in sent for one in (name, *sent.getlist(name)))


def _made_plain(sent: QueryDict) -> QueryDict:
    made = QueryDict(mutable=True)
    for name in sent:
        made.setlist(plain(name), [plain(one) for one in sent.getlist(name)])
    made._mutable = False
    return made
