"""One syllable of a count."""

from dataclasses import dataclass
from fractions import Fraction


@dataclass(frozen=True, slots=True)
class Count:
    """``at`` in crotchets from where the bar starts."""

    at: Fraction
    say: str
    silent: bool  # nothing is struck here
    main: bool  # a number, not a part of one
