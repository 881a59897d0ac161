"""Listening without a click: somebody counts in with their sticks, plays, and stops.

What was heard so far is asked about again and again; each time it says how far they are, and
once they have stopped, how often the music was played, at which tempo, and how well.
"""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from quicktions import Fraction

from wren_ladder.drumming.performance import PlayedBar, perform
from wren_ladder.drumming.take_sources.heard import Heard, Source
from wren_ladder.drumming.takes.expected import expected_bars
from wren_ladder.drumming.takes.hear import Take, hear
from wren_ladder.drumming.takes.judged import THIS
from wren_ladder.drumming.takes.limits import Rule
from wren_ladder.drumming.wording import Coded

EVEN = 0.12  # of a beat that a counted stroke may be off
ALONE = 0.03  # seconds about it in which nothing else is struck
SLOWEST, FASTEST = 0.6, 1.3  # of the tempo asked: what is far from it may be quavers
EARLY = 0.3  # of a beat before the music's first, in which nothing is played any more
SILENT = 1.5  # seconds, or a bar, without a stroke: it is over
UNLIKE = 0.12  # of the tempo counted: nobody counts at one tempo and plays at another
SAME = 0.03  # of the tempo asked: nearer is that tempo
MOST_PASSES = 32
FINE = 1000  # the denominator of a share that was heard


class Listening(Coded):
    WAITING = "waiting", "nobody has counted in"
    COUNTED = "counted", "counted in"
    PLAYING = "playing", "it is played"
    DONE = "done", "it was played"


@dataclass(frozen=True, slots=True)
class CountIn:
    """``share`` of the tempo of the music as it is performed; ``begins``: when its first beat
    is due, in seconds as it was heard."""

    share: float
    begins: float
    strokes: int  # heard up to its last


@dataclass(frozen=True, slots=True)
class Listened:
    """``share`` is the tempo that was played, of that of the music; ``clean`` what is proposed
    to be logged, ``passes`` how often. ``take`` is None until it is over, and where it was
    something else."""

    state: Listening
    share: float = 1.0
    take: Take | None = None
    clean: bool = False
    passes: int = 0


def listen(
    played: Sequence[PlayedBar],
    heard: Sequence[Heard],
    now: float,
    asked: float,
    needed: int,
    rule: Rule,
    source: Source,
) -> Listened:
    """``asked``: the share of the music's tempo that stands on the page; ``needed``: clean
    passes in a row that earn a rung; ``now``: seconds on the strokes' clock."""
    strokes = sorted(heard, key=lambda one: one.at)
    music = perform(played, count_in=True)
    counted = counted_in(strokes, [one.at for one in music.clicks if one.counted_in], asked)
    if counted is None:
        return Listened(Listening.WAITING)
    after = strokes[counted.strokes :]
    if not after:
        state = Listening.COUNTED if now < counted.begins + SILENT else Listening.WAITING
        return Listened(state, counted.share)
    bar = music.bars[0].seconds / counted.share
    if now - after[-1].at < max(SILENT, bar):
        return Listened(Listening.PLAYING, counted.share)
    take = _whole_passes(played, after, counted, rule, source)
    if take is None:
        return Listened(Listening.DONE, counted.share)
    found, share = take
    passes = len(found.judged.passes)
    in_a_row = found.judged.in_a_row
    clean = found.judged.clean == passes or in_a_row >= needed
    near = share if abs(share / asked - 1) > SAME else asked
    return Listened(Listening.DONE, near, found, clean, in_a_row if clean else passes)


def counted_in(
    strokes: Sequence[Heard], counts: Sequence[float], asked: float
) -> CountIn | None:
    """``counts``: when the music is counted in at its own tempo, in seconds before its start.

    Even strokes on one thing, each alone, and the next stroke not before the first beat.
    """
    many = len(counts)
    if many < 2:
        return None
    beat = min(after - before for before, after in pairwise(counts))
    for first in range(len(strokes) - many + 1):
        mine = strokes[first : first + many]
        slope = (mine[-1].at - mine[0].at) / (counts[-1] - counts[0])
        if len({one.drum for one in mine}) > 1 or slope <= 0:
            continue
        share = 1 / slope
        begins = mine[0].at - slope * counts[0]
        even = all(
            abs(one.at - begins - slope * at) <= EVEN * beat * slope
            for one, at in zip(mine, counts, strict=True)
        )
        after = strokes[first + many] if first + many < len(strokes) else None
        waits = after is None or after.at >= begins - EARLY * beat * slope
        near = SLOWEST * asked <= share <= FASTEST * asked
        if near and even and waits and _alone(mine, strokes, begins):
            return CountIn(share, begins, first + many)
    return None


def _alone(mine: Sequence[Heard], strokes: Sequence[Heard], begins: float) -> bool:
    """Is nothing else struck with any of them, before the music begins?"""
    others = [one for one in strokes if one.at < begins and one not in mine]
    return all(abs(one.at - other.at) > ALONE for one in mine for other in others)


def _whole_passes(played, strokes, counted: CountIn, rule, source) -> tuple[Take, float] | None:
    """The take and the share of its tempo; None where too little of it was this music."""
    from_start = [Heard(one.at - counted.begins, one.drum, one.strength) for one in strokes]
    share = _fine(counted.share)
    music = perform(played, share)
    behind = from_start[-1].at - music.onsets[-1].at  # the last stroke of one time through
    most = max(1, min(MOST_PASSES, round(behind / music.seconds) + 1))
    rough = hear(played, from_start, most, rule, source, share=share)
    bars = len(rough.performance.bars)
    asked = sum(len(bar.strokes) for bar in expected_bars(rough.performance, 1, source))
    found = Counter(one.expected.bar // bars for one in rough.followed.matched)
    whole = [number for number in range(most) if found[number] >= THIS * asked]
    if not whole or abs(rough.figures.pace.faster) > UNLIKE:
        return None
    passes = max(whole) + 1
    ends = max(
        one.heard.at for one in rough.followed.matched if one.expected.bar < passes * bars
    )
    mine = [one for one in from_start if one.at <= ends + ALONE]
    share = _fine(counted.share * (1 + rough.figures.pace.faster))
    return hear(played, mine, passes, rule, source, share=share), float(share)


def _fine(share: float) -> Fraction:
    return Fraction(share).limit_denominator(FINE)
