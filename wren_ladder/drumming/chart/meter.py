"""Metre: how many counts a bar has, and how they gather into beats."""

import re
from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.chart.problems import ChartError

UNITS = (2, 4, 8, 16)
MOST_COUNTS = 32
METER = re.compile(r"(\d{1,3}(?:\+\d{1,3})*)/(\d{1,3})")
LARGEST = 6  # counts of one group


@dataclass(frozen=True, slots=True)
class Meter:
    """A time signature: ``Meter(6, 8)`` is 6/8, ``Meter(7, 8, (3, 2, 2))`` is 3+2+2/8.

    ``sizes`` are the counts of each beat where the page groups them in a way of its own.
    """

    beats: int
    unit: int
    sizes: tuple[int, ...] = ()

    def __post_init__(self) -> None:
        if self.unit not in UNITS:
            raise ChartError(
                f"metre {self.beats}/{self.unit}: the lower number is 2, 4, 8 or 16"
            )
        if not 1 <= self.beats <= MOST_COUNTS:
            raise ChartError(
                f"metre {self.beats}/{self.unit}: the upper number is 1 to {MOST_COUNTS}"
            )
        if self.sizes:
            self._check_sizes()

    def _check_sizes(self) -> None:
        said = f"metre {'+'.join(map(str, self.sizes))}/{self.unit}"
        if self.unit < 8:
            text = f"{said}: only metres over 8 or 16 are grouped; each count is a beat here"
            raise ChartError(text)
        if sum(self.sizes) != self.beats or not all(1 <= n <= LARGEST for n in self.sizes):
            raise ChartError(f"{said}: groups of 1 to {LARGEST} counts, {self.beats} in all")
        if self.sizes == self._usual_sizes:
            object.__setattr__(self, "sizes", ())

    @classmethod
    def parse(cls, text: str) -> "Meter":
        """Read "6/8", or "3+2+2/8"; ChartError says what would be right."""
        match = METER.fullmatch("".join(text.split()))
        if not match:
            raise ChartError(f"'{text}' is not a metre; write it like 4/4, 6/8 or 3+2+2/8")
        sizes = tuple(int(size) for size in match[1].split("+"))
        return cls(sum(sizes), int(match[2]), sizes if len(sizes) > 1 else ())

    def __str__(self) -> str:
        return f"{'+'.join(map(str, self.sizes)) or self.beats}/{self.unit}"

    @property
    def count_length(self) -> Fraction:
        """One count in crotchets: 1 over 4, 1/2 over 8."""
        return Fraction(4, self.unit)

    @property
    def length(self) -> Fraction:
        """The full bar in crotchets: 3/4 -> 3, 6/8 -> 3."""
        return self.beats * self.count_length

    @property
    def compound(self) -> bool:
        """True where three counts make a beat: 6/8, 9/8, 12/8 (3/8 is counted plainly)."""
        return self.unit >= 8 and self.beats > 3 and self.beats % 3 == 0 and not self.sizes

    @property
    def odd(self) -> bool:
        """Beats of unequal length, or five and seven of them."""
        return len(set(self.groups)) > 1 or len(self.groups) in (5, 7)

    def count_at(self, position: Fraction) -> tuple[int, Fraction]:
        """(count from 1, part of it from 0 up to 1) of a place in the full bar, crotchets."""
        counts = position / self.count_length
        return 1 + int(counts), counts - int(counts)

    @property
    def groups(self) -> tuple[Fraction, ...]:
        """The lengths of the beats in crotchets; unless the page says otherwise 5/8 is
        felt 3+2 and 7/8 2+2+3."""
        return tuple(size * self.count_length for size in self.sizes or self._usual_sizes)

    @property
    def _usual_sizes(self) -> tuple[int, ...]:
        if self.unit < 8:
            return (1,) * self.beats
        if self.beats <= 3:
            return (self.beats,)
        if self.beats % 3 == 0:
            return (3,) * (self.beats // 3)
        if self.beats == 5:
            return (3, 2)
        twos, odd = divmod(self.beats, 2)
        return (2,) * (twos - odd) + (3,) * odd

    @property
    def beat_starts(self) -> tuple[Fraction, ...]:
        """Where each beat begins, in crotchets from the bar line."""
        starts, at = [], Fraction(0)
        for group in self.groups:
            starts.append(at)
            at += group
        return tuple(starts)
