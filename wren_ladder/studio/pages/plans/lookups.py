"""Finding the plans and steps that a teacher may see: model plans of their own, and those of
the students whom they teach."""

from django.contrib.auth.models import AbstractBaseUser
from django.db.models import Q, QuerySet
from django.http import Http404
from django.shortcuts import get_object_or_404

from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.students.taught import students_of

PLANS = Plan.objects.select_related("piece", "student", "standing__held_by")
STEPS = Step.objects.select_related(
    "plan__piece", "plan__student", "plan__standing", "first", "last", "standing"
)


def plans_of(plans: QuerySet[Plan], user: AbstractBaseUser) -> QuerySet[Plan]:
    model = Q(owner=user, student=None)
    return plans.filter(model | Q(student__in=students_of(user)))


def plan_or_404(user: AbstractBaseUser, pk: int) -> Plan:
    return get_object_or_404(plans_of(PLANS, user), pk=pk)


def student_plan_or_404(user: AbstractBaseUser, pk: int) -> Plan:
    """A plan that a student climbs; the model plan has no ladder."""
    plan = plan_or_404(user, pk)
    if not plan.student_id:
        raise Http404("the model plan is climbed by nobody")
    return plan


def step_or_404(user: AbstractBaseUser, pk: int) -> Step:
    return get_object_or_404(STEPS.filter(plan__in=plans_of(Plan.objects, user)), pk=pk)
