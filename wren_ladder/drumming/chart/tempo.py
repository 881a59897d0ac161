"""Tempo marks: a beat unit and its number per minute."""

import re
from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.chart.problems import ChartError

SLOWEST, FASTEST = 20, 400

BEAT_NAMES = {
    "minim": Fraction(2),
    "dotted crotchet": Fraction(3, 2),
    "crotchet": Fraction(1),
    "dotted quaver": Fraction(3, 4),
    "quaver": Fraction(1, 2),
    "dotted minim": Fraction(3),
}
OTHER_NAMES = {
    "half": Fraction(2),
    "dotted quarter": Fraction(3, 2),
    "quarter": Fraction(1),
    "eighth": Fraction(1, 2),
}


@dataclass(frozen=True, slots=True)
class Tempo:
    """``Tempo(Fraction(3, 2), 60)`` is dotted crotchet = 60; beat in crotchets."""

    beat: Fraction
    bpm: int

    def __post_init__(self) -> None:
        if self.beat not in BEAT_NAMES.values():
            raise ChartError(f"a tempo counts in {', '.join(BEAT_NAMES)}")
        if not SLOWEST <= self.bpm <= FASTEST:
            raise ChartError(f"tempo {self.bpm}: it is {SLOWEST} to {FASTEST} a minute")

    @classmethod
    def parse(cls, text: str) -> "Tempo":
        """Read "dotted crotchet = 60", or "92" for crotchets."""
        match = re.fullmatch(r"\s*(?:([a-z ]+?)\s*=?\s*)?(\d{1,4})\s*", text.lower())
        if not match:
            raise ChartError(f"'{text}' is not a tempo; write it like crotchet = 92")
        name = " ".join((match[1] or "crotchet").split())
        beat = BEAT_NAMES.get(name) or OTHER_NAMES.get(name)
        if beat is None:
            raise ChartError(f"'{name}' is not a beat; use {', '.join(BEAT_NAMES)}")
        return cls(beat, int(match[2]))

    def scaled(self, share: Fraction) -> "Tempo":
        """The same beat so many times as fast, as far as tempos go."""
        return Tempo(self.beat, max(SLOWEST, min(FASTEST, round(self.bpm * share))))

    @property
    def beat_name(self) -> str:
        return next(name for name, beat in BEAT_NAMES.items() if beat == self.beat)

    def __str__(self) -> str:
        return f"{self.beat_name} = {self.bpm}"
