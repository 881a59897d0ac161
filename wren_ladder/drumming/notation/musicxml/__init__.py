"""Reads and writes MusicXML 4.0 drum parts (source: the W3C MusicXML 4.0 reference)."""

from wren_ladder.drumming.notation.musicxml.document import MOST_BYTES
from wren_ladder.drumming.notation.musicxml.reader import open_musicxml, read_musicxml
from wren_ladder.drumming.notation.musicxml.writer import write_musicxml

__all__ = ["MOST_BYTES", "open_musicxml", "read_musicxml", "write_musicxml"]
