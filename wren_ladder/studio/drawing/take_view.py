"""A take drawn: each limb a lane, each stroke a dot where it stands in the music, above the
line where it came early and below where it came late."""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.performance import Performance
from wren_ladder.drumming.takes.following import Matched

LEFT, TOP, LANE, WIDTH = 112, 26, 84, 900
SCALE = 60.0  # milliseconds from the line to a lane's edge
HALF = 34  # of a lane, pixels


@dataclass(frozen=True, slots=True)
class Dot:
    x: float
    y: float
    spoken: str


@dataclass(frozen=True, slots=True)
class TakeLane:
    limb: str
    y: float
    dots: tuple[Dot, ...]


@dataclass(frozen=True, slots=True)
class TakeView:
    width: float
    height: float
    left: float
    beats: tuple[tuple[float, bool], ...]  # x, and whether a bar begins there
    lanes: tuple[TakeLane, ...]
    early: float  # pixels of the scale above and below a line
    milliseconds: int


def take_view(residuals: Sequence[tuple[Matched, float]], performance: Performance) -> TakeView:
    """All passes over one another, so that what comes again is seen."""
    lanes, whole = [], performance.seconds
    for limb in Limb:
        mine = [(one, late) for one, late in residuals if one.expected.limb is limb]
        if mine:
            lanes.append(_lane(limb.value, mine, len(lanes), whole))
    nobody = [(one, late) for one, late in residuals if one.expected.limb is None]
    if nobody:
        lanes.append(_lane("together", nobody, len(lanes), whole))
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
        lanes=tuple(lanes),
        early=HALF,
        milliseconds=round(SCALE),
    )


def _lane(name: str, mine, place: int, whole: float) -> TakeLane:
    y = TOP + LANE * place + LANE / 2
    dots = tuple(
        Dot(
            _x(one.expected.onset.at, whole),
            round(y + HALF * max(-1.0, min(1.0, 1000 * late / SCALE)), 1),
            f"{abs(round(1000 * late))} ms {'late' if late > 0 else 'early'}",
        )
        for one, late in mine
    )
    return TakeLane(name, y, dots)


def _x(at: float, whole: float) -> float:
    return round(LEFT + (WIDTH - LEFT - 20) * at / whole, 1)
