"""Pieces: added, saved, a hand written in; the plans that hang on them follow."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from quicktions import Fraction

from wren_ladder.drumming.chart import Chart, Hand
from wren_ladder.drumming.hands import stick_page
from wren_ladder.drumming.notation.counts import write_chart
from wren_ladder.drumming.numbers import read_ratio
from wren_ladder.studio.climb.standings import refresh_all
from wren_ladder.studio.pieces.drafts import bars_of
from wren_ladder.studio.pieces.models import Draft, Import, Piece
from wren_ladder.studio.pieces.storing import store_chart
from wren_ladder.studio.teaching.models import style_of


@transaction.atomic
def add_piece(owner: AbstractBaseUser, chart: Chart, **fields) -> Piece:
    """A new piece from a chart; ``fields`` are those of Piece that the chart lacks."""
    piece = Piece(owner=owner, title=chart.title or "Untitled", **fields)
    piece.save()
    save_piece(piece, chart)
    return piece


@transaction.atomic
def save_piece(
    piece: Piece, chart: Chart, keep: Sequence[int | None] | None = None, **fields
) -> None:
    """Make the piece's music that of the chart, see ``store_chart``; ``fields`` of the piece
    change with it. Where its plans stand is worked out from the new music."""
    if fields:
        for name, value in fields.items():
            setattr(piece, name, value)
        Piece.objects.filter(pk=piece.pk).update(**fields)
    was = Piece.objects.get(pk=piece.pk).fingerprint
    bars = list(piece.bars.values_list("pk", "data"))
    store_chart(piece, chart, keep, style_of(piece.owner_id).repeats_after_jump)
    if "typed" in piece.made_of:  # its recipe is its bars
        recipe = {**piece.made_of, "typed": write_chart(Piece.objects.get(pk=piece.pk).chart())}
        Piece.objects.filter(pk=piece.pk).update(made_of=recipe)
    if bars == list(piece.bars.values_list("pk", "data")):  # a new title is no new music
        piece.plans.filter(made_of=was).update(made_of=piece.fingerprint)
    refresh_all(piece.plans.all())


@transaction.atomic
def replace_piece(piece: Piece, chart: Chart, today: date, **fields) -> Import:
    """Other music in place of the piece's: bars that stay keep their rows, and with them their
    steps and tries. The bars of before are kept as a file that waits to be read."""
    text = write_chart(Chart(piece.title, tuple(row.bar for row in piece.bars.all())))
    before = Import.objects.create(
        owner_id=piece.owner_id,
        name=f"{piece.title} before {today:%-d %b %Y}.wren"[:200],
        data=text.encode(),
        grade=piece.grade,
    )
    save_piece(piece, chart, title=chart.title, **fields)
    return before


@transaction.atomic
def rename_piece(piece: Piece, title: str) -> None:
    """The title is part of the music that is remembered, so it is stored with it."""
    rows = list(piece.bars.all())
    chart = Chart(title, tuple(row.bar for row in rows))
    save_piece(piece, chart, [row.pk for row in rows], title=title)


@transaction.atomic
def words_changed(piece: Piece) -> None:
    """Its title or words over its notes were changed in place: the music that is remembered
    holds them, and no plan is behind the page for that."""
    was = piece.fingerprint
    rows = list(piece.bars.all())
    chart = Chart(piece.title, tuple(row.bar for row in rows))
    repeats = style_of(piece.owner_id).repeats_after_jump
    store_chart(piece, chart, [row.pk for row in rows], repeats)
    piece.plans.filter(made_of=was).update(made_of=piece.fingerprint)


@transaction.atomic
def save_draft(draft: Draft, title: str, grade: int | None, notes: str) -> Piece:
    """The draft becomes the piece, and is gone."""
    chart = Chart(title, bars_of(draft))
    if draft.piece:
        piece, rows = draft.piece, [data.get("row") for data in draft.bars]
        save_piece(piece, chart, rows, title=title, grade=grade, notes=notes)
    else:
        piece = add_piece(draft.owner, chart, grade=grade, notes=notes)
    typed = {"typed": draft.text} if draft.text else {}
    Piece.objects.filter(pk=piece.pk).update(saved_by=draft.writer, **typed)
    if draft.pk:
        draft.delete()
    return piece


@transaction.atomic
def flip_hand(piece: Piece, index: int, stroke: str, to: str | None = None) -> Hand | None:
    """Write the hand of one stroke ("3/2 snare R", R being shown): the other one, or ``to``
    ("R", "L", "-" for none). What was written before; ValueError if there is no such stroke."""
    at, _, rest = stroke.partition(" ")
    name, _, shown = rest.partition(" ")
    rows = list(piece.bars.all())
    bars = [row.bar for row in rows]
    page = stick_page(bars, style_of(piece.owner_id))
    sticks = page[index] if index < len(page) else ()
    place = read_ratio(at) if at else Fraction(-1)
    chosen = next(
        (s for s in sticks if (s.hit.at, s.hit.drum.value) == (place, name) and s.hand), None
    )
    if chosen is None or to not in (None, "-", *Hand) or shown not in ("", *Hand):
        raise ValueError(stroke)
    hand = (Hand(shown) if shown else chosen.hand).other
    if to is not None:
        hand = None if to == "-" else Hand(to)
    hits = tuple(
        replace(hit, hand=hand) if hit == chosen.hit else hit for hit in bars[index].hits
    )
    bars[index] = bars[index].in_notes(hits=hits)
    save_piece(piece, Chart(piece.title, tuple(bars)), [row.pk for row in rows])
    return chosen.hit.hand
