"""The whole chart, line by line: as many bars to a line as their notes leave room for.

Sections start lines, but for one of a single bar where the line before has room. Every line is
a drawing of its own, so that no page cuts one.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.chart import SPANS, Bar, Mark
from wren_ladder.drumming.chart.marks import MOST_LENGTH
from wren_ladder.drumming.chart.shorthand import dynamic_after, rest_runs
from wren_ladder.drumming.notation.mei import (
    Around,
    Layout,
    hat_left_open,
    line_before,
)
from wren_ladder.drumming.study import Study
from wren_ladder.studio.drawing.engraving import LINE_WIDTH, UNITS, engrave

ROOM = 62  # what fits a line: one for every moment that is struck or counted, and margins
MOST_ON_A_LINE = 4  # a phrase
BAR_MARGIN = 2
SHORT = 0.6  # of a line
SIGN = 8  # room for a rest or a sign that stands for the bar


@dataclass(frozen=True, slots=True)
class Line:
    svg: str
    spoken: str


def score_lines(studied: Study, counts: bool, hands: bool) -> tuple[Line, ...]:
    """The lines of a studied chart, with or without the count and the sticking."""
    bars = studied.chart.bars
    cells = printed_cells(bars, counts)
    sizes = [_size(studied, first, last, counts) for first, last in cells]
    lines = []
    for begin, end in break_lines(bars, cells, sizes):
        first, last = cells[begin][0], cells[end][1]
        same = first and bars[first].meter == bars[first - 1].meter
        layout = Layout(
            counts=counts, hands=hands, numbers=True, meter=not same, shorthand=True
        )
        closes = last + 1 == len(bars) or bool(bars[last + 1].section)
        size = sum(sizes[begin : end + 1])
        width = _width(size) if closes and begin == end else LINE_WIDTH
        shown = studied.bars[first : last + 1]
        svg = engrave(shown, layout, width, f"l{first}-", _around(bars, first, last))
        svg = svg.replace(f'"0 0 {width * UNITS} ', f'"0 0 {LINE_WIDTH * UNITS} ', 1)
        lines.append(Line(svg, f"bars {bars[first].number} to {bars[last].number}"))
    return tuple(lines)


def _around(bars: Sequence[Bar], first: int, last: int) -> Around:
    hat_open, dynamic = False, ""
    for bar in bars[:first]:
        hat_open, dynamic = hat_left_open(bar, hat_open), dynamic_after(bar, dynamic)
    ends = last + 1 == len(bars)
    closes = "end" if ends else line_before(bars[last + 1], bars[last])
    over = open_spans(bars, first)
    return Around(bars[first].tempo, over, hat_open, dynamic, closes)


def _width(size: int) -> int:
    """One bar at the end of a section stays short instead of being drawn out."""
    share = size / ROOM
    return LINE_WIDTH if share > SHORT else int(LINE_WIDTH * max(SHORT / 2, share))


def open_spans(bars: Sequence[Bar], first: int) -> tuple[Mark, ...]:
    """What is left of the hairpins, rit. and accel. that began before bar ``first``."""
    found, before = [], Fraction(0)
    for bar in reversed(bars[:first]):
        before += bar.length
        for mark in bar.marks:
            left = mark.at + mark.length - before
            if mark.kind in SPANS and left > 0:
                found.append(Mark(Fraction(0), mark.kind, mark.text, left))
        if before >= MOST_LENGTH:
            break
    return tuple(found)


def printed_cells(bars: Sequence[Bar], counts: bool) -> list[tuple[int, int]]:
    """(first, last) of the bars that no line may part: a rest of many bars, which is
    written out where it is counted, and the two bars that one sign repeats."""
    cells: list[tuple[int, int]] = []
    runs = ((index, index) for index in range(len(bars))) if counts else rest_runs(bars)
    for first, last in runs:
        if bars[first].again == 2 and cells:
            begin, end = cells[-1]
            if begin == end and bars[begin].again == 2:
                cells[-1] = (begin, last)
                continue
        cells.append((first, last))
    return cells


def _size(studied: Study, first: int, last: int, counts: bool) -> int:
    bar = studied.bars[first]
    last_bar = studied.bars[last].bar
    words = [word for word in last_bar.road_words if not word.startswith(("segno", "coda"))]
    said = sum(len(text) for text in words)  # in the second half of the bar, so all twice
    counted = {count.at for count in bar.counts} if counts else set()
    if bar.bar.again:
        return (last - first + 1) * (BAR_MARGIN + max(SIGN, len(counted)))
    struck = {hit.at for hit in bar.bar.hits}
    graces = sum(hit.grace.notes for hit in bar.bar.hits)
    notes = len(struck | counted) + graces // 2
    return BAR_MARGIN + max(SIGN, notes, said)


def break_lines(
    bars: Sequence[Bar], cells: Sequence[tuple[int, int]], sizes: Sequence[int]
) -> list[tuple[int, int]]:
    """(first, last) cell of each line: up to a phrase, no fuller than there is room, and
    evenly, so that four bars too wide for one line become two and two."""
    lines = []
    for first, last in _sections(bars, cells):
        start = first
        while start <= last:
            end = start
            pickup = 1 if bars[cells[start][0]].pickup else 0
            most = min(last, start + MOST_ON_A_LINE - 1 + pickup)
            while end < most and sum(sizes[start : end + 2]) <= ROOM:
                end += 1
            if end - start == 2 and most - start == 3 + pickup:
                end -= 1
            lines.append((start, end))
            start = end + 1
        before, section = lines[-2:-1], lines[-1]
        if before and section == (first, last) and first == last:
            joined = (before[0][0], last)
            if _fits(joined, sizes):
                lines[-2:] = [joined]
    return lines


def _fits(line: tuple[int, int], sizes: Sequence[int]) -> bool:
    begin, end = line
    return end - begin < MOST_ON_A_LINE and sum(sizes[begin : end + 1]) <= ROOM


def _sections(bars: Sequence[Bar], cells: Sequence[tuple[int, int]]) -> list[tuple[int, int]]:
    """(first, last) cell of each section; a pick-up belongs to the first."""
    lead = 2 if bars[0].pickup else 1
    named = (place for place, (first, _) in enumerate(cells) if bars[first].section)
    starts = [0, *(place for place in named if place >= lead)]
    return list(
        zip(starts, [start - 1 for start in starts[1:]] + [len(cells) - 1], strict=True)
    )
