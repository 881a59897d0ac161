"""Staves as pages of a PDF, each as large as its drawing.

The page's own typesetter takes about a millisecond for every element of a drawing, and a chart
of a hundred bars has 26,000 of them. Typst reads SVG fifty times as fast; what it makes is put
into the places that were left for it.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass

import typst

from wren_ladder.studio.paper.fonts import FAMILY, font_folder

STAVES = re.compile(r'<svg [^>]*class="staff-svg".*?</svg>', re.DOTALL)
SIZE = re.compile(r'viewBox="[-\d.]+ [-\d.]+ ([\d.]+) ([\d.]+)"')
INK = "#1F2A2E"
WIDE = 500  # points; a page is scaled when it is put in its place


@dataclass(frozen=True, slots=True)
class Staff:
    """A drawing with its own width and height, in whatever units it is drawn in."""

    svg: str
    width: float
    height: float

    @property
    def share(self) -> float:
        """Height for a width of 1."""
        return self.height / self.width

    @property
    def empty(self) -> str:
        """A drawing of the same size with nothing in it."""
        return (
            f'<svg xmlns="http://www.w3.org/2000/svg" width="{self.width}" '
            f'height="{self.height}" viewBox="0 0 {self.width} {self.height}"/>'
        )


def staff_of(svg: str) -> Staff:
    width, height = SIZE.search(svg).groups()
    return Staff(svg, float(width), float(height))


def staff_pages(staves: Sequence[Staff]) -> bytes:
    """A PDF with a page for each."""
    files = {f"{number}.svg": _drawn(staff) for number, staff in enumerate(staves)}
    pages = [
        f"#page(width: {WIDE}pt, height: {WIDE * staff.share:.4f}pt)"
        f'[#image("{name}", width: {WIDE}pt, height: {WIDE * staff.share:.4f}pt)]'
        for name, staff in zip(files, staves, strict=True)
    ]
    source = "\n".join(["#set page(margin: 0pt, fill: none)", *pages])
    whole = {"main": source.encode(), **{name: svg.encode() for name, svg in files.items()}}
    return typst.compile(whole, font_paths=[font_folder()], ignore_system_fonts=True)


def _drawn(staff: Staff) -> str:
    size = f'width="{staff.width / 10:.1f}" height="{staff.height / 10:.1f}"'
    return staff.svg.replace("<svg ", f'<svg {size} color="{INK}" font-family="{FAMILY}" ', 1)
