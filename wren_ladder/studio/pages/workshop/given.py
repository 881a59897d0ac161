"""What a student has of the workshop, and what the student's pieces ask of it."""

from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.description.feel import feels
from wren_ladder.drumming.description.techniques import techniques
from wren_ladder.drumming.workshop.fills import fill_bar
from wren_ladder.drumming.workshop.patterns import FOUR
from wren_ladder.drumming.workshop.recipes import fill_of
from wren_ladder.studio.pieces.models import BarRow, Piece
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.teaching.models import syllabus_of


def exercises_of(student: Student | None, *kinds: str) -> list[Plan]:
    """What the student climbs of these kinds, with where it stands; in one query."""
    if student is None:
        return []
    plans = Plan.objects.filter(student=student, piece__kind__in=kinds or Piece.Kind.values)
    return list(plans.select_related("piece", "standing").order_by("piece__title"))


def bars_held(student: Student) -> list[Bar]:
    """The bars that the student holds at any tempo, in whatever they climb."""
    steps = Step.objects.filter(plan__student=student, kind=StepKind.BAR)
    held = steps.filter(standing__held__isnull=False, first__isnull=False)
    return [step.first.bar for step in held.select_related("first")]


def book_of_fills(student: Student | None) -> list[tuple[Plan, list[str]]]:
    """The student's fills, each with where it stands: in their pieces and in their own bars."""
    fills = exercises_of(student, Piece.Kind.FILL)
    played = _bars_played(student) if fills else []
    return [(plan, _used_in(played, plan)) for plan in fills]


def _bars_played(student: Student) -> list[tuple[str, Bar]]:
    """(title, bar) of the pieces that the student has, with their own bars in their places."""
    own = {one.bar_id: one.own for one in student.own_bars.all()}
    rows = BarRow.objects.filter(
        piece__plans__student=student, piece__kind=Piece.Kind.PIECE
    ).select_related("piece")
    return [(row.piece.title, own.get(row.pk) or row.bar) for row in rows]


def _used_in(played: list[tuple[str, Bar]], plan: Plan) -> list[str]:
    """ "Long Pier Signals, bar 16"."""
    try:
        fill = fill_of(plan.piece.made_of["fill"])
    except (KeyError, TypeError, ValueError):
        return []  # of the shelf
    written = set(fill_bar(fill, FOUR).hits)
    return [
        f"{title}, bar {bar.number}"
        for title, bar in played
        if {hit for hit in bar.hits if hit.at >= fill.space.start} == written
    ]


def asked_by_pieces(student: Student | None) -> dict[str, str]:
    """The techniques due or new at the student's grade in the pieces that are climbed, each
    with the titles of its pieces."""
    if student is None:
        return {}
    syllabus, found = syllabus_of(student.owner_id), {}
    plans = Plan.objects.filter(student=student, piece__kind=Piece.Kind.PIECE)
    for plan in plans.filter(status=Plan.Status.CLIMBING).select_related("piece"):
        chart = plan.piece.chart()
        felt = zip(chart.bars, feels(chart.bars, chart.swings), strict=True)
        names = {name for bar, feel in felt for name in techniques(bar, feel)}
        for name in names:
            if syllabus.get(name, 0) >= student.grade:
                found.setdefault(name, []).append(plan.piece.title)
    return {name: " and ".join(titles) for name, titles in sorted(found.items())}
