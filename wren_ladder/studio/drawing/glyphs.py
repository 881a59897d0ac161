"""Notes among words: the note of a metronome mark, drawn as the engraver's font has it.

Verovio writes such a note as a letter of its music font, which no page of ours has; it comes as
a path beside its glyph's width in the data that Verovio brings along.
"""

from functools import lru_cache
from pathlib import Path

import verovio
from lxml import etree

SVG = "{http://www.w3.org/2000/svg}"
MUSIC_FONT = "Leipzig"
DATA = Path(verovio.__file__).parent / "data"
EM = 1000  # units of a glyph to one of its font's size
SMALLER = 0.75  # than the notes on the staff
GAP = 40  # behind the note, in the glyph's units


def draw_notes(drawing: etree._Element) -> None:
    """Put a path for each letter of the music font before its words, and move those on."""
    for text in list(drawing.iter(f"{SVG}text")):
        for span in list(text.iter(f"{SVG}tspan")):
            if span.get("font-family") == MUSIC_FONT:
                _draw(text, span)


def _draw(text: etree._Element, span: etree._Element) -> None:
    scale = float(span.get("font-size").removesuffix("px")) * SMALLER / EM
    x, y = float(text.get("x")), float(text.get("y"))
    for letter in span.text or "":
        path, width = _glyph(f"{ord(letter):04X}")
        place = f"translate({x:.0f}, {y:.0f}) scale({scale:.3f}, {-scale:.3f})"
        text.addprevious(etree.Element(f"{SVG}path", {"d": path, "transform": place}))
        x += (width + GAP) * scale
    span.getparent().remove(span)
    text.set("x", f"{x:.0f}")


@lru_cache(maxsize=16)
def _glyph(code: str) -> tuple[str, float]:
    """(path with y upwards, width)."""
    path = etree.parse(DATA / MUSIC_FONT / f"{code}.xml").find("path")
    widths = etree.parse(DATA / f"{MUSIC_FONT}.xml")
    (found,) = widths.iterfind(f".//g[@c='{code}']")
    return path.get("d"), float(found.get("h-a-x"))
