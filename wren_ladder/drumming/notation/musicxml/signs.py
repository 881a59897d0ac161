"""Segno, coda, Fine and the jumps: as playback attributes, as signs, or as words only.

Source: MusicXML 4.0, sound, segno, coda and repeat. Many files carry the words alone, or
the attribute alone, so either is enough and both together say the same once.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from xml.etree.ElementTree import Element

from wren_ladder.drumming.chart import Bar, ChartError, Jump, JumpTo, Until
from wren_ladder.drumming.chart.signs import read_repeats
from wren_ladder.drumming.chart.swing import QUAVER, SEMIQUAVER, STRAIGHT, Swing

TO_THE_END = "to the end"  # said where a bare jump would be read to lead to a Fine
JUMP_WORDS = re.compile(
    r"(d\.? ?c\.?|da capo|d\.? ?s\.?|dal segno)"
    rf"( al (fine|coda)\b| {TO_THE_END})?(.*)"
)
SWING_WORDS = {
    "straight": STRAIGHT,
    "straight 8ths": STRAIGHT,
    **dict.fromkeys(("swing", "swing 8ths", "swung", "shuffle", "swing feel"), Swing(QUAVER)),
    **dict.fromkeys(("swing 16ths", "swung 16ths", "half-time shuffle"), Swing(SEMIQUAVER)),
}
TO_CODA = re.compile(r"to coda\b.*|al coda")


def read_sign(kind: Element, direction: Element, marks: dict) -> bool:
    """Take a segno, a coda or words of a direction; False if the words mean no sign."""
    if kind.tag == "segno":
        marks["segno"] = True
        return True
    sound = direction.find("sound")
    leaving = sound is not None and sound.get("tocoda") is not None
    words = _words(direction)
    if kind.tag == "coda":
        marks["to_coda" if leaving or TO_CODA.fullmatch(words) else "coda"] = True
        return True
    return _read_words(words, marks)


def _words(direction: Element) -> str:
    texts = (words.text or "" for words in direction.iterfind("direction-type/words"))
    return " ".join(" ".join(texts).lower().split()).strip("() ")


def _read_words(words: str, marks: dict) -> bool:
    match = JUMP_WORDS.fullmatch(words)
    again = read_repeats(match[4] if match else words)
    if again is not None and not match:
        marks["with_repeats"] = again  # of the jump in the same bar
        return True
    if match and (again is not None or match[4].strip(" .()") == ""):
        to = JumpTo.START if "c" in match[1] else JumpTo.SEGNO
        until = Until(match[3]) if match[3] else Until.END
        marks["jump"] = Jump(to, until, again)
        if match[2] and not match[3]:
            marks["jump_ends"] = True
        return True
    swing = _swing(words)
    if swing:
        marks.setdefault("swing", swing)
        return True
    if words in ("fine", "fine."):
        marks["fine"] = True
        return True
    if TO_CODA.fullmatch(words):
        marks["to_coda"] = True
        return True
    if words in ("coda", "segno"):
        marks[words] = True
        return True
    return False


def _swing(words: str) -> Swing | None:
    """What words say of the feel; the playback attribute, read after them, goes before."""
    if words in SWING_WORDS:
        return SWING_WORDS[words]
    try:
        return Swing.parse(words)
    except ChartError:
        return None


def read_sound(element: Element, marks: dict) -> None:
    """The playback attributes; printed words, read before, go further than they do."""
    if element.get("dacapo") == "yes":
        marks.setdefault("jump", Jump(JumpTo.START))
    if element.get("dalsegno") is not None:
        marks.setdefault("jump", Jump(JumpTo.SEGNO))
    for attribute, mark in (("tocoda", "to_coda"), ("segno", "segno"), ("coda", "coda")):
        if element.get(attribute) is not None:
            marks[mark] = True
    if element.get("fine") is not None:
        marks["fine"] = True


def complete_jumps(measures: list[dict]) -> None:
    """A jump that does not say how far it leads goes by what the page has: a To Coda with
    its coda, else a Fine. ``after-jump`` on any repeat means repeats are taken again."""
    again = False
    for marks in measures:
        again |= marks.pop("after_jump", False)
    pages = [Signs("to_coda" in m, "coda" in m, "fine" in m) for m in measures]
    for index, marks in enumerate(measures):
        jump, ends = marks.get("jump"), marks.pop("jump_ends", False)
        said = marks.pop("with_repeats", None)
        if jump is None:
            continue
        if jump.until is Until.END and not ends:
            jump = replace(jump, until=leads_on(pages, index) or Until.END)
        if jump.with_repeats is None and (again or said is not None):
            jump = replace(jump, with_repeats=again if said is None else said)
        marks["jump"] = jump


@dataclass(frozen=True, slots=True)
class Signs:
    """What a measure says of the road, as a Bar does."""

    to_coda: bool
    coda: bool
    fine: bool


def leads_on(bars: Sequence[Signs | Bar], index: int) -> Until | None:
    """How far a bare jump in bar ``index`` is read to lead, None for the end."""
    before, behind = bars[: index + 1], bars[index + 1 :]
    if any(bar.to_coda for bar in before) and any(bar.coda for bar in behind):
        return Until.CODA
    return Until.FINE if any(bar.fine for bar in bars) else None
