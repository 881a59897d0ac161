"""Open fills and bars in style, beat by beat: what is offered, chosen and heard."""

from collections.abc import Mapping, Sequence
from dataclasses import replace

from django.utils.text import slugify
from quicktions import Fraction

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
from wren_ladder.drumming.chart import Bar, ChartError, Drum, Hit, MarkKind, Meter, Tempo
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.description.figures import beat_figures, name_figure, onsets_of
from wren_ladder.drumming.grades import Syllabus
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.study import study_bar
from wren_ladder.drumming.style import HOUSE
from wren_ladder.drumming.workshop.recipes import fill_of
from wren_ladder.drumming.workshop.variations import ending_in
from wren_ladder.studio.drawing.engraving import BAR_WIDTH, engrave, engrave_each
from wren_ladder.studio.drawing.limb_view import limb_view
from wren_ladder.studio.drawing.sound import sound_of_bars
from wren_ladder.studio.pages.workshop.given import bars_held, exercises_of
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan, StudentBar
from wren_ladder.studio.plans.versions import is_out_of_date, style_for
from wren_ladder.studio.teaching.models import syllabus_of

FIRST_DRUM = Drum.SNARE
# From the player's left to the right, the feet at the end: what a drum is dragged along.
KIT_LINE = tuple(sorted(FILL_DRUMS, key=lambda drum: (drum.by_foot, drum.row.kit)))
BEAT_METERS = {
    Fraction(1, 2): Meter(1, 8),
    Fraction(1): Meter(1, 4),
    Fraction(3, 2): Meter(3, 8),
    Fraction(2): Meter(2, 4),
}
FIGURE_LAYOUT = Layout(clef=False, counts=False, hands=False, meter=False)
FIGURE_WIDTH, FIGURE_TEMPO = 620, Tempo(Fraction(1), 80)
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
    book = _book(plan, bar, space)
    fill = next((made for code, _, made in book if code == chosen.get("book")), None)
    before = fill if fill is not None else stored.own if stored else None
    beats = _beats(bar, space, before, chosen, grade, syllabus)
    written, error = None, ""
    if fill is not None and _is_still(fill, beats, space):
        written = fill
    elif "figure-0" in chosen:
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
        "last_drum": len(KIT_LINE) - 1,
        "book": [(code, title) for code, title, _ in book],
        "from_book": chosen["book"] if written is not None and written is fill else "",
        "sounds": _sounds(beats, tempo),
        "written": written,
        "error": error,
        "checks": checks,
        "space": f"{_beats_said(space)} open, from {Positions.of(bar).say(space.start)}",
    }


def _book(plan: Plan, bar: Bar, space: Space) -> list[tuple[str, str, Bar]]:
    """(code, title, the bar with it) of the fills in the student's book that fit the space."""
    found = []
    marks = tuple(mark for mark in bar.marks if mark.kind is not MarkKind.FILL)
    for other in exercises_of(plan.student, Piece.Kind.FILL):
        try:
            fill = fill_of(other.piece.made_of["fill"])
            made = replace(ending_in(bar, fill), marks=marks)
        except (KeyError, TypeError, ValueError, ChartError):
            continue  # of the shelf, or for another metre
        if fill.space == space:
            found.append((str(other.piece_id), other.piece.title, made))
    return found


def _is_still(fill: Bar, beats: Sequence[Mapping], space: Space) -> bool:
    """Whether the beats chosen are those of the fill, whose flams and accents then stay."""
    return all(
        (beat["figure"], beat["drums"]) == _beat_of(fill, *place)
        for beat, place in zip(beats, space.beats, strict=True)
    )


def _sounds(beats: Sequence[Mapping], tempo: Tempo) -> dict[str, dict]:
    """Each figure that is offered, by the name of its sound in the page."""
    offered = [one for beat in beats for one in beat["offered"] if one["sound"]]
    bars = {one["sound"]: one["bar"] for one in offered}  # beats of one length share theirs
    return {
        name: sound_of_bars([study_bar(bar, tempo, HOUSE)], tempo) for name, bar in bars.items()
    }


def _offered(names: Sequence[str], length: Fraction, prefix: str) -> list[dict]:
    """The figures for one beat, each as a small staff; words alone where the beat is cut."""
    meter = BEAT_METERS.get(length)
    if meter is None:
        return [{"name": name, "svg": "", "sound": ""} for name in names]
    bars = [
        Bar("1", meter, tuple(Hit(at, FIRST_DRUM) for at in onsets_of(name, length)))
        for name in names
    ]
    studied = [study_bar(bar, FIGURE_TEMPO, HOUSE) for bar in bars]
    drawings = engrave_each(studied, FIGURE_LAYOUT, FIGURE_WIDTH, prefix)
    return [
        {"name": name, "svg": svg, "bar": bar, "sound": f"f-{slugify(f'{name} {length}')}"}
        for name, svg, bar in zip(names, drawings, bars, strict=True)
    ]


def _beats_said(space: Space) -> str:
    number = len(space.beats)
    return f"{number} beat{'s' if number > 1 else ''}"


def _beats(
    bar: Bar,
    space: Space,
    before: Bar | None,
    chosen: Mapping[str, str],
    grade: int,
    syllabus: Syllabus,
) -> list[dict]:
    frame = Positions.of(bar)
    found = []
    for place, (start, length) in enumerate(space.beats):
        owned = figures_owned(length, grade, syllabus)
        figure, drums = _beat_of(before, start, length) if before else ("", [])
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
                "offered": _offered(owned, length, f"b{place}-"),
                "figure": figure,
                "drums": drums,
                "notes": [
                    {
                        "place": note,
                        "count": frame.say(start + at),
                        "drum": drum,
                        "at": KIT_LINE.index(drum),
                    }
                    for note, (at, drum) in enumerate(zip(onsets, drums, strict=True))
                ],
            }
        )
    return found


def _beat_of(bar: Bar, start: Fraction, length: Fraction) -> tuple[str, list[Drum]]:
    """The figure and the drums that are written in a beat; of two at once that by hand."""
    struck: dict[Fraction, Drum] = {}
    for hit in bar.hits:
        if not start <= hit.at < start + length or hit.drum not in KIT_LINE:
            continue
        if hit.at not in struck or struck[hit.at].by_foot:
            struck[hit.at] = hit.drum
    onsets = sorted(struck)
    figure = name_figure({at - start for at in onsets}, length)
    return figure, [struck[at] for at in onsets]


def _drum(asked: str | None, before: list[Drum], note: int) -> Drum:
    """By its name, or by its place on the kit line."""
    place = read_whole(asked, 0, len(KIT_LINE) - 1)
    if place is not None:
        return KIT_LINE[place]
    if asked in {drum.value for drum in KIT_LINE}:
        return Drum(asked)
    return before[note] if note < len(before) else FIRST_DRUM


def _in_style(plan: Plan, bar: Bar, chosen: Mapping[str, str]) -> dict:
    """Small variations of the groove, from the kick patterns the student owns."""
    found = variations(bar, bars_held(plan.student))[:MOST_VARIATIONS]
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
