"""The strokes of a take in the database: five minutes with 4,000 of them are under 20 KB."""

import json
import zlib
from itertools import accumulate, pairwise

from django.core.exceptions import ValidationError
from django.db import models

from wren_ladder.drumming.chart import Drum

MOST_STROKES = 20_000
LOUDEST = 127
LONGEST = 3_600_000  # milliseconds


class StrokesField(models.BinaryField):
    """[[milliseconds, drum or "", strength to 127 or null], ...]. Times are kept to a tenth of
    a millisecond, as steps from one to the next; column by column, so that they pack well."""

    def __init__(self, *args, **kwargs) -> None:
        kwargs["editable"] = False
        super().__init__(*args, **kwargs)

    def get_prep_value(self, value):
        rows = sorted(value, key=lambda row: row[0])
        tenths = [round(10 * at) for at, _, _ in rows]
        steps = [after - before for before, after in pairwise([0, *tenths])]
        columns = [steps, [drum for _, drum, _ in rows], [strong for *_, strong in rows]]
        return zlib.compress(json.dumps(columns, separators=(",", ":")).encode(), 9)

    def from_db_value(self, value, expression, connection):
        if value is None:
            return []
        steps, drums, strengths = json.loads(zlib.decompress(value))
        times = [tenth / 10 for tenth in accumulate(steps)]
        return [list(row) for row in zip(times, drums, strengths, strict=True)]

    def to_python(self, value):
        """From a file, or from what the bin wrote."""
        rows = json.loads(value) if isinstance(value, str) else value
        if not isinstance(rows, list) or len(rows) > MOST_STROKES:
            raise ValidationError("strokes are a list of at most 20,000")
        if not all(_is_stroke(row) for row in rows):
            raise ValidationError("a stroke is [milliseconds, drum, strength to 127]")
        return rows

    def value_to_string(self, obj) -> str:
        return json.dumps(self.value_from_object(obj))


def _is_stroke(row) -> bool:
    if not isinstance(row, list) or len(row) != 3:
        return False
    at, drum, strength = row
    return (
        isinstance(at, int | float)
        and abs(at) <= LONGEST
        and (drum == "" or drum in set(Drum))
        and (strength is None or (isinstance(strength, int) and 0 < strength <= LOUDEST))
    )
