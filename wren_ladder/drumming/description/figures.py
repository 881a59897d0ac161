"""Figures: what fills one beat, by its common name.

The names are those of note values (common practice, no source).
"""

from enum import StrEnum

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Hit

QUARTERS = {
    (0,): "crotchet",
    (0, 2): "two quavers",
    (0, 1, 2, 3): "four semiquavers",
    (0, 1, 2): "two semiquavers + quaver",
    (0, 2, 3): "quaver + two semiquavers",
    (0, 3): "dotted quaver + semiquaver",
    (0, 1): "semiquaver + dotted quaver",
    (0, 1, 3): "semiquaver–quaver–semiquaver",
    (2,): "off-beat quaver",
    (1, 2, 3): "semiquaver rest + three",
    (2, 3): "quaver rest + two semiquavers",
    (1, 3): "off-beat semiquavers",
    (1, 2): "semiquaver rest + two",
    (1,): "single e",
    (3,): "single a",
}
THIRDS = {
    (0, 1, 2): "triplet",
    (0, 2): "triplet, middle silent",
    (0, 1): "triplet, last silent",
    (1, 2): "triplet, first silent",
    (1,): "triplet, middle alone",
    (2,): "triplet, last alone",
}
SIXTHS = {
    (0, 1, 2, 3, 4, 5): "sextuplet",
    (0, 1, 2, 3, 4): "sextuplet, last silent",
    (0, 1, 2, 3): "half-beat triplet + quaver",
    (0, 3, 4, 5): "quaver + half-beat triplet",
}
FIFTHS = {(0, 1, 2, 3, 4): "five in a beat"}
SEVENTHS = {(0, 1, 2, 3, 4, 5, 6): "seven in a beat"}
COMPOUND = {
    (0,): "dotted crotchet",
    (0, 2, 4): "three quavers",
    (0, 4): "crotchet + quaver",
    (0, 2): "quaver + crotchet",
    (0, 3): "two dotted quavers",
    (0, 1, 2, 3, 4, 5): "six semiquavers",
    (0, 2, 3, 4): "quaver + two semiquavers + quaver",
    (0, 1, 2, 4): "two semiquavers + two quavers",
    (0, 2, 4, 5): "two quavers + two semiquavers",
    (0, 1, 2, 3, 4): "four semiquavers + quaver",
    (0, 2, 3, 4, 5): "quaver + four semiquavers",
    (0, 3, 4): "dotted quaver + semiquaver + quaver",
    (2, 4): "quaver rest + two quavers",
    (2,): "second quaver alone",
    (4,): "last quaver alone",
    (0, 4, 5): "crotchet + two semiquavers",
}
# Half a beat, of a crotchet or of what a metre in quavers leaves over.
HALF_THIRDS = {(0, 1, 2): "half-beat triplet"}
HALVES = {(0,): "quaver", (0, 1): "two semiquavers", (1,): "off-beat semiquaver"}
# A beat of 2/2 holds what two crotchets hold, each note twice as long.
MINIM = {
    (0,): "minim",
    (0, 2): "two crotchets",
    (0, 1, 2, 3): "four quavers",
    (0, 1, 2): "two quavers + crotchet",
    (0, 2, 3): "crotchet + two quavers",
    (0, 3): "dotted crotchet + quaver",
    (0, 1): "quaver + dotted crotchet",
    (0, 1, 3): "quaver–crotchet–quaver",
    (2,): "off-beat crotchet",
    (1, 2, 3): "quaver rest + three quavers",
    (2, 3): "crotchet rest + two quavers",
}
THIRTY_SECONDS = {tuple(range(8)): "eight demisemiquavers"}
EIGHTHS = {tuple(range(8)): "eight semiquavers"}
CROTCHET_TRIPLET = "crotchet triplet"  # over two beats too
SPANNING = "dotted crotchet + quaver"  # over two beats of a crotchet
OF_A_CROTCHET = (
    (QUARTERS, 4),
    (THIRDS, 3),
    (SIXTHS, 6),
    (FIFTHS, 5),
    (SEVENTHS, 7),
    (THIRTY_SECONDS, 8),
)
# What no table names is told by how many notes it has.
UNEVEN = ("one note", "two", "three", "four", "five", "six", "seven", "eight", "many")


class Voice(StrEnum):
    """Whose figures are named: each side by itself, or what sounds together."""

    HANDS = "hands"
    FEET = "feet"
    TOGETHER = "together"


def figures(bar: Bar, voice: Voice = Voice.TOGETHER) -> tuple[str, ...]:
    """The distinct figures of a bar's voice, in order of appearance."""
    return tuple(dict.fromkeys(name for _, name in beat_figures(bar, voice)))


def beat_figures(bar: Bar, voice: Voice = Voice.TOGETHER) -> tuple[tuple[Fraction, str], ...]:
    """(start, name) of what fills each beat, or two of them; none where a roll goes on through
    it."""
    found, spanned = [], None
    for start, length, hits in bar.by_beat():
        if start == spanned:
            continue
        onsets = {hit.at - start for hit in hits if _sounds_in(hit, voice)}
        if not onsets and voice is not Voice.FEET and bar.rolls_through(start):
            continue  # a roll is no rest, and no figure of its own
        if length == 1 and onsets == {0} and _only_the_half(bar, start + 1, voice):
            found.append((start, SPANNING))
            spanned = start + 1
            continue
        if length == 1 and _is_crotchet_triplet(bar, start, voice):
            found.append((start, CROTCHET_TRIPLET))
            spanned = start + 1
            continue
        found.append((start, name_figure(onsets, length)))
    return tuple(found)


def _is_crotchet_triplet(bar: Bar, start: Fraction, voice: Voice) -> bool:
    """Three notes in the time of two crotchets."""
    inside = {
        hit.at - start
        for hit in bar.hits
        if start <= hit.at < start + 2 and _sounds_in(hit, voice)
    }
    return inside == {Fraction(0), Fraction(2, 3), Fraction(4, 3)}


def _only_the_half(bar: Bar, start: Fraction, voice: Voice) -> bool:
    """Has the beat that starts there nothing but its second half? Then the note before it is
    a dotted crotchet."""
    inside = {
        hit.at - start
        for hit in bar.hits
        if start <= hit.at < start + 1 and _sounds_in(hit, voice)
    }
    rolled = any(hit.roll and hit.at < start < hit.end for hit in bar.hits)
    return inside == {Fraction(1, 2)} and not rolled


def _sounds_in(hit: Hit, voice: Voice) -> bool:
    return voice is Voice.TOGETHER or hit.drum.by_foot == (voice is Voice.FEET)


def name_figure(onsets: set[Fraction], length: Fraction) -> str:
    """The name of one beat's onsets, counted in crotchets from the beat."""
    if not onsets:
        return "rest"
    for table, parts in _tables(length):
        name = _look_up(table, onsets, length / parts)
        if name:
            return name
    return _uneven(len(onsets))


def _uneven(notes: int) -> str:
    """ "three uneven notes": the last resort."""
    if notes == 1:
        return "one note off the beat"
    return f"{UNEVEN[min(notes, len(UNEVEN)) - 1]} uneven notes"


def onsets_of(name: str, length: Fraction) -> tuple[Fraction, ...]:
    """When the notes of a figure come, in crotchets from the beat; the inverse of
    ``name_figure``. KeyError where no beat of this length has a figure of that name."""
    for table, parts in _tables(length):
        for places, found in table.items():
            if found == name:
                return tuple(place * length / parts for place in places)
    if name == "rest":
        return ()
    raise KeyError(name)


def names_for(length: Fraction) -> tuple[str, ...]:
    """Every figure that fills a beat of this length, silence too."""
    names = [name for table, _ in _tables(length) for name in table.values()]
    return ("rest", *dict.fromkeys(names))


def _tables(length: Fraction) -> tuple[tuple[dict, int], ...]:
    """(table, parts of a beat) for a beat of this length."""
    return {
        Fraction(1, 2): ((HALVES, 2), (HALF_THIRDS, 3)),
        Fraction(3, 2): ((COMPOUND, 6),),
        Fraction(2): ((MINIM, 4), (EIGHTHS, 8)),
    }.get(length, OF_A_CROTCHET)


def _look_up(table: dict, onsets: set[Fraction], unit: Fraction) -> str | None:
    places = sorted(onset / unit for onset in onsets)
    if any(place.denominator != 1 for place in places):
        return None
    return table.get(tuple(int(place) for place in places))
