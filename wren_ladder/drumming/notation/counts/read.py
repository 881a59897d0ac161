"""Reads typed bars. Every error names the line, the word, and what would be right."""

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from quicktions import Fraction

from wren_ladder.drumming.chart import (
    Bar,
    Chart,
    ChartError,
    Jump,
    Mark,
    MarkKind,
    Meter,
    Place,
    Tempo,
    Times,
)
from wren_ladder.drumming.chart.bar import MOST_REPEAT_PASSES
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.chart.shorthand import fill_in, marks_copied
from wren_ladder.drumming.chart.swing import Swing
from wren_ladder.drumming.notation.counts.headings import (
    PREVIOUS,
    bar_heading,
    heading,
    likeness_line,
    rests_line,
    times_line,
)
from wren_ladder.drumming.notation.counts.hints import unknown_line
from wren_ladder.drumming.notation.counts.hits import read_hands, read_hits
from wren_ladder.drumming.notation.counts.lettered import is_lettered, read_lettered
from wren_ladder.drumming.notation.counts.marks import MARK_LINES, read_marks
from wren_ladder.drumming.notation.counts.speech import drum_lines
from wren_ladder.drumming.notation.counts.tokens import Token, blame, tokens, without_comment
from wren_ladder.drumming.notation.counts.words import LINES, SIGNS
from wren_ladder.drumming.notation.lengths import keep_lengths
from wren_ladder.drumming.numbers import read_ratio, read_whole

# Of the marks typed for "bars 5-8 as 1-4", some belong to every bar, some to the last, the
# others to the first.
EVERY_MARKS = ("endings", "times", "again", "crash_again", "slashes")
LAST_MARKS = ("repeat_passes", "vamp", "jump", "fine", "to_coda", "to_coda_2")
COMMON_TIME = Meter(4, 4)
# What "bars 5-8 rest" says of every one of those bars.
REPEAT_SIGNS = {"bar": 1, "1 bar": 1, "2 bars": 2}
WRITTEN: dict[str, dict[str, Any]] = {
    "rest": {},
    "repeat": {"again": 1},
    "slashes": {"slashes": True},
}
MOST_TIMES, MOST_RESTS = 64, 64  # bars that one word makes
NUMBERS = re.compile(r"([^\s-]+)(?:-(\d+))?")


@dataclass
class TypedBar:
    """A bar while its lines are being read; its hit lines wait for the metre."""

    number: str
    meter: Meter
    place: Place
    own_meter: bool = False
    beats: Token | None = None
    marks: dict = field(default_factory=dict)
    lines: list[tuple[Token, list[Token]]] = field(default_factory=list)
    hands: list[Token] = field(default_factory=list)
    written: list[tuple[Token, list[Token], str]] = field(default_factory=list)  # marks
    likeness: Bar | None = None  # the bar this one starts from: "bar 5 as 1"


def read_chart(text: str, title: str = "", tempo: Tempo | None = None) -> Chart:
    """A chart from typed text: header lines, then bars.

    The header may hold ``title``, ``meter``, ``tempo`` and ``swing``; the arguments are used
    where it does not. Raises ChartError with the place of the word that is wrong.
    """
    header, blocks = _collect(text)
    by_number: dict[str, Bar] = {}
    for block in blocks:
        block.make_bars(by_number)
    bars = list(by_number.values())
    start = header.get("tempo") or tempo
    if bars and start and not bars[0].tempo:
        bars[0] = replace(bars[0], tempo=start)
    if bars and "swing" in header and not bars[0].swing:
        bars[0] = replace(bars[0], swing=header["swing"])
    chart = Chart(header.get("title", title), tuple(bars))
    for typed, kept in zip(bars, chart.bars, strict=True):
        # What a sign or slashes stand for was not typed here, and is untied where it ends.
        carried = typed.again or any(mark.kind is MarkKind.SLASHES for mark in typed.marks)
        if typed != kept and not carried:
            text = "the tied roll must go on in the next bar: begin that with a roll too"
            raise ChartError(text, bar=typed.number)
    return chart


def read_bar(text: str, number: str, meter: Meter) -> Bar:
    """One bar from its lines alone, without a ``bar`` line."""
    draft = TypedBar(number, meter, Place(1, 1, number))
    for line, words in _lines(text):
        if bar_heading(words):
            raise blame(words[0], "only this bar is being typed; leave 'bar' out")
        _read_line(draft, line, words)
    return _finish(draft)


def _lines(text: str) -> Iterable[tuple[str, list[Token]]]:
    for index, typed in enumerate(text.splitlines(), start=1):
        line = without_comment(typed)
        words = tokens(line, index)
        if words:
            yield line, words


def _collect(text: str) -> tuple[dict, list["_Block"]]:
    """The header's values, and a block for every ``bar`` line."""
    header: dict = {}
    blocks: list[_Block] = []
    meter, block = COMMON_TIME, None
    known: dict[str, Meter] = {}
    following = 1
    for line, words in _lines(text):
        begun = bar_heading(words)
        if begun:
            block = _open_block(begun[0], meter, known, following)
            blocks.append(block)
            following = block.following
            meter = block.draft.meter
            likeness = likeness_line(begun[1]) if begun[1] else None
            if likeness:
                block.make_like(likeness, known)
                meter = block.draft.meter
            elif begun[1]:
                _read_line(block.draft, line[begun[1][0].column - 1 :], begun[1])
            continue
        likeness = likeness_line(words) if block else None
        if block and likeness:
            block.make_like(likeness, known)
            meter = block.draft.meter
            continue
        again, rests = times_line(words) if block else None, rests_line(words)
        if block and again is not None:
            block = _again_block(words[0], again, block, known)
        elif rests is not None:
            block = _rests_block(words[0], rests, following, meter, known)
        if block and (again is not None or rests is not None):
            blocks.append(block)
            following, meter = block.following, block.draft.meter
            continue
        words = heading(words)
        name = words[0].text.lower()
        if block is None and name == "title":
            header["title"] = _free(line)
        elif block is None and name == "tempo":
            header["tempo"] = _tempo(words)
        elif block is None and name == "meter":
            meter = _meter(words)
        elif block is None and name in ("swing", "straight"):
            header["swing"] = _swing(words)
        else:
            if block is None:
                block = _Block(TypedBar("1", meter, words[0].place), [("1", "")])
                blocks.append(block)
                known["1"], following = meter, 2
            _read_line(block.draft, line, words)
            meter = block.draft.meter
            for number, _ in block.pairs:
                known[number] = meter
    return header, blocks


@dataclass
class _Block:
    """The bars that one ``bar`` line announces: (number, number it is like or "")."""

    draft: TypedBar
    pairs: list[tuple[str, str]]
    following: int = 2

    def make_like(self, token: Token, known: dict[str, Meter]) -> None:
        """ChartError where the bars are like others already, or that bar is not there."""
        if any(like for _, like in self.pairs):
            raise blame(token, "this bar is like another one already")
        if token.text not in known or token.text in dict(self.pairs):
            raise blame(token, f"bar {token.text} has not been typed yet")
        self.pairs = [(number, token.text) for number, _ in self.pairs]
        if not self.draft.own_meter:
            self.draft.meter = known[token.text]

    def make_bars(self, by_number: dict[str, Bar]) -> None:
        """Add the bars to those typed before them, which they may be like."""
        for index, (number, like) in enumerate(self.pairs):
            first, last = index == 0, index == len(self.pairs) - 1
            marks = {
                name: value
                for name, value in self.draft.marks.items()
                if name in EVERY_MARKS or (last if name in LAST_MARKS else first)
            }
            likeness = by_number.get(like)
            if like and likeness is None:
                raise ChartError(
                    f"bar {like} has not been typed yet, so bar {number} can't be like it",
                    bar=number,
                    place=self.draft.place,
                )
            draft = replace(self.draft, number=number, marks=marks, likeness=likeness)
            if likeness and not self.draft.own_meter:
                draft.meter = likeness.meter
            by_number[number] = _finish(draft, tuple(by_number.values()))


def _open_block(words, meter, known, following) -> _Block:
    """Read "bar", "bar 5", "bar 5 as 1", "bars 5-8 as 1-4"."""
    head, rest = words[0], [word for word in words[1:] if word.text != ":"]
    if rest and rest[-1].text in ("as", PREVIOUS):  # "the same", "same as before"
        return _like_the_last(rest, meter, known)
    if len(rest) > 1 and (times := times_line(rest[1:])) is not None:
        return _times_block(rest, times, meter, known)
    if len(rest) == 2:
        return _written_block(rest, meter, known)
    if not rest:
        return _block(head, [(str(following), "")], meter, known)
    if len(rest) not in (1, 3) or (len(rest) == 3 and rest[1].text.lower() != "as"):
        raise blame(rest[1] if len(rest) > 1 else rest[0], "write: bar 5, or bar 5 as 1")
    numbers = _numbers(rest[0])
    if len(rest) == 1:
        return _block(rest[0], [(number, "") for number in numbers], meter, known)
    likes = _numbers(rest[2])
    for like in likes:
        if like not in known and like not in numbers:
            raise blame(rest[2], f"bar {like} has not been typed yet")
    if len(numbers) % len(likes):
        raise blame(
            rest[2],
            f"{len(numbers)} bars cannot be filled by {len(likes)}: they are gone through in "
            "turn, so use 1, or a number that goes into it: bars 5-8 as 1-2",
        )
    pairs = [(number, likes[i % len(likes)]) for i, number in enumerate(numbers)]
    return _block(rest[0], pairs, known.get(pairs[-1][1], meter), known)


def _like_the_last(rest: list[Token], meter, known) -> _Block:
    last = next(reversed(known), "")
    if not last:
        raise blame(rest[-1], "no bar has been typed before it")
    pairs = [(number, last) for number in _numbers(rest[0])]
    return _block(rest[0], pairs, known[last], known)


def _times_block(rest: list[Token], times: int, meter, known) -> _Block:
    """ "bar 1 x4": the bar, and as many like it behind it as make four."""
    numbers = _numbers(rest[0])
    first = read_whole(numbers[0])
    if len(numbers) > 1 or first is None or not 1 <= times <= MOST_TIMES:
        raise blame(rest[1], f"say which bars: bars 5-8 as 1, up to {MOST_TIMES}")
    pairs = [(str(first + n), numbers[0] if n else "") for n in range(times)]
    return _block(rest[0], pairs, meter, known)


def _again_block(token: Token, times: int, block: _Block, known) -> _Block:
    """ "x4" on a line of its own: the bar above, four times in all."""
    if len(block.pairs) > 1 or not 2 <= times <= MOST_TIMES:
        raise blame(token, f"say which bars: bars 5-8 as 1, up to {MOST_TIMES}")
    number = block.pairs[-1][0]
    pairs = [(str(block.following + n), number) for n in range(times - 1)]
    return _block(token, pairs, known[number], known)


def _rests_block(token: Token, many: int, following: int, meter, known) -> _Block:
    if not 1 <= many <= MOST_RESTS:
        raise blame(token, f"1 to {MOST_RESTS} bars may rest at once")
    pairs = [(str(following + n), "") for n in range(many)]
    return _block(token, pairs, meter, known)


def _written_block(rest: list[Token], meter, known) -> _Block:
    """Read "bars 5-8 rest", "bar 2 repeat", "bars 9-12 slashes"."""
    written = rest[1].text.lower()
    if written not in WRITTEN:
        raise blame(rest[1], f"write: {rest[0].text} as 1, or {rest[0].text} rest")
    pairs = [(number, "") for number in _numbers(rest[0])]
    block = _block(rest[0], pairs, meter, known)
    block.draft.marks |= WRITTEN[written]
    return block


def _block(token: Token, pairs, meter, known) -> _Block:
    for number, _ in pairs:
        if number in known:
            raise blame(token, f"bar {number} is there already", bar=number)
        known[number] = meter
    last = pairs[-1][0]
    following = len(known) + 1 if (number := read_whole(last)) is None else number + 1
    return _Block(TypedBar(pairs[0][0], meter, token.place), pairs, following)


def _numbers(token: Token) -> list[str]:
    if "," in token.text:
        parts = token.text.split(",")
        return [number for part in parts for number in _numbers(token.read_as(part))]
    match = NUMBERS.fullmatch(token.text)
    if not match:
        raise blame(token, "write one bar number, or two with a dash: 5-8")
    if not any(letter.isdigit() for letter in match[1]):
        raise blame(token, "write a bar's number in figures: bar 1")
    if match[2] is None:
        return [match[1]]
    first, last = read_whole(match[1]), read_whole(match[2])
    if first is None or last is None or first >= last:
        raise blame(token, "the bar numbers rise: write 5-8")
    if last - first >= 1000:
        raise blame(token, "that is more than a thousand bars")
    return [str(number) for number in range(first, last + 1)]


def _read_line(draft: TypedBar, line: str, words: list[Token]) -> None:
    words = heading(words)
    head, *rest = words
    name = head.text.lower()
    if name == "section":
        draft.marks["section"] = _section(head, line)
    elif name == "meter":
        draft.meter = _meter(words)
        draft.own_meter = True
    elif name == "tempo":
        draft.marks["tempo"] = _tempo(words)
    elif name in ("swing", "straight"):
        draft.marks["swing"] = _swing(words)
    elif name == "beats":
        draft.beats = rest[0] if rest else head
    elif name == "repeat":
        _read_repeat(draft, head, rest)
    elif name in SIGNS:
        draft.marks[name + _which(head, rest)] = True
    elif name == "to":
        draft.marks["to_coda" + _to_coda(head, rest)] = True
    elif name == "ending":
        draft.marks["endings"] = _endings(head, rest)
    elif name == "time":
        draft.marks["times"] = _times(head, rest)
    elif name == "jump":
        draft.marks["jump"] = _jump(head, rest)
    elif name in MARK_LINES:
        draft.written.append((head, rest, line))
    elif name == "note":
        draft.marks["note"] = _free(line)
    elif name == "hands":
        draft.hands = rest
    else:
        _read_drums(draft, words)


def _section(head: Token, line: str) -> str:
    said = " ".join(_free(line).split())
    if not said:
        raise blame(head, "name the section: section A Verse")
    return said[:60]


def _to_coda(head: Token, rest: list[Token]) -> str:
    if [word.text.lower() for word in rest[:1]] != ["coda"]:
        raise blame(head, "write: to coda")
    return _which(rest[0], rest[1:])


def _read_drums(draft: TypedBar, words: list[Token]) -> None:
    rows = drum_lines(words)
    if rows is None:
        raise blame(words[0], unknown_line(words))
    for head, *rest in rows:
        there = next((said for name, said in draft.lines if name.text == head.text), None)
        if there is None:
            draft.lines.append((head, rest))
        else:  # a second line of a drum adds to the first
            there += [head.read_as(","), *rest]


def _which(head: Token, rest: list[Token]) -> str:
    """The first or the second sign of its kind: "segno", "segno 2"; there is one Fine."""
    said = [word.text for word in rest]
    if said in ([], ["1"]):
        return ""
    if said == ["2"] and head.text.lower() != "fine":
        return "_2"
    name = head.text.lower()
    right = name if name == "fine" else f"{name}, or {name} 2"
    raise blame(rest[0], f"write: {right}")


def _meter(words: list[Token]) -> Meter:
    try:
        return Meter.parse("".join(word.text for word in words[1:]))
    except ChartError as error:
        raise blame(words[1] if len(words) > 1 else words[0], error.text) from error


def _free(line: str) -> str:
    """What stands behind a line's name, in the words of whoever typed it."""
    words = re.split(r"[\s:]+", line.strip(), maxsplit=1)
    return words[1].strip() if len(words) > 1 else ""


def _tempo(words: list[Token]) -> Tempo:
    try:
        return Tempo.parse(" ".join(word.text for word in words[1:]))
    except ChartError as error:
        raise blame(words[1] if len(words) > 1 else words[0], error.text) from error


def _swing(words: list[Token]) -> Swing:
    try:
        return Swing.parse(" ".join(word.text for word in words))
    except ChartError as error:
        raise blame(words[-1], error.text) from error


def _read_repeat(draft: TypedBar, head: Token, rest: list[Token]) -> None:
    said = [word.text.lower() for word in rest]
    if said == ["start"]:
        draft.marks["repeat_start"] = True
    elif said[:1] == ["end"] and len(said) <= 3 and said[2:] in ([], ["vamp"]):
        draft.marks["vamp"] = said[2:] == ["vamp"]
        times = read_whole(said[1], 2, MOST_REPEAT_PASSES) if len(said) > 1 else 2
        if times is None:
            raise blame(rest[1], "say how often it is played, 2 to 16: repeat end 3")
        draft.marks["repeat_passes"] = times
    elif said[:1] == ["bar"] or said[1:2] == ["bars"]:
        _read_sign(draft, head, said)
    else:
        text = "write: repeat start, repeat end 2, repeat end 4 vamp, repeat bar, repeat 2 bars"
        raise blame(rest[0] if rest else head, text)


def _read_sign(draft: TypedBar, head: Token, said: list[str]) -> None:
    """ "repeat bar", "repeat 2 bars", each perhaps "with crash"."""
    words = " ".join(said).removesuffix(" with crash")
    if words not in REPEAT_SIGNS:
        raise blame(head, "write: repeat bar, or repeat 2 bars, with crash if it is repeated")
    draft.marks["again"] = REPEAT_SIGNS[words]
    draft.marks["crash_again"] = said[-1] == "crash"


def _endings(head: Token, rest: list[Token]) -> tuple[int, ...]:
    words = [word for word in rest if word.text.lower() not in (",", "and", "&")]
    if not words:
        raise blame(head, "say for which passes: ending 1, or ending 1 2")
    passes: list[int] = []
    for word in words:
        first, dash, last = word.text.partition("-")
        begin = read_whole(first.rstrip("."), 1, MOST_REPEAT_PASSES)
        end = read_whole(last.rstrip("."), 1, MOST_REPEAT_PASSES) if dash else begin
        if begin is None or end is None or end < begin:
            raise blame(word, f"an ending is for passes 1 to {MOST_REPEAT_PASSES}: ending 1 2")
        passes += range(begin, end + 1)
    return tuple(passes)


def _times(head: Token, rest: list[Token]) -> Times:
    try:
        return Times.parse(" ".join(word.text for word in rest))
    except ChartError as error:
        raise blame(rest[0] if rest else head, error.text) from None


def _jump(head: Token, rest: list[Token]) -> Jump:
    try:
        return Jump.parse(" ".join(word.text for word in rest))
    except ValueError:
        text = "write: jump D.C. al Fine, or jump D.S. al Coda, with repeats if it says so"
        raise blame(rest[0] if rest else head, text) from None


def _finish(draft: TypedBar, before: Sequence[Bar] | None = None) -> Bar:
    try:
        bar = _make_bar(draft, before or ())
        return bar if before is None else fill_in(bar, before)
    except ChartError as error:
        named = error.in_bar(draft.number)
        named.place = named.place or draft.place
        raise named from error


def _make_bar(draft: TypedBar, before: Sequence[Bar]) -> Bar:
    likeness = draft.likeness
    if draft.marks.get("again") and (draft.lines or likeness):
        text = "the sign repeats what is before it; take the sign away, or the notes"
        raise ChartError(text)
    length = likeness.length if likeness and not draft.own_meter else draft.meter.length
    if draft.beats:
        length = _length(draft.beats, draft.meter)
    empty = Bar(draft.number, draft.meter, (), length)
    frame = Positions.of(empty)
    hits = likeness.hits if likeness else ()
    for head, words in draft.lines:
        surface = LINES[head.text].surface
        if not (words or likeness):
            raise blame(head, f"say where: {head.text} 1 3")
        hits = (*(hit for hit in hits if hit.drum.surface != surface),)
        hits += read_hits(head.text, words, frame)
    hands = draft.hands
    if is_lettered(hands) and all(hit.drum.by_foot for hit in hits):
        hits, hands = (*hits, *read_lettered(hands, frame).hits()), []
    marks = list(marks_copied(likeness, before)) if likeness else []
    kinds = {MARK_LINES[head.text.lower()] for head, _, _ in draft.written}
    marks = [mark for mark in marks if mark.kind not in kinds]
    for head, words, line in draft.written:
        marks += read_marks(head, words, line, frame)
    rest = dict(draft.marks)
    if rest.pop("slashes", False):
        marks.append(Mark(Fraction(0), MarkKind.SLASHES))
    bar = replace(empty, hits=hits, marks=tuple(marks), **rest)
    kept = keep_lengths(bar.hits, bar)
    bar = bar if kept == bar.hits else replace(bar, hits=kept)
    return replace(bar, hits=read_hands(bar.hits, hands)) if hands else bar


def _length(token: Token, meter: Meter) -> Fraction:
    counts = read_ratio(token.text)
    if counts is None or not 0 < counts <= meter.beats:
        raise blame(token, f"say how many counts the bar has, up to {meter.beats}: beats 1")
    return counts * meter.count_length
