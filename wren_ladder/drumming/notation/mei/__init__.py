"""Writes bars as MEI 5, with the count under the staff and the sticking in a row."""

from wren_ladder.drumming.notation.mei.document import NAMESPACE, write_mei
from wren_ladder.drumming.notation.mei.scored import Layout, Scored

__all__ = ["NAMESPACE", "Layout", "Scored", "write_mei"]
