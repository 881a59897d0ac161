"""The chain page: from a bar that is known to this one, one change at a time, drawn."""

from django.http import Http404, HttpRequest

from wren_ladder.drumming.building.chains import First, chain
from wren_ladder.drumming.building.parts import alone
from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import Study, study_bar
from wren_ladder.studio.drawing.engraving import BAR_WIDTH, engrave_each, mark_notes
from wren_ladder.studio.drawing.sound import sound_of_bars
from wren_ladder.studio.pages.requests import number_asked, piece_to_read_or_404
from wren_ladder.studio.pieces.drafts import name_of
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.pieces.studies import study_of
from wren_ladder.studio.teaching.models import style_of

LAYOUT = Layout(clef=False)


def chain_context(request: HttpRequest, piece: Piece, index: int) -> dict:
    studied = study_of(piece)
    if not 0 <= index < len(studied.bars):
        raise Http404("no such bar")
    source_piece = _piece(request, piece)
    source = study_of(source_piece)
    first = First.FEET if request.GET.get("first") == First.FEET else First.HANDS
    asked = request.GET.get("bar", "")
    numbers = [bar.number for bar in source.chart.bars]
    start = numbers.index(asked) if asked in numbers else _usual(studied, source, index)
    style, tempo = style_of(piece.owner_id), studied.tempos[index]
    known, new = source.chart.bars[start], studied.chart.bars[index]
    context = {
        "piece": piece,
        "index": index,
        "name": name_of(new),
        "pieces": Piece.objects.filter(owner=request.user).only("pk", "title"),
        "source_piece": source_piece,
        "start": known.number,
        "numbers": numbers,
        "first": first,
        "firsts": list(First),
        "wrong": "" if not asked or asked in numbers else f"There is no bar {asked}.",
    }
    try:
        links = chain(known, new, first, style)
    except ChartError as error:
        return {**context, "error": str(error)}
    bars = [known, *(link.bar for link in links)]
    studies = [study_bar(alone(bar), tempo, style) for bar in bars]
    drawings = engrave_each(studies, LAYOUT, BAR_WIDTH)
    marked = [
        mark_notes(
            svg, {place for place, hit in enumerate(link.bar.hits) if hit in link.change.new}
        )
        for svg, link in zip(drawings[1:], links, strict=True)
    ]
    return {
        **context,
        "known": drawings[0],
        "links": [
            {"said": link.change.spoken, "svg": svg, "sound": sound_of_bars([one], tempo),
             "sound_id": f"link-{place}"}
            for place, (link, svg, one) in enumerate(
                zip(links, marked, studies[1:], strict=True)
            )
        ],
    }  # fmt: skip


def _piece(request: HttpRequest, piece: Piece) -> Piece:
    asked = number_asked(request, "piece")
    return piece if asked is None else piece_to_read_or_404(request.user, asked)


def _usual(studied: Study, source: Study, index: int) -> int:
    """The bar it is taught from, else the first other one of its metre."""
    difference = studied.bars[index].difference
    if difference and source is studied:
        return difference.source
    meter = studied.chart.bars[index].meter
    places = [
        place
        for place, bar in enumerate(source.chart.bars)
        if bar.meter == meter and bar.hits and (source is not studied or place != index)
    ]
    return places[0] if places else 0
