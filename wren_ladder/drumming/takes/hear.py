"""A take from beginning to end: heard strokes in, what is said of them out."""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.performance import Performance, PlayedBar, perform
from wren_ladder.drumming.takes.expected import expected_bars
from wren_ladder.drumming.takes.figures import Figures, measured
from wren_ladder.drumming.takes.fills import FillFigures, fill_figures
from wren_ladder.drumming.takes.following import Followed, follow
from wren_ladder.drumming.takes.heard import Heard, Source, without_double_triggers
from wren_ladder.drumming.takes.judged import Judged, judged
from wren_ladder.drumming.takes.limits import Limits, Rule
from wren_ladder.drumming.takes.ornaments import Ornaments, ornaments


@dataclass(frozen=True, slots=True)
class Take:
    performance: Performance  # one pass, as it was asked for
    followed: Followed
    figures: Figures
    fill: FillFigures | None
    ornaments: Ornaments | None
    limits: Limits  # by which it was judged
    judged: Judged


def hear(
    played: Sequence[PlayedBar],
    heard: Sequence[Heard],
    passes: int,
    rule: Rule,
    source: Source,
    latency: float = 0.0,
    share=1,
    empty_bars: int = 0,
) -> Take:
    """``latency``: seconds that the set-up is late, as calibrated; taken off at first."""
    performance = perform(played, share, empty_bars=empty_bars)
    bars = expected_bars(performance, passes, source)
    strokes = without_double_triggers(
        tuple(Heard(one.at - latency, one.drum, one.strength) for one in heard)
    )
    followed = follow(bars, strokes)
    figures = measured(followed, performance, source)
    fill = fill_figures(figures, played)
    graces = None
    if source.names_drums:
        graces = ornaments(followed.matched, strokes, performance, played)
    limits = rule.limits(performance)
    found = judged(bars, played, performance, followed, figures, fill, graces, limits)
    return Take(performance, followed, figures, fill, graces, limits, found)
