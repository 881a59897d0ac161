"""Studies of stored pieces, remembered by what the music is."""

from functools import lru_cache

from wren_ladder.drumming.chart import Bar, Chart
from wren_ladder.drumming.description.phrases import phrases
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import Study, study
from wren_ladder.drumming.style import Style
from wren_ladder.studio.drawing.engraving import CARD_WIDTH
from wren_ladder.studio.drawing.wall import Row, wall_rows
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.pieces.stored_chart import PieceChangedError, stored_chart
from wren_ladder.studio.teaching.models import style_of

CARD_LAYOUT = Layout(clef=False, counts=False, hands=False)


OwnBars = tuple[tuple[int, Bar], ...]  # (place, bar) where a student plays another


def study_of(piece: Piece, style: Style | None = None, own: OwnBars = ()) -> Study:
    """The piece studied, by its teacher's style unless a student's is given, with the bars
    that are a student's own."""
    return _todays(_study, piece, style or style_of(piece.owner_id), own)


def _todays(remembered, piece: Piece, style: Style, own: OwnBars):
    """What is remembered of the piece's music; read anew where ``piece`` is older than it."""
    try:
        return remembered(piece.pk, piece.fingerprint, style, own)
    except PieceChangedError:
        piece.refresh_from_db(fields=["fingerprint"])
        return _todays(remembered, piece, style, own)


@lru_cache(maxsize=128)
def _study(pk: int, fingerprint: str, style: Style, own: OwnBars) -> Study:
    chart = stored_chart(pk, fingerprint)
    if own:
        theirs = dict(own)
        bars = tuple(theirs.get(place, bar) for place, bar in enumerate(chart.bars))
        chart = Chart(chart.title, bars)
    return study(chart, style)


def wall_of(piece: Piece, style: Style | None = None, own: OwnBars = ()) -> tuple[Row, ...]:
    """The rows of the bar wall, without any student's shading."""
    return _todays(_wall, piece, style or style_of(piece.owner_id), own)


@lru_cache(maxsize=64)
def _wall(pk: int, fingerprint: str, style: Style, own: OwnBars) -> tuple[Row, ...]:
    studied = _study(pk, fingerprint, style, own)
    return wall_rows(studied, phrases(studied.chart.bars), CARD_LAYOUT, CARD_WIDTH)
