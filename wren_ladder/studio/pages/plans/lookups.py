"""Finding a teacher's own plans and steps."""

from django.contrib.auth.models import AbstractBaseUser
from django.http import Http404
from django.shortcuts import get_object_or_404

from wren_ladder.studio.pages.requests import owned_or_404
from wren_ladder.studio.plans.models import Plan, Step

PLANS = Plan.objects.select_related("piece", "student", "standing__held_by")
STEPS = Step.objects.select_related(
    "plan__piece", "plan__student", "plan__standing", "first", "last", "standing"
)


def plan_or_404(user: AbstractBaseUser, pk: int) -> Plan:
    return owned_or_404(PLANS.all(), user, pk)


def student_plan_or_404(user: AbstractBaseUser, pk: int) -> Plan:
    """A plan that a student climbs; the model plan has no ladder."""
    plan = plan_or_404(user, pk)
    if not plan.student_id:
        raise Http404("the model plan is climbed by nobody")
    return plan


def step_or_404(user: AbstractBaseUser, pk: int) -> Step:
    return get_object_or_404(STEPS.all(), pk=pk, plan__owner=user)
