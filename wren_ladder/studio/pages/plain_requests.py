"""What arrives with a request is plain text, or it does not arrive: one place for every form
and every address.
"""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, QueryDict

from wren_ladder.drumming.plain_text import is_plain, plain


class PlainRequestsMiddleware:
    """Takes out of fields and addresses what nothing here could store or show."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
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
