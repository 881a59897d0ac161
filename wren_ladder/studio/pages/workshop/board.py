"""The groove board: hand patterns down, kick patterns across, and where a student stands."""

from dataclasses import dataclass

from wren_ladder.drumming.grades import Syllabus
from wren_ladder.drumming.wording import Coded
from wren_ladder.drumming.workshop.grooves import (
    Groove,
    family,
    next_grooves,
    walk,
    why_not,
)
from wren_ladder.drumming.workshop.patterns import KICKS, Backbeat, Hands, LeftFoot, hand_grade
from wren_ladder.drumming.workshop.recipes import codes_of, groove_of
from wren_ladder.studio.drawing.groove_sign import GrooveSign, groove_sign
from wren_ladder.studio.pages.workshop.given import exercises_of
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.students.models import Student

AHEAD = 1  # grades above the student's that the wider board shows
NEAR_HANDS, NEAR_KICKS = 5, 6  # what is in view at once


class Reach(Coded):
    """How much of the board is shown."""

    NEAR = "near", "what is near"
    GRADE = "grade", "up to the grade above"
    ALL = "all", "every grade"


@dataclass(frozen=True, slots=True)
class Cell:
    """``state`` is "held", "climbing", "next" or empty; ``said`` what stands in the cell."""

    groove: Groove
    state: str
    said: str

    @property
    def sign(self) -> GrooveSign:
        return groove_sign(self.groove.bar)

    @property
    def label(self) -> str:
        """For those who do not see where it stands."""
        state = f"{self.state} {self.said}" if self.state == "held" else self.state or "not yet"
        return f"{self.groove.name}: {state}"


@dataclass(frozen=True, slots=True)
class Board:
    rows: tuple[tuple[Hands, tuple[Cell, ...]], ...]
    kicks: tuple
    backbeat: Backbeat
    left_foot: LeftFoot
    held: dict[Groove, int]
    climbing: frozenset[Groove]

    @property
    def cells(self) -> list[Cell]:
        return [cell for _, cells in self.rows for cell in cells]

    @property
    def opened(self) -> Groove:
        """What is seen first: what comes next, else what is climbed, held, or the plainest."""
        order = ("next", "climbing", "held", "")
        return min(self.cells, key=lambda cell: order.index(cell.state)).groove


def standing_of(student: Student | None) -> tuple[dict[Groove, int], frozenset[Groove]]:
    """(held grooves with their tempos, those that are climbed and hold nothing yet)."""
    held, climbing = {}, set()
    for plan in exercises_of(student, Piece.Kind.GROOVE):
        if "groove" not in plan.piece.made_of:
            continue
        try:
            groove = groove_of(plan.piece.made_of["groove"])
        except (KeyError, ValueError):
            continue  # a pattern that the house has no longer
        if plan.standing.ready:
            held[groove] = plan.standing.ready
        elif plan.is_climbed:
            climbing.add(groove)
    return held, frozenset(climbing)


def board(
    student: Student | None,
    backbeat: Backbeat,
    left_foot: LeftFoot,
    reach: Reach,
    syllabus: Syllabus,
) -> Board:
    """What is near the student, or as far as the grade above, or all of it."""
    grade = student.grade if student else 1
    most = 9 if reach is Reach.ALL else grade + AHEAD
    kicks = tuple(kick for kick in KICKS if kick.grade(syllabus) <= most) or KICKS
    hands = tuple(one for one in Hands if hand_grade(one, syllabus) <= most) or tuple(Hands)
    held, climbing = standing_of(student)
    grooves = family(hands, kicks, backbeat, left_foot)
    coming = next_grooves(held, grooves, syllabus) if held else {}
    if reach is Reach.NEAR:
        steps = [one for new, (known, _) in coming.items() for one in (known, new)]
        near = [*climbing, *steps, *held]
        near = [g for g in near if (g.backbeat, g.left_foot) == (backbeat, left_foot)]
        grades = {one: hand_grade(one, syllabus) for one in Hands}
        grades |= {one: one.grade(syllabus) for one in KICKS}
        hands = _near(tuple(Hands), [one.hands for one in near], grades, grade, NEAR_HANDS)
        kicks = _near(KICKS, [one.kick for one in near], grades, grade, NEAR_KICKS)
        grooves = family(hands, kicks, backbeat, left_foot)
    cells = iter([_cell(one, held, climbing, coming) for one in grooves])
    rows = tuple((hand, tuple(next(cells) for _ in kicks)) for hand in hands)
    return Board(rows, kicks, backbeat, left_foot, held, climbing)


def _near(patterns: tuple, first: list, grades: dict, grade: int, most: int) -> tuple:
    """So many of the patterns: those named first, and then what is nearest to the grade; in
    the order of the family."""
    wanted = list(dict.fromkeys(first))
    by_grade = sorted(patterns, key=lambda one: abs(grades[one] - grade))
    wanted += [one for one in by_grade if one not in wanted]
    return tuple(one for one in patterns if one in wanted[:most])


def _cell(groove: Groove, held, climbing, coming) -> Cell:
    if groove in held:
        return Cell(groove, "held", str(held[groove]))
    if groove in climbing:
        return Cell(groove, "climbing", "…")
    return Cell(groove, "next", "next") if groove in coming else Cell(groove, "", "")


def about(groove: Groove, held: dict[Groove, int]) -> dict:
    """What there is to say of one cell: why it can't be played, from which groove it comes by
    one change, and the way to it from what is held."""
    among = family(backbeat=groove.backbeat, left_foot=groove.left_foot)
    near = next_grooves(held, [groove]).get(groove) if held else None
    way: tuple[Groove, ...] = ()
    if held and groove not in held and near is None:
        ways = (walk(one, groove, among) for one in held if one in among)
        way = min((found for found in ways if found), key=len, default=())
    return {
        "groove": groove,
        "why_not": why_not(groove),
        "near": near,
        "way": way,
        "way_codes": [codes_of(one) for one in way],
    }
