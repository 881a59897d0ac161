"""The number of bars that a long rest lasts: the figures over its thick stroke."""

from wren_ladder.drumming.page_reading.bars.figures import read_number
from wren_ladder.drumming.page_reading.found import SPACE, FoundBar, FoundLine
from wren_ladder.drumming.page_reading.pixels import Ink

FAR = 4.5 * SPACE  # above the staff, at most
HIGH = (1.1 * SPACE, 3.9 * SPACE)


def bars_of_rest(ink: Ink, line: FoundLine, bar: FoundBar) -> int | None:
    """What stands over a long rest; None where it is not read surely. ``ink`` is the page's."""
    top = max(0, line.top - int(FAR))
    number = read_number(ink[top : line.top - 2, bar.left + 4 : bar.right - 3], *HIGH)
    return number if number and number > 1 else None
