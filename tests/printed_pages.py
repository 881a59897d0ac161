"""Printed pages with known answers, and what the world does to them.

Pages come from two engravers that are not ours (see ``tests/fixtures/printed/make.py``); they
are made worse here, by seed, as a scanner, a hand-held telephone, a book's fold and a
pencil do it. Common practice, no source.
"""

import json
from collections.abc import Iterable
from dataclasses import dataclass, field
from pathlib import Path

import cv2
import numpy as np

from tests.engravers import plainly_written
from wren_ladder.demo import CHARTS
from wren_ladder.drumming.chart import Drum, Hit, Touch
from wren_ladder.drumming.chart.shorthand import slashed_through
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.page_reading.key import HEADS, code_of

SHOWN = {Touch.STRONG: Touch.ACCENT}  # one engraver draws one sign for both
HERE = Path(__file__).parent / "fixtures" / "printed"
DRAWN_AT = 300  # dots per inch of the pages that are kept


@dataclass(frozen=True, slots=True)
class PrintedPage:
    """A page's name, how many bars each line has, and for each bar the first that is equal."""

    name: str
    lines: tuple[int, ...]
    kinds: tuple[int, ...]

    @property
    def picture(self) -> np.ndarray:
        return cv2.imread(str(HERE / f"{self.name}.png"), cv2.IMREAD_GRAYSCALE)


# What a teacher answers when asked which drum stands where: LilyPond's own places ("Percussion
# notes" in its manual), and the house's.
LILYPOND_KEY = {
    "1 black": "kick", "5 black": "snare", "5 cross": "cross-stick", "7 cross": "hihat",
    "9 cross": "ride", "9 black": "ride-bell", "9 circled": "crash", "-1 cross": "hihat-foot",
    "8 black": "tom-high", "6 black": "tom-mid", "2 black": "tom-floor",
}  # fmt: skip
HOUSE_KEY = {
    code_of(drum.row.line, head): drum.value
    for drum in Drum
    for head, mei in HEADS.items()
    if drum.row.head == mei and not drum.row.word
} | {"8 diamond": "ride-bell", "5 cross": "cross-stick"}


def key_of(page: PrintedPage) -> dict[str, str]:
    if page.name == "rolls":
        # A cowbell, not a ride's bell: its picture is shown, whatever its head is taken for.
        return LILYPOND_KEY | dict.fromkeys(("9 triangle", "9 diamond", "9 black"), "cowbell")
    by_verovio = page.name.endswith(("_petaluma", "_leland"))
    return HOUSE_KEY if by_verovio else LILYPOND_KEY


def hits_of(page: PrintedPage) -> list[tuple[Hit, ...]] | None:
    """What stands in each bar, None where no chart says it. Rolls come out of LilyPond's source
    as rests where it is written by ``tests.engravers``."""
    if (HERE / f"{page.name}.wren").exists():
        bars = read_chart((HERE / f"{page.name}.wren").read_text()).bars
        return [() if slashed_through(bar) else bar.hits for bar in bars]
    name = page.name.removesuffix("_petaluma").removesuffix("_leland")
    found = [folder / f"{name}.wren" for folder in (CHARTS, CHARTS.parent / "printed")]
    path = next((one for one in found if one.exists()), None)
    if path is None:
        return None
    bars = plainly_written(read_chart(path.read_text())).bars
    return [tuple(hit for hit in bar.hits if hit.roll is None) for bar in bars]


def as_read(hits: Iterable[Hit]) -> set[tuple]:
    """Of each stroke what a page shows."""
    return {(hit.at, hit.drum, SHOWN.get(hit.touch, hit.touch), hit.grace) for hit in hits}


def printed_pages() -> list[PrintedPage]:
    known = json.loads((HERE / "known.json").read_text())
    return [
        PrintedPage(name, tuple(one["lines"]), tuple(one["kinds"]))
        for name, one in known.items()
    ]


@dataclass(frozen=True, slots=True)
class Worse:
    """What happens to a page. ``turn`` in degrees; ``tilt`` of each corner as a share of the
    width; ``light`` from 0 (even) to 1; ``fold``, ``blur`` in pixels at 300 dots per inch."""

    dpi: int = DRAWN_AT
    turn: float = 0
    tilt: float = 0
    light: float = 0
    paper: int = 255
    blur: float = 0
    fold: float = 0
    pencil: int = 0
    jpeg: int = 0
    noise: float = 0
    on_a_table: bool = False


SCANS = {
    "as it was drawn": Worse(),
    "150 dpi": Worse(dpi=150),
    "600 dpi": Worse(dpi=600),
    "turned by 4°": Worse(turn=4),
    "grey paper, 200 dpi": Worse(dpi=200, paper=215, blur=1.2, noise=6, jpeg=60, turn=0.8),
}
PHOTOGRAPHS = {
    "on a table": Worse(250, 0, 0.03, 0.5, 235, 1.3, 0, 0, 70, 5, on_a_table=True),
    "in the dark": Worse(220, 2.5, 0.04, 0.7, 225, 1.5, 0, 0, 50, 7, on_a_table=True),
    "edges outside": Worse(250, -2, 0.03, 0.5, 235, 1.3, 0, 0, 70, 5),
    "folded": Worse(250, 0, 0, 0.3, 240, 1, 25, 0, 70),
    "pencilled": Worse(200, -1, 0, 0, 240, 1, 0, 40, 80),
}


@dataclass(slots=True)
class _Picture:
    values: np.ndarray
    beyond: float
    chance: np.random.Generator = field(repr=False)

    @property
    def size(self) -> tuple[int, int]:
        return self.values.shape[1], self.values.shape[0]


def made_worse(gray: np.ndarray, how: Worse, seed: int) -> np.ndarray:
    scale = how.dpi / DRAWN_AT
    if scale != 1:
        method = cv2.INTER_AREA if scale < 1 else cv2.INTER_CUBIC
        gray = cv2.resize(gray, None, fx=scale, fy=scale, interpolation=method)
    chance = np.random.default_rng(seed)
    picture = _Picture(_pencilled(gray, how.pencil, scale, chance), how.paper, chance)
    picture.values = picture.values.astype(np.float32) * (how.paper / 255)
    if how.fold:
        _fold(picture, how.fold * scale)
    if how.tilt:
        _tilt(picture, how.tilt, how.on_a_table)
    if how.turn:
        _turn(picture, how.turn)
    if how.light:
        _light(picture, how.light)
    if how.blur:
        picture.values = cv2.GaussianBlur(picture.values, (0, 0), how.blur * scale)
    if how.noise:
        picture.values = picture.values + chance.normal(0, how.noise, picture.values.shape)
    found = np.clip(picture.values, 0, 255).astype(np.uint8)
    if how.jpeg:
        packed = cv2.imencode(".jpg", found, [cv2.IMWRITE_JPEG_QUALITY, how.jpeg])[1]
        found = cv2.imdecode(packed, cv2.IMREAD_GRAYSCALE)
    return found


def _pencilled(
    gray: np.ndarray, marks: int, scale: float, chance: np.random.Generator
) -> np.ndarray:
    gray = gray.copy()
    height, width = gray.shape
    for _ in range(marks):
        start = chance.uniform(0.1, 0.9, 2) * (width, height)
        points = np.cumsum(chance.normal(0, 14 * scale, (8, 2)), axis=0) + start
        shade, thick = int(chance.integers(90, 150)), max(1, round(3 * scale))
        cv2.polylines(gray, [points.astype(np.int32)], False, shade, thick, cv2.LINE_AA)
    return gray


def _grid(picture: _Picture) -> tuple[np.ndarray, np.ndarray]:
    width, height = picture.size
    ys, xs = np.mgrid[0:height, 0:width].astype(np.float32)
    return xs / width, ys / height


def _fold(picture: _Picture, deep: float) -> None:
    across, down = _grid(picture)
    width, height = picture.size
    bent = deep * np.sin(across * np.pi * 1.3 + 0.4) + 0.6 * deep * np.abs(across - 0.55)
    picture.values = cv2.remap(
        picture.values, across * width, (down * height + bent).astype(np.float32),
        cv2.INTER_LINEAR, borderValue=picture.beyond,
    )  # fmt: skip
    picture.values = picture.values * (1 - 0.25 * np.exp(-(((across - 0.55) / 0.02) ** 2)))


def _tilt(picture: _Picture, most: float, on_a_table: bool) -> None:
    width, height = picture.size
    edge = round(0.08 * width) if on_a_table else 0
    if on_a_table:
        picture.beyond = float(picture.chance.integers(40, 110))
    source = np.array([(0, 0), (width, 0), (width, height), (0, height)], np.float32)
    off = picture.chance.uniform(-most, most, (4, 2)) * width + edge
    bent = cv2.getPerspectiveTransform(source, (source + off).astype(np.float32))
    size = (width + 2 * edge, height + 2 * edge)
    picture.values = cv2.warpPerspective(picture.values, bent, size, borderValue=picture.beyond)


def _turn(picture: _Picture, degrees: float) -> None:
    width, height = picture.size
    bent = cv2.getRotationMatrix2D((width / 2, height / 2), degrees, 1)
    picture.values = cv2.warpAffine(
        picture.values, bent, (width, height), borderValue=picture.beyond
    )


def _light(picture: _Picture, uneven: float) -> None:
    across, down = _grid(picture)
    from_where = picture.chance.uniform(0, 2 * np.pi)
    slope = (across - 0.5) * np.cos(from_where) + (down - 0.5) * np.sin(from_where)
    x, y = picture.chance.uniform(0.2, 0.8, 2)
    shadow = np.exp(-(((across - x) / 0.25) ** 2 + ((down - y) / 0.3) ** 2))
    light = (1 - uneven * (0.5 + 0.8 * slope)) * (1 - 0.6 * uneven * shadow)
    picture.values = picture.values * np.clip(light, 0.15, 1)
