"""The whole chart, line by line: as many bars to a line as their notes leave room for.

Sections start lines. Every line is a drawing of its own, so that no page cuts one.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import Study
from wren_ladder.studio.drawing.engraving import LINE_WIDTH, engrave

ROOM = 62  # what fits a line: one for every moment that is struck or counted, and margins
MOST_ON_A_LINE = 4  # a phrase
BAR_MARGIN = 2
SHORT = 0.6  # of a line
UNITS = 10  # of a drawing's view box to one of the engraver's width


@dataclass(frozen=True, slots=True)
class Line:
    svg: str
    spoken: str


def score_lines(studied: Study, counts: bool, hands: bool) -> tuple[Line, ...]:
    """The lines of a studied chart, with or without the count and the sticking."""
    bars = studied.chart.bars
    sizes = [_size(studied, index, counts) for index in range(len(bars))]
    lines = []
    for first, last in break_lines(bars, sizes):
        same = first and bars[first].meter == bars[first - 1].meter
        layout = Layout(counts=counts, hands=hands, numbers=True, meter=not same)
        width = _width(sum(sizes[first : last + 1]))
        shown = studied.bars[first : last + 1]
        svg = engrave(shown, layout, width, f"l{first}-", bars[first].tempo)
        svg = svg.replace(f'"0 0 {width * UNITS} ', f'"0 0 {LINE_WIDTH * UNITS} ', 1)
        lines.append(Line(svg, f"bars {bars[first].number} to {bars[last].number}"))
    return tuple(lines)


def _width(size: int) -> int:
    """A line that is nearly empty stays short instead of being drawn out."""
    share = size / ROOM
    return LINE_WIDTH if share > SHORT else int(LINE_WIDTH * max(SHORT / 2, share))


def _size(studied: Study, index: int, counts: bool) -> int:
    bar = studied.bars[index]
    struck = {hit.at for hit in bar.bar.hits}
    graces = sum(hit.grace.notes for hit in bar.bar.hits)
    counted = {count.at for count in bar.counts} if counts else set()
    return BAR_MARGIN + len(struck | counted) + graces // 2


def break_lines(bars: Sequence[Bar], sizes: Sequence[int]) -> list[tuple[int, int]]:
    """(first, last) of each line: up to a phrase, no fuller than there is room, and
    evenly, so that four bars too wide for one line become two and two."""
    lines = []
    for first, last in _sections(bars):
        start = first
        while start <= last:
            end = start
            pickup = 1 if bars[start].pickup else 0
            most = min(last, start + MOST_ON_A_LINE - 1 + pickup)
            while end < most and sum(sizes[start : end + 2]) <= ROOM:
                end += 1
            if end - start == 2 and most - start == 3 + pickup:
                end -= 1
            lines.append((start, end))
            start = end + 1
    return lines


def _sections(bars: Sequence[Bar]) -> list[tuple[int, int]]:
    lead = 2 if bars[0].pickup else 1  # a pick-up belongs to the first section
    starts = [0, *(i for i, bar in enumerate(bars) if bar.section and i >= lead)]
    return list(zip(starts, [start - 1 for start in starts[1:]] + [len(bars) - 1], strict=True))
