"""For whom a plan is made: hands, target, grade, what is known, and the teacher's ranks."""

from django.db.models import Q

from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.judging.judgement import Player, music_of
from wren_ladder.studio.plans.models import OwnRank, Plan, Step
from wren_ladder.studio.plans.versions import style_for
from wren_ladder.studio.teaching.models import syllabus_of


def player_for(plan: Plan) -> Player:
    """The plan's student; without one, anybody who plays the piece at the plan's target."""
    return Player(
        style=style_for(plan),
        grade=plan.student.grade if plan.student else None,
        target=plan.target,
        syllabus=syllabus_of(plan.owner_id),
        known=known_music(plan),
        ranks=own_ranks(plan),
    )


def known_music(plan: Plan) -> frozenset[tuple]:
    """The bars that the student holds in other pieces at this plan's target or faster."""
    if not plan.student_id:
        return frozenset()
    target = plan.target * plan.piece.tempo.beat
    steps = Step.objects.filter(
        plan__student=plan.student_id,
        kind=StepKind.BAR,
        standing__held__isnull=False,
        first__isnull=False,
    ).exclude(plan=plan)
    return frozenset(
        music_of(step.first.bar)
        for step in steps.select_related("first", "plan__piece")
        if step.standing.held * step.plan.piece.tempo.beat >= target
    )


def own_ranks(plan: Plan) -> dict[int, float]:
    """The teacher's own ranks by place; one for the student goes over the piece's."""
    found = OwnRank.objects.filter(bar__piece=plan.piece_id)
    found = found.filter(Q(student=None) | Q(student=plan.student_id))
    ordered = sorted(found.select_related("bar"), key=lambda one: one.student_id is not None)
    return {one.bar.position: one.rank for one in ordered}
