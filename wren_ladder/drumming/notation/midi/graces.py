"""Soft strokes just before a louder one of the same drum: flams, drags, ruffs.

How far a grace lies before its main stroke: common practice, from memory.
"""

from collections.abc import Collection, Sequence
from typing import NamedTuple

from wren_ladder.drumming.chart import Drum, Family, Touch
from wren_ladder.drumming.notation.reading import Choice, ways_of
from wren_ladder.drumming.wording import Coded

# Milliseconds from one grace to the next stroke: nearer is one stroke struck twice by a pad.
LEAST_GAP, MOST_GAP = 12, 48
SOFTER = 0.85  # of the main stroke's strength, at most
MOST_GRACES = 3


class Soft(Coded):
    GRACES = "soft graces", "flams, drags and ruffs"
    STROKES = "soft strokes", "strokes of their own"


class Stroke(NamedTuple):
    """A key struck that has a drum here; ``at`` in crotchets from the start of the file,
    ``ms`` in milliseconds."""

    at: float
    ms: float
    drum: Drum
    strength: int
    graces: int = 0
    touch: Touch = Touch.NORMAL


def gather_graces(strokes: Sequence[Stroke]) -> list[Stroke]:
    """The strokes in order, graces taken in by the stroke they lead to.

    Only drums played by hand have them: two quick kicks stay two kicks, and a cymbal is not
    flammed. Four and more in a row that are as near to each other are a roll.
    """
    by_surface: dict = {}
    for place, stroke in enumerate(strokes):
        if stroke.drum.row.family in (Family.DRUM, Family.TOM) and not stroke.drum.by_foot:
            by_surface.setdefault(stroke.drum.surface, []).append(place)
    taken: set[int] = set()
    graces: dict[int, int] = {}
    for places in by_surface.values():
        for first, last in _near_runs(strokes, places):
            run = places[first : last + 1]
            main, soft = strokes[run[-1]], [strokes[one] for one in run[:-1]]
            if len(soft) <= MOST_GRACES and all(
                one.strength <= SOFTER * main.strength for one in soft
            ):
                taken.update(run[:-1])
                graces[run[-1]] = len(soft)
    return [
        stroke._replace(graces=graces[place]) if place in graces else stroke
        for place, stroke in enumerate(strokes)
        if place not in taken
    ]


def take_graces(
    strokes: Sequence[Stroke], taken: Collection[str]
) -> tuple[list[Stroke], tuple[Choice, ...]]:
    """(the strokes with their graces taken in, unless a person takes each as it is; what there
    is to choose)."""
    gathered = gather_graces(strokes)
    if len(gathered) == len(strokes):
        return gathered, ()
    name = "soft strokes before louder ones"
    choice = Choice.of(name, ways_of(Soft), Soft.GRACES, taken)
    return gathered if choice.chosen == Soft.GRACES else list(strokes), (choice,)


def _near_runs(strokes: Sequence[Stroke], places: Sequence[int]) -> list[tuple[int, int]]:
    """(first, last) of the runs of two or more in ``places`` whose gaps are those of graces."""
    runs, first = [], 0
    for n in range(1, len(places) + 1):
        near = n < len(places) and (
            LEAST_GAP <= strokes[places[n]].ms - strokes[places[n - 1]].ms <= MOST_GAP
        )
        if not near:
            if n - 1 > first:
                runs.append((first, n - 1))
            first = n
    return runs
