"""A fill of a take: does it start with the beat, stay with it and land."""

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean

from quicktions import Fraction

from wren_ladder.drumming.description.timekeeping import fill_start
from wren_ladder.drumming.performance import PlayedBar
from wren_ladder.drumming.takes.figures import ENOUGH, Figure, Figures
from wren_ladder.drumming.takes.following import Matched


@dataclass(frozen=True, slots=True)
class FillFigures:
    """Seconds late (early: below 0), each limb's own lean taken off. ``start`` of the first
    moment, ``inside`` of all behind it, ``end`` of the last moment, ``landing`` of the first
    moment of the next bar, None where nothing follows."""

    start: Figure | None
    inside: Figure
    end: Figure
    landing: Figure | None


def fill_figures(figures: Figures, played: Sequence[PlayedBar]) -> FillFigures | None:
    """None where there is no fill, or too little of it was heard."""
    found = {turn: fill_start(one.bar) for turn, one in enumerate(played)}
    starts = {turn: at for turn, at in found.items() if at}
    lasts = {
        turn: max(hit.at for hit in played[turn].bar.hits if not hit.drum.by_foot)
        for turn in starts
    }
    start: list[float] = []
    inside: list[float] = []
    end: list[float] = []
    landing: list[float] = []
    for one, late in _levelled(figures):
        turn, at = one.expected.onset.turn, written_at(one, played)
        if not at and starts.get((turn or len(played)) - 1):
            landing.append(late)
        if turn not in starts or at < starts[turn]:
            continue
        (start if at == starts[turn] else inside).append(late)
        if at == lasts[turn] > starts[turn]:
            end.append(late)
    if len(inside) < ENOUGH or not end:
        return None
    from_to = _mean(inside), _mean(end)
    return FillFigures(
        _mean(start) if start else None, *from_to, _mean(landing) if landing else None
    )


def written_at(one: Matched, played: Sequence[PlayedBar]) -> Fraction:
    """Where in its bar a stroke is written, in crotchets."""
    onset = one.expected.onset
    return played[onset.turn].bar.hits[onset.hit].at


def strokes_of_fills(played: Sequence[PlayedBar]) -> frozenset[tuple[int, int]]:
    """(turn of the bar, place of the hit) of every stroke that belongs to a fill."""
    starts = ((turn, one.bar, fill_start(one.bar)) for turn, one in enumerate(played))
    return frozenset(
        (turn, place)
        for turn, bar, start in starts
        if start is not None
        for place, hit in enumerate(bar.hits)
        if hit.at >= start
    )


def _levelled(figures: Figures):
    """What a limb is always late by is not the fill's."""
    for one, late in figures.residuals:
        limb = one.expected.limb
        own = figures.limbs.get(limb) if limb else None
        yield one, late - (own.lean.value if own else 0.0)


def _mean(late: Sequence[float]) -> Figure:
    return Figure(fmean(late), len(late))
