"""Words of a typed line, each knowing where it stands."""

import re
from dataclasses import dataclass

from wren_ladder.drumming.chart import ChartError, Place

WORD = re.compile(r",|[^\s,]+")


@dataclass(frozen=True, slots=True)
class Token:
    text: str
    line: int
    column: int

    @property
    def place(self) -> Place:
        return Place(self.line, self.column, self.text)


def tokens(line: str, number: int) -> list[Token]:
    """Words and commas of a line, with columns counted from 1."""
    return [Token(word[0], number, word.start() + 1) for word in WORD.finditer(line)]


def blame(token: Token, text: str, bar: str = "") -> ChartError:
    """An error that points at one word."""
    return ChartError(text, bar=bar, place=token.place)
