"""What is soft and what is loud, for each drum by itself: two or three levels only where they
lie clearly apart; one level is plain.

Somebody who plays by hand strikes nothing twice alike; a fixed limit would part strokes that
are meant to be the same. Common practice, no source; the limits are the house's.
"""

from collections import Counter, defaultdict
from collections.abc import Collection, Sequence
from itertools import accumulate, pairwise
from math import sqrt
from statistics import fmean, pstdev

from quicktions import Fraction

from wren_ladder.drumming.chart import STRENGTHS, Drum, Family, Touch
from wren_ladder.drumming.notation.midi.graces import Stroke
from wren_ladder.drumming.notation.reading import Choice, ways_of
from wren_ladder.drumming.wording import Coded

GHOST_BELOW, ACCENT_FROM, STRONG_FROM = 50, 100, 118  # of a strength up to 127
FEW = 6  # strokes of a drum, which show no habit
APART = 4.5  # standard deviations between two levels; a single one parted in two has 3.5
FEW_BARS, HABIT = 4, 0.7  # bars, and the share of them, that make a habit
FAR, LEAST_SPREAD = 3.5, 4.0  # deviations from the others of a place; the least of one
SOME, A_SHARE, THIRD_APART = 4, 5, 5.5  # strokes of a third level; a fifth; how far it lies
LEAST_APART = 18  # of the strength
MUCH_SOFTER = 0.6  # of the louder level: a ghost beside it, not a plain stroke beside accents
MOST_ACCENTS = 0.6  # of a drum's strokes
HOUSE = frozenset(STRENGTHS.values())
MOSTLY = 0.8  # of the strokes of a file that this house has written


class Loudness(Coded):
    """How a file's strengths are read; ``LEVELS`` unless a person chooses another way."""

    LEVELS = "levels", "read, where soft and loud lie apart"
    LIMITS = "limits", f"ghosts below {GHOST_BELOW}, accents from {ACCENT_FROM}"
    PLAIN = "plain", "not read: all strokes alike"


USUAL = Loudness.LEVELS
Bounds = tuple[tuple[int, Touch], ...]  # (from this strength on, the touch), rising
LIMITS: Bounds = (
    (0, Touch.GHOST),
    (GHOST_BELOW, Touch.NORMAL),
    (ACCENT_FROM, Touch.ACCENT),
    (STRONG_FROM, Touch.STRONG),
)


def touches(strokes: Sequence[Stroke], how: Loudness = USUAL) -> list[Touch]:
    """The touch of each stroke, in their order."""
    if how is Loudness.PLAIN:
        return [Touch.NORMAL for _ in strokes]
    if how is Loudness.LIMITS or _written_here(strokes):
        return [_touch(stroke.strength, LIMITS) for stroke in strokes]
    of_drum: dict[Drum, list[int]] = defaultdict(list)
    for stroke in strokes:
        of_drum[stroke.drum].append(stroke.strength)
    bounds = {drum: _bounds(drum, sorted(mine)) for drum, mine in of_drum.items()}
    return [_touch(stroke.strength, bounds[stroke.drum]) for stroke in strokes]


def read_loudness(
    strokes: Sequence[Stroke], taken: Collection[str]
) -> tuple[list[Stroke], Choice]:
    """(the strokes with their touches, how they were read and could be)."""
    choice = Choice.of("loudness", ways_of(Loudness), USUAL, taken)
    touched = zip(strokes, touches(strokes, Loudness(choice.chosen)), strict=True)
    return [one._replace(touch=touch) for one, touch in touched], choice


def by_habit(placed: Sequence[tuple[int, Fraction, Stroke]]) -> list[tuple]:
    """(bar, place in it, stroke): what one bar of many has otherwise at a place is the habit of
    the piece, unless its strength lies far from all the others there."""
    at_place: dict[tuple[Fraction, Drum], list[Stroke]] = defaultdict(list)
    for _, at, stroke in placed:
        at_place[at, stroke.drum].append(stroke)
    habits: dict[tuple[Fraction, Drum], tuple[Touch, float, float]] = {}
    for place, mine in at_place.items():
        touch, many = Counter(one.touch for one in mine).most_common(1)[0]
        if len(mine) >= FEW_BARS and HABIT * len(mine) <= many < len(mine):
            usual = [one.strength for one in mine if one.touch is touch]
            far = FAR * max(LEAST_SPREAD, pstdev(usual))
            habits[place] = touch, fmean(usual), far
    return [
        (bar, at, _as_usual(stroke, habits.get((at, stroke.drum))))
        for bar, at, stroke in placed
    ]


def _as_usual(stroke: Stroke, habit: tuple[Touch, float, float] | None) -> Stroke:
    if habit is None or abs(stroke.strength - habit[1]) > habit[2]:
        return stroke
    return stroke._replace(touch=habit[0])


def _written_here(strokes: Sequence[Stroke]) -> bool:
    """The strengths are this house's own, and more than one of them."""
    mine = [one.strength for one in strokes if one.strength in HOUSE]
    return len(set(mine)) > 1 and len(mine) >= MOSTLY * len(strokes)


def _touch(strength: int, bounds: Bounds) -> Touch:
    return [touch for least, touch in bounds if strength >= least][-1]


def _bounds(drum: Drum, strengths: Sequence[int]) -> Bounds:
    """By the levels of a drum's strengths, sorted."""
    if len(strengths) < FEW:
        return LIMITS if len(set(strengths)) > 1 else ((0, Touch.NORMAL),)
    levels = _levels(strengths)
    named = _named(drum, [fmean(level) for level in levels], [len(one) for one in levels])
    least = [0, *((low[-1] + high[0] + 1) // 2 for low, high in pairwise(levels))]
    return tuple(zip(least, named, strict=True))


def _levels(strengths: Sequence[int]) -> list[Sequence[int]]:
    """One to three groups of sorted strengths. A third one shows in some strokes, not in one or
    two that lie a little off."""
    cut = _cut(strengths)
    if cut is None:
        return [strengths]
    low, high = strengths[:cut], strengths[cut:]
    some = max(SOME, len(strengths) // A_SHARE)
    upper = _cut(high, some, THIRD_APART)
    if upper is not None:
        return [low, high[:upper], high[upper:]]
    lower = _cut(low, some, THIRD_APART)
    if lower is not None:
        return [low[:lower], low[lower:], high]
    return [low, high]


def _cut(strengths: Sequence[int], least: int = 1, far: float = APART) -> int | None:
    """Where two levels of ``least`` strokes each part that lie clearly apart: the cut that
    leaves both tightest."""
    sums = [0, *accumulate(strengths)]
    squares = [0, *accumulate(one * one for one in strengths)]
    many, best, where = len(strengths), 0.0, None

    def spread(first: int, last: int) -> float:
        mean = (sums[last] - sums[first]) / (last - first)
        square = (squares[last] - squares[first]) / (last - first)
        return sqrt(max(0.0, square - mean * mean))

    for cut in range(least, many - least + 1):
        if strengths[cut] == strengths[cut - 1]:
            continue
        between = (sums[many] - sums[cut]) / (many - cut) - sums[cut] / cut
        within = (spread(0, cut) * cut + spread(cut, many) * (many - cut)) / many
        apart = between / max(within, 1.0)
        if between >= LEAST_APART and apart >= far and apart > best:
            best, where = apart, cut
    return where


def _named(drum: Drum, means: Sequence[float], many: Sequence[int]) -> list[Touch]:
    """What each level is. Ghosts are for drums played by hand; of a cymbal or a foot the
    softer level is the plain one."""
    ghosted = drum.row.family in (Family.DRUM, Family.TOM) and not drum.by_foot
    loud = Touch.STRONG if means[-1] >= STRONG_FROM else Touch.ACCENT
    if len(means) == 1:
        return [Touch.NORMAL]
    few = many[-1] <= MOST_ACCENTS * sum(many)
    if len(means) == 3:
        soft = Touch.GHOST if ghosted else Touch.NORMAL
        return [soft, Touch.NORMAL, loud if few else Touch.NORMAL]
    if ghosted and means[0] < MUCH_SOFTER * means[1]:
        return [Touch.GHOST, Touch.NORMAL]
    return [Touch.NORMAL, loud if few else Touch.NORMAL]
