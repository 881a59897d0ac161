"""A fill put on the drums by touch: the kit is seen from above, and a press on a drum puts the
next note there. Everything stands in the address, so that the way back is the browser's."""

from collections.abc import Sequence
from dataclasses import dataclass

from django.http import HttpRequest, QueryDict

from wren_ladder.drumming.building.fills import FILL_DRUMS
from wren_ladder.drumming.chart import Chart, Drum, Family, Hand
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.grades import Syllabus
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.study import study
from wren_ladder.drumming.style import Style
from wren_ladder.drumming.workshop.fills import (
    BEATS,
    Fill,
    Length,
    fill_bar,
    notes_of,
    what_is_said,
)
from wren_ladder.drumming.workshop.grooves import USUAL_TEMPO, Groove
from wren_ladder.drumming.workshop.recipes import codes_of, codes_of_fill
from wren_ladder.studio.drawing.engraving import BAR_WIDTH, engrave, mark_notes
from wren_ladder.studio.pages.workshop.cards import Card, card

# One floor tom is enough; in a picture a second one would stand on the first.
DRUMS = (*(one for one in FILL_DRUMS if one is not Drum.TOM_FLOOR_2), Drum.RIDE, Drum.KICK)
HAND = 24  # units of the picture to a hand's breadth
MIDDLE, BEYOND = 5.8, 5.6  # of the picture, in hand's breadths
KICK_AT = (0.8, 1.3)  # under the toms
# Radii in hand's breadths; cymbals hang over what is beneath them.
WIDE = {
    Drum.CRASH: 1.3, Drum.RIDE: 1.2, Drum.HIHAT: 1.1, Drum.TOM_HIGH: 0.95, Drum.TOM_MID: 1.05,
    Drum.SNARE: 1.1, Drum.TOM_FLOOR: 1.3, Drum.KICK: 0.85,
}  # fmt: skip
FIRST_FIGURE = "two quavers"


@dataclass(frozen=True, slots=True)
class KitPart:
    """A drum from above; ``address`` puts the next note on it."""

    drum: Drum
    x: int
    y: int
    r: int
    address: str

    @property
    def is_cymbal(self) -> bool:
        return self.drum.row.family in (Family.CYMBAL, Family.HAT)


@dataclass(frozen=True, slots=True)
class Key:
    """Something to press: what it is called, where it leads, whether it is the one that is
    next."""

    said: str
    address: str
    here: bool = False


@dataclass(frozen=True, slots=True)
class Bench:
    """``placed`` of ``many`` notes are on the drums; ``faults`` of the fill as it is."""

    svg: str
    parts: tuple[KitPart, ...]
    beats: tuple[Key, ...]
    notes: tuple[Key, ...]
    placed: int
    many: int
    back: str
    anew: str
    faults: tuple[str, ...]
    card: Card
    is_open: bool  # has anybody begun with it?

    @property
    def is_done(self) -> bool:
        return self.placed >= self.many


def bench_of(
    request: HttpRequest, length: Length, groove: Groove, bars: int, grade: int,
    owned: Sequence[str], style: Style, syllabus: Syllabus,
) -> Bench:  # fmt: skip
    """The bench as the address has it: ``beat`` the figure of each beat, ``on`` the drums in
    order, ``at`` which note is next. What makes no sense is left out."""
    asked = request.GET
    figures = tuple(asked.getlist("beat"))
    usual = FIRST_FIGURE if FIRST_FIGURE in owned else owned[0]
    if len(figures) != BEATS[length] or not all(one in owned for one in figures):
        figures = (usual,) * BEATS[length]
    many = len(notes_of(Fill(length, figures)))
    placed = tuple(Drum(one) for one in asked.get("on", "").split(",") if one in DRUMS)[:many]
    at = read_whole(asked.get("at"), 0, many - 1) if many else None
    at = min(len(placed), many) if at is None or at > len(placed) else at
    fill = Fill(length, figures, placed=placed or (Drum.SNARE,))
    bar = fill_bar(fill, groove.bar)
    (studied,) = study(Chart("", (bar,)), style).bars
    notes = [n for n, hit in enumerate(studied.bar.hits) if hit.at >= fill.space.start]
    svg = engrave([studied], Layout(clef=False), BAR_WIDTH, "bench-")
    said = Positions.of(bar)
    recipe = {"fill": codes_of_fill(fill), "groove": codes_of(groove), "bars": bars}

    def address(**changes) -> str:
        return _address(asked, figures, placed, changes)

    return Bench(
        svg=mark_notes(svg, {notes[at]} if at < many else ()),
        parts=tuple(
            _part(drum, style, address(on=_put(placed, at, drum, many), at=_after(at, many)))
            for drum in DRUMS
        ),
        beats=tuple(
            Key(figure, address(beat=_turned(figures, n, owned), at=None))
            for n, figure in enumerate(figures)
        ),
        notes=tuple(
            Key(
                f"{said.say(onset)} {drum.spoken}" if drum else said.say(onset),
                address(at=n),
                n == at,
            )
            for n, (onset, drum) in enumerate(
                zip(notes_of(fill), [*placed, *[None] * many][:many], strict=True)
            )
        ),
        placed=len(placed),
        many=many,
        back=address(on=placed[:-1], at=None) if placed else "",
        anew=address(on=(), at=None) if placed else "",
        faults=what_is_said(fill, groove.bar, grade, USUAL_TEMPO, style) if placed else (),
        card=card("bench", recipe, style, syllabus),
        is_open="on" in asked,
    )


def _put(placed: tuple[Drum, ...], at: int, drum: Drum, many: int) -> tuple[Drum, ...]:
    """The next note on the drum; behind the last it begins anew."""
    if at >= many:
        return (drum,)
    return (*placed[:at], drum, *placed[at + 1 :])


def _after(at: int, many: int) -> int:
    return 1 if at >= many else at + 1


def _turned(figures: tuple[str, ...], beat: int, owned: Sequence[str]) -> tuple[str, ...]:
    """The figure of one beat changed for the next that is owned."""
    next_one = owned[(owned.index(figures[beat]) + 1) % len(owned)]
    return (*figures[:beat], next_one, *figures[beat + 1 :])


def _address(asked: QueryDict, figures, placed, changes: dict) -> str:
    query = asked.copy()
    values = {"beat": figures, "on": placed, **changes}
    query.setlist("beat", list(values["beat"]))
    query["on"] = ",".join(values["on"])
    if values.get("at") is None:
        query.pop("at", None)
    else:
        query["at"] = str(values["at"])
    return f"?{query.urlencode()}#bench"


def _part(drum: Drum, style: Style, address: str) -> KitPart:
    right, beyond = KICK_AT if drum is Drum.KICK else drum.row.kit
    side = -1 if style.lead is Hand.LEFT else 1
    return KitPart(
        drum,
        round((MIDDLE + side * (right - 0.3)) * HAND),
        round((BEYOND - beyond) * HAND),
        round(WIDE[drum] * HAND),
        address,
    )
