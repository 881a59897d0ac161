"""Staves: the core's MEI drawn by Verovio, tidied into small SVG that stands anywhere.

What Verovio draws is cut down to what the page needs: no style sheet (the content policy
allows none inside pages), ids only on notes, and of the counting staff only its
syllables. Drawings are cached by what is in them.
"""

import hashlib
import re
from collections.abc import Collection, Sequence
from copy import deepcopy
from dataclasses import replace
from functools import lru_cache
from pathlib import Path
from threading import Lock

import verovio
from lxml import etree

from wren_ladder.drumming.building.parts import first_half, middle, second_half
from wren_ladder.drumming.chart import Bar, Hand
from wren_ladder.drumming.chart.serial import bar_to_json
from wren_ladder.drumming.notation import mei as mei_writer
from wren_ladder.drumming.notation.mei import Around, Layout, Scored, write_mei
from wren_ladder.drumming.study import BarStudy
from wren_ladder.studio.drawing.glyphs import draw_notes
from wren_ladder.studio.kept_on_disk import keep, read, version_of

KEPT = "engravings"
DRAWN_BY = (Path(__file__).parent, Path(mei_writer.__file__).parent)
SVG = "{http://www.w3.org/2000/svg}"
PREFIX = "@@"  # stands for the drawing's own prefix until it is put into a page
NOTE_ID = re.compile(r"note_(b\d+h\d+)")
LINE_ID = re.compile(PREFIX + r"b(\d+)h(\d+)")
MARKED = re.compile(r'id="[^"]*b\d+h(\d+)"')
VIEW_BOX = re.compile(r'viewBox="([^"]*)"')
FONT = "'Source Sans 3', 'Source Sans Pro', sans-serif"
OPTIONS = {
    "adjustPageHeight": True,
    "footer": "none",
    "header": "none",
    "lyricSize": 4.2,
    "lyricTopMinMargin": 2.5,
    "minLastJustification": 0,
    "pageMarginBottom": 15,
    "pageMarginLeft": 10,
    "pageMarginRight": 10,
    "pageMarginTop": 15,
    "scale": 40,
    "spacingStaff": 0,
    "svgFormatRaw": True,
    "svgRemoveXlink": True,
}
NAME = 16  # characters that tell one drawing from all others of a page
UNITS = 10  # of a drawing's view box to one of the engraver's width
USUAL_PAGE, TALLEST_PAGE = 2970, 60000
ABOVE, BELOW = 1150, 1700  # of a card, from the top line of its staff
COUNTED = 900  # more below where the count stands under the hands
NUMBERED_TOP = 45
CARD_WIDTH = 700  # Verovio's units: a bar on the wall
BAR_WIDTH = 1900  # a bar opened, with count and sticking
LINE_WIDTH = 3000  # several bars on one line
NARROW_WIDTH, NARROW_COUNT = 860, 8  # of a phone, and how many syllables a line of it holds

# One toolkit, one lock: the server has threads, and a toolkit holds one score.
_lock = Lock()
_toolkit = verovio.toolkit()


def scored(studied: BarStudy) -> Scored:
    """A studied bar as the engraver wants it."""
    return Scored(
        studied.bar,
        tuple((count.at, count.say, count.silent) for count in studied.counts),
        tuple(stick.hand for stick in studied.sticks),
    )


def engrave(
    bars: Sequence[BarStudy],
    layout: Layout,
    width: int,
    prefix: str,
    around: Around = Around(),
) -> str:
    """SVG of some bars on as many lines as they need.

    ``prefix`` makes ids unique in the page.
    """
    name = _cache_name(bars, layout, width, (around,))
    drawing = read(KEPT, [name]).get(name)
    if drawing is None:
        mei = write_mei(
            [scored(bar) for bar in bars],
            layout,
            around=around,
        )
        drawing = draw(mei, width, layout)
        keep(KEPT, {name: drawing})
    return drawing.replace(PREFIX, prefix)


def engrave_narrow(bars: Sequence[BarStudy], layout: Layout, prefix: str) -> str:
    """SVG of some bars for a narrow screen: each on a line of its own, and on two where its
    count is longer than a line holds."""
    halves: list[tuple[int, int, Scored]] = []  # which bar, its first hit, and what is drawn
    for place, bar in enumerate(bars):
        long = layout.counts and _is_long(bar)
        for first, half in _halves(scored(bar)) if long else [(0, scored(bar))]:
            halves.append((place, first, half))
    layout = replace(layout, apart=True)
    name = _cache_name(bars, layout, NARROW_WIDTH, ("narrow",))
    drawing = read(KEPT, [name]).get(name)
    if drawing is None:
        mei = write_mei([half for _, _, half in halves], layout)
        drawing = draw(mei, NARROW_WIDTH, layout, "encoded" if len(halves) > 1 else "auto")
        drawing = LINE_ID.sub(lambda found: _of_the_bar(found, halves), drawing)
        keep(KEPT, {name: drawing})
    return drawing.replace(PREFIX, prefix)


def _is_long(bar: BarStudy) -> bool:
    return len(bar.counts) > NARROW_COUNT and middle(bar.bar) < bar.bar.length


def _of_the_bar(found: re.Match, halves: Sequence[tuple[int, int, Scored]]) -> str:
    """A note of a line by its place in its bar."""
    place, first, _ = halves[int(found[1])]
    return f"{PREFIX}b{place}h{int(found[2]) + first}"


def _halves(whole: Scored) -> list[tuple[int, Scored]]:
    """(the place of its first hit, a half of the bar as it is drawn)."""
    bar, cut = whole.bar, middle(whole.bar)
    before = sum(hit.at < cut for hit in bar.hits)
    first = replace(
        whole,
        bar=first_half(bar),
        counts=tuple(count for count in whole.counts if count[0] < cut),
        hands=whole.hands[:before],
        goes_on=True,
    )
    second = replace(
        whole,
        bar=replace(second_half(bar), number=bar.number),
        counts=tuple((at - cut, *said) for at, *said in whole.counts if at >= cut),
        hands=whole.hands[before:],
    )
    return [(0, first), (before, second)]


def engrave_each(
    bars: Sequence[BarStudy], layout: Layout, width: int, prefix: str = "c"
) -> list[str]:
    """SVG of each bar by itself, prefixes "c0-", "c1-" and so on."""
    names, found = _drawings(bars, layout, width)
    return [
        found[name].replace(PREFIX, f"{prefix}{place}-") for place, name in enumerate(names)
    ]


def engrave_named(
    bars: Sequence[BarStudy], layout: Layout, width: int
) -> tuple[list[str], dict[str, str]]:
    """(the name of each bar's drawing, name -> SVG with the prefix "name-"); equal bars
    have one drawing, to be echoed wherever they stand."""
    names, found = _drawings(bars, layout, width)
    names = [f"d{name[:NAME]}" for name in names]
    return names, {
        f"d{name[:NAME]}": svg.replace(PREFIX, f"d{name[:NAME]}-")
        for name, svg in found.items()
    }


def _drawings(
    bars: Sequence[BarStudy], layout: Layout, width: int
) -> tuple[list[str], dict[str, str]]:
    """(each bar's cache name, name -> drawing).

    What is not cached is drawn in one go, a bar a line of one tall page, and cut apart:
    ten times faster than one by one.
    """
    names = [_cache_name([bar], layout, width) for bar in bars]
    found = read(KEPT, names)
    missing = {name: bar for name, bar in zip(names, bars, strict=True) if name not in found}
    if missing:
        mei = write_mei([scored(bar) for bar in missing.values()], replace(layout, apart=True))
        new = dict(zip(missing, draw_cards(mei, width, layout, len(missing)), strict=True))
        keep(KEPT, new)
        found |= new
    return names, found


def _cache_name(
    bars: Sequence[BarStudy], layout: Layout, width: int, besides: tuple = ()
) -> str:
    keys = [
        _music_key(bar.bar, tuple(stick.hand for stick in bar.sticks), layout.numbers)
        for bar in bars
    ]
    if layout.counts:  # which depend on the school
        keys += [" ".join(count.say for count in bar.counts) for bar in bars]
    made_by = f"{_toolkit.getVersion()} {version_of(*DRAWN_BY)}"
    return hashlib.sha1(f"{made_by}|{keys}|{layout}|{width}|{besides}".encode()).hexdigest()


@lru_cache(maxsize=8192)
def _music_key(bar: Bar, hands: tuple[Hand | None, ...], numbers: bool) -> str:
    """What a bar's drawing depends on: its music, its repeat signs, its hands."""
    data = bar_to_json(bar)
    if not numbers:
        for name in ("number", "section", "note", "crash_again"):
            del data[name]
    return f"{data}{''.join(hand or '-' for hand in hands)}"


def draw(mei: str, width: int, layout: Layout, breaks: str = "auto") -> str:
    """A MEI document as one tidy SVG, its lines broken by the engraver or as ``encoded``."""
    margin = 50 if layout.numbers else OPTIONS["pageMarginLeft"]  # room for a number
    numbers = 1 if layout.numbers else 0
    asked = {"pageWidth": width, "mnumInterval": numbers, "pageMarginLeft": margin}
    if breaks != "auto":
        asked |= {"breaks": breaks, "pageHeight": TALLEST_PAGE}
    if layout.numbers:
        asked["pageMarginTop"] = NUMBERED_TOP  # a number stands over the staff, uncounted
    root = _parse(_render(mei, asked)[0])
    scale = root.find(f"{SVG}svg")
    box = scale.get("viewBox")
    defs = list(root.find(f"{SVG}defs"))
    for system in scale.iterfind(f".//{SVG}g[@class='system']"):
        _tidy_system(system, layout.counts)
    return _flat(defs, list(scale), box)


def draw_cards(mei: str, width: int, layout: Layout, bars: int) -> list[str]:
    """Every bar of a MEI document that puts each on a line of its own, as an SVG of its own.

    All are as high as each other, so that the staves of a row of cards are in one line.
    """
    breaks = "encoded" if bars > 1 else "auto"
    asked = {"pageWidth": width, "breaks": breaks, "pageHeight": TALLEST_PAGE}
    asked |= {"mnumInterval": 0, "pageMarginLeft": OPTIONS["pageMarginLeft"]}
    drawn = []
    for svg in _render(mei, asked):
        root = _parse(svg)
        glyphs = {glyph.get("id"): glyph for glyph in root.find(f"{SVG}defs")}
        margin = root.find(f".//{SVG}g[@class='page-margin']")
        for system in margin.findall(f"{SVG}g[@class='system']"):
            _tidy_system(system, layout.counts)
            below = BELOW + (COUNTED if layout.counts else 0)
            drawn.append(_cut_out(system, margin.get("transform"), glyphs, width, below))
    if len(drawn) != bars:
        raise RuntimeError(f"{len(drawn)} drawings came out of {bars} bars")
    return drawn


def _cut_out(
    system: etree._Element, transform: str, glyphs: dict, width: int, below: int
) -> str:
    """One line of a tall page as an SVG of its own."""
    _, down = (int(number) for number in re.findall(r"-?\d+", transform)[:2])
    line = system.find(f".//{SVG}g[@class='staff']/{SVG}path").get("d")
    top = int(line.split()[1]) + down
    used = {use.get("href")[1:] for use in system.iter(f"{SVG}use")}
    defs = [deepcopy(glyphs[name]) for name in sorted(used)]
    moved = etree.Element(f"{SVG}g", {"transform": transform})
    moved.append(system)
    return _flat(defs, [moved], f"0 {top - ABOVE} {width * UNITS} {ABOVE + below}")


def _render(mei: str, asked: dict) -> list[str]:
    """Verovio's SVG of every page; unless ``asked`` otherwise all is one page."""
    with _lock:
        options = {"breaks": "auto", "pageHeight": USUAL_PAGE, **OPTIONS, **asked}
        _toolkit.setOptions(options)
        if not _toolkit.loadData(mei):
            raise RuntimeError("the engraver refused its MEI")
        pages = _toolkit.getPageCount() if options["breaks"] == "encoded" else 1
        return [_toolkit.renderToSVG(page) for page in range(1, pages + 1)]


def _parse(svg: str) -> etree._Element:
    parser = etree.XMLParser(remove_blank_text=True, remove_comments=True)
    return etree.fromstring(svg.encode(), parser)


def _flat(defs: list[etree._Element], drawn: list[etree._Element], view_box: str) -> str:
    """One flat SVG with a view box and without outside dependencies."""
    scale = etree.Element(f"{SVG}g", nsmap={None: SVG[1:-1]})
    scale.attrib.update({"fill": "currentColor", "stroke": "currentColor", "font-family": FONT})
    scale.extend(drawn)
    draw_notes(scale)
    for placeholder in list(scale.iterfind(f".//{SVG}ellipse")):
        if "placeholder" in placeholder.getparent().get("class", ""):
            placeholder.getparent().remove(placeholder)
    for note in scale.iterfind(f".//{SVG}g[@class='note slashed']"):
        note.set("class", "note")
        _slash_head(note)
    for sign in scale.iterfind(f".//{SVG}g[@class='mRpt2']"):
        _stand_on_the_line(sign)
    new = etree.Element(f"{SVG}svg", nsmap={None: SVG[1:-1]})
    new.attrib.update({"viewBox": view_box, "class": "staff-svg"})
    new.attrib.update({"aria-hidden": "true", "focusable": "false"})
    if defs:
        etree.SubElement(new, f"{SVG}defs").extend(defs)
    new.append(scale)
    _tidy_ids(new)
    _tidy_groups(scale)
    scale.set("id", f"{PREFIX}all")
    return etree.tostring(new, encoding="unicode")


def _tidy_system(system: etree._Element, counts: bool) -> None:
    if not counts:
        return
    left_line = system.find(f"{SVG}path")
    if left_line is not None:
        system.remove(left_line)
    for measure in system.iterfind(f".//{SVG}g[@class='measure']"):
        staves = [child for child in measure if child.get("class") == "staff"]
        for staff in staves[1:]:
            _keep_syllables(staff)
        for line in measure.iterfind(f"{SVG}g[@class='barLine']"):
            parts = list(line)
            for part in parts[len(parts) // 2 :]:
                line.remove(part)


def _slash_head(note: etree._Element) -> None:
    """A line through the head: the engraver's own slash stands beside the stem of a chord."""
    head = note.find(f"{SVG}g[@class='notehead']/{SVG}use")
    x, y = map(int, re.findall(r"-?\d+", head.get("transform"))[:2])
    line = {"d": f"M{x - 90} {y + 180} L{x + 310} {y - 180}", "stroke-width": "30"}
    head.addnext(etree.Element(f"{SVG}path", line))


def _stand_on_the_line(sign: etree._Element) -> None:
    """A sign for two bars stands on the bar line between them; Verovio puts it, with a
    line of its own, into the middle of the first."""
    measure = next(up for up in sign.iterancestors() if up.get("class") == "measure")
    line = measure.find(f".//{SVG}g[@class='barLine']/{SVG}path")
    own = sign.find(f"{SVG}path")
    if line is None or own is None:
        return
    here, there = (int(path.get("d")[1:].split()[0]) for path in (own, line))
    for extra in (own, *sign.findall(f"{SVG}use")[1:]):  # the line, and the number over it
        sign.remove(extra)
    sign.set("transform", f"translate({there - here}, 0)")


def _keep_syllables(staff: etree._Element) -> None:
    verses = list(staff.iterfind(f".//{SVG}g[@class='verse']"))
    for child in list(staff):
        staff.remove(child)
    staff.extend(verses)


def _tidy_groups(scale: etree._Element) -> None:
    """Only notes keep their class; groups that hold nothing go."""
    for element in list(scale.iterdescendants()):
        if element.get("class") not in (None, "note"):
            del element.attrib["class"]
    for group in reversed(list(scale.iterdescendants(f"{SVG}g"))):
        if not len(group):
            group.getparent().remove(group)


def _tidy_ids(root: etree._Element) -> None:
    for element in root.iterdescendants():
        identity = element.get("id")
        if identity is not None:
            note = NOTE_ID.fullmatch(identity)
            if note:
                element.set("id", PREFIX + note[1])
            elif element.getparent().tag == f"{SVG}defs":
                element.set("id", PREFIX + identity.partition("-")[0])
            else:
                del element.attrib["id"]
        href = element.get("href")
        if href:
            element.set("href", "#" + PREFIX + href[1:].partition("-")[0])
            element.set("stroke", "none")  # a glyph is filled; on paper its outline would blot
        if element.tag == f"{SVG}text":
            element.set("stroke", "none")
        if element.get("data-id"):
            del element.attrib["data-id"]


def view_box(svg: str) -> str:
    return VIEW_BOX.search(svg)[1]


def mark_notes(svg: str, places: Collection[int]) -> str:
    """The drawing of one bar with some of its notes marked, by their places in the bar."""
    return MARKED.sub(
        lambda found: f'{found[0]} data-differs=""' if int(found[1]) in places else found[0],
        svg,
    )


def echo(svg: str, prefix: str) -> str:
    """The same drawing again, by reference to the one with this prefix in the page."""
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{view_box(svg)}" class="staff-svg" '
        f'aria-hidden="true" focusable="false"><use href="#{prefix}all"/></svg>'
    )
