"""Swing: the page is written straight and played long–short."""

from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.chart.problems import ChartError
from wren_ladder.drumming.numbers import read_whole

QUAVER, SEMIQUAVER = Fraction(1, 2), Fraction(1, 4)
UNITS = {"8ths": QUAVER, "16ths": SEMIQUAVER}
MOST_PART = 99
USUAL = Fraction(2, 3)  # the first and third of a triplet


@dataclass(frozen=True, slots=True)
class Swing:
    """``unit`` crotchets are swung in pairs, None where they are straight; ``first`` is the
    share of a pair that its first note has."""

    unit: Fraction | None
    first: Fraction = USUAL

    def __str__(self) -> str:
        if self.unit is None:
            return "straight"
        name = next(name for name, unit in UNITS.items() if unit == self.unit)
        long, short = self.parts
        return f"swing {name}" if self.first == USUAL else f"swing {name} {long}:{short}"

    @property
    def parts(self) -> tuple[int, int]:
        """The two notes of a pair against each other: 2 to 1."""
        long = self.first.numerator
        return long, self.first.denominator - long

    @classmethod
    def parse(cls, text: str) -> "Swing":
        """Read "straight", "swing 8ths", "swing 16ths 3:2"."""
        words = text.lower().split()
        if words == ["straight"]:
            return STRAIGHT
        match words:
            case ["swing"]:
                return cls(QUAVER)
            case ["swing", unit] if unit in UNITS:
                return cls(UNITS[unit])
            case ["swing", unit, ratio] if unit in UNITS:
                head, _, tail = ratio.partition(":")
                long, short = read_whole(head, 1, MOST_PART), read_whole(tail, 1, MOST_PART)
                if long and short and long > short:
                    return cls(UNITS[unit], Fraction(long, long + short))
        raise ChartError(
            f"'{text}' is no swing; write swing 8ths, swing 16ths 3:2, or straight"
        )

    def sounds_at(self, at: Fraction) -> Fraction:
        """When a note written ``at`` crotchets from where the beats are counted sounds.

        What stands between the pair's two halves moves along with them; what is written in
        threes stays.
        """
        if self.unit is None:
            return at
        pair = 2 * self.unit
        inside = at % pair
        parts = (inside / pair).denominator
        if parts & (parts - 1):
            return at
        if inside <= self.unit:
            return at - inside + inside / self.unit * self.first * pair
        left = (inside - self.unit) / self.unit * (1 - self.first) * pair
        return at - inside + self.first * pair + left


STRAIGHT = Swing(None)
