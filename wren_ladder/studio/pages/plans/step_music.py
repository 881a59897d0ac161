"""A step's music: what is played, drawn and sounded."""

from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.breakdown import StepKind, played_bars, step_bars
from wren_ladder.drumming.building.pad import note_by_note, to_the_kit
from wren_ladder.drumming.counting import count_in
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import BarStudy, Study
from wren_ladder.studio.drawing.engraving import LINE_WIDTH, engrave, engrave_narrow
from wren_ladder.studio.drawing.limb_view import LimbView, limb_view
from wren_ladder.studio.drawing.score import score_lines
from wren_ladder.studio.drawing.sound import sound_of
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.planning import core_step
from wren_ladder.studio.plans.versions import PlanMusic

MOST_DRAWN = 9  # bars drawn as one step; more are the lines of the chart
WIDE = LINE_WIDTH * 2 // 3


@dataclass(frozen=True, slots=True)
class StepMusic:
    bars: tuple[BarStudy, ...]
    svgs: tuple[str, ...]
    limbs: LimbView | None  # of a step of one bar
    notes: tuple[str, ...]  # note by note, where that is the step
    moves: tuple[str, ...]  # from the pad to the kit
    spoken_count_in: str
    sound: dict


def step_music(
    plan: Plan,
    step: Step,
    prefix: str,
    music: PlanMusic,
    width: int = WIDE,
    narrow: bool = False,
    drawn: bool = True,
) -> StepMusic:
    """``narrow`` for a phone, whose lines are broken at the half of a bar; not ``drawn`` where
    its staves and its sound are asked for later."""
    studied, style = music.study, music.style
    bars = step_bars(core_step(step), studied, style)
    first = bars[0]
    kind = step.step_kind
    bpm = step.standing.next_tempo or plan.start
    return StepMusic(
        bars=bars,
        svgs=drawings(bars, studied, prefix, width, narrow) if drawn else (),
        limbs=limb_view(first) if len(bars) == 1 else None,
        notes=note_by_note(first.bar, first.sticks) if kind is StepKind.NOTES else (),
        moves=to_the_kit(first.bar, first.sticks) if kind is StepKind.NOTES else (),
        spoken_count_in=count_in(first.bar).spoken,
        sound=step_sound(step, music, bpm) if drawn else {},
    )


def step_sound(step: Step, music: PlanMusic, bpm: int) -> dict:
    """What the practice room plays of a step; ``bpm`` is of the piece's opening beat."""
    core, studied = core_step(step), music.study
    played = played_bars(core, studied, music.style)
    if core.kind is StepKind.WHOLE:
        bars = [studied.bars[one.index] for one in played]
    else:
        bars = step_bars(core, studied, music.style)
    share = Fraction(bpm, studied.chart.tempo.bpm)
    return sound_of(played, bars, bpm, share, step.gap)


def drawings(
    bars: tuple[BarStudy, ...],
    studied: Study,
    prefix: str,
    width: int = WIDE,
    narrow: bool = False,
) -> tuple[str, ...]:
    """SVG of the bars, as one drawing while they are few, else as the chart's own lines."""
    if narrow:
        few = len(bars) <= MOST_DRAWN
        layout = Layout(counts=few, hands=few, numbers=len(bars) > 1)
        return (engrave_narrow(bars, layout, prefix),)
    if len(bars) > MOST_DRAWN:
        return tuple(line.svg for line in score_lines(studied, counts=False, hands=False))
    many = len(bars) > 1
    wide = LINE_WIDTH if len(bars) > 2 else width
    return (engrave(bars, Layout(numbers=many), wide, prefix),)
