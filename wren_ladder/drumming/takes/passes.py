"""Clean or not yet, each time through by itself, and what spoiled it."""

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from statistics import fmean

from quicktions import Fraction

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.performance import Onset, Performance, PlayedBar
from wren_ladder.drumming.take_sources.heard import Heard
from wren_ladder.drumming.takes.expected import ExpectedBar
from wren_ladder.drumming.takes.figures import Figures, leaning
from wren_ladder.drumming.takes.following import Followed
from wren_ladder.drumming.takes.limits import Limits
from wren_ladder.drumming.takes.ornaments import Ornaments
from wren_ladder.drumming.wording import Coded

FEW = 3  # strokes of a limb in one pass that say how late it is
ORNAMENT = 0.15  # seconds about a grace or a stroke of a roll that are its own
GRID = Fraction(1, 4)  # crotchets to which a place is said
FEET = (Limb.LEFT_FOOT, Limb.RIGHT_FOOT)


class Spoiled(Coded):
    """What a pass is not clean for, the first of them."""

    NOT_PLAYED = "not-played", "it was not played"
    BROKEN = "broken", "it was interrupted"
    MISSED = "missed", "strokes are missing"
    WRONG = "wrong", "another drum"
    EXTRA = "extra", "strokes too many"
    LEAN = "lean", "a limb is late or early"
    SPREAD = "spread", "uneven"
    GRACES = "graces", "flams, drags or ruffs"


@dataclass(frozen=True, slots=True)
class Pass:
    """``spoiled`` is None where it is clean; ``drum`` and ``where`` of the strokes too many,
    ``many`` how many slips of the kind that spoiled it."""

    number: int
    slips: int  # missed, wrong, extra
    strokes: int
    spread: float | None  # seconds
    leaning: Limb | None  # that is early or late as a whole
    spoiled: Spoiled | None
    many: int = 0
    drum: Drum | None = None
    where: str = ""

    @property
    def is_clean(self) -> bool:
        return self.spoiled is None


def passes(
    bars: Sequence[ExpectedBar],
    played: Sequence[PlayedBar],
    performance: Performance,
    followed: Followed,
    figures: Figures,
    ornaments: Ornaments | None,
    limits: Limits,
) -> tuple[Pass, ...]:
    found = _Passes(bars, played, performance, followed, figures, ornaments, limits)
    return tuple(found.each())


@dataclass(frozen=True, slots=True)
class _Passes:
    bars: Sequence[ExpectedBar]
    played: Sequence[PlayedBar]
    performance: Performance
    followed: Followed
    figures: Figures
    ornaments: Ornaments | None
    limits: Limits

    def each(self):
        many = 1 + max((bar.number for bar in self.bars), default=-1)
        strokes: Counter[int] = Counter()
        late = defaultdict(list)
        by_limb: list[dict[Limb | None, list[float]]] = [defaultdict(list) for _ in range(many)]
        for bar in self.bars:
            strokes[bar.number] += len(bar.strokes)
        missed = Counter(one.number for one in self.followed.missed)
        wrong = Counter(one.expected.number for one in self.followed.wrong)
        unplayed = self._unplayed()
        extra = defaultdict(list)
        for one, at in self._too_many():
            number = min(many - 1, max(0, int(at / self.performance.seconds)))
            extra[number].append((one, at - number * self.performance.seconds))
        for matched, left in self.figures.residuals:
            late[matched.expected.number].append(left)
            by_limb[matched.expected.number][matched.expected.limb].append(left)
        broken = self._broken()
        spoiled = self.ornaments.spoiled if self.ornaments else frozenset()
        for number in range(many):
            here = late[number]
            spread = fmean(left**2 for left in here) ** 0.5 if here else None
            leans = self._leaning(by_limb[number])
            slips = {
                Spoiled.MISSED: missed[number] + unplayed[number],
                Spoiled.WRONG: wrong[number],
                Spoiled.EXTRA: len(extra[number]),
            }
            asked = strokes[number]
            why = self._why(number, slips, asked, spread, leans, broken, spoiled, unplayed)
            drum, where = None, ""
            if why is Spoiled.EXTRA:
                drum, where = self._where(extra[number])
            yield Pass(
                number, sum(slips.values()), asked, spread, leans, why,
                slips.get(why, 0), drum, where,
            )  # fmt: skip

    def _why(self, number, slips, asked, spread, leans, broken, spoiled, unplayed):
        if spread is None or unplayed[number] >= asked:
            return Spoiled.NOT_PLAYED
        if number in broken:
            return Spoiled.BROKEN
        if sum(slips.values()) > self.limits.slips * asked:
            return max(slips, key=lambda kind: slips[kind])
        if leans is not None:
            return Spoiled.LEAN
        if spread > self.limits.spread:
            return Spoiled.SPREAD
        return Spoiled.GRACES if number in spoiled else None

    def _unplayed(self) -> Counter:
        """Strokes of the bars that were left out, of each pass, and of those behind the end."""
        found: Counter = Counter()
        behind = range(self.followed.reached, len(self.bars))
        for place in (*self.followed.dropped, *behind):
            found[self.bars[place].number] += len(self.bars[place].strokes)
        return found

    def _broken(self) -> set[int]:
        """The passes in which the player stopped, went back or left a bar out."""
        return {
            self.bars[place].number
            for one in self.followed.breaks
            for place in (one.left, one.to)
            if place == one.left or self.bars[place].turn
        }

    def _too_many(self) -> list[tuple[Heard, float]]:
        """(stroke, seconds of the music) of those that no grace and no roll asks for."""
        ornaments = [one for one in self.performance.onsets if one.ahead or one.place]
        return [
            (one, at)
            for one, at in zip(self.followed.extra, self.followed.extra_at, strict=True)
            if not self._is_one_of(ornaments, one, at)
        ]

    def _is_one_of(self, ornaments: Sequence[Onset], heard: Heard, at: float) -> bool:
        """Graces of a first stroke come at the end of the pass before."""
        whole = self.performance.seconds
        for one in ornaments:
            if heard.drum is not None and one.drum.surface is not heard.drum.surface:
                continue
            apart = abs(one.at - at) % whole
            if min(apart, whole - apart) < ORNAMENT:
                return True
        return False

    def _where(self, extra: Sequence[tuple[Heard, float]]) -> tuple[Drum | None, str]:
        """The drum that has most of them, and where the first of these is, as it is counted."""
        drums = Counter(one.drum for one, _ in extra)
        drum = drums.most_common(1)[0][0]
        at = next(at for one, at in extra if one.drum is drum)
        spans = list(enumerate(self.performance.bars))
        turn, span = max(
            ((turn, span) for turn, span in spans if span.at <= at + 1e-6), default=spans[0],
            key=lambda pair: pair[1].at,
        )  # fmt: skip
        share = Fraction(min(1.0, max(0.0, (at - span.at) / span.seconds))).limit_denominator(
            96
        )
        place = round(share * span.length / GRID) * GRID
        bar = self.played[turn].bar
        return drum, Positions.of(bar).say(place) if place < bar.length else "the last beat"

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
