"""What a page says when the database cannot do what was asked: busy, full, read-only, damaged.

Nothing was stored then: what was typed is still in the page that sent it.
"""

from collections.abc import Callable
from dataclasses import dataclass

from django.conf import settings
from django.db import DatabaseError
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

from wren_ladder.studio.keeping.catching_up import progress

AGAIN = 5  # seconds until a script tries again


@dataclass(frozen=True, slots=True)
class Fault:
    sign: str  # in SQLite's own message
    title: str
    said: str


FAULTS = (
    Fault(
        "locked",
        "The studio is busy",
        "Another program writes into it just now. Go back, and send it again in a moment.",
    ),
    Fault(
        "disk is full",
        "The disk is full",
        "There is no room to write. Make room on the studio's machine, then send it again.",
    ),
    Fault(
        "readonly",
        "The studio cannot write",
        "Its database can only be read. Give it back its right to write, then send it again.",
    ),
    Fault(
        "malformed",
        "The database is damaged",
        "Stop the studio and bring back the last backup: ./wren restore FILE",
    ),
    Fault(
        "disk I/O error",
        "The disk does not answer",
        "Look at the studio's disk; then start the studio again.",
    ),
)


class FaultsMiddleware:
    """A clear page in place of "something broke"."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if at := progress(settings.DATA):
            answer = render(request, "catching_up.html", {"at": at}, status=503)
            answer["Retry-After"] = str(AGAIN)
            answer["Refresh"] = str(AGAIN)
            return answer
        return self.get_response(request)

    def process_exception(self, request: HttpRequest, error: Exception) -> HttpResponse | None:
        if not isinstance(error, DatabaseError):
            return None
        said = str(error)
        fault = next((one for one in FAULTS if one.sign in said), None)
        if fault is None:
            return None
        answer = render(request, "503.html", {"fault": fault}, status=503)
        answer["Retry-After"] = str(AGAIN)
        return answer
