"""Printed signs as small pictures to hold against a page: note heads, rests, flags, accents.

They are drawn from the outlines of the music fonts that come with the engraver, in the size of
a straightened page. Which outline is which sign: Standard Music Font Layout 1.4 (W3C).
"""

import xml.etree.ElementTree as ET
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from importlib.util import find_spec
from pathlib import Path

import cv2
import numpy as np
from fontTools.pens.basePen import BasePen
from fontTools.svgLib.path import parse_path

from wren_ladder.drumming.page_reading.found import SPACE
from wren_ladder.drumming.page_reading.pixels import Ink

# Data beside the engraver, which itself is not loaded: the core engraves nothing.
ENGRAVER = find_spec("verovio")
FONTS = Path(ENGRAVER.origin if ENGRAVER and ENGRAVER.origin else "").parent / "data"
STYLES = ("Bravura", "Leland", "Petaluma", "Leipzig", "Gootville")
A_SPACE = 250  # of a font's units
FINE = 8  # a pixel of a shape is the mean of so many across and down
CURVE = 8  # straight pieces of one


class Sign(StrEnum):
    """What a shape says."""

    BLACK = "black"
    HALF = "half"
    WHOLE = "whole"
    CROSS = "cross"
    CIRCLED = "circled"
    DIAMOND = "diamond"
    OPEN_DIAMOND = "open diamond"
    SLASHED = "slashed"
    TRIANGLE = "triangle"
    REST_1 = "whole rest"
    REST_2 = "half rest"
    REST_4 = "quarter rest"
    REST_8 = "8th rest"
    REST_16 = "16th rest"
    ACCENT = "accent"
    STRONG = "strong accent"
    THREE = "3"
    FIVE = "5"
    SIX = "6"
    SEVEN = "7"
    NUMBER_0 = "number 0"
    NUMBER_1 = "number 1"
    NUMBER_2 = "number 2"
    NUMBER_3 = "number 3"
    NUMBER_4 = "number 4"
    NUMBER_5 = "number 5"
    NUMBER_6 = "number 6"
    NUMBER_7 = "number 7"
    NUMBER_8 = "number 8"
    NUMBER_9 = "number 9"
    COMMON = "common time"
    CUT = "cut time"
    SLASH = "slash"
    LETTER_P = "letter p"
    LETTER_M = "letter m"
    LETTER_F = "letter f"
    LETTER_S = "letter s"
    LETTER_Z = "letter z"
    LETTERS_PP = "letters pp"
    LETTERS_MP = "letters mp"
    LETTERS_MF = "letters mf"
    LETTERS_FF = "letters ff"
    LETTERS_FP = "letters fp"
    LETTERS_SFZ = "letters sfz"


OUTLINES = {
    Sign.BLACK: "E0A4", Sign.HALF: "E0A3", Sign.WHOLE: "E0A2", Sign.CROSS: "E0A9",
    Sign.CIRCLED: "E0B3", Sign.DIAMOND: "E0DB", Sign.OPEN_DIAMOND: "E0DD",
    Sign.SLASHED: "E0CF", Sign.SLASH: "E101", Sign.COMMON: "E08A", Sign.CUT: "E08B",
    Sign.REST_1: "E4E3", Sign.REST_2: "E4E4", Sign.REST_4: "E4E5", Sign.REST_8: "E4E6",
    Sign.REST_16: "E4E7", Sign.ACCENT: "E4A0", Sign.STRONG: "E4AC",
    Sign.THREE: "E883", Sign.FIVE: "E885", Sign.SIX: "E886", Sign.SEVEN: "E887",
}  # fmt: skip


# The upright figures of time signatures and long rests, from 0 to 9.
FIGURES = tuple(Sign(f"number {figure}") for figure in range(10))
OUTLINES |= {sign: f"E08{figure}" for figure, sign in enumerate(FIGURES)}
# Dynamics, letter by letter and those that touch.
OUTLINES |= {
    Sign.LETTER_P: "E520", Sign.LETTER_M: "E521", Sign.LETTER_F: "E522", Sign.LETTER_S: "E524",
    Sign.LETTER_Z: "E525", Sign.LETTERS_PP: "E52B", Sign.LETTERS_MP: "E52C",
    Sign.LETTERS_MF: "E52D", Sign.LETTERS_FF: "E52F", Sign.LETTERS_FP: "E534",
    Sign.LETTERS_SFZ: "E539",
}  # fmt: skip
LETTERS = {sign: sign.split()[1] for sign in Sign if sign.startswith("letter")}


# Of heads that not every font has: their corners, in a font's units.
CORNERS = {
    Sign.TRIANGLE: (
        ((0, -125), (295, -125), (147, 125)),
        ((0, -125), (0, 125), (295, 0)),
        ((0, 125), (295, 125), (147, -125)),
    ),
}


@dataclass(frozen=True, slots=True, eq=False)
class Shape:
    """A sign as a picture, 1 is ink; ``origin`` is the pixel (x, y) where the font puts it: of
    a head its left end and its middle."""

    sign: Sign
    style: str
    picture: np.ndarray
    origin: tuple[float, float]


class _Lines(BasePen):
    """The outlines of a sign as closed lines of points."""

    def __init__(self) -> None:
        super().__init__(None)
        self.closed: list[list[tuple[float, float]]] = []

    def _moveTo(self, point) -> None:  # noqa: N802
        self.closed.append([point])

    def _lineTo(self, point) -> None:  # noqa: N802
        self.closed[-1].append(point)

    def _curveToOne(self, first, second, end) -> None:  # noqa: N802
        start = np.array(self.closed[-1][-1])
        for t in np.linspace(0, 1, CURVE + 1)[1:]:
            s = 1 - t
            point = s**3 * start + 3 * s * s * t * np.array(first)
            point = point + 3 * s * t * t * np.array(second) + t**3 * np.array(end)
            self.closed[-1].append(tuple(point))


@lru_cache(maxsize=512)
def shapes(sign: Sign, size: float = 1.0) -> tuple[Shape, ...]:
    """A sign in the hands of several engravers; ``size`` as a share of a full note's."""
    if sign in CORNERS:
        drawn = [[np.array(one, float)] for one in CORNERS[sign]]
        return tuple(_shape(sign, "drawn", rings, size) for rings in drawn)
    found = ((style, _outlines(sign, style)) for style in STYLES)
    return tuple(_shape(sign, style, rings, size) for style, rings in found if rings)


def _outlines(sign: Sign, style: str) -> list[np.ndarray]:
    """Closed lines of points in a font's units; none where the font has no such sign."""
    path = FONTS / style / f"{OUTLINES[sign]}.xml"
    if not path.exists():
        return []
    pen = _Lines()
    for outline in ET.fromstring(path.read_text()).iter("path"):
        parse_path(outline.get("d"), pen)
    return [np.array(ring) for ring in pen.closed]


def _shape(sign: Sign, style: str, outlines: Sequence[np.ndarray], size: float) -> Shape:
    scale = SPACE * FINE * size / A_SPACE
    rings = [ring * (scale, -scale) for ring in outlines]
    low = np.floor(np.min([ring.min(axis=0) for ring in rings], axis=0) / FINE) * FINE
    high = np.ceil(np.max([ring.max(axis=0) for ring in rings], axis=0) / FINE) * FINE
    wide, tall = (high - low).astype(int)
    fine = np.zeros((tall, wide), np.uint8)
    cv2.fillPoly(fine, [np.round(ring - low).astype(np.int32) for ring in rings], 255)
    picture = cv2.resize(fine, (wide // FINE, tall // FINE), interpolation=cv2.INTER_AREA)
    return Shape(sign, style, picture.astype(np.float32) / 255, tuple(-low / FINE))


def likeness(part: Ink, picture: np.ndarray) -> float:
    """How like a part of the ink and a shape are, from 0 to 1, when one is made as large as the
    other; nothing if they are not nearly as large."""
    high, wide = part.shape
    ratios = (picture.shape[0] / high, picture.shape[1] / wide)
    if not all(0.6 < ratio < 1.6 for ratio in ratios) or not 0.72 < ratios[0] / ratios[1] < 1.4:
        return 0
    size = (max(8, picture.shape[1]), max(8, picture.shape[0]))
    one = cv2.resize(part.astype(np.float32), size, interpolation=cv2.INTER_AREA)
    two = cv2.resize(picture, size, interpolation=cv2.INTER_AREA)
    return float(cv2.matchTemplate(_soft(one), _soft(two), cv2.TM_CCOEFF_NORMED)[0, 0])


def _soft(picture: np.ndarray) -> np.ndarray:
    return cv2.GaussianBlur(np.pad(picture, 2), (0, 0), 1.2)
