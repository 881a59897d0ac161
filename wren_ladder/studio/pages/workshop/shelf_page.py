"""The shelf: the house's exercises by kind and grade, and what was made here."""

from django.shortcuts import render
from django.views.decorators.http import require_safe

from wren_ladder.drumming.workshop.recipes import typed_recipe
from wren_ladder.drumming.workshop.shelf import KINDS, shelf
from wren_ladder.studio.pages.workshop.asked import context_of
from wren_ladder.studio.pages.workshop.cards import (
    card,
)
from wren_ladder.studio.pages.workshop.given import (
    exercises_of,
)
from wren_ladder.studio.pages.workshop.own_page import own_exercise_of, own_pieces
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.teaching.models import teaching_of


def fitting(asked: int, grade: int, plan: Plan | None) -> tuple[int, int]:
    """The order for somebody of a grade (0: nobody): what is climbed, what is new and near,
    what is above, what is held to its target."""
    if plan:
        held = (plan.standing.ready or 0) >= plan.target
        return (3 if held else 0), asked
    if asked > grade:
        return 2, asked
    return 1, -asked


@require_safe
def shelf_page(request):
    """The house's exercises by kind and grade, and what has been made here."""
    context = context_of(request, "shelf")
    kind = request.GET.get("kind", "groove")
    kind = kind if kind in KINDS else KINDS[0]
    style, syllabus = teaching_of(request.user.pk)
    plans = exercises_of(context["whom"], kind)
    given = {plan.piece.made_of.get("shelf"): plan for plan in plans}
    mine = {plan.piece_id: plan for plan in plans}
    own = [piece for piece in own_pieces(request.user) if piece.kind == kind]
    grade = context["whom"].grade if context["whom"] else 0
    offered = [one for one in shelf() if one.kind == kind]
    context |= {
        "kinds": KINDS,
        "kind": kind,
        "cards": [
            *(
                (
                    card(
                        f"own{piece.pk}", typed_recipe(own_exercise_of(piece)), style, syllabus
                    ),
                    mine.get(piece.pk),
                )
                for piece in own
            ),
            *(
                (card(one.code, {"shelf": one.code}, style, syllabus), given.get(one.code))
                for one in sorted(
                    offered,
                    key=lambda one: fitting(one.grade(syllabus), grade, given.get(one.code)),
                )
            ),
        ],
        "own": Piece.objects.filter(owner=request.user).exclude(kind=Piece.Kind.PIECE),
    }
    return render(request, "workshop/shelf.html", context)
