"""Charts for property tests, made by hypothesis: anything the model holds."""

from dataclasses import replace
from fractions import Fraction

from hypothesis import strategies as st

from wren_ladder.drumming.chart import (
    DYNAMICS,
    GRADUAL,
    SPANS,
    Bar,
    Chart,
    Drum,
    Grace,
    Hand,
    Hit,
    Jump,
    JumpTo,
    Mark,
    MarkKind,
    Meter,
    Roll,
    RollKind,
    Tempo,
    Times,
    Touch,
    Until,
)
from wren_ladder.drumming.chart.hit import ROLL_COUNTS
from wren_ladder.drumming.chart.serial import SIGNS
from wren_ladder.drumming.chart.swing import STRAIGHT, Swing
from wren_ladder.drumming.chart.tempo import BEAT_NAMES
from wren_ladder.drumming.notation.lengths import keep_lengths

METERS = ["2/4", "3/4", "4/4", "5/4", "3/8", "5/8", "6/8", "7/8", "9/8", "12/8", "2/2"]
METERS += ["3+2+2/8", "3+3+2/8", "4+2+3/16"]
GRIDS = [Fraction(1), Fraction(1, 2), Fraction(1, 4), Fraction(1, 3), Fraction(1, 6)]
ODD_GRIDS = [*GRIDS, Fraction(1, 8), Fraction(1, 5)]

meters = st.sampled_from(METERS).map(Meter.parse)
swings = st.sampled_from(
    (STRAIGHT, Swing(Fraction(1, 2)), Swing(Fraction(1, 4), Fraction(3, 5)))
)
tempos = st.builds(
    Tempo, st.sampled_from(sorted(set(BEAT_NAMES.values()))), st.integers(20, 400)
)
jumps = st.builds(
    Jump, st.sampled_from(JumpTo), st.sampled_from(Until), st.sampled_from([None, True, False])
)
words = st.text("abcdefgh ÄéÑ-'", min_size=1, max_size=12).map(
    lambda text: " ".join(text.split())
)


times = st.builds(
    Times, st.lists(st.integers(1, 4), min_size=1, max_size=3).map(tuple), st.booleans()
)


@st.composite
def rolls(draw, room: Fraction) -> Roll:
    length = draw(st.sampled_from([room, room / 2, min(room, Fraction(1))]))
    kind = draw(st.sampled_from(RollKind))
    counted = kind is not RollKind.BUZZ and draw(st.booleans())
    tied = length == room and draw(st.booleans())
    return Roll(kind, length, draw(st.sampled_from(ROLL_COUNTS)) if counted else None, tied)


@st.composite
def hits(draw, at: Fraction, length: Fraction) -> Hit:
    drum = draw(st.sampled_from(Drum))
    touch = draw(st.sampled_from(Touch))
    if drum.by_foot:
        return Hit(at, drum, touch)
    hand = draw(st.none() | st.sampled_from(Hand))
    if draw(st.integers(0, 7)) == 0:
        return Hit(at, drum, touch, Grace.NONE, draw(rolls(length - at)), hand)
    written = draw(st.none() | st.none() | st.integers(1, 8).map(lambda n: n * Fraction(1, 4)))
    grace = draw(st.sampled_from(Grace))
    return Hit(at, drum, touch, grace, None, hand, written)


@st.composite
def marks(draw, room: Fraction) -> Mark:
    at = draw(st.integers(0, int(room * 2) - 1)) * Fraction(1, 2) if room >= 1 else Fraction(0)
    kind = draw(st.sampled_from(MarkKind))
    if kind is MarkKind.DYNAMIC:
        return Mark(at, kind, draw(st.sampled_from(DYNAMICS)))
    if kind is MarkKind.CUE:
        return Mark(at, kind, draw(st.sampled_from(["band only", "play 8 times", "soli"])))
    if kind in SPANS:
        goals = st.integers(20, 400).map(str) if kind in GRADUAL else st.nothing()
        goal = draw(st.just("") | goals)
        return Mark(at, kind, goal, draw(st.integers(1, 20)) * Fraction(1, 2))
    return Mark(at, kind)


@st.composite
def bars(draw, number: str = "1", grids=tuple(ODD_GRIDS), meter: Meter | None = None) -> Bar:
    meter = meter or draw(meters)
    length = meter.length
    if number == "0" or draw(st.integers(0, 9)) == 0:
        length = draw(st.integers(1, meter.beats)) * meter.count_length
    made: dict = {}
    for _ in range(draw(st.integers(0, 10))):
        grid = draw(st.sampled_from(grids))
        at = draw(st.integers(0, int(length / grid))) * grid
        if at < length:
            hit = draw(hits(at, length))
            made[at, hit.drum.surface] = hit
    found = {
        (mark.at, MarkKind.RIT if mark.kind in GRADUAL else mark.kind): mark
        for mark in draw(st.lists(marks(length), max_size=3))
    }
    passes = draw(st.sampled_from([0, 0, 0, 2, 3, 16]))
    bar = Bar(
        number,
        meter,
        tuple(made.values()),
        length,
        section=draw(st.just("") | words),
        repeat_start=draw(st.booleans()),
        repeat_passes=passes,
        vamp=bool(passes) and draw(st.integers(0, 3)) == 0,
        times=draw(st.none() | st.none() | times),
        tempo=draw(st.none() | tempos),
        swing=draw(st.none() | swings),
        endings=draw(st.just(()) | st.sampled_from([(1,), (2,), (1, 2), (3,)])),
        jump=draw(st.none() | st.none() | jumps),
        marks=tuple(found.values()),
        note=draw(st.just("") | words),
        **{sign: True for sign in SIGNS if draw(st.integers(0, 7)) == 0},
    )
    return replace(bar, hits=keep_lengths(bar.hits, bar))


@st.composite
def signed_bars(draw, number: str) -> Bar:
    """A bar without hits, with any signs of the road."""
    return Bar(
        number,
        Meter(4, 4),
        repeat_start=draw(st.integers(0, 3)) == 0,
        repeat_passes=draw(st.sampled_from([0, 0, 0, 2, 3])),
        endings=draw(st.just(()) | st.sampled_from([(1,), (2,), (1, 2), (3,), (5,)])),
        jump=draw(st.none() | st.none() | jumps),
        **{sign: True for sign in SIGNS if draw(st.integers(0, 5)) == 0},
    )


@st.composite
def pages(draw) -> tuple[Bar, ...]:
    """Bars whose signs are in any order, sensible or not."""
    return tuple(draw(signed_bars(str(n))) for n in range(1, draw(st.integers(2, 11))))


@st.composite
def charts(draw, most: int = 6, grids=tuple(ODD_GRIDS)) -> Chart:
    first = draw(st.sampled_from([0, 1]))
    made: list[Bar] = []
    for index in range(draw(st.integers(1, most))):
        number = str(first + index)
        if made and number != "0" and draw(st.booleans()):
            again = draw(st.sampled_from(made))
            if not again.pickup:
                bar = Bar(number, again.meter, again.hits, again.length)
                made.append(replace(bar, marks=again.marks))
                continue
        sign = draw(st.sampled_from([0, 0, 1, 2]))
        if sign and len(made) >= sign and not made[-sign].pickup:
            crash = draw(st.booleans())
            meter = made[-sign].meter
            made.append(Bar(number, meter, again=sign, crash_again=crash))
            continue
        made.append(draw(bars(number, grids)))
    return Chart(draw(st.just("") | words), tuple(made))
