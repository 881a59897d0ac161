"""Keeping charts: every door that changes a piece's music comes through here."""

import hashlib
import json
from difflib import SequenceMatcher

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from wren_ladder.drumming.chart import Chart
from wren_ladder.drumming.chart.serial import bar_to_json
from wren_ladder.drumming.roadmap import play_seconds, road_map
from wren_ladder.studio.pieces.models import BarRow, Piece


@transaction.atomic
def add_piece(owner: AbstractBaseUser, chart: Chart, **fields) -> Piece:
    """A new piece from a chart; ``fields`` are those of Piece that the chart lacks."""
    piece = Piece(owner=owner, title=chart.title or "Untitled", **fields)
    piece.save()
    save_chart(piece, chart)
    return piece


@transaction.atomic
def save_chart(piece: Piece, chart: Chart) -> None:
    """Make the piece's bars those of the chart, keeping the row of every bar that stays.

    Steps of plans point at rows, so a bar that is changed keeps its row and its history;
    only bars that are gone lose theirs.
    """
    new = [bar_to_json(bar) for bar in chart.bars]
    old = list(piece.bars.all())
    rows = _matched([row.data for row in old], new)
    kept = {place for place in rows if place is not None}
    for place, row in enumerate(old):
        if place not in kept:
            row.delete()
    for position, (place, data) in enumerate(zip(rows, new, strict=True)):
        row = BarRow(piece=piece) if place is None else old[place]
        if row.pk and (row.position, row.data) == (position, data):
            continue
        row.position, row.number, row.data = position, data["number"], data
        row.save()
    _summarise(piece, chart, new)


def _matched(old: list[dict], new: list[dict]) -> list[int | None]:
    """For each new bar the place of the old one it continues, None where it is new."""
    before = [json.dumps({**data, "number": ""}, sort_keys=True) for data in old]
    after = [json.dumps({**data, "number": ""}, sort_keys=True) for data in new]
    found: list[int | None] = [None] * len(new)
    for kind, i1, i2, j1, j2 in SequenceMatcher(None, before, after, False).get_opcodes():
        if kind in ("equal", "replace"):
            for offset in range(min(i2 - i1, j2 - j1)):
                found[j1 + offset] = i1 + offset
    return found


def _summarise(piece: Piece, chart: Chart, data: list[dict]) -> None:
    music = json.dumps([piece.title, data], sort_keys=True)
    piece.fingerprint = hashlib.sha1(music.encode()).hexdigest()
    piece.bar_count = len(chart.bars)
    piece.seconds = play_seconds(chart, road_map(chart.bars).visits)
    piece.meter = str(chart.bars[0].meter)
    piece.tempo_mark = str(chart.tempo)
    piece.save()
