"""How the core says that something is wrong: an error that stops, a problem that is told."""

from dataclasses import dataclass
from typing import Self


@dataclass(frozen=True, slots=True)
class Place:
    """Where a typed word stands: line and column from 1, and the word itself."""

    line: int
    column: int
    word: str


class ChartError(ValueError):
    """The input cannot be a chart. Carries its place, filled in on the way up."""

    def __init__(
        self, text: str, *, bar: str = "", beat: str = "", place: Place | None = None
    ) -> None:
        super().__init__(text)
        self.text = text
        self.bar = bar
        self.beat = beat
        self.place = place

    def in_bar(self, number: str) -> Self:
        """The same error, told of bar ``number`` unless it already names a bar."""
        return type(self)(self.text, bar=self.bar or number, beat=self.beat, place=self.place)

    def __str__(self) -> str:
        where = []
        if self.place:
            where.append(f"line {self.place.line}")
        if self.bar:
            where.append(f"bar {self.bar}")
        if self.beat:
            where.append(f"beat {self.beat}")
        return f"{', '.join(where)}: {self.text}" if where else self.text


@dataclass(frozen=True, slots=True)
class Problem:
    """Something mended or left out, told to the teacher instead of being swallowed."""

    code: str
    text: str
    bar: str = ""

    def __str__(self) -> str:
        return f"bar {self.bar}: {self.text}" if self.bar else self.text
