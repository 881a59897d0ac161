"""Paper for a lesson: the week's sheet, and the wall chart of the piece."""

from dataclasses import dataclass
from datetime import date
from math import ceil

from wren_ladder.drumming.breakdown import StepKind, step_bars
from wren_ladder.drumming.counting import count_in
from wren_ladder.drumming.description.phrases import phrases
from wren_ladder.drumming.judging.judgement import Judgement
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import Study
from wren_ladder.studio.climb.work_left import left_of, weeks_of
from wren_ladder.studio.drawing.engraving import CARD_WIDTH, LINE_WIDTH, engrave_each
from wren_ladder.studio.drawing.wall import split_section, tag_of
from wren_ladder.studio.pages.plans.breakdown_page import shading
from wren_ladder.studio.pages.plans.step_music import MOST_DRAWN, drawings
from wren_ladder.studio.plans.judged import judgement_for
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.planning import core_step
from wren_ladder.studio.plans.rules import agreed_pace, climb_rule
from wren_ladder.studio.plans.versions import study_for, style_for

MOST_STEPS = 8  # of a week; more is no sheet but a book
BOXES = 5
WALL_LAYOUT = Layout(clef=False, counts=False, hands=True)


@dataclass(frozen=True, slots=True)
class SheetStep:
    name: str
    why: str
    watch: tuple[str, ...]
    says: tuple[str, ...]
    repeats: int
    gap: int
    earned_by: str
    tempos: tuple[int, ...]
    count_in: str
    minutes: int  # a day at home, 0 where the sheet is not a week's
    svgs: tuple[str, ...]


def week_of(plan: Plan, today: date) -> list[tuple[Step, float]]:
    """This week's steps of the schedule with their minutes: the first that are not at the
    target yet, in the order they are taught."""
    there = _there(plan)
    studied = study_for(plan)
    laid_out = weeks_of(plan, there, left_of(plan, there, studied), today)
    if not laid_out.weeks:
        return []
    shares = sorted(laid_out.weeks[0].shares)
    return [(there[place], spent) for place, spent in shares][:MOST_STEPS]


def _there(plan: Plan) -> list[Step]:
    steps = plan.steps.filter(dropped=False).placed().select_related("standing")
    return [step for step in steps if step.music_is_there]


def sheet_context(plan: Plan, wanted: set[int], today: date) -> dict:
    """What the lesson sheet shows: the steps asked for, else this week's."""
    if wanted:
        chosen = [(step, 0.0) for step in _there(plan) if step.pk in wanted][:MOST_STEPS]
    else:
        chosen = week_of(plan, today)
    total = sum(spent for _, spent in chosen)
    return {
        "plan": plan,
        "steps": [sheet_step(plan, step, spent, total) for step, spent in chosen],
        "today": today,
    }


def sheet_step(
    plan: Plan,
    step: Step,
    spent: float = 0.0,
    total: float = 0.0,
    tempo: int | None = None,
    says: tuple[str, ...] = (),
) -> SheetStep:
    """What the sheet says of one step, from ``tempo`` on where that was set; its share of the
    minutes a day is that of the week's."""
    studied = study_for(plan)
    climb = climb_rule(plan, step)
    first = tempo or step.standing.next_tempo or climb.rungs[0]
    ahead = [rung for rung in climb.rungs if rung >= first]
    if tempo and tempo not in climb.rungs:
        ahead.insert(0, tempo)
    bars = step_bars(core_step(step), studied, style_for(plan))
    drawn = len(bars) <= MOST_DRAWN and step.step_kind is not StepKind.WHOLE
    return SheetStep(
        name=step.name,
        why=step.why,
        watch=tuple(step.watch),
        says=says,
        repeats=step.repeats,
        gap=step.gap,
        earned_by=climb.earned_by,
        tempos=tuple(ahead[:BOXES]),
        count_in=count_in(bars[0].bar).spoken,
        minutes=ceil(agreed_pace(plan).home * spent / total) if total else 0,
        svgs=drawings(bars, studied, f"s{step.pk}-", LINE_WIDTH) if drawn else (),
    )


def wall_chart_context(plan: Plan) -> dict:
    """Every bar of the piece on the wall, with its sticking and what will catch."""
    studied, judged = judgement_for(plan)
    return {
        "plan": plan,
        "piece": plan.piece,
        "played": len(studied.visits),
        "rows": _wall(studied, judged),
    }


def _wall(studied: Study, judged: Judgement) -> list[dict]:
    svgs = engrave_each(studied.bars, WALL_LAYOUT, CARD_WIDTH)
    rows = []
    for phrase in phrases(studied.chart.bars):
        letter, name = split_section(phrase.section)
        cards = [
            {
                "number": "Pick-up"
                if studied.bars[i].bar.pickup
                else studied.bars[i].bar.number,
                "svg": svgs[i],
                "tag": tag_of(studied.bars[i], studied),
                "level": shading(judged.bars[i]).level,
            }
            for i in range(phrase.first, phrase.last + 1)
        ]
        rows.append({"letter": letter, "name": name, "cards": cards})
    return rows
