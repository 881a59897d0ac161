"""Phrase counting: the bar's number in its phrase in place of 1, so that the fill in the
fourth bar is felt coming. Common practice, no source."""

from collections.abc import Sequence
from dataclasses import replace

from wren_ladder.drumming.counting.count import Count

FIRST = "1"


def in_phrase(counts: Sequence[Count], place: int) -> tuple[Count, ...]:
    """The count of bar ``place`` (from 1) of a phrase: 3 2 3 4 for its third bar."""
    return tuple(
        replace(count, say=str(place)) if count.main and count.say == FIRST else count
        for count in counts
    )
