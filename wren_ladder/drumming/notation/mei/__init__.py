"""Writes bars as MEI 5, with the count under the staff and the sticking in a row."""

from wren_ladder.drumming.notation.mei.bar import hat_left_open
from wren_ladder.drumming.notation.mei.document import (
    NAMESPACE,
    line_before,
    write_mei,
)
from wren_ladder.drumming.notation.mei.scored import Around, Layout, Scored

__all__ = [
    "NAMESPACE",
    "Around",
    "Layout",
    "Scored",
    "hat_left_open",
    "line_before",
    "write_mei",
]
