"""Metre: how many counts a bar has, and how they gather into beats."""

import re
from dataclasses import dataclass
from fractions import Fraction

from wren_ladder.drumming.chart.problems import ChartError

UNITS = (2, 4, 8, 16)
MOST_COUNTS = 32


@dataclass(frozen=True, slots=True)
class Meter:
    """A time signature: ``Meter(6, 8)`` is 6/8."""

    beats: int
    unit: int

    def __post_init__(self) -> None:
        if self.unit not in UNITS:
            raise ChartError(
                f"metre {self.beats}/{self.unit}: the lower number is 2, 4, 8 or 16"
            )
        if not 1 <= self.beats <= MOST_COUNTS:
            raise ChartError(
                f"metre {self.beats}/{self.unit}: the upper number is 1 to {MOST_COUNTS}"
            )

    @classmethod
    def parse(cls, text: str) -> "Meter":
        """Read "6/8"; ChartError says what would be right."""
        match = re.fullmatch(r"\s*(\d{1,3})\s*/\s*(\d{1,3})\s*", text)
        if not match:
            raise ChartError(f"'{text}' is not a metre; write it like 4/4 or 6/8")
        return cls(int(match[1]), int(match[2]))

    def __str__(self) -> str:
        return f"{self.beats}/{self.unit}"

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
        return self.unit >= 8 and self.beats > 3 and self.beats % 3 == 0

    def count_at(self, position: Fraction) -> tuple[int, Fraction]:
        """(count from 1, part of it from 0 up to 1) of a place in the full bar, crotchets."""
        counts = position / self.count_length
        return 1 + int(counts), counts - int(counts)

    @property
    def groups(self) -> tuple[Fraction, ...]:
        """The lengths of the beats in crotchets; 5/8 is felt 3+2 and 7/8 2+2+3."""
        if self.unit < 8:
            return (self.count_length,) * self.beats
        if self.beats <= 3:
            return (self.length,)
        if self.compound:
            return (3 * self.count_length,) * (self.beats // 3)
        if self.beats == 5:
            sizes = [3, 2]
        else:
            twos, odd = divmod(self.beats, 2)
            sizes = [2] * (twos - odd) + [3] * odd
        return tuple(size * self.count_length for size in sizes)

    @property
    def beat_starts(self) -> tuple[Fraction, ...]:
        """Where each beat begins, in crotchets from the bar line."""
        starts, at = [], Fraction(0)
        for group in self.groups:
            starts.append(at)
            at += group
        return tuple(starts)
