"""Tries: logged, corrected, deleted.

The change is one short transaction with a note of it. What follows from it is worked out after
that, so that nobody who writes waits for the reckoning.
"""

from collections.abc import Sequence
from uuid import UUID

from django.db import transaction

from wren_ladder.studio.climb.models import Attempt, TakenBack
from wren_ladder.studio.climb.standings import follow, note_changes
from wren_ladder.studio.plans.models import Step


def log_attempts(attempts: Sequence[Attempt]) -> list[Attempt]:
    """Store new tries, and let every plan they belong to follow once. A key that was stored
    before is stored once; what was for a step that is gone by now does not come back."""
    if not attempts:
        return []
    with transaction.atomic():
        steps = Step.objects.filter(pk__in={one.step_id for one in attempts})
        there = set(steps.values_list("pk", flat=True))
        stored = [one for one in attempts if one.step_id in there]
        Attempt.objects.bulk_create(stored, ignore_conflicts=any(one.key for one in stored))
        plans = {one.step.plan_id for one in stored}
        note_changes(plans)
    follow(sorted(plans), {one.step_id for one in stored})
    return stored


def correct_attempt(attempt: Attempt) -> None:
    """Store an attempt as it was corrected."""
    with transaction.atomic():
        attempt.save()
        note_changes([attempt.step.plan_id])
    follow([attempt.step.plan_id], {attempt.step_id})


def delete_attempt(attempt: Attempt) -> None:
    plan = attempt.step.plan_id
    with transaction.atomic():
        attempt.delete()
        never_again(attempt.key)
        note_changes([plan])
    follow([plan], {attempt.step_id})


def never_again(key: UUID | None) -> None:
    """What arrives under this key from now on was taken back."""
    if key:
        TakenBack.objects.get_or_create(key=key)


def was_taken_back(key: UUID) -> bool:
    return TakenBack.objects.filter(key=key).exists()
