"""Some bars performed: the one function that says what is heard, and when."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Tempo
from wren_ladder.drumming.chart.gradual import Gradual
from wren_ladder.drumming.chart.swing import STRAIGHT, Swing
from wren_ladder.drumming.counting import count_in as count_before
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.performance.clock import bar_seconds, crotchets, seconds
from wren_ladder.drumming.performance.onset import BarSpan, Click, Onset, OnsetKind, Performance
from wren_ladder.drumming.performance.strokes import (
    GRACE_STRENGTH,
    STRENGTH,
    grace_limbs,
    graces_before,
    roll_limbs,
    roll_strength,
    roll_strokes,
)

STEP = Fraction(1, 2)  # crotchets of one tempo in a rit. that is written as steps


@dataclass(frozen=True, slots=True)
class PlayedBar:
    """A bar at its turn: with whose hands, at which printed tempo, where in its piece it
    stands and which time it comes."""

    bar: Bar
    sticks: tuple[Stick, ...]
    tempo: Tempo
    index: int = 0
    time: int = 1
    swing: Swing = STRAIGHT
    graduals: tuple[Gradual, ...] = ()

    def sounds_at(self, at: Fraction) -> Fraction:
        """When a stroke written there sounds, in crotchets from where the bar starts."""
        offset = self.bar.count_offset
        return self.swing.sounds_at(at + offset) - offset


def played_along(
    bars: Sequence[tuple[Bar, tuple[Stick, ...]]],
    tempos: Sequence[Tempo],
    swings: Sequence[Swing],
    graduals: Sequence[tuple[Gradual, ...]],
    order: Iterable[int],
) -> tuple[PlayedBar, ...]:
    """The bars of a page in an order of their places, as the road has it; one that is not
    played that time is silent."""
    times: dict[int, int] = {}
    played = []
    for index in order:
        times[index] = times.get(index, 0) + 1
        bar, sticks = bars[index]
        if bar.times and not bar.times.plays(times[index]):
            sticks = ()
        where = (index, times[index], swings[index], graduals[index])
        played.append(PlayedBar(bar, sticks, tempos[index], *where))
    return tuple(played)


def perform(
    played: Sequence[PlayedBar],
    share: Fraction = Fraction(1),
    count_in: bool = False,
    empty_bars: int = 0,
) -> Performance:
    """Everything that is heard of some bars, played once at ``share`` of their tempos.

    Before them the count that the first bar calls for, if asked; behind them ``empty_bars``
    like the last one, of which only the clicks are heard.
    """
    walk = _Walk(share)
    for one in played:
        walk.play(one)
    for _ in range(empty_bars):
        walk.rest(played[-1])
    first = played[0]
    before, clicks = Fraction(0), []
    if count_in:
        counted = count_before(first.bar)
        before = counted.length
        clicks = [
            Click(seconds(at - before, first.tempo, share), at - before, not place, True)
            for place, at in enumerate(counted.clicks)
        ]
    return Performance(
        onsets=tuple(sorted(walk.onsets, key=lambda onset: (onset.at, onset.drum.page_order))),
        clicks=tuple(sorted([*clicks, *walk.clicks], key=lambda click: click.position)),
        seconds=walk.now,
        length=walk.position,
        before=seconds(before, first.tempo, share),
        before_length=before,
        tempos=tuple(walk.tempos),
        meters=tuple(walk.meters),
        swings=tuple(walk.swings[1:]),
        bars=tuple(walk.bars),
        share=share,
    )


def _bent(one: PlayedBar, start: Fraction) -> list[tuple[Fraction, Tempo]]:
    """The tempos of a rit. or an accel. in small steps, for what has no even change."""
    found = []
    for gradual in one.graduals:
        at, end = max(Fraction(0), gradual.start), min(gradual.end, one.bar.length)
        while at < end:
            half = min(STEP, end - at) / 2
            share = Fraction(gradual.share_at(at + half)).limit_denominator(1000)
            found.append((start + at, one.tempo.scaled(share)))
            at += STEP
        found.append((start + end, one.tempo))
    return found


class _Walk:
    """Plays bar after bar, and knows where it is in seconds and in crotchets."""

    def __init__(self, share: Fraction) -> None:
        self.share = share
        self.now = 0.0
        self.position = Fraction(0)
        self.struck: list[tuple[Fraction, float]] = []  # when hands struck, in order
        self.onsets: list[Onset] = []
        self.clicks: list[Click] = []
        self.tempos: list[tuple[Fraction, Tempo]] = []
        self.meters: list = []
        self.swings: list[tuple[Fraction, Swing]] = [(Fraction(0), STRAIGHT)]
        self.bars: list[BarSpan] = []

    def play(self, one: PlayedBar) -> None:
        self._begin(one)
        for place, stick in enumerate(one.sticks):
            self._strike(stick, one, place)
        lasts = self._seconds(one.bar.length, one)
        self.bars.append(
            BarSpan(self.now, lasts, self.position, one.bar.length, one.index, one.time)
        )
        self._end(one, one.bar.length, [start for start, _ in one.bar.beats])

    def rest(self, like: PlayedBar) -> None:
        """An empty bar is a full one of the metre that was played last, at its tempo."""
        meter = like.bar.meter
        self._end(replace(like, graduals=()), meter.length, meter.beat_starts)

    def _begin(self, one: PlayedBar) -> None:
        if not self.tempos or self.tempos[-1][1] != one.tempo:
            self.tempos.append((self.position, one.tempo))
        self.tempos += _bent(one, self.position)
        if not self.meters or self.meters[-1][1] != one.bar.meter:
            self.meters.append((self.position, one.bar.meter))
        if self.swings[-1][1] != one.swing:
            self.swings.append((self.position, one.swing))

    def _end(self, one: PlayedBar, length: Fraction, beats: Sequence[Fraction]) -> None:
        self.clicks += (
            Click(self.now + self._seconds(at, one), self.position + at, not at) for at in beats
        )
        self.now += self._seconds(length, one)
        self.position += length

    def _seconds(self, at: Fraction, one: PlayedBar) -> float:
        """From where the bar starts to a place in it."""
        return bar_seconds(at, one.tempo, self.share, one.graduals)

    def _strike(self, stick: Stick, one: PlayedBar, written: int) -> None:
        """A stroke with what belongs to it, in the order in which it sounds."""
        hit, sounds = stick.hit, one.sounds_at(stick.hit.at)
        at, position = self.now + self._seconds(sounds, one), self.position + sounds

        def onset(kind, place, limb, strength, later=Fraction(0), ahead=Fraction(0)):
            return Onset(
                at=self.now + self._seconds(sounds + later, one) - float(ahead),
                position=position + later - crotchets(ahead, one.tempo, self.share),
                drum=hit.drum,
                limb=limb,
                touch=hit.touch,
                strength=strength,
                kind=kind,
                place=place,
                ahead=float(ahead),
                bar=one.index,
                time=one.time,
                turn=len(self.bars),
                hit=written,
            )

        ahead = graces_before(hit.grace, self._room(position, at))
        self.onsets += (
            onset(OnsetKind.GRACE, place, limb, GRACE_STRENGTH, ahead=time)
            for place, (time, limb) in enumerate(
                zip(ahead, grace_limbs(hit.grace, stick.limb), strict=True)
            )
        )
        self.onsets.append(onset(OnsetKind.MAIN, 0, stick.limb, STRENGTH[hit.touch]))
        if hit.roll:
            strokes = roll_strokes(hit.roll)
            limbs = roll_limbs(hit.roll, stick.limb)
            soft = roll_strength(hit.roll, hit.touch)
            self.onsets += (
                onset(OnsetKind.ROLL, place, limb, soft, later=later)
                for place, (later, limb) in enumerate(zip(strokes, limbs, strict=True))
                if place
            )
        if not hit.drum.by_foot:
            self.struck.append((position, at))

    def _room(self, position: Fraction, at: float) -> Fraction | None:
        """Seconds since the hands' stroke before; strokes of the same moment do not count."""
        before = (time for struck, time in reversed(self.struck) if struck < position)
        last = next(before, None)
        return None if last is None else Fraction(at - last).limit_denominator(10_000_000)
