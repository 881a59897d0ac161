"""Drills from the rudiment shelf, sent to a student."""

from dataclasses import replace
from fractions import Fraction

from django.db import transaction
from django.db.models import F

from wren_ladder.drumming.chart import Bar, Chart, Hand, Tempo
from wren_ladder.drumming.rudiments.drills import Drill
from wren_ladder.studio.changes.pieces import add_piece, save_piece
from wren_ladder.studio.changes.plans import add_step, plan_defaults
from wren_ladder.studio.climb.standings import refresh
from wren_ladder.studio.pieces.models import Piece, drills_title
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.planning import made_now
from wren_ladder.studio.students.models import Student

REPEATS = 8


@transaction.atomic
def send_drill(drill: Drill, student: Student, tempo: int) -> Step:
    """A drill as a step of the student's own plan of drills, to be reached at ``tempo``.

    The drills of a student are a piece of their own, a bar for each, so that they climb
    and are logged like any other step.
    """
    title = drills_title(student.name)
    bar = drill.bar if student.lead == Hand.RIGHT else _mirrored(drill.bar)
    piece = Piece.objects.filter(drills_of=student).first()
    if piece is None:
        chart = Chart(title, (_titled(bar, drill.name, "1"),))
        piece = add_piece(student.owner, _at(chart, tempo), drills_of=student)
        plan = Plan.objects.create(
            owner=student.owner,
            piece=piece,
            student=student,
            target=tempo,
            for_exam=False,
            **plan_defaults(student.owner_id, tempo, student.grade),
        )
    else:
        there = _sent(piece, student, drill.name)
        if there:
            return _raise(there, tempo)
        rows = [row.pk for row in piece.bars.all()]
        bars = piece.chart().bars
        bars = (*bars, _titled(bar, drill.name, str(len(bars) + 1)))
        save_piece(piece, Chart(title, bars), [*rows, None])
        plan = piece.plans.get(student=student)
        _raise_target(plan, tempo)
    row = piece.bars.last()
    made_now(plan)
    start = plan_defaults(student.owner_id, tempo, student.grade)["start"]
    return add_step(plan, row, row, name=drill.name, repeats=REPEATS, start=start)


def _sent(piece: Piece, student: Student, name: str) -> Step | None:
    """The step of a drill that the student has already."""
    steps = Step.objects.filter(plan__piece=piece, plan__student=student, name=name)
    return steps.select_related("plan").first()


def _raise(step: Step, tempo: int) -> Step:
    """A drill sent again goes on where it stands, to the higher target."""
    Step.objects.filter(pk=step.pk).update(dropped=False)
    _raise_target(step.plan, tempo)
    refresh(step.plan)
    return step


def _raise_target(plan: Plan, tempo: int) -> None:
    Plan.objects.filter(pk=plan.pk, target__lt=tempo).update(
        target=tempo, version=F("version") + 1
    )


def _titled(bar: Bar, name: str, number: str) -> Bar:
    return replace(bar, number=number, section=name[:60])


def _mirrored(bar: Bar) -> Bar:
    hits = tuple(replace(hit, hand=hit.hand and hit.hand.other) for hit in bar.hits)
    return replace(bar, hits=hits)


def _at(chart: Chart, tempo: int) -> Chart:
    first = replace(chart.bars[0], tempo=Tempo(Fraction(1), tempo))
    return Chart(chart.title, (first, *chart.bars[1:]))
