"""What the editor's pages show: the wall, one bar with its lines and limbs, the marks."""

from functools import lru_cache

from django.utils.functional import SimpleLazyObject

from wren_ladder.drumming.chart import Chart, Drum
from wren_ladder.drumming.description.phrases import phrases
from wren_ladder.drumming.editing.bars import Bars
from wren_ladder.drumming.editing.grid import GRIDS, places
from wren_ladder.drumming.findings.conflicts import as_problems, hand_conflicts
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.study import Study, study
from wren_ladder.drumming.style import Style
from wren_ladder.drumming.workshop.fills import Fill
from wren_ladder.drumming.workshop.recipes import fill_of
from wren_ladder.drumming.workshop.variations import KICKS_BY_CODE, VARIATIONS
from wren_ladder.studio.drawing.engraving import BAR_WIDTH, CARD_WIDTH, engrave
from wren_ladder.studio.drawing.limb_view import limb_view
from wren_ladder.studio.drawing.wall import EditCard, Row, edit_rows
from wren_ladder.studio.pages.editor.presses import Cursor, lines_of
from wren_ladder.studio.pages.pieces.forms import MarksForm
from wren_ladder.studio.pieces.drafts import name_of, redoable, undoable
from wren_ladder.studio.pieces.models import Draft, Piece
from wren_ladder.studio.pieces.studies import CARD_LAYOUT
from wren_ladder.studio.teaching.models import style_of

# What nearly every piece has, before any of its bars has it.
USUAL_DRUMS = frozenset({Drum.HIHAT, Drum.SNARE, Drum.KICK, Drum.CRASH})

VARIED = [(code, label) for code, (label, _) in VARIATIONS.items()]
KICKS_PUT = [(code, kick.name) for code, kick in KICKS_BY_CODE.items()]

STROKE_TOOLS = [
    ("drop", " ", "space", "drop", "drop the drum here, or take it away"),
    ("take", "Delete", "del", "take away", "take the stroke away"),
    ("higher", "ArrowUp", "↑", "higher", "ghost, normal, accent, strong accent"),
    ("lower", "ArrowDown", "↓", "lower", "strong accent, accent, normal, ghost"),
    ("otherwise", "a", "a", "open, rim, bell", "the next way to play this drum"),
    ("ornament", "n", "n", "flam, drag, ruff", "the next ornament, or none"),
    ("roll", "b", "b", "roll, buzz", "the next roll, or none"),
    ("hand", "h", "h", "hand", "write R, L, or leave it open"),
]


def bar_context(
    draft: Draft, bars: Bars, cursor: Cursor, drawn: frozenset[str] = frozenset()
) -> dict:
    """The wall, and the bar that is open; drawings whose names are in ``drawn`` are in
    the page already."""
    studied, rows, drawings = _wall(bars, style_of(draft.owner_id))
    opened = studied.bars[cursor.bar]
    grid = places(opened.bar, cursor.grid)
    return {
        "draft": draft,
        "cursor": cursor,
        "rows": rows,
        "stroke_tools": STROKE_TOOLS,
        "drawings": [svg for name, svg in drawings.items() if name not in drawn],
        "bars": [(index, name_of(bar)) for index, bar in enumerate(bars)],
        "opened": opened,
        "opened_name": name_of(opened.bar),
        "last_index": len(bars) - 1,
        "staff": engrave([opened], Layout(shorthand=True), BAR_WIDTH, "edit-"),
        "limbs": limb_view(opened, places=grid),
        "grids": [(name, name == cursor.grid) for name in GRIDS],
        "palettes": _palettes(bars, cursor),
        "problems": as_problems(hand_conflicts(opened.sticks, opened.bar), opened.bar),
        "lines": unread_lines(draft, cursor) or lines_of(bars, cursor.bar),
        "marks": MarksForm(opened.bar),
        "undoable": undoable(draft),
        "redoable": redoable(draft),
        "varied": VARIED,
        "kicks_put": KICKS_PUT,
        # Asked for by the whole page alone, not by a press.
        "book": SimpleLazyObject(lambda: _titles(draft.owner_id)),
    }


def _palettes(bars: Bars, cursor: Cursor) -> list[tuple[str, list[tuple]]]:
    """The drums of the piece, and behind one word the others."""
    mine = USUAL_DRUMS | {hit.drum for bar in bars for hit in bar.hits} | {Drum(cursor.drum)}
    near = [drum for drum in Drum if drum in mine]
    far = [drum for drum in Drum if drum not in mine]
    return [
        (said, [(drum.value, drum.spoken, drum.row.glyph) for drum in drums])
        for said, drums in (("", near), ("other drums", far))
    ]


def _titles(owner: int) -> list[tuple[str, str]]:
    return [(code, title) for code, (title, _) in fills_made(owner).items()]


def fills_made(owner: int) -> dict[str, tuple[str, Fill]]:
    """The fills made in the workshop: (title, fill) by the code the editor's list has."""
    found = {}
    pieces = Piece.objects.filter(owner=owner, kind=Piece.Kind.FILL)
    for pk, title, made_of in pieces.values_list("pk", "title", "made_of"):
        try:
            found[f"fill-{pk}"] = (title, fill_of(made_of["fill"]))
        except (KeyError, TypeError, ValueError):
            continue  # of the shelf, or of figures that the house has no longer
    return found


def unread_lines(draft: Draft, cursor: Cursor) -> str:
    return draft.lines if draft.lines_bar == cursor.bar else ""


def names_drawn(bars: Bars, style: Style) -> frozenset[str]:
    """The names of the drawings on the wall of these bars."""
    return frozenset(_wall(bars, style)[2])


def cards_changed(before: Bars, bars: Bars, style: Style) -> list[EditCard] | None:
    """The cards of the wall that are others now; None where its lines are not the same."""
    old, new = _wall(before, style)[1], _wall(bars, style)[1]
    if [_line(row) for row in old] != [_line(row) for row in new]:
        return None
    pairs = zip(old, new, strict=True)
    return [
        card
        for was, row in pairs
        for one, card in zip(was.cards, row.cards, strict=True)
        if one != card
    ]


def _line(row: Row) -> tuple[str, str, int]:
    return row.letter, row.name, len(row.cards)


@lru_cache(maxsize=16)
def _wall(bars: Bars, style: Style) -> tuple[Study, tuple[Row, ...], dict[str, str]]:
    """The page before a press is the page after the last one, so it is remembered."""
    studied = study(Chart("", bars), style)
    return studied, *edit_rows(studied, phrases(bars), CARD_LAYOUT, CARD_WIDTH)
