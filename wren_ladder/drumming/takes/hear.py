"""A take from beginning to end: heard strokes in, what is said of them out."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.performance import Performance, PlayedBar, perform
from wren_ladder.drumming.take_sources.heard import (
    Heard,
    Source,
    shaken,
    without_double_triggers,
)
from wren_ladder.drumming.takes.expected import expected_bars
from wren_ladder.drumming.takes.figures import Figures, measured
from wren_ladder.drumming.takes.fills import FillFigures, fill_figures, strokes_of_fills
from wren_ladder.drumming.takes.following import (
    Followed,
    follow,
    from_where_it_began,
    without,
)
from wren_ladder.drumming.takes.judged import Judged, judged
from wren_ladder.drumming.takes.limits import Limits, Rule
from wren_ladder.drumming.takes.ornaments import Ornaments, ornaments


@dataclass(frozen=True, slots=True)
class KitFaults:
    """What the kit did by itself: how often a drum's pad answered twice, and how often one was
    shaken by another. Nobody's fault who plays it."""

    twice: dict[Drum | None, int]
    shaken: dict[Drum | None, int]


@dataclass(frozen=True, slots=True)
class Take:
    performance: Performance  # one pass, as it was asked for
    followed: Followed
    figures: Figures
    fill: FillFigures | None
    ornaments: Ornaments | None
    limits: Limits  # by which it was judged
    judged: Judged
    kit: KitFaults


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
    strokes, twice = without_double_triggers(
        tuple(Heard(one.at - latency, one.drum, one.strength) for one in heard)
    )
    # A file may begin with a count, and has no click to be late for.
    found = from_where_it_began if source is Source.FILE else follow
    followed = found(bars, strokes)
    along = shaken(followed.extra, strokes)
    followed = without(followed, along)
    figures = measured(followed, performance, source, _aside(played))
    fill = fill_figures(figures, played)
    graces = None
    if source.names_drums:
        graces = ornaments(followed.matched, strokes, performance, played)
    limits = rule.limits(performance)
    verdict = judged(
        bars, played, performance, followed, figures, fill, graces, limits, source, latency
    )
    kit = KitFaults(dict(twice), dict(Counter(one.drum for one in along)))
    return Take(performance, followed, figures, fill, graces, limits, verdict, kit)


def _aside(played: Sequence[PlayedBar]):
    """Of a fill: it may run away, and does not say how late everything is."""
    fills = strokes_of_fills(played)
    return lambda one: (one.onset.turn, one.onset.hit) in fills
