"""Two versions of a piece side by side: which bars stay, change, come and go.

Bars are paired as texts are: the longest runs that are the same, then what lies between them.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher
from enum import StrEnum

from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.description.differences import changes


class BarChange(StrEnum):
    CHANGED = "changed"
    ADDED = "added"
    GONE = "gone"


@dataclass(frozen=True, slots=True)
class ComparedBar:
    """``number`` is that of the later version, of the earlier one where the bar is gone;
    ``places`` are those of the notes that are new, among the hits of the bar."""

    number: str
    change: BarChange
    said: str
    index: int | None = None  # in the later version
    places: tuple[int, ...] = ()


def compare_pages(before: Sequence[Bar], after: Sequence[Bar]) -> tuple[ComparedBar, ...]:
    """What differs from the earlier version to the later one, in order."""
    found: list[ComparedBar] = []
    for kind, first, last, start, end in _stretches(_music(before), _music(after)):
        if kind == "equal":
            continue
        both = min(last - first, end - start)
        found += (_changed(before[first + n], after[start + n], start + n) for n in range(both))
        found += (
            ComparedBar(after[place].number, BarChange.ADDED, "is new", place)
            for place in range(start + both, end)
        )
        found += (
            ComparedBar(bar.number, BarChange.GONE, "is gone")
            for bar in before[first + both : last]
        )
    return tuple(found)


def _stretches(
    before: Sequence[Bar], after: Sequence[Bar]
) -> list[tuple[str, int, int, int, int]]:
    """Runs that are equal or not, as difflib says them; bar by bar in their places where as
    many are equal so, since one bar of many like it was rather changed than moved."""
    matcher = SequenceMatcher(None, before, after, autojunk=False)
    matched = sum(block.size for block in matcher.get_matching_blocks())
    in_place = [one == other for one, other in zip(before, after, strict=False)]
    if len(before) == len(after) and sum(in_place) >= matched:
        return [
            ("equal" if same else "replace", n, n + 1, n, n + 1)
            for n, same in enumerate(in_place)
        ]
    return [(same, a, b, c, d) for same, a, b, c, d in matcher.get_opcodes()]


def _music(bars: Sequence[Bar]) -> list[Bar]:
    """What is compared: a number is none of the music, and the length that a note is written
    with neither."""
    return [
        replace(bar, number="1", hits=tuple(replace(hit, written=None) for hit in bar.hits))
        if not bar.pickup
        else bar
        for bar in bars
    ]


def _changed(before: Bar, after: Bar, index: int) -> ComparedBar:
    steps = changes(before, after)
    if steps is None:
        said = f"is in {after.meter}, not {before.meter}"
        return ComparedBar(after.number, BarChange.CHANGED, said, index)
    new = {hit for step in steps for hit in step.new}
    places = tuple(place for place, hit in enumerate(after.hits) if hit in new)
    said = ", ".join(step.spoken for step in steps) or "has other signs or words"
    return ComparedBar(after.number, BarChange.CHANGED, said, index, places)
