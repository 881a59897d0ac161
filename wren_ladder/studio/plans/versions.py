"""The piece as a plan has it: studied for its student's hands, with the bars of their own."""

from dataclasses import dataclass, replace

from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.chart.serial import bar_from_json
from wren_ladder.drumming.judging.judgement import music_of
from wren_ladder.drumming.study import Study
from wren_ladder.drumming.style import Style
from wren_ladder.studio.drawing.wall import Row
from wren_ladder.studio.pieces.studies import OwnBars, study_of, wall_of
from wren_ladder.studio.plans.models import Plan, StudentBar
from wren_ladder.studio.teaching.models import style_of


def style_for(plan: Plan) -> Style:
    return plan.student.style if plan.student else style_of(plan.owner_id)


def own_bars(plan: Plan) -> OwnBars:
    """The bars the student plays otherwise, under the numbers they have now; those of a metre
    that the page has left are passed over until they are written anew."""
    if not plan.student_id:
        return ()
    found = StudentBar.objects.filter(student=plan.student_id, bar__piece=plan.piece_id)
    return tuple(
        (one.bar.position, replace(one.own, number=one.bar.number))
        for one in found.select_related("bar").order_by("bar__position")
        if _fits(one.own, one.bar.bar)
    )


def _fits(own: Bar, page: Bar) -> bool:
    return (own.meter, own.length) == (page.meter, page.length)


def is_out_of_date(one: StudentBar) -> bool:
    """Has the page changed since this was written for it?"""
    return music_of(bar_from_json(one.page)) != music_of(one.bar.bar)


def study_for(plan: Plan) -> Study:
    return music_for(plan).study


@dataclass(frozen=True, slots=True)
class PlanMusic:
    """The piece as a plan has it, and the style it is taught in: asked for once a plan."""

    study: Study
    style: Style
    own: OwnBars = ()


def music_for(plan: Plan) -> PlanMusic:
    style, own = style_for(plan), own_bars(plan)
    return PlanMusic(study_of(plan.piece, style, own), style, own)


def wall_for(plan: Plan) -> tuple[Row, ...]:
    return wall_of(plan.piece, style_for(plan), own_bars(plan))
