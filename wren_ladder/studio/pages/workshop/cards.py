"""An exercise before it is given: drawn, heard, and ready to be given."""

import json
from collections.abc import Mapping
from dataclasses import dataclass

from wren_ladder.drumming.description.techniques import techniques
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import study
from wren_ladder.drumming.style import Style
from wren_ladder.drumming.workshop.fills import fill_bar
from wren_ladder.drumming.workshop.patterns import FOUR
from wren_ladder.studio.drawing.engraving import LINE_WIDTH, engrave
from wren_ladder.studio.drawing.sound import sound_of_bars
from wren_ladder.studio.pages.workshop.recipes import Made, fill_of, made
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.teaching.models import syllabus_of

WIDTHS = {1: 1900, 2: 2600}  # by bars; more have a line's
MOST_DRAWN = 4
LAYOUT = Layout(clef=False, counts=True, hands=True)


@dataclass(frozen=True, slots=True)
class Card:
    """``recipe`` as JSON for its form; ``svg`` of its first bars; ``sound`` for the page."""

    name: str
    made: Made
    recipe: str
    svg: str
    sound: dict
    said: str = ""

    @property
    def is_wide(self) -> bool:
        """More bars than half a page can show."""
        return len(self.made.chart.bars) not in WIDTHS

    @property
    def grade_said(self) -> str:
        return f"grade {self.made.grade}" if self.made.grade else "before grade 1"


def card(name: str, recipe: Mapping[str, object], style: Style, said: str = "") -> Card:
    found = made(recipe)
    studied = study(found.chart, style).bars
    drawn = studied[:MOST_DRAWN]
    svg = engrave(drawn, LAYOUT, WIDTHS.get(len(drawn), LINE_WIDTH), f"{name}-")
    sound = sound_of_bars(studied, found.chart.tempo)
    return Card(name, found, json.dumps(recipe), svg, sound, said)


def asked_by_pieces(student: Student | None) -> dict[str, str]:
    """The techniques due or new at the student's grade in the pieces that are climbed, each
    with the titles of its pieces."""
    if student is None:
        return {}
    syllabus, found = syllabus_of(student.owner_id), {}
    plans = Plan.objects.filter(student=student, piece__kind=Piece.Kind.PIECE)
    for plan in plans.filter(status=Plan.Status.CLIMBING).select_related("piece"):
        names = {name for bar in plan.piece.chart().bars for name in techniques(bar)}
        for name in names:
            if syllabus.get(name, 0) >= student.grade:
                found.setdefault(name, []).append(plan.piece.title)
    return {name: " and ".join(titles) for name, titles in sorted(found.items())}


def used_in(student: Student, plan: Plan) -> list[str]:
    """Where a fill of the book stands in the student's own bars: "Long Pier, bar 16"."""
    try:
        fill = fill_of(plan.piece.made_of["fill"])
    except (KeyError, TypeError, ValueError):
        return []
    written = set(fill_bar(fill, FOUR).hits)
    found = []
    for one in student.own_bars.select_related("bar__piece"):
        struck = {hit for hit in one.own.hits if hit.at >= fill.space.start}
        if struck == written:
            found.append(f"{one.bar.piece.title}, bar {one.own.number}")
    return found


def exercises_of(student: Student | None, *kinds: str) -> list[Plan]:
    """What the student climbs of these kinds, with where it stands; in one query."""
    if student is None:
        return []
    plans = Plan.objects.filter(student=student, piece__kind__in=kinds or Piece.Kind.values)
    return list(plans.select_related("piece", "standing").order_by("piece__title"))
