"""Marks as they are typed: dynamics p 1 f 3, cresc 1-4, fermata 4, fill 3, slashes 1,
cue 2 band only."""

from quicktions import Fraction

from wren_ladder.drumming.chart import DYNAMICS, GRADUAL, SPANS, ChartError, Mark, MarkKind
from wren_ladder.drumming.chart.positions import END, Positions
from wren_ladder.drumming.notation.counts.tokens import Token, blame
from wren_ladder.drumming.numbers import read_ratio

MARK_LINES = {
    "dynamics": MarkKind.DYNAMIC,
    "cresc": MarkKind.CRESCENDO,
    "dim": MarkKind.DIMINUENDO,
    "rit": MarkKind.RIT,
    "accel": MarkKind.ACCEL,
    "fermata": MarkKind.FERMATA,
    "fill": MarkKind.FILL,
    "slashes": MarkKind.SLASHES,
    "cue": MarkKind.CUE,
}


def read_marks(head: Token, rest: list[Token], line: str, frame: Positions) -> list[Mark]:
    """The marks of one line; ChartError points at the word that is wrong."""
    kind = MARK_LINES[head.text.lower()]
    words = [word for word in rest if word.text.lower() not in (",", "on", "at", "beat")]
    if not words:
        raise blame(head, f"say where: {head.text} {_example(kind)}")
    if kind is MarkKind.CUE:
        at = _at(words[0], words[0].text, frame)
        said = line[words[0].column - 1 + len(words[0].text) :]
        return [_mark(words[0], at, kind, said)]
    if kind is MarkKind.DYNAMIC:
        return _dynamics(words, frame)
    if kind in SPANS:
        return _spans(words, kind, frame)
    return [_mark(word, _at(word, word.text, frame), kind) for word in words]


def _example(kind: MarkKind) -> str:
    if kind is MarkKind.DYNAMIC:
        return "p 1 f 3"
    return "1-4" if kind in SPANS else "3"


def _at(token: Token, text: str, frame: Positions) -> Fraction:
    try:
        return frame.read(text.lower())[0]
    except ChartError as error:
        raise blame(token, error.text) from error


def _mark(
    token: Token, at: Fraction, kind: MarkKind, text: str = "", length=Fraction(0)
) -> Mark:
    try:
        return Mark(at, kind, text, length)
    except ChartError as error:
        raise blame(token, error.text) from error


def _dynamics(words: list[Token], frame: Positions) -> list[Mark]:
    marks = []
    for name, place in zip(words[::2], [*words[1::2], None], strict=False):
        if name.text.lower() not in DYNAMICS:
            raise blame(name, f"'{name.text}' is no dynamic; use {', '.join(DYNAMICS)}")
        if place is None:
            raise blame(name, f"say where it stands: {name.text} 1")
        at = _at(place, place.text, frame)
        marks.append(_mark(name, at, MarkKind.DYNAMIC, name.text.lower()))
    return marks


def _spans(words: list[Token], kind: MarkKind, frame: Positions) -> list[Mark]:
    """ "1-4", "3-end", or over the bar line by its counts: "3 for 6"; a rit. may say where it
    leads: "1-end to 60"."""
    marks, place = [], 0
    while place < len(words):
        token = words[place]
        start, dash, end = token.text.lower().partition("-")
        at = _at(token, start, frame)
        if dash:
            stop = frame.length if end == END else _at(token, end, frame)
            length, place = stop - at, place + 1
        elif [word.text.lower() for word in words[place + 1 : place + 2]] == ["for"]:
            length, place = _counts(words, place, frame), place + 3
        else:
            raise blame(token, f"say how far: {start}-4, {start}-end, or {start} for 6")
        goal = ""
        if [word.text.lower() for word in words[place : place + 1]] == ["to"]:
            if kind not in GRADUAL or place + 1 == len(words):
                raise blame(words[place], "say which tempo a rit or an accel leads to: to 60")
            goal, place = words[place + 1].text, place + 2
        marks.append(_mark(token, at, kind, goal, length))
    return marks


def _counts(words: list[Token], place: int, frame: Positions) -> Fraction:
    counts = read_ratio(words[place + 2].text) if place + 2 < len(words) else None
    if counts is None:
        raise blame(words[place + 1], "say for how many counts: 3 for 6")
    return counts * frame.meter.count_length


def write_marks(marks: tuple[Mark, ...], frame: Positions) -> list[str]:
    """One line a kind, one a cue."""
    lines = []
    for name, kind in MARK_LINES.items():
        mine = [mark for mark in marks if mark.kind is kind]
        if kind is MarkKind.CUE:
            lines += [f"{name} {frame.say(mark.at)} {mark.text}" for mark in mine]
        elif mine:
            lines.append(f"{name} {' '.join(_say(mark, frame) for mark in mine)}")
    return lines


def _say(mark: Mark, frame: Positions) -> str:
    where = frame.say(mark.at)
    if mark.kind is MarkKind.DYNAMIC:
        return f"{mark.text} {where}"
    if mark.kind not in SPANS:
        return where
    return _span(mark, where, frame) + (f" to {mark.text}" if mark.text else "")


def _span(mark: Mark, where: str, frame: Positions) -> str:
    end = mark.at + mark.length
    if end == frame.length:
        return f"{where}-{END}"
    if end < frame.length:
        return f"{where}-{frame.say(end)}"
    return f"{where} for {mark.length / frame.meter.count_length}"
