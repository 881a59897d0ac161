"""One bar of a plan opened: what will catch in it, and how it is built up."""

from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.building.fills import fill_space
from wren_ladder.drumming.building.layers import isolations, layers
from wren_ladder.drumming.building.pad import note_by_note, on_the_pad, to_the_kit
from wren_ladder.drumming.building.parts import alone, beat_by_beat
from wren_ladder.drumming.chart import Tempo
from wren_ladder.drumming.chart.shorthand import slashed_through
from wren_ladder.drumming.findings import rank
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import BarStudy, Study, study_bar
from wren_ladder.drumming.style import Style
from wren_ladder.studio.drawing.engraving import BAR_WIDTH, engrave, engrave_each, mark_notes
from wren_ladder.studio.drawing.sound import sound_of_bars
from wren_ladder.studio.drawing.wall import differing
from wren_ladder.studio.pieces.studies import study_of
from wren_ladder.studio.plans.judged import judgement_for
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.plans.versions import style_for

PART_LAYOUT, PART_WIDTH = Layout(clef=False, counts=True), 1500


def catch_context(plan: Plan, index: int) -> dict | None:
    """One bar for this student: what will catch, what it is taught from, how it is built."""
    studied, judged = judgement_for(plan)
    if not 0 <= index < len(studied.bars):
        return None
    bar, catch = studied.bars[index], judged.bars[index]
    page = study_of(plan.piece).chart.bars[index]  # where it may be open, though written out
    staff = engrave([bar], Layout(), BAR_WIDTH, "caught-")
    return {
        "plan": plan,
        "piece": plan.piece,
        "bar_index": index,
        "bar": bar,
        "catch": catch,
        "worked_out": rank(catch.weighed),
        "difference": studied.taught_from(bar),
        "again": studied.again(index),
        "staff": mark_notes(staff, differing(bar)),
        "built": built_up(bar, _at_the_start(plan, studied, index), style_for(plan)),
        "notes": note_by_note(bar.bar, bar.sticks),
        "moves": to_the_kit(bar.bar, bar.sticks),
        "is_open": fill_space(page) is not None or slashed_through(page),
        "is_own": bar.bar.hits != page.hits,
    }


def _at_the_start(plan: Plan, studied: Study, index: int) -> Tempo:
    """A bar's tempo where a climb of it starts."""
    share = Fraction(plan.start, studied.chart.tempo.bpm)
    return studied.tempos[index].scaled(share)


@dataclass(frozen=True, slots=True)
class BuiltPart:
    """A part of a bar as it is shown: drawn, and sounded under its name."""

    name: str
    svg: str
    sound: dict
    sound_id: str


def built_up(bar: BarStudy, tempo: Tempo, style: Style) -> list[tuple[str, list[BuiltPart]]]:
    """(what it is, its parts): layers, beats, limbs alone and in pairs, the pad."""
    pad = on_the_pad(bar.bar, bar.sticks)
    groups = [
        ("In layers", [(layer.name, layer.bar) for layer in layers(bar.bar)]),
        ("Beat by beat", list(beat_by_beat(bar.bar))),
        (
            "Limbs alone and in pairs",
            [(part.name, part.bar) for part in isolations(bar.bar, bar.sticks)],
        ),
        ("On the pad, with the kick", [("hands on one surface", pad)]),
    ]
    parts = [alone(one) for _, named in groups for _, one in named]
    studies = [study_bar(one, tempo, style) for one in parts]
    drawn = iter(
        enumerate(zip(studies, engrave_each(studies, PART_LAYOUT, PART_WIDTH), strict=True))
    )

    def built(name: str) -> BuiltPart:
        place, (part, svg) = next(drawn)
        return BuiltPart(name, svg, sound_of_bars([part], tempo), f"part-{place}")

    return [(title, [built(name) for name, _ in named]) for title, named in groups if named]
