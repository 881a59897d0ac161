"""One stroke as it is written: when, on what, how hard, with which ornament."""

from dataclasses import dataclass
from enum import StrEnum

from quicktions import Fraction

from wren_ladder.drumming.chart.drum import Drum
from wren_ladder.drumming.chart.problems import ChartError


class Touch(StrEnum):
    GHOST = "ghost"
    NORMAL = "normal"
    ACCENT = "accent"
    STRONG = "strong"

    @property
    def loud(self) -> bool:
        """An accent of either strength."""
        return self in (Touch.ACCENT, Touch.STRONG)


# How strong each is where it is written for machines; of 127, as MIDI counts.
STRENGTHS = {Touch.GHOST: 35, Touch.NORMAL: 80, Touch.ACCENT: 108, Touch.STRONG: 124}


class Hand(StrEnum):
    RIGHT = "R"
    LEFT = "L"

    @property
    def other(self) -> "Hand":
        return Hand.LEFT if self is Hand.RIGHT else Hand.RIGHT


class Grace(StrEnum):
    """Notes before the main one: flam 1, drag 2 (bounced), ruff 3 (hand to hand)."""

    NONE = "none"
    FLAM = "flam"
    DRAG = "drag"
    RUFF = "ruff"

    @property
    def notes(self) -> int:
        return {"none": 0, "flam": 1, "drag": 2, "ruff": 3}[self.value]

    def hands(self, main: Hand) -> tuple[Hand, ...]:
        """Whose they are: a flam's and a drag's the other hand's, a ruff's three go hand to
        hand into the main stroke."""
        return {
            Grace.NONE: (),
            Grace.FLAM: (main.other,),
            Grace.DRAG: (main.other, main.other),
            Grace.RUFF: (main.other, main, main.other),
        }[self]

    def stuck(self, main: Hand) -> str:
        """The sticking as it is written: "lR", "llR", "lrlR"."""
        return "".join(hand.value.lower() for hand in self.hands(main)) + main.value


class RollKind(StrEnum):
    OPEN = "open"
    BUZZ = "buzz"
    SINGLE = "single"


ROLL_COUNTS = (5, 6, 7, 9, 10, 11, 13, 15, 17)


@dataclass(frozen=True, slots=True)
class Roll:
    """A roll from its hit to ``length`` crotchets later.

    A numbered roll counts its ending note, which is the next hit and not part of the
    length; a buzz roll has no count.
    """

    kind: RollKind
    length: Fraction
    strokes: int | None = None
    tied: bool = False  # over the bar line, to the roll that the next bar begins with

    def __post_init__(self) -> None:
        if self.length <= 0:
            raise ChartError("a roll must last longer than nothing")
        if self.kind is RollKind.BUZZ and self.strokes is not None:
            raise ChartError("a buzz roll has no stroke count")
        if self.strokes is not None and self.strokes not in ROLL_COUNTS:
            counts = ", ".join(map(str, ROLL_COUNTS))
            raise ChartError(f"no roll has {self.strokes} strokes; there are {counts}")


@dataclass(frozen=True, slots=True)
class Hit:
    """One stroke; ``at`` in crotchets from where the bar starts."""

    at: Fraction
    drum: Drum
    touch: Touch = Touch.NORMAL
    grace: Grace = Grace.NONE
    roll: Roll | None = None
    hand: Hand | None = None  # as written on the page; None where the page is silent
    written: Fraction | None = None  # crotchets its note lasts; None: as its beat has it

    def __post_init__(self) -> None:
        if self.drum.by_foot:
            for what, given in (
                ("a sticking", self.hand),
                ("a roll", self.roll),
                ("a grace note", self.grace is not Grace.NONE),
            ):
                if given:
                    raise ChartError(f"{self.drum.spoken} cannot take {what}")
        if self.written is not None and self.written <= 0:
            raise ChartError(f"{self.drum.spoken}: a note lasts longer than nothing")
        if self.written and self.roll:
            raise ChartError(f"{self.drum.spoken}: a roll says itself how long it is")
        if self.roll and self.grace is not Grace.NONE:
            raise ChartError(f"{self.drum.spoken}: a roll with a {self.grace} on it")

    @property
    def end(self) -> Fraction:
        """Until when it is played, in crotchets: a roll is no rest."""
        return self.at + (self.roll.length if self.roll else 0)
