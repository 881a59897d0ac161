"""Deleting into the bin, and back out of it; after thirty days it is gone for good."""

import json
from datetime import date

from django.contrib.auth.models import AbstractBaseUser, User
from django.core import serializers
from django.db import IntegrityError, connection, models, transaction
from django.db.models.deletion import Collector

from wren_ladder.studio.bin.models import KEPT, Binned
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.climb.standings import refresh_all
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student

MOST_SAID = 400


class BinError(Exception):
    """Why something can't be put back, in words."""


@transaction.atomic
def put_in_bin(
    thing: models.Model, owner: AbstractBaseUser, what: str, lost: str, today: date
) -> Binned:
    """Delete a thing and everything that hangs on it, keeping the rows for a while."""
    empty_old(owner, today)
    rows = json.loads(serializers.serialize("json", _everything_of(thing)))
    kept = Binned.objects.create(
        owner=owner,
        kind=thing._meta.label_lower,
        what=what[:200],
        lost=lost[:MOST_SAID],
        day=today,
        rows=rows,
    )
    delete_for_good(thing)
    return kept


@transaction.atomic
def delete_for_good(thing: models.Model) -> None:
    """Without the bin; what hung on it is worked out anew."""
    following = _following([thing])
    thing.delete()
    refresh_all(Plan.objects.filter(following))


def _following(things: list[models.Model]) -> models.Q:
    """The plans that are worked out anew when these come or go: those of a log, and all of a
    student who has one piece more or less."""
    plans = {one.pk for one in things if isinstance(one, Plan)}
    plans |= {one.step.plan_id for one in things if isinstance(one, Attempt)}
    students = {one.student_id for one in things if isinstance(one, Plan)} - {None}
    return models.Q(pk__in=plans) | models.Q(student__in=students)


def _everything_of(thing: models.Model) -> list[models.Model]:
    collector = Collector(using="default", origin=thing)
    collector.collect([thing])
    found = [one for instances in collector.data.values() for one in instances]
    found += [one for query in collector.fast_deletes for one in query]
    return found


@transaction.atomic
def put_back(binned: Binned) -> None:
    """The rows as they were; BinError where something else has taken their place, or where
    what they belong to is gone."""
    found = serializers.deserialize("python", binned.rows, ignorenonexistent=True)
    try:
        with transaction.atomic():
            things = [_told_apart(one.object) for one in found]
            for thing in things:
                models.Model.save_base(thing, raw=True, force_insert=True)
            connection.check_constraints()
    except IntegrityError as error:
        raise BinError(_why(binned, str(error))) from error
    refresh_all(Plan.objects.filter(_following(things)))
    binned.delete()


def _told_apart(thing: models.Model) -> models.Model:
    """A student whose name was given to another in the meantime is told apart by a number; a
    second teacher who is of the house no more is left out."""
    if isinstance(thing, Student):
        if not User.objects.filter(pk=thing.second_teacher_id, is_active=True).exists():
            thing.second_teacher_id = None
        others = Student.objects.filter(owner=thing.owner_id)
        name, number = thing.name, 2
        while others.filter(name=thing.name).exists():
            thing.name, number = f"{name} ({number})"[:80], number + 1
    return thing


def _why(binned: Binned, error: str) -> str:
    if "unique" in error.lower():  # SQLite and PostgreSQL both say it
        return f"{binned.what} can't be put back: there is another one in its place now."
    return f"{binned.what} can't be put back: what it belonged to is gone. Put that back first."


def empty_old(owner: AbstractBaseUser, today: date) -> None:
    """What has lain there for its time is gone for good."""
    old = Binned.objects.filter(owner=owner, day__lt=today - KEPT)
    if old.exists():  # asked first: looking takes no lock
        old.delete()
