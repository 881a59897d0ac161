"""Headers of every answer, files and errors too: what a page may ask the browser for (nothing,
but where a take is recorded), and that no machine in between keeps it."""

from collections.abc import Callable
from functools import wraps

from django.http import HttpRequest, HttpResponse

HEADER = "Permissions-Policy"
NEVER = (
    "camera",
    "geolocation",
    "payment",
    "usb",
    "serial",
    "hid",
    "display-capture",
)
KEPT_BY_NOBODY = "private, no-store"  # not for going back either: what it shows is over
ASKED_AGAIN = "private, no-cache"  # what everybody may see
TO_RECORD = ("microphone", "midi")


class HeadersMiddleware:
    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        answer = self.get_response(request)
        answer.headers.setdefault(HEADER, _policy(recording=False))
        somebody = getattr(request, "user", None)
        known = somebody is not None and somebody.is_authenticated
        answer.headers.setdefault("Cache-Control", KEPT_BY_NOBODY if known else ASKED_AGAIN)
        return answer


def records(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    """A page that hears a kit or a microphone."""

    @wraps(view)
    def allowed(request: HttpRequest, *arguments, **named) -> HttpResponse:
        answer = view(request, *arguments, **named)
        answer.headers[HEADER] = _policy(recording=True)
        return answer

    return allowed


def _policy(recording: bool) -> str:
    own = "self" if recording else ""
    each = [f"{name}=({own})" for name in TO_RECORD] + [f"{name}=()" for name in NEVER]
    return ", ".join(each)
