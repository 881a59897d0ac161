"""The house's own sentences in the note names that a teacher chose, where they are said.

The core says crotchet. Whatever puts a sentence of the house onto a page or paper passes it
through ``in_names`` (in templates: ``|named``); what somebody typed never goes through it.
"""

from collections.abc import Callable
from contextvars import ContextVar

from django.http import HttpRequest, HttpResponse
from django.utils.safestring import SafeString, mark_safe

from wren_ladder.drumming.note_names import NAMES, in_american
from wren_ladder.drumming.style import NoteNames
from wren_ladder.studio.teaching.models import style_of


class _Reader:
    """Who reads the page that is being made; their names are asked for once, if at all."""

    def __init__(self, request: HttpRequest) -> None:
        self.request, self.american = request, None

    @property
    def reads_american(self) -> bool:
        if self.american is None:
            user = getattr(self.request, "user", None)
            teacher = getattr(self.request, "teaches", None) or getattr(user, "pk", None)
            self.american = bool(teacher) and speaks_american(teacher)
        return self.american


_reader: ContextVar[_Reader | None] = ContextVar("reader", default=None)


def speaks_american(owner_id: int) -> bool:
    return style_of(owner_id).note_names is NoteNames.QUARTERS


def in_names(said: str) -> str:
    """A sentence of the house, for whoever reads the page."""
    reader = _reader.get()
    if reader is None or not NAMES.search(said) or not reader.reads_american:
        return said
    american = in_american(said)
    return mark_safe(american) if isinstance(said, SafeString) else american


class NoteNamesMiddleware:
    """For the teacher who is logged in, or whose student opens a page (``request.teaches``)."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        token = _reader.set(_Reader(request))
        try:
            return self.get_response(request)
        finally:
            _reader.reset(token)
