"""Whose a deleted row is: each model says beside its fields which way leads to its student."""

from collections.abc import Iterable, Sequence
from functools import cache

from django.apps import apps
from django.db import models

from wren_ladder.studio.bin.models import Binned


def students_in(rows: Sequence[dict]) -> list[int]:
    """The numbers of the students whose rows are among these, in order."""
    return sorted({one for one in student_of_each(rows) if one is not None})


def student_of_each(rows: Sequence[dict]) -> list[int | None]:
    """For each row, as Django's serializer writes it, the number of its student; None for what
    is no student's. What a row refers to is looked up among the rows first, then in the
    database."""
    among = {(row["model"], row["pk"]): row["fields"] for row in rows}

    @cache
    def stored(label: str, number: int, way: str) -> int | None:
        found = apps.get_model(label).objects.filter(pk=number)
        return found.values_list(way, flat=True).first()

    def follow(label: str, number: int, way: str) -> int | None:
        if way == "pk":
            return number
        fields = among.get((label, number))
        if fields is None:
            return stored(label, number, way)
        name, _, rest = way.partition("__")
        there = fields.get(name)
        to = apps.get_model(label)._meta.get_field(name).related_model
        return None if there is None else follow(to._meta.label_lower, there, rest or "pk")

    found = []
    for row in rows:
        way = getattr(apps.get_model(row["model"]), "OF_STUDENT", None)
        found.append(follow(row["model"], row["pk"], way) if way else None)
    return found


def entries_of(student: int, owners: Iterable[int]) -> models.QuerySet[Binned]:
    """Everything in these teachers' bins that has rows of the student."""
    entries = Binned.objects.filter(owner__in=list(owners))
    mine = [pk for pk, those in entries.values_list("pk", "students") if student in those]
    return Binned.objects.filter(pk__in=mine)


def rows_of(binned: Binned, student: int) -> list[dict]:
    whose = student_of_each(binned.rows)
    return [row for row, one in zip(binned.rows, whose, strict=True) if one == student]


def without(binned: Binned, student: int) -> list[dict]:
    """The rows of an entry that are not the student's."""
    whose = student_of_each(binned.rows)
    return [row for row, one in zip(binned.rows, whose, strict=True) if one != student]
