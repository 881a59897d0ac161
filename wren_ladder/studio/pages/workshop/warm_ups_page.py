"""The warm-up of a student or a grade, on screen and on paper."""

from django.http import HttpRequest
from django.shortcuts import render
from django.utils import timezone
from django.views.decorators.http import require_safe

from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.study import study
from wren_ladder.drumming.style import Style
from wren_ladder.drumming.workshop.warm_up import WarmUp, sheet_number, warm_up
from wren_ladder.studio.drawing.engraving import engrave_each
from wren_ladder.studio.pages.printing import paper_of, pdf
from wren_ladder.studio.pages.workshop.asked import context_of
from wren_ladder.studio.pages.workshop.cards import (
    LAYOUT,
    WIDTHS,
    Card,
    card,
)
from wren_ladder.studio.pages.workshop.given import (
    asked_by_pieces,
)
from wren_ladder.studio.teaching.models import teaching_of

USUAL_WEEKS, MOST_WEEKS = 4, 12  # for which a warm-up stays the same
MOST_SEED = 1_000_000


@require_safe
def warm_ups(request):
    return render(request, "workshop/warm_ups.html", _warm_up(request))


@require_safe
def warm_up_sheet(request):
    context = _warm_up(request) | paper_of(request)
    return pdf(request, "workshop/warm_up_sheet.html", context, "warm-up")


def _warm_up(request: HttpRequest) -> dict:
    context = context_of(request, "warm-ups")
    whom = context["whom"]
    asked = read_whole(request.GET.get("grade"), 0, 8)
    grade = asked if asked is not None else whom.grade if whom else 2
    minutes = read_whole(request.GET.get("minutes"), 1, 15) or 5
    seed = read_whole(request.GET.get("seed"), 0, MOST_SEED) or 0
    weeks = read_whole(request.GET.get("weeks"), 1, MOST_WEEKS) or USUAL_WEEKS
    asks = asked_by_pieces(whom)
    number = sheet_number(timezone.localdate(), weeks) + seed
    recipe = {"warm-up": grade, "minutes": minutes, "seed": number}
    recipe |= {"asked": sorted(asks)} if asks else {}
    style, syllabus = teaching_of(request.user.pk)
    found = warm_up(grade, minutes, number, asks, syllabus)
    shown = set().union(*(line.asks for line in found.lines))
    whole = card("warm", recipe, style, syllabus)
    return context | {
        "grade": grade,
        "minutes": minutes,
        "seed": seed,
        "weeks": weeks,
        "warm_up": found,
        "asks": [(one, titles) for one, titles in asks.items() if one in shown],
        "card": whole,
        "lines": _drawn(whole, found, style),
        "grades": range(9),
    }


def _drawn(whole: Card, found: WarmUp, style: Style) -> list[tuple]:
    """Each line of the sheet with its staff."""
    bars = study(whole.made.chart, style).bars
    svgs = engrave_each(list(bars), LAYOUT, WIDTHS[1])
    return list(zip(found.lines, svgs, strict=True))
