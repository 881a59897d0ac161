"""How well printed pages are read: python -m bench.pages [SEEDS]

The pages of ``tests/fixtures/printed`` as they were drawn, and made worse by seed as scanners
and telephones do. Asserts nothing; the figures stand in docs/sources.md.
"""

import sys
from collections import Counter
from time import perf_counter

from tests.printed_pages import PHOTOGRAPHS, SCANS, Worse, made_worse, printed_pages
from wren_ladder.drumming.page_reading.page import alike, printed_bars, read_page


def main() -> None:
    seeds = int(sys.argv[1]) if len(sys.argv) > 1 else 1
    print(f"{'':24} lines  bars  lines whole  equal: said   right  found   s a page")
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
    return counts


def equal_bars(kinds: tuple[int, ...], likeness: list) -> Counter:
    counts: Counter = Counter()
    for place, one in enumerate(likeness):
        counts["equal"] += kinds[place] != place
        if one is not None and one.equal:
            counts["said"] += 1
            counts["right"] += kinds[one.like] == kinds[place]
    return counts


def show(name: str, counts: Counter) -> None:
    def share(part: str, whole: str) -> str:
        return f"{100 * counts[part] / counts[whole]:5.1f} %" if counts[whole] else "    – "

    print(
        f"{name:24} {counts['lines']:5} {counts['bars']:5}  "
        f"{share('lines found', 'lines')} {share('bars found', 'bars')}  {counts['said']:5} "
        f"{share('right', 'said')} {share('right', 'equal')}  "
        f"{counts['seconds'] / counts['pages']:6.2f}",
        flush=True,
    )


if __name__ == "__main__":
    main()
