"""Fills to try, and the student's book of them."""

from django.shortcuts import render
from django.views.decorators.http import require_safe

from wren_ladder.drumming.grades import Syllabus
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.style import Style
from wren_ladder.drumming.workshop.fills import (
    Fill,
    Length,
    beat_figures_owned,
    figures_held,
    three_to_try,
)
from wren_ladder.drumming.workshop.grooves import USUAL_TEMPO, Groove
from wren_ladder.drumming.workshop.patterns import (
    KICKS,
    Hands,
)
from wren_ladder.drumming.workshop.recipes import (
    codes_of,
    codes_of_fill,
)
from wren_ladder.studio.pages.workshop.asked import coded, context_of
from wren_ladder.studio.pages.workshop.bench import bench_of
from wren_ladder.studio.pages.workshop.cards import (
    Card,
    card,
)
from wren_ladder.studio.pages.workshop.given import bars_held, book_of_fills
from wren_ladder.studio.teaching.models import teaching_of

FIRST = Groove(Hands.HAT_QUAVERS, KICKS[1])
MOST_SEED = 1_000_000
PHRASES = (2, 4)  # bars that a fill is practised in
FEWEST_HELD = 3  # figures, before fills are made of these alone


@require_safe
def fills(request):
    """Three to try, from figures that the student holds or the grade has; the book of fills."""
    context = context_of(request, "fills")
    whom = context["whom"]
    asked = read_whole(request.GET.get("grade"), 0, 8)
    grade = asked if asked is not None else whom.grade if whom else 2
    length = coded(request, Length, "length")
    seed = read_whole(request.GET.get("seed"), 0, MOST_SEED) or 0
    style, syllabus = teaching_of(request.user.pk)
    owned = beat_figures_owned(grade, syllabus)
    held = figures_held(bars_held(whom), owned) if whom else ()
    by_grade = request.GET.get("figures") == "grade" or len(held) < FEWEST_HELD
    figures = owned if by_grade else held
    found = three_to_try(length, grade, FIRST.bar, USUAL_TEMPO, seed, figures, style, syllabus)
    groove, bars = codes_of(FIRST), read_whole(request.GET.get("bars"))
    bars = bars if bars in PHRASES else PHRASES[0]
    context |= {
        "grade": grade,
        "length": length,
        "lengths": list(Length),
        "seed": seed,
        "figures": figures,
        "held": held if len(held) >= FEWEST_HELD else (),
        "by_grade": by_grade,
        "bars": bars,
        "phrases": PHRASES,
        "cards": [
            _fill_card(n, one, groove, bars, style, syllabus) for n, one in enumerate(found)
        ],
        "bench": bench_of(request, length, FIRST, bars, grade, figures, style, syllabus),
        "book": book_of_fills(whom),
    }
    return render(request, "workshop/fills.html", context)


def _fill_card(
    number: int, fill: Fill, groove: list[str], bars: int, style: Style, syllabus: Syllabus
) -> Card:
    recipe = {"fill": codes_of_fill(fill), "groove": groove, "bars": bars}
    name = fill.way
    return card(f"f{number}", recipe, style, syllabus, title=name)
