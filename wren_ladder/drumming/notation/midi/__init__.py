"""Standard MIDI Files of drums: General MIDI keys, as played along the road map."""

from wren_ladder.drumming.notation.midi.reader import open_midi, read_midi
from wren_ladder.drumming.notation.midi.writer import write_midi

__all__ = ["open_midi", "read_midi", "write_midi"]
