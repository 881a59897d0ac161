"""The document around the bars: staves, metres, endings, and the signs of the road."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from xml.etree.ElementTree import Element, SubElement, tostring

from quicktions import Fraction

from wren_ladder.drumming.chart import (
    GRADUAL,
    SPANS,
    Bar,
    Mark,
    MarkKind,
    Meter,
    Tempo,
    Times,
)
from wren_ladder.drumming.chart.shorthand import dynamic_after, rest_runs, tied_to
from wren_ladder.drumming.notation.mei.bar import BarWriter, hat_left_open, note_id
from wren_ladder.drumming.notation.mei.scored import Around, Layout, Scored

# (MEI's name, dots) of a tempo's beat in crotchets, and the letters of SMuFL 1.4, the standard
# layout of music fonts: metronome marks, U+ECA0 to ECBF.
METRONOME_NOTES = {
    Fraction(3): ("2", 1),
    Fraction(2): ("2", 0),
    Fraction(3, 2): ("4", 1),
    Fraction(1): ("4", 0),
    Fraction(3, 4): ("8", 1),
    Fraction(1, 2): ("8", 0),
}
SMUFL_NOTES = {"2": "\ueca3", "4": "\ueca5", "8": "\ueca7"}
SMUFL_DOT = "\uecb7"
NAMESPACE = "http://www.music-encoding.org/ns/mei"


@dataclass(frozen=True, slots=True)
class Page:
    """What the page brings into one bar, and the bar line behind it."""

    hat_open: bool
    dynamic: str
    closes: str
    tempo: Tempo | None


def write_mei(
    scored: Sequence[Scored],
    layout: Layout = Layout(),
    title: str = "",
    around: Around = Around(),
) -> str:
    """A complete MEI document of the bars in page order.

    Notes have the id "b<index>h<index of the hit>", so that the drawing can be lit up.
    """
    mei = Element("mei", {"xmlns": NAMESPACE, "meiversion": "5.1"})
    head = SubElement(mei, "meiHead")
    description = SubElement(head, "fileDesc")
    SubElement(SubElement(description, "titleStmt"), "title").text = title
    SubElement(description, "pubStmt")
    body = SubElement(SubElement(mei, "music"), "body")
    score = SubElement(SubElement(body, "mdiv"), "score")
    meter = scored[0].bar.meter
    _staves(SubElement(score, "scoreDef"), meter, layout)
    section = SubElement(score, "section")
    ending: Element | None = None
    open_spans, hat_open, dynamic = around.open_spans, around.hat_open, around.dynamic
    signs = _signs([item.bar for item in scored], layout)
    for index, last in _printed([item.bar for item in scored], layout):
        bar, item = scored[index].bar, scored[index]
        if last > index:
            item, signs[index] = _long_rest(bar, scored[last].bar), "multiRest"
        if layout.apart and index:
            SubElement(section, "sb")
        if bar.meter != meter:
            meter = bar.meter
            _change_meter(section, meter, layout)
        before = scored[index - 1].bar if index else None
        if not bar.endings or layout.apart:
            ending = None
        elif before is None or _ends_there(before, bar) or ending is None:
            ending = _ending(section, index, bar, scored)
        mark = around.tempo if not index else bar.tempo
        into = section if ending is None else ending
        after = scored[last + 1].bar if last + 1 < len(scored) else None
        closes = around.closes if after is None else line_before(after, bar)
        if layout.apart or not layout.numbers:
            closes = "single"
        if item.goes_on:
            closes = "invis"
        if layout.apart and not (index and scored[index - 1].goes_on):
            hat_open, dynamic = False, ""
        page = Page(hat_open, dynamic, closes, mark)
        measure, writer = _measure(into, index, item, layout, page, signs[index])
        if index and scored[index - 1].goes_on:
            measure.set("n", "")  # the number stood before
        hat_open, dynamic = hat_left_open(bar, hat_open), dynamic_after(bar, dynamic)
        if bar.times and layout.numbers and (before is None or before.times != bar.times):
            _times(measure, index, bar.times, scored, layout)
        _spans(measure, index, [*open_spans, *bar.marks], scored, layout)
        open_spans = ()
        if last > index:
            for rest in measure.iterfind(".//multiRest"):
                rest.set("num", str(last - index + 1))
        if after and not layout.apart and not signs[index] and not signs[index + 1]:
            _ties(measure, writer, index, after)
    return '<?xml version="1.0" encoding="UTF-8"?>' + tostring(mei, encoding="unicode")


def line_before(after: Bar, bar: Bar) -> str:
    """The bar line between two bars: double before a section, which a pick-up belongs to."""
    return "dbl" if after.section and not bar.pickup else "single"


def _meter_sig(meter: Meter) -> dict[str, str]:
    count, _, unit = str(meter).partition("/")
    return {"count": count, "unit": unit}


def _staves(score_def: Element, meter: Meter, layout: Layout) -> None:
    group = SubElement(score_def, "staffGrp", {"bar.thru": "false"})
    drums = SubElement(group, "staffDef", {"n": "1", "lines": "5"})
    clef = SubElement(drums, "clef", {"shape": "perc"})
    sig = SubElement(drums, "meterSig", _meter_sig(meter))
    if not layout.clef:
        clef.set("visible", "false")
    if not (layout.clef and layout.meter):
        sig.set("visible", "false")
    if layout.counts:
        count = SubElement(group, "staffDef", {"n": "2", "lines": "0"})
        SubElement(count, "clef", {"shape": "perc", "visible": "false"})
        hidden = {**_meter_sig(meter), "visible": "false"}
        SubElement(count, "meterSig", hidden)


def _ends_there(before: Bar, bar: Bar) -> bool:
    """Is the ending of the bar before another one, or done with it?"""
    return before.endings != bar.endings or bool(before.repeat_passes)


def _ending(section: Element, index: int, bar: Bar, scored: Sequence[Scored]) -> Element:
    """A bracket with its numbers; open at the right where the music just goes on."""
    last = index
    while last + 1 < len(scored) and scored[last + 1].bar.endings == bar.endings:
        if scored[last].bar.repeat_passes:
            break
        last += 1
    closed = scored[last].bar.repeat_passes
    return SubElement(
        section,
        "ending",
        {
            "n": ", ".join(f"{number}" for number in bar.endings) + ".",
            "lendsym": "angledown",
            "rendsym": "angledown" if closed else "none",
        },
    )


def _change_meter(section: Element, meter: Meter, layout: Layout) -> None:
    group = SubElement(SubElement(section, "scoreDef"), "staffGrp")
    drums = SubElement(group, "staffDef", {"n": "1", "lines": "5"})
    sig = SubElement(drums, "meterSig", _meter_sig(meter))
    if not layout.clef:
        sig.set("visible", "false")
    if layout.counts:
        count = SubElement(group, "staffDef", {"n": "2", "lines": "0"})
        SubElement(count, "meterSig", {**_meter_sig(meter), "visible": "false"})


def _signs(bars: Sequence[Bar], layout: Layout) -> list[str]:
    """For each bar the element that stands for all of it, "" where its notes are written.

    Two bars repeated by one sign are a pair: the sign stands in the first.
    """
    if not layout.shorthand:
        return [""] * len(bars)
    found: list[str] = []
    for bar in bars:
        if bar.again == 2:
            found.append("mSpace" if found and found[-1] == "mRpt2" else "mRpt2")
        else:
            found.append("mRpt" if bar.again else "")
    return found


def _printed(bars: Sequence[Bar], layout: Layout) -> Sequence[tuple[int, int]]:
    """(first, last) of what stands between two bar lines; where the count is shown, rests
    are counted bar by bar."""
    if layout.shorthand and not layout.counts:
        return rest_runs(bars)
    return [(index, index) for index in range(len(bars))]


def _long_rest(first: Bar, last: Bar) -> Scored:
    """A rest of many bars: what stands at its start, and the signs at its end."""
    names = ("repeat_passes", "to_coda", "to_coda_2", "fine", "jump")
    return Scored(replace(first, **{name: getattr(last, name) for name in names}))


def _ties(measure: Element, writer: BarWriter, index: int, after: Bar) -> None:
    """A roll that goes on over the bar line is tied from its last note to where it goes on."""
    for hit in writer.bar.hits:
        for other, goal in enumerate(after.hits):
            if not goal.at and tied_to(hit, goal):
                goes_on = note_id(index + 1, other)
                ends = {"startid": f"#{writer.last_id(hit)}", "endid": f"#{goes_on}"}
                SubElement(measure, "tie", ends)


def _measure(
    section: Element,
    index: int,
    item: Scored,
    layout: Layout,
    page: Page,
    sign: str,
) -> tuple[Element, BarWriter]:
    bar = item.bar
    measure = SubElement(section, "measure", {"n": bar.number if layout.numbers else ""})
    measure.set("xml:id", f"b{index}")
    if bar.repeat_start:
        measure.set("left", "rptstart")
    measure.set("right", "rptend" if bar.repeat_passes else page.closes)
    if bar.length != bar.meter.length:
        measure.set("metcon", "false")
    writer = BarWriter(measure, index, item, layout, sign, page.hat_open)
    writer.write()
    if layout.numbers and bar.section:
        section = SubElement(measure, "dir", {"staff": "1", "tstamp": "0", "place": "above"})
        SubElement(section, "rend", {"fontweight": "bold"}).text = bar.section
    if page.tempo:
        _tempo(measure, page.tempo)
    if bar.swing:
        feel = SubElement(measure, "dir", {"staff": "1", "tstamp": "1", "place": "above"})
        feel.text = str(bar.swing)
    _road_signs(measure, bar)
    for mark in bar.marks:
        holds = mark.kind is MarkKind.DYNAMIC and not mark.at and mark.text == page.dynamic
        if holds:
            continue
        if mark.kind is not MarkKind.SLASHES:
            _mark(measure, bar, mark)
        elif not layout.shorthand:
            style = {"staff": "1", "place": "above", "tstamp": _beat(_tstamp(bar, mark))}
            SubElement(measure, "dir", style).text = "in style"
    if layout.numbers and bar.note:
        note = SubElement(measure, "dir", {"staff": "1", "tstamp": "1", "place": "above"})
        SubElement(note, "rend", {"fontstyle": "italic"}).text = bar.note
    if bar.repeat_passes > 2 or bar.vamp:
        where = "1" if bar.vamp else str(bar.meter.beats)  # the longer words need room
        passes = SubElement(measure, "dir", {"staff": "1", "tstamp": where, "place": "above"})
        passes.text = f"{'vamp, counted ' if bar.vamp else ''}×{bar.repeat_passes}"
    return measure, writer


def _tempo(measure: Element, tempo: Tempo) -> None:
    """The beat as a note and its number: the note is a letter of the music fonts' standard."""
    name, dots = METRONOME_NOTES[tempo.beat]
    unit = {"mm.unit": name, "mm": str(tempo.bpm)} | ({"mm.dots": "1"} if dots else {})
    mark = SubElement(measure, "tempo", {"staff": "1", "tstamp": "1", "place": "above", **unit})
    note = SubElement(mark, "rend", {"glyph.auth": "smufl"})
    note.text = SMUFL_NOTES[name] + SMUFL_DOT * dots
    note.tail = f" = {tempo.bpm}"


def _mark(measure: Element, bar: Bar, mark: Mark) -> None:
    """A mark in its place; a fill space lasts to the bar line."""
    place = "below" if mark.kind is MarkKind.DYNAMIC else "above"
    given = {"staff": "1", "place": place, "tstamp": _beat(_tstamp(bar, mark))}
    if mark.kind is MarkKind.DYNAMIC:
        SubElement(measure, "dynam", given).text = mark.text
    elif mark.kind is MarkKind.FERMATA:
        SubElement(measure, "fermata", given)
    elif mark.kind is MarkKind.FILL:
        end = _beat(1 + bar.length / bar.meter.count_length)
        line = {"extender": "true", "lform": "dashed", "tstamp2": f"0m+{end}"}
        SubElement(measure, "dir", {**given, **line}).text = "fill"
    elif mark.kind not in SPANS:
        SubElement(measure, "dir", given).text = mark.text


def _times(
    measure: Element, index: int, times: Times, scored: Sequence[Scored], layout: Layout
) -> None:
    """ "2nd time only", with a line over the bars that it is said of."""
    last = index
    while not layout.apart and last + 1 < len(scored) and scored[last + 1].bar.times == times:
        last += 1
    end = scored[last].bar
    stop = _beat(1 + end.length / end.meter.count_length)
    words = SubElement(measure, "dir", {"staff": "1", "tstamp": "1", "place": "above"})
    words.text = times.words
    if last > index:
        tstamp2 = f"{last - index}m+{stop}"
        words.attrib |= {"extender": "true", "lform": "dashed", "tstamp2": tstamp2}


def _spans(
    measure: Element,
    index: int,
    marks: Sequence[Mark],
    scored: Sequence[Scored],
    layout: Layout,
) -> None:
    """Hairpins, rit. and accel. from bar ``index`` on, over bar lines as far as the drawing
    reaches."""
    for mark in marks:
        if mark.kind not in SPANS:
            continue
        goal, left = index, mark.at + mark.length
        last = index if layout.apart else len(scored) - 1
        while goal < last and left > scored[goal].bar.length:
            left -= scored[goal].bar.length
            goal += 1
        end = scored[goal].bar
        stop = _beat(1 + min(left, end.length) / end.meter.count_length)
        given = {
            "staff": "1",
            "tstamp": _beat(_tstamp(scored[index].bar, mark)),
            "tstamp2": f"{goal - index}m+{stop}",
        }
        if mark.kind in GRADUAL:
            line = {"place": "above", "extender": "true", "lform": "dashed"}
            said = f"{mark.kind.value}." + (f" to {mark.text}" if mark.text else "")
            SubElement(measure, "dir", {**given, **line}).text = said
            continue
        form = "cres" if mark.kind is MarkKind.CRESCENDO else "dim"
        SubElement(measure, "hairpin", {**given, "place": "below", "form": form})


def _tstamp(bar: Bar, mark: Mark) -> Fraction:
    return 1 + mark.at / bar.meter.count_length


def _beat(counts: Fraction) -> str:
    return f"{float(counts):.4f}".rstrip("0").rstrip(".")


def _road_signs(measure: Element, bar: Bar) -> None:
    start = {"staff": "1", "tstamp": "1", "place": "above"}
    middle = _beat(Fraction(bar.meter.beats, 2) + 1)  # words at a bar's end need its room
    end = {"staff": "1", "tstamp": middle, "place": "above"}
    for word in bar.road_words:
        sign, _, second = word.partition(" ")
        if sign not in ("segno", "coda"):
            SubElement(measure, "dir", end).text = word
            continue
        for _ in range(2 if second else 1):  # the second sign is drawn twice
            SubElement(measure, "repeatMark", {**start, "func": sign})
