"""The lesson sheet: what to practise, drawn, counted, with tempos to tick. One page."""

from dataclasses import dataclass
from datetime import date

from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import BarStudy
from wren_ladder.drumming.tempo import passes_needed
from wren_ladder.studio.drawing.engraving import LINE_WIDTH, engrave
from wren_ladder.studio.lessons.models import Plan, Step
from wren_ladder.studio.pieces.studies import study_of
from wren_ladder.studio.practice.standings import bars_in, climb_of
from wren_ladder.studio.teaching.models import style_of

STEPS = 4  # that fit one page
MOST_DRAWN = 4  # bars of a step; longer ones are played from the chart
BOXES = 5


@dataclass(frozen=True, slots=True)
class SheetStep:
    name: str
    why: str
    repeats: int
    passes: int
    tempos: tuple[int, ...]
    svg: str


def sheet_steps(plan: Plan, wanted: set[int]) -> list[Step]:
    """The steps asked for, else those that need work first: the slowest, in plan order."""
    steps = plan.steps.filter(dropped=False).select_related("first", "last")
    there = [step for step in steps if step.music_is_there]
    if wanted:
        return [step for step in there if step.pk in wanted][:STEPS]
    behind = [step for step in there if (step.held or 0) < plan.target]
    first = sorted(behind, key=lambda step: (step.held or 0, step.position))[:STEPS]
    return sorted(first, key=lambda step: step.position)


def sheet_context(plan: Plan, steps: list[Step], today: date) -> dict:
    """What the lesson sheet shows."""
    return {
        "plan": plan,
        "steps": [sheet_step(plan, step) for step in steps],
        "today": today,
    }


def sheet_step(plan: Plan, step: Step) -> SheetStep:
    """What the sheet says of one step."""
    style = plan.student.style if plan.student else style_of(plan.owner_id)
    studied = study_of(plan.piece, style)
    count = bars_in(step)
    climb = climb_of(plan, step, count)
    ahead = [rung for rung in climb.rungs if rung >= (step.next_tempo or climb.rungs[0])]
    first, last = step.places
    bars = studied.bars[first : last + 1]
    return SheetStep(
        name=step.name,
        why=step.why,
        repeats=step.repeats,
        passes=passes_needed(count, plan.clean_bars),
        tempos=tuple(ahead[:BOXES]),
        svg=_drawing(bars, f"s{step.pk}-") if count <= MOST_DRAWN else "",
    )


def _drawing(bars: tuple[BarStudy, ...], prefix: str) -> str:
    return engrave(bars, Layout(numbers=len(bars) > 1), LINE_WIDTH * 2 // 3, prefix)
