"""Opens, straightens and compares pages in a process of its own, within so many seconds of work
and bytes of memory. Started by ``scans.reading``, by nobody else."""

import pickle
import resource
import sys

from wren_ladder.drumming.chart import ChartError
from wren_ladder.studio.pieces.fence import NO_MEMORY, Refused


def main() -> None:
    seconds, memory = map(int, sys.argv[1:])
    resource.setrlimit(resource.RLIMIT_AS, (memory, memory))
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds + 1))
    job, *asked = pickle.load(sys.stdin.buffer)
    try:
        found = JOBS[job](*asked)
    except ChartError as error:
        found = Refused(error)
    except MemoryError:
        sys.exit(NO_MEMORY)
    pickle.dump(found, sys.stdout.buffer)


def open_pages(name: str, data: bytes, pages: tuple[int, ...]) -> list[bytes]:
    from wren_ladder.drumming.page_reading.picture import open_pictures, pack

    return [pack(picture) for picture in open_pictures(name, data, pages)]


def read(picture: bytes, corners: list) -> dict:
    from wren_ladder.drumming.page_reading.page import read_page
    from wren_ladder.drumming.page_reading.picture import pack, unpack
    from wren_ladder.drumming.page_reading.serial import line_to_json

    page = read_page(unpack(picture), corners)
    height, width = page.picture.shape
    return {
        "picture": pack(page.picture),
        "width": width,
        "height": height,
        "corners": [list(corner) for corner in page.corners],
        "lines": [line_to_json(line) for line in page.lines],
    }


def compare(pages: list[tuple[bytes, list[dict]]], and_read: bool) -> list[dict]:
    from wren_ladder.drumming.page_reading.page import (
        alike,
        notes_of,
        printed_bars,
        with_dynamics,
    )
    from wren_ladder.drumming.page_reading.picture import unpack
    from wren_ladder.drumming.page_reading.serial import (
        likeness_to_json,
        line_from_json,
        read_to_json,
    )

    bars = printed_bars(
        [(unpack(one), [line_from_json(x) for x in lines]) for one, lines in pages]
    )
    likeness = alike(bars)
    read = notes_of(bars, likeness) if and_read else [None] * len(bars)
    likeness, read, dynamics = with_dynamics(bars, likeness, read)
    return [
        {
            **likeness_to_json(place, like),
            "read": one and read_to_json(one),
            "said": bar.said,
            "number": bar.number,
            "meter": str(bar.meter or ""),
            "signs": said,
        }
        for place, (bar, like, one, said) in enumerate(
            zip(bars, likeness, read, dynamics, strict=True)
        )
    ]


# The packages that read pictures take a third of a second to come up, nobody else needs them.
JOBS = {"open": open_pages, "read": read, "compare": compare}

if __name__ == "__main__":
    main()
