"""How much one private link may send, and how often an address may be guessed.

A link that is not known costs a guess of the machine that asked; a known one is counted by
itself, so that a flood through one student's link holds up nobody else.
"""

from collections.abc import Callable
from contextlib import suppress
from datetime import date
from functools import wraps
from hashlib import sha256

from django.core.cache import cache
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils import timezone
from django_ratelimit.core import is_ratelimited

from wren_ladder.studio.students.links import student_or_404
from wren_ladder.studio.students.models import Student

SENT = "90/m"  # forms and entries of one link
GUESSED = "30/m"  # addresses that lead nowhere, of one machine
A_MINUTE = "60"
FLOODED, FLOOD_TOLD = "flooded-", 7 * 24 * 3600  # seconds that the teacher is told of it


def limited(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    """For views of a private link, whose first argument is the signed address."""

    @wraps(view)
    def inner(request: HttpRequest, signed: str, *args, **kwargs) -> HttpResponse:
        link = sha256(signed.encode()).hexdigest()  # the address itself is kept nowhere
        sending = request.method == "POST"
        if sending and _is_over(request, "link", lambda group, request: link, SENT):
            _note_flood(signed)
            return _too_many(request)
        try:
            answer = view(request, signed, *args, **kwargs)
        except Http404:
            if _is_over(request, "guess", "ip", GUESSED):
                return _too_many(request)
            raise
        if answer.status_code == 404 and _is_over(request, "guess", "ip", GUESSED):
            return _too_many(request)
        return answer

    return inner


def _is_over(request: HttpRequest, group: str, key, rate: str) -> bool:
    return is_ratelimited(request, group=group, key=key, rate=rate, increment=True)


def _note_flood(signed: str) -> None:
    with suppress(Http404):  # nobody's
        student = student_or_404(signed)
        cache.set(f"{FLOODED}{student.pk}", timezone.localdate(), FLOOD_TOLD)


def last_flood(student: Student) -> date | None:
    """The day on which more came through the link than anybody sends, of the last week."""
    return cache.get(f"{FLOODED}{student.pk}")


def _too_many(request: HttpRequest) -> HttpResponse:
    answer = render(request, "429.html", status=429)
    answer["Retry-After"] = A_MINUTE
    return answer
