"""The page on which a piece is copied bar by bar: its line, its bar, what is typed."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from django.urls import reverse

from wren_ladder.drumming.chart import Chart, ChartError, Drum
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.page_reading.copied import (
    CopiedBar,
    State,
    following,
    is_to_type,
    numbers,
    starts,
    text_of,
    to_type,
    unseen,
    whole_text,
)
from wren_ladder.drumming.page_reading.found import ROOM, FoundBar, FoundLine, Shorthand
from wren_ladder.drumming.page_reading.miscounts import Miscount, miscounts
from wren_ladder.drumming.page_reading.proposed import Proposal
from wren_ladder.drumming.study import study_bar
from wren_ladder.studio.drawing.engraving import BAR_WIDTH, LINE_WIDTH, engrave
from wren_ladder.studio.pages.pieces.wall_page import error_line, read_text
from wren_ladder.studio.pages.scans.proposals import (
    AROUND,
    Asked,
    in_its_metre,
    is_known,
    proposals,
    read_of,
    surely,
    with_proposals,
)
from wren_ladder.studio.scans.models import Scan, ScanPage
from wren_ladder.studio.teaching.models import style_of

MARGIN = 12
SHOWN = 88  # pixels above and below a staff that are shown
SAID_BY_A_SIGN = (Shorthand.REPEAT, Shorthand.REPEAT_2, Shorthand.SLASHES)
LAYOUT = Layout(counts=True, hands=False)


@dataclass(frozen=True, slots=True)
class PrintedBar:
    """One bar on its page, for the template."""

    place: int
    number: int
    bar: FoundBar
    line: FoundLine
    state: str
    to_type: bool
    href: str

    @property
    def width(self) -> int:
        return self.bar.right - self.bar.left

    @property
    def said(self) -> str:
        how = {" is-right": ", right", " is-open": ", to type"}.get(self.look, ", not seen yet")
        return f"bar {self.number}{how}"

    @property
    def beside(self) -> str:
        return f"bar {self.number} in its printed line"

    @property
    def look(self) -> str:
        """The class of its frame."""
        if self.state == State.RIGHT:
            return " is-right"
        return " is-open" if self.to_type else ""


@dataclass(frozen=True, slots=True)
class PrintedLine:
    """One line of a page: where its picture is cut out, and its bars."""

    page: ScanPage
    line: FoundLine
    bars: tuple[PrintedBar, ...]
    src: str

    @property
    def box(self) -> str:
        left, width = self.line.left - MARGIN, self.line.right - self.line.left + 3 * MARGIN
        return f"{left} {self.above} {width} {self.below - self.above}"

    @property
    def above(self) -> int:
        return max(self.line.above, self.line.top - SHOWN)

    @property
    def below(self) -> int:
        return min(self.line.below, self.line.bottom + SHOWN)


def printed_lines(scan: Scan) -> list[PrintedLine]:
    """All lines of all pages that are read, with their bars in order."""
    copied = scan.copied()
    named, place, found = numbers(copied), 0, []
    for page in scan.pages.defer("original", "picture"):
        src = jpg_of(scan, page, "straight")
        for line in page.found_lines():
            bars = []
            for bar in line.bars:
                bars.append(
                    PrintedBar(
                        place, named[place], bar, line, copied[place].state.value,
                        is_to_type(copied, place),
                        f"{scan.get_absolute_url()}?bar={place}",
                    )
                )  # fmt: skip
                place += 1
            found.append(PrintedLine(page, line, tuple(bars), src))
    return found


def jpg_of(scan: Scan, page: ScanPage, which: str) -> str:
    found = reverse("scan-jpg", args=[scan.pk, page.position + 1, which])
    return f"{found}?v={page.version}"


def copy_context(
    scan: Scan, place: int, text: str | None = None, error=None, second: bool = False
) -> dict:
    """The stand with one printed bar. ``text`` is what was typed where it cannot be kept;
    ``second`` asks for the other reading of the bar where it has two."""
    lines = printed_lines(scan)
    line, bar = _printed(lines, place)
    copied, row = scan.copied(), scan.bars[place]
    left = to_type(copied)
    offer = None
    if text is None:
        text = text_of(copied, place)
    if not text:
        offer = proposals(scan)[copied[place].kind]
        offer = offer and in_its_metre(offer, copied, place)
        text = offered(bar.bar, row, copied, offer, second)
    return {
        "scan": scan,
        "line": line,
        "bar": bar,
        "bar_box": _bar_box(bar, line),
        "boxes": [] if offer else [_box(bar.bar, bar.line, one) for one in row["here"]],
        "text": text,
        "left": len({copied[one].kind for one in left}),
        "kinds": sum(one.kind == n for n, one in enumerate(copied)),
        "same": [
            named
            for n, named in enumerate(numbers(copied))
            if n != place and copied[n].kind == copied[place].kind
        ],
        "near": _near(scan, lines, row),
        "offer": offer,
        "second": second,
        "before": place - 1 if place else None,
        "after": place + 1 if place + 1 < len(copied) else None,
        "undoable": bool(scan.before),
        **drawn(scan, place, text, error),
    }


def beside_context(scan: Scan, index: int | None) -> dict:
    """The printed line with a bar of the piece (the first is 0), for the editor; all lines
    where none is asked for."""
    lines = printed_lines(scan)
    if index is None:
        return {"lines": lines}
    first = starts(scan.copied())
    place = max((n for n, start in enumerate(first) if start <= index), default=0)
    line, bar = _printed(lines, place)
    return {"lines": [line], "here": bar}


def _bar_box(bar: PrintedBar, line: PrintedLine) -> str:
    left = bar.bar.left - MARGIN
    return f"{left} {line.above} {bar.width + 2 * MARGIN} {line.below - line.above}"


def _box(bar: FoundBar, line: FoundLine, box: list[int]) -> dict:
    """A box of a bar's ink on its page."""
    left = bar.music_left + box[0]
    top = line.top - ROOM + box[1]
    return {"x": left - 4, "y": top - 4, "w": box[2] - box[0] + 8, "h": box[3] - box[1] + 8}


def _near(scan: Scan, lines: list[PrintedLine], row: dict) -> dict | None:
    """The bar that it nearly looks like, with what is different there."""
    if row["near"] is None:
        return None
    line, bar = _printed(lines, row["near"])
    boxes = [_box(bar.bar, bar.line, one) for one in row["there"]]
    box = _bar_box(bar, line)
    return {"bar": bar, "box": box, "src": line.src, "page": line.page, "boxes": boxes}


def _printed(lines: list[PrintedLine], place: int) -> tuple[PrintedLine, PrintedBar]:
    return next((line, bar) for line in lines for bar in line.bars if bar.place == place)


def offered(
    bar: FoundBar,
    row: dict,
    copied: list[CopiedBar],
    offer: Proposal | None,
    second: bool = False,
) -> str:
    """What can be said of a bar before anybody has typed it: what was read in it, or the signs
    at its ends and the bar that it nearly looks like."""
    if offer:
        return offer.second if second and offer.second else offer.text
    lines = []
    if bar.shorthand in SAID_BY_A_SIGN:
        lines.append(bar.shorthand.value)
    elif row["near"] is not None and copied[row["near"]].state is State.RIGHT:
        lines.append(f"as {numbers(copied)[row['near']]}")
    lines += row["signs"]
    return "".join(f"{line}\n" for line in lines)


def with_text(copied: list[CopiedBar], place: int, text: str) -> list[CopiedBar]:
    bar = replace(copied[place], text=text, state=State.RIGHT)
    return [*copied[:place], bar, *copied[place + 1 :]]


def chart_with(scan: Scan, place: int, text: str) -> tuple[Chart, int]:
    """The piece as it is with one bar typed so, and that bar's place in it. ChartError points
    into the bar's own text where it is wrong there."""
    copied = with_text(scan.copied(), place, text)
    whole = whole_text(copied)
    return read_text(whole), starts(copied)[place]


def drawn(scan: Scan, place: int, text: str, error: ChartError | None = None) -> dict:
    """The bar as it is typed, drawn; or what is wrong with it."""
    if not text.strip() and error is None:
        return {"svg": ""}
    try:
        chart, index = chart_with(scan, place, text)
    except ChartError as caught:
        whole = whole_text(with_text(scan.copied(), place, text))
        return {"svg": "", "error": caught, "line_of_error": error_line(whole, caught)}
    studied = study_bar(chart.bars[index], chart.tempo, style_of(scan.owner_id))
    return {"svg": engrave([studied], LAYOUT, BAR_WIDTH, "copied-")}


def key_context(scan: Scan, rows: Sequence[Asked], error: ChartError | None) -> dict:
    """All heads with a picture of each, and the drums they may be."""
    lines = printed_lines(scan)
    found = []
    for row in rows:
        place, x, y = row.example
        line, bar = _printed(lines, place)
        at = (bar.bar.music_left + x, line.line.top + y)
        left, top = at[0] - AROUND[0], line.line.top - AROUND[1]
        high = line.line.bottom - line.line.top + 2 * AROUND[1]
        box = f"{left:.0f} {top} {2 * AROUND[0]} {high}"
        found.append({"row": row, "line": line, "box": box, "x": at[0], "y": at[1]})
    return {
        "scan": scan,
        "rows": found,
        "drums": [(drum.value, drum.spoken) for drum in Drum],
        "error": error,
    }


def _miscounts(scan: Scan, first: Sequence[int]) -> dict[int, Miscount]:
    """By the place of a bar that begins a line, where the page prints another number than is
    counted. ``first`` says where in the piece each printed bar begins."""
    lengths = [after - start for start, after in pairwise(first)]
    printed = [row.get("number") or () for row in scan.bars]
    return {one.place: one for one in miscounts(printed, [*lengths, 1])}


def look_context(scan: Scan, error: ChartError | None = None) -> dict:
    """Every line of the page with what is copied of it right under it, and what was read where
    nobody has typed."""
    typed, offers = scan.copied(), read_of(scan)
    read = surely(offers)
    lines = printed_lines(scan)
    style = style_of(scan.owner_id)
    chart, copied = None, typed
    # What was read in doubt may not go together: then what is sure, then what is typed.
    for shown in ({place: one.text for place, one in offers.items()}, read, {}):
        copied, wrong = with_proposals(typed, shown), None
        try:
            chart = read_text(whole_text(copied))
            break
        except ChartError as caught:
            wrong = caught
    error = error or wrong
    first = starts(copied)
    wrong_counts = _miscounts(scan, first)
    rows = []
    for number, line in enumerate(lines):
        svg = ""
        if chart and line.bars:
            ends = line.bars[-1].place + 1
            end = first[ends] if ends < len(first) else len(chart.bars)
            bars = chart.bars[first[line.bars[0].place] : end]
            studied = [study_bar(bar, chart.tempo, style) for bar in bars]
            layout = Layout(counts=False, hands=False, shorthand=True)
            svg = engrave(studied, layout, LINE_WIDTH, f"l{number}-") if bars else ""
        right = all(bar.state == State.RIGHT for bar in line.bars)
        unsure = [bar for bar in line.bars if not is_known(typed, read, bar.place)]
        askable = bool(line.bars) and not right and not unsure
        rows.append(
            {
                "line": line,
                "svg": svg,
                "right": right,
                "unsure": unsure,
                "askable": askable,
                "first": askable and not any(row["askable"] for row in rows),
                "number": number,
                "miscount": wrong_counts.get(line.bars[0].place) if line.bars else None,
            }
        )
    return {
        "scan": scan,
        "rows": rows,
        "left": len(to_type(typed)),
        "unseen": len(unseen(typed)),
        "next": following(typed, -1),
        "error": error,
        "undoable": bool(scan.before),
    }
