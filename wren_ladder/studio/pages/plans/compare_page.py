"""Two schools side by side for the same piece and student."""

from django.http import HttpRequest
from django.utils import timezone

from wren_ladder.drumming.breakdown import climb_minutes, start_for
from wren_ladder.drumming.style import School
from wren_ladder.studio.pages.plans.breakdown_page import weeks_of
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.plans.planning import name_step, steps_for


def compare_context(request: HttpRequest, plan: Plan) -> dict:
    """The piece by two schools, side by side: steps, minutes and weeks of each."""
    schools = [
        _asked(request, "one", School.BAR),
        _asked(request, "two", School.PHRASE),
    ]
    return {
        "plan": plan,
        "schools": list(School),
        "sides": [_side(plan, school) for school in schools],
    }


def _asked(request: HttpRequest, name: str, otherwise: School) -> School:
    asked = request.GET.get(name)
    return School(asked) if asked in tuple(School) else otherwise


def _side(plan: Plan, school: School) -> dict:
    studied, steps = steps_for(plan, school)
    share = plan.start * 100 // plan.target
    ladders = [plan.rungs_from(start_for(plan.target, share, step.rank)) for step in steps]
    minutes = [
        climb_minutes(step, studied, ladder)
        for step, ladder in zip(steps, ladders, strict=True)
    ]
    named = [
        (name_step(step, studied.chart.bars), step, round(spent))
        for step, spent in zip(steps, minutes, strict=True)
    ]
    return {
        "school": school,
        "steps": named,
        "minutes": round(sum(minutes)),
        "schedule": weeks_of(plan, minutes, timezone.localdate()),
    }
