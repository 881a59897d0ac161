"""A take on its page: the one thing first, the staff and the limbs in milliseconds, the passes,
another take beside it, and how it sounds."""

from collections import defaultdict
from dataclasses import dataclass

from wren_ladder.drumming.building.layers import pairs_with
from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.take_sources.heard import Source
from wren_ladder.drumming.takes.figures import middle_limb
from wren_ladder.drumming.takes.finding import Advice
from wren_ladder.drumming.takes.hear import Take as HeardTake
from wren_ladder.drumming.takes.words import advice, kit_said, sentence, why_not_clean
from wren_ladder.studio.climb.models import Take
from wren_ladder.studio.climb.takes import (
    MILLISECONDS,
    heard_in,
    judge,
    music_has_changed,
    rule_of,
    told_of,
)
from wren_ladder.studio.drawing.sound import sound_of_take
from wren_ladder.studio.drawing.take_staff import with_times
from wren_ladder.studio.drawing.take_view import TakeView, take_view
from wren_ladder.studio.pages.lessons.lesson_page import (
    limb_pairs_of,
    playable_steps,
    steps_near,
)
from wren_ladder.studio.pages.plans.step_music import StepMusic, step_music
from wren_ladder.studio.plans.rules import climb_rule
from wren_ladder.studio.plans.sayings import sayings_for, texts_of
from wren_ladder.studio.plans.versions import music_for

WITH_PAIRS = (Advice.PAIR, Advice.LAYER)
OTHERS = 12  # takes of the step that can be put beside


@dataclass(frozen=True, slots=True)
class LimbLine:
    limb: Limb
    lean: int  # ms late against the others
    spread: int  # ms
    strokes: int

    @property
    def said(self) -> str:
        return _late(self.lean, "with the others")


@dataclass(frozen=True, slots=True)
class Column:
    """One take as it is seen, alone or beside another."""

    take: Take
    source: str
    nameless: bool  # is what was heard no drum's?
    sentence: str
    advice: str
    judged: object
    offset: str
    pace: str
    limbs: tuple[LimbLine, ...]
    more: tuple[str, ...]  # what else was measured, in words
    residuals: tuple[tuple, ...]  # (stroke, seconds late), the whole of it taken off
    view: TakeView
    staffs: tuple[str, ...]
    passes: tuple[tuple, ...]  # pass, its spread in ms, why it is not clean
    limit: int  # ms


def take_context(take: Take, beside: Take | None = None) -> dict:
    """Where the bars were changed since, only what was said then."""
    step = take.step
    rule = rule_of(step.plan.student)
    told = told_of(take, rule)
    context = {
        "take": take,
        "step": step,
        "plan": step.plan,
        "told": told,
        "source": Source(take.source).label,
        "others": step.takes.exclude(pk=take.pk)[:OTHERS],
        "changed": music_has_changed(take),
        "attempts": take.attempts.all(),
        "says": texts_of(step, sayings_for([step.plan])),
    }
    if context["changed"]:
        return {**context, "sentence": told.said, "advice": told.advice, "clean": "clean"}
    plan_music = music_for(step.plan)
    music = step_music(step.plan, step, "take-", plan_music)
    found = judge(take, rule)
    mine = _column(take, found, music)
    first = found.judged.first
    by_limbs = first and first.advice in WITH_PAIRS
    pairs = limb_pairs_of(step, plan_music.study.chart.bars) if by_limbs else ()
    columns = [mine]
    compared, earlier, over = "", [], None
    if beside and beside != take and not music_has_changed(beside):
        other = step_music(step.plan, step, "beside-", plan_music)
        heard = judge(beside, rule)
        columns.append(_column(beside, heard, other))
        pair = ((take, told, found), (beside, told_of(beside, rule), heard))
        compared = _then_and_now(*(one[:2] for one in sorted(pair, key=_when)))
        then, now = sorted(zip(columns, pair, strict=True), key=lambda one: _when(one[1]))
        over = (
            then[0].take,
            now[0].take,
            take_view(
                now[0].residuals, now[1][2].performance, music.bars,
                then[0].residuals, then[1][2].performance,
            ),
        )  # fmt: skip
        sound = sound_of_take(heard.performance, beside.passes, _sounding(beside, heard), False)
        earlier = [("sound-beside", f"Hear the one of {beside.day:%-d %B}", sound)]
    return {
        **context,
        "sentence": mine.sentence,
        "then": sentence(found.judged.then) if found.judged.then else "",
        "kit": kit_said(found.kit),
        "nameless": mine.nameless,
        "clean": "in time" if mine.nameless else "clean",
        "advice": mine.advice,
        "pairs": pairs_with(first.limb, pairs) if first and first.limb else pairs,
        "slower": _slower(take) if first and first.advice is Advice.SLOWER else None,
        "nearby": steps_near(step, playable_steps(step.plan)) if first else (),
        "judged": found.judged,
        "limbs": mine.limbs,
        "columns": columns,
        "compared": compared,
        "over": over,
        "sounds": earlier
        + [
            (f"sound-{name}", said, sound_of_take(found.performance, take.passes, heard, meant))
            for name, said, heard, meant in (
                ("take", "Hear the take", _sounding(take, found), False),
                ("meant", "What was meant", (), True),
                ("both", "Both at once", _sounding(take, found), True),
            )
        ],
    }


def _when(one) -> tuple:
    take = one[0]
    return take.day, take.pk


def _then_and_now(then, now) -> str:
    """ "Evenness 26 ms on 3 October at 80, 11 ms on 1 December at 92." """
    said = [
        f"{told.spread} ms on {take.day:%-d %B} at {take.tempo}"
        for take, told in (then, now)
        if told.spread is not None
    ]
    return f"Evenness {said[0]}, {said[1]}." if len(said) == 2 else ""


def _slower(take: Take) -> int | None:
    """The rung below, if there is one."""
    rungs = climb_rule(take.step.plan, take.step).rungs
    return max((rung for rung in rungs if rung < take.tempo), default=None)


def _column(take: Take, found: HeardTake, music: StepMusic) -> Column:
    first, figures = found.judged.first, found.figures
    middle = middle_limb(figures)
    residuals = [(one, late - middle) for one, late in figures.residuals]
    times = defaultdict(list)
    for one, late in residuals:
        for onset in one.expected.onsets:
            times[onset.turn, onset.hit].append(MILLISECONDS * late)
    limit = MILLISECONDS * found.limits.lean
    return Column(
        take=take,
        source=Source(take.source).label,
        nameless=not Source(take.source).names_drums,
        sentence=sentence(first) if first else "",
        advice=advice(found.judged.to_mend) if first else "",
        judged=found.judged,
        offset=_late(round(MILLISECONDS * (figures.pace.offset + middle)), "in time"),
        pace=_faster(round(100 * figures.pace.faster, 1)),
        limbs=tuple(
            LimbLine(
                limb,
                round(MILLISECONDS * one.lean.value),
                round(MILLISECONDS * one.spread.value),
                one.lean.strokes,
            )
            for limb, one in figures.limbs.items()
        ),
        more=tuple(_more(found)),
        residuals=tuple(residuals),
        view=take_view(residuals, found.performance, music.bars),
        staffs=tuple(with_times(svg, times, limit) for svg in music.svgs),
        passes=tuple(
            (
                one,
                None if one.spread is None else round(MILLISECONDS * one.spread),
                why_not_clean(one),
            )
            for one in found.judged.passes
        ),
        limit=round(limit),
    )


def _more(found: HeardTake):
    """Figures beside the limbs': each with its unit and how many strokes it stands on."""
    figures, fill, graces = found.figures, found.fill, found.ornaments
    for (one, other), gap in figures.apart.items():
        yield (
            f"{one.value} and {other.value} together: the second "
            f"{_late(round(MILLISECONDS * gap.value), 'with the first')} ({gap.strokes} times)"
        )
    if figures.inside:
        said = ", ".join(
            f"{_signed(one.value)} in quarter {place}"
            for place, one in enumerate(figures.inside, 1)
        )
        yield f"inside the bar, against the whole of it: {said}"
    if fill:
        start = f"starts {_signed(fill.start.value)}, " if fill.start else ""
        landing = f", lands {_signed(fill.landing.value)}" if fill.landing else ""
        ends = f"ends {_signed(fill.end.value)}"
        yield f"fill: {start}{ends}{landing} ({fill.inside.strokes} strokes)"
    if graces:
        for grace, gap in graces.gaps.items():
            yield (
                f"{grace.value}s: {round(MILLISECONDS * gap.value)} ms from note to note "
                f"({gap.strokes} times)"
            )
        if graces.rolls:
            yield (
                f"rolls: strokes vary by {graces.rolls.value:.0%} of the time between them "
                f"({graces.rolls.strokes} rolls)"
            )
    for limb, one in figures.contrast.items():
        yield (
            f"{limb.value}: accents {one.value:.1f} times as loud as ghosts "
            f"({one.strokes} strokes)"
        )
    for limb, one in figures.loudness.items():
        yield f"{limb.value}: {one.value:.0%} of full strength ({one.strokes} strokes)"


def _sounding(take: Take, found: HeardTake):
    """The strokes as they were played, the lateness of the set-up taken off; an onset without
    a name as two sticks."""
    latency = take.latency / MILLISECONDS
    return [
        (one.at - latency, one.drum or Drum.STICK_CLICK, one.strength or 0.6)
        for one in heard_in(take)
    ]


def _signed(seconds: float) -> str:
    return _late(round(MILLISECONDS * seconds), "in time")


def _late(milliseconds: int, otherwise: str) -> str:
    side = "late" if milliseconds > 0 else "early"
    return f"{abs(milliseconds)} ms {side}" if milliseconds else otherwise


def _faster(percent: float) -> str:
    way = "faster" if percent > 0 else "slower"
    return f"{abs(percent):g} % {way} than asked" if percent else "at the tempo that was asked"
