"""How much music is taken: more than any drummer plays, and what one machine can draw for many.

Common practice, no source: the densest bar that is taught is a bar of demisemiquavers for all
limbs in 12/8, some 200 strokes.
"""

from collections.abc import Sequence

from wren_ladder.drumming.chart.bar import Bar
from wren_ladder.drumming.chart.problems import ChartError

MOST_IN_A_BAR = 320
MOST_IN_ALL = 16_000


def check_size(bars: Sequence[Bar]) -> None:
    """ChartError where it is too much, with the bar."""
    strokes = 0
    for bar in bars:
        if len(bar.hits) > MOST_IN_A_BAR:
            said = f"{len(bar.hits)} strokes; a bar has at most {MOST_IN_A_BAR}"
            raise ChartError(
                f"{said}. Is its metre, or its grid, what was meant?", bar=bar.number
            )
        strokes += len(bar.hits)
        if strokes > MOST_IN_ALL:
            said = f"more than {MOST_IN_ALL} strokes up to here; make two pieces of it"
            raise ChartError(said, bar=bar.number)
