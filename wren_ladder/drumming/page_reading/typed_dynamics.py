"""The dynamics of printed bars as they are typed: at which stroke each stands, and what must be
said again in a bar that looks like one with another dynamic."""

from collections.abc import Sequence
from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, ChartError, Mark, MarkKind
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.notation.counts.marks import write_marks
from wren_ladder.drumming.page_reading.bars.read_bar import ReadBar
from wren_ladder.drumming.page_reading.found import SPACE
from wren_ladder.drumming.page_reading.proposed import meter_of

FAR = 2.5 * SPACE  # from the stroke that it is for, at most
MOMENTS = ("sfz", "fp")  # hold for one stroke


@dataclass(frozen=True, slots=True)
class Dynamic:
    """At a place of its bar, in crotchets; None where it stands at no stroke that was read."""

    text: str
    at: Fraction | None


@dataclass(frozen=True, slots=True)
class BarDynamics:
    """Of one bar, from left to right."""

    found: tuple[Dynamic, ...] = ()

    @property
    def opening(self) -> str:
        return next((one.text for one in self.found if one.at == 0), "")

    @property
    def later(self) -> tuple[Dynamic, ...]:
        return tuple(one for one in self.found if one.at != 0)

    @property
    def lost(self) -> tuple[str, ...]:
        return tuple(one.text for one in self.found if one.at is None)

    def held_after(self, before: str) -> str:
        lasting = [one.text for one in self.found if one.text not in MOMENTS]
        return lasting[-1] if lasting else before


def placed(printed: Sequence[tuple[str, float]], read: ReadBar | None) -> BarDynamics:
    """Dynamics (text, x in pixels of the bar's ink) at the strokes they stand at; well before
    the first one they are for the bar's beginning."""
    strokes = read.strokes if read else ()
    first = min((one.x for one in strokes), default=0.0)
    found = []
    for text, x in sorted(printed, key=lambda one: one[1]):
        near = min(strokes, key=lambda one: abs(one.x - x), default=None)
        if near and abs(near.x - x) < FAR:
            at: Fraction | None = near.at
        else:
            at = Fraction(0) if near is None or (x < near.x and near.x == first) else None
        found.append(Dynamic(text, at))
    return BarDynamics(tuple(found))


def typed(dynamics: BarDynamics, read: ReadBar | None) -> list[str]:
    """As they are typed, "dynamics p 1 f 3"; those that stand at no stroke are not."""
    length = read.length if read and read.length else Fraction(4)
    try:
        bar = Bar("1", meter_of(length, bool(read and read.in_threes)))
        marks = [
            Mark(one.at, MarkKind.DYNAMIC, one.text)
            for one in dynamics.found
            if one.at is not None
        ]
        return write_marks(tuple(marks), Positions.of(bar))
    except ChartError:
        return []


def said_again(own: BarDynamics, like: BarDynamics, holds: str) -> str:
    """The dynamic that holds at a bar which looks like another, where nothing is printed there
    and the other begins with another one: it would be copied. "" where there is no need."""
    copied = not own.opening and like.opening not in ("", holds)
    return holds if copied else ""
