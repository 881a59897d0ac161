"""A bar in parts: a half, beat by beat, with the next bar's first note."""

from dataclasses import replace

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Hit
from wren_ladder.drumming.chart.bar import PICKUP
from wren_ladder.drumming.wording import Coded


class Part(Coded):
    WHOLE = "whole", "whole bar"
    FIRST = "first", "first half"
    SECOND = "second", "second half"
    ON = "on", "bar and next note"


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
    return bar.in_notes(hits=hits, length=cut, marks=())


def second_half(bar: Bar) -> Bar:
    """The beats from the middle on, counted on from there as a pick-up is."""
    cut = middle(bar)
    if cut == bar.length:
        return bar
    hits = tuple(replace(hit, at=hit.at - cut) for hit in bar.hits if hit.at >= cut)
    return Bar(PICKUP, bar.meter, hits, bar.length - cut)


def figure_alone(bar: Bar, beat: str) -> Bar:
    """What stands on a beat, by its rhythm only, on the snare and in every beat as long: so a
    figure is learned before its drums. The bar itself where that beat is empty."""
    beats = bar.by_beat()
    start, length, hits = next(
        (one for one in beats if bar.beat_of(one[0]) == beat), (bar.length, Fraction(0), ())
    )
    inside = sorted({hit.at - start for hit in hits})
    found = [
        Hit(begin + at, Drum.SNARE)
        for begin, room, _ in beats
        for at in inside
        if room == length
    ]
    return bar.in_notes(hits=tuple(found), marks=()) if found else bar


def beat_by_beat(bar: Bar) -> tuple[tuple[str, Bar], ...]:
    """(which beats, the bar as far as them): one beat, then one more at a time, those with
    something to play; the rest of the bar is counted in silence."""
    found: list[tuple[str, Bar]] = []
    for start, length, hits in bar.by_beat()[:-1]:
        if hits:
            end = start + length
            so_far = tuple(_ended(hit, end) for hit in bar.hits if hit.at < end)
            last = bar.beat_of(start)
            name = f"to beat {last}" if found else f"beat {last}"
            found.append((name, bar.in_notes(hits=so_far)))
    return tuple(found)


def first_note(bar: Bar) -> Bar:
    """What stands on the first beat's start: where a bar has to land."""
    _, length = bar.beats[0]
    hits = tuple(replace(hit, roll=None) for hit in bar.hits if hit.at == 0)
    return Bar(bar.number, bar.meter, hits, length)


def _ended(hit: Hit, cut: Fraction) -> Hit:
    if hit.roll is None or hit.at + hit.roll.length <= cut:
        return hit
    return replace(hit, roll=replace(hit.roll, length=cut - hit.at, tied=False))
