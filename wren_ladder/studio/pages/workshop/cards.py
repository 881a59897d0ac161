"""An exercise before it is given: drawn, heard, and ready to be given."""

from collections.abc import Mapping
from dataclasses import dataclass

from wren_ladder.drumming.grades import Syllabus
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import study
from wren_ladder.drumming.style import Style
from wren_ladder.drumming.workshop.recipes import Made, made, recipe_text
from wren_ladder.studio.drawing.engraving import LINE_WIDTH, engrave
from wren_ladder.studio.drawing.sound import sound_of_bars

WIDTHS = {1: 1900, 2: 2600}  # by bars; more have a line's
MOST_DRAWN = 4
LAYOUT = Layout(clef=False, counts=True, hands=True)


@dataclass(frozen=True, slots=True)
class Card:
    """``recipe`` as JSON for its form; ``svg`` of its first bars; ``sound`` for the page."""

    name: str
    made: Made
    recipe: str
    svg: str
    sound: dict
    said: str = ""
    own_title: str = ""

    @property
    def title(self) -> str:
        """As it is called among its likes."""
        return self.own_title or self.made.title

    @property
    def is_wide(self) -> bool:
        """More bars than half a page can show."""
        return len(self.made.chart.bars) not in WIDTHS

    @property
    def grade_said(self) -> str:
        return f"grade {self.made.grade}" if self.made.grade else "before grade 1"


def card(
    name: str,
    recipe: Mapping[str, object],
    style: Style,
    syllabus: Syllabus,
    said: str = "",
    layout: Layout = LAYOUT,
    most: int = MOST_DRAWN,
    title: str = "",
) -> Card:
    """``most`` bars are drawn of it, as the layout says."""
    found = made(recipe, syllabus)
    studied = study(found.chart, style).bars
    drawn = studied[:most]
    svg = engrave(drawn, layout, WIDTHS.get(len(drawn), LINE_WIDTH), f"{name}-")
    sound = sound_of_bars(studied, found.chart.tempo)
    return Card(name, found, recipe_text(recipe), svg, sound, said, title)
