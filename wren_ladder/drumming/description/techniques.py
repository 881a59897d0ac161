"""Techniques of a bar: what is played beside its rhythm.

The names and what tells each are common practice, no source.
"""

from collections import Counter
from collections.abc import Callable
from functools import lru_cache
from itertools import pairwise

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Grace, Hit, MarkKind, RollKind, Surface, Touch
from wren_ladder.drumming.chart.drum import SECTION_CRASHES
from wren_ladder.drumming.description.feel import Feel
from wren_ladder.drumming.description.timekeeping import timekeeper

SHORT_ROLLS = (5, 7, 9)
OFTEN = 2  # times in a bar, that make a pattern
LINEAR = 4  # strokes


@lru_cache(maxsize=4096)
def techniques(bar: Bar, feel: Feel | None = None) -> tuple[str, ...]:
    """Every technique that the bar asks for in its feel, in the order they are usually
    learned."""
    found = [name for name, asked in ASKED.items() if asked(bar)]
    rock = ["rock beat"] if feel in ROCKING and _rock_beat(bar) else []
    return (*rock, *found, *_of_the_feel(bar, feel))


# What is learned with a feel.
FEELS = {
    Feel.SHUFFLE: "shuffle",
    Feel.HALF_TIME_SHUFFLE: "half-time shuffle",
    Feel.SWING: "swing ride",
    Feel.BOSSA: "bossa foot",
    Feel.SAMBA: "samba foot",
}
ROCKING = (None, Feel.ROCK, Feel.HALF_TIME)


def _of_the_feel(bar: Bar, feel: Feel | None) -> list[str]:
    found = [FEELS[feel]] if feel in FEELS else []
    ghosts = any(hit.touch is Touch.GHOST for hit in bar.hits)
    if feel is Feel.SHUFFLE and ghosts:
        found.append("shuffle with ghosts")
    comped = {hit.drum.surface for hit in bar.hits} & {Surface.SNARE, Surface.KICK}
    if feel is Feel.SWING and comped:
        found.append("comping on the ride")
    return found


def technique_at(name: str, bar: Bar) -> Fraction | None:
    """The first stroke that by itself asks for a technique; None where none does, for what is
    told by several."""
    asked = ASKED.get(name)
    if asked is None or not bar.hits:
        return None
    return next((hit.at for hit in bar.hits if asked(bar.in_notes(hits=(hit,)))), None)


def _drum(*drums: Drum) -> Callable[[Bar], bool]:
    return lambda bar: any(hit.drum in drums for hit in bar.hits)


def _grace(grace: Grace) -> Callable[[Bar], bool]:
    return lambda bar: any(hit.grace is grace for hit in bar.hits)


def _touch(*touches: Touch) -> Callable[[Bar], bool]:
    return lambda bar: any(hit.touch in touches for hit in bar.hits)


def _rolls(kind: RollKind, *counts: int) -> Callable[[Bar], bool]:
    def asked(bar: Bar) -> bool:
        rolls = [hit.roll for hit in bar.hits if hit.roll and hit.roll.kind is kind]
        return any(not counts or roll.strokes in counts for roll in rolls)

    return asked


def _open_and_closed(bar: Bar) -> bool:
    hats = {hit.drum for hit in bar.hits if hit.drum.surface is Surface.HIHAT}
    return bool(hats & {Drum.HIHAT_OPEN, Drum.HIHAT_HALF})


def _crash_at_section(bar: Bar) -> bool:
    return any(hit.at == 0 and hit.drum.surface in SECTION_CRASHES for hit in bar.hits)


def _pushed_crash(bar: Bar) -> bool:
    return any(
        hit.drum.surface in SECTION_CRASHES and (hit.at / bar.meter.count_length) % 1 != 0
        for hit in bar.hits
    )


def _rock_beat(bar: Bar) -> bool:
    cymbals = [h for h in bar.hits if h.drum.surface in (Surface.HIHAT, Surface.RIDE)]
    drums = {hit.drum for hit in bar.hits}
    return len(cymbals) >= 4 and {Drum.SNARE, Drum.KICK} <= drums


def _off_beat_open_hats(bar: Bar) -> bool:
    opened = [hit for hit in bar.hits if hit.drum is Drum.HIHAT_OPEN]
    return len(opened) >= 2 and all(
        (hit.at / bar.meter.count_length) % 1 != 0 for hit in opened
    )


PARADIDDLE, INVERTED, DOUBLES = "RLRRLRLL", "RLLRLRRL", "RRLLRRLL"
CYMBALS = (Surface.HIHAT, Surface.RIDE)


def _even_runs(bar: Bar) -> list[list[Hit]]:
    """The hands' single strokes, parted where the gaps are not even."""
    hits = [hit for hit in bar.hits if not hit.drum.by_foot]
    together = Counter(hit.at for hit in hits)
    alone = [hit for hit in hits if together[hit.at] == 1]
    found: list[list[Hit]] = [[]]
    gap = None
    for before, hit in zip([None, *alone], alone, strict=False):
        now = hit.at - before.at if before else None
        if before and gap is not None and now != gap:
            found.append([before])
        found[-1].append(hit)
        gap = now
    return found


def _spells(bar: Bar, word: str, letter: Callable[[Hit], str]) -> bool:
    """Do even strokes from a beat on spell it, or its mirror?"""
    words = (word, word.translate(str.maketrans("RL", "LR")))
    starts = {start for start, _ in bar.beats}
    return any(
        run[place].at in starts
        and "".join(letter(hit) for hit in run[place : place + len(word)]) in words
        for run in _even_runs(bar)
        for place in range(len(run))
    )


def _paradiddle_groove(bar: Bar) -> bool:
    """The paradiddle between a cymbal and the snare."""
    letters = dict.fromkeys(CYMBALS, "R") | {Surface.SNARE: "L"}
    return _spells(bar, PARADIDDLE, lambda hit: letters.get(hit.drum.surface, "-"))


def _round_the_kit(word: str) -> Callable[[Bar], bool]:
    """Do the hands spell it over several drums?"""

    def asked(bar: Bar) -> bool:
        drums = {hit.drum.surface for hit in bar.hits if hit.hand}
        return len(drums - set(CYMBALS)) > 1 and _spells(bar, word, lambda hit: hit.hand or "-")

    return asked


def _inverted_paradiddle(bar: Bar) -> bool:
    return _spells(bar, INVERTED, lambda hit: hit.hand or "-")


def _off_beats(bar: Bar, drum: Drum) -> list[Fraction]:
    """When a drum is struck off the counts."""
    return [
        hit.at
        for hit in bar.hits
        if hit.drum is drum and (hit.at / bar.meter.count_length) % 1 != 0
    ]


def _bell_off_beat(bar: Bar) -> bool:
    return len(_off_beats(bar, Drum.RIDE_BELL)) >= OFTEN


def _left_foot_off_beat(bar: Bar) -> bool:
    """Under hands that keep time."""
    return timekeeper(bar) is not None and len(_off_beats(bar, Drum.HIHAT_FOOT)) >= OFTEN


def _hat_opened_quickly(bar: Bar) -> bool:
    """The hat opened for less than a quaver, closed by foot or stick."""
    hats = [
        hit
        for hit in bar.hits
        if hit.drum.surface is Surface.HIHAT or hit.drum is Drum.HIHAT_FOOT
    ]
    return any(
        one.drum is Drum.HIHAT_OPEN and other.at - one.at < Fraction(1, 2)
        for one, other in pairwise(hats)
    )


def _flams_round_the_kit(bar: Bar) -> bool:
    flammed = {hit.drum.surface for hit in bar.hits if hit.grace is Grace.FLAM}
    return bool(flammed - {Surface.SNARE})


def _linear(bar: Bar) -> bool:
    """Hands and kick share a run of semiquavers or quicker, no two of them at once."""
    times = Counter(hit.at for hit in bar.hits)
    kicks = [hit for hit in bar.hits if hit.drum is Drum.KICK]
    by_hand = [hit for hit in bar.hits if not hit.drum.by_foot]
    if len(kicks) < 2 or len(by_hand) < LINEAR or max(times.values()) > 1:
        return False
    gaps = [after - before for before, after in pairwise(sorted(times))]
    return sum(gap <= Fraction(1, 4) for gap in gaps) >= LINEAR


def _accented_rolls(bar: Bar) -> set[Fraction]:
    """Where in its beat a roll is accented or lands on an accent."""
    rolls = [hit for hit in bar.hits if hit.roll]
    ends = {hit.end for hit in rolls}
    loud = {hit.at for hit in bar.hits if hit.touch.loud and not hit.drum.by_foot}
    return {at % bar.meter.count_length for at in loud if at in {*ends, *(r.at for r in rolls)}}


def _says(*words: str) -> Callable[[Bar], bool]:
    """Does the page ask for it in a word?"""

    def asked(bar: Bar) -> bool:
        said = " ".join(mark.text.lower() for mark in bar.marks if mark.kind is MarkKind.CUE)
        return any(word in said for word in words)

    return asked


def _linear_groove(bar: Bar) -> bool:
    return timekeeper(bar) is not None and _linear(bar)


def _both_feet(bar: Bar) -> bool:
    """Kick and hat foot each have a pattern of their own under hands that keep no time."""
    feet = Counter(hit.drum for hit in bar.hits if hit.drum.by_foot)
    both = all(feet[drum] >= len(bar.beats) for drum in (Drum.KICK, Drum.HIHAT_FOOT))
    return both and timekeeper(bar) is None and any(not hit.drum.by_foot for hit in bar.hits)


def _threes_across(bar: Bar) -> bool:
    """Accents three semiquavers apart, three times and more."""
    loud = sorted({hit.at for hit in bar.hits if hit.touch.loud and not hit.drum.by_foot})
    apart = [after - before == Fraction(3, 4) for before, after in pairwise(loud)]
    return any(one and other for one, other in pairwise(apart))


ASKED: dict[str, Callable[[Bar], bool]] = {
    "crash at a section": _crash_at_section,
    "open and closed hat": _open_and_closed,
    "pushed crash": _pushed_crash,
    "toms": _drum(Drum.TOM_HIGH, Drum.TOM_MID, Drum.TOM_FLOOR),
    "accents": lambda bar: any(hit.touch.loud for hit in bar.hits),
    "flams": _grace(Grace.FLAM),
    "drags": _grace(Grace.DRAG),
    "ruffs": _grace(Grace.RUFF),
    "buzz roll": _rolls(RollKind.BUZZ),
    "left foot on the hat": _drum(Drum.HIHAT_FOOT),
    "cross-stick": _drum(Drum.CROSS_STICK),
    "rim shots": _drum(Drum.RIM_SHOT),
    "open double-stroke roll": _rolls(RollKind.OPEN),
    "crescendo and diminuendo": lambda bar: any(
        mark.kind in (MarkKind.CRESCENDO, MarkKind.DIMINUENDO) for mark in bar.marks
    ),
    "ghost notes": _touch(Touch.GHOST),
    "off-beat open hats": _off_beat_open_hats,
    "ride bell": _drum(Drum.RIDE_BELL),
    "paradiddle groove": _paradiddle_groove,
    "inverted paradiddle": _inverted_paradiddle,
    "5, 7 and 9 stroke rolls": _rolls(RollKind.OPEN, *SHORT_ROLLS),
    "bell on the off-beats": _bell_off_beat,
    "hat opened in semiquavers": _hat_opened_quickly,
    "linear figures": lambda bar: timekeeper(bar) is None and _linear(bar),
    "odd metre": lambda bar: bar.meter.odd,
    "left foot off the beat": _left_foot_off_beat,
    "paradiddles round the kit": _round_the_kit(PARADIDDLE),
    "doubles round the kit": _round_the_kit(DOUBLES),
    "flams round the kit": _flams_round_the_kit,
    "groups of three across the beat": _threes_across,
    "linear groove": _linear_groove,
    "both feet under the hands": _both_feet,
    "accents inside rolls": lambda bar: any(hit.roll and hit.touch.loud for hit in bar.hits),
    "rolls with accents in every place": lambda bar: len(_accented_rolls(bar)) > 2,
    "brushes": _says("brushes"),
    "kicks over time": _says("kicks over time"),
}
