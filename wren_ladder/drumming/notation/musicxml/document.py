"""From bytes to a MusicXML tree: plain or zipped, and never dangerous."""

import io
import struct
import zipfile
import zlib
from xml.etree.ElementTree import Element, ParseError, fromstring

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import iterparse

from wren_ladder.drumming.chart import ChartError

MOST_BYTES = 8 * 1024 * 1024  # unzipped; a hundred bars take about a quarter megabyte
CONTAINER = "META-INF/container.xml"
# What a damaged archive raises while it is opened, looked through and unpacked.
DAMAGED = (
    *(zipfile.BadZipFile, zlib.error, struct.error, NotImplementedError, RuntimeError),
    *(OSError, EOFError, KeyError, IndexError, ValueError),
)
ZIP_MAGIC = b"PK\x03\x04"


def read_document(data: bytes) -> Element:
    """The score-partwise element of a .musicxml, .xml or .mxl file.

    ChartError if it is too large, broken, no MusicXML, or holds entity definitions.
    """
    text = unpacked(data)
    if len(text) > MOST_BYTES:
        raise _too_large()
    root = _parse(text)
    if root.tag == "score-timewise":
        raise ChartError(
            "this MusicXML is written bar by bar (score-timewise); "
            "save it as score-partwise, which is what notation programs do by default"
        )
    if root.tag != "score-partwise":
        raise ChartError(f"this is no MusicXML score: it starts with <{root.tag}>")
    return root


def unpacked(data: bytes) -> bytes:
    """The text of a score, taken out of its archive where it is in one; ChartError for an
    archive that can't be opened."""
    return _unzip(data) if data.startswith(ZIP_MAGIC) else data


def _too_large() -> ChartError:
    text = f"the file is larger than {MOST_BYTES // 1024**2} MB of MusicXML"
    return ChartError(f"{text}; export the drum part alone")


def _parse(text: bytes) -> Element:
    try:
        # Entities are defined before the first element, so that the careful parser need only
        # read as far as that; the rest is read by the fast one.
        next(iterparse(io.BytesIO(text), events=("start",), forbid_dtd=False))
        return fromstring(text)
    except DefusedXmlException as error:
        raise ChartError(
            "the file defines XML entities, which no music needs; it was not read"
        ) from error
    except (ParseError, ValueError, LookupError) as error:
        raise ChartError(f"the file is not well-formed XML: {error}") from error


def _unzip(data: bytes) -> bytes:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            return _member(archive, _score_name(archive))
    except ChartError:
        raise
    except DAMAGED as error:
        text = (
            "the .mxl file is a damaged or unusual zip archive; save it again, or as .musicxml"
        )
        raise ChartError(text) from error


def _score_name(archive: zipfile.ZipFile) -> str:
    names = archive.namelist()
    if CONTAINER in names:
        container = _parse(_member(archive, CONTAINER))
        for element in container.iter():
            if element.tag.rpartition("}")[2] == "rootfile":
                return element.get("full-path", "")
    for name in names:
        if name.lower().endswith((".musicxml", ".xml")) and "META-INF" not in name:
            return name
    raise ChartError("the .mxl archive holds no MusicXML file")


def _member(archive: zipfile.ZipFile, name: str) -> bytes:
    with archive.open(name) as member:
        text = member.read(MOST_BYTES + 1)  # the size in the header can lie
    if len(text) > MOST_BYTES:
        raise _too_large()
    return text
