"""The takes of a plan on its progress page: spread beside tempo, and what comes again."""

from datetime import date

from wren_ladder.drumming.takes.words import habit_sentence
from wren_ladder.studio.climb.habits import habits_in, takes_of
from wren_ladder.studio.drawing.spread_chart import spread_chart
from wren_ladder.studio.plans.models import Plan

LISTED = 12
MOSTLY = 0.5  # of the passes: a dot is filled from here on


def taken(plan: Plan, today: date) -> dict:
    """Of the student's last takes those of this plan; habits are the student's."""
    all_of_them = takes_of([plan.student], today).get(plan.student_id, [])
    mine = [one for one in all_of_them if one.take.step.plan_id == plan.pk]
    rows = [
        (
            one.take.day,
            one.take.tempo,
            one.told.spread,
            one.told.clean >= MOSTLY * one.take.passes,
        )
        for one in reversed(mine)
        if one.told.spread is not None
    ]
    return {
        "chart": spread_chart(rows, today),
        "takes": mine[:LISTED],
        "habits": [habit_sentence(one) for one in habits_in(all_of_them)],
    }
