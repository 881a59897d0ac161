"""Signs that bend the road: D.C. and D.S., and how far the way back leads."""

import re
from dataclasses import dataclass
from enum import StrEnum


class JumpTo(StrEnum):
    START = "D.C."
    SEGNO = "D.S."
    SECOND_SEGNO = "D.S.S."


class Until(StrEnum):
    END = "end"
    FINE = "fine"
    CODA = "coda"
    SECOND_CODA = "coda 2"


HEADS = {"dc": JumpTo.START, "ds": JumpTo.SEGNO, "dss": JumpTo.SECOND_SEGNO}
# The longer ones first, as they are looked for.
AIMS = {
    "fine": Until.FINE,
    "coda 2": Until.SECOND_CODA,
    "coda coda": Until.SECOND_CODA,
    "double coda": Until.SECOND_CODA,
    "coda": Until.CODA,
}
# What pages say of the repeats after a jump.
REPEATS_AGAIN = {
    "with repeats": True,
    "with repeat": True,
    "with rep": True,
    "con rep": True,
    "con repetizione": True,
    "con ripetizione": True,
    "con replica": True,
    "without repeats": False,
    "without repeat": False,
    "without rep": False,
    "no repeats": False,
    "no repeat": False,
    "no rep": False,
    "senza rep": False,
    "senza repetizione": False,
    "senza ripetizione": False,
    "senza replica": False,
}


def read_repeats(words: str) -> bool | None:
    """Are repeats taken again after the jump? None where the words say nothing of it."""
    return REPEATS_AGAIN.get(_plain(words))


def _plain(words: str) -> str:
    return " ".join(re.sub(r"[(),;\[\]]", " ", words.lower().replace(".", "")).split())


@dataclass(frozen=True, slots=True)
class Jump:
    """A jump taken once, after the bar it stands in and after that bar's repeats.

    ``with_repeats``: repeats are taken again after the jump; None where the page is
    silent and the teacher's style decides.
    """

    to: JumpTo
    until: Until = Until.END
    with_repeats: bool | None = None

    def __str__(self) -> str:
        name = self.to.value
        if self.until is not Until.END:
            name += f" al {self.until.value.title()}"
        if self.with_repeats is not None:
            name += " with repeats" if self.with_repeats else " without repeats"
        return name

    @classmethod
    def parse(cls, text: str) -> "Jump":
        """Read "D.S. al Coda", "dc al fine with repeats"; ValueError if it is no jump."""
        words = _plain(text).split()
        match words:
            case ["dc" | "ds" | "dss" as head, *rest]:
                to = HEADS[head]
            case ["da", "capo", *rest]:
                to = JumpTo.START
            case ["dal", "segno", "segno" | "2", *rest]:
                to = JumpTo.SECOND_SEGNO
            case ["dal", "segno", *rest]:
                to = JumpTo.SEGNO
            case _:
                raise ValueError(text)
        until, with_repeats = Until.END, None
        for said, aim in AIMS.items():
            aimed = ["al", *said.split()]
            if rest[: len(aimed)] == aimed:
                until, rest = aim, rest[len(aimed) :]
                break
        if rest:
            with_repeats = read_repeats(" ".join(rest))
            if with_repeats is None:
                raise ValueError(text)
        return cls(to, until, with_repeats)
