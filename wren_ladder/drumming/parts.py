"""A bar in parts and in layers: a half, the next bar's first note, the rhythm alone."""

from dataclasses import replace
from enum import StrEnum
from fractions import Fraction

from wren_ladder.drumming.chart import Bar, Grace, Hit, Touch
from wren_ladder.drumming.chart.bar import PICKUP
from wren_ladder.drumming.chart.shorthand import in_notes


class Part(StrEnum):
    WHOLE = "whole bar"
    FIRST = "first half"
    SECOND = "second half"
    ON = "bar and next note"


class Layer(StrEnum):
    """What is shown of a bar; each layer has everything the one before has."""

    RHYTHM = "rhythm"
    ACCENTS = "accents"
    ALL = "everything"


def alone(bar: Bar) -> Bar:
    """The bar by itself, without the signs and marks of its page."""
    return Bar(bar.number, bar.meter, bar.hits, bar.length)


def middle(bar: Bar) -> Fraction:
    """The start of the beat at which the second half begins, in crotchets."""
    starts = [start for start, _ in bar.beats if start > 0]
    return min(starts, key=lambda start: abs(start - bar.length / 2), default=bar.length)


def first_half(bar: Bar) -> Bar:
    """The beats up to the middle; a roll that goes on ends there."""
    cut = middle(bar)
    hits = tuple(_ended(hit, cut) for hit in bar.hits if hit.at < cut)
    return in_notes(bar, hits=hits, length=cut, marks=())


def second_half(bar: Bar) -> Bar:
    """The beats from the middle on, counted on from there as a pick-up is."""
    cut = middle(bar)
    if cut == bar.length:
        return bar
    hits = tuple(replace(hit, at=hit.at - cut) for hit in bar.hits if hit.at >= cut)
    return Bar(PICKUP, bar.meter, hits, bar.length - cut)


def first_note(bar: Bar) -> Bar:
    """What stands on the first beat's start: where a bar has to land."""
    _, length = bar.beats[0]
    hits = tuple(replace(hit, roll=None) for hit in bar.hits if hit.at == 0)
    return Bar(bar.number, bar.meter, hits, length)


def layer_of(bar: Bar, layer: Layer) -> Bar:
    """The bar without what comes later: ornaments, then accents and ghosts."""
    if layer is Layer.ALL:
        return bar
    hits = (replace(hit, grace=Grace.NONE, roll=None) for hit in bar.hits)
    if layer is Layer.RHYTHM:
        hits = (replace(hit, touch=Touch.NORMAL) for hit in hits)
    return in_notes(bar, hits=tuple(hits))


def _ended(hit: Hit, cut: Fraction) -> Hit:
    if hit.roll is None or hit.at + hit.roll.length <= cut:
        return hit
    return replace(hit, roll=replace(hit.roll, length=cut - hit.at, tied=False))
