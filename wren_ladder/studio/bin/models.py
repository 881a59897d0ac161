"""What was deleted, kept for a while: its rows, so that it can be put back as it was."""

import json
from datetime import date, timedelta

from django.apps import apps
from django.conf import settings
from django.db import models

from wren_ladder.studio import prose

KEPT = timedelta(days=30)


def _words_of_rows(rows: object, change: prose.Change) -> object:
    """Of each row the words that its own model declares."""
    return [_words_of_row(row, change) for row in rows]


def _words_of_row(row: dict, change: prose.Change) -> dict:
    fields = dict(row["fields"])
    model = apps.get_model(row["model"])
    for name, words in prose.prose_of(model).items():
        if name not in fields:
            continue
        value = fields[name]
        # Packed fields are written as the text of their JSON.
        packed = isinstance(model._meta.get_field(name), models.BinaryField)
        if packed and isinstance(value, str):
            fields[name] = json.dumps(words(json.loads(value), change))
        else:
            fields[name] = words(value, change)
    return {**row, "fields": fields}


class Binned(models.Model):
    """One thing that was deleted, with everything that hung on it."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="binned")
    kind = models.CharField(max_length=60)  # the model, as "students.student"
    what = models.CharField(max_length=200)
    lost = models.CharField(max_length=400, blank=True)
    day = models.DateField()
    rows = models.JSONField()  # as Django's serializer writes them
    # The numbers of the students whose rows are among them.
    students = models.JSONField(default=list)
    # What let go of it: [model, number, field, the number it held] each.
    let_go = models.JSONField(default=list)

    PROSE = {"what": prose.text, "lost": prose.text, "rows": _words_of_rows}
    CODES = ("kind", "students", "let_go")

    class Meta:
        ordering = ["-day", "-pk"]

    def __str__(self) -> str:
        return self.what

    @property
    def gone_on(self) -> date:
        return self.day + KEPT
