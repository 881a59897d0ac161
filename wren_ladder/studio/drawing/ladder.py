"""The ladder: rungs are tempos, a bird for every step of the plan, the flag on top.

The lowest bird is the piece's speed, and marked.
"""

from collections.abc import Sequence
from dataclasses import dataclass

WIDTH, TOP, BOTTOM, GROUND = 330, 62, 290, 316
LEFT_FOOT, RIGHT_FOOT, LEAN = 96, 246, 18
MOST_LABELS = 12
LABEL = 13  # high; a rung that close below the target goes without its number
MOST_BIRDS = 5  # on one rung; more are counted
BIRD = 22


@dataclass(frozen=True, slots=True)
class Climber:
    """What the ladder is told of one step; ``held`` is None on the ground."""

    name: str
    held: int | None
    slowest: bool = False
    chosen: bool = False


@dataclass(frozen=True, slots=True)
class Rung:
    bpm: int
    y: float
    x1: float
    x2: float
    label: bool
    reached: bool


@dataclass(frozen=True, slots=True)
class Bird:
    x: float
    y: float
    name: str
    slowest: bool
    chosen: bool


@dataclass(frozen=True, slots=True)
class More:
    x: float
    y: float
    text: str


@dataclass(frozen=True, slots=True)
class LadderView:
    width: int
    height: int
    rungs: tuple[Rung, ...]
    birds: tuple[Bird, ...]
    more: tuple[More, ...]
    mark_y: float | None  # the dashed line at the piece's speed
    mark_name: str
    chosen_y: float | None  # of the step at hand, unless it is the slowest itself
    chosen_name: str
    flag_y: float
    flag_lines: tuple[str, ...]
    rails: tuple[tuple[float, float, float, float], ...]
    ground: float
    spoken: str


def ladder_view(
    rungs: Sequence[int],
    climbers: Sequence[Climber],
    flag_lines: Sequence[str] = (),
) -> LadderView:
    """Lay out a ladder; every climber stands on the highest rung it holds.

    ``flag_lines`` is what stands beside the flag, such as the exam's date.
    """
    low, high = rungs[0], rungs[-1]

    def y_of(bpm: int) -> float:
        share = (bpm - low) / (high - low) if high > low else 1
        return round(BOTTOM - share * (BOTTOM - TOP), 1)

    every = -(-len(rungs) // MOST_LABELS)
    slowest = next((climber for climber in climbers if climber.slowest), None)
    chosen = next((one for one in climbers if one.chosen and not one.slowest), None)
    speed = slowest.held if slowest else None
    birds, more = _perch(rungs, climbers, y_of)
    return LadderView(
        width=WIDTH,
        height=GROUND + 22,
        rungs=tuple(
            Rung(
                bpm,
                y_of(bpm),
                *_rail_x(y_of(bpm)),
                label=(len(rungs) - 1 - place) % every == 0
                and (bpm == high or y_of(bpm) - y_of(high) >= LABEL),
                reached=speed is not None and bpm <= speed,
            )
            for place, bpm in enumerate(rungs)
        ),
        birds=birds,
        more=more,
        mark_y=_perch_y(slowest, rungs, y_of) if slowest else None,
        mark_name=slowest.name if slowest else "",
        chosen_y=_perch_y(chosen, rungs, y_of) if chosen else None,
        chosen_name=chosen.name if chosen else "",
        flag_y=TOP,
        flag_lines=tuple(flag_lines),
        rails=tuple(
            (x_low, GROUND, x_high, TOP - 28)
            for x_low, x_high in zip(_rail_x(GROUND), _rail_x(TOP - 28), strict=True)
        ),
        ground=GROUND,
        spoken=_speak(rungs, climbers),
    )


def _rail_x(y: float) -> tuple[float, float]:
    share = (GROUND - y) / (GROUND - TOP)
    return round(LEFT_FOOT + LEAN * share, 1), round(RIGHT_FOOT - LEAN * share, 1)


def _rung_of(held: int | None, rungs: Sequence[int]) -> int | None:
    if held is None:
        return None
    return max((rung for rung in rungs if rung <= held), default=None)


def _perch_y(climber: Climber, rungs: Sequence[int], y_of) -> float:
    rung = _rung_of(climber.held, rungs)
    return GROUND if rung is None else y_of(rung)


def _perch(rungs: Sequence[int], climbers: Sequence[Climber], y_of):
    """Birds side by side on their rungs, the slowest first, a count where it is full."""
    by_rung: dict[float, list[Climber]] = {}
    for climber in sorted(climbers, key=lambda one: (not one.slowest, not one.chosen)):
        by_rung.setdefault(_perch_y(climber, rungs, y_of), []).append(climber)
    birds, more = [], []
    for y, flock in by_rung.items():
        left, right = _rail_x(y)
        shown = flock[:MOST_BIRDS]
        middle = (left + right) / 2 - BIRD * (len(shown) - 1) / 2
        for place, climber in enumerate(shown):
            x = round(middle + BIRD * place, 1)
            birds.append(Bird(x, y, _say(climber), climber.slowest, climber.chosen))
        if len(flock) > len(shown):
            more.append(More(right + 8, y, f"+{len(flock) - len(shown)}"))
    return tuple(birds), tuple(more)


def _say(climber: Climber) -> str:
    if climber.held is None:
        return f"{climber.name}: not begun"
    return f"{climber.name}: {climber.held}"


def _speak(rungs: Sequence[int], climbers: Sequence[Climber]) -> str:
    steps = "; ".join(_say(climber) for climber in climbers) or "no steps"
    return f"Ladder from {rungs[0]} to {rungs[-1]}. {steps}"
