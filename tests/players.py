"""Players for takes: they play stretches of the music, each at a time and a pace of its own, so
that they can stop, begin again, leave out, come in late and get faster. Not the made-up player
of the product, which has never seen these."""

import random
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from wren_ladder.demo import CHARTS
from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.performance import OnsetKind, Performance, PlayedBar, perform
from wren_ladder.drumming.study import study
from wren_ladder.drumming.take_sources.heard import Heard
from wren_ladder.drumming.takes.finding import Kind

GRADE = 3
TWO_BEATS = 1.2  # seconds by which two places are told apart


@dataclass(frozen=True, slots=True)
class Stretch:
    """From one second of the music to another (pass after pass), begun at ``at`` as it is
    heard; ``slope``: seconds played for one that is written."""

    first: float
    last: float
    at: float
    slope: float = 1.0


@dataclass(frozen=True, slots=True)
class Part:
    name: str
    road: tuple[PlayedBar, ...]
    performance: Performance
    passes: int

    @property
    def seconds(self) -> float:
        return self.passes * self.performance.seconds

    @property
    def bars(self) -> list[tuple[float, float]]:
        """(begins, lasts) of the bars of all passes."""
        return [
            (number * self.performance.seconds + span.at, span.seconds)
            for number in range(self.passes)
            for span in self.performance.bars
        ]

    def goes_on(self, at: float) -> list[tuple[float, Drum]]:
        """What is struck in the next beats."""
        return [
            (round(written - at, 2), onset.drum)
            for written, onset in self.written()
            if at - 1e-3 <= written < at + TWO_BEATS
        ]

    def written(self):
        for number in range(self.passes):
            for onset in self.performance.onsets:
                yield number * self.performance.seconds + onset.at, onset


@dataclass(frozen=True, slots=True)
class Played:
    """``mains``: how many of the strokes that are asked for are in it; ``means``: what may be
    told of it first."""

    kind: str
    heard: tuple[Heard, ...]
    mains: int
    means: frozenset[Kind | None]


def parts(bars: int = 4) -> list[Part]:
    """Some bars of every demo piece, as they are practised; one bar is looped."""
    found = []
    for path in sorted(CHARTS.glob("*.wren")):
        studied = study(read_chart(path.read_text(), title=path.stem))
        for first, last, passes in ((0, bars, 2), (4, 4 + 2 * bars, 1), (4, 5, 8)):
            road = studied.played(range(first, min(last, len(studied.bars))))
            part = Part(f"{path.stem} {first + 1}", road, perform(road), passes)
            if len(part.performance.onsets) >= 6:
                found.append(part)
    return found


def play(
    part: Part,
    stretches: Sequence[Stretch],
    seed: int,
    spread: float = 0.01,
    recorded: float | None = None,
) -> tuple[tuple[Heard, ...], int]:
    """(what is heard until the recording ends, how many main strokes are among it)."""
    dice, found, mains = random.Random(seed), [], 0
    ends = recorded if recorded is not None else part.seconds + 0.3
    for one in stretches:
        for written, onset in part.written():
            # A grace goes with its main stroke.
            if not one.first - 1e-6 <= written + onset.ahead < one.last - 1e-6:
                continue
            at = one.at + one.slope * (written - one.first) + dice.gauss(0, spread)
            if at > ends:
                continue
            strength = min(1.0, max(0.05, onset.strength * dice.uniform(0.9, 1.1)))
            found.append(Heard(at, onset.drum, strength))
            mains += onset.kind is OnsetKind.MAIN
    return tuple(sorted(found, key=lambda one: one.at)), mains


def breaks(part: Part, seed: int, spread: float) -> Iterator[Played]:
    """Players who are somewhere else for a while, or at another tempo."""
    dice, whole, bars = random.Random(seed), part.seconds, part.bars
    number = dice.randrange(1, max(2, len(bars) - 2))
    begins, lasts = bars[number]
    stop = begins + lasts * dice.choice((0, 0.25, 0.5, 0.75))
    gap = dice.choice((0.7, 1.0, 1.3, 2.0, 3.1))
    grid = lasts / 4 * dice.choice((2, 3, 4, 5))
    back = begins if stop > begins + 0.01 else bars[number - 1][0]

    def played(kind, stretches, *means, recorded=None):
        heard, mains = play(part, stretches, seed, spread, recorded)
        return Played(kind, heard, mains, frozenset(means))

    def again(to, gap):
        return [Stretch(0, stop, 0), Stretch(to, whole, stop + gap)]

    def told_apart(to):
        """From going on here or a few beats further, which sounds the same where bars do."""
        beat, music = lasts / 4, part.goes_on(to)
        if not any(to <= written < stop - 0.1 for written, _ in part.written()):
            return False  # rests are played again by nobody
        return all(part.goes_on(stop + n * beat) != music for n in range(5))

    yield played("a pause", again(stop, gap), Kind.PAUSED)
    yield played("a pause on the grid", again(stop, grid), Kind.PAUSED)
    if told_apart(back):
        means = (Kind.AGAIN, Kind.FROM_THE_TOP) if back < bars[1][0] else (Kind.AGAIN,)
        many = len({one for one, _ in bars[: len(part.performance.bars)]}) == 1
        first = back % part.performance.seconds < 0.01
        more = (Kind.FROM_THE_TOP,) if first and not many else ()
        yield played("the bar again", again(back, gap), *means, *more)
    if told_apart(0.0):
        yield played("from the top", again(0.0, gap), Kind.FROM_THE_TOP, Kind.AGAIN)
    if number + 2 < len(bars) and part.goes_on(begins) != part.goes_on(bars[number + 1][0]):
        stretches = [Stretch(0, begins, 0), Stretch(bars[number + 1][0], whole, begins)]
        yield played("a bar left out", stretches, Kind.DROPPED)
    late = (Kind.CAME_IN, Kind.BEATS_OFF)
    yield played("came in late", [Stretch(begins, whole, begins)], *late)
    if number > 2:
        first = bars[number // 2][0] + bars[number // 2][1] / 2
        two = [
            Stretch(0, first, 0),
            Stretch(first, max(first, stop), first + gap),
            Stretch(max(first, stop), whole, max(first, stop) + gap + 1.1),
        ]
        yield played("two pauses", two, Kind.PAUSED)
    for tempo in (0.88, 0.94, 1.06, 1.12):
        stretch = [Stretch(0, whole, 0, 1 / tempo)]
        yield played("another tempo", stretch, Kind.TEMPO, recorded=1.3 * whole)
    if stop > 3 and stop < whole - 1.5 * lasts:
        yield played("an early end", [Stretch(0, stop, 0)], Kind.STOPPED)


def clean(part: Part, seed: int, spread: float) -> Played:
    heard, mains = play(part, [Stretch(0, part.seconds, 0)], seed, spread)
    return Played("clean", heard, mains, frozenset({None}))


def something_else(part: Part, seed: int) -> Played:
    dice = random.Random(seed)
    many = int(3 * part.seconds)
    drums = [Drum.SNARE, Drum.TOM_HIGH, Drum.TOM_FLOOR]
    heard = tuple(
        Heard(dice.uniform(0, part.seconds), dice.choice(drums), 0.6) for _ in range(many)
    )
    return Played("something else", heard, 0, frozenset({Kind.SOMETHING_ELSE}))


def getting_faster(part: Part, seed: int, spread: float, by: float) -> Played:
    """Evenly, by a share of the tempo from the beginning to the end."""
    dice, found, whole = random.Random(seed), [], part.seconds
    for written, onset in part.written():
        slope = 1 - by * written / whole / 2
        found.append(Heard(written * slope + dice.gauss(0, spread), onset.drum, onset.strength))
    heard = tuple(sorted(found, key=lambda one: one.at))
    mains = sum(onset.kind is OnsetKind.MAIN for _, onset in part.written())
    return Played("getting faster", heard, mains, frozenset({Kind.TURN, Kind.TEMPO}))


def late_limb(part: Part, seed: int, spread: float, limb: Limb, late: float) -> Played:
    dice, found = random.Random(seed), []
    for written, onset in part.written():
        off = late if onset.limb is limb else 0.0
        found.append(Heard(written + off + dice.gauss(0, spread), onset.drum, onset.strength))
    heard = tuple(sorted(found, key=lambda one: one.at))
    return Played("a late limb", heard, len(found), frozenset({Kind.LEAN, Kind.APART}))


def with_a_kit_that_answers(played: Played, seed: int) -> Played:
    """Some strokes twice, and a neighbour that shakes along."""
    dice, found = random.Random(seed), list(played.heard)
    for one in played.heard:
        if one.strength > 0.4 and dice.random() < 0.3:
            found.append(replace(one, at=one.at + 0.03, strength=one.strength * 0.3))
        elif one.strength > 0.4 and one.drum is Drum.KICK and dice.random() < 0.5:
            found.append(Heard(one.at + 0.004, Drum.TOM_FLOOR, 0.09))
    return replace(played, heard=tuple(sorted(found, key=lambda one: one.at)))
