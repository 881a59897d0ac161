"""Reads one file in a process of its own, within so many seconds of work and bytes of memory.

What is asked comes in, pickled, on standard input, and the Reading or what a ChartError says
goes out the same way. Started by the studio, by nobody else.
"""

import pickle
import resource
import sys

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.files import open_file


def main() -> None:
    seconds, memory = map(int, sys.argv[1:])
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds + 1))
    resource.setrlimit(resource.RLIMIT_AS, (memory, memory))
    asked = pickle.load(sys.stdin.buffer)
    try:
        found = open_file(*asked)
    except ChartError as error:
        found = (error.text, error.bar, error.beat)
    pickle.dump(found, sys.stdout.buffer)


if __name__ == "__main__":
    main()
