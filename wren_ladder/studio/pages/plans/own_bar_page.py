"""Open fills and bars in style, beat by beat: what is offered, chosen and heard."""

from collections.abc import Mapping
from fractions import Fraction

from django.db.models import Q

from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.building.fills import (
    FILL_DRUMS,
    Choice,
    Space,
    check_fill,
    figures_owned,
    fill_space,
    variations,
    write_fill,
)
from wren_ladder.drumming.building.parts import alone
from wren_ladder.drumming.chart import Bar, ChartError, Drum, MarkKind, Tempo
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.description.figures import beat_figures, name_figure, onsets_of
from wren_ladder.drumming.judging.syllabus import Syllabus
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.study import study_bar
from wren_ladder.studio.drawing.engraving import BAR_WIDTH, engrave, engrave_each
from wren_ladder.studio.drawing.limb_view import limb_view
from wren_ladder.studio.drawing.sound import sound_of_bars
from wren_ladder.studio.plans.models import Plan, Step, StudentBar
from wren_ladder.studio.plans.versions import is_out_of_date, style_for
from wren_ladder.studio.teaching.models import syllabus_of

FIRST_DRUM = Drum.SNARE
MOST_VARIATIONS = 8


def own_bar_context(plan: Plan, index: int, chosen: Mapping[str, str]) -> dict | None:
    """The page of an open bar; None where the page leaves nothing open."""
    page = plan.piece.chart().bars
    if not 0 <= index < len(page):
        return None
    bar = page[index]
    row = plan.piece.bars.get(position=index)
    stored = StudentBar.objects.filter(student=plan.student, bar=row).first()
    after = page[index + 1] if index + 1 < len(page) else None
    tempo = _tempo(plan)
    context = {
        "plan": plan,
        "index": index,
        "number": bar.number,
        "stored": stored,
        "out_of_date": stored is not None and is_out_of_date(stored),
        "tempo": tempo,
    }
    space = fill_space(bar)
    if space is not None:
        context |= _fill(plan, bar, space, after, stored, chosen, tempo)
    elif _slashes(bar):
        context |= _in_style(plan, bar, chosen)
    else:
        return None
    written = context["written"] or (stored.own if stored else None)
    if written is not None:
        before = page[index - 1 : index] if index else ()
        context |= _drawn(plan, written, tempo, [*before, written, *([after] if after else [])])
    return context


def _tempo(plan: Plan) -> Tempo:
    return Tempo(plan.piece.tempo.beat, plan.target)


def _slashes(bar: Bar) -> bool:
    return any(mark.kind is MarkKind.SLASHES for mark in bar.marks)


def _fill(
    plan: Plan,
    bar: Bar,
    space: Space,
    after: Bar | None,
    stored: StudentBar | None,
    chosen: Mapping[str, str],
    tempo: Tempo,
) -> dict:
    """Figures and drums for each beat: those sent, else those stored, else none yet."""
    syllabus = syllabus_of(plan.owner_id)
    grade = plan.student.grade
    beats = _beats(bar, space, stored, chosen, grade, syllabus)
    written, error = None, ""
    if "figure-0" in chosen:
        choices = [Choice(beat["figure"], tuple(beat["drums"])) for beat in beats]
        try:
            written = write_fill(bar, space, choices)
        except ChartError as wrong:
            error = str(wrong)
    heard = written or (stored.own if stored else None)
    checks = ()
    if heard is not None:
        checks = check_fill(heard, space, after, tempo, grade, style_for(plan))
    return {
        "kind": "fill",
        "beats": beats,
        "drums": [(drum.value, drum.spoken) for drum in FILL_DRUMS],
        "written": written,
        "error": error,
        "checks": checks,
        "space": f"{_beats_said(space)} open, from {Positions.of(bar).say(space.start)}",
    }


def _beats_said(space: Space) -> str:
    number = len(space.beats)
    return f"{number} beat{'s' if number > 1 else ''}"


def _beats(
    bar: Bar,
    space: Space,
    stored: StudentBar | None,
    chosen: Mapping[str, str],
    grade: int,
    syllabus: Syllabus,
) -> list[dict]:
    frame = Positions.of(bar)
    found = []
    for place, (start, length) in enumerate(space.beats):
        owned = figures_owned(length, grade, syllabus)
        figure, drums = _stored_beat(stored, start, length)
        asked = chosen.get(f"figure-{place}")
        figure = asked if asked in owned else (figure if figure in owned else "rest")
        onsets = onsets_of(figure, length)
        drums = [
            _drum(chosen.get(f"drum-{place}-{note}"), drums, note)
            for note in range(len(onsets))
        ]
        found.append(
            {
                "place": place,
                "count": frame.say(start),
                "owned": owned,
                "figure": figure,
                "drums": drums,
                "notes": [
                    {"place": note, "count": frame.say(start + at), "drum": drum.value}
                    for note, (at, drum) in enumerate(zip(onsets, drums, strict=True))
                ],
            }
        )
    return found


def _stored_beat(
    stored: StudentBar | None, start: Fraction, length: Fraction
) -> tuple[str, list[Drum]]:
    """The figure and the drums that were written into a beat before."""
    if stored is None:
        return "", []
    hits = [hit for hit in stored.own.hits if start <= hit.at < start + length]
    return name_figure({hit.at - start for hit in hits}, length), [hit.drum for hit in hits]


def _drum(asked: str | None, before: list[Drum], note: int) -> Drum:
    if asked in {drum.value for drum in FILL_DRUMS}:
        return Drum(asked)
    return before[note] if note < len(before) else FIRST_DRUM


def _in_style(plan: Plan, bar: Bar, chosen: Mapping[str, str]) -> dict:
    """Small variations of the groove, from the kick patterns the student owns."""
    found = variations(bar, owned_bars(plan))[:MOST_VARIATIONS]
    asked = chosen.get("variation", "")
    picked = read_whole(asked, 0, len(found) - 1)
    studies = [study_bar(alone(one.bar), _tempo(plan), style_for(plan)) for one in found]
    drawings = engrave_each(studies, Layout(clef=False), BAR_WIDTH) if studies else []
    return {
        "kind": "style",
        "offered": [
            {"place": place, "text": one.text, "svg": svg}
            for place, (one, svg) in enumerate(zip(found, drawings, strict=True))
        ],
        "written": found[picked].bar if picked is not None else None,
        "checks": (),
    }


def owned_bars(plan: Plan) -> list[Bar]:
    """The bars that the student holds at any tempo, in this piece and in others."""
    steps = Step.objects.filter(plan__student=plan.student, kind=StepKind.BAR)
    held = steps.filter(Q(standing__held__isnull=False), first__isnull=False).select_related(
        "first"
    )
    return [step.first.bar for step in held]


def _drawn(plan: Plan, written: Bar, tempo: Tempo, around: list[Bar]) -> dict:
    """How it looks, with count and hands, and how it sounds between its neighbours."""
    style = style_for(plan)
    studied = study_bar(written, tempo, style)
    return {
        "staff": engrave([studied], Layout(), BAR_WIDTH, "own-"),
        "limbs": limb_view(studied),
        "sound": sound_of_bars([study_bar(bar, tempo, style) for bar in around], tempo),
        "figures": [name for _, name in beat_figures(written)],
    }
