"""The limb view: one bar as four lanes, every stroke drawn at its height.

Time runs left to right on the count; ghosts hug the line, accents stand tall.
"""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from itertools import pairwise

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Hit, Touch
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.hands import Height, Limb, StrokeKind
from wren_ladder.drumming.study import BarStudy

LEFT, TOP, LANE, SLOT = 112, 34, 74, 44
NARROWEST = 620
BASE = 14  # of a lane's line above the lane's end
HEIGHTS = {Height.GHOST: 14, Height.TAP: 32, Height.ACCENT: 50, Height.STRONG: 58}
SPOKEN_HEIGHTS = {
    Height.GHOST: "low",
    Height.TAP: "normal height",
    Height.ACCENT: "high",
    Height.STRONG: "very high",
}
EDGE = 20  # left of the first place
GRACE_GAP = 9  # a grace stands just before its main note


@dataclass(frozen=True, slots=True)
class CountMark:
    x: float
    say: str
    silent: bool
    main: bool


@dataclass(frozen=True, slots=True)
class StrokeMark:
    x: float
    base: float
    top: float
    glyph: str
    kind: str  # full, down, up, tap; "" for feet and for hands that only tap
    label_y: float
    ghost: bool
    strong: bool
    grace: bool
    spoken: str
    at: Fraction
    drum: str
    place: int  # of its hit in the bar


@dataclass(frozen=True, slots=True)
class Slot:
    """A place of the grid where a stroke can be dropped; ``said`` is what is there."""

    at: Fraction
    x: float
    left: float
    width: float
    said: str


@dataclass(frozen=True, slots=True)
class Lane:
    limb: str
    y: float
    top: float
    foot: bool
    dim: bool
    strokes: tuple[StrokeMark, ...]


@dataclass(frozen=True, slots=True)
class LimbView:
    width: float
    height: float
    left: float
    top: float
    counts: tuple[CountMark, ...]
    lanes: tuple[Lane, ...]
    spoken: str
    slots: tuple[Slot, ...] = ()
    lane_height: float = LANE


def limb_view(
    studied: BarStudy,
    shown: Collection[Limb] = tuple(Limb),
    places: Sequence[Fraction] = (),
) -> LimbView:
    """Lay out a bar; limbs not in ``shown`` are dimmed, ``places`` can be edited."""
    bar = studied.bar
    width = max(NARROWEST, LEFT + SLOT * len(studied.counts) + 30)
    scale = (width - LEFT - 30) / float(bar.length)

    def x_of(at) -> float:
        return round(LEFT + float(at) * scale, 1)

    lanes = []
    for row, limb in enumerate(Limb):
        y = TOP + LANE * (row + 1) - BASE
        lanes.append(
            Lane(
                limb=limb.value.capitalize(),
                y=y,
                top=y - LANE + BASE,
                foot="foot" in limb.value,
                dim=limb not in shown,
                strokes=tuple(_marks(studied, limb, y, x_of)),
            )
        )
    return LimbView(
        width=width,
        height=TOP + LANE * 4 + 4,
        left=LEFT,
        top=TOP - 8,
        counts=tuple(
            CountMark(x_of(count.at), count.say, count.silent, count.main)
            for count in studied.counts
        ),
        lanes=tuple(lanes),
        spoken=speak(studied),
        slots=_slots(studied.bar, places, x_of),
    )


def _slots(bar: Bar, places: Sequence[Fraction], x_of) -> tuple[Slot, ...]:
    """Each place reaches half way to its neighbours."""
    frame = Positions.of(bar)
    found = []
    for at, after in pairwise([*places, bar.length]):
        left = found[-1].left + found[-1].width if found else x_of(0) - EDGE
        right = (x_of(at) + x_of(after)) / 2
        there = " and ".join(_speak_note(hit) for hit in bar.hits if hit.at == at)
        said = f"{frame.say(at)}: {there or 'nothing'}"
        found.append(Slot(at, x_of(at), left, round(right - left, 1), said))
    return tuple(found)


def _marks(studied: BarStudy, limb: Limb, y: float, x_of):
    mine = [stroke for stroke in studied.strokes if stroke.limb is limb]
    places = {hit: place for place, hit in enumerate(studied.bar.hits)}
    named = any(stroke.kind not in (None, StrokeKind.TAP) for stroke in mine)
    for stroke in mine:
        x = x_of(stroke.hit.at)
        if stroke.grace:
            ahead = stroke.hit.grace.notes - _grace_place(studied, stroke)
            x -= GRACE_GAP * ahead
        drum = stroke.hit.drum
        ghost = stroke.hit.touch is Touch.GHOST or stroke.grace
        glyph = drum.row.glyph
        top = y - HEIGHTS[stroke.height]
        name = f"{stroke.kind.value} stroke, " if stroke.kind else ""
        what = f"{drum.spoken}{' grace note' if stroke.grace else ''}"
        yield StrokeMark(
            x=x,
            base=y,
            top=top,
            glyph=glyph,
            kind=stroke.kind.value if named and not stroke.grace else "",
            label_y=top + 4,
            ghost=ghost,
            strong=stroke.height >= Height.ACCENT,
            grace=stroke.grace,
            spoken=f"{what}: {name}{SPOKEN_HEIGHTS[stroke.height]}",
            at=stroke.hit.at,
            drum=drum.value,
            place=places[stroke.hit],
        )


def _grace_place(studied: BarStudy, stroke) -> int:
    """0 for the first grace of its ornament."""
    graces = [s for s in studied.strokes if s.grace and s.hit is stroke.hit]
    return next(place for place, grace in enumerate(graces) if grace is stroke)


def speak(studied: BarStudy) -> str:
    """The bar in words, for those who hear the page: "1: hat and kick; &: hat"."""
    struck: dict[Fraction, list[str]] = {}
    for stick in studied.sticks:
        struck.setdefault(stick.hit.at, []).append(_speak_hit(stick))
    said = [
        f"{count.say}: {' and '.join(struck[count.at])}"
        for count in studied.counts
        if count.at in struck
    ]
    return "; ".join(said) or "a bar of rest"


def _speak_hit(stick) -> str:
    words = [_speak_note(stick.hit)]
    if stick.hand:
        words.append("right" if stick.hand.value == "R" else "left")
    return " ".join(words)


def _speak_note(hit: Hit) -> str:
    words = [hit.drum.spoken]
    if hit.touch is not Touch.NORMAL:
        words.insert(0, hit.touch.value)
    if hit.grace.notes:
        words.append(f"with a {hit.grace.value}")
    if hit.roll:
        words.append(f"{hit.roll.strokes or hit.roll.kind.value} roll")
    return " ".join(words)
