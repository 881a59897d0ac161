"""Reads one drum's line: patterns, positions, and the words that change them."""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from difflib import get_close_matches
from fractions import Fraction

from wren_ladder.drumming.chart import ChartError, Drum, Hand, Hit, Roll, RollKind
from wren_ladder.drumming.chart.hit import ROLL_COUNTS
from wren_ladder.drumming.chart.positions import END, PATTERNS, Positions
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
    struck: dict[Fraction, Hit] = {}
    open_rolls: dict[Fraction, tuple[RollKind, int | None]] = {}
    group, waiting, pattern = Group(), None, None
    named: list[Fraction] = []  # what a "for" behind it makes longer or shorter
    added: list[Fraction] = []  # by the pattern being read
    for token in words:
        text = token.text.lower()
        if text == ",":
            group, pattern, named = Group(), None, []
        elif waiting == FOR:
            _last(struck, named, token, frame)
            named = []
        elif text == FOR:
            if not named:
                raise blame(token, "say which note lasts so long: 1 for 2")
        elif group.roll and _is_count(text) and waiting == "count":
            group.roll = (group.roll[0], int(text))
        elif _change(name, token, group):
            pattern = None
        elif text in PATTERNS:
            pattern, found = text, _located(token, frame.pattern, text)
            added = [at for at in found if at not in struck]
            named = list(found)
            for at in found:
                _strike(struck, at, name, group, token)
        elif pattern and "-" in text:
            wanted = _counts_wanted(pattern, token, frame)
            for at in added:
                if at not in wanted:
                    del struck[at]
            named = [at for at in named if at in struck]
        elif group.roll:
            _strike_roll(struck, open_rolls, name, group, token, frame)
        else:
            for at in _located(token, frame.read, text):
                _strike(struck, at, name, group, token)
                named.append(at)
        waiting = {"roll": "count", "singles": "count", FOR: FOR}.get(text)
    if waiting == FOR:
        raise blame(words[-1], "say for how many counts: 1 for 2")
    for at, (kind, strokes) in open_rolls.items():
        end = min((other for other in struck if other > at), default=frame.length)
        struck[at] = replace(struck[at], roll=Roll(kind, end - at, strokes))
    return tuple(struck.values())


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
        close = get_close_matches(text, words, n=1)
        hint = f"did you mean {close[0]}?" if close else f"use {', '.join(words)}"
        raise blame(token, f"'{token.text}' is no word of a {name} line; {hint}")
    else:
        return False
    return True


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
    """The part of a pattern that "8ths 1-3" asks for."""
    first, last = (read_whole(word, 1) for word in token.text.partition("-")[::2])
    if first is None or last is None or first > last:
        raise blame(token, f"say from which count to which: {pattern} 1-3")
    if last > frame.last_count:
        raise blame(token, f"the bar has {frame.last_count} counts")
    return set(frame.pattern_between(pattern, first, last))


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
