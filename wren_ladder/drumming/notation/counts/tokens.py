"""Words of a typed line, each knowing where it stands."""

import re
from dataclasses import dataclass, replace

from wren_ladder.drumming.chart import ChartError, Place

WORD = re.compile(r"[,;|()]|[^\s,;|()]+")
GLUED = re.compile(r"([A-Za-z][\w-]*):(\S+)")
COMMENT = re.compile(r"(?:^|(?<=\s))#.*")


@dataclass(frozen=True, slots=True)
class Token:
    """``text`` as it is read; ``raw`` as it was typed, where that is something else."""

    text: str
    line: int
    column: int
    raw: str = ""

    @property
    def place(self) -> Place:
        return Place(self.line, self.column, self.raw or self.text)

    def read_as(self, text: str) -> "Token":
        return replace(self, text=text, raw=self.raw or self.text)


def without_comment(line: str) -> str:
    """A line up to a # that begins a word."""
    return COMMENT.sub("", line)


def tokens(line: str, number: int) -> list[Token]:
    """Words, commas and brackets of a line, with columns counted from 1; bar lines say
    nothing."""
    found = [Token(word[0], number, word.start() + 1) for word in WORD.finditer(line)]
    name = GLUED.fullmatch(found[0].text) if found else None
    if name:  # "snare:2 4"
        first, behind = found[0], name.end(1)
        rest = Token(name[2], number, first.column + behind + 1)
        found[:1] = [Token(name[1], number, first.column), rest]
    return [token for token in found if token.text != "|"]


def blame(token: Token, text: str, bar: str = "") -> ChartError:
    """An error that points at one word."""
    return ChartError(text, bar=bar, place=token.place)
