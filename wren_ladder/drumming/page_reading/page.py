"""A whole page: made straight, its lines, its bars; which bars of several pages are alike."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import cv2

from wren_ladder.drumming.chart import Meter
from wren_ladder.drumming.page_reading.bar_ink import BarInk, inks_of_page
from wren_ladder.drumming.page_reading.bar_numbers import printed_number
from wren_ladder.drumming.page_reading.bars.long_rest import bars_of_rest
from wren_ladder.drumming.page_reading.bars.read_bar import ReadBar
from wren_ladder.drumming.page_reading.bars.reading import read_bars
from wren_ladder.drumming.page_reading.bars.time_sign import meter_before
from wren_ladder.drumming.page_reading.equal_bars import Likeness, likenesses
from wren_ladder.drumming.page_reading.found import FoundBar, FoundLine, FoundPage, Shorthand
from wren_ladder.drumming.page_reading.light import faint_ink_of, ink_of
from wren_ladder.drumming.page_reading.lines import find_lines
from wren_ladder.drumming.page_reading.miscounts import Likes
from wren_ladder.drumming.page_reading.pixels import Gray
from wren_ladder.drumming.page_reading.straighten import (
    Corners,
    cut_out,
    sheet_corners,
    straighten,
)
from wren_ladder.drumming.page_reading.typed_dynamics import (
    BarDynamics,
    placed,
    said_again,
    typed,
)

MOST_READ = 60  # different bars of one piece
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


@dataclass(frozen=True, slots=True, eq=False)
class PrintedBar:
    """One bar of some pages with its ink."""

    bar: FoundBar
    ink: BarInk
    rests: int | None = None  # bars, over a long rest
    meter: Meter | None = None  # that holds in it, None where none was read so far
    number: Likes = ()  # printed at it, which begins a line

    @property
    def width(self) -> int:
        """Pixels of its ink."""
        return self.ink.lined.shape[1]

    @property
    def said(self) -> str:
        """What a sign in it says, as it is typed; "" where it is written in notes, or nobody
        has read how long it rests."""
        if self.bar.shorthand is Shorthand.RESTS:
            return f"{self.rests} bars rest" if self.rests else ""
        return self.bar.shorthand.value

    @property
    def is_written(self) -> bool:
        """In notes: a sign that repeats the bar before, or a long rest, says another thing
        wherever it stands."""
        return self.bar.shorthand is Shorthand.NONE


def printed_bars(pages: Sequence[tuple[Gray, Sequence[FoundLine]]]) -> list[PrintedBar]:
    """All bars of all pages, in order."""
    found, meter = [], None
    for picture, lines in pages:
        page = ink_of(picture)
        for line, inks in zip(lines, inks_of_page(page, lines), strict=True):
            for bar, ink in zip(line.bars, inks, strict=True):
                long = bar.shorthand is Shorthand.RESTS
                rests = bars_of_rest(page, line, bar) if long else None
                meter = meter_before(page, line, bar) or meter
                number = printed_number(page, line) if bar is line.bars[0] else ()
                found.append(PrintedBar(bar, ink, rests, meter, number))
    return found


def alike(bars: Sequence[PrintedBar]) -> list[Likeness | None]:
    """For each bar the one before it that it is like; those that are not written in notes are
    like none."""
    written = [place for place, one in enumerate(bars) if one.is_written]
    found: list[Likeness | None] = [None] * len(bars)
    for place, one in zip(
        written, likenesses([bars[n].ink.bare for n in written]), strict=True
    ):
        found[place] = one and replace(one, like=written[one.like])
    return found


def with_dynamics(
    bars: Sequence[PrintedBar],
    likeness: Sequence[Likeness | None],
    read: Sequence[ReadBar | None],
) -> tuple[list[Likeness | None], list[ReadBar | None], list[list[str]]]:
    """What each bar is like and what was read in it, with regard to dynamics; and these as they
    are typed, a list of lines for each bar."""
    likeness, read = list(likeness), list(read)
    found: list[BarDynamics] = []
    lines, holds = [], ""
    for place, bar in enumerate(bars):
        like = likeness[place]
        kind = like.like if like and like.equal else place
        # Equal bars may be printed narrower.
        scale = bars[kind].width / bar.width
        own = placed([(text, x * scale) for text, x in bar.ink.dynamics], read[kind])
        said = typed(own, read[kind])
        if kind != place and own.later != found[kind].later:
            likeness[place], read[place] = None, read[kind]
        elif kind != place and (again := said_again(own, found[kind], holds)):
            said = [f"dynamics {again} 1"]
        if own.lost and (one := read[place]):
            why = f"a dynamic ({', '.join(own.lost)}) that stands at no note"
            read[place] = replace(one, doubts=(*one.doubts, why))
        holds = own.held_after(holds)
        found.append(own)
        lines.append(said)
    return likeness, read, lines


def notes_of(
    bars: Sequence[PrintedBar], likeness: Sequence[Likeness | None]
) -> list[ReadBar | None]:
    """What stands in each bar that is the first of its look; None for the others, and for those
    behind the first ``MOST_READ``: each takes a quarter of a second."""
    new = [
        place
        for place, like in enumerate(likeness)
        if bars[place].is_written and not (like and like.equal)
    ][:MOST_READ]
    found: list[ReadBar | None] = [None] * len(bars)
    meters = [bars[n].meter for n in new]
    read = read_bars([bars[n].ink for n in new], meters)
    for place, one in zip(new, read, strict=True):
        found[place] = one
    return found
