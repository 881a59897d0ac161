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
from wren_ladder.drumming.description.timekeeping import fill_start
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.performance import Performance, PlayedBar
from wren_ladder.drumming.takes.expected import ExpectedBar
from wren_ladder.drumming.takes.figures import ENOUGH, Figures, LimbFigures, leaning
from wren_ladder.drumming.takes.following import Followed, Matched, beats_off
from wren_ladder.drumming.takes.limits import CONTRAST, FLAM, HELD, TOGETHER, Limits
from wren_ladder.drumming.wording import Coded

FEW = 3  # strokes of a limb in one pass that say how late it is
THIS = 0.5  # of the strokes: with fewer it was something else that was played
PLACE = 0.6  # of the passes in which a place is off before it is told
CLEARLY = 1.6  # times as uneven as the others
FILL_OFF = 0.025  # seconds that a fill's strokes are early or late
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
    UNEVEN = "uneven", "a limb is uneven"
    PLACE = "place", "one place is late or early"
    FLAMS = "flams", "flams are too wide or closed"
    PACE = "pace", "the tempo was not held"
    CONTRAST = "contrast", "ghosts are nearly accents"


class Advice(Coded):
    """What to do about it."""

    SLOWER = "slower", "a rung slower"
    PAIR = "pair", "the two limbs alone"
    LAYER = "layer", "the layer without it"
    CLICK = "click", "to the click, counted aloud"
    PAD = "pad", "on the pad first"


@dataclass(frozen=True, slots=True)
class Finding:
    """``seconds`` late (early: below 0), ``limb`` whose it is, ``where`` in the bar, in how
    many passes of how many; ``strokes`` it stands on."""

    kind: Kind
    advice: Advice
    limb: Limb | None = None
    where: str = ""
    seconds: float = 0.0
    share: float = 0.0
    strokes: int = 0
    passes: tuple[int, int] = (0, 0)


@dataclass(frozen=True, slots=True)
class Pass:
    number: int
    slips: int  # missed, wrong, extra
    strokes: int
    spread: float | None  # seconds
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
    limits: Limits,
) -> Judged:
    take = _Take(bars, played, performance, followed, figures, limits)
    return Judged(tuple(take.passes()), next(take.findings(), None))


@dataclass(frozen=True, slots=True)
class _Take:
    bars: Sequence[ExpectedBar]
    played: Sequence[PlayedBar]
    performance: Performance
    followed: Followed
    figures: Figures
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
            clean = (
                spread is not None
                and slips[number] <= self.limits.slips * strokes[number]
                and spread <= self.limits.spread
                and self._is_together(by_limb[number])
            )
            yield Pass(number, slips[number], strokes[number], spread, clean)

    def _is_together(self, late: Mapping[Limb | None, list[float]]) -> bool:
        """Does no limb of a pass come late or early as a whole?"""
        means = {limb: fmean(mine) for limb, mine in late.items() if len(mine) >= FEW}
        return all(abs(lean) <= self.limits.lean for lean in leaning(means).values())

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
        for kind, slips in (
            (Kind.MISSED, list(self.followed.missed)),
            (Kind.WRONG, [one.expected for one in self.followed.wrong]),
        ):
            if len(slips) > self.limits.slips * asked:
                limbs = [one.limb for one in slips if one.limb]
                limb = max(set(limbs), key=limbs.count) if limbs else None
                share = len(slips) / asked
                yield Finding(kind, Advice.SLOWER, limb, share=share, strokes=len(slips))

    def _fill(self):
        fills = {turn: fill_start(one.bar) for turn, one in enumerate(self.played)}
        late = [
            left
            for one, left in self.figures.residuals
            for start in (fills[one.expected.onset.turn],)
            if start is not None and _in_bar(one, self.played) > start
        ]
        slipped = [
            one
            for one in self.followed.missed
            if fills[one.onset.turn] is not None
            and self.played[one.onset.turn].bar.hits[one.onset.hit].at > fills[one.onset.turn]
        ]
        if len(late) >= ENOUGH and abs(fmean(late)) > FILL_OFF:
            yield Finding(
                Kind.FILL, Advice.CLICK, seconds=fmean(late), strokes=len(late) + len(slipped)
            )

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

    def _rest(self):
        flams, pace = self.figures.flams, self.figures.pace
        if flams and not FLAM[0] <= flams.value <= FLAM[1]:
            yield Finding(Kind.FLAMS, Advice.PAD, seconds=flams.value, strokes=flams.strokes)
        if abs(pace.faster) > HELD:
            strokes = len(self.followed.matched)
            yield Finding(Kind.PACE, Advice.CLICK, share=pace.faster, strokes=strokes)
        for limb, one in self.figures.contrast.items():
            if one.value < CONTRAST:
                yield Finding(
                    Kind.CONTRAST, Advice.PAD, limb, share=one.value, strokes=one.strokes
                )


def _harm(limb: Limb, one: LimbFigures) -> tuple:
    """Who leans most; of two alone, the foot rather than the hand that keeps time."""
    return (round(abs(one.lean.value), 3), limb in FEET, one.lean.value)


def _in_bar(one: Matched, played: Sequence[PlayedBar]):
    onset = one.expected.onset
    return played[onset.turn].bar.hits[onset.hit].at
