"""How long bars last at their tempos."""

from collections.abc import Iterable, Sequence
from fractions import Fraction

from wren_ladder.drumming.chart import Chart, Tempo
from wren_ladder.drumming.performance.clock import seconds
from wren_ladder.drumming.roadmap import Visit


def bars_seconds(
    bars: Iterable[tuple[Fraction, Tempo]], share: Fraction = Fraction(1)
) -> float:
    """Of (length in crotchets, tempo) each, one after the other."""
    return sum(seconds(length, tempo, share) for length, tempo in bars)


def road_seconds(chart: Chart, visits: Sequence[Visit], bpm: int | None = None) -> float:
    """How long the visits last, in seconds, at the printed tempos.

    With ``bpm`` the opening tempo becomes that many beats a minute and every later mark
    is scaled alike. A mark holds on the page until the next, whatever jumps come between.
    """
    share = Fraction(bpm, chart.tempo.bpm) if bpm else Fraction(1)
    bars = zip(chart.bars, chart.tempos, strict=True)
    lengths = [seconds(bar.length, tempo, share) for bar, tempo in bars]
    return sum(lengths[visit.index] for visit in visits)
