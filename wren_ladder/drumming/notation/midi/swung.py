"""What is played long and short, written as the even notes that a swing mark makes so."""

from collections.abc import Collection
from functools import lru_cache

from quicktions import Fraction

from wren_ladder.drumming.chart.swing import QUAVER, SEMIQUAVER, Swing

STRAIGHT_GRIDS, TRIPLET_GRIDS = frozenset((1, 2, 4, 8)), frozenset((1, 3, 6))
SWUNG_GRIDS = {QUAVER: frozenset((1, 3, 6)), SEMIQUAVER: frozenset((1, 2, 6))}
# By what is swung: the grid, and where each of its cells is written, in shares of a beat; what
# uses another cell is written in threes.
PAIRS: dict[Fraction, tuple[int, dict[Fraction | int, Fraction]]] = {
    QUAVER: (3, {0: Fraction(0), 2: Fraction(1, 2), 3: Fraction(1)}),
    SEMIQUAVER: (
        6,
        {
            0: Fraction(0), 2: Fraction(1, 4), 3: Fraction(1, 2), 5: Fraction(3, 4),
            6: Fraction(1),
        },
    ),
}  # fmt: skip


def grids_by(swing: Swing) -> frozenset[int] | None:
    """Those that a beat is divided by where it swings; None for all."""
    return SWUNG_GRIDS[swing.unit] if swing.unit else None


@lru_cache(maxsize=256)
def written_shares(swing: Swing, parts: int, used: Collection[int]) -> tuple[Fraction, ...]:
    """Where the cells of a grid are written, in shares of the beat."""
    plain = [Fraction(cell, parts) for cell in range(parts + 1)]
    if swing.unit:
        whole, places = PAIRS[swing.unit]
        step = Fraction(whole, parts)
        cells = {cell: places.get(cell * step) for cell in range(parts + 1)}
        if all(cells[cell] is not None for cell in used):
            return tuple(cells[cell] or plain[cell] for cell in range(parts + 1))
    return tuple(plain)
