"""How well printed pages are read: python -m bench.pages [SEEDS]

The pages of ``tests/fixtures/printed`` as they were drawn, and made worse by seed as scanners
and telephones do. Asserts nothing; the figures stand in docs/sources.md.
"""

import sys
from collections import Counter
from time import perf_counter

from tests.printed_pages import (
    PHOTOGRAPHS,
    SCANS,
    PrintedPage,
    Worse,
    as_read,
    hits_of,
    key_of,
    made_worse,
    printed_pages,
)
from wren_ladder.drumming.page_reading.page import alike, notes_of, printed_bars, read_page
from wren_ladder.drumming.page_reading.proposed import hits_of as key_hits


def main() -> None:
    seeds = int(sys.argv[1]) if len(sys.argv) > 1 else 1
    print(
        f"{'':24} lines  bars  lines whole  equal: said   right  found   s a page"
        "   notes: bars  right  wrong unsaid  s a bar"
    )
    for title, kinds in (("scans", SCANS), ("photographs", PHOTOGRAPHS)):
        all_of = Counter()
        for name, how in kinds.items():
            counts = measured(how, seeds)
            all_of += counts
            show(name, counts)
        show(f"all {title}", all_of)


def measured(how: Worse, seeds: int) -> Counter:
    """Counts over all pages: staves and bars there and found; pairs of equal bars there, said
    and right."""
    counts: Counter = Counter()
    for seed in range(seeds):
        for number, page in enumerate(printed_pages()):
            picture = made_worse(page.picture, how, 100 * seed + number)
            start = perf_counter()
            found = read_page(picture)
            bars = printed_bars([(found.picture, found.lines)])
            likeness = alike(bars)
            counts["seconds"] += perf_counter() - start
            counts["pages"] += 1
            lines = tuple(len(line.bars) for line in found.lines)
            counts["lines"] += len(page.lines)
            counts["lines found"] += len(page.lines) if len(lines) == len(page.lines) else 0
            counts["bars"] += len(page.kinds)
            counts["bars found"] += sum(
                n for n, got in zip(page.lines, lines, strict=False) if n == got
            )
            if lines == page.lines:
                counts += equal_bars(page.kinds, likeness)
                counts += notes_in_bars(page, bars, likeness)
    return counts


def equal_bars(kinds: tuple[int, ...], likeness: list) -> Counter:
    counts: Counter = Counter()
    for place, one in enumerate(likeness):
        counts["equal"] += kinds[place] != place
        if one is not None and one.equal:
            counts["said"] += 1
            counts["right"] += kinds[one.like] == kinds[place]
    return counts


def notes_in_bars(page: PrintedPage, bars: list, likeness: list) -> Counter:
    """Bars that were read, wholly right, and those that are wrong without a doubt told."""
    counts: Counter = Counter()
    truth, key = hits_of(page), key_of(page)
    if truth is None:
        return counts
    start = perf_counter()
    read = notes_of(bars, likeness)
    counts["seconds reading"] += perf_counter() - start
    for hits, one in zip(truth, read, strict=True):
        if one is None:
            continue
        right = as_read(hits) == as_read(key_hits(one.strokes, key, one.length))
        counts["read"] += 1
        counts["read right"] += right
        # What is crossed is offered in two readings, always.
        told = one.doubts or any(stroke.roll or stroke.times > 1 for stroke in one.strokes)
        counts["wrong unsaid"] += not right and not told
    return counts


def show(name: str, counts: Counter) -> None:
    def share(part: str, whole: str) -> str:
        return f"{100 * counts[part] / counts[whole]:5.1f} %" if counts[whole] else "    – "

    print(
        f"{name:24} {counts['lines']:5} {counts['bars']:5}  "
        f"{share('lines found', 'lines')} {share('bars found', 'bars')}  {counts['said']:5} "
        f"{share('right', 'said')} {share('right', 'equal')}  "
        f"{counts['seconds'] / counts['pages']:6.2f}  {counts['read']:5} "
        f"{share('read right', 'read')} {share('wrong unsaid', 'read')} "
        f"{counts['seconds reading'] / max(1, counts['read']):6.2f}",
        flush=True,
    )


if __name__ == "__main__":
    main()
