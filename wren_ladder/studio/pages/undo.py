"""What was done just now, taken back where it was done: the message that tells it has the key.

How is named by the page that did it: a function of the request and of plain values, a *way
back*, which says what it has made of it. Name and values travel in the message, signed for who
did it. Tries go by keys of their own (``changes/attempts.py``), for a phone sends them hours
later; what is worked on for long keeps its own earlier states (``pieces/drafts.py``).
"""

from collections.abc import Callable
from datetime import timedelta

from django.contrib import messages
from django.core import signing
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST

from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.changes.bin import BinError, put_back
from wren_ladder.studio.pages.requests import own_page
from wren_ladder.studio.students.taught import students_of

OPEN_FOR = timedelta(days=1)
SALT = "undo"
TOO_LATE = "It is too late to take that back here. What was deleted lies in the bin."

WAYS_BACK: dict[str, Callable[..., str]] = {}  # by the names of the functions


class StaysError(Exception):
    """Why it stays as it is, in words."""


def way_back(function: Callable[..., str]) -> Callable[..., str]:
    """(request, *values) → what is told. StaysError where it stays."""
    WAYS_BACK[function.__name__] = function
    return function


def tell_done(
    request: HttpRequest, said: str, way: Callable[..., str], *values: object, then: str = ""
) -> None:
    """Tell what was done, with the key that takes it back, and leads to ``then`` where the page
    that tells it may be gone."""
    messages.success(request, said, extra_tags=key_to(request, way, *values, then=then))


def key_to(
    request: HttpRequest, way: Callable[..., str], *values: object, then: str = ""
) -> str:
    """For a page that tells it in its own place."""
    return signing.dumps([request.user.pk, way.__name__, values, then], salt=SALT)


@require_POST
def undo(request: HttpRequest) -> HttpResponse:
    back = own_page(request.POST.get("back", "")) or "desk"
    try:
        whose, name, values, then = signing.loads(
            request.POST.get("done", ""), salt=SALT, max_age=OPEN_FOR
        )
    except signing.BadSignature:
        whose = None
    if whose is None or whose != request.user.pk:
        messages.error(request, TOO_LATE)
        return redirect(back)
    take_back(request, WAYS_BACK[name], *values)
    return redirect(then or back)


def take_back(request: HttpRequest, way: Callable[..., str], *values: object) -> None:
    """Gone that way, and told."""
    try:
        messages.success(request, way(request, *values))
    except Http404:
        messages.error(request, TOO_LATE)
    except StaysError as error:
        messages.error(request, str(error))


@way_back
def out_of_bin(request: HttpRequest, number: int) -> str:
    kept = Binned.objects.filter(pk=number).first()
    if kept is None or not may_bring_back(request, kept):
        raise StaysError("It is back already, or gone for good.")
    try:
        left_out = put_back(kept)
    except BinError as error:
        raise StaysError(str(error)) from error
    if not left_out:
        return f"{kept.what} is back, as it was."
    return f"{kept.what} is back, without {left_out}: what they belonged to is gone."


def may_bring_back(request: HttpRequest, kept: Binned) -> bool:
    """What the teacher's own bin holds, and what of students they teach another's does."""
    taught = students_of(request.user).filter(pk__in=kept.students).count()
    return kept.owner == request.user or 0 < taught == len(kept.students)
