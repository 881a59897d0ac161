"""Unseen reading: a study of a grade, never the same twice, kept when it is given."""

from django.http import HttpRequest
from django.shortcuts import render
from django.utils import timezone
from django.views.decorators.http import require_safe

from wren_ladder.drumming.findings import worth_telling
from wren_ladder.drumming.judging.judgement import Player, judge
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.study import study
from wren_ladder.drumming.workshop.reading import LENGTHS, LOOK, Voices
from wren_ladder.studio.pages.workshop.asked import coded, context_of
from wren_ladder.studio.pages.workshop.cards import Card, card
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.teaching.models import teaching_of

MOST_SEED = 10_000_000
# What is to be read at sight says neither its count nor its hands.
AS_A_PAGE = Layout(counts=False, hands=False, numbers=True)


@require_safe
def reading(request):
    """One study with what to look for first."""
    context = context_of(request, "reading")
    whom = context["whom"]
    asked = read_whole(request.GET.get("grade"), 0, 8)
    grade = asked if asked is not None else whom.grade if whom else 2
    bars = read_whole(request.GET.get("bars"), 1, max(LENGTHS)) or LENGTHS[0]
    bars = bars if bars in LENGTHS else LENGTHS[0]
    voices = coded(request, Voices, "voices")
    seed = read_whole(request.GET.get("seed"), 0, MOST_SEED)
    seed = _unseen(request) if seed is None else seed
    recipe = {"reading": grade, "bars": bars, "voices": voices.value, "seed": seed}
    style, syllabus = teaching_of(request.user.pk)
    found = card(
        "reading",
        recipe,
        style,
        syllabus,
        layout=AS_A_PAGE,
        most=max(LENGTHS),
    )
    context |= {
        "grade": grade,
        "grades": range(9),
        "bars": bars,
        "lengths": LENGTHS,
        "voices": voices,
        "all_voices": list(Voices),
        "seed": seed,
        "look": LOOK,
        "card": found,
        "click": {**found.sound, "strokes": [], "rounds": 1},
        "first": _look_first(found, grade),
    }
    return render(request, "workshop/reading.html", context)


def _unseen(request: HttpRequest) -> int:
    """A number of the day that no study of the teacher's has yet."""
    number = timezone.localdate().toordinal() * 10
    pieces = Piece.objects.filter(owner=request.user, made_of__has_key="reading")
    given = {piece.made_of.get("seed") for piece in pieces.only("made_of")}
    while number in given:
        number += 1
    return number


def _look_first(found: Card, grade: int) -> list[str]:
    """What to look at in the minute before: metre, tempo, what comes back, the hardest bar,
    where it is loud."""
    chart = found.made.chart
    studied = study(chart)
    judged = judge(studied, Player(grade=grade))
    new = [place for place, kind in enumerate(studied.kinds) if place == kind]
    hardest = max(new, key=lambda place: judged.bars[place].rank)
    again = [
        f"{bar.number} is {chart.bars[kind].number} again"
        for place, (bar, kind) in enumerate(zip(chart.bars, studied.kinds, strict=True))
        if place != kind
    ]
    loud = [f"{mark.text} from bar {bar.number}" for bar in chart.bars for mark in bar.marks]
    why = [one.said for one in worth_telling(judged.bars[hardest].weighed)[:1]]
    return [
        f"metre and tempo: {chart.bars[0].meter}, {chart.tempo}",
        *([f"what comes back: {', '.join(again)}"] if again else []),
        f"the hardest bar: {': '.join([chart.bars[hardest].number, *why])}",
        *([f"how loud: {', '.join(loud)}"] if loud else []),
    ]
