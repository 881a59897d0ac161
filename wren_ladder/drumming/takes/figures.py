"""What can be measured of a take: for each limb how late and how even, two that should be one,
strength; every figure with its unit and the number of strokes it stands on.

How late a limb is, is told against the others (``lean``), after the player's own offset and
pace are taken off, bar by bar: a late start or a slow device makes nobody late.
"""

from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from statistics import fmean, median

from wren_ladder.drumming.chart import Drum, Touch
from wren_ladder.drumming.description.timekeeping import TIMEKEEPERS
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.performance import Performance
from wren_ladder.drumming.take_sources.heard import Source
from wren_ladder.drumming.takes.expected import Expected
from wren_ladder.drumming.takes.following import Followed, Matched
from wren_ladder.drumming.takes.pace import Pace, paced

ENOUGH = 4  # strokes that a figure stands on at least
QUARTERS = 4  # of a bar
NEARLY = 1e-6


@dataclass(frozen=True, slots=True)
class Figure:
    """A number of something, in seconds unless it says otherwise, from so many strokes."""

    value: float
    strokes: int


@dataclass(frozen=True, slots=True)
class LimbFigures:
    """``lean`` is how late the limb is against the rest, ``spread`` the standard deviation
    about that."""

    lean: Figure
    spread: Figure


@dataclass(frozen=True, slots=True)
class Figures:
    pace: Pace
    limbs: dict[Limb, LimbFigures]
    drums: dict[Drum, LimbFigures]
    residuals: tuple[tuple[Matched, float], ...]  # seconds late, offset and tempo taken off
    apart: dict[tuple[Limb, Limb], Figure]  # of two that strike at once: second less first
    inside: tuple[Figure, ...]  # of each quarter of a bar: how late against the whole bar
    contrast: dict[Limb, Figure]  # a hand's accents against its ghosts, as a ratio of strength
    loudness: dict[Limb, Figure]  # mean strength, 0 to 1
    balance: Figure | None  # the cymbals' strength against snare and kick, as a ratio


def measured(
    followed: Followed,
    performance: Performance,
    source: Source,
    aside: Callable[[Expected], bool] = lambda one: False,
) -> Figures:
    """Nothing is measured that the source cannot tell; what is ``aside`` does not say how late
    everything is (`pace.py`)."""
    pace, residuals = paced(followed.matched, aside)
    named = source.names_drums
    strong = source.tells_strength
    by_limb = _groups(residuals, lambda one: one.expected.limb)
    return Figures(
        pace=pace,
        limbs=_limbs(by_limb),
        drums=_limbs(_groups(residuals, lambda one: one.expected.drum)) if named else {},
        residuals=tuple(residuals),
        apart=_apart(residuals) if named else {},
        inside=_inside(residuals, performance),
        contrast=_contrast(followed.matched) if strong and named else {},
        loudness=_loudness(followed.matched) if strong and named else {},
        balance=_balance(followed.matched) if strong and named else None,
    )


def _groups(
    residuals: Iterable[tuple[Matched, float]], key: Callable[[Matched], object]
) -> dict[object, list[tuple[Matched, float]]]:
    found = defaultdict(list)
    for one, left in residuals:
        name = key(one)
        if name is not None:
            found[name].append((one, left))
    return found


def _limbs(groups) -> dict:
    """Each against what most of them play to; of two, against the other."""
    late = {
        name: [left for _, left in mine] for name, mine in groups.items() if len(mine) >= ENOUGH
    }
    leans = leaning({name: median(mine) for name, mine in late.items()})
    return {
        name: LimbFigures(
            Figure(fmean(mine) - median(mine) + leans[name], len(mine)),
            Figure(_deviation(mine), len(mine)),
        )
        for name, mine in late.items()
    }


def middle_limb(figures: Figures) -> float:
    """How late the middle one of the limbs is after all, in seconds: what the line through all
    strokes took from the others for one that is far off."""
    late = defaultdict(list)
    for one, left in figures.residuals:
        late[one.expected.limb].append(left)
    middles = [median(mine) for mine in late.values() if len(mine) >= ENOUGH]
    return median(middles) if len(middles) > 2 else 0.0


def leaning(late: Mapping) -> dict:
    """How late each is against the middle one of all; of two, against the other."""
    if len(late) == 2:
        (one, first), (other, second) = late.items()
        return {one: first - second, other: second - first}
    middle = median(late.values()) if late else 0.0
    return {name: mine - middle for name, mine in late.items()}


def _deviation(values: Sequence[float]) -> float:
    mean = fmean(values)
    return (sum((one - mean) ** 2 for one in values) / (len(values) - 1)) ** 0.5


def _apart(residuals) -> dict[tuple[Limb, Limb], Figure]:
    """How far two limbs are apart where the page has them together."""
    moments: dict[float, dict[Limb, float]] = defaultdict(dict)
    for one, left in residuals:
        if one.expected.limb is not None:
            moments[round(one.expected.at, 4)][one.expected.limb] = left
    gaps = defaultdict(list)
    order = list(Limb)
    for struck in moments.values():
        limbs = sorted(struck, key=order.index)
        for place, first in enumerate(limbs):
            for second in limbs[place + 1 :]:
                gaps[first, second].append(struck[second] - struck[first])
    return {
        pair: Figure(median(found), len(found))
        for pair, found in gaps.items()
        if len(found) >= ENOUGH
    }


def _strengths(matched) -> dict[Limb, list[tuple[Touch, float]]]:
    found = defaultdict(list)
    for one in matched:
        if one.expected.limb is not None and one.heard.strength:
            found[one.expected.limb].append((one.expected.onset.touch, one.heard.strength))
    return found


def _contrast(matched) -> dict[Limb, Figure]:
    found = {}
    for limb, strokes in _strengths(matched).items():
        ghosts = [strength for touch, strength in strokes if touch is Touch.GHOST]
        accents = [s for touch, s in strokes if touch in (Touch.ACCENT, Touch.STRONG)]
        if len(ghosts) >= ENOUGH and len(accents) >= ENOUGH:
            number = len(ghosts) + len(accents)
            found[limb] = Figure(fmean(accents) / fmean(ghosts), number)
    return found


def _loudness(matched) -> dict[Limb, Figure]:
    return {
        limb: Figure(fmean(strength for _, strength in strokes), len(strokes))
        for limb, strokes in _strengths(matched).items()
        if len(strokes) >= ENOUGH
    }


def _inside(residuals, performance: Performance) -> tuple[Figure, ...]:
    """Where in a bar it gets early or late; quarters that have too few strokes are left out
    with all the others, for they could not be compared."""
    quarters: list[list[float]] = [[] for _ in range(QUARTERS)]
    for one, left in residuals:
        span = performance.bars[one.expected.onset.turn]
        into = (one.expected.onset.at - span.at) / span.seconds
        quarters[min(QUARTERS - 1, int(QUARTERS * into + NEARLY))].append(left)
    if any(len(mine) < ENOUGH for mine in quarters):
        return ()
    whole = fmean(fmean(mine) for mine in quarters)
    return tuple(Figure(fmean(mine) - whole, len(mine)) for mine in quarters)


def _balance(matched) -> Figure | None:
    """Strokes without a mark only: an accent on a cymbal is meant to be heard."""
    cymbals, drums = [], []
    for one in matched:
        if one.expected.onset.touch is not Touch.NORMAL or not one.heard.strength:
            continue
        if one.expected.drum.surface in TIMEKEEPERS:
            cymbals.append(one.heard.strength)
        elif one.expected.drum in (Drum.SNARE, Drum.KICK):
            drums.append(one.heard.strength)
    if len(cymbals) < ENOUGH or len(drums) < ENOUGH:
        return None
    return Figure(fmean(cymbals) / fmean(drums), len(cymbals) + len(drums))
