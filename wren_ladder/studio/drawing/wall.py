"""The bar wall: a piece as rows of phrases, each bar a card, twins linked."""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.breakdown import Phrase
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import BarStudy, Study
from wren_ladder.studio.drawing.engraving import echo, engrave, music_key
from wren_ladder.studio.drawing.limb_view import speak

READY, NEARLY = 90, 70  # per cent of the target


@dataclass(frozen=True, slots=True)
class Card:
    index: int
    number: str
    svg: str
    tag: str
    trouble: bool
    spoken: str


@dataclass(frozen=True, slots=True)
class Row:
    letter: str
    name: str
    cards: tuple[Card, ...]


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
    drawn: dict[tuple, tuple[str, str]] = {}
    rows = []
    for phrase in phrases:
        letter, name = split_section(phrase.section)
        cards = []
        for index in range(phrase.first, phrase.last + 1):
            bar = studied.bars[index]
            first = index if bar.twin_of is None else bar.twin_of
            key = (first, bar.bar.repeat_start, bar.bar.repeat_passes)
            if key in drawn:
                svg = echo(*drawn[key])
            else:
                prefix = f"c{index}-"
                svg = engrave([bar], layout, width, prefix, music_key(bar))
                drawn[key] = (svg, prefix)
            cards.append(
                Card(
                    index=index,
                    number="Pick-up" if bar.bar.pickup else bar.bar.number,
                    svg=svg,
                    tag=tag_of(bar, studied),
                    trouble=bar.twin_of is None and bool(bar.trouble),
                    spoken=speak(bar),
                )
            )
        rows.append(Row(letter, name, tuple(cards)))
    return tuple(rows)


def split_section(section: str) -> tuple[str, str]:
    """ "A Verse" -> ("A", "Verse"); "Verse" -> ("", "Verse")."""
    head, _, rest = section.partition(" ")
    return (head, rest) if len(head) <= 2 else ("", section)


def tag_of(bar: BarStudy, studied: Study) -> str:
    """The line under a card: its twin, else what is hard in it."""
    if bar.twin_of is not None:
        first = studied.bars[bar.twin_of].bar
        return f"is {'the pick-up' if first.pickup else first.number} again"
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
