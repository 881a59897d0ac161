"""The road map page: order, lengths, rehearsal points, and how often each bar comes."""

from itertools import groupby

from django.http import HttpRequest

from wren_ladder.drumming.chart import Chart
from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.performance import clock, road_seconds
from wren_ladder.drumming.roadmap import (
    RoadMap,
    legs,
    road_map,
    what_follows,
)
from wren_ladder.drumming.wording import ordinal
from wren_ladder.studio.drawing.road import MOST_LEGS, road_view
from wren_ladder.studio.pages.plans.lookups import plans_of
from wren_ladder.studio.pages.printing import paper_of
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.pieces.studies import study_of
from wren_ladder.studio.teaching.models import style_of


def road_context(request: HttpRequest, piece: Piece) -> dict:
    chart = study_of(piece).chart
    road = road_map(chart.bars, style_of(piece.owner_id).repeats_after_jump)
    stretches = legs(road.visits)
    drawn = stretches[:MOST_LEGS]
    starts = [road_seconds(chart, road.visits[: leg.start]) for leg in drawn]
    plans = plans_of(piece.plans, request.user).exclude(student=None).select_related("student")
    return {
        "piece": piece,
        "road": road,
        **paper_of(request),
        "view": road_view(chart, stretches, road.turns, starts),
        "turns": [_say_turn(chart, turn) for turn in road.turns],
        "often": _how_often(chart, road),
        "silent": _not_always(chart),
        "vamps": [bar.number for bar in chart.bars if bar.vamp],
        "targets": [(plan, _length(chart, road, plan.target)) for plan in plans],
        **_at_tempo(request, piece, chart, road),
        **_after(request, chart, road),
    }


def _length(chart: Chart, road: RoadMap, bpm: int) -> str:
    return clock(road_seconds(chart, road.visits, bpm))


def _at_tempo(request: HttpRequest, piece: Piece, chart: Chart, road: RoadMap) -> dict:
    """The length at the tempo asked for, the printed one unless there is another."""
    asked = request.GET.get("bpm", "")
    bpm = read_whole(asked, SLOWEST, FASTEST) if asked else piece.tempo.bpm
    if bpm is None:
        return {"bpm": asked, "bpm_error": f"A tempo is {SLOWEST} to {FASTEST} a minute."}
    return {"bpm": bpm, "at_tempo": _length(chart, road, bpm)}


def _after(request: HttpRequest, chart: Chart, road: RoadMap) -> dict:
    """ "After bar 8, third time: bar 12"; the question keeps what was asked."""
    numbers = {bar.number: index for index, bar in enumerate(chart.bars)}
    asked = request.GET.get("after", chart.bars[0].number)
    text = request.GET.get("time", "1")
    time = read_whole(text, 1) or 1
    known = {"after": asked, "time": time}
    if asked not in numbers:
        return {**known, "answer": f"There is no bar {asked}."}
    index = numbers[asked]
    times = sum(visit.index == index for visit in road.visits)
    try:
        following = what_follows(road.visits, index, time)
    except ValueError:
        often = "once" if times == 1 else f"{times} times"
        return {
            **known,
            "answer": f"Bar {asked} is played {often}." if times else "Never played.",
        }
    where = "the end" if following is None else f"bar {chart.bars[following].number}"
    return {**known, "answer": f"After bar {asked}, {ordinal(time)} time: {where}."}


def _say_turn(chart: Chart, turn) -> dict:
    leaving, landing = chart.bars[turn.leaving], chart.bars[turn.landing]
    return {"leaving": leaving.number, "landing": landing.number, "why": turn.why}


def _not_always(chart: Chart) -> list[str]:
    """ "bars 5–8: 2nd time only", neighbours together."""
    runs = [
        (times, [bar.number for bar in run])
        for times, run in groupby(chart.bars, key=lambda bar: bar.times)
        if times
    ]
    return [
        f"bar {numbers[0]}: {times.words}"
        if len(numbers) == 1
        else f"bars {numbers[0]}–{numbers[-1]}: {times.words}"
        for times, numbers in runs
    ]


def _how_often(chart: Chart, road: RoadMap) -> list[dict]:
    """Neighbouring bars that come equally often, drawn together."""
    times = [0] * len(chart.bars)
    for visit in road.visits:
        times[visit.index] += 1
    runs: list[list[int]] = []
    for index, count in enumerate(times):
        if runs and times[runs[-1][0]] == count:
            runs[-1].append(index)
        else:
            runs.append([index])
    return [
        {
            "bars": chart.bars[run[0]].number
            + (f"–{chart.bars[run[-1]].number}" if len(run) > 1 else ""),
            "times": times[run[0]],
        }
        for run in runs
    ]
