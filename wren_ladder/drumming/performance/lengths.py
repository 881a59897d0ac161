"""How long bars last at their tempos."""

from collections.abc import Iterable, Sequence

from quicktions import Fraction

from wren_ladder.drumming.chart import Chart
from wren_ladder.drumming.performance.clock import bar_seconds
from wren_ladder.drumming.performance.perform import PlayedBar
from wren_ladder.drumming.roadmap import Visit


def bars_seconds(played: Iterable[PlayedBar], share: Fraction = Fraction(1)) -> float:
    """Of bars one after the other, at ``share`` of their tempos."""
    return sum(bar_seconds(one.bar.length, one.tempo, share, one.graduals) for one in played)


def road_seconds(chart: Chart, visits: Sequence[Visit], bpm: int | None = None) -> float:
    """How long the visits last, in seconds, at the printed tempos.

    With ``bpm`` the opening tempo becomes that many beats a minute and every later mark
    is scaled alike. A mark holds on the page until the next, whatever jumps come between.
    """
    share = Fraction(bpm, chart.tempo.bpm) if bpm else Fraction(1)
    bars = zip(chart.bars, chart.tempos, chart.graduals, strict=True)
    lengths = [bar_seconds(bar.length, tempo, share, graduals) for bar, tempo, graduals in bars]
    return sum(lengths[visit.index] for visit in visits)
