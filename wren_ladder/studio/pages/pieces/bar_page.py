"""One bar, everything about it: what the page of a bar shows."""

from collections.abc import Sequence
from dataclasses import replace

from django.http import Http404, HttpRequest
from quicktions import Fraction

from wren_ladder.drumming.building.layers import Layer, LayerCode, in_layer, layers
from wren_ladder.drumming.building.parts import Part, first_half, first_note, second_half
from wren_ladder.drumming.chart import Bar, Hand, Tempo
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.counting import beat_shares, count_bar, count_in
from wren_ladder.drumming.description.figures import Voice, beat_figures
from wren_ladder.drumming.findings.conflicts import as_problems, conflicts
from wren_ladder.drumming.findings.fastest import single_hand_limit
from wren_ladder.drumming.hands import strokes_of
from wren_ladder.drumming.hands.schools import Sticking
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.rudiments import FoundRudiment
from wren_ladder.drumming.study import BarStudy, Study, study_bar
from wren_ladder.drumming.style import Counting, Style
from wren_ladder.drumming.workshop.accents import sticking_versions
from wren_ladder.studio.drawing.engraving import LINE_WIDTH, engrave, engrave_each
from wren_ladder.studio.drawing.limb_view import limb_view
from wren_ladder.studio.drawing.wall import tag_of
from wren_ladder.studio.pieces.drafts import name_of
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.pieces.studies import study_of
from wren_ladder.studio.teaching.models import style_of

DRILL_LAYOUT, DRILL_WIDTH = Layout(clef=False, counts=False), 1900
DRILL_TEMPO = Tempo(Fraction(1), 60)  # only hands and notes are drawn
KEYS = {
    Counting.NUMBERS: "n", Counting.WORDS: "w", Counting.TAKADIMI: "t",
    **{school: str(number) for number, school in enumerate(Sticking, start=1)},
    Part.WHOLE: "b", Part.FIRST: "f", Part.SECOND: "s", Part.ON: "x",
}  # fmt: skip
LAYER_KEYS = "payvuijkh"  # from the plainest layer on; a bar has no more than that


def bar_page_context(request: HttpRequest, piece: Piece, index: int) -> dict:
    """The bar as the page's choices show it, by the teacher's own style to begin with."""
    style = _style(request, style_of(piece.owner_id))
    studied = study_of(piece, style)
    if not 0 <= index < len(studied.bars):
        raise Http404("no such bar")
    part = _chosen(request, "part", Part, Part.WHOLE)
    whole = studied.bars[index]
    built = layers(whole.bar)
    asked = request.GET.get("layer", "")
    layer = next((one.code for one in built if one.code == asked), LayerCode.WHOLE)
    printed = studied.tempos[index]
    tempo, bpm_error = _asked_tempo(request, printed)
    shown = _shown(studied, index, part, layer, tempo, style)
    bar = shown[0].bar
    return {
        "piece": piece,
        "index": index,
        "last_index": len(studied.bars) - 1,
        "whole": whole,
        "name": name_of(whole.bar),
        "tag": tag_of(whole, studied) if whole.twin_of is not None else "",
        "difference": studied.taught_from(whole),
        "again": studied.again(index),
        "staff": engrave(shown, Layout(), LINE_WIDTH * 2 // 3, "whole-"),
        "limbs": limb_view(shown[0]),
        "flips": part is Part.WHOLE
        and layer is LayerCode.WHOLE
        and piece.owner_id == request.user.pk,
        "choices": _choices([*_groups(style, part), _layer_group(built, layer)]),
        "lead_left": style.lead is Hand.LEFT,
        "open_handed": style.open_handed,
        "tempo": tempo,
        "bpm": request.GET.get("bpm", printed.bpm),
        "bpm_error": bpm_error,
        "drills": _drills(whole.bar, style),
        "limit": single_hand_limit(whole.sticks, style),
        "conflicts": as_problems(conflicts(whole.sticks, whole.bar, tempo, style), whole.bar),
        "rudiments": [(found, _place(whole.bar, found)) for found in whole.rudiments],
        "figures": [(voice.value, _beats(bar, voice)) for voice in Voice],
        "spoken": " ".join(_say(count) for count in count_bar(bar, style)),
        "count_in": count_in(bar).spoken,
        "shares": beat_shares(bar, style.note_names),
        "rules": [stick for stick in shown[0].sticks if not stick.hit.drum.by_foot],
    }


def _choices(groups: list[tuple]) -> list[tuple[str, list[tuple]]]:
    """What is chosen together, as it is said."""
    counting, sticking, part, layer = groups
    return [("count", [counting]), ("hands", [sticking]), ("part", [part, layer])]


def _style(request: HttpRequest, style: Style) -> Style:
    """The teacher's style with what is chosen on the page for now."""
    sent = "shown" in request.GET
    lead = Hand.LEFT if "left" in request.GET else Hand.RIGHT
    return replace(
        style,
        counting=_chosen(request, "counting", Counting, style.counting),
        sticking=_chosen(request, "sticking", Sticking, style.sticking),
        lead=lead if sent else style.lead,
        open_handed="open" in request.GET if sent else style.open_handed,
    )


def _chosen(request: HttpRequest, name: str, values, otherwise):
    asked = request.GET.get(name)
    return values(asked) if asked in tuple(values) else otherwise


def _layer_group(built: Sequence[Layer], chosen: LayerCode) -> tuple:
    values = [
        (one.code, LAYER_KEYS[place], one.code is chosen) for place, one in enumerate(built)
    ]
    return ("layer", "Layer", values)


def _groups(style: Style, part: Part) -> list[tuple]:
    """(name, legend, its radio buttons as (coded value, key, chosen))."""
    return [
        (name, legend, [(value, KEYS[value], value is now) for value in type(now)])
        for name, legend, now in (
            ("counting", "Count", style.counting),
            ("sticking", "Sticking", Sticking(style.sticking)),
            ("part", "Part", part),
        )
    ]


def _asked_tempo(request: HttpRequest, printed: Tempo) -> tuple[Tempo, str]:
    """(the tempo asked for, what is wrong with it); the printed one unless there is another."""
    asked = request.GET.get("bpm", "")
    if not asked:
        return printed, ""
    bpm = read_whole(asked, SLOWEST, FASTEST)
    if bpm is None:
        return printed, f"A tempo is {SLOWEST} to {FASTEST} a minute."
    return Tempo(printed.beat, bpm), ""


def _drills(bar: Bar, style: Style) -> list[tuple[str, str]]:
    """(name, drawing) of the versions of an accented phrase; none where nothing is
    accented."""
    if not any(hit.touch.loud for hit in bar.hits if not hit.drum.by_foot):
        return []
    made = sticking_versions([bar.in_notes(marks=())], style.lead)
    studied = [study_bar(one.bars[0], DRILL_TEMPO, style) for one in made]
    drawings = engrave_each(studied, DRILL_LAYOUT, DRILL_WIDTH)
    return [(one.name, svg) for one, svg in zip(made, drawings, strict=True)]


def _shown(
    studied: Study, index: int, part: Part, layer: LayerCode, tempo: Tempo, style: Style
) -> list[BarStudy]:
    if part is Part.WHOLE and layer is LayerCode.WHOLE:
        return [studied.bars[index]]
    bar = in_layer(studied.chart.bars[index], layer)
    halves = {Part.FIRST: first_half, Part.SECOND: second_half}
    bars = [halves[part](bar) if part in halves else bar]
    if part is Part.ON and index + 1 < len(studied.bars):
        bars.append(first_note(studied.chart.bars[index + 1]))
    first, *behind = [study_bar(one, tempo, style) for one in bars]
    for after in behind:  # the strokes look across the bar line
        first = replace(first, strokes=strokes_of(first.sticks, after.sticks))
    return [first, *behind]


def _place(bar: Bar, found: FoundRudiment) -> str:
    frame = Positions.of(bar)
    last = min(found.last, max(hit.at for hit in bar.hits))
    return f"{frame.say(found.first)} to {frame.say(last)}"


def _beats(bar: Bar, voice: Voice) -> str:
    return " · ".join(name for _, name in beat_figures(bar, voice))


def _say(count) -> str:
    return f"({count.say})" if count.silent and not count.say.startswith("(") else count.say
