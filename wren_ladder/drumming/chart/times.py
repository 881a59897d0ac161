"""Bars that are not played every time they come: "second time only", "first time tacet"."""

import re
from dataclasses import dataclass

from wren_ladder.drumming.chart.problems import ChartError
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.wording import listed, ordinal

MOST_TIMES = 16
NAMED = {"first": 1, "second": 2, "third": 3, "fourth": 4}
# "2nd" or "second": a bare number says how often, "play 8 times".
SAID = re.compile(
    r"(?:play )?(?P<numbers>[\w ,&]+?) (?:times?|x) (?P<kind>only|tacet)"
    r"|(?P<first>play|tacet) (?:the )?(?P<after>[\w ,&]+?) (?:times?|x)(?: only)?"
)


@dataclass(frozen=True, slots=True)
class Times:
    """On which of the times that it comes a bar is played: on ``numbers`` only, or, where it
    is ``tacet``, on all but them."""

    numbers: tuple[int, ...]
    tacet: bool = False

    def __post_init__(self) -> None:
        numbers = tuple(sorted(set(self.numbers)))
        if not numbers or not all(1 <= number <= MOST_TIMES for number in numbers):
            raise ChartError(f"say which time, 1 to {MOST_TIMES}: time 2 only, time 1 tacet")
        object.__setattr__(self, "numbers", numbers)

    def __str__(self) -> str:
        """As it is typed: "2 only", "1 3 tacet"."""
        return f"{' '.join(map(str, self.numbers))} {'tacet' if self.tacet else 'only'}"

    @property
    def words(self) -> str:
        """As it stands on the page: "2nd time only"."""
        said = listed([ordinal(number) for number in self.numbers])
        return f"{said} time {'tacet' if self.tacet else 'only'}"

    def plays(self, time: int) -> bool:
        """Is the bar played when it comes for the ``time``-th time?"""
        return (time in self.numbers) is not self.tacet

    @classmethod
    def parse(cls, text: str) -> "Times":
        """Read "2 only", "1 tacet", "1 3 tacet"."""
        *numbers, kind = text.lower().replace(",", " ").split() or [""]
        found = [read_whole(word, 1, MOST_TIMES) for word in numbers]
        numbers_read = tuple(number for number in found if number is not None)
        if kind not in ("only", "tacet") or not found or len(numbers_read) < len(found):
            raise ChartError("say which time: time 2 only, or time 1 tacet")
        return cls(numbers_read, kind == "tacet")

    @classmethod
    def read_words(cls, text: str) -> "Times | None":
        """What a page says: "second time only", "1st x tacet", "play 2nd time"; None if the
        words are none of that."""
        match = SAID.fullmatch(" ".join(text.lower().replace(".", "").split()).strip("() "))
        if not match:
            return None
        words = re.split(r"[ ,&]+|\band\b", match["numbers"] or match["after"])
        named = [NAMED.get(word) or _ordinal(word) for word in words if word]
        numbers = tuple(number for number in named if number is not None)
        if not numbers or len(numbers) < len(named):
            return None
        return cls(numbers, "tacet" in (match["kind"], match["first"]))


def _ordinal(word: str) -> int | None:
    match = re.fullmatch(r"(\d{1,2})(?:st|nd|rd|th)", word)
    return read_whole(match[1], 1, MOST_TIMES) if match else None
