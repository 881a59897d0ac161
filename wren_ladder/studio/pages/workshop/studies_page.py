"""Studies of one thing: sticking grooves, accents, feet."""

from django.http import HttpRequest
from django.shortcuts import render
from django.views.decorators.http import require_safe

from wren_ladder.drumming.chart import ChartError, Drum
from wren_ladder.drumming.workshop.accents import Grid, read_accents
from wren_ladder.drumming.workshop.feet import FOOT_STUDIES, next_hands
from wren_ladder.drumming.workshop.patterns import (
    Hands,
)
from wren_ladder.drumming.workshop.recipes import (
    versions_of,
)
from wren_ladder.drumming.workshop.stickings import (
    HOUSE_STICKINGS,
    LEFT_SURFACES,
    RIGHT_SURFACES,
    read_sticking,
    written,
)
from wren_ladder.studio.pages.workshop.asked import coded, context_of
from wren_ladder.studio.pages.workshop.cards import (
    card,
)
from wren_ladder.studio.pages.workshop.given import (
    exercises_of,
)
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.teaching.models import teaching_of

FIRST_ACCENTS = "1 2& 4 | 1 3"  # to look at before one has been typed


@require_safe
def stickings(request):
    """Letters laid on hat and snare: the house's twelve, and the teacher's own."""
    context = context_of(request, "stickings")
    style, syllabus = teaching_of(request.user.pk)
    typed = request.GET.get("letters", "")[:80].strip()
    error, own = "", []
    if typed:
        try:
            own = [written(read_sticking(typed))]
        except ChartError as caught:
            error = caught.text
    pad = "pad" in request.GET
    right = _surface(request, "right", RIGHT_SURFACES)
    left = _surface(request, "left", LEFT_SURFACES)
    laid = {"pad": True} if pad else _but_the_usual(right=right, left=left)
    stickings = [*own, *(one.letters for one in HOUSE_STICKINGS)]
    context |= {
        "cards": [
            card(f"s{n}", {"sticking": one, **laid}, style, syllabus, one)
            for n, one in enumerate(stickings)
        ],
        "typed": typed,
        "error": error,
        "pad": pad,
        "hands": (
            ("right", "Right hand", RIGHT_SURFACES, right),
            ("left", "Left hand", LEFT_SURFACES, left),
        ),
    }
    status = 422 if error else 200
    return render(request, "workshop/stickings.html", context, status=status)


def _surface(request: HttpRequest, hand: str, drums: tuple[Drum, ...]) -> Drum:
    asked = request.GET.get(hand)
    return Drum(asked) if asked in drums else drums[0]


def _but_the_usual(right: Drum, left: Drum) -> dict[str, str]:
    """What a recipe has to say of the surfaces: nothing where they are as always."""
    said = {"right": (right, RIGHT_SURFACES), "left": (left, LEFT_SURFACES)}
    return {hand: drum.value for hand, (drum, usual) in said.items() if drum is not usual[0]}


@require_safe
def accents(request):
    """An accented phrase, typed as places, and every way to move it."""
    context = context_of(request, "accents")
    style, syllabus = teaching_of(request.user.pk)
    typed = request.GET.get("accents", "")[:200].strip()
    grid, error, cards = coded(request, Grid, "grid"), "", []
    try:
        for one in versions_of(read_accents(typed or FIRST_ACCENTS, grid)):
            recipe = {"accents": typed or FIRST_ACCENTS, "grid": grid.value, "as": one.code}
            cards.append(card(f"a-{one.code}", recipe, style, syllabus, title=one.name))
    except ChartError as caught:
        error = str(caught)
    context |= {
        "typed": typed or FIRST_ACCENTS,
        "grid": grid,
        "grids": list(Grid),
        "error": error,
        "cards": cards,
    }
    return render(request, "workshop/accents.html", context, status=422 if error else 200)


@require_safe
def foot_studies(request):
    """Eight bars of kick under a hand pattern; the next one where the last is held."""
    context = context_of(request, "feet")
    whom, (style, syllabus) = context["whom"], teaching_of(request.user.pk)
    grade = whom.grade if whom else 1
    given = [
        plan for plan in exercises_of(whom, Piece.Kind.FEET) if "feet" in plan.piece.made_of
    ]
    held: dict[str, set[str]] = {}
    for plan in given:
        if (plan.standing.ready or 0) >= plan.target:
            held.setdefault(plan.piece.made_of["feet"], set()).add(plan.piece.made_of["hands"])
    asked = request.GET.get("hands", "")
    cards = []
    for one in FOOT_STUDIES:
        mine = held.get(one.code, set())
        hands = Hands(asked) if asked in tuple(Hands) else next_hands(mine, grade, syllabus)
        said = f"held already: {', '.join(Hands(code).label for code in sorted(mine))}"
        recipe = {"feet": one.code, "hands": (hands or Hands.HAT_QUAVERS).value}
        cards.append(card(f"f-{one.code}", recipe, style, syllabus, said if mine else ""))
    context |= {"cards": cards, "patterns": list(Hands), "asked": asked}
    return render(request, "workshop/feet.html", context)
