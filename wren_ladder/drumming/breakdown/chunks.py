"""The sizes above a bar: phrases, and the sections they make. Common practice, no source."""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.description.phrases import Phrase, phrases

SECTION = 8  # bars; a longer section is taken in pieces of about this length


@dataclass(frozen=True, slots=True)
class Section:
    """Phrases that belong together; a chunk takes its pick-up notes along."""

    name: str
    phrases: tuple[Phrase, ...]

    @property
    def first(self) -> int:
        return self.phrases[0].first

    @property
    def last(self) -> int:
        return self.phrases[-1].last


def sections(bars: Sequence[Bar]) -> tuple[Section, ...]:
    """The page's sections, or eight bars each where it names none."""
    found: list[Section] = []
    for phrase in phrases(bars):
        before = found[-1] if found else None
        if before is None or phrase.section or _full(before):
            name = phrase.section or (before.name if before else "")
            found.append(Section(name, (phrase,)))
        else:
            found[-1] = Section(before.name, (*before.phrases, phrase))
    return tuple(found)


def _full(section: Section) -> bool:
    return section.last - section.first + 1 >= SECTION


def with_pickup(bars: Sequence[Bar], first: int) -> int:
    """Where a chunk that begins with bar ``first`` really begins: a bar before it that is
    silent but for a lead-in at its end is taken along."""
    if first == 0:
        return first
    before = bars[first - 1]
    lead_in = before.hits and before.hits[0].at >= before.length / 2
    return first - 1 if before.pickup or lead_in else first
