"""The tray: what was taken in the workshop, until it is given or put back. It lies in the
session of who took it."""

import json
from collections.abc import Iterable
from dataclasses import astuple, dataclass

from django.http import HttpRequest

from wren_ladder.drumming.grades import Syllabus
from wren_ladder.drumming.wording import Coded
from wren_ladder.drumming.workshop.recipes import Made, made

TRAY = "workshop_tray"  # of the session
MOST = 12  # things on it


class How(Coded):
    """How several are given."""

    EACH = "each", "each by itself"
    TURN = "turn", "in turn, as one"
    WARM_UP = "warm-up", "as a warm-up"


@dataclass(frozen=True, slots=True)
class Taken:
    """``recipe`` as a page sends it; ``target`` in BPM."""

    recipe: str
    title: str
    target: int


def tray_of(request: HttpRequest) -> list[Taken]:
    return [Taken(*one) for one in request.session.get(TRAY, ())]


def lay(request: HttpRequest, things: Iterable[Taken]) -> None:
    request.session[TRAY] = [astuple(one) for one in things]


def as_asked(
    things: Iterable[Taken], how: How, syllabus: Syllabus
) -> list[tuple[dict, Made, int]]:
    """(recipe, what it makes, target) of each by itself, or of all as one exercise."""
    each = [(json.loads(one.recipe), one.target) for one in things]
    if how is not How.EACH and len(each) > 1:
        recipe = {"in turn": [one for one, _ in each]}
        recipe |= {"as": "warm-up"} if how is How.WARM_UP else {}
        each = [(recipe, min(target for _, target in each))]
    return [(recipe, made(recipe, syllabus), target) for recipe, target in each]
