"""A chart kept as the rows of a piece, and what lists show of it."""

import hashlib
import json
from collections.abc import Sequence
from difflib import SequenceMatcher

from django.db import transaction
from django.db.models import F

from wren_ladder.drumming.chart import Chart
from wren_ladder.drumming.chart.serial import bar_to_json
from wren_ladder.drumming.chart.size import check_size
from wren_ladder.drumming.performance import road_seconds
from wren_ladder.drumming.roadmap import road_map
from wren_ladder.studio.pieces.models import BarRow, Piece

OF_THE_PLACE = ("number", "row", "tempo", "swing")
SUMMARY = ("fingerprint", "bar_count", "seconds", "meter", "tempo_mark")


@transaction.atomic
def store_chart(
    piece: Piece,
    chart: Chart,
    keep: Sequence[int | None] | None = None,
    repeats_after_jump: bool = False,
) -> None:
    """Make the piece's bars those of the chart, keeping the row of every bar that stays.

    Steps of plans point at rows, so a bar that is changed keeps its row and its history;
    only bars that are gone lose theirs. ``keep`` names the row of each bar where that is
    known; without it the rows are found by what is in them.
    """
    check_size(chart.bars)
    new = [bar_to_json(bar) for bar in chart.bars]
    old = list(piece.bars.all())
    if keep is None:
        rows = matched([bar_to_json(row.bar) for row in old], new)
    else:
        places = {row.pk: place for place, row in enumerate(old)}
        rows = [places.get(pk) for pk in keep]
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
    _summarise(piece, chart, new, repeats_after_jump)


def matched(old: list[dict], new: list[dict]) -> list[int | None]:
    """For each new bar the place of the old one it continues, None where it is new."""
    before = [_music(data) for data in old]
    after = [_music(data) for data in new]
    found: list[int | None] = [None] * len(new)
    for kind, i1, i2, j1, j2 in SequenceMatcher(None, before, after, False).get_opcodes():
        if kind in ("equal", "replace"):
            for offset in range(min(i2 - i1, j2 - j1)):
                found[j1 + offset] = i1 + offset
    return _moved(before, after, found)


def _music(data: dict) -> str:
    """What a bar says, wherever it stands and is kept: number, tempo and swing are of the
    place."""
    said = {name: value for name, value in data.items() if name not in OF_THE_PLACE}
    return json.dumps(said, sort_keys=True)


def _moved(before: list[str], after: list[str], found: list[int | None]) -> list[int | None]:
    """Bars that only changed their place are those that are gone elsewhere."""
    gone: dict[str, list[int]] = {}
    for place in sorted(set(range(len(before))) - set(found), reverse=True):
        gone.setdefault(before[place], []).append(place)
    return [
        gone[after[index]].pop() if place is None and gone.get(after[index]) else place
        for index, place in enumerate(found)
    ]


def _summarise(piece: Piece, chart: Chart, data: list[dict], repeats_after_jump: bool) -> None:
    music = json.dumps([piece.title, data], sort_keys=True)
    piece.fingerprint = hashlib.sha1(music.encode()).hexdigest()
    piece.bar_count = len(chart.bars)
    piece.seconds = road_seconds(chart, road_map(chart.bars, repeats_after_jump).visits)
    piece.meter = str(chart.bars[0].meter)
    piece.tempo_mark = str(chart.tempo)
    Piece.objects.filter(pk=piece.pk).update(
        **{name: getattr(piece, name) for name in SUMMARY}, version=F("version") + 1
    )
