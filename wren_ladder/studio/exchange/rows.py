"""Rows of a studio file, a line for each."""

import json
from collections.abc import Iterable, Iterator

from django.core.serializers.json import DjangoJSONEncoder


def row_lines(rows: Iterable[dict]) -> Iterator[str]:
    """The inside of a JSON list, written while the rows are read."""
    comma = ""
    for row in rows:
        yield f"{comma}\n{json.dumps(row, cls=DjangoJSONEncoder, ensure_ascii=False)}"
        comma = ","
