"""Tries and minutes: logged, corrected, deleted."""

from collections.abc import Sequence

from django.db import transaction

from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.climb.standings import refresh_all
from wren_ladder.studio.plans.models import Plan


@transaction.atomic
def log_attempts(attempts: Sequence[Attempt]) -> None:
    """Store new tries; every plan they belong to follows once."""
    Attempt.objects.bulk_create(attempts)
    _let_follow({attempt.step.plan_id for attempt in attempts})


@transaction.atomic
def correct_attempt(attempt: Attempt) -> None:
    """Store an attempt as it was corrected, and let its plan follow."""
    attempt.save()
    _let_follow({attempt.step.plan_id})


@transaction.atomic
def delete_attempt(attempt: Attempt) -> None:
    plan = attempt.step.plan_id
    attempt.delete()
    _let_follow({plan})


def _let_follow(plans: set[int]) -> None:
    refresh_all(Plan.objects.filter(pk__in=plans))
