"""The whole piece on screen and on paper."""

from django.conf import settings
from django.http import HttpRequest
from django.template.loader import render_to_string

from wren_ladder.studio.drawing.score import score_lines
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.pieces.studies import study_of

PAPERS = ("A4", "Letter")


def score_context(request: HttpRequest, piece: Piece) -> dict:
    """Counts and stickings are shown unless switched off: a form that was sent says which."""
    sent = "shown" in request.GET
    counts = not sent or "counts" in request.GET
    hands = not sent or "hands" in request.GET
    asked = request.GET.get("paper")
    studied = study_of(piece)
    return {
        "piece": piece,
        "played": len(studied.visits),
        "lines": score_lines(studied, counts, hands),
        "counts": counts,
        "hands": hands,
        "paper": asked if asked in PAPERS else PAPERS[0],
        "papers": PAPERS,
    }


def score_pdf(context: dict) -> bytes:
    import weasyprint  # heavy, and only printing needs it

    html = render_to_string("pieces/score_sheet.html", context)
    base = settings.STUDIO / "static"
    return weasyprint.HTML(string=html, base_url=f"{base}/").write_pdf()
