"""Segno, coda, Fine and the jumps: as playback attributes, as signs, or as words only.

Source: MusicXML 4.0, sound, segno, coda and repeat. Many files carry the words alone, or
the attribute alone, so either is enough and both together say the same once.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from xml.etree.ElementTree import Element

from quicktions import Fraction

from wren_ladder.drumming.chart import (
    Bar,
    ChartError,
    Jump,
    JumpTo,
    Mark,
    MarkKind,
    Times,
    Until,
)
from wren_ladder.drumming.chart.bar import MOST_REPEAT_PASSES
from wren_ladder.drumming.chart.signs import AIMS, read_repeats
from wren_ladder.drumming.chart.swing import QUAVER, SEMIQUAVER, STRAIGHT, Swing

TO_THE_END = "to the end"  # said where a bare jump would be read to lead to a Fine
JUMP_WORDS = re.compile(
    r"(d\.? ?c\.?|da capo|d\.? ?s\.? ?s\.?|dal segno segno|d\.? ?s\.?|dal segno)"
    rf"( al (fine|coda 2|coda coda|double coda|coda)\b| {TO_THE_END})?(.*)"
)
SWING_WORDS = {
    "straight": STRAIGHT,
    "straight 8ths": STRAIGHT,
    **dict.fromkeys(("swing", "swing 8ths", "swung", "shuffle", "swing feel"), Swing(QUAVER)),
    **dict.fromkeys(("swing 16ths", "swung 16ths", "half-time shuffle"), Swing(SEMIQUAVER)),
}
TO_CODA = re.compile(r"to (double )?coda\b.*|al coda")
PLAYED = re.compile(r"(?:play|repeat|rep\.?)? ?(\d{1,2}) ?(?:x|×|times)\.?|(?:x|×) ?(\d{1,2})")
# As they are said here: a sign behind "D.S." is only its picture, "2nd Coda" is coda 2.
SPELLED = (
    (r"(d\.? ?s\.?|dal) *(?:𝄋|%|\$)", "dal segno"),
    ("𝄋", " segno "),
    ("𝄌|⊕|ø", " coda "),
    (r"\b(?:2nd|second|2\.|ii) (coda|segno)\b", r"\1 2"),
    (r"\b(coda|segno) ii\b", r"\1 2"),
)
NTH = re.compile(r"\b(2nd|second|2\.) coda")
VAMP = re.compile(r"(open )?vamp\b.*|(repeat|open) (un)?till? .*")
SECOND = re.compile(r".*\b(2|double)\b.*")  # of two signs of a kind


def read_sign(kind: Element, direction: Element, marks: dict) -> bool:
    """Take a segno, a coda or words of a direction; False if the words mean no sign."""
    sound = direction.find("sound")
    if kind.tag == "segno":
        named = sound.get("segno", "") if sound is not None else ""
        marks["segno_2" if named.endswith("2") else "segno"] = True
        if named:
            marks["segno_named"] = True
        return True
    leaving = sound is not None and sound.get("tocoda") is not None
    words = _words(direction)
    if kind.tag == "coda":
        said = [words] if sound is None else [words, *sound.attrib.values()]
        second = "_2" if any(SECOND.fullmatch(word) or word == "coda2" for word in said) else ""
        leaving |= TO_CODA.fullmatch(words) is not None
        marks[("to_coda" if leaving else "coda") + second] = True
        return True
    if _read_words(words, marks):
        jump = marks.get("jump")
        if jump and jump.until is Until.SECOND_CODA and NTH.search(_said(direction)):
            marks["nth_coda"] = True
        return True
    return False


def _said(direction: Element) -> str:
    texts = (words.text or "" for words in direction.iterfind("direction-type/words"))
    return " ".join(texts).lower()


def _words(direction: Element) -> str:
    """A direction's words, signs that stand among them and ordinals as they are said here."""
    said = _said(direction)
    for sign, word in SPELLED:
        said = re.sub(sign, word, said)
    return " ".join(said.split()).strip("() ")


def _read_words(words: str, marks: dict) -> bool:
    match = JUMP_WORDS.fullmatch(words)
    again = read_repeats(match[4] if match else words)
    if again is not None and not match:
        marks["with_repeats"] = again  # of the jump in the same bar
        return True
    if match and (again is not None or match[4].strip(" .()") == ""):
        to = _landing(match[1])
        until = AIMS[match[3]] if match[3] else Until.END
        marks["jump"] = Jump(to, until, again)
        if match[2] and not match[3]:
            marks["jump_ends"] = True
        return True
    times = Times.read_words(words)
    if times:
        marks["times"] = times
        return True
    played = PLAYED.fullmatch(words)
    if played:
        marks["play_times"] = int(played[1] or played[2])
        return True
    if VAMP.fullmatch(words):
        marks["vamp"] = True  # until complete_jumps finds its repeat
        return True
    swing = plain_swing(words)
    if swing:
        marks.setdefault("swing", swing)
        return True
    if words in ("fine", "fine."):
        marks["fine"] = True
        return True
    second = "_2" if SECOND.fullmatch(words) else ""
    if TO_CODA.fullmatch(words):
        marks[f"to_coda{second}"] = True
        return True
    if words in ("coda", "segno", "coda 2", "segno 2", "double coda"):
        marks[words.removeprefix("double ").split()[0] + second] = True
        return True
    return False


def _landing(words: str) -> JumpTo:
    letters = re.sub(r"[^a-z]", "", words)
    if "c" in letters:
        return JumpTo.START
    return JumpTo.SECOND_SEGNO if letters in ("dss", "dalsegnosegno") else JumpTo.SEGNO


def plain_swing(words: str) -> Swing | None:
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
        second = element.get("dalsegno", "").endswith("2")
        marks.setdefault("jump", Jump(JumpTo.SECOND_SEGNO if second else JumpTo.SEGNO))
    for attribute, mark in (("tocoda", "to_coda"), ("segno", "segno"), ("coda", "coda")):
        said = element.get(attribute)
        if said is not None:
            marks[f"{mark}_2" if said.endswith("2") else mark] = True
    if element.get("fine") is not None:
        marks["fine"] = True


def complete_jumps(measures: list[dict]) -> None:
    """A jump that does not say how far it leads goes by what the page has: a To Coda with
    its coda, else a Fine. ``after-jump`` on any repeat means repeats are taken again."""
    again = False
    for marks in measures:
        again |= marks.pop("after_jump", False)
    _second_segno(measures)
    _second_coda(measures)
    _vamps(measures)
    _played(measures)
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


def _vamps(measures: list[dict]) -> None:
    """The word stands where a vamp begins or ends; the vamp is the repeat that ends next. Where
    none does, the word stays as a cue."""
    said: dict | None = None
    for marks in measures:
        if marks.pop("vamp", False):
            said = said or marks
        if said is not None and marks.get("repeat_passes"):
            marks["vamp"], said = True, None
    if said is not None:
        cue = Mark(Fraction(0), MarkKind.CUE, "vamp")
        said.setdefault("marks", {}).setdefault((cue.at, cue.kind), cue)


def said_played(words: str) -> bool:
    return PLAYED.fullmatch(" ".join(words.lower().split()).strip("() ")) is not None


def _played(measures: list[dict]) -> None:
    """ "Play 4 times" stands where a repeat begins or ends, and says how often; elsewhere it
    stays a cue."""
    said: dict | None = None  # the marks of the measure where the words stand
    for marks in measures:
        counted = marks.pop("repeat_counted", False)
        if "play_times" in marks or (said and marks.get("repeat_start")):
            _as_cue(said)
            said = marks if "play_times" in marks else None
        if said and marks.get("repeat_passes"):
            if not counted and 2 <= said["play_times"] <= MOST_REPEAT_PASSES:
                marks["repeat_passes"] = said["play_times"]
                del said["play_times"], said["play_words"]
            else:
                _as_cue(said)
            said = None
    _as_cue(said)


def _as_cue(marks: dict | None) -> None:
    if marks:
        del marks["play_times"]
        cue = marks.pop("play_words")
        marks.setdefault("marks", {}).setdefault((cue.at, cue.kind), cue)


def _second_coda(measures: list[dict]) -> None:
    """Two codas that the file does not tell apart, and "al Coda 2" on a page with one."""
    wanted = [marks for marks in measures if marks.pop("nth_coda", False)]
    if not wanted or any("coda_2" in marks for marks in measures):
        return
    codas = [marks for marks in measures if "coda" in marks]
    if len(codas) > 1:
        del codas[1]["coda"]
        codas[1]["coda_2"] = True
        return
    for marks in wanted:
        marks["jump"] = replace(marks["jump"], until=Until.CODA)


def _second_segno(measures: list[dict]) -> None:
    """A page with D.S.S. has two segnos, which a file need not tell apart by name."""
    named = [marks.pop("segno_named", False) for marks in measures]
    jumps = [marks["jump"] for marks in measures if "jump" in marks]
    segnos = [marks for marks in measures if "segno" in marks]
    wanted = any(jump.to is JumpTo.SECOND_SEGNO for jump in jumps)
    if wanted and len(segnos) > 1 and not any(named):
        del segnos[1]["segno"]
        segnos[1]["segno_2"] = True


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
