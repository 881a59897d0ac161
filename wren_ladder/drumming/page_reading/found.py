"""What was found on a page, as plain values.

Places are pixels of the straightened picture, x to the right and y downwards. A staff space,
the distance of two staff lines, is ``SPACE`` pixels there, whatever the size of the print.
"""

from dataclasses import dataclass, field
from enum import StrEnum
from typing import TYPE_CHECKING

if TYPE_CHECKING:  # who only asks where bars are need not load it
    from wren_ladder.drumming.page_reading.pixels import Gray


ENDINGS = (".pdf", ".png", ".jpg", ".jpeg", ".webp", ".tif", ".tiff", ".heic", ".heif")
MOST_PAGES = 12  # of one piece
SPACE = 16  # pixels from one staff line to the next, of a straightened picture
MARGIN = 3  # pixels off a bar line, of the ink that is a bar's
ROOM = 6 * SPACE  # above and below a staff, of the ink that is a bar's


class BarLine(StrEnum):
    """What stands at the end of a bar, or before it."""

    NONE = "none"
    SINGLE = "single"
    DOUBLE = "double"
    FINAL = "final"
    REPEAT_START = "repeat start"
    REPEAT_END = "repeat end"
    REPEAT_BOTH = "repeat both"


class Shorthand(StrEnum):
    """What stands in a bar instead of notes."""

    NONE = ""
    REPEAT = "repeat"  # of the bar before
    REPEAT_2 = "repeat 2 bars"  # of the two bars before, over the bar line between both
    SLASHES = "slashes"  # go on in the same way
    RESTS = "rests"  # of several bars, a number above


@dataclass(frozen=True, slots=True)
class FoundBar:
    """One bar: from ``left`` to ``right`` in its line; ``ink_left`` is where the music begins,
    behind a clef and a time signature."""

    left: int
    right: int
    ink_left: int
    before: BarLine = BarLine.NONE
    after: BarLine = BarLine.SINGLE
    shorthand: Shorthand = Shorthand.NONE
    ending: bool = False  # a bracket begins over it

    @property
    def music_left(self) -> int:
        """Where its ink is cut out: behind its bar line, clef and time signature."""
        return min(max(self.left, self.ink_left), self.right - SPACE) + MARGIN


@dataclass(frozen=True, slots=True)
class FoundLine:
    """One staff across the page: ``top`` and ``bottom`` are its outer lines, the same for a
    staff of one line; ``above`` and ``below`` bound what belongs to it."""

    top: int
    bottom: int
    left: int
    right: int
    above: int
    below: int
    bars: tuple[FoundBar, ...] = ()

    @property
    def middle(self) -> int:
        return (self.top + self.bottom) // 2


@dataclass(frozen=True, slots=True)
class FoundPage:
    """A page made straight, its lines from top to bottom, and the corners of the sheet in the
    picture that came in, clockwise from the top left; none where all of it was taken."""

    picture: "Gray" = field(repr=False)
    lines: tuple[FoundLine, ...]
    corners: tuple[tuple[float, float], ...] = ()

    @property
    def bars(self) -> tuple[FoundBar, ...]:
        return tuple(bar for line in self.lines for bar in line.bars)


@dataclass(frozen=True, slots=True)
class Place:
    """A box in a bar's ink, in pixels from its upper left."""

    left: int
    top: int
    right: int
    bottom: int


@dataclass(frozen=True, slots=True)
class Likeness:
    """What a bar is like: bar ``like`` (an index), and where it differs, nowhere if equal."""

    like: int
    here: tuple[Place, ...] = ()
    there: tuple[Place, ...] = ()

    @property
    def equal(self) -> bool:
        return not self.here and not self.there
