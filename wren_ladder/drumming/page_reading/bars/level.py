"""A bar's ink with its staff lines exactly where they should be: what a fold has left bent by a
few pixels would put heads on the wrong line."""

import numpy as np

from wren_ladder.drumming.page_reading.bars.heads import LINES, y_of
from wren_ladder.drumming.page_reading.found import SPACE
from wren_ladder.drumming.page_reading.pixels import Ink

MOST = 5  # pixels that lines are off
WINDOW = 3 * SPACE
STEP = SPACE // 2


def level(inked: Ink, bare: Ink) -> tuple[Ink, Ink]:
    """A bar's ink with its staff lines, and without, moved column by column."""
    offs = _offs(inked & ~bare)
    rows = np.arange(len(inked))[:, None] + offs[None, :]
    rows = np.clip(rows, 0, len(inked) - 1)
    columns = np.arange(inked.shape[1])[None, :]
    return inked[rows, columns], bare[rows, columns]


def _offs(lines: Ink) -> np.ndarray:
    """By how many pixels the lines are too low, for each column."""
    wide = lines.shape[1]
    middles = [y_of(row) for row in LINES]
    # Ink along each line, as far off, so far into the bar.
    offs = range(-MOST, MOST + 1)
    along = np.stack([lines[[y + off for y in middles]].sum(axis=0) for off in offs])
    summed = np.cumsum(np.pad(along, ((0, 0), (1, 0))), axis=1)
    at, found = [], []
    for middle in range(0, wide, STEP):
        left, right = max(0, middle - WINDOW // 2), min(wide, middle + WINDOW // 2)
        counts = summed[:, right] - summed[:, left]
        # The middle of what is full: a line is as thick as two or three of them.
        total = counts.sum()
        if total < WINDOW:
            continue
        best = int(counts.argmax())
        around = range(max(0, best - 2), min(len(counts), best + 3))
        weight = sum(int(counts[n]) for n in around)
        at.append(middle)
        found.append(sum(n * int(counts[n]) for n in around) / weight - MOST)
    if not at:
        return np.zeros(wide, int)
    return np.round(np.interp(np.arange(wide), at, found)).astype(int)
