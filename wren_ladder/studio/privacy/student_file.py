"""Everything about one student in one readable page that needs nothing else to be opened."""

from django.apps import apps
from django.db.models import Field, Model
from django.template.loader import render_to_string

from wren_ladder.studio.bin.whose import entries_of, rows_of
from wren_ladder.studio.climb.models import Attempt, Take
from wren_ladder.studio.plans.models import OwnRank
from wren_ladder.studio.students.models import Student

NOT_THEIRS = {"id", "owner", "link_key", "version", "trial", "key", "made_of", "asked", "told"}


def student_file(student: Student) -> str:
    """HTML with headings and tables, the strokes of takes as numbers."""
    takes = Take.objects.filter(step__plan__student=student).select_related("step__plan__piece")
    context = {
        "student": student,
        "fields": [
            (field.verbose_name, _said(student, field))
            for field in Student._meta.concrete_fields
            if field.name not in NOT_THEIRS
        ],
        "link_is_open": bool(student.link_key),
        "plans": student.plans.select_related("piece").prefetch_related("steps", "revisions"),
        "said_of_a_try": [_field(Attempt, name).verbose_name for name in Attempt.SAID],
        "tries": [
            (one.step, [_said(one, _field(Attempt, name)) for name in Attempt.SAID])
            for one in Attempt.objects.filter(step__plan__student=student)
            .select_related("step__plan__piece")
            .order_by("day", "pk")
        ],
        "takes": takes.order_by("day", "pk"),
        "minutes": student.logged_minutes.all(),
        "lessons": student.lessons.order_by("day"),
        "own_bars": student.own_bars.select_related("bar__piece"),
        "sayings": student.sayings.select_related("first__piece"),
        "own_ranks": OwnRank.objects.filter(student=student).select_related("bar__piece"),
        "binned": [
            {"entry": one, "rows": [_read(row) for row in rows_of(one, student.pk)]}
            for one in entries_of(student.pk, [student.owner_id])
        ],
    }
    return render_to_string("privacy/student_file.html", context)


def _read(row: dict) -> tuple[str, list[tuple[str, object]]]:
    """What a deleted row was, and what stood in it, without what only the studio reads."""
    model = apps.get_model(row["model"])
    said = [
        (field.verbose_name, row["fields"].get(field.name))
        for field in model._meta.concrete_fields
        if not (field.primary_key or field.is_relation or field.name in NOT_THEIRS)
    ]
    return model._meta.verbose_name, [one for one in said if one[1] not in (None, "", [], {})]


def _field(model: type[Model], name: str) -> Field:
    return model._meta.get_field(name)


def _said(thing: Model, field: Field) -> object:
    if field.choices:
        return getattr(thing, f"get_{field.name}_display")()
    value = getattr(thing, field.name)
    if isinstance(value, bool):
        return "yes" if value else "no"
    return "–" if value in (None, "") else value
