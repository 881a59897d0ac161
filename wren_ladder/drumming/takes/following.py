"""Following a player through a take: what was played of what is written, and what became of
the rest.

A late start, a tempo that is not held, a pause, a bar that is left out or played again, a start
from the top and an early end are found as what they are, not as a hundred misses.
"""

from bisect import bisect_left, bisect_right
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from statistics import median

from wren_ladder.drumming.take_sources.heard import Heard
from wren_ladder.drumming.takes.expected import Expected, ExpectedBar
from wren_ladder.drumming.takes.pairing import pairs, windows
from wren_ladder.drumming.takes.way import Beat, Waypoint, surface, way
from wren_ladder.drumming.wording import Coded

SURE = 2  # bars whose lateness says how late the beginning was
OFF_BEAT = 0.2  # of a beat: further from one is no whole beat
WRONG_WINDOW = 0.06  # seconds in which another drum is the wrong one, not two slips
PAUSE = 0.5  # of a beat that nothing comes, before it is a pause
BEFORE = 0.1  # seconds before the first stroke that belong to it
ENDS = 1.0  # of a bar: who plays until here has played to the end of the recording


@dataclass(frozen=True, slots=True)
class Matched:
    """A stroke that was played: ``off`` is how late it came, in seconds, as it was heard;
    ``run`` counts the stretches between the breaks, from 0."""

    expected: Expected
    heard: Heard
    run: int = 0

    @property
    def off(self) -> float:
        return self.heard.at - self.expected.at


class BreakKind(Coded):
    PAUSED = "paused", "stopped and went on"
    AGAIN = "again", "a bar was played again"
    FROM_THE_TOP = "from-the-top", "from the top again"
    LEFT_OUT = "left-out", "a bar was left out"
    CAME_IN = "came-in", "came in later"


@dataclass(frozen=True, slots=True)
class Break:
    """The player was in the bar ``left`` and went on in ``to`` (of the bars of all passes in
    turn), ``seconds`` later than they would have without it, ``at`` seconds as it was heard."""

    kind: BreakKind
    left: int
    to: int
    seconds: float
    at: float


@dataclass(frozen=True, slots=True)
class Followed:
    """What became of every stroke. ``lags`` are how late each bar was as a whole, None for one
    that was not played; ``dropped`` those before the last that were not; ``stopped`` the first
    bar behind the end of what was played. ``extra_at``: for each extra stroke where in the
    music it came, in seconds from the start of the first pass."""

    matched: tuple[Matched, ...]
    missed: tuple[Expected, ...]
    wrong: tuple[Matched, ...]  # in time, on another drum
    extra: tuple[Heard, ...]
    extra_at: tuple[float, ...]
    lags: tuple[float | None, ...]
    dropped: tuple[int, ...]
    breaks: tuple[Break, ...]
    reached: int  # bars, up to the last one that was played
    stopped: int | None
    began: float  # when the first bar that was played should have been heard


def follow(bars: Sequence[ExpectedBar], heard: Sequence[Heard]) -> Followed:
    """``heard`` in any order."""
    every = sorted(heard, key=lambda one: (one.at, one.drum or ""))
    beats, points = way(bars, every)
    return _Followed(bars, beats, points, every).found()


@dataclass(frozen=True, slots=True)
class _Run:
    """A stretch without a break: the strokes that it asks for, when each should be heard, and
    how the time that was heard goes back into that of the music."""

    points: tuple[Waypoint, ...]
    starts: tuple[float, ...]  # when each of them begins
    asked: tuple[Expected, ...]
    due: tuple[float, ...]

    @property
    def begins(self) -> float:
        return self.starts[0]

    def place(self, beats: Sequence[Beat], at: float) -> float:
        point = self.points[max(0, bisect_right(self.starts, at) - 1)]
        return beats[point.beat].at + (at - point.at) / point.slope


def without(followed: Followed, some: Iterable[Heard]) -> Followed:
    """Without some of the strokes that nobody asked for."""
    gone = {id(one) for one in some}
    if not gone:
        return followed
    left = [
        (one, at)
        for one, at in zip(followed.extra, followed.extra_at, strict=True)
        if id(one) not in gone
    ]
    return replace(
        followed, extra=tuple(one for one, _ in left), extra_at=tuple(at for _, at in left)
    )


def from_where_it_began(bars: Sequence[ExpectedBar], heard: Sequence[Heard]) -> Followed:
    """Of a recording that may begin with anything, a count say: that is none of the take."""
    followed = follow(bars, heard)
    counted = next((one for one in followed.breaks if one.left == one.to == 0), None)
    if counted:
        followed = follow(bars, [one for one in heard if one.at > counted.at - BEFORE])
    return without(followed, (o for o in followed.extra if o.at < followed.began - BEFORE))


class _Followed:
    def __init__(self, bars, beats, points, heard) -> None:
        self.bars, self.beats, self.heard = bars, beats, heard
        # The last one only says where it ended.
        self.end = points[-1].beat if points else 0
        self.points = points[:-1]
        self.runs = list(self._runs())

    def _runs(self):
        mine: list[Waypoint] = []
        for point in self.points:
            if point.jumped and mine:
                yield self._run(mine)
                mine = []
            mine.append(point)
        if mine:
            yield self._run(mine)

    def _run(self, points: list[Waypoint]) -> _Run:
        asked, due = [], []
        for point in points:
            beat = self.beats[point.beat]
            for one in beat.strokes:
                at = point.at + point.slope * (one.at - beat.at)
                if point.until is None or at <= point.until + 1e-6:
                    asked.append(one)
                    due.append(at)
        starts = tuple(point.at for point in points)
        return _Run(tuple(points), starts, tuple(asked), tuple(due))

    def found(self) -> Followed:
        matched, missed = self._matched()
        used = {id(one.heard) for one in matched}
        extra = [one for one in self.heard if id(one) not in used]
        wrong, missed, extra = self._wrong(missed, extra)
        played = {self.beats[point.beat].bar for point in self.points}
        last = max(played, default=-1)
        breaks = tuple(self._breaks())
        return Followed(
            matched=tuple(sorted(matched, key=lambda one: (one.expected.at, one.heard.at))),
            missed=tuple(one for one, _ in missed),
            wrong=tuple(wrong),
            extra=tuple(extra),
            extra_at=tuple(self._place(one.at) for one in extra),
            lags=self._lags(matched),
            dropped=tuple(bar for bar in range(last) if bar not in played),
            breaks=breaks,
            reached=last + 1,
            stopped=self._stopped(last, breaks),
            began=self.points[0].at if self.points else 0.0,
        )

    def _matched(self):
        """(matched, (missed, when it should have been heard)); a stroke is heard once."""
        matched, missed, used = [], [], set()
        for number, run in enumerate(self.runs):
            ends = self.runs[number + 1].begins if number + 1 < len(self.runs) else None
            asked = defaultdict(list)
            for one, at in zip(run.asked, run.due, strict=True):
                asked[surface(one)].append((at, one))
            there = defaultdict(list)
            for one in self.heard:
                if id(one) not in used and (ends is None or one.at < ends - 1e-6):
                    there[surface(one)].append(one)
            for where, mine in asked.items():
                at = [due for due, _ in mine]
                near = there[where]
                found = pairs(at, [one.at for one in near], windows(at))
                matched += [Matched(mine[one][1], near[other], number) for one, other in found]
                used |= {id(near[other]) for _, other in found}
                known = {one for one, _ in found}
                missed += [
                    (one, due) for place, (due, one) in enumerate(mine) if place not in known
                ]
        known = {id(one.expected) for one in matched}  # in another run
        return matched, [(one, due) for one, due in missed if id(one) not in known]

    def _place(self, at: float) -> float:
        run = None
        for one in self.runs:
            if run is None or one.begins <= at + 0.1:
                run = one
        return run.place(self.beats, at) if run else at

    def _lags(self, matched) -> tuple[float | None, ...]:
        offs = defaultdict(list)
        for one in matched:
            offs[one.expected.bar].append(one.off)
        played = {self.beats[point.beat].bar: point for point in reversed(self.points)}
        return tuple(
            median(offs[bar])
            if bar in offs
            else played[bar].at - self.beats[played[bar].beat].at
            if bar in played
            else None
            for bar in range(len(self.bars))
        )

    def _breaks(self):
        if self.points and self.points[0].beat > 0:
            bar = self.beats[self.points[0].beat].bar
            if bar:
                yield Break(BreakKind.CAME_IN, 0, bar, self.points[0].at, self.points[0].at)
        for before, after in pairwise(self.runs):
            last, first = before.points[-1], after.points[0]
            there = self.beats[first.beat]
            here = self.beats[last.beat]
            whole = last.until is None
            lost = first.at - last.at - last.slope * (there.at - here.at)
            at = min(last.beat + whole, len(self.beats) - 1)
            kind = self._kind(at, first.beat)
            if kind is BreakKind.PAUSED and there.place == 0 and first.beat == last.beat:
                kind = BreakKind.AGAIN  # its first beat had been played
            if kind is BreakKind.PAUSED and lost < PAUSE * there.seconds:
                continue
            yield Break(kind, self.beats[at].bar, there.bar, max(0.0, lost), first.at)

    def _kind(self, here: int, there: int) -> BreakKind:
        one, other = self.beats[here], self.beats[there]
        if there > here:
            whole = len(self.bars[one.bar].beats)
            return BreakKind.LEFT_OUT if there - here >= whole else BreakKind.PAUSED
        firsts = other.place == 0 and self.bars[other.bar].turn == 0
        passes = len({bar.turn for bar in self.bars}) > 1
        if firsts and passes and there < here:
            return BreakKind.FROM_THE_TOP
        if other.bar < one.bar and there < here - 1:
            return BreakKind.AGAIN
        if other.place == 0 and one.place > 0 and other.bar == one.bar:
            return BreakKind.AGAIN
        return BreakKind.PAUSED

    def _stopped(self, last: int, breaks: Sequence[Break]) -> int | None:
        """Who was interrupted and plays until the recording ends has not stopped."""
        over = self.end >= len(self.beats) or last >= len(self.bars) - 1
        if over or not self.heard:
            return None if over else 0
        end = self.bars[-1]
        late = self.heard[-1].at > end.at + end.seconds - ENDS * end.seconds
        interrupted = any(one.seconds > 0 for one in breaks)
        return None if late and interrupted else last + 1

    def _wrong(self, missed, extra: list[Heard]):
        """A stroke that was missed beside one on another drum in its time is one slip."""
        wrong, left, taken = [], [], set()
        times = [one.at for one in extra]
        for one, at in missed:
            low, high = (
                bisect_left(times, at - WRONG_WINDOW),
                bisect_right(times, at + WRONG_WINDOW),
            )
            near = [place for place in range(low, high) if place not in taken]
            if not near or one.drum is None:
                left.append((one, at))
                continue
            place = min(near, key=lambda place: abs(times[place] - at))
            taken.add(place)
            wrong.append(Matched(one, extra[place]))
        return wrong, left, [one for place, one in enumerate(extra) if place not in taken]


def beats_off(followed: Followed, beat: float) -> int:
    """How many whole beats late the beginning was; 0 where it was not."""
    first = [one.off for one in followed.matched if not one.run and one.expected.bar < SURE]
    late = median(first) / beat if first else 0.0
    return round(late) if abs(late - round(late)) <= OFF_BEAT else 0
