"""The whole piece on screen and on paper."""

from django.http import HttpRequest

from wren_ladder.studio.drawing.score import score_lines
from wren_ladder.studio.pages.printing import paper_of
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.pieces.studies import study_of


def score_context(request: HttpRequest, piece: Piece) -> dict:
    """Counts and stickings are shown unless switched off: a form that was sent says which."""
    sent = "shown" in request.GET
    counts = not sent or "counts" in request.GET
    hands = not sent or "hands" in request.GET
    studied = study_of(piece)
    return {
        "piece": piece,
        "played": len(studied.visits),
        "lines": score_lines(studied, counts, hands),
        "counts": counts,
        "hands": hands,
        **paper_of(request),
    }
