"""Charts from files: typed bars (.wren) and MusicXML (.musicxml, .xml, .mxl)."""

from pathlib import PurePath

from wren_ladder.drumming.chart import Chart, ChartError, Problem
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.notation.musicxml import MOST_BYTES, read_musicxml

TYPED = ".wren"
MUSICXML = (".musicxml", ".xml", ".mxl")
ENDINGS = (TYPED, *MUSICXML)


def read_file(name: str, data: bytes, part: str = "") -> tuple[Chart, tuple[Problem, ...]]:
    """A chart from a file's bytes, by the ending of its name.

    ChartError if the ending is unknown or the data make no chart. A chart without a
    title takes the file's name.
    """
    path = PurePath(name)
    ending = path.suffix.lower()
    if len(data) > MOST_BYTES:
        raise ChartError(f"the file is larger than {MOST_BYTES // 1024**2} MB")
    if ending == TYPED:
        try:
            text = data.decode("utf-8-sig")
        except UnicodeDecodeError as error:
            raise ChartError("the file is not UTF-8 text") from error
        return read_chart(text, title=path.stem), ()
    if ending in MUSICXML:
        chart, problems = read_musicxml(data, part)
        return (chart if chart.title else Chart(path.stem, chart.bars)), problems
    raise ChartError(f"'{ending or name}' is not read; use {', '.join(ENDINGS)}")
