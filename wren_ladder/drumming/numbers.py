"""Numbers as people and files write them, read within bounds: the one reader for all of them.

``str.isdigit`` is true of "²", and ``Fraction("1e3000000")`` takes minutes; neither is asked
here. What is no number of the kind, or out of bounds, is None, and whoever asked says so.

``quicktions`` is the fractions of the standard library, compiled: a piece is studied and judged
in less than half the time. Text is never given to it: 1.24 (all before, too) reads a text of
one character into the interpreter's own ``b"\\0"``, which is then no zero for anybody.
"""

import re

from quicktions import Fraction

LARGEST = 999_999_999
WHOLE = re.compile(r"[0-9]{1,9}")
RATIO = re.compile(r"([+-]?[0-9]{1,9})(?:/([0-9]{1,9})|\.([0-9]{1,9}))?")


def read_whole(text: str | None, lowest: int = 0, highest: int = LARGEST) -> int | None:
    """ "12" -> 12; None for anything else than up to nine plain digits within the bounds."""
    if text is None or not WHOLE.fullmatch(text):
        return None
    number = int(text)
    return number if lowest <= number <= highest else None


def read_ratio(text: str | None) -> Fraction | None:
    """ "3/4", "1.5", "-2"; None for anything else, "1e9" and "1/0" included."""
    match = RATIO.fullmatch(text.strip()) if text else None
    if match is None or (match[2] and not int(match[2])):
        return None
    whole, below, decimals = match.groups()
    if decimals:
        return Fraction(int(whole + decimals), 10 ** len(decimals))
    return Fraction(int(whole), int(below or 1))


def is_whole(text: str) -> bool:
    return read_whole(text) is not None
