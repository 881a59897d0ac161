"""How late everything is and how fast, along a take: what is taken off before one limb is
compared with another. Who gets faster evenly has no late foot."""

from collections import defaultdict
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from statistics import median

from wren_ladder.drumming.takes.expected import Expected
from wren_ladder.drumming.takes.following import Matched

ENOUGH = 4  # strokes that a line stands on at least
LOCAL = 24  # strokes that say how late everything is about a bar
NEARBY = 2  # bars before and behind it that are asked at first
TURNS = 2  # bars that a pace lasts at least
STEADY, TURNED, CLEARER = 0.015, 0.03, 0.4  # of the tempo, and of what a single line leaves


@dataclass(frozen=True, slots=True)
class Turn:
    """The bar (of all passes in turn) from which on it was played ``faster``, as a share of the
    tempo that was asked for; it was steady until then."""

    bar: int
    faster: float


@dataclass(frozen=True, slots=True)
class Pace:
    """``offset``: seconds that everything is late at the beginning. ``faster``: of the tempo
    that was asked for, 0.01 for one per cent; ``start`` and ``end``: the same of the first and
    the last third, where there is enough of each."""

    offset: float
    faster: float
    start: float = 0.0
    end: float = 0.0
    turn: Turn | None = None


@dataclass(slots=True)
class _Line:
    """Least squares through (seconds of the music, seconds late), added up."""

    n: int = 0
    x: float = 0.0
    y: float = 0.0
    xx: float = 0.0
    xy: float = 0.0
    yy: float = 0.0

    def add(self, x: float, y: float) -> None:
        self.n += 1
        self.x, self.y = self.x + x, self.y + y
        self.xx, self.xy, self.yy = self.xx + x * x, self.xy + x * y, self.yy + y * y

    def __add__(self, other: "_Line") -> "_Line":
        return _Line(
            self.n + other.n, self.x + other.x, self.y + other.y,
            self.xx + other.xx, self.xy + other.xy, self.yy + other.yy,
        )  # fmt: skip

    @property
    def across(self) -> float:
        return self.xx - self.x * self.x / self.n if self.n else 0.0

    @property
    def along(self) -> float:
        return self.xy - self.x * self.y / self.n if self.n else 0.0

    @property
    def slope(self) -> float:
        return self.along / self.across if self.across > 1e-9 else 0.0

    @property
    def left(self) -> float:
        """What is left of the squares."""
        whole = self.yy - self.y * self.y / self.n if self.n else 0.0
        return max(0.0, whole - self.slope * self.along)

    def at(self, x: float) -> float:
        return self.y / self.n + self.slope * (x - self.x / self.n) if self.n else 0.0


def paced(
    matched: Sequence[Matched], aside: Callable[[Expected], bool] = lambda one: False
) -> tuple[Pace, list[tuple[Matched, float]]]:
    """(the pace, seconds late of each stroke once that is taken off). Strokes ``aside``, which
    are those of fills, do not say how late everything is."""
    if len(matched) < ENOUGH:
        offset = median(one.off for one in matched) if matched else 0.0
        return Pace(offset, 0.0), [(one, one.off - offset) for one in matched]
    runs = defaultdict(list)
    for one in matched:
        runs[one.run].append(one)
    residuals, lines = [], {}
    for run, mine in runs.items():
        bars = _by_bar(mine, aside)
        lines[run] = sum(bars.values(), _Line())
        residuals += _left(mine, bars)
    order = {id(one): place for place, one in enumerate(matched)}
    residuals.sort(key=lambda pair: order[id(pair[0])])
    across = sum(line.across for line in lines.values())
    slope = sum(line.along for line in lines.values()) / across if across > 1e-9 else 0.0
    first = lines[min(lines)]
    offset = first.y / first.n - slope * first.x / first.n
    longest = max(runs, key=lambda run: len(runs[run]))
    return _pace(offset, slope, _by_bar(runs[longest], aside)), residuals


def _by_bar(matched: Sequence[Matched], aside) -> dict[int, _Line]:
    """In the order of the music; with what is aside where there is nothing else."""
    beside = [one for one in matched if not aside(one.expected)]
    known = beside if len(beside) >= ENOUGH else matched
    found: dict[int, _Line] = {one.expected.bar: _Line() for one in matched}
    for one in known:
        found[one.expected.bar].add(one.expected.at, one.off)
    return dict(sorted(found.items()))


def _left(matched: Sequence[Matched], bars: dict[int, _Line]):
    """Of each stroke of a run, against the line through the strokes of the bars about it."""
    numbers, lines = list(bars), list(bars.values())
    about = {}
    for place, bar in enumerate(numbers):
        far = NEARBY
        while True:
            low, high = max(0, place - far), place + far + 1
            line = sum(lines[low:high], _Line())
            if line.n >= LOCAL or (low == 0 and high >= len(lines)):
                break
            far += 1
        about[bar] = line
    return [(one, one.off - about[one.expected.bar].at(one.expected.at)) for one in matched]


def _pace(offset: float, slope: float, bars: dict[int, _Line]) -> Pace:
    lines, third = list(bars.values()), len(bars) // 3
    start = end = _faster(slope)
    if third >= TURNS:
        start = _faster(sum(lines[:third], _Line()).slope)
        end = _faster(sum(lines[-third:], _Line()).slope)
    return Pace(offset, _faster(slope), start, end, _turn(bars))


def _faster(slope: float) -> float:
    return 1 / (1 + slope) - 1


def _turn(bars: dict[int, _Line]) -> Turn | None:
    """Where two lines say clearly more than one: steady before, and not behind it."""
    numbers, lines = list(bars), list(bars.values())
    behind = [_Line()]
    for line in reversed(lines):
        behind.append(line + behind[-1])
    behind.reverse()
    whole, best, before = behind[0], None, _Line()
    for place, line in enumerate(lines):
        before, rest = before + line, behind[place + 1]
        if place + 1 < TURNS or len(lines) - place - 1 < TURNS:
            continue
        left = before.left + rest.left
        if best is None or left < best[0]:
            best = (left, numbers[place + 1], before.slope, rest.slope)
    if best is None or best[0] > CLEARER * whole.left:
        return None
    _, bar, first, then = best
    if abs(_faster(first)) > STEADY or abs(_faster(then)) < TURNED:
        return None
    return Turn(bar, _faster(then))
