"""The workshop: shelf, groove board, stickings, fills, warm-ups; given in two clicks."""

import json
from dataclasses import replace

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_POST, require_safe

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.study import study
from wren_ladder.drumming.style import Style
from wren_ladder.drumming.workshop.accents import Grid, read_accents
from wren_ladder.drumming.workshop.feet import FOOT_STUDIES, next_hands
from wren_ladder.drumming.workshop.fills import Fill, Length, how_many, three_to_try
from wren_ladder.drumming.workshop.grooves import USUAL_TEMPO, Groove
from wren_ladder.drumming.workshop.patterns import (
    KICK_BY_CODE,
    KICKS,
    Backbeat,
    Hands,
    LeftFoot,
)
from wren_ladder.drumming.workshop.shelf import KINDS, shelf
from wren_ladder.drumming.workshop.stickings import HOUSE_STICKINGS, read_sticking
from wren_ladder.drumming.workshop.warm_up import WarmUp, sheet_number, warm_up
from wren_ladder.studio.changes.exercises import give_exercise, make_exercise
from wren_ladder.studio.drawing.engraving import LINE_WIDTH, engrave, engrave_each
from wren_ladder.studio.pages.printing import paper_of, pdf
from wren_ladder.studio.pages.workshop.board import about, board, standing_of
from wren_ladder.studio.pages.workshop.cards import (
    LAYOUT,
    MOST_DRAWN,
    WIDTHS,
    Card,
    card,
)
from wren_ladder.studio.pages.workshop.given import (
    asked_by_pieces,
    book_of_fills,
    exercises_of,
)
from wren_ladder.studio.pages.workshop.recipes import (
    codes_of,
    codes_of_fill,
    made,
    versions_of,
)
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.teaching.models import style_of, syllabus_of

CHOSEN = "workshop_student"  # of the session: whom the workshop makes things for
OTHERS = "workshop_others"  # of the session: who is given the same
FIRST_ACCENTS = "1 2& 4 | 1 3"  # to look at before one has been typed
SHEETS = {
    "grooves": (Piece.Kind.GROOVE, Piece.Kind.PHRASE),
    "book of fills": (Piece.Kind.FILL,),
}
BOXES = 10  # for tempos, beside each exercise on paper
USUAL_WEEKS, MOST_WEEKS = 4, 12  # for which a warm-up stays the same
MOST_SEED = 1_000_000
FIRST = Groove(Hands.HAT_QUAVERS, KICKS[1])


def _whom(request: HttpRequest) -> Student | None:
    """The student that was chosen in the workshop last; asked for anew by the address."""
    mine = Student.objects.filter(owner=request.user)
    asked = request.GET.get("student")
    if asked is not None:
        request.session[CHOSEN] = read_whole(asked)
        request.session[OTHERS] = [read_whole(one) for one in request.GET.getlist("also")]
    return mine.filter(pk=request.session.get(CHOSEN) or 0).first()


def _context(request: HttpRequest, at: str) -> dict:
    students = Student.objects.filter(owner=request.user, status=Student.Status.HERE)
    whom, also = _whom(request), request.session.get(OTHERS) or []
    back = request.htmx.current_url_abs_path if request.htmx else request.get_full_path()
    return {
        "whom": whom,
        "students": students,
        "others": [one for one in students if whom and one.pk in also and one != whom],
        "at": at,
        "back": back,
    }


@require_safe
def shelf_page(request):
    """The house's exercises by kind and grade, and what has been made here."""
    context = _context(request, "shelf")
    kind = request.GET.get("kind", "groove")
    kind = kind if kind in KINDS else KINDS[0]
    style = style_of(request.user.pk)
    given = {
        plan.piece.made_of.get("shelf"): plan for plan in exercises_of(context["whom"], kind)
    }
    context |= {
        "kinds": KINDS,
        "kind": kind,
        "cards": [
            (card(one.code, {"shelf": one.code}, style), given.get(one.code))
            for one in shelf()
            if one.kind == kind
        ],
        "own": Piece.objects.filter(owner=request.user).exclude(kind=Piece.Kind.PIECE),
    }
    return render(request, "workshop/shelf.html", context)


@require_safe
def groove_board(request):
    """Hand patterns down, kick patterns across."""
    context = _context(request, "grooves")
    backbeat, left_foot = (
        _coded(request, Backbeat, "backbeat"),
        _coded(request, LeftFoot, "foot"),
    )
    found = board(context["whom"], backbeat, left_foot, "all" in request.GET)
    context |= {
        "board": found,
        "backbeats": list(Backbeat),
        "feet": list(LeftFoot),
        "everything": "all" in request.GET,
        "given": found.held or found.climbing,
        "rows": [
            (hands, cells, json.dumps(_line(hands.label, [c.groove for c in cells])))
            for hands, cells in found.rows
        ],
        "columns": [
            (
                kick,
                json.dumps(
                    _line(f"kick {kick.name}", [cells[n].groove for _, cells in found.rows])
                ),
            )
            for n, kick in enumerate(found.kicks)
        ],
    }
    return render(request, "workshop/board.html", context)


def _line(title: str, grooves: list[Groove]) -> dict:
    return {"grooves": [codes_of(one) for one in grooves], "title": title}


@require_safe
def groove_panel(request, hands, kick):
    """One cell, drawn and heard, with the change that leads to it."""
    if hands not in tuple(Hands) or kick not in KICK_BY_CODE:
        raise Http404("no such groove")
    backbeat, left_foot = (
        _coded(request, Backbeat, "backbeat"),
        _coded(request, LeftFoot, "foot"),
    )
    groove = Groove(Hands(hands), KICK_BY_CODE[kick], backbeat, left_foot)
    context = _context(request, "grooves")
    held, _ = standing_of(context["whom"])
    found = about(groove, held)
    title = f"The way to {groove.name}"
    codes = codes_of(groove)
    ride = codes_of(replace(groove, hands=Hands.RIDE_QUAVERS))
    near = found["near"] and found["near"][0]
    turn = {"phrase": [codes_of(near), codes], "bars": 8, "turn": True} if near else {}
    turns = [(f"in turn with {near.name}", turn)] if near else []
    context |= found | {
        "card": card("cell", {"groove": codes_of(groove)}, style_of(request.user.pk)),
        "held": held.get(groove),
        "phrases": [
            (said, json.dumps(recipe))
            for said, recipe in (
                ("four bars with a crash", {"phrase": [codes], "bars": 4}),
                *turns,
                ("four like this, four on the ride", {"phrase": [codes, ride], "bars": 8}),
                ("then a quaver later", {"displaced": codes, "by": "quaver"}),
                ("then a semiquaver later", {"displaced": codes, "by": "semiquaver"}),
                (
                    "then the kick alone a quaver later",
                    {"displaced": codes, "by": "quaver", "limb": "kick"},
                ),
                ("one snare note more, in every place", {"snares": codes}),
            )
        ],
        "way_recipe": json.dumps({"grooves": found["way_codes"], "title": title}),
    }
    name = "workshop/_cell.html" if request.htmx else "workshop/cell.html"
    return render(request, name, context)


def _coded(request: HttpRequest, codes, name: str):
    asked = request.GET.get(name)
    return codes(asked) if asked in tuple(codes) else next(iter(codes))


@require_safe
def stickings(request):
    """Letters laid on hat and snare: the house's twelve, and the teacher's own."""
    context = _context(request, "stickings")
    style, typed = style_of(request.user.pk), request.GET.get("letters", "")[:80]
    error, own = "", []
    if typed:
        try:
            own = [read_sticking(typed)]
        except ChartError as caught:
            error = caught.text
    pad = "pad" in request.GET
    letters = [*own, *(one.letters for one in HOUSE_STICKINGS)]
    context |= {
        "cards": [
            card(f"s{n}", {"sticking": one, **({"pad": True} if pad else {})}, style, one)
            for n, one in enumerate(letters)
        ],
        "typed": typed,
        "error": error,
        "pad": pad,
    }
    status = 422 if error else 200
    return render(request, "workshop/stickings.html", context, status=status)


@require_safe
def fills(request):
    """Three to try, from the student's own figures; how many there are; the book of fills."""
    context = _context(request, "fills")
    whom = context["whom"]
    asked = read_whole(request.GET.get("grade"), 0, 8)
    grade = asked if asked is not None else whom.grade if whom else 2
    length = _coded(request, Length, "length")
    seed = read_whole(request.GET.get("seed"), 0, MOST_SEED) or 0
    syllabus, style = syllabus_of(request.user.pk), style_of(request.user.pk)
    found = three_to_try(length, grade, FIRST.bar, USUAL_TEMPO, seed, syllabus, style)
    groove = codes_of(FIRST)
    context |= {
        "grade": grade,
        "length": length,
        "lengths": list(Length),
        "seed": seed,
        "many": how_many(length, grade, syllabus),
        "cards": [_fill_card(n, one, groove, style) for n, one in enumerate(found)],
        "book": book_of_fills(whom),
    }
    return render(request, "workshop/fills.html", context)


def _fill_card(number: int, fill: Fill, groove: list[str], style: Style) -> tuple[Card, str]:
    """The fill in two bars to see and hear, and the recipe of four."""
    recipe = {"fill": codes_of_fill(fill), "groove": groove, "bars": 2}
    return (
        card(f"f{number}", recipe, style, fill.figures_said),
        json.dumps({**recipe, "bars": 4}),
    )


@require_safe
def accents(request):
    """An accented phrase, typed as places, and every way to move it."""
    context = _context(request, "accents")
    style, typed = style_of(request.user.pk), request.GET.get("accents", "")[:200].strip()
    grid, error, cards = _coded(request, Grid, "grid"), "", []
    try:
        for one in versions_of(read_accents(typed or FIRST_ACCENTS, grid)):
            recipe = {"accents": typed or FIRST_ACCENTS, "grid": grid.value, "as": one.code}
            cards.append(card(f"a-{one.code}", recipe, style))
    except ChartError as caught:
        error = str(caught)
    context |= {
        "typed": typed or FIRST_ACCENTS,
        "grid": grid,
        "grids": list(Grid),
        "error": error,
        "cards": cards,
    }
    return render(request, "workshop/accents.html", context, status=422 if error else 200)


@require_safe
def foot_studies(request):
    """Eight bars of kick under a hand pattern; the next one where the last is held."""
    context = _context(request, "feet")
    whom, style = context["whom"], style_of(request.user.pk)
    grade = whom.grade if whom else 1
    given = [
        plan for plan in exercises_of(whom, Piece.Kind.FEET) if "feet" in plan.piece.made_of
    ]
    held: dict[str, set[str]] = {}
    for plan in given:
        if (plan.standing.ready or 0) >= plan.target:
            held.setdefault(plan.piece.made_of["feet"], set()).add(plan.piece.made_of["hands"])
    asked = request.GET.get("hands", "")
    cards = []
    for one in FOOT_STUDIES:
        mine = held.get(one.code, set())
        hands = Hands(asked) if asked in tuple(Hands) else next_hands(mine, grade)
        said = f"held already: {', '.join(Hands(code).label for code in sorted(mine))}"
        recipe = {"feet": one.code, "hands": (hands or Hands.HAT_QUAVERS).value}
        cards.append(card(f"f-{one.code}", recipe, style, said if mine else ""))
    context |= {"cards": cards, "patterns": list(Hands), "asked": asked}
    return render(request, "workshop/feet.html", context)


@require_safe
def warm_ups(request):
    return render(request, "workshop/warm_ups.html", _warm_up(request))


@require_safe
def warm_up_sheet(request):
    context = _warm_up(request) | paper_of(request)
    return pdf(request, "workshop/warm_up_sheet.html", context, "warm-up")


def _warm_up(request: HttpRequest) -> dict:
    context = _context(request, "warm-ups")
    whom = context["whom"]
    asked = read_whole(request.GET.get("grade"), 0, 8)
    grade = asked if asked is not None else whom.grade if whom else 2
    minutes = read_whole(request.GET.get("minutes"), 1, 15) or 5
    seed = read_whole(request.GET.get("seed"), 0, MOST_SEED) or 0
    weeks = read_whole(request.GET.get("weeks"), 1, MOST_WEEKS) or USUAL_WEEKS
    asks = asked_by_pieces(whom)
    number = sheet_number(timezone.localdate(), weeks) + seed
    recipe = {"warm-up": grade, "minutes": minutes, "seed": number}
    recipe |= {"asked": sorted(asks)} if asks else {}
    found, style = warm_up(grade, minutes, number, asks), style_of(request.user.pk)
    shown = set().union(*(line.techniques for line in found.lines))
    whole = card("warm", recipe, style)
    return context | {
        "grade": grade,
        "minutes": minutes,
        "seed": seed,
        "weeks": weeks,
        "warm_up": found,
        "asks": [(one, titles) for one, titles in asks.items() if one in shown],
        "card": whole,
        "lines": _drawn(whole, found, style),
        "grades": range(9),
    }


def _drawn(whole: Card, found: WarmUp, style: Style) -> list[tuple]:
    """Each line of the sheet with its staff."""
    bars = study(whole.made.chart, style).bars
    svgs = engrave_each(list(bars), LAYOUT, WIDTHS[1])
    return list(zip(found.lines, svgs, strict=True))


@require_safe
def exercise_sheet(request):
    """A student's grooves, or their book of fills, on paper with boxes for tempos."""
    whom = _whom(request)
    kinds = SHEETS.get(request.GET.get("of", ""))
    if whom is None or kinds is None:
        raise Http404("choose a student, and grooves or fills")
    style = style_of(request.user.pk)
    lines = []
    for plan in exercises_of(whom, *kinds):
        bars = study(plan.piece.chart(), style).bars[:MOST_DRAWN]
        svg = engrave(bars, LAYOUT, WIDTHS.get(len(bars), LINE_WIDTH), f"p{plan.pk}-")
        lines.append((plan, svg))
    title = f"{whom.name}: {request.GET['of']}"
    context = {"whom": whom, "lines": lines, "title": title, "boxes": range(BOXES)}
    return pdf(request, "workshop/exercise_sheet.html", context | paper_of(request), title)


@require_POST
def give(request) -> HttpResponse:
    """Made, if it is not there yet, and given; back to where it was pressed."""
    back = request.POST.get("back", "")
    if not url_has_allowed_host_and_scheme(back, allowed_hosts=None):
        back = "/workshop/"
    asked = [read_whole(one) or 0 for one in request.POST.getlist("student")]
    whom = Student.objects.filter(owner=request.user, pk__in=asked)
    try:
        recipe = json.loads(request.POST.get("recipe", ""))
        found = made(recipe if isinstance(recipe, dict) else {})
    except ValueError as error:
        messages.error(request, f"Not given: {error}.")
        return redirect(back)
    target = read_whole(request.POST.get("target"), SLOWEST, FASTEST)
    if not whom or target is None:
        said = f"a target is {SLOWEST} to {FASTEST}" if whom else "choose a student"
        messages.error(request, f"Not given: {said}.")
        return redirect(back)
    grade = found.grade or None
    piece = make_exercise(request.user, found.chart, found.kind, recipe, grade)
    for student in whom:
        plan = give_exercise(piece, student, target, found.chart.tempo.bpm)
        messages.success(request, f"{student} climbs {piece.title} to {plan.target}.")
    return redirect(back)
