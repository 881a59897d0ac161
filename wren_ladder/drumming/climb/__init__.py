"""The climb: rungs, the gate that earns one, where a step and a piece stand."""

from wren_ladder.drumming.climb.gate import Gate, GateKind, passes_needed
from wren_ladder.drumming.climb.ladder import (
    LadderRule,
    LadderSchool,
    ladder_by,
    metronome_marks,
    rung_above,
    rung_below,
    rungs,
    start_tempo,
)
from wren_ladder.drumming.climb.longer import LoggedStep, with_longer
from wren_ladder.drumming.climb.plateau import Plateau, find_plateau
from wren_ladder.drumming.climb.progress import (
    Ready,
    bar_tempos,
    held_by_day,
    ready_speed,
    rungs_by_day,
)
from wren_ladder.drumming.climb.standing import Attempt, ClimbRule, Standing, stand
from wren_ladder.drumming.climb.trial import Trial, next_trial

__all__ = [
    "Attempt",
    "ClimbRule",
    "Gate",
    "GateKind",
    "LadderRule",
    "LadderSchool",
    "LoggedStep",
    "Plateau",
    "Ready",
    "Standing",
    "Trial",
    "bar_tempos",
    "find_plateau",
    "held_by_day",
    "ladder_by",
    "metronome_marks",
    "next_trial",
    "passes_needed",
    "ready_speed",
    "rung_above",
    "rung_below",
    "rungs",
    "rungs_by_day",
    "stand",
    "start_tempo",
    "with_longer",
]
