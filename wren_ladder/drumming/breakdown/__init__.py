"""From bars to a lesson: the steps that build a piece."""

from wren_ladder.drumming.breakdown.bar_school import break_down
from wren_ladder.drumming.breakdown.step import Step, StepKind, describe

__all__ = ["Step", "StepKind", "break_down", "describe"]
