"""A take on its page: the one thing first, the passes, and each limb in milliseconds."""

from dataclasses import dataclass
from datetime import date
from fractions import Fraction

from wren_ladder.drumming.breakdown import played_bars
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.performance import PlayedBar, perform
from wren_ladder.drumming.takes.figures import middle_limb
from wren_ladder.drumming.takes.hear import Take as HeardTake
from wren_ladder.drumming.takes.hear import hear
from wren_ladder.drumming.takes.heard import Source
from wren_ladder.drumming.takes.judged import Advice
from wren_ladder.drumming.takes.limits import house_rule
from wren_ladder.drumming.takes.midi_file import aligned, strokes_of
from wren_ladder.drumming.takes.simulated import Fault, play
from wren_ladder.drumming.takes.words import advice, sentence
from wren_ladder.studio.changes.takes import heard_in, keep_take
from wren_ladder.studio.climb.models import Take
from wren_ladder.studio.drawing.take_view import take_view
from wren_ladder.studio.pages.lessons.lesson_page import limb_pairs_of
from wren_ladder.studio.plans.models import Step
from wren_ladder.studio.plans.planning import core_step
from wren_ladder.studio.plans.versions import music_for

MILLISECONDS = 1000
SEEDS = 1_000_000


@dataclass(frozen=True, slots=True)
class LimbLine:
    limb: Limb
    lean: int  # ms late against the others
    spread: int  # ms
    strokes: int

    @property
    def said(self) -> str:
        side = "late" if self.lean > 0 else "early"
        return f"{abs(self.lean)} ms {side}" if self.lean else "with the others"


def bars_of(step: Step) -> tuple[PlayedBar, ...]:
    music = music_for(step.plan)
    return played_bars(core_step(step), music.study, music.style)


def share_of(step: Step, tempo: int) -> Fraction:
    return Fraction(tempo, step.plan.piece.tempo.bpm)


def simulated_take(
    step: Step, tempo: int, passes: int, faults: list[Fault], seed: int, day: date
) -> Take:
    played = bars_of(step)
    performance = perform(played, share_of(step, tempo))
    heard = play(performance, played, passes, seed % SEEDS, faults)
    return keep_take(step, Source.KIT, tempo, passes, heard, day)


def take_from_file(step: Step, tempo: int, passes: int, data: bytes, day: date) -> Take:
    """TakeError where the file has no strokes."""
    performance = perform(bars_of(step), share_of(step, tempo))
    onsets = performance.onsets
    heard = aligned(strokes_of(data), onsets[0].at if onsets else 0.0)
    return keep_take(step, Source.FILE, tempo, passes, heard, day)


def judge(take: Take) -> HeardTake:
    step = take.step
    return hear(
        bars_of(step),
        heard_in(take),
        take.passes,
        house_rule(step.plan.student.grade),
        Source(take.source),
        share=share_of(step, take.tempo),
    )


def take_context(take: Take) -> dict:
    step, found = take.step, judge(take)
    first = found.judged.first
    middle = middle_limb(found.figures)
    return {
        "take": take,
        "step": step,
        "plan": step.plan,
        "source": Source(take.source).label,
        "judged": found.judged,
        "sentence": sentence(first) if first else "",
        "advice": advice(first) if first else "",
        "pairs": limb_pairs_of(step) if first and first.advice is Advice.PAIR else (),
        "offset": _late(round(MILLISECONDS * (found.figures.pace.offset + middle))),
        "pace_said": _faster(round(100 * found.figures.pace.faster, 1)),
        "limbs": [
            LimbLine(
                limb,
                round(MILLISECONDS * one.lean.value),
                round(MILLISECONDS * one.spread.value),
                one.lean.strokes,
            )
            for limb, one in found.figures.limbs.items()
        ],
        "view": take_view(
            [(one, late - middle) for one, late in found.figures.residuals],
            found.performance,
        ),
        "others": step.takes.exclude(pk=take.pk)[:8],
        "passes": [
            (one, None if one.spread is None else round(MILLISECONDS * one.spread))
            for one in found.judged.passes
        ],
    }


def _late(milliseconds: int) -> str:
    side = "late" if milliseconds > 0 else "early"
    return f"{abs(milliseconds)} ms {side} as a whole" if milliseconds else "in time as a whole"


def _faster(percent: float) -> str:
    way = "faster" if percent > 0 else "slower"
    return f"{abs(percent):g} % {way} than asked" if percent else "at the tempo that was asked"
