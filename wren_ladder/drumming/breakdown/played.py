"""What a step really plays: its bars studied as they are played, and how they sound."""

from collections.abc import Sequence
from dataclasses import replace

from quicktions import Fraction

from wren_ladder.drumming.breakdown.step import PLAYED_OTHERWISE, Step, StepKind, music
from wren_ladder.drumming.hands import strokes_of
from wren_ladder.drumming.performance import Performance, PlayedBar, perform
from wren_ladder.drumming.study import BarStudy, Study, study_bar
from wren_ladder.drumming.style import HOUSE, Style


def step_bars(step: Step, study: Study, style: Style = HOUSE) -> tuple[BarStudy, ...]:
    """The bars a step plays, each once: a layer has its own hands."""
    whole = [study.bars[place] for place in step.played]
    if step.kind not in PLAYED_OTHERWISE:
        return tuple(whole)
    played = music(step.kind, step.part, [bar.bar for bar in whole])
    found = [
        study_bar(bar, study.tempos[place], style, study.bars[place].swing)
        for bar, place in zip(played, step.played, strict=False)
    ]
    if step.kind is StepKind.ON:  # the strokes look across the bar line
        found[0] = replace(found[0], strokes=strokes_of(found[0].sticks, found[1].sticks))
    return tuple(found)


def played_bars(step: Step, study: Study, style: Style = HOUSE) -> tuple[PlayedBar, ...]:
    """One time through a step, to be performed; the whole piece goes along its road."""
    if step.kind is StepKind.WHOLE:
        return study.road
    return _in_turn(step_bars(step, study, style), step.played, study)


def _in_turn(
    bars: Sequence[BarStudy], places: Sequence[int], study: Study
) -> tuple[PlayedBar, ...]:
    return tuple(
        PlayedBar(
            bar.bar,
            bar.sticks,
            study.tempos[place],
            place,
            swing=bar.swing,
            graduals=study.graduals[place],
        )
        for bar, place in zip(bars, places, strict=False)
    )


def perform_step(
    step: Step, study: Study, bpm: int, style: Style = HOUSE, count_in: bool = True
) -> Performance:
    """What is to be heard of a step at ``bpm``, that of the piece's opening beat: the onsets
    that are expected, its clicks, its length with the empty bars behind it."""
    share = Fraction(bpm, study.chart.tempo.bpm)
    return perform(played_bars(step, study, style), share, count_in, step.gap)
