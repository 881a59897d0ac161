"""Clean or not yet, pass by pass, and the one thing to mend first.

Facts come first, that somebody stopped or played at another tempo; then what is to be mended.
"""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean, median

from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.performance import Performance, PlayedBar
from wren_ladder.drumming.take_sources.heard import Source
from wren_ladder.drumming.takes.expected import ExpectedBar
from wren_ladder.drumming.takes.figures import ENOUGH, Figures, LimbFigures
from wren_ladder.drumming.takes.fills import FillFigures, strokes_of_fills
from wren_ladder.drumming.takes.finding import FACTS, Advice, Finding, Kind
from wren_ladder.drumming.takes.following import (
    BreakKind,
    Followed,
    Matched,
    beats_off,
)
from wren_ladder.drumming.takes.limits import (
    CONTRAST,
    GRACES,
    HELD,
    LIGHT,
    ROUGH,
    TOGETHER,
    Limits,
)
from wren_ladder.drumming.takes.ornaments import Ornaments
from wren_ladder.drumming.takes.passes import FEET, Pass, Spoiled, passes
from wren_ladder.drumming.wording import listed

THIS = 0.5  # of the strokes: with fewer it was something else that was played
PLACE = 0.6  # of the passes in which a place is off before it is told
CLEARLY = 1.6  # times as uneven as the others
OTHER = 0.025  # of the tempo: who is further from it plays another
DRIFTS = 0.04  # of the tempo, from the beginning to the end
BEHIND = 0.045  # seconds behind the click, once the set-up is measured
BARE = 0.3  # of the flams, drags or ruffs that may be without
NEARLY = 0.05
FILL_OFF = 0.015  # seconds that a fill is early or late as a whole
FILL_END = 0.025  # seconds at its end, where running away adds up


@dataclass(frozen=True, slots=True)
class Judged:
    """``first`` is None where there is nothing to tell, ``then`` what else is to be mended,
    where the first is a fact and no fault: that somebody stopped, or another tempo."""

    passes: tuple[Pass, ...]
    first: Finding | None
    then: Finding | None = None

    @property
    def to_mend(self) -> Finding | None:
        return self.then or self.first

    @property
    def clean(self) -> int:
        return sum(one.is_clean for one in self.passes)

    @property
    def in_a_row(self) -> int:
        """The most clean passes one after the other, as gates count them."""
        best = here = 0
        for one in self.passes:
            here = here + 1 if one.is_clean else 0
            best = max(best, here)
        return best


def judged(
    bars: Sequence[ExpectedBar],
    played: Sequence[PlayedBar],
    performance: Performance,
    followed: Followed,
    figures: Figures,
    fill: FillFigures | None,
    ornaments: Ornaments | None,
    limits: Limits,
    source: Source,
    latency: float = 0.0,
) -> Judged:
    each = passes(bars, played, performance, followed, figures, ornaments, limits)
    take = _Take(
        bars, played, performance, followed, figures, fill, ornaments, limits, source,
        latency, each,
    )  # fmt: skip
    found = list(take.findings())
    first = found[0] if found else None
    then = None
    if first and first.kind in FACTS:
        then = next((one for one in found if one.kind not in (*FACTS, first.kind)), None)
    return Judged(each, first, then)


@dataclass(frozen=True, slots=True)
class _Take:
    bars: Sequence[ExpectedBar]
    played: Sequence[PlayedBar]
    performance: Performance
    followed: Followed
    figures: Figures
    fill: FillFigures | None
    ornaments: Ornaments | None
    limits: Limits
    source: Source
    latency: float
    passes: Sequence[Pass]

    def findings(self):
        yield from self._the_whole()
        yield from self._slips()
        yield from self._fill()
        yield from self._limbs()
        yield from self._apart()
        yield from self._spreads()
        yield from self._places()
        yield from self._rest()

    def _the_whole(self):
        followed, bars = self.followed, self.bars
        asked = sum(len(bar.strokes) for bar in bars[: followed.reached])
        asked -= sum(len(bars[place].strokes) for place in followed.dropped)
        found = len(followed.matched)
        if not asked or found < THIS * asked or found < THIS * self._heard():
            yield Finding(Kind.SOMETHING_ELSE, Advice.SLOWER)
            return
        yield from self._tempo()
        yield from self._beginning()
        yield from self._breaks()
        if followed.stopped == len(bars) - 1 and not followed.dropped:
            # A bar too few at the end: one of several like it was left out on the way.
            yield Finding(Kind.DROPPED, Advice.SLOWER)
        elif followed.stopped is not None:
            where = self.played[bars[followed.stopped].turn].bar.number
            yield Finding(Kind.STOPPED, Advice.SLOWER, where=f"bar {where}")
        yield from self._turn()

    def _heard(self) -> int:
        """Strokes that are no ornaments, as far as that can be told."""
        followed = self.followed
        ornaments = sum(1 for one in self.performance.onsets if one.ahead or one.place)
        passes = len(self.passes)
        whole = len(followed.matched) + len(followed.wrong) + len(followed.extra)
        return whole - min(len(followed.extra), ornaments * passes)

    def _tempos(self, faster: float) -> tuple[int, int]:
        asked = float(self.performance.share * self.performance.tempos[0][1].bpm)
        return round(asked * (1 + faster)), round(asked)

    def _tempo(self):
        pace = self.figures.pace
        if abs(pace.faster) > OTHER and abs(pace.end - pace.start) < OTHER:
            yield Finding(
                Kind.TEMPO, Advice.CLICK, share=pace.faster,
                strokes=len(self.followed.matched), tempos=self._tempos(pace.faster),
            )  # fmt: skip

    def _turn(self):
        """Steady until a bar, then faster; or faster all along."""
        pace, strokes = self.figures.pace, len(self.followed.matched)
        if pace.turn:
            where = self.played[self.bars[pace.turn.bar].turn].bar.number
            again = (
                f", time {self.bars[pace.turn.bar].number + 1}" if len(self.passes) > 1 else ""
            )
            faster = pace.turn.faster
            yield Finding(
                Kind.TURN, Advice.CLICK, where=f"bar {where}{again}", share=faster,
                strokes=strokes, tempos=self._tempos(faster),
            )  # fmt: skip
        elif abs(pace.end - pace.start) > DRIFTS:
            yield Finding(
                Kind.TURN, Advice.CLICK, share=pace.end, strokes=strokes,
                tempos=(self._tempos(pace.end)[0], self._tempos(pace.start)[0]),
            )  # fmt: skip

    def _beginning(self):
        """Whole beats late, or all of it behind the click of a set-up that was measured."""
        if self.source is Source.FILE or 0 in self.followed.dropped:
            return
        beat, found = self._beat(), len(self.followed.matched)
        off = beats_off(self.followed, beat)
        if off:
            bars = off * beat / self.bars[0].seconds
            where = f"{round(bars)}" if abs(bars - round(bars)) < NEARLY and bars > 0 else ""
            yield Finding(
                Kind.BEATS_OFF, Advice.CLICK, where=where, seconds=off * beat, strokes=found
            )
        elif self.latency and abs(self.figures.pace.offset) > BEHIND:
            late = self.figures.pace.offset
            yield Finding(Kind.BEHIND, Advice.CLICK, seconds=late, strokes=found)

    def _breaks(self):
        """One sentence for all that are alike."""
        by_kind = defaultdict(list)
        for one in self.followed.breaks:
            place = one.to if one.kind in (BreakKind.CAME_IN, BreakKind.AGAIN) else one.left
            by_kind[one.kind].append(self.played[self.bars[place].turn].bar.number)
        for kind in (Kind.CAME_IN, Kind.FROM_THE_TOP, Kind.AGAIN, Kind.DROPPED, Kind.PAUSED):
            numbers = list(dict.fromkeys(by_kind.get(BreakKind(kind.value), ())))
            if numbers:
                bars = f"bar{'s' if len(numbers) > 1 else ''} {listed(numbers)}"
                many = len(by_kind[BreakKind(kind.value)])
                yield Finding(kind, Advice.SLOWER, where=bars, strokes=many)

    def _beat(self) -> float:
        clicks = [one.at for one in self.performance.clicks if not one.counted_in]
        return clicks[1] - clicks[0] if len(clicks) > 1 else self.performance.seconds

    def _slips(self):
        asked = sum(len(bar.strokes) for bar in self.bars[: self.followed.reached])
        runs_away = next(self._fill(), None)
        fills = strokes_of_fills(self.played) if runs_away else frozenset()
        for kind, slips in (
            (Kind.MISSED, list(self.followed.missed)),
            (Kind.WRONG, [one.expected for one in self.followed.wrong]),
        ):
            # What is lost in a fill that runs away is lost by the running.
            slips = [o for o in slips if (o.onset.turn, o.onset.hit) not in fills]
            if len(slips) > self.limits.slips * asked:
                limbs = [one.limb for one in slips if one.limb]
                limb = max(set(limbs), key=limbs.count) if limbs else None
                share = len(slips) / asked
                yield Finding(kind, Advice.SLOWER, limb, share=share, strokes=len(slips))

    def _fill(self):
        fill = self.fill
        if not fill:
            return
        inside, end = fill.inside, fill.end
        if abs(inside.value) > FILL_OFF and abs(end.value) > FILL_END:
            started = fill.start.value if fill.start else 0.0
            where = "start" if abs(started) > FILL_OFF and started * end.value > 0 else "end"
            yield Finding(
                Kind.FILL, Advice.CLICK, where=where, seconds=end.value, strokes=inside.strokes
            )
        elif fill.landing and abs(fill.landing.value) > TOGETHER:
            yield Finding(
                Kind.FILL, Advice.CLICK, where="landing",
                seconds=fill.landing.value, strokes=fill.landing.strokes,
            )  # fmt: skip

    def _limbs(self):
        limbs = self.figures.limbs
        leaning = [
            (limb, one)
            for limb, one in limbs.items()
            if abs(one.lean.value) > self.limits.lean and len(limbs) > 1
        ]
        if leaning:
            limb, one = max(leaning, key=lambda pair: _harm(*pair))
            yield Finding(
                Kind.LEAN, Advice.PAIR, limb, seconds=one.lean.value, strokes=one.lean.strokes
            )

    def _apart(self):
        for (one, other), gap in sorted(
            self.figures.apart.items(), key=lambda pair: -abs(pair[1].value)
        ):
            if abs(gap.value) > TOGETHER:
                foot, hand = (other, one) if other in FEET else (one, other)
                late = gap.value if foot is other else -gap.value
                yield Finding(
                    Kind.APART, Advice.PAIR, foot, seconds=late, strokes=gap.strokes, other=hand
                )

    def _spreads(self):
        limbs = self.figures.limbs
        spreads = {limb: one.spread.value for limb, one in limbs.items()}
        for limb, one in sorted(limbs.items(), key=lambda pair: -pair[1].spread.value):
            others = [spread for other, spread in spreads.items() if other is not limb]
            usual = median(others) if others else 0.0
            if one.spread.value > max(self.limits.spread, CLEARLY * usual):
                spread = one.spread
                yield Finding(
                    Kind.UNEVEN, Advice.PAD, limb, seconds=spread.value, strokes=spread.strokes
                )

    def _places(self):
        """A stroke of the music that is off the same way in most passes."""
        many = 1 + max((bar.number for bar in self.bars), default=0)
        places = defaultdict(list)
        for one, left in self.figures.residuals:
            onset = one.expected.onset
            places[onset.turn, onset.hit].append((left, one))
        worst = None
        for found in places.values():
            off = [left for left, _ in found]
            here = fmean(off)
            bound = max(self.limits.lean, TOGETHER)
            same = sum(1 for left in off if abs(left) > bound / 2 and left * here > 0)
            if len(off) < ENOUGH or abs(here) < bound or same < PLACE * many:
                continue
            if worst is None or abs(here) > abs(worst[0]):
                worst = (here, found[0][1], same)
        if worst:
            here, one, same = worst
            yield Finding(
                Kind.PLACE, Advice.LAYER, one.expected.limb, self._where(one), here,
                strokes=len(places), passes=(same, many),
            )  # fmt: skip

    def _where(self, one: Matched) -> str:
        onset = one.expected.onset
        bar: Bar = self.played[onset.turn].bar
        return Positions.of(bar).say(bar.hits[onset.hit].at)

    def _ornaments(self):
        if not self.ornaments:
            return
        bare = self.ornaments.bare
        for grace, (none, many) in bare.items():
            if many >= ENOUGH and none > BARE * many:
                yield Finding(
                    Kind.GRACES, Advice.PAD, where=f"{grace.value}s", strokes=none,
                    passes=(none, many),
                )  # fmt: skip
        for grace, gap in self.ornaments.gaps.items():
            if not GRACES[0] <= gap.value <= GRACES[1]:
                yield Finding(
                    Kind.GRACES, Advice.PAD,
                    where=f"{grace.value}s", seconds=gap.value, strokes=gap.strokes,
                )  # fmt: skip
        rolls = self.ornaments.rolls
        if rolls and rolls.value > ROUGH:
            yield Finding(Kind.ROLLS, Advice.PAD, share=rolls.value, strokes=rolls.strokes)

    def _rest(self):
        yield from self._ornaments()
        pace = self.figures.pace
        if abs(pace.faster) > HELD:
            strokes = len(self.followed.matched)
            yield Finding(
                Kind.PACE, Advice.CLICK, share=pace.faster, strokes=strokes,
                tempos=self._tempos(pace.faster),
            )  # fmt: skip
        told = (Spoiled.BROKEN, Spoiled.NOT_PLAYED)
        spoiled = [o for o in self.passes if not o.is_clean and o.spoiled not in told]
        if spoiled:
            yield Finding(
                Kind.PASS, Advice.SLOWER, spoiled=spoiled[0], strokes=spoiled[0].strokes,
                passes=(len(spoiled), len(self.passes)),
            )  # fmt: skip
        for limb, one in self.figures.contrast.items():
            if one.value < CONTRAST:
                yield Finding(
                    Kind.CONTRAST, Advice.PAD, limb, share=one.value, strokes=one.strokes
                )
        balance = self.figures.balance
        if balance and balance.value > LIGHT:
            yield Finding(
                Kind.BALANCE, Advice.LIGHT, share=balance.value, strokes=balance.strokes
            )


def _harm(limb: Limb, one: LimbFigures) -> tuple:
    """Who leans most; of two alone, the foot rather than the hand that keeps time."""
    return (round(abs(one.lean.value), 3), limb in FEET, one.lean.value)
