"""The drums of a Standard MIDI File, brought onto the page."""

from wren_ladder.drumming.notation.midi.reader import open_midi, read_midi
from wren_ladder.drumming.notation.midi.tracks import CHANNEL

__all__ = ["CHANNEL", "open_midi", "read_midi"]
