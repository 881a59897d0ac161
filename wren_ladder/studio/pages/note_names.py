"""Pages and paper in the note names that a teacher chose: the house writes the British ones,
and they are put into American ones as the last thing, in the words and never in what was typed.
"""

import re
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from wren_ladder.drumming.note_names import in_american
from wren_ladder.drumming.style import NoteNames
from wren_ladder.studio.teaching.models import style_of

TAGS = re.compile(r"(<[^>]*>)")
# What stands in these is notation, a script or somebody's own text.
KEPT = re.compile(r"<(/?)(textarea|script|style|code|pre|kbd|option)\b", re.IGNORECASE)
SAID = re.compile(r'\b(aria-label|title|placeholder)="([^"]*)"')


def american_page(html: str) -> str:
    """The words of a page and its spoken labels; whatever is typed or notation stays."""
    found, kept = [], ""
    for part in TAGS.split(html):
        if part.startswith("<"):
            tag = KEPT.match(part)
            if tag and not kept and not tag[1]:
                kept = tag[2].lower()
            elif tag and tag[1] and tag[2].lower() == kept:
                kept = ""
            found.append(SAID.sub(_said, part))
        else:
            found.append(part if kept else in_american(part))
    return "".join(found)


def _said(label: re.Match) -> str:
    return f'{label[1]}="{in_american(label[2])}"'


def speaks_american(owner_id: int) -> bool:
    return style_of(owner_id).note_names is NoteNames.QUARTERS


class NoteNamesMiddleware:
    """For the teacher who is logged in, or whose student opens a page (``request.teaches``)."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        answer = self.get_response(request)
        html = answer.get("Content-Type", "").startswith("text/html")
        if not html or answer.streaming or not _names_notes(answer.content):
            return answer
        teacher = getattr(request, "teaches", None) or request.user.pk
        if teacher and speaks_american(teacher):
            answer.content = american_page(answer.content.decode())
        return answer


def _names_notes(content: bytes) -> bool:
    return any(word in content for word in (b"rotchet", b"uaver", b"inim", b"emibreve"))
