"""The way of a player through the music: where they are at every moment, and how fast.

Decoded whole, as a bar pointer (place x pace, with jumps and silences at a price; Whiteley,
Cemgil and Godsill, "Bayesian modelling of temporal structure in musical audio", ISMIR 2006,
from memory): the best path by dynamic programming, in a beam. Who stops and goes on, starts
from the top or comes in late is found again, and where two ways fit alike the simpler one is
taken. The prices are the house's, set over the made-up players of the tests.
"""

from bisect import bisect_left
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import groupby
from statistics import median

from wren_ladder.drumming.take_sources.heard import Heard
from wren_ladder.drumming.takes.expected import Expected, ExpectedBar
from wren_ladder.drumming.takes.pairing import windows

# What is gained and paid, a stroke that is matched being 1.
FAR, MISSED, EXTRA = 0.25, 0.5, 0.3  # at the edge of its window; each
GO_ON, BAR_AGAIN, FROM_THE_TOP, ELSEWHERE, A_BAR = 2.5, 3.0, 3.5, 4.5, 0.1
COME_IN_LATE, ENDED_EARLY = 2.0, 1.5
SECOND_LATE = 0.5  # a second of lateness at the start
MOST_LATE = 8.0  # seconds that are paid for
IN_TIME = 0.3  # seconds: who comes in later, but where the music is by then

PACES = tuple(0.84 + 0.03 * n for n in range(12))  # seconds played for one that is asked
SLOWEST, FASTEST = 1.25, 0.8
FOLLOWS, BENDS = 0.6, 0.15  # how much of a beat's lateness is taken over, by place and by pace
BAD = 0.6  # of a beat's strokes: with fewer the player may be somewhere else
AHEAD = 10  # strokes that a place is tried by
FITS = 0.65  # of them
MOMENTS = 4  # at which the music may come in again
BEAM, WIDE_BEAM = 8, 40  # and while it is not settled yet where and how fast it began
SETTLED = 4.0  # seconds from the first stroke
PLAIN = 0.15  # of the strokes: with more missing it is asked whether they went on elsewhere
FEW = 3  # strokes behind the end that are nothing
LOOKS = 2  # ways of the beam that look for the player somewhere else
HOPELESS = 8.0  # behind the best
NOTHING = 1e-9
NEAR = 0.02  # of a pace
BUCKET = 0.19  # seconds in which ways are compared
TOGETHER = 0.03  # seconds: one moment
EARLY = 0.06  # seconds before a beat that still belong to it
ENDS = 3.0  # beats before the end of a recording that are its end
SHORTEST = 0.2  # seconds that a beat lasts at least


@dataclass(frozen=True, slots=True)
class Beat:
    """A beat of a bar at its turn: ``bar`` among all, ``place`` in its bar, ``number`` of the
    pass; ``asked``: (surface, seconds from the beat, window) of its strokes; ``ahead`` of the
    next ones from here on; ``ornaments`` how many graces and strokes of rolls come too."""

    at: float
    seconds: float
    bar: int
    place: int
    number: int
    strokes: tuple[Expected, ...]
    asked: tuple[tuple[object, float, float], ...]
    ahead: tuple[tuple[object, float, float], ...]
    ornaments: int


@dataclass(slots=True)
class Waypoint:
    """A beat on the way: begun at ``at`` seconds as it was heard, ``slope`` seconds played for
    one that is asked; ``until``: the stroke after which it was left, None where it was played
    to its end; ``jumped``: does a break lie before it?"""

    score: float
    beat: int
    at: float
    slope: float
    before: "Waypoint | None" = None
    jumped: bool = False
    until: float | None = None
    bad: bool = False


def surface(one: Expected | Heard):
    """An open and a closed hat are struck in one place."""
    return one.drum.surface if one.drum else None


def beats_of(bars: Sequence[ExpectedBar]) -> list[Beat]:
    windows_of, found, rows = _windows(bars), [], []
    for index, bar in enumerate(bars):
        for place, (begin, end) in enumerate(bar.beats):
            strokes = tuple(one for one in bar.strokes if begin <= one.at - bar.at + 1e-4 < end)
            rows.append((index, place, begin, end, strokes))
    every, first = [one for *_, strokes in rows for one in strokes], 0

    def asked(strokes: Sequence[Expected], at: float):
        return tuple((surface(one), one.at - at, windows_of[id(one)]) for one in strokes)

    for index, place, begin, end, strokes in rows:
        bar, at = bars[index], bars[index].at + begin
        found.append(
            Beat(
                at=at,
                seconds=end - begin,
                bar=index,
                place=place,
                number=bar.number,
                strokes=strokes,
                asked=asked(strokes, at),
                ahead=asked(every[first : first + AHEAD], at),
                ornaments=sum(begin <= one + 1e-4 < end for one in bar.ornaments),
            )
        )
        first += len(strokes)
    return found


def _windows(bars: Sequence[ExpectedBar]) -> dict[int, float]:
    by_surface = defaultdict(list)
    for bar in bars:
        for one in bar.strokes:
            by_surface[surface(one)].append(one)
    return {
        id(one): window
        for mine in by_surface.values()
        for one, window in zip(mine, windows([one.at for one in mine]), strict=True)
    }


def way(
    bars: Sequence[ExpectedBar], heard: Sequence[Heard]
) -> tuple[list[Beat], list[Waypoint]]:
    """The beats, and the best way through them; ``heard`` in time order."""
    beats = beats_of(bars)
    return beats, _Decoder(beats, heard).best() if heard and beats else []


class _Decoder:
    def __init__(self, beats: Sequence[Beat], heard: Sequence[Heard]) -> None:
        self.beats = beats
        self.all = [one.at for one in heard]
        self.heard = heard
        self.struck = [surface(one) for one in heard]
        self.times: dict[object, list[float]] = defaultdict(list)
        for where, at in zip(self.struck, self.all, strict=True):
            self.times[where].append(at)
        last = beats[-1]
        self.to_the_end = self.all[-1] > last.at - ENDS * last.seconds
        self.firsts: dict[int, int] = {}  # of each pass: its first beat
        for place, beat in enumerate(beats):
            self.firsts.setdefault(beat.number, place)
        self.bar_starts: dict[int, int] = {}
        for place, beat in enumerate(beats):
            self.bar_starts.setdefault(beat.bar, place)
        self.moment_of = list(self._moment_numbers())
        self.moments = [
            [place for place, _ in mine]
            for _, mine in groupby(enumerate(self.moment_of), key=lambda pair: pair[1])
        ]
        self.found: dict[tuple, list] = {}  # by moment and pace
        self.left: dict[tuple, float] = {}  # how good the best way was that jumped from a place
        alike = defaultdict(list)  # beats from which the music goes on in the same way
        for place, beat in enumerate(beats):
            if beat.asked:
                alike[tuple((where, round(at, 3)) for where, at, _ in beat.ahead)].append(place)
        self.alike = defaultdict(list)  # by what is struck first there
        for goes_on, places in alike.items():
            self.alike[goes_on[0][0]].append(places)
        self.buckets: dict[int, dict[tuple, Waypoint]] = defaultdict(dict)

    def _moment_numbers(self):
        number, last = -1, None
        for at in self.all:
            if last is None or at - last > TOGETHER:
                number, last = number + 1, at
            yield number

    def best(self) -> list[Waypoint]:
        if plain := self._plain():
            return plain
        settled = int((self.all[0] + SETTLED) / BUCKET)
        end: tuple[float, Waypoint | None] = (0.0, None)
        for start in self._starts():
            self._put(start)
        while self.buckets:
            number = min(self.buckets)
            mine = sorted(self.buckets.pop(number).values(), key=lambda one: -one.score)
            best = mine[0].score
            for rank, point in enumerate(mine[: BEAM if number > settled else WIDE_BEAM]):
                if point.score < best - HOPELESS:
                    break
                looks = rank < LOOKS and point.score > best - HOPELESS / 2
                score, there = self._on(point, number, looks)
                if end[1] is None or score > end[0] + NOTHING:
                    end = score, there
        found: list[Waypoint] = []
        before = end[1]
        while before is not None:
            found.append(before)
            before = before.before
        return found[::-1]

    def _put(self, point: Waypoint, least: int = -(10**9)) -> None:
        bucket = self.buckets[max(least, int(point.at / BUCKET))]
        key = (point.beat, round(point.at / TOGETHER), round(point.slope / NEAR))
        there = bucket.get(key)
        if there is None or point.score > there.score:
            bucket[key] = point

    def _starts(self):
        """At the top in time, and wherever the first strokes may be."""
        yield Waypoint(0.0, 0, 0.0, 1.0)
        for _, beat, at, slope in self._entries(0, 0, PACES):
            late = abs(at - self.beats[beat].at)
            price = SECOND_LATE * min(late, MOST_LATE)
            if beat:
                price += COME_IN_LATE * (1 if late < IN_TIME else 2)
            skipped = bisect_left(self.all, at - EARLY)
            yield Waypoint(-price - EXTRA * skipped, beat, at, slope)

    def _plain(self) -> list[Waypoint]:
        """The way of who plays from the top to the end as it is written; empty where there is
        anything odd in it."""
        found, slips = [Waypoint(0.0, 0, self._late(), 1.0)], 0
        while found[-1].beat < len(self.beats):
            there, _, odd, missed = self._played(found[-1])
            slips += missed
            if odd or slips > PLAIN * len(self.all):
                return []
            found.append(there)
        left = len(self.all) - bisect_left(self.all, found[-1].at - EARLY)
        return found if left < FEW else []

    def _late(self) -> float:
        """How late the first stroke is."""
        first = next((beat for beat in self.beats if beat.asked), None)
        if first is None:
            return 0.0
        due = first.at + first.asked[0][1]
        off = min((at - due for at in self.all[:MOMENTS]), key=abs)
        return off if abs(off) < first.seconds / 4 else 0.0

    def _played(self, point: Waypoint):
        """(the next beat, when the last stroke of this one came, is there anything odd in it,
        how many strokes are missing)."""
        beat = self.beats[point.beat]
        offs, last = self._matched(beat.asked, point)
        span = beat.seconds * point.slope
        low = bisect_left(self.all, point.at - EARLY)
        high = bisect_left(self.all, point.at + span - EARLY)
        extra = max(0, high - low - len(offs) - beat.ornaments)
        missed = len(beat.asked) - len(offs)
        bad = bool(beat.asked) and len(offs) < BAD * len(beat.asked)
        off = median(one for one, _ in offs) if offs else 0.0
        slope = point.slope * (1 + BENDS * off / max(span, SHORTEST))
        there = Waypoint(
            point.score + _gained(offs) - MISSED * missed - EXTRA * extra,
            point.beat + 1,
            point.at + span + FOLLOWS * off,
            min(SLOWEST, max(FASTEST, slope)),
            point,
            bad=bad,
        )
        odd = bad or extra > 1 + beat.ornaments or (not beat.asked and point.bad)
        return there, last if offs else None, odd, missed

    def _on(self, point: Waypoint, bucket: int, looks: bool):
        """Put the ways on from here where they are compared; (what it is worth to have ended
        behind this beat, the next one)."""
        there, last, odd, missed = self._played(point)
        if looks and odd:
            self._jumps(point, point.score, None, point.at - EARLY, bucket)
            if last is not None:
                score = there.score + MISSED * missed
                self._jumps(point, score, last, last + TOGETHER, bucket)
        over = there.beat >= len(self.beats)
        if not over:
            self._put(there, bucket + 1)
        left = len(self.all) - bisect_left(self.all, there.at - EARLY)
        stopped = ENDED_EARLY if not over and not self.to_the_end else 0.0
        return there.score - EXTRA * left - stopped, there

    def _matched(self, asked, point: Waypoint):
        """((off, window) of the strokes that are there, when the last of them was heard)."""
        offs, last = [], point.at
        begins, slope, by_surface = point.at, point.slope, self.times
        for where, seconds, window in asked:
            times = by_surface.get(where)
            if times is None:
                continue
            want = begins + slope * seconds
            place, many = bisect_left(times, want - window), len(times)
            if place == many:
                continue
            off = times[place] - want
            if off > window:
                continue
            while off < 0 and place + 1 < many and times[place + 1] - want < -off:
                place += 1
                off = times[place] - want
            offs.append((off, window))
            if want + off > last:
                last = want + off
        return offs, last

    def _jumps(
        self, point: Waypoint, score: float, until: float | None, since: float, bucket: int
    ) -> None:
        """Where the music may come in again after ``since``, each at its price."""
        here = point.beat
        first = bisect_left(self.all, since)
        if first >= len(self.all):
            return
        number = self.moment_of[first]
        key = (here, number, until is None)
        if score <= self.left.get(key, score - 1):
            return  # a better way has left from here
        self.left[key] = score
        kinds: dict[object, int] = defaultdict(int)
        paces = (point.slope,) if abs(point.slope - 1) < NEAR else (point.slope, 1.0)
        entries = self._entries(number, self.beats[here].number, paces)
        there = {beat: self._kind(here, beat) for _, beat, _, _ in entries}
        prices = {beat: self._price(here, beat, kind) for beat, kind in there.items()}
        priced = sorted(
            (prices[beat] - fit, beat, at, slope) for fit, beat, at, slope in entries
        )
        left = point.before if until is None else replace(point, until=until)
        for _, beat, at, slope in priced:
            kind = there[beat]
            kinds[kind] += 1
            if kinds[kind] > (2 if kind else 4):
                continue
            skipped = bisect_left(self.all, at - EARLY) - first
            price = prices[beat] + EXTRA * max(0, skipped)
            self._put(Waypoint(score - price, beat, at, slope, left, jumped=True), bucket + 1)

    def _kind(self, here: int, there: int) -> str:
        if there in (here, here + 1):
            return "on"
        if there == self.firsts[self.beats[there].number]:
            return "top"
        if there == self.bar_starts[self.beats[min(here, len(self.beats) - 1)].bar]:
            return "bar"
        return ""

    def _price(self, here: int, there: int, kind: str) -> float:
        if kind == "on":
            return GO_ON
        if kind == "bar":
            return BAR_AGAIN
        if kind == "top":
            return FROM_THE_TOP + A_BAR * (self.beats[there].number != self.beats[here].number)
        bars = abs(self.beats[there].bar - self.beats[here].bar)
        return (BAR_AGAIN if self.beats[there].place == 0 else ELSEWHERE) + A_BAR * bars + 0.5

    def _entries(self, moment: int, number: int, paces):
        """(fit, beat, where it begins, slope) of the places of this pass and the next whose
        next strokes are heard from one of some moments on."""
        low, high = self.firsts[number], self.firsts.get(number + 2, len(self.beats))
        return [
            (fit, beat, at, slope)
            for each in range(moment, min(moment + MOMENTS, len(self.moments)))
            for pace in paces
            for fit, beats, at, slope in self._at_moment(each, pace)
            for beat in beats[bisect_left(beats, low) : bisect_left(beats, high)]
        ]

    def _at_moment(self, moment: int, pace: float):
        """Of all that go on alike, once: (fit, the beats, where they begin, slope)."""
        key = (moment, round(pace, 2))
        if key not in self.found:
            struck = {self.struck[place]: self.all[place] for place in self.moments[moment]}
            tried = (
                self._tried(beats, at, key[1])
                for where, at in struck.items()
                for beats in self.alike.get(where, ())
            )
            self.found[key] = [one for one in tried if one]
        return self.found[key]

    def _tried(self, beats: Sequence[int], at: float, slope: float):
        """May their first stroke be what was struck then?"""
        ahead = self.beats[beats[0]].ahead
        _, seconds, _ = ahead[0]
        start = Waypoint(0.0, beats[0], at - slope * seconds, slope)
        for few in (ahead[2:4], ahead[: AHEAD // 2]):
            if len(self._matched(few, start)[0]) < FITS * len(few):
                return None
        offs, _ = self._matched(ahead, start)
        if len(offs) < FITS * len(ahead):
            return None
        fit = _gained(offs) - MISSED * (len(ahead) - len(offs))
        return fit, beats, start.at, slope


def _gained(offs: Sequence[tuple[float, float]]) -> float:
    """By strokes that are there: (seconds off, window) of each."""
    return sum(1 - FAR * abs(off) / window for off, window in offs)
