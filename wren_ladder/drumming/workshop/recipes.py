"""Recipes: what an exercise is made of, in numbers and codes, and the chart it makes."""

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from wren_ladder.drumming.chart import Bar, Chart, ChartError, Drum, Hand, Tempo
from wren_ladder.drumming.grades import HOUSE_SYLLABUS, Syllabus
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.plain_text import plain_json
from wren_ladder.drumming.wording import Coded
from wren_ladder.drumming.workshop.accents import (
    Grid,
    Version,
    kit_versions,
    read_accents,
    sticking_versions,
)
from wren_ladder.drumming.workshop.feet import FOOT_STUDIES
from wren_ladder.drumming.workshop.fills import (
    Dynamic,
    Fill,
    Length,
    Orchestration,
    fill_bar,
    pickup_bar,
)
from wren_ladder.drumming.workshop.grooves import (
    USUAL_TEMPO,
    Groove,
    displaced,
    phrase,
    why_not,
    with_extra_snare,
)
from wren_ladder.drumming.workshop.pack import OwnExercise, own_exercise
from wren_ladder.drumming.workshop.patterns import (
    EXTRA_SNARES,
    KICK_BY_CODE,
    QUAVER,
    SEMIQUAVER,
    Backbeat,
    Hands,
    LeftFoot,
    hand_grade,
    places,
)
from wren_ladder.drumming.workshop.reading import Voices, reading_study
from wren_ladder.drumming.workshop.shelf import exercise_named
from wren_ladder.drumming.workshop.stickings import (
    HOUSE_STICKINGS,
    LEFT_SURFACES,
    RIGHT_SURFACES,
    USUAL,
    on_the_pad,
    read_sticking,
    sticking_bar,
    written,
)
from wren_ladder.drumming.workshop.warm_up import warm_up

MOST_GROOVES = 26
PHRASES = (2, 4, 8)  # bars
MOST_IN_TURN = 64  # bars of several exercises as one
SHIFTS = {"quaver": QUAVER, "semiquaver": SEMIQUAVER}
LIMBS = {"kick": (Drum.KICK,), "snare": (Drum.SNARE,)}  # that are displaced alone
HEADROOM = 24  # BPM from where a groove begins to its usual target


class Kind(Coded):
    """What an exercise is for."""

    GROOVE = "groove", "groove"
    FILL = "fill", "fill"
    PHRASE = "phrase", "phrase"
    HANDS = "hands", "hands"
    FEET = "feet", "feet"
    READING = "reading", "reading"
    WARM_UP = "warm-up", "warm-up"


@dataclass(frozen=True, slots=True)
class Made:
    """What a recipe makes; ``grade`` 0 is before grade 1."""

    title: str
    kind: str
    grade: int
    target: int
    chart: Chart


def made(recipe: Mapping[str, object], syllabus: Syllabus = HOUSE_SYLLABUS) -> Made:
    """ValueError where it is no recipe, whatever is wrong with it."""
    for name, make in MAKERS.items():
        if name in recipe:
            try:
                return make(recipe, syllabus)
            except (
                KeyError,
                TypeError,
                ValueError,
                IndexError,
                ChartError,
            ) as error:
                raise ValueError(f"this is no {name}: {error}") from error
    raise ValueError("nothing of the workshop is made so")


def asked_for(text: str, syllabus: Syllabus) -> tuple[dict[str, object], Made]:
    """A recipe as a page sent it, and what it makes; ValueError where it is none."""
    recipe = plain_json(text)
    recipe = recipe if isinstance(recipe, dict) else {}
    return recipe, made(recipe, syllabus)


def recipe_text(recipe: Mapping[str, object]) -> str:
    """The same text for the same recipe, as pages send it."""
    return json.dumps(recipe, sort_keys=True)


def groove_of(codes) -> Groove:
    """From its four codes."""
    hands, kick, backbeat, left_foot = codes
    return Groove(Hands(hands), KICK_BY_CODE[kick], Backbeat(backbeat), LeftFoot(left_foot))


def codes_of(groove: Groove) -> list[str]:
    return [
        groove.hands.value,
        groove.kick.code,
        groove.backbeat.value,
        groove.left_foot.value,
    ]


def _at(chart: Chart, title: str, tempo: Tempo = USUAL_TEMPO) -> Chart:
    first = replace(chart.bars[0], tempo=tempo)
    return Chart(title, (first, *chart.bars[1:]))


def _coded(among, code):
    """The one with this code."""
    found = next((one for one in among if one.code == code), None)
    if found is None:
        raise ValueError(f"there is no '{code}'")
    return found


def _shelf(recipe, syllabus: Syllabus) -> Made:
    one = exercise_named(recipe["shelf"])
    return Made(one.name, one.kind, one.grade(syllabus), one.target, one.chart)


def _groove(recipe, syllabus: Syllabus) -> Made:
    groove = groove_of(recipe["groove"])
    chart = _at(Chart("", (groove.bar,)), groove.name)
    target = USUAL_TEMPO.bpm + HEADROOM
    return Made(groove.name, Kind.GROOVE, groove.grade(syllabus), target, chart)


def _grooves(recipe, syllabus: Syllabus) -> Made:
    grooves = [groove_of(codes) for codes in recipe["grooves"]]
    if not 2 <= len(grooves) <= MOST_GROOVES:
        raise ValueError(f"2 to {MOST_GROOVES} grooves make one exercise")
    title = str(recipe.get("title") or "A walk of grooves")[:100]
    bars = [replace(one.bar, number=str(n)) for n, one in enumerate(grooves, 1)]
    grade = max(one.grade(syllabus) for one in grooves)
    chart = _at(Chart("", tuple(bars)), title)
    return Made(title, Kind.PHRASE, grade, USUAL_TEMPO.bpm + HEADROOM // 2, chart)


def _sticking(recipe, syllabus: Syllabus) -> Made:
    sticking = read_sticking(str(recipe["sticking"]))
    known = next((one for one in HOUSE_STICKINGS if one.letters == sticking.letters), None)
    name = known.name if known else f"sticking {sticking.letters}"
    kick = places(known.kick if known else "1 3")
    surfaces = _surfaces(recipe)
    if recipe.get("pad"):
        bar, name = on_the_pad(sticking), f"{name}, on the pad"
    else:
        bar = sticking_bar(sticking, kick, surfaces)
        name += "".join(
            f", {said} hand on the {surfaces[hand].spoken}"
            for hand, said in ((Hand.RIGHT, "right"), (Hand.LEFT, "left"))
            if surfaces[hand] is not USUAL[hand]
        )
        _, _, elsewhere = written(sticking).partition(",")
        name += f", {elsewhere.strip()}" if elsewhere else ""
    name = name[:100]
    kind = Kind.HANDS if recipe.get("pad") else Kind.GROOVE
    chart = _at(Chart("", (bar,)), name)
    return Made(
        name, kind, known.grade(syllabus) if known else 3, USUAL_TEMPO.bpm + HEADROOM, chart
    )


def _surfaces(recipe) -> dict[Hand, Drum]:
    """What each hand lies on; the usual where nothing is said."""
    right = Drum(recipe.get("right", USUAL[Hand.RIGHT]))
    left = Drum(recipe.get("left", USUAL[Hand.LEFT]))
    if right not in RIGHT_SURFACES or left not in LEFT_SURFACES:
        raise ValueError("a hand lies on nothing of that name")
    return {Hand.RIGHT: right, Hand.LEFT: left}


def fill_of(codes) -> Fill:
    length, figures, orchestration, dynamic, *placed = codes
    return Fill(
        Length(length),
        tuple(map(str, figures)),
        Orchestration(orchestration),
        Dynamic(dynamic),
        tuple(map(Drum, *placed)) if placed else (),
    )


def codes_of_fill(fill: Fill) -> list:
    figures = list(fill.figures)
    codes = [fill.length.value, figures, fill.orchestration.value, fill.dynamic.value]
    return [*codes, list(fill.placed)] if fill.placed else codes


def _fill(recipe, syllabus: Syllabus) -> Made:
    fill, groove = fill_of(recipe["fill"]), groove_of(recipe["groove"])
    bars = int(recipe.get("bars", 2))
    if bars not in (2, 4):
        raise ValueError("a fill is practised in phrases of two or four bars")
    if fill.length is Length.PICKUP:
        name = f"{fill.name}, and {bars} bars"
        behind = phrase([groove.bar], bars)
        chart = _at(Chart("", (pickup_bar(fill, groove.bar), *behind.bars)), name)
    else:
        name = f"{fill.name}, in {bars} bars"
        chart = _at(phrase([groove.bar], bars, fill_bar(fill, groove.bar)), name)
    return Made(name, Kind.FILL, fill.grade(syllabus), USUAL_TEMPO.bpm + HEADROOM // 2, chart)


def _accents(recipe, syllabus: Syllabus) -> Made:
    text, grid = str(recipe["accents"]), Grid(recipe["grid"])
    bars = read_accents(text, grid)
    version = _coded(versions_of(bars), recipe["as"])
    name = f"Accents {text}, {version.name}"[:100]
    kind = Kind.PHRASE if recipe["as"].startswith("kick") else Kind.HANDS
    grade = 2 + (grid is Grid.SEMIQUAVERS) + ("doubled" in recipe["as"])
    chart = _at(Chart("", version.bars), name)
    return Made(name, kind, grade, USUAL_TEMPO.bpm + HEADROOM // 2, chart)


def versions_of(bars: Sequence[Bar]) -> tuple[Version, ...]:
    return (*sticking_versions(bars), *kit_versions(bars))


def _feet(recipe, syllabus: Syllabus) -> Made:
    study = _coded(FOOT_STUDIES, recipe["feet"])
    hands = Hands(recipe["hands"])
    name = f"Foot study: {study.name}, {hands.label}"
    grade = max(study.grade(syllabus), hand_grade(hands, syllabus))
    chart = _at(Chart("", study.bars(hands)), name)
    return Made(name, Kind.FEET, grade, USUAL_TEMPO.bpm + HEADROOM // 2, chart)


def _phrase(recipe, syllabus: Syllabus) -> Made:
    """So many bars with a crash, of a groove or of two in turn."""
    grooves = [groove_of(codes) for codes in recipe["phrase"]]
    bars = int(recipe["bars"])
    if len(grooves) not in (1, 2) or bars not in PHRASES:
        raise ValueError("a phrase has 2, 4 or 8 bars of one groove, or of two in turn")
    half, turn = bars // 2, bool(recipe.get("turn"))
    line = [grooves[0].bar] * half + [grooves[-1].bar] * half
    line = [one.bar for one in grooves] if turn else line
    said = ", in turn with " if turn else " and "
    name = f"{bars} bars with a crash: {said.join(one.name for one in grooves)}"[:100]
    grade = max(one.grade(syllabus) for one in grooves)
    chart = _at(phrase(line, bars), name)
    return Made(name, Kind.PHRASE, grade, USUAL_TEMPO.bpm + HEADROOM // 2, chart)


def _displaced(recipe, syllabus: Syllabus) -> Made:
    groove, by = groove_of(recipe["displaced"]), SHIFTS[recipe["by"]]
    limb = recipe.get("limb", "")
    bar = displaced(groove.bar, by, LIMBS[limb] if limb else None)
    moved = f"the {limb} " if limb else ""
    name = f"{groove.name}, {moved}a {recipe['by']} later"[:100]
    chart = _at(Chart("", (replace(groove.bar, number="1"), replace(bar, number="2"))), name)
    grade = min(8, groove.grade(syllabus) + 2)
    return Made(name, Kind.PHRASE, grade, USUAL_TEMPO.bpm + HEADROOM // 2, chart)


def _snares(recipe, syllabus: Syllabus) -> Made:
    """One snare note more on e or a, in each place of the bar where it can be played."""
    groove = groove_of(recipe["snares"])
    more = [with_extra_snare(groove, at) for at in EXTRA_SNARES]
    bars = [one.bar for one in more if not why_not(one)]
    if not bars:
        raise ValueError("there is no place for one more")
    name = f"{groove.name}, one snare note more"[:100]
    numbered = tuple(replace(bar, number=str(n)) for n, bar in enumerate(bars, 1))
    target = USUAL_TEMPO.bpm + HEADROOM // 2
    chart = _at(Chart("", numbered), name)
    return Made(name, Kind.PHRASE, min(8, groove.grade(syllabus) + 2), target, chart)


def _warm_up(recipe, syllabus: Syllabus) -> Made:
    grade, minutes = int(recipe["warm-up"]), int(recipe.get("minutes", 5))
    if not (0 <= grade <= 8 and 1 <= minutes <= 15):
        raise ValueError("a warm-up is for grade 0 to 8, of 1 to 15 minutes")
    asked = {str(one) for one in recipe.get("asked", ())}
    found = warm_up(grade, minutes, int(recipe.get("seed", 0)), asked, syllabus)
    name = f"Warm-up, grade {grade}, {minutes} minutes" if grade else "Warm-up, before grade 1"
    bpm = found.tempo.bpm
    return Made(name, Kind.WARM_UP, grade, bpm + 20, _at(found.chart, name, found.tempo))


def _reading(recipe, syllabus: Syllabus) -> Made:
    grade, seed = int(recipe["reading"]), int(recipe.get("seed", 0))
    voices = Voices(recipe.get("voices", Voices.SNARE))
    found = reading_study(grade, int(recipe.get("bars", 4)), voices, seed, syllabus)
    many = len(found.chart.bars)
    name = f"Reading, grade {grade}, {many} bars {voices.label}, number {seed}"
    kind = Kind.PHRASE if voices is Voices.KIT else Kind.HANDS
    return Made(name, kind, grade, found.tempo.bpm, _at(found.chart, name, found.tempo))


def typed_recipe(own: OwnExercise) -> dict[str, object]:
    """A teacher's own exercise carries its bars with it."""
    return {"as": own.kind, "to": own.target, "typed": own.text}  # in the order of recipe_text


def _typed(recipe, syllabus: Syllabus) -> Made:
    text = str(recipe["typed"])
    own = own_exercise(read_chart(text), str(recipe.get("as")), int(recipe["to"]))
    title = own.chart.title or "Exercise of my own"
    return Made(title[:100], own.kind, own.grade(syllabus), own.target, own.chart)


def _in_turn(recipe, syllabus: Syllabus) -> Made:
    """Several exercises one after the other, at one tempo; or as a warm-up."""
    parts = [made(one, syllabus) for one in recipe["in turn"] if "in turn" not in one]
    bars = [replace(bar, tempo=None) for part in parts for bar in part.chart.bars]
    if len(parts) < 2 or len(bars) > MOST_IN_TURN:
        raise ValueError(f"two exercises and more, of {MOST_IN_TURN} bars together, go in turn")
    warms = recipe.get("as") == "warm-up"
    titles = [one.title for one in parts]
    name = f"Warm-up: {', '.join(titles)}" if warms else " in turn with ".join(titles)
    kinds = {part.kind for part in parts}
    kind = kinds.pop() if len(kinds) == 1 else Kind.PHRASE
    numbered = tuple(replace(bar, number=str(n)) for n, bar in enumerate(bars, 1))
    tempo = min((part.chart.tempo for part in parts), key=lambda one: one.bpm * one.beat)
    return Made(
        name[:100],
        Kind.WARM_UP if warms else kind,
        max(part.grade for part in parts),
        min(part.target for part in parts),
        _at(Chart("", numbered), name[:100], tempo),
    )


MAKERS = {
    "in turn": _in_turn,
    "typed": _typed,
    "shelf": _shelf,
    "grooves": _grooves,
    "fill": _fill,
    "groove": _groove,
    "sticking": _sticking,
    "accents": _accents,
    "feet": _feet,
    "phrase": _phrase,
    "displaced": _displaced,
    "snares": _snares,
    "warm-up": _warm_up,
    "reading": _reading,
}
