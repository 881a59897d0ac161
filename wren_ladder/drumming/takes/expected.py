"""What a take should have: the onsets of a performance, pass after pass, as it is heard.

The same values sound, are written as MIDI and are judged.
"""

from bisect import bisect_left
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import groupby, pairwise

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.performance import Onset, OnsetKind, Performance
from wren_ladder.drumming.performance.onset import BarSpan
from wren_ladder.drumming.take_sources.heard import Source

SHORTEST = 0.2  # seconds of a beat by which a player is followed
TOGETHER = 0.001  # seconds: written as one moment


@dataclass(frozen=True, slots=True)
class Expected:
    """One main stroke, or for a source that knows no drums one moment; ``at`` in seconds from
    where the first pass starts. ``onsets`` are those of the performance that it stands for."""

    at: float
    drum: Drum | None
    limb: Limb | None  # None where several strike, or nobody is known
    onsets: tuple[Onset, ...]
    number: int  # of the pass, from 0
    bar: int  # of the bars of all passes in turn, from 0

    @property
    def onset(self) -> Onset:
        return self.onsets[0]


@dataclass(frozen=True, slots=True)
class ExpectedBar:
    """A bar at its turn: where it begins and what it should have. ``beats``: (from, to) in
    seconds from there; ``ornaments``: when graces and strokes of rolls come."""

    at: float
    seconds: float
    number: int  # of the pass
    turn: int  # within the pass
    strokes: tuple[Expected, ...]
    beats: tuple[tuple[float, float], ...]
    ornaments: tuple[float, ...]


def expected_bars(
    performance: Performance, passes: int, source: Source
) -> tuple[ExpectedBar, ...]:
    """The bars of so many passes in turn; graces and the inside of rolls are asked of their
    main strokes, not by themselves. Empty bars between passes last, and have no strokes."""
    mains = [one for one in performance.onsets if one.kind is OnsetKind.MAIN]
    others = defaultdict(list)
    for one in performance.onsets:
        if one.kind is not OnsetKind.MAIN:
            others[one.turn].append(one.at - performance.bars[one.turn].at)
    clicks = [one.at for one in performance.clicks if not one.counted_in]
    beats = [_beats(clicks, span) for span in performance.bars]
    by_turn = {
        turn: list(onsets) for turn, onsets in groupby(mains, key=lambda onset: onset.turn)
    }
    found: list[ExpectedBar] = []
    for number in range(passes):
        start = number * performance.seconds
        for turn, span in enumerate(performance.bars):
            bar = len(found)
            moments = _moments(by_turn.get(turn, ()), source.names_drums)
            strokes = tuple(
                Expected(start + onsets[0].at, drum, limb, onsets, number, bar)
                for drum, limb, onsets in moments
            )
            found.append(
                ExpectedBar(
                    start + span.at, span.seconds, number, turn, strokes, beats[turn],
                    tuple(others[turn]),
                )
            )  # fmt: skip
    return tuple(found)


def _beats(clicks: Sequence[float], span: BarSpan) -> tuple[tuple[float, float], ...]:
    """(from, to) of each, by the clicks; one too short to be told goes with the next."""
    low, high = (bisect_left(clicks, at) for at in (span.at, span.at + span.seconds))
    starts = [0.0]
    for at in (click - span.at for click in clicks[low:high]):
        if starts[-1] + SHORTEST <= at <= span.seconds - SHORTEST:
            starts.append(at)
    return tuple(pairwise([*starts, span.seconds]))


def _moments(onsets: Sequence[Onset], named: bool):
    """(drum, limb, onsets) of every stroke, or of every moment where drums have no names."""
    if named:
        return [(one.drum, one.limb, (one,)) for one in onsets]
    found: list[list[Onset]] = []
    for one in onsets:
        if found and one.at - found[-1][0].at < TOGETHER:
            found[-1].append(one)
        else:
            found.append([one])
    return [(None, None, tuple(each)) for each in found]
