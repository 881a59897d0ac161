"""Techniques of a bar: what is played beside its rhythm.

The names and what tells each are common practice, no source.
"""

from collections import Counter
from collections.abc import Callable
from fractions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Grace, Hit, MarkKind, RollKind, Surface, Touch
from wren_ladder.drumming.chart.drum import SECTION_CRASHES

SHORT_ROLLS = (5, 7, 9)


def techniques(bar: Bar) -> tuple[str, ...]:
    """Every technique that the bar asks for, in the order they are usually learned."""
    return tuple(name for name, asked in ASKED.items() if asked(bar))


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


PARADIDDLE, INVERTED = "RLRRLRLL", "RLLRLRRL"
CYMBALS = (Surface.HIHAT, Surface.RIDE)


def _even_runs(bar: Bar, letter: Callable[[Hit], str]) -> list[str]:
    """The letters of the hands' single strokes, parted where the gaps are not even."""
    hits = [hit for hit in bar.hits if not hit.drum.by_foot]
    together = Counter(hit.at for hit in hits)
    alone = [hit for hit in hits if together[hit.at] == 1]
    found, gap = [""], None
    for before, hit in zip([None, *alone], alone, strict=False):
        now = hit.at - before.at if before else None
        if before and gap is not None and now != gap:
            found.append(letter(before))
        found[-1] += letter(hit)
        gap = now
    return found


def _spells(bar: Bar, word: str, letter: Callable[[Hit], str]) -> bool:
    mirrored = word.translate(str.maketrans("RL", "LR"))
    return any(word in run or mirrored in run for run in _even_runs(bar, letter))


def _paradiddle_groove(bar: Bar) -> bool:
    """The paradiddle between a cymbal and the snare."""
    letters = dict.fromkeys(CYMBALS, "R") | {Surface.SNARE: "L"}
    return _spells(bar, PARADIDDLE, lambda hit: letters.get(hit.drum.surface, "-"))


def _inverted_paradiddle(bar: Bar) -> bool:
    return _spells(bar, INVERTED, lambda hit: hit.hand or "-")


ASKED: dict[str, Callable[[Bar], bool]] = {
    "rock beat": _rock_beat,
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
}
