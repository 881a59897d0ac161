"""Variations of bars that are there: the hat to the ride, a left foot, another kick, the drums
moved on, a fill at the end.

Common practice, no source.
"""

from collections.abc import Callable, Mapping
from dataclasses import replace

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, ChartError, Drum, Hit
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.workshop.fills import ROUND, Fill, fill_bar
from wren_ladder.drumming.workshop.patterns import FOUR, KICKS, Kick

HATS = (Drum.HIHAT, Drum.HIHAT_HALF, Drum.HIHAT_OPEN)
RIDES = (Drum.RIDE, Drum.RIDE_BELL)
Vary = Callable[[Bar], Bar]


def _moved(drums: Mapping[Drum, Drum]) -> Vary:
    """Every stroke on another drum; two that come together on one surface are one."""

    def vary(bar: Bar) -> Bar:
        found: dict[tuple, Hit] = {}
        for hit in bar.hits:
            moved = replace(hit, drum=drums.get(hit.drum, hit.drum))
            found.setdefault((moved.at, moved.drum.surface), moved)
        return bar.in_notes(hits=tuple(found.values()))

    return vary


def _bell_on_beats(bar: Bar) -> Bar:
    """Whatever keeps time goes to the ride, and to its bell on the beats."""
    beats = {start for start, _ in bar.beats}
    ridden = _moved(dict.fromkeys(HATS, Drum.RIDE))(bar)
    return ridden.in_notes(hits=tuple(
        replace(hit, drum=Drum.RIDE_BELL if hit.at in beats else Drum.RIDE)
        if hit.drum in RIDES else hit
        for hit in ridden.hits
    ))  # fmt: skip


def _opened(bar: Bar) -> Bar:
    """The hat opened in the middle of each beat, where it is struck."""
    middles = {start + length / 2 for start, length in bar.beats}
    hits = tuple(
        replace(hit, drum=Drum.HIHAT_OPEN) if hit.drum in HATS and hit.at in middles else hit
        for hit in bar.hits
    )
    return bar.in_notes(hits=hits)


def _left_foot(chosen: Callable[[int], bool], part: Fraction) -> Vary:
    """The hat by foot at ``part`` of each beat whose number, from 1, is chosen. ChartError
    where the stick has the hat open there."""

    def vary(bar: Bar) -> Bar:
        feet = {
            start + length * part
            for number, (start, length) in enumerate(bar.beats, 1)
            if chosen(number)
        }
        opened = [hit.at for hit in bar.hits if hit.drum in HATS[1:] and hit.at in feet]
        if opened:
            where = Positions.of(bar).say(min(opened))
            raise ChartError(
                f"the hat is open on {where}, so the foot can't close it", bar=bar.number
            )
        hits = [hit for hit in bar.hits if hit.drum is not Drum.HIHAT_FOOT]
        return bar.in_notes(hits=(*hits, *(Hit(at, Drum.HIHAT_FOOT) for at in feet)))

    return vary


def under(bar: Bar, kick: Kick) -> Bar:
    """The kick pattern in place of the kick that is there."""
    _of_four(bar, "a kick pattern")
    hits = [hit for hit in bar.hits if hit.drum is not Drum.KICK]
    return bar.in_notes(hits=(*hits, *(Hit(at, Drum.KICK) for at in kick.places)))


def ending_in(bar: Bar, fill: Fill) -> Bar:
    """The bar as far as the fill begins, then the fill."""
    _of_four(bar, "a fill of the workshop")
    return replace(fill_bar(fill, bar), marks=bar.marks)


def _of_four(bar: Bar, what: str) -> None:
    if bar.length != FOUR.length or bar.meter.count_length != 1:
        raise ChartError(f"{what} is for bars of 4/4; this is {bar.meter}", bar=bar.number)


def _even(number: int) -> bool:
    return number % 2 == 0


def _every(number: int) -> bool:
    return True


def _none(number: int) -> bool:
    return False


ON, AND = Fraction(0), Fraction(1, 2)
DOWN = dict(zip(ROUND, ROUND[1:] + ROUND[:1], strict=True))
UP = {lower: upper for upper, lower in DOWN.items()}

# Code: what it is called in the editor, and what it does to one bar.
VARIATIONS: dict[str, tuple[str, Vary]] = {
    "ride": ("hat to the ride", _moved(dict.fromkeys(HATS, Drum.RIDE))),
    "hat": ("ride to the hat", _moved(dict.fromkeys(RIDES, Drum.HIHAT))),
    "bell": ("ride, its bell on the beats", _bell_on_beats),
    "opened": ("hat opened on the off-beats", _opened),
    "closed": ("hat closed throughout", _moved(dict.fromkeys(HATS, Drum.HIHAT))),
    "foot-even": ("left foot on 2 and 4", _left_foot(_even, ON)),
    "foot-all": ("left foot on every beat", _left_foot(_every, ON)),
    "foot-off": ("left foot on the off-beats", _left_foot(_every, AND)),
    "foot-none": ("left foot taken away", _left_foot(_none, ON)),
    "down": ("snare and toms one drum down the kit", _moved(DOWN)),
    "up": ("snare and toms one drum up the kit", _moved(UP)),
}
KICKS_BY_CODE = {f"kick-{kick.code}": kick for kick in KICKS}


def varied(bar: Bar, code: str) -> Bar:
    """ChartError where there is no such variation, or where this bar has no room for it."""
    if kick := KICKS_BY_CODE.get(code):
        return under(bar, kick)
    if code not in VARIATIONS:
        raise ChartError("that is no variation; choose one from the list", bar=bar.number)
    return VARIATIONS[code][1](bar)
