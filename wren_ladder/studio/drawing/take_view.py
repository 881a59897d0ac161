"""A take drawn: each limb a lane with its notes, each stroke a dot where it stands in the
music, above the line where it came early and below where it came late."""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.performance import OnsetKind, Performance
from wren_ladder.drumming.study import BarStudy
from wren_ladder.drumming.takes.following import Matched

LEFT, TOP, LANE, WIDTH = 150, 30, 84, 900
SCALE = 60.0  # milliseconds from the line to a lane's edge
HALF = 34  # of a lane, pixels
ROOM = 34  # pixels a syllable needs


@dataclass(frozen=True, slots=True)
class Dot:
    x: float
    y: float
    spoken: str


@dataclass(frozen=True, slots=True)
class NoteMark:
    """A note that is asked for, on its limb's line."""

    x: float
    glyph: str


@dataclass(frozen=True, slots=True)
class TakeLane:
    limb: str
    y: float
    notes: tuple[NoteMark, ...]
    dots: tuple[Dot, ...]
    then: tuple[Dot, ...]  # of the earlier take


@dataclass(frozen=True, slots=True)
class TakeView:
    width: float
    height: float
    left: float
    beats: tuple[tuple[float, bool], ...]  # x, and whether a bar begins there
    counts: tuple[tuple[float, str], ...]  # x, and what is said there
    lanes: tuple[TakeLane, ...]
    early: float  # pixels of the scale above and below a line
    milliseconds: int


def take_view(
    residuals: Sequence[tuple[Matched, float]],
    performance: Performance,
    bars: Sequence[BarStudy] = (),
    then: Sequence[tuple[Matched, float]] = (),
    performance_then: Performance | None = None,
) -> TakeView:
    """All passes over one another, so that what comes again is seen; ``then``: of an earlier
    take of the same bars, at its own tempo."""
    lanes, whole = [], performance.seconds
    mains = [one for one in performance.onsets if one.kind is OnsetKind.MAIN]
    for limb in (*Limb, None):
        mine = [(one, late) for one, late in residuals if one.expected.limb is limb]
        before = [(one, late) for one, late in then if one.expected.limb is limb]
        if mine or before:
            notes = [one for one in mains if limb is None or one.limb is limb]
            name = limb.value if limb else "together"
            y = TOP + LANE * len(lanes) + LANE / 2
            earlier = _dots(before, y, performance_then.seconds) if performance_then else ()
            marks = tuple(NoteMark(_x(one.at, whole), one.drum.row.glyph) for one in notes)
            lanes.append(TakeLane(name, y, marks, _dots(mine, y, whole), earlier))
    firsts = {round(span.at, 6) for span in performance.bars}
    return TakeView(
        width=WIDTH,
        height=TOP + LANE * len(lanes),
        left=LEFT,
        beats=tuple(
            (_x(click.at, whole), round(click.at, 6) in firsts)
            for click in performance.clicks
            if not click.counted_in
        ),
        counts=tuple(_counts(performance, bars)),
        lanes=tuple(lanes),
        early=HALF,
        milliseconds=round(SCALE),
    )


def _dots(found: Sequence[tuple[Matched, float]], y: float, whole: float) -> tuple[Dot, ...]:
    return tuple(
        Dot(
            _x(one.expected.onset.at, whole),
            round(y + HALF * max(-1.0, min(1.0, 1000 * late / SCALE)), 1),
            f"{abs(round(1000 * late))} ms {'late' if late > 0 else 'early'}",
        )
        for one, late in found
    )


def _counts(performance: Performance, bars: Sequence[BarStudy]):
    """Every syllable where there is room, else the beats, else nothing but the bars' first."""
    if len(bars) != len(performance.bars):
        return
    many = sum(len(bar.counts) for bar in bars)
    beats = sum(count.main for bar in bars for count in bar.counts)
    room = (WIDTH - LEFT) / ROOM
    for span, bar in zip(performance.bars, bars, strict=True):
        for count in bar.counts:
            if many <= room or (count.main and beats <= room) or not count.at:
                share = float(count.at / span.length)
                yield _x(span.at + span.seconds * share, performance.seconds), count.say


def _x(at: float, whole: float) -> float:
    return round(LEFT + (WIDTH - LEFT - 20) * at / whole, 1)
