"""What is heard: one stroke, one click, and all of them together."""

from dataclasses import dataclass
from enum import StrEnum

from quicktions import Fraction

from wren_ladder.drumming.chart import Drum, Meter, Tempo, Touch
from wren_ladder.drumming.chart.swing import Swing
from wren_ladder.drumming.hands import Limb


class OnsetKind(StrEnum):
    MAIN = "main"  # a stroke as it is written
    GRACE = "grace"  # of a flam, drag or ruff, before its main stroke
    ROLL = "roll"  # inside a roll, behind its first stroke


@dataclass(frozen=True, slots=True)
class Onset:
    """One stroke. Time runs from where the first bar starts: what comes before is negative."""

    at: float  # seconds
    position: Fraction  # crotchets
    drum: Drum
    limb: Limb | None  # None where nobody is free to play it
    touch: Touch
    strength: float  # from 0 to 1
    kind: OnsetKind
    place: int  # from 0, which grace of its ornament or stroke of its roll; the main one is 0
    ahead: float  # seconds before its main stroke, 0 for all but graces
    bar: int  # index of the bar in its piece
    time: int  # which time that bar is played, from 1
    turn: int  # of the bar among those played, from 0
    hit: int  # its place among the hits of the bar


@dataclass(frozen=True, slots=True)
class Click:
    """A click on a beat; those of the count-in come before 0."""

    at: float
    position: Fraction
    first: bool  # of its bar
    counted_in: bool = False


@dataclass(frozen=True, slots=True)
class BarSpan:
    """A bar at its turn: where it starts, and how long it lasts."""

    at: float  # seconds
    seconds: float
    position: Fraction  # crotchets
    length: Fraction
    bar: int  # index of the bar in its piece
    time: int  # which time it is played, from 1


@dataclass(frozen=True, slots=True)
class Performance:
    """Some bars as they sound once; ``seconds`` and ``length`` (crotchets) include the empty
    bars behind them, and not the count-in, which lasts ``before``."""

    onsets: tuple[Onset, ...]  # in time order
    clicks: tuple[Click, ...]
    seconds: float
    length: Fraction
    before: float
    before_length: Fraction
    tempos: tuple[tuple[Fraction, Tempo], ...]  # as printed, where each begins
    meters: tuple[tuple[Fraction, Meter], ...]
    swings: tuple[tuple[Fraction, Swing], ...]  # where they change, from straight on
    bars: tuple[BarSpan, ...]  # in the order they are played, without the empty ones
    share: Fraction = Fraction(1)  # of the tempos that it was played at
