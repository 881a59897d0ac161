"""The groove board, and one groove of it."""

from dataclasses import replace

from django.http import Http404
from django.shortcuts import render
from django.views.decorators.http import require_safe

from wren_ladder.drumming.grades import Syllabus
from wren_ladder.drumming.style import Style
from wren_ladder.drumming.workshop.grooves import Groove
from wren_ladder.drumming.workshop.patterns import (
    KICK_BY_CODE,
    Backbeat,
    Hands,
    LeftFoot,
)
from wren_ladder.drumming.workshop.recipes import codes_of, recipe_text
from wren_ladder.studio.pages.workshop.asked import coded, context_of
from wren_ladder.studio.pages.workshop.board import Reach, about, board, standing_of
from wren_ladder.studio.pages.workshop.cards import (
    card,
)
from wren_ladder.studio.teaching.models import teaching_of


@require_safe
def groove_board(request):
    """Hand patterns down, kick patterns across; one cell of it is open beside it."""
    context = context_of(request, "grooves")
    backbeat, left_foot = _asked_feet(request)
    reach = coded(request, Reach, "reach")
    style, syllabus = teaching_of(request.user.pk)
    found = board(context["whom"], backbeat, left_foot, reach, syllabus)
    context |= _cell_context(found.opened, found.held, style, syllabus)
    context |= {
        "board": found,
        "backbeats": list(Backbeat),
        "feet": list(LeftFoot),
        "reaches": list(Reach),
        "reach": reach,
        "given": found.held or found.climbing,
        "rows": [
            (hands, cells, recipe_text(_line(hands.label, [c.groove for c in cells])))
            for hands, cells in found.rows
        ],
        "columns": [
            (
                kick,
                recipe_text(
                    _line(f"kick {kick.name}", [cells[n].groove for _, cells in found.rows])
                ),
            )
            for n, kick in enumerate(found.kicks)
        ],
    }
    return render(request, "workshop/board.html", context)


def _asked_feet(request) -> tuple[Backbeat, LeftFoot]:
    return coded(request, Backbeat, "backbeat"), coded(request, LeftFoot, "foot")


def _line(title: str, grooves: list[Groove]) -> dict:
    return {"grooves": [codes_of(one) for one in grooves], "title": title}


@require_safe
def groove_panel(request, hands, kick):
    """One cell, drawn and heard, with the change that leads to it."""
    if hands not in tuple(Hands) or kick not in KICK_BY_CODE:
        raise Http404("no such groove")
    groove = Groove(Hands(hands), KICK_BY_CODE[kick], *_asked_feet(request))
    context = context_of(request, "grooves")
    held, _ = standing_of(context["whom"])
    context |= _cell_context(groove, held, *teaching_of(request.user.pk))
    name = "workshop/_cell.html" if request.htmx else "workshop/cell.html"
    return render(request, name, context)


def _cell_context(
    groove: Groove, held: dict[Groove, int], style: Style, syllabus: Syllabus
) -> dict:
    """What the panel of one cell needs."""
    found = about(groove, held)
    title = f"The way to {groove.name}"
    codes = codes_of(groove)
    ride = codes_of(replace(groove, hands=Hands.RIDE_QUAVERS))
    near = found["near"] and found["near"][0]
    turn = {"phrase": [codes_of(near), codes], "bars": 8, "turn": True} if near else {}
    turns = [(f"in turn with {near.name}", turn)] if near else []
    return found | {
        "card": card("cell", {"groove": codes}, style, syllabus),
        "held": held.get(groove),
        "phrases": [
            (said, recipe_text(recipe))
            for said, recipe in (
                ("four bars with a crash", {"phrase": [codes], "bars": 4}),
                *turns,
                ("four like this, four on the ride", {"phrase": [codes, ride], "bars": 8}),
                ("then a quaver later", {"displaced": codes, "by": "quaver"}),
                ("then a semiquaver later", {"displaced": codes, "by": "semiquaver"}),
                (
                    "then the kick alone a quaver later",
                    {"displaced": codes, "by": "quaver", "limb": "kick"},
                ),
                ("one snare note more, in every place", {"snares": codes}),
            )
        ],
        "way_recipe": recipe_text({"grooves": found["way_codes"], "title": title}),
    }
