"""Standard MIDI Files of drums: General MIDI keys, as played along the road map."""

from wren_ladder.drumming.notation.midi.reader import read_midi
from wren_ladder.drumming.notation.midi.writer import write_midi

__all__ = ["read_midi", "write_midi"]
