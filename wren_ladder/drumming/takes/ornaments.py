"""Flams, drags, ruffs and rolls of a take: how far their notes are from one another."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from statistics import fmean, median, pstdev

from wren_ladder.drumming.chart import Drum, Grace, RollKind
from wren_ladder.drumming.performance import OnsetKind, Performance, PlayedBar
from wren_ladder.drumming.take_sources.heard import Heard
from wren_ladder.drumming.takes.figures import ENOUGH, Figure
from wren_ladder.drumming.takes.following import Matched
from wren_ladder.drumming.takes.limits import GRACES

BEFORE = 0.2  # seconds before a main stroke in which its graces are looked for
SLIPPED = 0.06  # seconds behind the stroke in which its own may still come
AFTER = 0.03  # seconds behind the end of a roll in which it may still go on
FEWEST = 3  # gaps between strokes that say how even a roll is


@dataclass(frozen=True, slots=True)
class Ornaments:
    """``gaps``: seconds from note to note of each kind of grace, its main stroke the last.
    ``bare``: how many strokes have no grace that is heard by itself, of how many that should
    have one; ``spoiled``: the passes in which they are not as they should be. ``rolls``: how
    much the time from stroke to stroke varies, as a share of it."""

    gaps: dict[Grace, Figure]
    bare: dict[Grace, tuple[int, int]]
    spoiled: frozenset[int]
    rolls: Figure | None


def ornaments(
    matched: Sequence[Matched],
    heard: Sequence[Heard],
    performance: Performance,
    played: Sequence[PlayedBar],
) -> Ornaments:
    """From the strokes that stand for no written one, drum by drum."""
    ends = _roll_ends(performance)
    mains = {id(one.heard) for one in matched}
    by_drum: dict[Drum, list[float]] = defaultdict(list)
    for stroke in sorted(heard, key=lambda stroke: stroke.at):
        if id(stroke) not in mains and stroke.drum:
            by_drum[stroke.drum].append(stroke.at)
    gaps, rolls, by_pass = defaultdict(list), [], defaultdict(list)
    for one in matched:
        onset = one.expected.onset
        hit = played[onset.turn].bar.hits[onset.hit]
        others = by_drum[one.heard.drum] if one.heard.drum else []
        if hit.grace is not Grace.NONE:
            # Of a closed one the grace may stand for the stroke: the last of them is it.
            around = [at for at in others if -BEFORE < at - one.heard.at < SLIPPED]
            struck = sorted([*around, one.heard.at])[-1 - hit.grace.notes :]
            notes = len(struck) - 1
            gap = (struck[-1] - struck[0]) / notes if 2 * notes >= hit.grace.notes else None
            by_pass[one.expected.number].append((hit.grace, gap))
            gaps[hit.grace].append(gap)
        if hit.roll and hit.roll.kind is not RollKind.BUZZ:
            rolls += _unevenness(one.heard.at, ends.get((onset.turn, onset.hit), 0.0), others)
    return Ornaments(
        {
            grace: Figure(median(mine), len(mine))
            for grace, found in gaps.items()
            if len(mine := [gap for gap in found if gap is not None]) >= ENOUGH
        },
        {grace: (found.count(None), len(found)) for grace, found in gaps.items()},
        frozenset(number for number, found in by_pass.items() if _is_spoiled(found)),
        Figure(fmean(rolls), len(rolls)) if len(rolls) >= ENOUGH else None,
    )


def _is_spoiled(found: Sequence[tuple[Grace, float | None]]) -> bool:
    """Are half of a pass's graces not there, or is the middle one too wide or closed?"""
    gaps = [gap for _, gap in found if gap is not None]
    bare = len(found) - len(gaps)
    if bare > 1 and 2 * bare > len(found):
        return True
    return len(gaps) >= ENOUGH and not GRACES[0] <= median(gaps) <= GRACES[1]


def _roll_ends(performance: Performance) -> dict[tuple[int, int], float]:
    """Seconds from the first to the last stroke of each roll, by its bar's turn and its hit."""
    starts, lasts = {}, {}
    for one in performance.onsets:
        if one.kind is OnsetKind.MAIN:
            starts[one.turn, one.hit] = one.at
        elif one.kind is OnsetKind.ROLL:
            lasts[one.turn, one.hit] = one.at
    return {key: at - starts[key] for key, at in lasts.items()}


def _unevenness(start: float, lasts: float, others: Sequence[float]) -> list[float]:
    """Of one roll: four strokes at least, or nothing can be said."""
    strokes = [start, *(at for at in others if start < at < start + lasts + AFTER)]
    apart = [after - before for before, after in pairwise(strokes)]
    return [pstdev(apart) / fmean(apart)] if len(apart) >= FEWEST else []
