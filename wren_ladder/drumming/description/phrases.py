"""Phrases: four bars, starting anew at every section."""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.chart import Bar

PHRASE = 4


@dataclass(frozen=True, slots=True)
class Phrase:
    """Bars ``first`` to ``last`` (indices from 0); the section only where it starts."""

    first: int
    last: int
    section: str = ""


def phrases(bars: Sequence[Bar]) -> tuple[Phrase, ...]:
    """The rows of the bar wall. A pick-up goes with the first phrase."""
    found: list[Phrase] = []
    start = 0
    for index in range(1, len(bars) + 1):
        lead_in = 1 if bars[start].pickup else 0
        alone = lead_in and index - start == 1  # nothing yet but the pick-up
        full = index - start == PHRASE + lead_in
        if index == len(bars) or full or (bars[index].section and not alone):
            found.append(
                Phrase(start, index - 1, bars[min(start + lead_in, index - 1)].section)
            )
            start = index
    return tuple(found)
