"""Which bars of a stored piece are equal: remembered by what the music is, so that no list of
many students reads the bars themselves."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

import wren_ladder.drumming.chart
import wren_ladder.drumming.description
from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.description.twins import twins
from wren_ladder.studio import kept_on_disk
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.pieces.stored_chart import PieceChangedError, stored_chart

REMEMBERED = "worked-out"
WORKED_OUT_BY = tuple(
    Path(one.__file__).parent
    for one in (wren_ladder.drumming.chart, wren_ladder.drumming.description)
)


@dataclass(frozen=True, slots=True)
class EqualBars:
    """By place in the piece."""

    kinds: tuple[int, ...]  # the place of the first bar that is equal
    pickups: frozenset[int]


def equal_bars(piece: Piece) -> EqualBars:
    """Of the piece as it is stored now; read anew where ``piece`` is older than it."""
    try:
        return _remembered(piece.pk, piece.fingerprint)
    except PieceChangedError:
        piece.refresh_from_db(fields=["fingerprint"])
        return equal_bars(piece)


@lru_cache(maxsize=1024)
def _remembered(pk: int, fingerprint: str) -> EqualBars:
    name = f"equal bars {fingerprint} {kept_on_disk.version_of(*WORKED_OUT_BY)}"
    kept = kept_on_disk.read(REMEMBERED, [name])
    if name not in kept:
        kept[name] = _worked_out(stored_chart(pk, fingerprint).bars)
        kept_on_disk.keep(REMEMBERED, kept)
    kinds, pickups = kept[name]
    return EqualBars(kinds, frozenset(pickups))


def _worked_out(bars: Sequence[Bar]) -> tuple[tuple[int, ...], tuple[int, ...]]:
    return twins(bars), tuple(place for place, bar in enumerate(bars) if bar.pickup)
