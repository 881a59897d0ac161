"""A recording beside the notes: which second of it each place of the music falls on.

Somebody says where some bars begin; between two of these the music runs evenly, measured in the
notes' own time, so that a printed change of tempo stays one.
"""

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from statistics import median

from wren_ladder.drumming.performance.onset import Performance

OTHER_PACE = 2.5  # times faster or slower than most is no playing, but a slip
MOST_SECONDS = 3600


class RecordingError(ValueError):
    """Which anchors contradict each other, in words."""


@dataclass(frozen=True, slots=True)
class Anchor:
    """The bar played as the ``turn``-th along the road, from 0, begins at ``second`` of the
    recording; the turn behind the last is the end."""

    turn: int
    second: float


@dataclass(frozen=True, slots=True)
class RecordedTime:
    """Where the anchors stand in the music (seconds of its performance) and in the recording;
    both rise strictly, and there are two or more."""

    played: tuple[float, ...]
    recorded: tuple[float, ...]

    def second(self, at: float) -> float:
        """Linear between two anchors; before and behind them as fast as beside."""
        place = bisect_right(self.played, at) - 1
        place = max(0, min(place, len(self.played) - 2))
        from_, to = self.played[place : place + 2]
        first, last = self.recorded[place : place + 2]
        return first + (at - from_) * (last - first) / (to - from_)


def recorded_time(anchors: Sequence[Anchor], performance: Performance) -> RecordedTime:
    """RecordingError where anchors contradict each other or are too few."""
    starts = [*(span.at for span in performance.bars), performance.seconds]
    known = sorted({(one.turn, one.second) for one in anchors})
    if len(known) < 2:
        said = "two places are needed: where bar 1 begins, and a tempo or a later bar"
        raise RecordingError(said)
    for turn, second in known:
        if not 0 <= turn < len(starts):
            raise RecordingError(f"the piece has {len(starts) - 1} bars along its road")
        if not 0 <= second <= MOST_SECONDS:
            raise RecordingError(f"{second:g} s is no place within an hour")
    for (turn, second), (after, later) in pairwise(known):
        if turn == after:
            raise RecordingError(
                f"bar {turn + 1} of the road cannot begin at both {second:g} and {later:g} s"
            )
        if later <= second:
            raise RecordingError(
                f"bar {after + 1} of the road ({later:g} s) cannot come before bar {turn + 1} "
                f"({second:g} s)"
            )
    played = tuple(starts[turn] for turn, _ in known)
    recorded = tuple(second for _, second in known)
    _check_pace(known, played, recorded)
    return RecordedTime(played, recorded)


def _check_pace(known, played, recorded) -> None:
    paces = [
        (last - first) / (to - from_)
        for (from_, to), (first, last) in zip(pairwise(played), pairwise(recorded), strict=True)
    ]
    usual = median(paces)
    for ((turn, _), (after, _)), pace in zip(pairwise(known), paces, strict=True):
        if not usual / OTHER_PACE <= pace <= usual * OTHER_PACE:
            raise RecordingError(
                f"between bars {turn + 1} and {after + 1} of the road it would run at "
                f"{usual / pace:.1f} times the pace of the rest; tap these again"
            )


def from_the_first(second: float, pace: float, performance: Performance) -> tuple[Anchor, ...]:
    """Of a recording at one tempo: where bar 1 begins, and how many seconds of it a second of
    the performance lasts."""
    end = second + performance.seconds * pace
    return (Anchor(0, second), Anchor(len(performance.bars), end))
