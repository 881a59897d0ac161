"""A whole page: made straight, its lines, its bars; which bars of several pages are alike."""

from collections.abc import Sequence
from dataclasses import replace

import cv2

from wren_ladder.drumming.page_reading.bar_ink import inks_of_page
from wren_ladder.drumming.page_reading.equal_bars import Likeness, likenesses
from wren_ladder.drumming.page_reading.found import FoundLine, FoundPage, Shorthand
from wren_ladder.drumming.page_reading.light import faint_ink_of, ink_of
from wren_ladder.drumming.page_reading.lines import find_lines
from wren_ladder.drumming.page_reading.pixels import Gray
from wren_ladder.drumming.page_reading.straighten import (
    Corners,
    cut_out,
    sheet_corners,
    straighten,
)

# One core a page: the machine has others to serve.
cv2.setNumThreads(1)


def read_page(gray: Gray, corners: Corners | None = None) -> FoundPage:
    """What is found on one page. ``corners`` of the sheet are sought where none are given;
    those of the whole picture leave it as it is."""
    corners = corners or sheet_corners(gray)
    straight = straighten(cut_out(gray, corners) if corners else gray)
    picture = straight.picture
    lines = find_lines(ink_of(picture), faint_ink_of(picture), straight.middles)
    return FoundPage(picture, lines, tuple(corners or ()))


def alike(pages: Sequence[tuple[Gray, Sequence[FoundLine]]]) -> list[Likeness | None]:
    """For each bar of all pages, in order, the one before it that it is like. A sign that
    repeats the bar before, or a long rest, says another thing wherever it stands: such bars are
    like none."""
    bars = [bar for _, lines in pages for line in lines for bar in line.bars]
    inks = [
        ink
        for picture, lines in pages
        for inks in inks_of_page(ink_of(picture), lines)
        for ink in inks
    ]
    written = [place for place, bar in enumerate(bars) if bar.shorthand is Shorthand.NONE]
    found: list[Likeness | None] = [None] * len(bars)
    for place, one in zip(written, likenesses([inks[n] for n in written]), strict=True):
        found[place] = one and replace(one, like=written[one.like])
    return found
