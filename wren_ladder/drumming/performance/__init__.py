"""Music as it sounds: who strikes what, when in seconds, how hard; clicks and lengths.

Whatever is heard, counted in minutes or written as MIDI comes from ``perform``.
"""

from wren_ladder.drumming.performance.clock import clock, seconds, strokes_per_second
from wren_ladder.drumming.performance.lengths import bars_seconds, road_seconds
from wren_ladder.drumming.performance.onset import BarSpan, Click, Onset, OnsetKind, Performance
from wren_ladder.drumming.performance.perform import PlayedBar, perform, played_along

__all__ = [
    "BarSpan",
    "Click",
    "Onset",
    "OnsetKind",
    "Performance",
    "PlayedBar",
    "bars_seconds",
    "clock",
    "perform",
    "played_along",
    "road_seconds",
    "seconds",
    "strokes_per_second",
]
