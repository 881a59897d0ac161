"""The key of a printed staff: which drum stands on which line with which head. Publishers
differ; it is asked once for a piece, with a guess.
"""

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.notation.staff import PLACES
from wren_ladder.drumming.page_reading.bars.read_bar import ReadBar, Stroke

# Heads as they are read, by their names in MEI: the table of drums has those.
HEADS = {
    "black": "", "cross": "x", "circled": "circle", "diamond": "diamond", "slashed": "slashed",
    "slash": "slash", "triangle": "isotriangle",
}  # fmt: skip
SAID = {
    "black": "a plain head", "cross": "a cross", "circled": "a cross in a circle",
    "diamond": "a diamond", "slashed": "a head with a stroke through it",
    "slash": "a slash", "triangle": "a triangle",
}  # fmt: skip
LINES = (
    "the lowest line",
    "the second line",
    "the middle line",
    "the fourth line",
    "the top line",
)
SPACES = ("the lowest space", "the second space", "the third space", "the top space")
LEFT_OUT = ""  # chosen for heads that are none
# Cymbals of crosses nobody knows the places of, from the one that is played most.
CYMBALS = (Drum.HIHAT, Drum.RIDE, Drum.CRASH, Drum.CRASH_2)
# Some print the hat in the top space, and ride and crash where others have the hat.
HAT_INSIDE = (7, "cross")
BESIDE_HAT_INSIDE = {
    HAT_INSIDE: Drum.HIHAT, (9, "cross"): Drum.RIDE, (9, "circled"): Drum.CRASH,
    (9, "diamond"): Drum.RIDE_BELL, (8, "black"): Drum.TOM_HIGH, (2, "black"): Drum.TOM_FLOOR,
}  # fmt: skip
HANDS = 6  # a row from which on a cross is a cymbal's


@dataclass(frozen=True, slots=True)
class HeadPlace:
    """A head on a row, and how often it comes."""

    row: int
    head: str
    often: int

    @property
    def code(self) -> str:
        return code_of(self.row, self.head)

    @property
    def said(self) -> str:
        return f"{SAID[self.head]} {_where(self.row)}"


def code_of(row: int, head: str) -> str:
    return f"{row} {head}"


def head_places(bars: Iterable[tuple[ReadBar, int]]) -> list[HeadPlace]:
    """All that stand in some bars, each so often as the bar comes; the highest first."""
    counts: Counter[tuple[int, str]] = Counter()
    for bar, often in bars:
        counts.update({(one.row, one.head): 0 for one in bar.strokes})
        for stroke in bar.strokes:
            counts[stroke.row, stroke.head] += often
    found = [HeadPlace(row, head, often) for (row, head), often in counts.items()]
    return sorted(found, key=lambda one: (-one.row, one.head))


def guessed_key(places: Iterable[HeadPlace], known: Mapping[str, str]) -> dict[str, str]:
    """The drum of each by its code: as in ``known``, a key that was confirmed before; else as
    most print it; else what is near. Common practice of engraving, no source."""
    places = list(places)
    rows = {(one.row, one.head) for one in places}
    found: dict[str, str] = {}
    for place in places:
        at = (place.row, place.head)
        drum = known.get(place.code)
        if drum is None and HAT_INSIDE in rows:
            drum = BESIDE_HAT_INSIDE.get(at)
        drum = drum or PLACES.get((place.row, HEADS[place.head]))
        if drum:
            found[place.code] = str(drum)
    for place in sorted(places, key=lambda one: -one.often):
        if place.code not in found:
            drum = _near(place, set(found.values()))
            found[place.code] = str(drum) if drum else LEFT_OUT
    return found


def _near(place: HeadPlace, taken: set[str]) -> Drum | None:
    if place.head in ("cross", "circled") and place.row >= HANDS:
        return next((one for one in CYMBALS if one not in taken), None)
    head = HEADS[place.head]
    near = [
        (abs(row - place.row), drum.page_order, drum)
        for (row, one), drum in PLACES.items()
        if one == head and drum not in taken
    ]
    return min(near)[2] if near else None


def drum_of(stroke: Stroke, key: Mapping[str, str]) -> Drum | None:
    """What is struck; None where it is left out. A circle above a hat opens it."""
    name = key.get(code_of(stroke.row, stroke.head))
    if not name or name not in tuple(Drum):
        return None
    drum = Drum(name)
    return Drum.HIHAT_OPEN if drum is Drum.HIHAT and stroke.mark == "o" else drum


def _where(row: int) -> str:
    if 0 <= row <= 8:
        return f"on {LINES[row // 2]}" if row % 2 == 0 else f"in {SPACES[row // 2]}"
    side = "above" if row > 8 else "below"
    off = row - 8 if row > 8 else -row
    if off == 1:
        return f"just {side} the staff"
    lines = off // 2
    many = f"{lines} short line{'s' if lines > 1 else ''}"
    return f"on {many} {side} the staff" if off % 2 == 0 else f"past {many} {side} the staff"
