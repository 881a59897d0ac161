"""Exercises: charts of their own with what they were made of, given like a piece."""

from collections.abc import Mapping
from dataclasses import replace

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import F

from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.chart import Bar, Chart, Hand
from wren_ladder.drumming.rudiments.drills import Drill
from wren_ladder.studio.changes.pieces import add_piece
from wren_ladder.studio.changes.plans import plan_defaults
from wren_ladder.studio.climb.standings import refresh_all
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.planning import made_now
from wren_ladder.studio.students.models import Student

LOOPED, IN_A_ROW = 8, 4  # times through, of one bar and of more


@transaction.atomic
def make_exercise(
    owner: AbstractBaseUser,
    chart: Chart,
    kind: str,
    made_of: Mapping[str, object],
    grade: int | None = None,
) -> Piece:
    """The exercise of this recipe; the one that is there where it was made before."""
    there = Piece.objects.filter(owner=owner, kind=kind, made_of=dict(made_of)).first()
    return there or add_piece(owner, chart, kind=kind, made_of=dict(made_of), grade=grade)


@transaction.atomic
def give_exercise(
    piece: Piece, student: Student, target: int, start: int | None = None
) -> Plan:
    """The whole of it as one step. Given again it goes on where it stands, to the higher
    target."""
    plan = piece.plans.filter(student=student).first()
    if plan:
        Plan.objects.filter(pk=plan.pk).update(
            target=max(plan.target, target),
            status=Plan.Status.CLIMBING,
            version=F("version") + 1,
        )
        plan.steps.update(dropped=False)
    else:
        rules = plan_defaults(student.owner_id, target, student.grade)
        rules["start"] = min(start or rules["start"], target)
        plan = Plan.objects.create(
            owner_id=student.owner_id,
            piece=piece,
            student=student,
            target=target,
            for_exam=False,
            **rules,
        )
        bars = list(piece.bars.all())
        Step.objects.create(
            plan=plan,
            position=0,
            kind=StepKind.OWN,
            first=bars[0],
            last=bars[-1],
            name=piece.title[:80],
            repeats=LOOPED if len(bars) == 1 else IN_A_ROW,
            by_hand=True,
        )
        made_now(plan)
    refresh_all(Plan.objects.filter(student=student))
    return Plan.objects.get(pk=plan.pk)


@transaction.atomic
def send_drill(drill: Drill, student: Student, tempo: int) -> Step:
    """A drill from the rudiment shelf, to be reached at ``tempo``; a left-hander's is
    mirrored."""
    lead = Hand(student.lead)
    bar = drill.bar if lead is Hand.RIGHT else mirrored(drill.bar)
    chart = Chart(drill.name, (replace(bar, number="1"),))
    made_of = {"rudiment": drill.name, "lead": lead.value}
    piece = make_exercise(student.owner, chart, Piece.Kind.HANDS, made_of)
    return give_exercise(piece, student, tempo).steps.get()


def mirrored(bar: Bar) -> Bar:
    hits = tuple(replace(hit, hand=hit.hand and hit.hand.other) for hit in bar.hits)
    return replace(bar, hits=hits)
