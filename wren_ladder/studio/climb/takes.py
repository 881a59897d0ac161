"""Takes of a step against its music: judged by the teacher's rule for the student's grade."""

import hashlib
from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.breakdown import played_bars
from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.grades import MOST_GRADE
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.performance import PlayedBar, perform
from wren_ladder.drumming.take_sources.heard import Heard, Source
from wren_ladder.drumming.take_sources.note_maps import LOUDEST
from wren_ladder.drumming.takes.hear import Take as HeardTake
from wren_ladder.drumming.takes.hear import hear
from wren_ladder.drumming.takes.limits import Rule
from wren_ladder.drumming.takes.weeks import LimbMeasured, TakeMeasured
from wren_ladder.drumming.takes.words import advice, sentence
from wren_ladder.studio.climb.models import Take
from wren_ladder.studio.plans.models import Step
from wren_ladder.studio.plans.planning import core_step
from wren_ladder.studio.plans.versions import music_for
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.teaching.models import take_rules

MILLISECONDS = 1000


@dataclass(frozen=True, slots=True)
class Told:
    """What was said of a take, short: kept beside it, for lists and over weeks. ``limbs``:
    milliseconds late and uneven, from so many strokes."""

    said: str  # nothing where there is nothing to mend
    advice: str
    clean: int
    in_a_row: int
    spread: int | None  # milliseconds, of all passes
    limbs: dict[str, tuple[int, int, int]]

    def measured(self, take: Take) -> TakeMeasured:
        return TakeMeasured(
            take.day,
            take.tempo,
            {
                Limb(name): LimbMeasured(lean / MILLISECONDS, spread / MILLISECONDS, strokes)
                for name, (lean, spread, strokes) in self.limbs.items()
            },
        )


NEVER_TOLD = Told("", "", 0, 0, None, {})


def bars_of(step: Step) -> tuple[PlayedBar, ...]:
    music = music_for(step.plan)
    return played_bars(core_step(step), music.study, music.style)


def share_of(step: Step, tempo: int) -> Fraction:
    return Fraction(tempo, step.plan.piece.tempo.bpm)


def asked_of(step: Step) -> str:
    """What the step asks for now, as a fingerprint: of every stroke its time and drum."""
    onsets = [
        (round(one.at, 3), one.drum.value, one.limb and one.limb.value, one.kind.value)
        for one in perform(bars_of(step)).onsets
    ]
    return hashlib.sha1(repr(onsets).encode(), usedforsecurity=False).hexdigest()


def rule_of(student: Student) -> Rule:
    return take_rules(student.owner_id)[min(student.grade, MOST_GRADE)]


def heard_in(take: Take) -> tuple[Heard, ...]:
    return tuple(
        Heard(
            milliseconds / MILLISECONDS,
            Drum(drum) if drum else None,
            None if strength is None else strength / LOUDEST,
        )
        for milliseconds, drum, strength in take.strokes
    )


def music_has_changed(take: Take) -> bool:
    """Were the bars changed since, or deleted? Takes from before this was kept are believed."""
    if not take.step.music_is_there:
        return True
    return bool(take.asked) and take.asked != asked_of(take.step)


def judge(take: Take, rule: Rule) -> HeardTake:
    step = take.step
    return hear(
        bars_of(step),
        heard_in(take),
        take.passes,
        rule,
        Source(take.source),
        latency=take.latency / MILLISECONDS,
        share=share_of(step, take.tempo),
        empty_bars=take.empty_bars,
    )


def told_of(take: Take, rule: Rule) -> Told:
    """As it was kept, unless the rule is another one now: then it is judged anew, and kept.
    Of bars that were changed since, what was said then, if anything was."""
    is_of_today = take.told.get("rule") == _written(rule)
    if not take.told and not take.step.music_is_there:
        return NEVER_TOLD
    if not is_of_today and not (take.told and music_has_changed(take)):
        take.told = {"rule": _written(rule), **_short(judge(take, rule))}
        Take.objects.filter(pk=take.pk).update(told=take.told)
    told = {name: value for name, value in take.told.items() if name != "rule"}
    return Told(**told)


def tell(take: Take, rule: Rule) -> None:
    """Work out what is said of a new take, and what it was asked to be."""
    take.asked = asked_of(take.step)
    take.told = {"rule": _written(rule), **_short(judge(take, rule))}


def _written(rule: Rule) -> list:
    return [rule.slips, rule.spread, rule.lean, rule.unit.value]


def _short(found: HeardTake) -> dict:
    judged = found.judged
    told = [sentence(one) for one in (judged.first, judged.then) if one]
    spreads = [one.spread for one in found.judged.passes if one.spread is not None]
    return {
        "said": " ".join(told),
        "advice": advice(judged.to_mend) if told else "",
        "clean": found.judged.clean,
        "in_a_row": found.judged.in_a_row,
        "spread": round(MILLISECONDS * sum(spreads) / len(spreads)) if spreads else None,
        "limbs": {
            limb.value: [
                round(MILLISECONDS * one.lean.value),
                round(MILLISECONDS * one.spread.value),
                one.lean.strokes,
            ]
            for limb, one in found.figures.limbs.items()
        },
    }
