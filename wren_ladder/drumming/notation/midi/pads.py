"""Electronic kits: their rims and edges on keys of their own, their hat opened by its pedal.

The General MIDI map has no rims of toms, no edges of cymbals and no half-open hat. What kits
send instead is common practice, no source: which kind of kit it is shows in the keys that are
there, and is told.
"""

from bisect import bisect_right
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from statistics import median

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.notation.reading import Choice, ways_of
from wren_ladder.drumming.wording import Coded

PEDAL_CONTROLLER = 4  # foot controller; Standard MIDI 1.0, control changes
HAT_EDGES = (22, 26)  # closed and open, which the map does not have
# The rim of a pad by its head, and the edge of a cymbal by its bow.
RIMS = {40: 38, 50: 48, 47: 45, 58: 43, 39: 41}
EDGES = {55: 49, 52: 57}
RARER = 0.5  # of the head's strokes; a rim struck more often is a drum of its own
MOVED = 40  # of 127, that a pedal moves at least where it opens the hat
HATS = (Drum.HIHAT, Drum.HIHAT_HALF, Drum.HIHAT_OPEN)
SOME = 0.1  # of the hat's strokes on keys for open and closed, which say it already
HALF_OPEN, OPEN = 0.35, 0.75  # of the pedal's way


class Kit(Coded):
    MAP = "kit map", "by the General MIDI map"
    PADS = "kit pads", "as electronic kits send it"


class Hat(Coded):
    KEYS = "hat keys", "by its keys"
    PEDAL = "hat pedal", "by its pedal"


def take_kit(keys: Mapping[int, int], pedal: Sequence, taken: Collection[str]) -> Choice:
    """``keys`` of the file, how often each is struck."""
    by_pads = any(key in keys for key in HAT_EDGES) or _way(pedal) >= MOVED
    return Choice.of("kit", ways_of(Kit), Kit.PADS if by_pads else Kit.MAP, taken)


def heads_of(keys: Mapping[int, int]) -> dict[int, int]:
    """The rims and edges among keys of an electronic kit, by the key of their head or bow."""
    return {
        rim: head
        for rim, head in (RIMS | EDGES).items()
        if rim in keys and head in keys and keys[rim] <= RARER * keys[head]
    }


def take_hat(
    drums: Mapping[int, Drum | None],
    many: Counter[int],
    pedal: Sequence[tuple[int, int]],
    taken: Collection[str],
) -> tuple[Choice, ...]:
    """How the hat is opened; nothing to choose where no pedal was moved."""
    hats: Counter[Drum] = Counter()
    for key, drum in drums.items():
        if drum is not None and drum in HATS:
            hats[drum] += many[key]
    if not hats or _way(pedal) < MOVED:
        return ()
    said = [drum for drum in HATS if hats[drum] >= SOME * hats.total()]
    usual = Hat.KEYS if len(said) > 1 else Hat.PEDAL
    return (Choice.of("hi-hat", ways_of(Hat), usual, taken),)


class Pedal:
    """How far the hat is open by its pedal. Which end is closed shows where the pedal itself
    is struck, or where the hat mostly stands."""

    def __init__(
        self, pedal: Sequence[tuple[int, int]], struck: Sequence[int], trodden: Sequence[int]
    ) -> None:
        """``struck`` and ``trodden`` are the ticks of the hat by stick and by foot."""
        self.ticks = [tick for tick, _ in pedal]
        self.values = [value for _, value in pedal]
        self.low, self.high = min(self.values), max(self.values)
        usual = median(self._value(tick) for tick in trodden or struck)
        near_high = usual - self.low > self.high - usual
        self.closed = self.high if near_high else self.low

    def hat_at(self, tick: int) -> Drum:
        way = abs(self._value(tick) - self.closed) / (self.high - self.low)
        return HATS[(way >= HALF_OPEN) + (way >= OPEN)]

    def _value(self, tick: int) -> int:
        return self.values[max(0, bisect_right(self.ticks, tick) - 1)]


def _way(pedal: Sequence[tuple[int, int]]) -> int:
    values = [value for _, value in pedal]
    return max(values) - min(values) if values else 0
