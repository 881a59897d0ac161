"""What the pages about pieces show: the preview of typed bars, the wall, the opened bar."""

from django.http import Http404, HttpRequest

from wren_ladder.drumming.chart import Chart, ChartError
from wren_ladder.drumming.chart.size import check_size
from wren_ladder.drumming.findings import worth_telling
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.notation.counts.tolerant import read_what_can_be
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.performance import clock
from wren_ladder.drumming.study import BarStudy, Study, study
from wren_ladder.drumming.style import Reason, Style
from wren_ladder.studio.drawing.engraving import BAR_WIDTH, engrave
from wren_ladder.studio.drawing.limb_view import limb_view
from wren_ladder.studio.drawing.wall import tag_of
from wren_ladder.studio.pages.plans.lookups import plan_or_404
from wren_ladder.studio.pages.requests import number_asked
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.pieces.studies import study_of, wall_of
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.plans.versions import study_for, wall_for

MOST_TEXT = 200_000  # characters of one piece
TOO_MUCH = ChartError("that is too much text for one piece")
NEAR_THE_LIMIT = 0.64  # of the speed that counts 1 at the limit: four fifths of it, squared
MOST_HARD = 5  # bars named beside the wall
MOST_DRAWN = 60  # different bars in the preview of typed text


def preview_of(text: str, style: Style) -> dict:
    """What the typed text gives: the bars that are new, drawn, and the place of every line
    that is wrong."""
    if len(text) > MOST_TEXT:
        return error_context(TOO_MUCH, text)
    typed = read_what_can_be(text)
    try:
        check_size(typed.chart.bars if typed.chart else ())
    except ChartError as error:
        return error_context(error, text)
    context = preview_of_chart(typed.chart, style) if typed.chart else {}
    if typed.errors:
        first, *others = typed.errors
        context |= error_context(first, text)
        context["more_errors"] = [(error, error_line(text, error)) for error in others]
    return context


def preview_of_chart(chart: Chart, style: Style) -> dict:
    studied = study(chart, style)
    return {"preview": studied, "preview_bars": _preview_bars(studied), **_facts(studied)}


def error_context(error: ChartError, text: str) -> dict:
    return {"preview_error": error, "error_line": error_line(text, error)}


def read_text(text: str) -> Chart:
    """The chart typed on a page; ChartError as ever, and where it is too much."""
    if len(text) > MOST_TEXT:
        raise TOO_MUCH
    chart = read_chart(text)
    check_size(chart.bars)
    return chart


def error_line(text: str, error: ChartError) -> dict | None:
    """The line of an error in three parts: before its word, the word, after it."""
    if not error.place:
        return None
    lines = text.splitlines()
    line = lines[error.place.line - 1] if error.place.line <= len(lines) else ""
    start = error.place.column - 1
    end = start + len(error.place.word)
    return {"before": line[:start], "word": line[start:end], "after": line[end:]}


def _preview_bars(studied: Study) -> list[dict]:
    """The different bars drawn, as many as can be while somebody types."""
    new = [bar for bar in studied.bars if bar.twin_of is None]
    return [
        {
            "number": bar.bar.number,
            "tag": tag_of(bar, studied),
            "svg": engrave([bar], Layout(), BAR_WIDTH, f"p{place}-"),
        }
        for place, bar in enumerate(new[:MOST_DRAWN])
    ]


def _facts(studied: Study) -> dict:
    different = sum(bar.twin_of is None for bar in studied.bars)
    return {
        "different": different,
        "not_drawn": max(0, different - MOST_DRAWN),
        "length": clock(studied.seconds),
        "played": len(studied.visits),
        "again": sum(bar.twin_of is not None for bar in studied.bars),
    }


def hardest_bars(studied: Study) -> list[dict]:
    """The bars to look at first: hardest first, equal bars once, easy ones not at all."""
    new = [(i, bar) for i, bar in enumerate(studied.bars) if _needs_a_look(bar)]
    new.sort(key=lambda entry: -entry[1].rank)
    return [  # equal bars are here once
        {
            "index": i,
            "name": bar.bar.number,
            "rank": bar.rank,
            "why": worth_telling(bar.weighed)[:3],
        }
        for i, bar in new[:MOST_HARD]
    ]


def _needs_a_look(bar: BarStudy) -> bool:
    """Something in it is hard beside a hand that is well below its limit."""
    return bar.twin_of is None and any(
        why.reason is not Reason.SPEED or why.amount > NEAR_THE_LIMIT for why in bar.weighed
    )


def wall_context(request: HttpRequest, piece: Piece, plan: Plan | None = None) -> dict:
    """The wall and the opened bar, for the piece itself or for one student's plan."""
    studied = study_for(plan) if plan else study_of(piece)
    index = read_whole(request.GET.get("bar"), 0, len(studied.bars) - 1) or 0
    return {
        "piece": piece,
        "plan": plan,
        "rows": wall_for(plan) if plan else wall_of(piece),
        "hardest": hardest_bars(studied),
        "warnings": studied.warnings,
        "played": len(studied.visits),
        **panel_context(request, piece, index, plan),
    }


def panel_context(
    request: HttpRequest, piece: Piece, index: int, plan: Plan | None = None
) -> dict:
    """One bar opened: staff, count, hands and the limb view."""
    asked = number_asked(request, "plan")
    if plan is None and asked is not None:
        plan = plan_or_404(request.user, asked)
    studied = study_for(plan) if plan else study_of(piece)
    if not 0 <= index < len(studied.bars):
        raise Http404("no such bar")
    bar = studied.bars[index]
    shown = [limb for limb in Limb if limb.value in request.GET.getlist("limb")] or list(Limb)
    return {
        "piece": piece,
        "plan": plan,
        "index": index,
        "last_index": len(studied.bars) - 1,
        "opened": bar,
        "difference": studied.taught_from(bar),
        "twin_tag": tag_of(bar, studied) if bar.twin_of is not None else "",
        "staff": engrave([bar], Layout(), BAR_WIDTH, "open-"),
        "limbs": limb_view(bar, shown),
        "limb_names": [(limb.value, limb in shown) for limb in Limb],
    }
