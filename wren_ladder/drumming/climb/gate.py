"""The gate: what earns a rung. Common practice, no source."""

from dataclasses import dataclass

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.wording import Coded

MOST_PASSES_NEEDED = 8
MOST_TRIES = 20


class GateKind(Coded):
    ROW = "row", "clean bars in a row"
    TRIES = "tries", "clean tries out of tries"
    DAYS = "days", "in a row, on different days"


@dataclass(frozen=True, slots=True)
class Gate:
    """``clean_bars`` in a row, on as many ``days`` as asked; or so many ``clean`` of the last
    ``tries``. ``failures`` in a row call for a drop by so many rungs."""

    kind: GateKind = GateKind.ROW
    clean_bars: int = 32
    clean: int = 3
    tries: int = 4
    days: int = 2
    failures: int = 2
    drop: int = 1

    def __post_init__(self) -> None:
        if not 1 <= self.clean <= self.tries <= MOST_TRIES:
            raise ChartError(f"{self.clean} clean of {self.tries} tries is no gate")
        if self.drop < 1 or self.failures < 1:
            raise ChartError("failed tries call for a drop of a rung or more")

    def passes(self, bars: int) -> int:
        """Clean passes in a row for a step of so many bars."""
        return passes_needed(bars, self.clean_bars)

    def passes_a_day(self, bars: int) -> int:
        """Clean passes that a day of practice asks for at a rung: the row, or one a try."""
        return self.clean if self.kind is GateKind.TRIES else self.passes(bars)

    @property
    def least_days(self) -> int:
        """Practice days that a rung takes at the least."""
        return self.days if self.kind is GateKind.DAYS else 0

    def spoken(self, bars: int) -> str:
        """ "8 clean times through in a row", "3 clean tries of the last 4"."""
        if self.kind is GateKind.TRIES:
            return f"{self.clean} clean tries of the last {self.tries}"
        passes = self.passes(bars)
        row = f"{passes} clean time{'' if passes == 1 else 's'} through in a row"
        return row if self.kind is GateKind.ROW else f"{row}, on {self.days} different days"


USUAL = Gate()


def passes_needed(bars: int, clean_bars: int = 32) -> int:
    """Clean passes in a row for a step of so many bars: 32 bars' worth, at most 8.

    An 8-bar step needs 4, a 1-bar step 8 (common practice, no source).
    """
    return min(MOST_PASSES_NEEDED, -(-clean_bars // bars))
