"""How things are said in a row; codes that have words."""

from collections.abc import Sequence
from enum import StrEnum


class Coded(StrEnum):
    """A code that databases, files and addresses keep, with a label for people: labels may be
    reworded, codes stay. Written ``BAR = "bar", "bar school"``."""

    label: str

    def __new__(cls, code: str, label: str = ""):
        member = str.__new__(cls, code)
        member._value_ = code
        member.label = label or code
        return member

    @classmethod
    def choices(cls) -> list[tuple[str, str]]:
        """(code, label) of each, as forms and models want them."""
        return [(member.value, member.label) for member in cls]


def listed(names: Sequence[str]) -> str:
    """ "2, 4 and 6"; the word by itself where there is one, nothing for none."""
    if len(names) < 2:
        return "".join(names)
    return f"{', '.join(names[:-1])} and {names[-1]}"


COUNTED = (
    "no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten",
    "eleven", "twelve",
)  # fmt: skip


def counted(number: int) -> str:
    """ "three"; in figures above twelve."""
    return COUNTED[number] if number < len(COUNTED) else str(number)


def ordinal(number: int) -> str:
    """1st, 2nd, 3rd, 4th, 11th, 22nd."""
    endings = {1: "st", 2: "nd", 3: "rd"}
    ending = "th" if number % 100 in (11, 12, 13) else endings.get(number % 10, "th")
    return f"{number}{ending}"
