"""What every page of the chart editor knows of its draft, and takes into it."""

from uuid import uuid4

from django.http import HttpRequest
from django.urls import reverse

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.studio.pages.editor import presses
from wren_ladder.studio.pages.pieces.forms import HeadForm
from wren_ladder.studio.pages.pieces.wall_page import MOST_TEXT
from wren_ladder.studio.pages.requests import owned_or_404, read_key
from wren_ladder.studio.pieces import drafts
from wren_ladder.studio.pieces.models import Draft, Piece
from wren_ladder.studio.scans.models import Scan

BEHIND = (
    "This piece was changed in another tab or on another device after this page was opened, "
    "so what you did here is not written yet"
)
SAVED = "This piece has been kept from this page; open the editor anew to go on"


def draft_asked(request: HttpRequest, pk: int | None) -> Draft:
    piece = owned_or_404(Piece, request.user, pk) if pk else None
    return drafts.draft_of(request.user, piece)


def page_of(request: HttpRequest) -> drafts.EditorPage | None:
    """The page a form was sent from; None where the form does not say."""
    key = read_key(request.POST.get("page"))
    version = read_whole(request.POST.get("version"), 0) or 0
    return drafts.EditorPage(key, version) if key else None


def in_the_way(draft: Draft, page: drafts.EditorPage | None) -> str:
    """Why the page may not write the draft, "" where it may."""
    if page is None:
        return ""
    if drafts.saved_from(draft, page):
        return SAVED
    return BEHIND if drafts.is_behind(draft, page) else ""


def addresses_of(draft: Draft) -> dict:
    """Where the pages of this draft are; a new piece has no key yet."""
    pages = ("", "-bar", "-text", "-save", "-discard")
    if draft.piece_id:
        found = {page: reverse(f"piece-edit{page}", args=[draft.piece_id]) for page in pages}
    else:
        found = {page: reverse(f"piece-new{page}") for page in pages}
    return {"at": {f"edit{page.replace('-', '_')}": url for page, url in found.items()}}


def head_of(draft: Draft, form: HeadForm | None = None, after=None) -> dict:
    """What every page of the editor shows. A page that answers another in its place goes on
    under its key, so that letters still on their way from there disturb nobody."""
    kept = {"title": draft.title, "grade": draft.grade, "notes": draft.notes}
    outdated = draft.pk and draft.piece and draft.base != draft.piece.fingerprint
    return {
        "form": form or HeadForm(initial=kept),
        "draft": draft,
        "page_key": after.key if after else uuid4(),
        "piece": draft.piece,
        "heading": f"Edit {draft.piece.title}" if draft.piece else "New piece",
        "begun": draft.pk and draft.changed,
        "outdated": outdated,
        "scans": Scan.objects.filter(owner=draft.owner_id, piece=draft.piece_id)
        if draft.piece_id
        else (),
        **addresses_of(draft),
    }


def take_head(draft: Draft, sent) -> bool:
    """Title, grade and notes are kept as typed, and read when the piece is saved; True if
    they changed."""
    before = (draft.title, draft.grade, draft.notes)
    draft.title = " ".join(sent.get("title", draft.title).split())[:120]
    draft.grade = sent.get("grade", draft.grade)[:8]
    draft.notes = newlines(sent.get("notes", draft.notes))[:4000]
    return before != (draft.title, draft.grade, draft.notes)


def take_lines(draft: Draft, bars, sent, op: str):
    """What was typed since the lines were shown, before anything else is done."""
    typed, shown = (newlines(sent.get(name, "")) for name in ("lines", "lines_were"))
    if op == "put-back":
        draft.lines, draft.lines_bar = "", None
        return bars
    if typed == shown and not draft.lines:
        return bars
    place = read_whole(sent.get("lines_bar"), 0, len(bars) - 1)
    if place is None or len(typed) > MOST_TEXT:
        return bars
    try:
        after = presses.read_lines(bars, place, typed)
        label = f"typing in {drafts.name_of(bars[place])}"
        after = drafts.change(draft, bars, after, label, together=True)
    except ChartError as error:
        draft.lines, draft.lines_bar, draft.text = typed, place, ""
        raise error
    draft.lines, draft.lines_bar, draft.text = "", None, ""
    return after


def typed_since(sent) -> str | None:
    """The lines of the bar where they are not those that were shown."""
    typed, shown = (newlines(sent.get(name, "")) for name in ("lines", "lines_were"))
    return typed if typed != shown else None


def lines_kept(sent, bars, cursor) -> dict:
    """What was typed in the bar's lines and is not taken, for its page to show again."""
    typed = typed_since(sent)
    if typed is None:
        return {}
    return {"lines": typed, "lines_were": presses.lines_of(bars, cursor.bar)}


def newlines(text: str) -> str:
    return text.replace("\r\n", "\n").strip()
