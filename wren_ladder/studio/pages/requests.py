"""What every view asks of a request: whose things may be seen, and was a form sent."""

from typing import TypeVar
from urllib.parse import urlsplit
from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.db.models import Model, Q, QuerySet
from django.http import HttpRequest, QueryDict
from django.shortcuts import get_object_or_404
from django.utils.http import url_has_allowed_host_and_scheme

from wren_ladder.drumming.numbers import read_whole
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of

MOST_SEARCHED = 200
M = TypeVar("M", bound=Model)


def owned_or_404(found: type[M] | QuerySet[M], user: AbstractBaseUser, pk: int) -> M:
    """The teacher's own object; Http404 for anyone else's, as if it did not exist."""
    return get_object_or_404(found, pk=pk, owner=user)


def taught_or_404(user: AbstractBaseUser, pk: int) -> Student:
    """A student whom the teacher teaches, their own or together with a colleague."""
    return get_object_or_404(students_of(user), pk=pk)


def piece_to_read_or_404(user: AbstractBaseUser, pk: int) -> Piece:
    """The teacher's own piece, or one that a student climbs whom they teach as the second."""
    climbed = Q(plans__student__in=students_of(user))
    return get_object_or_404(Piece.objects.filter(Q(owner=user) | climbed).distinct(), pk=pk)


def posted(request: HttpRequest) -> QueryDict | None:
    """The form that was sent, None where the page is only looked at."""
    return request.POST if request.method == "POST" else None


def number_asked(request: HttpRequest, name: str) -> int | None:
    """A number in the address, None where there is none."""
    return read_whole(request.GET.get(name))


def own_page(address: str) -> str:
    """An address of this studio, or nothing: a form never leads elsewhere."""
    own = url_has_allowed_host_and_scheme(address, allowed_hosts=None)
    return address if own and address.startswith("/") else ""


def came_from(request: HttpRequest) -> str:
    """The page of the studio on which a form was opened, as its field ``came_from`` carries it
    on; empty where it was opened by itself."""
    if request.method == "POST":
        page = request.POST.get("came_from", "")
    else:
        found = urlsplit(request.headers.get("referer", ""))
        page = f"{found.path}?{found.query}" if found.query else found.path
        page = page if found.netloc == request.get_host() and found.path != request.path else ""
    return own_page(page)


def words_asked(request: HttpRequest) -> str:
    """What is searched for: no longer than any name here, for the database looks no further."""
    return request.GET.get("q", "").strip()[:MOST_SEARCHED]


def read_key(text: object) -> UUID | None:
    """A key that a page made up for a form or an entry, None where there is none."""
    try:
        return UUID(str(text))
    except ValueError:
        return None
