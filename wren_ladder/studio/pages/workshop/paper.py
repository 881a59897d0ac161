"""Exercises on paper, with boxes for tempos."""

from collections.abc import Sequence

from django.http import Http404
from django.views.decorators.http import require_safe

from wren_ladder.drumming.study import BarStudy, study
from wren_ladder.drumming.workshop.recipes import asked_for, groove_of
from wren_ladder.studio.drawing.engraving import LINE_WIDTH, engrave
from wren_ladder.studio.pages.printing import paper_of, pdf
from wren_ladder.studio.pages.workshop.asked import whom_of
from wren_ladder.studio.pages.workshop.cards import (
    LAYOUT,
    MOST_DRAWN,
    WIDTHS,
)
from wren_ladder.studio.pages.workshop.given import (
    exercises_of,
)
from wren_ladder.studio.pages.workshop.tray import tray_of
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.teaching.models import style_of, syllabus_of

SHEETS = {
    "grooves": (Piece.Kind.GROOVE, Piece.Kind.PHRASE),
    "book of fills": (Piece.Kind.FILL,),
}
BOXES = 12  # for tempos, beside each exercise on paper


@require_safe
def exercise_sheet(request):
    """A student's grooves, or their book of fills, on paper with boxes for tempos."""
    whom = whom_of(request)
    kinds = SHEETS.get(request.GET.get("of", ""))
    if whom is None or kinds is None:
        raise Http404("choose a student, and grooves or fills")
    style = style_of(request.user.pk)
    lines = []
    for plan in exercises_of(whom, *kinds):
        bars = study(plan.piece.chart(), style).bars[:MOST_DRAWN]
        svg = engrave(bars, LAYOUT, WIDTHS.get(len(bars), LINE_WIDTH), f"p{plan.pk}-")
        held = f", {plan.standing.ready} held" if plan.standing.ready else ""
        lines.append((f"{plan.piece.title}, to {plan.target}{held}", svg))
    return _sheet(request, lines, f"{whom.name}: {request.GET['of']}")


def _sheet(request, lines: list[tuple[str, str]], title: str):
    """(what it is called, its staff), line by line."""
    context = {"lines": lines, "title": title, "boxes": range(BOXES)}
    return pdf(request, "workshop/exercise_sheet.html", context | paper_of(request), title)


@require_safe
def tray_sheet(request):
    """What lies on the tray: each groove of a row by itself, other music in lines of a few
    bars, all with boxes for tempos."""
    syllabus, style = syllabus_of(request.user.pk), style_of(request.user.pk)
    named: list[tuple[str, Sequence[BarStudy]]] = []
    for one in tray_of(request):
        recipe, found = asked_for(one.recipe, syllabus)
        named += _named(recipe, found.title, study(found.chart, style).bars)
    lines = [
        (name, engrave(line, LAYOUT, WIDTHS.get(len(line), LINE_WIDTH), f"p{n}-"))
        for n, (name, line) in enumerate(named)
    ]
    whom = whom_of(request)
    return _sheet(request, lines, f"Exercises for {whom.name}" if whom else "Exercises")


def _named(recipe, title: str, bars: Sequence[BarStudy]):
    """(what it is called, its bars), a line of the paper each."""
    if "grooves" in recipe:
        codes = recipe["grooves"]
        return [(groove_of(one).name, [bar]) for one, bar in zip(codes, bars, strict=True)]
    lines = _lines_of(bars)
    if len(lines) == 1:
        return [(title, bars)]
    return [(f"{title}, {_numbers(line).lower()}", line) for line in lines]


def _lines_of(bars: Sequence[BarStudy]) -> list[Sequence[BarStudy]]:
    return [bars[at : at + MOST_DRAWN] for at in range(0, len(bars), MOST_DRAWN)]


def _numbers(line: Sequence[BarStudy]) -> str:
    first, last = line[0].bar.number, line[-1].bar.number
    return f"Bars {first} to {last}" if first != last else f"Bar {first}"
