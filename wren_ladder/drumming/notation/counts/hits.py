"""Reads one drum's line: patterns, positions, and the words that change them."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from itertools import takewhile

from quicktions import Fraction

from wren_ladder.drumming.chart import ChartError, Drum, Hand, Hit, Roll, RollKind, Touch
from wren_ladder.drumming.chart.hit import ROLL_COUNTS
from wren_ladder.drumming.chart.positions import END, PATTERNS, POSITION, Positions
from wren_ladder.drumming.notation.counts.said_places import COUNT
from wren_ladder.drumming.notation.counts.slips import SAID_OF_A_DRUM, near
from wren_ladder.drumming.notation.counts.tokens import Token, blame
from wren_ladder.drumming.notation.counts.words import (
    GRACES,
    LINES,
    ROLL_WORDS,
    TOUCHES,
    VARIANTS,
)
from wren_ladder.drumming.numbers import read_ratio, read_whole

NO_HAND = "-"
PART = re.compile(r"\d{1,2}(-.*)?|\d{1,2}[e&atl]-.*")  # of a pattern: "4", "1-3", "4&-end"
ON_THE_WAY = re.compile(r"\d{1,2}[e&atl]")  # a place that is no count
NO = "no"  # before what is not struck: 8ths, no 1
ROW = re.compile(r"[xog.-]{4,}", re.IGNORECASE)
STRUCK = set("xog")
ROW_STEPS = (Fraction(1, 2), Fraction(1, 4), Fraction(1, 3), Fraction(1, 6), Fraction(1, 8))
SIGNED = {">": Touch.ACCENT, "^": Touch.STRONG}
FOR = "for"  # how many counts a note is written: 1 for 2
TIED = "tied"  # a roll that goes on over the bar line: buzz 3-tied
ROLL_KINDS = {"roll": RollKind.OPEN, "buzz": RollKind.BUZZ, "singles": RollKind.SINGLE}


@dataclass
class Group:
    """What the words since the last comma change about the positions that follow."""

    changes: dict = field(default_factory=dict)
    roll: tuple[RollKind, int | None] | None = None


def read_hits(name: str, words: list[Token], frame: Positions) -> tuple[Hit, ...]:
    """The hits of a line such as ``hat 8ths, open 4&``.

    A position that is there already is changed by the words before it; any other is
    added. A roll without an end lasts to the line's next hit, else to the bar line.
    """
    line = _Line(name, frame)
    group: list[Token] = []
    for token in words:
        if token.text == ",":
            line.read_group(group)
            group = []
        else:
            group.append(token)
    line.read_group(group)
    return line.hits()


def _check_places(last: Token, group: Group, left_out: bool) -> None:
    """A group that names no place says nothing more than its drum."""
    if left_out:
        raise blame(last, "say what is not struck: no 4")
    if group.roll or group.changes:
        right = "roll 7 3-4" if group.roll else f"{last.text} 2"
        raise blame(last, f"say where: {right}")


class _Line:
    """One drum's line as far as it has been read."""

    def __init__(self, name: str, frame: Positions) -> None:
        self.name, self.frame = name, frame
        self.struck: dict[Fraction, Hit] = {}
        self.whole = ""  # the pattern that is struck over the whole bar
        self.open_rolls: dict[Fraction, tuple[RollKind, int | None]] = {}

    def hits(self) -> tuple[Hit, ...]:
        for at, (kind, strokes) in self.open_rolls.items():
            others = (other for other in self.struck if other > at)
            end = min(others, default=self.frame.length)
            self.struck[at] = replace(self.struck[at], roll=Roll(kind, end - at, strokes))
        return tuple(self.struck.values())

    def read_group(self, words: list[Token]) -> None:  # noqa: C901, a branch for each word
        """What stands between two commas."""
        words = _trailing_first(self.name, words)
        group, waiting, used = Group(), None, False
        named: list[Fraction] = []  # what a "for" behind it makes longer or shorter
        bracket: Token | None = None
        left_out = False  # does the group say what is not struck: "no 1"?
        place = 0
        while place < len(words):
            token = words[place]
            text = token.text.lower()
            place += 1
            if text in ("(", ")"):
                bracket = _bracket(token, bracket)
            elif waiting == FOR:
                _last(self.struck, named, token, self.frame)
                named = []
            elif text == FOR:
                if not named:
                    raise blame(token, "say which note lasts so long: 1 for 2")
            elif group.roll and waiting == "count" and _is_count(text):
                group.roll = (group.roll[0], int(text))
            elif group.roll and waiting == "count" and _too_many(text, self.frame):
                counts = ", ".join(map(str, ROLL_COUNTS))
                raise blame(token, f"a roll has {counts} strokes: roll 7 3-4")
            elif text in PATTERNS:
                behind = self._counts_behind(text, words[place:])
                place += len(behind)
                if not behind:
                    self._only_one_whole(token, group)
                named, used = self._strike_pattern(token, behind, group), True
            elif text == NO:
                left_out = True
            elif left_out:
                used = True
                self._leave_out(token)
            elif ROW.fullmatch(token.text) and STRUCK & set(text):
                rows = [token, *takewhile(_is_row, words[place:])]
                place += len(rows) - 1
                self._strike_row(rows)
                used = True
            elif _change(self.name, token, group):
                pass
            elif group.roll:
                used = True
                _strike_roll(self.struck, self.open_rolls, self.name, group, token, self.frame)
            else:
                used = True
                plain, touched = _touched(token, group, bracket)
                for at in _located(plain, self.frame.read, plain.text.lower()):
                    _strike(self.struck, at, self.name, touched, token)
                    named.append(at)
            waiting = {"roll": "count", "singles": "count", FOR: FOR}.get(text)
        if waiting == FOR:
            raise blame(words[-1], "say for how many counts: 1 for 2")
        if words and not used:
            _check_places(words[-1], group, left_out)
        if bracket:
            raise blame(bracket, "the bracket of a ghost note is not closed: (2a)")

    def _leave_out(self, token: Token) -> None:
        for at in _located(token, self._places, token.text.lower()):
            if self.struck.pop(at, None) is None:
                raise blame(token, f"nothing is struck on {token.text} that is left out")

    def _strike_pattern(
        self, token: Token, counts: Sequence[Token], group: Group
    ) -> list[Fraction]:
        """The whole of it, or only in the counts named behind it: "8ths 1-3", "16ths 4"."""
        name = token.text.lower()
        found = _located(token, self.frame.pattern, name)
        if counts:
            wanted = set().union(*(_counts_wanted(name, one, self.frame) for one in counts))
            found = [at for at in found if at in wanted]
            if not found:
                raise blame(counts[0], f"no {name} there")
        for at in found:
            _strike(self.struck, at, self.name, group, token)
        return list(found)

    def _counts_behind(self, name: str, words: Sequence[Token]) -> list[Token]:
        """The counts, or from one to another, that stand right behind a pattern; a place on
        its grid is where it begins."""
        counts = list(takewhile(lambda token: PART.fullmatch(token.text), words))
        if counts or not words or not ON_THE_WAY.fullmatch(words[0].text.lower()):
            return counts
        if self._places(words[0].text.lower())[0] not in self.frame.pattern(name):
            return []  # another stroke beside the pattern
        more = words[1:2] and POSITION.fullmatch(words[1].text.lower())
        if more and self._places(words[1].text.lower())[0] in self.frame.pattern(name):
            first, second = words[0].text, words[1].text
            text = f"from where to where? write {name} {first}-{second}, or {name}, {first}"
            raise blame(words[1], text)
        return [words[0]]

    def _places(self, text: str) -> Sequence[Fraction]:
        if text in PATTERNS:
            return self.frame.pattern(text)
        return self.frame.read(text)

    def _only_one_whole(self, token: Token, group: Group) -> None:
        """Two patterns over the whole bar are one too many."""
        if group.changes or group.roll:
            return
        if self.whole and self.whole != token.text.lower():
            both = f"{self.whole} or {token.text}"
            raise blame(token, f"{both}? of two, say where each is: {token.text} 4")
        self.whole = token.text.lower()

    def _strike_row(self, rows: Sequence[Token]) -> None:
        """ "x-x-x-xo": a mark for every part of the bar, struck or not."""
        marks = "".join(row.text.lower() for row in rows)
        try:
            step = self.frame.even_step(len(marks), "marks", ROW_STEPS)
        except ChartError as error:
            raise blame(rows[0], error.text) from error
        for number, mark in enumerate(marks):
            changes: dict = {"touch": Touch.GHOST} if mark == "g" else {}
            if mark == "o" and (self.name, "open") in VARIANTS:
                changes = {"drum": VARIANTS[self.name, "open"]}
            if mark in STRUCK:
                _strike(self.struck, number * step, self.name, Group(changes), rows[0])


def _is_row(token: Token) -> bool:
    return bool(ROW.fullmatch(token.text))


def _bracket(token: Token, opened: Token | None) -> Token | None:
    """Brackets hold ghost notes."""
    if (token.text == "(") == bool(opened):
        raise blame(token, "brackets hold ghost notes: (2a)")
    return token if token.text == "(" else None


def _touched(token: Token, group: Group, bracket: Token | None) -> tuple[Token, Group]:
    """A place with its own sign: (2a) a ghost, >2 an accent, ^2 a strong one."""
    sign = token.text[:1]
    if sign in SIGNED and len(token.text) > 1:
        touch = SIGNED[sign]
        return token.read_as(token.text[1:]), Group({**group.changes, "touch": touch})
    if bracket:
        return token, Group({**group.changes, "touch": Touch.GHOST})
    return token, group


def _trailing_first(name: str, words: list[Token]) -> list[Token]:
    """ "2 4 accent" is "accent 2 4": a word behind all places of its group changes them."""
    if len(words) < 2 or not _changes(name, words[-1]):
        return words
    if any(_changes(name, word) for word in words[:-1]):
        text = f"say '{words[-1].text}' before the places it changes, behind a comma"
        raise blame(words[-1], text)
    return [words[-1], *words[:-1]]


def _changes(name: str, token: Token) -> bool:
    text = token.text.lower()
    return text in TOUCHES or text in GRACES or (name, text) in VARIANTS


def _last(struck: dict, named: list[Fraction], token: Token, frame: Positions) -> None:
    """Write the named notes as long as the counts say."""
    counts = read_ratio(token.text)
    if not counts or counts < 0:
        raise blame(token, "say for how many counts: 1 for 2, or 2& for 1/2")
    length = counts * frame.meter.count_length
    for at in named:
        if at + length > frame.length:
            text = f"{frame.say(at)} for {token.text} runs past the bar line"
            raise blame(token, f"{text}; write it up to there")
        try:
            struck[at] = replace(struck[at], written=length)
        except ChartError as error:
            raise blame(token, error.text) from error


def _too_many(text: str, frame: Positions) -> bool:
    """Is it no place in the bar, so that strokes are meant?"""
    return (read_whole(text) or 0) > frame.last_count


def _is_count(text: str) -> bool:
    return read_whole(text) in ROLL_COUNTS


def _change(name: str, token: Token, group: Group) -> bool:
    """Take a word that changes what follows; False if it is no such word."""
    text = token.text.lower()
    if text in TOUCHES:
        group.changes["touch"] = TOUCHES[text]
    elif text in GRACES:
        group.changes["grace"] = GRACES[text]
    elif (name, text) in VARIANTS:
        group.changes["drum"] = VARIANTS[name, text]
    elif text in ROLL_KINDS:
        group.roll = (ROLL_KINDS[text], None)
    elif any(text == word for _, word in VARIANTS):
        right = next(line for line, word in VARIANTS if word == text)
        raise blame(token, f"'{text}' belongs on the {right} line, not on {name}")
    elif text.isalpha() and text not in PATTERNS:
        words = [*PATTERNS, *TOUCHES, *GRACES, *ROLL_WORDS, FOR]
        words += [word for line, word in VARIANTS if line == name]
        raise blame(token, _unknown_word(token.place.word, name, near(text, words), words))
    else:
        return False
    return True


def _unknown_word(typed: str, name: str, meant: str, words: Sequence[str]) -> str:
    hint = SAID_OF_A_DRUM.get(typed.lower(), "")
    if not hint:
        hint = f"did you mean {meant}?" if meant else f"write {name} 1 3, or {name} 8ths"
    return f"'{typed}' is not known on a {name} line; {hint}"


def _located(token: Token, read, text: str) -> Sequence[Fraction]:
    try:
        return read(text)
    except ChartError as error:
        raise blame(token, error.text) from error


def _strike(struck: dict, at: Fraction, name: str, group: Group, token: Token) -> None:
    hit = struck.get(at) or Hit(at, LINES[name])
    try:
        struck[at] = replace(hit, **group.changes)
    except ChartError as error:
        raise blame(token, error.text) from error


def _counts_wanted(pattern: str, token: Token, frame: Positions) -> set[Fraction]:
    """The part of a pattern that "8ths 1-3" asks for, or "16ths 4"."""
    begins, dash, ends = token.text.lower().partition("-")
    if ON_THE_WAY.fullmatch(begins) or ends == END or ON_THE_WAY.fullmatch(ends):
        return _from_to(pattern, token, frame, begins, ends or END)
    first, last = read_whole(begins, 1), read_whole(ends if dash else begins, 1)
    if first is None or last is None or first > last:
        raise blame(token, f"say from which count to which: {pattern} 1-3")
    if last > frame.last_count:
        raise blame(token, f"the bar has {frame.last_count} counts")
    return set(frame.pattern_between(pattern, first, last))


def _from_to(
    pattern: str, token: Token, frame: Positions, begins: str, ends: str
) -> set[Fraction]:
    """ "4&-end", "1-3&": from a place to a place, which is struck too."""
    start = _located(token, frame.read, begins)[0]
    found = frame.pattern_from(pattern, start)
    if ends == END:
        return set(found)
    if COUNT.fullmatch(ends):
        return {at for at in found if frame.split(at)[0] <= int(ends)}
    stop = _located(token, frame.read, ends)[0]
    return {at for at in found if at <= stop}


def _strike_roll(struck, open_rolls, name, group, token, frame) -> None:
    start, dash, end = token.text.lower().partition("-")
    starts = _located(token, frame.read, start)
    for at in starts:
        _strike(struck, at, name, group, token)
        if not dash:
            open_rolls[at] = group.roll
            continue
        tied = end == TIED
        stop = _located(token, lambda word: [frame.read_end(word)], END if tied else end)[0]
        if stop <= at:
            raise blame(token, "a roll ends after it starts: roll 7 3-4, or 3-end")
        try:
            roll = Roll(group.roll[0], stop - at, group.roll[1], tied)
            struck[at] = replace(struck[at], roll=roll)
        except ChartError as error:
            raise blame(token, error.text) from error


def read_hands(hits: tuple[Hit, ...], words: list[Token]) -> tuple[Hit, ...]:
    """Give the hands' hits, in time order and top of the page first, their R, L or -."""
    by_hand = [hit for hit in hits if not hit.drum.by_foot]
    letters = [
        Token(letter, word.line, word.column + index)
        for word in words
        for index, letter in enumerate(word.text.upper())
        if letter != ","
    ]
    for token in letters:
        if token.text not in (Hand.RIGHT, Hand.LEFT, NO_HAND):
            raise blame(token, f"'{token.text}' is no hand; write R, L, or - to leave it open")
    if len(letters) != len(by_hand):
        raise blame(
            words[-1],
            f"{len(letters)} hands are named for the {len(by_hand)} notes that hands "
            "play in this bar; write - for one left open",
        )
    hands = [None if token.text == NO_HAND else Hand(token.text) for token in letters]
    stuck = [replace(hit, hand=hand) for hit, hand in zip(by_hand, hands, strict=True)]
    return (*stuck, *(hit for hit in hits if hit.drum.by_foot))


def plain(hit: Hit) -> bool:
    """True of a hit that its line gives without any word."""
    same = Hit(hit.at, Drum(hit.drum), hand=hit.hand)
    return hit == same and hit.drum in LINES.values()
