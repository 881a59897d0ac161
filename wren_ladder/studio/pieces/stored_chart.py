"""A piece's music as it is stored, asked for by what it is to be."""

from wren_ladder.drumming.chart import Chart
from wren_ladder.studio.pieces.models import BarRow


class PieceChangedError(Exception):
    """The stored piece is not the one whose fingerprint was asked for."""


def stored_chart(pk: int, fingerprint: str) -> Chart:
    """In one query. PieceChangedError where it has another fingerprint by now."""
    rows = list(BarRow.objects.filter(piece=pk).select_related("piece"))
    if rows[0].piece.fingerprint != fingerprint:
        raise PieceChangedError
    return Chart(rows[0].piece.title, tuple(row.bar for row in rows))
