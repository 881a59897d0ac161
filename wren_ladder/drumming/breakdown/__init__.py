"""From bars to a lesson: the steps that build a piece."""

from wren_ladder.drumming.breakdown.minutes import (
    Ahead,
    Learner,
    Work,
    effort,
    plan_work,
    step_seconds,
)
from wren_ladder.drumming.breakdown.needs import left_out, needs
from wren_ladder.drumming.breakdown.played import perform_step, played_bars, step_bars
from wren_ladder.drumming.breakdown.revision import (
    ExistingStep,
    RevisedStep,
    StepChange,
    StepIdentity,
    revise,
)
from wren_ladder.drumming.breakdown.schools import break_down
from wren_ladder.drumming.breakdown.start import start_for
from wren_ladder.drumming.breakdown.step import Step, StepKind, describe, music, places
from wren_ladder.drumming.breakdown.weeks import (
    Pace,
    Schedule,
    Week,
    reached,
    schedule,
    slowly_first,
)

__all__ = [
    "Ahead",
    "ExistingStep",
    "Learner",
    "Pace",
    "RevisedStep",
    "Schedule",
    "Step",
    "StepChange",
    "StepIdentity",
    "StepKind",
    "Week",
    "Work",
    "break_down",
    "describe",
    "effort",
    "left_out",
    "music",
    "needs",
    "perform_step",
    "places",
    "plan_work",
    "played_bars",
    "reached",
    "revise",
    "schedule",
    "slowly_first",
    "start_for",
    "step_bars",
    "step_seconds",
]
