"""Two schools side by side for the same piece and student."""

from math import ceil

from django.http import HttpRequest
from django.utils import timezone

from wren_ladder.drumming.style import School
from wren_ladder.studio.climb.work_left import left_of, weeks_of
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.plans.planning import steps_by
from wren_ladder.studio.plans.versions import study_for


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
    """What taking this school would leave to do: what is held already counts."""
    studied = study_for(plan)
    every = steps_by(plan, school)
    steps = [step for step in every if step.music_is_there and not step.dropped]
    left = left_of(plan, steps, studied)
    works = [each.work for each in left]
    return {
        "school": school,
        "steps": [(step, ceil(work.minutes)) for step, work in zip(steps, works, strict=True)],
        "lines": sum(not step.is_scaffold for step in steps),
        "minutes": round(sum(work.minutes for work in works)),
        "schedule": weeks_of(plan, steps, left, timezone.localdate()),
    }
