"""Reads one file of a stranger in a process of its own, and tries whether what it says can be
studied, written and drawn, within so many seconds of work and bytes of memory.

What is asked comes in, pickled, on standard input, and the Reading or what a ChartError says
goes out the same way. Started by ``pieces.reading``, by nobody else.
"""

import pickle
import resource
import sys

from wren_ladder.drumming.chart import Chart, ChartError
from wren_ladder.drumming.files import WRITTEN, open_file, write_file
from wren_ladder.drumming.notation.mei import Layout, write_mei
from wren_ladder.drumming.study import study
from wren_ladder.studio.pieces.fence import NO_MEMORY, Refused

CARDS = Layout(clef=False, counts=False, hands=False, apart=True)


def main() -> None:
    to_read, to_try, memory = map(int, sys.argv[1:])
    resource.setrlimit(resource.RLIMIT_AS, (memory, memory))
    resource.setrlimit(resource.RLIMIT_CPU, (to_read, to_read + to_try + 1))
    asked = pickle.load(sys.stdin.buffer)
    try:
        found = open_file(*asked)
        resource.setrlimit(resource.RLIMIT_CPU, (to_read + to_try, to_read + to_try + 1))
        try_out(found.chart)
    except ChartError as error:
        found = Refused(error)
    except MemoryError:
        sys.exit(NO_MEMORY)
    pickle.dump(found, sys.stdout.buffer)


def try_out(chart: Chart) -> None:
    """Everything that the studio does with a piece as soon as it is there."""
    # It takes half a second to come up, which who has no file to read need not wait for.
    from wren_ladder.studio.drawing.engraving import CARD_WIDTH, draw_cards, scored

    studied = study(chart)
    for ending in WRITTEN:
        write_file(f"tried{ending}", chart)
    bars = [bar for bar in studied.bars if bar.twin_of is None]
    draw_cards(write_mei([scored(bar) for bar in bars], CARDS), CARD_WIDTH, CARDS, len(bars))


if __name__ == "__main__":
    main()
