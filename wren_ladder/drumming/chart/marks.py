"""What stands over and under the notes: dynamics, hairpins, fermatas, fills, cues."""

from dataclasses import dataclass
from enum import StrEnum

from quicktions import Fraction

from wren_ladder.drumming.chart.problems import ChartError
from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.numbers import read_whole

DYNAMICS = ("ppp", "pp", "p", "mp", "mf", "f", "ff", "fff", "sfz", "fp")
MOST_LENGTH = 64  # crotchets of a hairpin
MOST_WORDS = 80


class MarkKind(StrEnum):
    DYNAMIC = "dynamic"
    CRESCENDO = "crescendo"
    DIMINUENDO = "diminuendo"
    FERMATA = "fermata"  # let it ring
    FILL = "fill"  # a space to fill, from here to the bar line
    SLASHES = "slashes"  # go on in the same way, from here to the bar line
    CUE = "cue"  # words on the page
    RIT = "rit"
    ACCEL = "accel"


HAIRPINS = (MarkKind.CRESCENDO, MarkKind.DIMINUENDO)
GRADUAL = (MarkKind.RIT, MarkKind.ACCEL)
SPANS = (*HAIRPINS, *GRADUAL)  # that last, over bar lines too


@dataclass(frozen=True, slots=True)
class Mark:
    """A mark ``at`` crotchets from where the bar starts.

    ``text`` is the dynamic, the cue's words, or the beats a minute that a rit. or an accel. is
    to reach, "" where the page does not say; ``length`` in crotchets is that of what spans over
    notes, which may run over the bar line.
    """

    at: Fraction
    kind: MarkKind
    text: str = ""
    length: Fraction = Fraction(0)

    def __post_init__(self) -> None:
        if self.kind is MarkKind.DYNAMIC and self.text not in DYNAMICS:
            raise ChartError(f"'{self.text}' is no dynamic; use {', '.join(DYNAMICS)}")
        if self.kind is MarkKind.CUE:
            words = " ".join(self.text.split())[:MOST_WORDS].strip()
            if not words:
                raise ChartError("a cue has words: cue 3 band only")
            object.__setattr__(self, "text", words)
        goal = self.text if self.kind in GRADUAL else ""
        if goal and read_whole(goal, SLOWEST, FASTEST) is None:
            raise ChartError(f"a {self.kind} leads to {SLOWEST} to {FASTEST} a minute: to 60")
        if self.kind in SPANS and not 0 < self.length <= MOST_LENGTH:
            raise ChartError(f"a {self.kind} lasts longer than nothing, to {MOST_LENGTH}")
