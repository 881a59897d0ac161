"""The climb: rungs, the gate that earns one, where a step and a piece stand."""

from wren_ladder.drumming.tempo.climb import Attempt, Climb, Standing, stand
from wren_ladder.drumming.tempo.gate import passes_needed
from wren_ladder.drumming.tempo.ladder import rung_above, rung_below, rungs, start_tempo
from wren_ladder.drumming.tempo.progress import (
    Ready,
    bar_tempos,
    held_by_day,
    ready_speed,
)

__all__ = [
    "Attempt",
    "Climb",
    "Ready",
    "Standing",
    "bar_tempos",
    "held_by_day",
    "passes_needed",
    "ready_speed",
    "rung_above",
    "rung_below",
    "rungs",
    "stand",
    "start_tempo",
]
