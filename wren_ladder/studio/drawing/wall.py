"""The bar wall: a piece as rows of phrases, each bar a card, twins linked."""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.chart.shorthand import slashed_through
from wren_ladder.drumming.description.phrases import Phrase
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import BarStudy, Study
from wren_ladder.studio.drawing.engraving import (
    echo,
    engrave_each,
    engrave_named,
    mark_notes,
    view_box,
)
from wren_ladder.studio.drawing.limb_view import speak

READY, NEARLY = 90, 70  # per cent of the target


@dataclass(frozen=True, slots=True)
class Card:
    index: int
    number: str
    signs: str  # "1, 2." and what else bends the road here
    svg: str
    tag: str
    trouble: bool
    spoken: str


@dataclass(frozen=True, slots=True)
class EditCard:
    """A bar on the editor's wall; its drawing stands in the page once, under ``name``."""

    index: int
    number: str
    signs: str
    name: str
    view_box: str


@dataclass(frozen=True, slots=True)
class Row:
    letter: str
    name: str
    cards: tuple[Card, ...] | tuple[EditCard, ...]


@dataclass(frozen=True, slots=True)
class Shade:
    """How ready a bar is: ``held`` of the target in BPM, ``share`` in per cent."""

    index: int
    held: int | None
    share: int
    level: str


def wall_rows(
    studied: Study, phrases: Sequence[Phrase], layout: Layout, width: int
) -> tuple[Row, ...]:
    """Cards in phrases; music that is there already is drawn by reference."""
    kinds = [
        _drawn_as(first, bar.bar)
        for first, bar in zip(studied.kinds, studied.bars, strict=True)
    ]
    new = {kind: index for index, kind in reversed(list(enumerate(kinds)))}
    order = sorted(new.values())
    drawings = [
        mark_notes(svg, differing(studied.bars[index]))
        for index, svg in zip(
            order, engrave_each([studied.bars[i] for i in order], layout, width), strict=True
        )
    ]
    svgs: list[str] = []
    for index, kind in enumerate(kinds):
        place = order.index(new[kind])
        first = new[kind] == index
        svgs.append(drawings[place] if first else echo(drawings[place], f"c{place}-"))
    rows = []
    for phrase in phrases:
        indices = range(phrase.first, phrase.last + 1)
        cards = tuple(_card(studied, index, svgs[index]) for index in indices)
        rows.append(Row(*split_section(phrase.section), cards))
    return tuple(rows)


def differing(bar: BarStudy) -> set[int]:
    """The places of the notes that the bar it is taught from does not have."""
    if bar.difference is None:
        return set()
    new = {hit for change in bar.difference.changes for hit in change.new}
    return {place for place, hit in enumerate(bar.bar.hits) if hit in new}


def edit_rows(
    studied: Study, phrases: Sequence[Phrase], layout: Layout, width: int
) -> tuple[tuple[Row, ...], dict[str, str]]:
    """The editor's wall, and the drawings its cards show, by name."""
    names, drawings = engrave_named(studied.bars, layout, width)
    boxes = {name: view_box(svg) for name, svg in drawings.items()}
    rows = []
    for phrase in phrases:
        cards = tuple(
            EditCard(
                index=index,
                number=_number(studied.bars[index].bar),
                signs=" ".join(_signs(studied.bars[index].bar)),
                name=names[index],
                view_box=boxes[names[index]],
            )
            for index in range(phrase.first, phrase.last + 1)
        )
        rows.append(Row(*split_section(phrase.section), cards))
    return tuple(rows), drawings


def _number(bar: Bar) -> str:
    return "Pick-up" if bar.pickup else bar.number


def _drawn_as(first: int, page: Bar) -> tuple:
    """Equal bars look the same unless a sign stands at one of them."""
    signs = (page.road_words, page.vamp, page.times, page.marks)
    return first, page.repeat_start, page.repeat_passes, page.endings, signs


def _signs(bar: Bar) -> list[str]:
    words = [", ".join(map(str, bar.endings)) + "."] if bar.endings else []
    for word, there in (
        *((word, True) for word in bar.road_words),
        ("vamp", bar.vamp),
        (bar.times.words if bar.times else "", bar.times),
        ("repeat sign", bar.again == 1),
        ("2-bar repeat", bar.again == 2),
        ("slashes", slashed_through(bar)),
    ):
        if there:
            words.append(word)
    return words


def _card(studied: Study, index: int, svg: str) -> Card:
    bar = studied.bars[index]
    return Card(
        index=index,
        number=_number(bar.bar),
        signs=" ".join(_signs(bar.bar)),
        svg=svg,
        tag=tag_of(bar, studied),
        trouble=bar.twin_of is None and bool(bar.traps or (bar.trouble and not bar.difference)),
        spoken=speak(bar),
    )


def split_section(section: str) -> tuple[str, str]:
    """ "A Verse" -> ("A", "Verse"); "Verse" -> ("", "Verse")."""
    head, _, rest = section.partition(" ")
    return (head, rest) if len(head) <= 2 else ("", section)


def tag_of(bar: BarStudy, studied: Study) -> str:
    """The line under a card: its twin, its trap, the bar it comes from, or what is hard."""
    if bar.twin_of is not None:
        first = studied.bars[bar.twin_of].bar
        return f"is {'the pick-up' if first.pickup else first.number} again"
    if bar.traps:
        return bar.traps[0]
    if bar.difference:
        return f"is {studied.taught_from(bar)}"
    return bar.trouble[0] if bar.trouble else ""


def shades(tempos: Sequence[int | None], target: int) -> tuple[Shade, ...]:
    """Readiness of each bar against the student's target."""
    found = []
    for index, held in enumerate(tempos):
        share = min(100, held * 100 // target) if held else 0
        if not share:
            level = "none"
        elif share >= READY:
            level = "high"
        else:
            level = "middle" if share >= NEARLY else "low"
        found.append(Shade(index, held, share, level))
    return tuple(found)
