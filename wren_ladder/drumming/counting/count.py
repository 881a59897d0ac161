"""One syllable of a count, and how a beat divides."""

from collections.abc import Set
from dataclasses import dataclass

from quicktions import Fraction


@dataclass(frozen=True, slots=True)
class Count:
    """``at`` in crotchets from where the bar starts."""

    at: Fraction
    say: str
    silent: bool  # nothing is struck here
    main: bool  # a number, not a part of one


def division(shares: Set[Fraction], length: Fraction) -> int:
    """The fewest parts of a beat, ``length`` crotchets, on which all ``shares`` of it lie;
    0 if there is no plain division."""
    grids = (3, 6) if length.numerator % 3 == 0 else (2, 4, 3, 6)
    return next((n for n in grids if all((share * n).denominator == 1 for share in shares)), 0)
