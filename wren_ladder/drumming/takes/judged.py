"""Clean or not yet, pass by pass, and the one thing to mend first.

A finding is a code with its facts; the words are made last. The order in which findings count
is that of ``Kind``: who plays something else is not told of milliseconds, and what is missing
comes before what is late.
"""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from statistics import fmean, median

from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.performance import Performance, PlayedBar
from wren_ladder.drumming.takes.expected import ExpectedBar
from wren_ladder.drumming.takes.figures import ENOUGH, Figures, LimbFigures, leaning
from wren_ladder.drumming.takes.fills import FillFigures, in_fill
from wren_ladder.drumming.takes.following import Followed, Matched, beats_off
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
from wren_ladder.drumming.wording import Coded

FEW = 3  # strokes of a limb in one pass that say how late it is
THIS = 0.5  # of the strokes: with fewer it was something else that was played
PLACE = 0.6  # of the passes in which a place is off before it is told
CLEARLY = 1.6  # times as uneven as the others
FILL_OFF = 0.015  # seconds that a fill is early or late as a whole
FILL_END = 0.025  # seconds at its end, where running away adds up
FEET = (Limb.LEFT_FOOT, Limb.RIGHT_FOOT)


class Kind(Coded):
    """In the order in which one is told before another."""

    SOMETHING_ELSE = "something-else", "this was something else"
    BEATS_OFF = "beats-off", "whole beats late"
    DROPPED = "dropped", "a bar was dropped"
    AGAIN = "again", "a bar was played again"
    STOPPED = "stopped", "stopped before the end"
    MISSED = "missed", "strokes are missing"
    WRONG = "wrong", "another drum"
    FILL = "fill", "the fill runs away"
    LEAN = "lean", "a limb is late or early"
    APART = "apart", "two limbs that should be one"
    UNEVEN = "uneven", "a limb is uneven"
    PLACE = "place", "one place is late or early"
    GRACES = "graces", "flams, drags or ruffs are too wide or closed"
    ROLLS = "rolls", "rolls are uneven"
    PACE = "pace", "the tempo was not held"
    CONTRAST = "contrast", "ghosts are nearly accents"
    BALANCE = "balance", "the cymbal is too loud"


class Advice(Coded):
    """What to do about it."""

    SLOWER = "slower", "a rung slower"
    PAIR = "pair", "the two limbs alone"
    LAYER = "layer", "the layer without it"
    CLICK = "click", "to the click, counted aloud"
    PAD = "pad", "on the pad first"
    LIGHT = "light", "a light cymbal"


@dataclass(frozen=True, slots=True)
class Finding:
    """``seconds`` late (early: below 0), ``limb`` whose it is, ``where`` in the bar, in how
    many passes of how many; ``strokes`` it stands on. ``other``: the limb it should be one
    with."""

    kind: Kind
    advice: Advice
    limb: Limb | None = None
    where: str = ""
    seconds: float = 0.0
    share: float = 0.0
    strokes: int = 0
    passes: tuple[int, int] = (0, 0)
    other: Limb | None = None


@dataclass(frozen=True, slots=True)
class Pass:
    number: int
    slips: int  # missed, wrong, extra
    strokes: int
    spread: float | None  # seconds
    leaning: Limb | None  # that is early or late as a whole
    is_clean: bool


@dataclass(frozen=True, slots=True)
class Judged:
    passes: tuple[Pass, ...]
    first: Finding | None  # None where there is nothing to mend

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
) -> Judged:
    take = _Take(bars, played, performance, followed, figures, fill, ornaments, limits)
    return Judged(tuple(take.passes()), next(take.findings(), None))


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

    def passes(self):
        many = 1 + max((bar.number for bar in self.bars), default=-1)
        slips, strokes, late = [0] * many, [0] * many, defaultdict(list)
        by_limb = [defaultdict(list) for _ in range(many)]
        for bar in self.bars:
            strokes[bar.number] += len(bar.strokes)
        for one in self.followed.missed:
            slips[one.number] += 1
        for one in self.followed.wrong:
            slips[one.expected.number] += 1
        for place in (*self.followed.dropped, *self._behind_the_end()):
            slips[self.bars[place].number] += len(self.bars[place].strokes)
        for heard in self.followed.extra:
            number = int(max(0.0, heard.at - self._lag()) / self.performance.seconds)
            slips[min(number, many - 1)] += not self._is_a_grace(heard)
        for one, left in self.figures.residuals:
            late[one.expected.number].append(left)
            by_limb[one.expected.number][one.expected.limb].append(left)
        for number in range(many):
            here = late[number]
            spread = fmean(left**2 for left in here) ** 0.5 if here else None
            leaning = self._leaning(by_limb[number])
            clean = (
                spread is not None
                and slips[number] <= self.limits.slips * strokes[number]
                and spread <= self.limits.spread
                and leaning is None
            )
            yield Pass(number, slips[number], strokes[number], spread, leaning, clean)

    def _leaning(self, late: Mapping[Limb | None, list[float]]) -> Limb | None:
        """The limb that comes late or early as a whole in a pass, the worst of them. One that
        has a stroke or two in a pass is asked only where the whole take says that it leans."""
        most = self.limits.lean
        known = {
            limb
            for limb, one in self.figures.limbs.items()
            if abs(one.lean.value) > most and len(self.figures.limbs) > 1
        }
        means = {
            limb: fmean(mine)
            for limb, mine in late.items()
            if len(mine) >= FEW or (mine and limb in known)
        }
        leans = {limb: abs(late) for limb, late in leaning(means).items() if limb}
        worst = max(leans, key=lambda limb: (leans[limb], limb in FEET), default=None)
        return worst if worst and leans[worst] > most else None

    def _behind_the_end(self):
        stopped = self.followed.stopped
        return range(stopped, len(self.bars)) if stopped is not None else ()

    def _lag(self) -> float:
        return self.figures.pace.offset

    def _is_a_grace(self, heard) -> bool:
        """A stroke that no main stroke asks for, in a place where graces or rolls are."""
        at = (heard.at - self._lag()) % self.performance.seconds
        ornaments = (one for one in self.performance.onsets if one.ahead or one.place)
        return any(abs(one.at - at) < 0.15 for one in ornaments)

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
        reached = bars[: followed.stopped] if followed.stopped is not None else bars
        asked = sum(len(bar.strokes) for bar in reached)
        asked -= sum(len(bars[place].strokes) for place in followed.dropped)
        found = len(followed.matched)
        if not asked or found < THIS * asked:
            yield Finding(Kind.SOMETHING_ELSE, Advice.SLOWER, share=found / max(1, asked))
            return
        beat = self._beat()
        off = beats_off(followed, beat)
        if off:
            yield Finding(Kind.BEATS_OFF, Advice.CLICK, seconds=off * beat, strokes=found)
        for kind, places in ((Kind.DROPPED, followed.dropped), (Kind.AGAIN, followed.again)):
            if places:
                where = self.played[bars[places[0]].turn].bar.number
                yield Finding(kind, Advice.SLOWER, where=f"bar {where}")
        if followed.stopped == len(bars) - 1 and not followed.dropped:
            # A bar too few at the end: one of several like it was left out on the way.
            yield Finding(Kind.DROPPED, Advice.SLOWER)
        elif followed.stopped is not None:
            where = self.played[bars[followed.stopped].turn].bar.number
            yield Finding(Kind.STOPPED, Advice.SLOWER, where=f"bar {where}")

    def _beat(self) -> float:
        clicks = [one.at for one in self.performance.clicks if not one.counted_in]
        return clicks[1] - clicks[0] if len(clicks) > 1 else self.performance.seconds

    def _slips(self):
        asked = sum(len(bar.strokes) for bar in self.bars)
        fill = next(self._fill(), None)
        for kind, slips in (
            (Kind.MISSED, list(self.followed.missed)),
            (Kind.WRONG, [one.expected for one in self.followed.wrong]),
        ):
            if fill:  # what is lost in a fill that runs away is lost by the running
                slips = [one for one in slips if not in_fill(one, self.played)]
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
            yield Finding(Kind.PACE, Advice.CLICK, share=pace.faster, strokes=strokes)
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
