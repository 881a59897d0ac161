"""Following a player through a take: bar by bar, wherever they are in time and in the music.

A late start, a tempo that is not quite held, a bar that is dropped or played again, an early
end and a whole beat off are found as what they are, not as a hundred misses.
"""

from bisect import bisect_left, bisect_right
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import median

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.takes.expected import Expected, ExpectedBar
from wren_ladder.drumming.takes.heard import Heard
from wren_ladder.drumming.takes.pairing import WIDEST, pairs, windows

MOST_GROWING = 0.06  # of a bar, from bar to bar
FEW = 3  # strokes that are enough to say how late a bar is
STARTS = 24  # heard strokes from which the start is looked for
LOST = 0.45  # of a bar's strokes: with fewer the player is somewhere else
FOUND = 0.7  # of them: with more they are found again
BARS_AWAY = 4  # how far they are looked for
SURE = 2  # bars that have to fit before a jump is believed
OFF_BEAT = 0.2  # of a beat: further from one is no whole beat
WRONG_WINDOW = 0.06  # seconds in which another drum is the wrong one, not two slips
NEAR_ZERO = 0.25  # of a bar's strokes: what a second of lateness counts at the start


@dataclass(frozen=True, slots=True)
class Matched:
    """A stroke that was played: ``off`` is how late it came, in seconds, as it was heard."""

    expected: Expected
    heard: Heard

    @property
    def off(self) -> float:
        return self.heard.at - self.expected.at


@dataclass(frozen=True, slots=True)
class Followed:
    """What became of every stroke. ``lags`` are how late each bar was as a whole, None for one
    that was dropped; ``again`` the bars that were played once more; ``stopped`` the first bar
    behind the end of what was played."""

    matched: tuple[Matched, ...]
    missed: tuple[Expected, ...]
    wrong: tuple[Matched, ...]  # in time, on another drum
    extra: tuple[Heard, ...]
    lags: tuple[float | None, ...]
    dropped: tuple[int, ...]
    again: tuple[int, ...]
    stopped: int | None


def follow(bars: Sequence[ExpectedBar], heard: Sequence[Heard]) -> Followed:
    """``heard`` in any order."""
    return _Walk(bars, heard).walked()


class _Heard:
    """The heard strokes of each drum in time, to be looked up."""

    def __init__(self, heard: Sequence[Heard]) -> None:
        self.all = sorted(heard, key=lambda one: (one.at, one.drum or ""))
        self.by_surface: dict[object, list[Heard]] = defaultdict(list)
        for one in self.all:
            self.by_surface[_surface(one.drum)].append(one)
        self.times = {
            surface: [one.at for one in strokes] for surface, strokes in self.by_surface.items()
        }

    def between(self, surface, low: float, high: float) -> list[Heard]:
        times = self.times.get(surface, [])
        return self.by_surface[surface][bisect_left(times, low) : bisect_right(times, high)]


class _Walk:
    def __init__(self, bars: Sequence[ExpectedBar], heard: Sequence[Heard]) -> None:
        self.bars = bars
        self.heard = _Heard(heard)
        self.matched: list[Matched] = []
        self.used: set[int] = set()
        self.lags: list[float | None] = [None] * len(bars)
        self.again: list[int] = []
        self.dropped: list[int] = []
        self.growing = 0.0  # seconds that a bar is later than the one before

    def walked(self) -> Followed:
        stopped = self._walk()
        known = {id(one.expected) for one in self.matched}
        missed = [
            one
            for place, bar in enumerate(self.bars)
            for one in bar.strokes
            if id(one) not in known
            and place not in self.dropped
            and (stopped is None or place < stopped)
        ]
        extra = [one for one in self.heard.all if id(one) not in self.used]
        wrong, missed, extra = self._wrong(missed, extra)
        return Followed(
            matched=tuple(sorted(self.matched, key=lambda one: one.expected.at)),
            missed=tuple(missed),
            wrong=tuple(wrong),
            extra=tuple(extra),
            lags=tuple(self.lags),
            dropped=tuple(self.dropped),
            again=tuple(self.again),
            stopped=stopped,
        )

    def _walk(self) -> int | None:
        """The bar from which on nothing was played, None where the end was reached."""
        if not self.heard.all:
            return 0
        lag, place = self._start(), 0
        while place < len(self.bars):
            found = self._in_bar(self.bars[place], lag)
            if self._share(place, found) < LOST and self.bars[place].strokes:
                if self._is_over(place, lag):
                    return place
                jump = self._jump(place, lag)
                if jump is not None:
                    kind, to, lag = jump
                    if kind == "dropped":
                        self.dropped += range(place, to)
                        place = to
                    else:
                        self.again += range(to, place)
                        self._take(range(to, place), lag)
                    continue
            lag = self._keep(place, found, lag)
            place += 1
        return None

    def _keep(self, place: int, found: list[Matched], lag: float) -> float:
        """How late the next bar will be: as late as this one, and on as fast as it grows."""
        self.matched += found
        self.used |= {id(one.heard) for one in found}
        if len(found) < FEW:
            self.lags[place] = lag
            return lag + self.growing
        here = median(one.off for one in found)
        most = MOST_GROWING * self.bars[place].seconds
        if place and self.lags[place - 1] is not None:
            grown = here - self.lags[place - 1]
            self.growing = max(-most, min(most, (self.growing + grown) / 2))
        self.lags[place] = here
        return here + self.growing

    def _take(self, places: range, lag: float) -> None:
        """Bars that were played once more: their strokes are no extras."""
        for place in places:
            self.used |= {id(one.heard) for one in self._in_bar(self.bars[place], lag)}

    def _in_bar(self, bar: ExpectedBar, lag: float) -> list[Matched]:
        by_surface: dict[object, list[Expected]] = defaultdict(list)
        for one in bar.strokes:
            by_surface[_surface(one.drum)].append(one)
        found = []
        for surface, strokes in by_surface.items():
            at = [one.at + lag for one in strokes]
            near = self.heard.between(surface, at[0] - WIDEST, at[-1] + WIDEST)
            near = [one for one in near if id(one) not in self.used]
            found += [
                Matched(strokes[one], near[other])
                for one, other in pairs(at, [stroke.at for stroke in near], windows(at))
            ]
        return found

    def _share(self, place: int, found: Sequence[Matched]) -> float:
        strokes = self.bars[place].strokes
        return len(found) / len(strokes) if strokes else 1.0

    def _fits(self, place: int, lag: float) -> float:
        """The share of some bars from ``place`` on that is there."""
        bars = [bar for bar in self.bars[place : place + SURE] if bar.strokes]
        if not bars:
            return 0.0
        here = sum(len(self._in_bar(bar, lag)) for bar in bars)
        return here / sum(len(bar.strokes) for bar in bars)

    def _start(self) -> float:
        """How late the first bar is: with the lag that most of the first strokes fit, and of
        these the nearest to none."""
        first = next((place for place, bar in enumerate(self.bars) if bar.strokes), 0)
        some = self.bars[first].strokes[:FEW]
        lags = {0.0} | {
            round(heard.at - one.at, 4)
            for one in some
            for heard in self.heard.all[:STARTS]
            if _surface(one.drum) == _surface(heard.drum)
        }
        return max(lags, key=lambda lag: (self._fits(first, lag) - NEAR_ZERO * abs(lag), -lag))

    def _is_over(self, place: int, lag: float) -> bool:
        """Is next to nothing heard from here on?"""
        left = self.bars[place].at + lag
        after = sum(1 for one in self.heard.all if one.at > left + WIDEST)
        return after < FEW

    def _jump(self, place: int, lag: float) -> tuple[str, int, float] | None:
        """Where the player is instead, and with which lag: the nearest that fits."""
        here = self.bars[place].at
        for away in range(1, BARS_AWAY + 1):
            on = place + away
            if on < len(self.bars):
                jumped = lag - (self.bars[on].at - here)
                if self._fits(on, jumped) >= FOUND:
                    return "dropped", on, jumped
            back = place - away
            if back >= 0:
                later = lag + (here - self.bars[back].at)
                if self._fits(place, later) >= FOUND and self._fits(back, later) >= FOUND:
                    return "again", back, later
        return None

    def _wrong(self, missed: list[Expected], extra: list[Heard]):
        """A stroke that was missed beside one on another drum in its time is one slip."""
        wrong, left, taken = [], [], set()
        times = [one.at for one in extra]
        for one in missed:
            lag = self.lags[one.bar] or 0.0
            at = one.at + lag
            low, high = (
                bisect_left(times, at - WRONG_WINDOW),
                bisect_right(times, at + WRONG_WINDOW),
            )
            near = [place for place in range(low, high) if place not in taken]
            if not near or one.drum is None:
                left.append(one)
                continue
            place = min(near, key=lambda place: abs(times[place] - at))
            taken.add(place)
            wrong.append(Matched(one, extra[place]))
        return wrong, left, [one for place, one in enumerate(extra) if place not in taken]


def _surface(drum: Drum | None):
    """An open and a closed hat are struck in one place."""
    return drum.surface if drum else None


def beats_off(followed: Followed, beat: float) -> int:
    """How many whole beats late the beginning was; 0 where it was not."""
    lags = [lag / beat for lag in followed.lags[:SURE] if lag is not None]
    if not lags or any(abs(lag - round(lag)) > OFF_BEAT for lag in lags):
        return 0
    return round(lags[0])
