"""Where words stand in a teacher's rows, and taking them out: a name in a draft, in a title, in
another student's lesson note."""

import json
import re

from django.contrib.auth.models import AbstractBaseUser
from django.contrib.sessions.models import Session
from django.db import models
from django.db.models.functions import Cast

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.notation.musicxml.document import unpacked
from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.exchange.studio_file import TABLES
from wren_ladder.studio.pieces.models import Draft, Edit, Import
from wren_ladder.studio.plans.packed_bars import PackedBarsField
from wren_ladder.studio.students.models import Student

INSTEAD = "a student"
# Beside what a studio file holds: what waits to be looked over, is being typed, was deleted.
PASSING = ((Import, "owner"), (Draft, "owner"), (Edit, "draft__owner"), (Binned, "owner"))
ASCII = re.compile(r"[A-Za-z0-9]+")
KEPT_IN_A_SESSION = re.compile(r"_auth_|seen$|_csrftoken$")


def as_stored(words: str) -> set[str]:
    """As they stand in a text, and in JSON."""
    return {words, json.dumps(words)[1:-1]}


def whole(words: str) -> re.Pattern:
    """These words and no part of others, in any case."""
    return re.compile(rf"(?<!\w){re.escape(words)}(?!\w)", re.IGNORECASE)


def take_out(owner: AbstractBaseUser, words: str) -> int:
    """Put "a student" in their place in all that is the teacher's; the names of other students
    stay. How many rows were changed."""
    pattern, changed = whole(words), 0
    for one in Binned.objects.filter(owner=owner):
        if pattern.search(f"{one.what} {one.lost} {json.dumps(one.rows, ensure_ascii=False)}"):
            one.delete()
    for one in Import.objects.filter(owner=owner):
        if pattern.search(f"{one.name} {_text_of(bytes(one.data))}"):
            one.delete()
    for model, way in (*TABLES, *PASSING):
        for row in _naming(model, way, owner, words):
            fresh = {}
            for field in _texts(model):
                before = getattr(row, field.attname)
                after = _without(before, pattern)
                if after != before:
                    fresh[field.attname] = _fitting(after, field)
            if fresh:
                model.objects.filter(pk=row.pk).update(**fresh)
                changed += 1
    return changed + _take_out_of_sessions(pattern)


def _text_of(file: bytes) -> str:
    """What can be read in a file that waits, packed or not."""
    try:
        return unpacked(file).decode(errors="ignore")
    except ChartError:
        return file.decode(errors="ignore")


def _texts(model: type[models.Model]) -> list[models.Field]:
    found = [
        one
        for one in model._meta.concrete_fields
        if isinstance(
            one, (models.CharField, models.TextField, models.JSONField, PackedBarsField)
        )
        and not one.choices
    ]
    stays = {"name", "link_key"} if model is Student else set()
    return [one for one in found if one.name not in stays]


def _naming(model, way: str, owner: AbstractBaseUser, words: str) -> list[models.Model]:
    """The rows whose texts may hold the words. The database knows the case of ASCII letters
    alone, and JSON writes others as numbers: it is asked for the longest run of ASCII."""
    asked, rows = models.Q(), model.objects.filter(**{way: owner})
    run = max(ASCII.findall(words), key=len, default="")
    if any(isinstance(field, PackedBarsField) for field in _texts(model)):
        return list(rows)
    for field in _texts(model):
        rows = rows.annotate(**{f"{field.name}_text": Cast(field.name, models.TextField())})
        asked |= models.Q(**{f"{field.name}_text__icontains": run})
    return list(rows.filter(asked)) if asked else []


def _fitting(value, field: models.Field):
    return value[: field.max_length] if isinstance(value, str) else value


def _without(value, pattern: re.Pattern):
    if isinstance(value, str):
        return pattern.sub(INSTEAD, value)
    if isinstance(value, list):
        return [_without(one, pattern) for one in value]
    if isinstance(value, dict):
        return {name: _without(one, pattern) for name, one in value.items()}
    return value


def _take_out_of_sessions(pattern: re.Pattern) -> int:
    """A message that waits to be shown may name somebody: such a session keeps its log-in and
    nothing else."""
    changed = 0
    for session in Session.objects.all():
        held = session.get_decoded()
        if pattern.search(json.dumps(held, ensure_ascii=False, default=str)):
            kept = {name: held[name] for name in held if KEPT_IN_A_SESSION.match(name)}
            session.session_data = Session.get_session_store_class()().encode(kept)
            session.save(update_fields=["session_data"])
            changed += 1
    return changed
