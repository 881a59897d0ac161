"""The grid a hand moves along in a bar, and the drums it chooses from."""

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum

# Steps in crotchets, by the words that typed bars use too.
GRIDS = {
    "quarters": Fraction(1),
    "8ths": Fraction(1, 2),
    "16ths": Fraction(1, 4),
    "32nds": Fraction(1, 8),
    "triplets": Fraction(1, 3),
    "sextuplets": Fraction(1, 6),
}
USUAL_GRID = "8ths"
VARIANTS = {
    drum.surface: tuple(other for other in Drum if other.surface is drum.surface)
    for drum in Drum
}


def places(bar: Bar, grid: str) -> tuple[Fraction, ...]:
    """Where a hit can be dropped: every step of the grid, and every hit that is there."""
    step = GRIDS[grid]
    steps = {index * step for index in range(int(bar.length / step) + 1)}
    return tuple(sorted({at for at in steps if at < bar.length} | {h.at for h in bar.hits}))


def grid_for(bar: Bar) -> str:
    """The coarsest usual grid that every hit of the bar lies on."""
    for name in (USUAL_GRID, "16ths", "triplets", "sextuplets", "32nds"):
        if all((hit.at / GRIDS[name]).denominator == 1 for hit in bar.hits):
            return name
    return "32nds"
