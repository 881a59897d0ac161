"""The road map: the page from left to right, time from top to bottom.

Every stretch played straight on is a track over the bars it travels; where the road turns
back or leaps, a curve leads to the next track and says why.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.chart import Chart
from wren_ladder.drumming.performance import clock
from wren_ladder.drumming.roadmap import Leg, Turn
from wren_ladder.drumming.wording import ordinal

WIDTH, LEFT, RIGHT, TOP, ROW = 940, 30, 190, 56, 38
MOST_LEGS = 60
MOST_TICKS = 20


@dataclass(frozen=True, slots=True)
class Tick:
    x: float
    text: str


@dataclass(frozen=True, slots=True)
class Track:
    x1: float
    x2: float
    y: float
    label: str  # "bars 1–8, 2nd time"
    clock: str
    turn: str  # the curve to the next track, "" behind the last
    why: str
    why_x: float
    why_y: float


@dataclass(frozen=True, slots=True)
class RoadView:
    width: int
    height: float
    top: float
    bottom: float
    bars: tuple[Tick, ...]
    sections: tuple[Tick, ...]
    tracks: tuple[Track, ...]
    more: int  # legs that are not drawn
    spoken: str


def road_view(
    chart: Chart, legs: Sequence[Leg], turns: Sequence[Turn], starts: Sequence[float]
) -> RoadView:
    """Lay out the road; ``starts`` is when each leg that is drawn begins, in seconds."""
    bars = chart.bars
    unit = (WIDTH - LEFT - RIGHT) / len(bars)
    shown = legs[:MOST_LEGS]
    why = {(turn.leaving, turn.landing): turn.why for turn in turns}

    def edge(index: int) -> float:
        return round(LEFT + index * unit, 1)

    tracks = []
    for row, leg in enumerate(shown):
        y = TOP + ROW * row + ROW / 2
        following = shown[row + 1] if row + 1 < len(shown) else None
        x1, x2 = edge(leg.first), edge(leg.last + 1)
        turn, reason, why_x = "", "", 0.0
        if following:
            landing = edge(following.first)
            bend = 26 if landing < x2 else 10
            turn = f"M{x2} {y}C{x2 + bend} {y} {landing - 16} {y + ROW} {landing} {y + ROW}"
            reason = why.get((leg.last, following.first), "")
            why_x = (x2 + landing) / 2
        label, began = say_leg(chart, leg), clock(starts[row])
        tracks.append(Track(x1, x2, y, label, began, turn, reason, why_x, y + ROW / 2))
    every = -(-len(bars) // MOST_TICKS)
    bottom = TOP + ROW * len(shown)
    return RoadView(
        width=WIDTH,
        height=bottom + 8,
        top=TOP - 12,
        bottom=bottom,
        bars=tuple(
            Tick(edge(index), bar.number)
            for index, bar in enumerate(bars)
            if index % every == 0
        ),
        sections=tuple(
            Tick(edge(index), bar.section) for index, bar in enumerate(bars) if bar.section
        ),
        tracks=tuple(tracks),
        more=len(legs) - len(shown),
        spoken="; ".join(say_leg(chart, leg) for leg in shown),
    )


def say_leg(chart: Chart, leg: Leg) -> str:
    first, last = chart.bars[leg.first].number, chart.bars[leg.last].number
    bars = f"bar {first}" if first == last else f"bars {first}–{last}"
    return f"{bars}, {ordinal(leg.time)} time" if leg.time > 1 else bars
