"""Deleting into the bin, and back out of it; after thirty days it is gone for good."""

import json
from collections import Counter
from collections.abc import Iterator, Sequence
from datetime import date

from django.apps import apps
from django.contrib.auth.models import AbstractBaseUser, User
from django.core import serializers
from django.db import IntegrityError, connection, models, transaction
from django.db.models.deletion import Collector

from wren_ladder.studio.bin.models import KEPT, Binned
from wren_ladder.studio.bin.whose import students_in
from wren_ladder.studio.climb.models import Attempt, HomeMinutes, Take
from wren_ladder.studio.climb.standings import refresh_all
from wren_ladder.studio.exams.models import Exam, ExamItem, MockRun
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.plans.models import OwnRank, Plan, Saying, SayingSound, Step, StudentBar
from wren_ladder.studio.students.models import Student

MOST_SAID = 400
# What is told where it could not come back: one, and several.
TOLD = {
    Student: ("student", "students"),
    Plan: ("plan", "plans"),
    Step: ("step", "steps"),
    Attempt: ("try", "tries"),
    Take: ("take", "takes"),
    HomeMinutes: ("entry of minutes", "entries of minutes"),
    Lesson: ("lesson", "lessons"),
    Exam: ("exam", "exams"),
    ExamItem: ("thing of a programme", "things of a programme"),
    MockRun: ("run of a mock exam", "runs of mock exams"),
    OwnRank: ("own rank of a bar", "own ranks of bars"),
    SayingSound: ("recording about a bar", "recordings about bars"),
    Saying: ("sentence about a bar", "sentences about bars"),
    StudentBar: ("bar of their own", "bars of their own"),
}
GONE = "{} can't be put back: what it belonged to is gone. Put that back first."


class BinError(Exception):
    """Why something can't be put back, in words."""


@transaction.atomic
def put_in_bin(
    thing: models.Model, owner: AbstractBaseUser, what: str, lost: str, today: date
) -> Binned:
    """Delete a thing and everything that hangs on it, keeping the rows for a while."""
    empty_old(owner, today)
    collector = Collector(using="default", origin=thing)
    collector.collect([thing])
    rows = json.loads(serializers.serialize("json", _everything_of(collector)))
    kept = Binned.objects.create(
        owner=owner,
        kind=thing._meta.label_lower,
        what=what[:200],
        lost=lost[:MOST_SAID],
        day=today,
        rows=rows,
        students=students_in(rows),
        let_go=list(_let_go(collector)),
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


def _everything_of(collector: Collector) -> list[models.Model]:
    found = [one for instances in collector.data.values() for one in instances]
    found += [one for query in collector.fast_deletes for one in query]
    return found


def _let_go(collector: Collector) -> Iterator[list]:
    """What stays and refers to something that goes: a try to its take, a plan to a step."""
    for (field, _), updates in collector.field_updates.items():
        for one in (one for instances in updates for one in instances):
            yield [one._meta.label_lower, one.pk, field.name, getattr(one, field.attname)]


@transaction.atomic
def put_back(binned: Binned) -> str:
    """The rows as they were, and what referred to them. What may do without a thing that is
    gone does; what can't is left out, and told in the answer, "" where nothing is. BinError
    where something else has taken their place, or where what they belong to is gone."""
    found = serializers.deserialize("python", binned.rows, ignorenonexistent=True)
    things, left_out = _that_can_live([_told_apart(one.object) for one in found])
    if any(one._meta.label_lower == binned.kind for one in left_out) and not any(
        one._meta.label_lower == binned.kind for one in things
    ):
        raise BinError(GONE.format(binned.what))
    try:
        with transaction.atomic():
            for thing in things:
                models.Model.save_base(thing, raw=True, force_insert=True)
            _hold_again(binned.let_go)
            connection.check_constraints()
    except IntegrityError as error:
        raise BinError(_why(binned, str(error))) from error
    refresh_all(Plan.objects.filter(_following(things)))
    binned.delete()
    return _said(left_out)


def _that_can_live(
    things: Sequence[models.Model],
) -> tuple[list[models.Model], list[models.Model]]:
    """Those whose references lead somewhere, among them or in the database, emptied where that
    is allowed; and those that belong to what is gone."""
    stored = _stored_of(things)
    living, gone = list(things), []
    while True:
        there = {(type(one), one.pk) for one in living}
        lost = [one for one in living if not _has_its_own(one, there, stored)]
        if not lost:
            return living, gone
        gone += lost
        living = [one for one in living if one not in lost]


def _stored_of(things: Sequence[models.Model]) -> set[tuple[type, int]]:
    """What of all that they refer to is in the database."""
    asked: dict[type[models.Model], set] = {}
    for one in things:
        for field in _references(one):
            asked.setdefault(field.related_model, set()).add(getattr(one, field.attname))
    return {
        (model, pk)
        for model, numbers in asked.items()
        for pk in model.objects.filter(pk__in=numbers).values_list("pk", flat=True)
    }


def _references(thing: models.Model) -> list[models.Field]:
    """Those that hold something."""
    return [
        field
        for field in thing._meta.concrete_fields
        if field.is_relation and getattr(thing, field.attname) is not None
    ]


def _has_its_own(thing: models.Model, there: set, stored: set) -> bool:
    """Is what it belongs to there? A reference that may be empty is emptied where it leads
    nowhere, but for one that its owner stands in: a plan without its student is no model."""
    for field in _references(thing):
        one = (field.related_model, getattr(thing, field.attname))
        if one in there or one in stored:
            continue
        belongs = field.remote_field.on_delete is models.CASCADE
        if belongs or not field.null:
            return False
        setattr(thing, field.attname, None)
    return True


def _hold_again(let_go: Sequence[Sequence]) -> None:
    """What referred to the things refers to them again, where it refers to nothing else now."""
    for label, number, name, held in let_go:
        model = apps.get_model(label)
        to = model._meta.get_field(name).related_model
        if to.objects.filter(pk=held).exists():
            model.objects.filter(pk=number, **{f"{name}__isnull": True}).update(
                **{f"{name}_id": held}
            )


def _said(left_out: Sequence[models.Model]) -> str:
    """ "3 tries and 1 take", in the order of the table."""
    many = Counter(type(one) for one in left_out)
    parts = [f"{many[model]} {TOLD[model][many[model] > 1]}" for model in TOLD if many[model]]
    return " and ".join([", ".join(parts[:-1]), parts[-1]] if len(parts) > 1 else parts)


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
    return GONE.format(binned.what)


def empty_old(owner: AbstractBaseUser, today: date) -> None:
    """What has lain there for its time is gone for good."""
    old = Binned.objects.filter(owner=owner, day__lt=today - KEPT)
    if old.exists():  # asked first: looking takes no lock
        old.delete()
