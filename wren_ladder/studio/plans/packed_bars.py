"""The bars of a snapshot in the database, packed: 40 bars take 3 KB in place of 60."""

import json
import zlib

from django.core.exceptions import ValidationError
from django.db import models


class PackedBarsField(models.BinaryField):
    """[[row, bar], ...], a bar as the core writes it."""

    def __init__(self, *args, **kwargs) -> None:
        kwargs["editable"] = False
        super().__init__(*args, **kwargs)

    def get_prep_value(self, value):
        written = json.dumps(value, separators=(",", ":"), ensure_ascii=False)
        return zlib.compress(written.encode(), 9)

    def from_db_value(self, value, expression, connection):
        return [] if value is None else json.loads(zlib.decompress(value))

    def to_python(self, value):
        """From a file, or from what the bin wrote."""
        rows = json.loads(value) if isinstance(value, str) else value
        if not isinstance(rows, list):
            raise ValidationError("the bars of a snapshot are a list")
        return rows

    def value_to_string(self, obj) -> str:
        return json.dumps(self.value_from_object(obj))
