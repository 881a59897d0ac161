"""Charts from files and into files, told apart by the ending of the name."""

import io
import zipfile
from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace
from pathlib import PurePath

from wren_ladder.drumming.chart import Chart, ChartError, Problem
from wren_ladder.drumming.chart.size import check_size
from wren_ladder.drumming.hands import stick_page
from wren_ladder.drumming.notation.counts import read_chart, write_chart
from wren_ladder.drumming.notation.mei import Around, Layout, Scored, write_mei
from wren_ladder.drumming.notation.midi import open_midi
from wren_ladder.drumming.notation.musicxml import MOST_BYTES, open_musicxml, write_musicxml
from wren_ladder.drumming.notation.reading import Reading
from wren_ladder.drumming.performance import PlayedBar, perform, played_along
from wren_ladder.drumming.performance.midi import write_midi
from wren_ladder.drumming.plain_text import plain
from wren_ladder.drumming.roadmap import road_map
from wren_ladder.drumming.style import HOUSE, Style

TYPED = (".wren",)
MUSICXML = (".musicxml", ".xml", ".mxl")
MIDI = (".mid", ".midi")
ENDINGS = (*TYPED, *MUSICXML, *MIDI)
WRITTEN = (*ENDINGS, ".mei")
CONTAINER = """<?xml version="1.0" encoding="UTF-8"?>
<container><rootfiles><rootfile full-path="score.musicxml"/></rootfiles></container>
"""


def read_file(name: str, data: bytes, part: str = "") -> tuple[Chart, tuple[Problem, ...]]:
    """A chart from a file's bytes, and what was guessed or left out, as ``open_file`` says."""
    ending = PurePath(name).suffix.lower()
    if part and ending in TYPED:
        raise ChartError(f"a {ending} file has no parts to choose from; leave '{part}' out")
    reading = open_file(name, data, (part,) if part else ())
    return reading.chart, reading.problems


def open_file(
    name: str,
    data: bytes,
    parts: Sequence[str] = (),
    drums: Mapping[str, str] | None = None,
    taken: Collection[str] = (),
) -> Reading:
    """A file read, and how every part of it was understood.

    ``parts`` are those to read where there are several, ``drums`` corrections by the key
    of a Source, ``taken`` the codes of offers that were chosen. ChartError if the ending is
    unknown or the data make no chart. A chart without a title takes the file's name.
    """
    path = PurePath(name)
    ending = path.suffix.lower()
    if len(data) > MOST_BYTES:
        text = f"the file is larger than {MOST_BYTES // 1024**2} MB"
        raise ChartError(f"{text}; export the drum part alone")
    if ending in TYPED:
        text = _text(data)
        reading = Reading(read_chart(text), (), typed=text)
    elif ending in MUSICXML:
        reading = open_musicxml(data, parts, drums, taken)
    elif ending in MIDI:
        reading = open_midi(data, drums, taken, parts)
    else:
        raise ChartError(f"'{ending or name}' is not read; use {', '.join(ENDINGS)}")
    check_size(reading.chart.bars)
    if reading.chart.title:
        return reading
    return replace(reading, chart=Chart(path.stem, reading.chart.bars))


def _text(data: bytes) -> str:
    try:
        return plain(data.decode("utf-8-sig"))
    except UnicodeDecodeError as error:
        raise ChartError("the file is not UTF-8 text") from error


def write_file(name: str, chart: Chart, count_in: bool = False, style: Style = HOUSE) -> bytes:
    """A chart as the bytes of a file; MIDI along the road map with the style's hands and
    repeats, and with a count-in if asked.

    ChartError if the ending is not one that is written.
    """
    ending = PurePath(name).suffix.lower()
    if ending in TYPED:
        return write_chart(chart).encode()
    if ending == ".mxl":
        return _zipped(write_musicxml(chart))
    if ending in MUSICXML:
        return write_musicxml(chart).encode()
    if ending in MIDI:
        return write_midi(perform(road_of(chart, style), count_in=count_in), chart.title)
    if ending == ".mei":
        bars = [Scored(bar) for bar in chart.bars]
        layout = Layout(counts=False, numbers=True, shorthand=True)
        around = Around(chart.bars[0].tempo, closes="end")
        return write_mei(bars, layout, chart.title, around).encode()
    raise ChartError(f"'{ending or name}' is not written; use {', '.join(WRITTEN)}")


def road_of(chart: Chart, style: Style = HOUSE) -> tuple[PlayedBar, ...]:
    """The bars of a chart along its road."""
    bars = tuple(zip(chart.bars, stick_page(chart.bars, style), strict=True))
    visits = road_map(chart.bars, style.repeats_after_jump).visits
    order = [visit.index for visit in visits]
    return played_along(bars, chart.tempos, chart.swings, chart.graduals, order)


def _zipped(text: str) -> bytes:
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("META-INF/container.xml", CONTAINER)
        archive.writestr("score.musicxml", text)
    return buffer.getvalue()
