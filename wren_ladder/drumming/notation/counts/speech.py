"""What teachers say, put into the words of typed bars: "bass drum on 1 and 3" is "kick 1 3".

Here the drums that a line names; what stands behind them is read by ``said_places``. Only what
can be meant in one way is taken; the rest is left to be refused by the reader, which says what
would be right. Common practice, no source.
"""

import re
from collections.abc import Sequence

from wren_ladder.drumming.notation.counts.said_places import (
    JOINING,
    STROKE_WORDS,
    TWO_WORDS,
    places,
)
from wren_ladder.drumming.notation.counts.tokens import Token, blame
from wren_ladder.drumming.notation.counts.words import ALIASES, LINES, VARIANTS

# How a line may begin: the words, the line, and the word that then holds for all of it.
HEADS = {
    "hi hats": "hat", "high hats": "hat",
    "hi hat": "hat", "high hat": "hat", "hi-hat": "hat", "high-hat": "hat", "hihat": "hat",
    "hh": "hat", "hats": "hat", "hi-hats": "hat", "closed hat": "hat", "closed hi-hat": "hat",
    "open hat": "hat open", "open hi-hat": "hat open", "open hihat": "hat open",
    "bass drum": "kick", "kick drum": "kick", "bd": "kick", "bass": "kick", "kd": "kick",
    "snare drum": "snare", "sn": "snare", "sd": "snare",
    "sidestick": "snare cross", "side stick": "snare cross", "side-stick": "snare cross",
    "cross stick": "snare cross", "cross-stick": "snare cross", "crossstick": "snare cross",
    "rim click": "snare cross", "xstick": "snare cross", "cross": "snare cross",
    "rim shot": "snare rim", "rimshot": "snare rim", "rim-shot": "snare rim",
    "ghost snare": "snare ghost", "ghost notes": "snare ghost",
    "floor tom": "floor", "floor-tom": "floor", "floortom": "floor", "ft": "floor",
    "tom3": "floor", "tom-3": "floor", "t3": "floor",
    "high tom": "high", "hi tom": "high", "rack tom": "high", "rack": "high",
    "small tom": "high",
    "tom1": "high", "tom-1": "high", "t1": "high",
    "mid tom": "mid", "middle tom": "mid", "medium tom": "mid",
    "tom2": "mid", "tom-2": "mid", "t2": "mid",
    "pedal": "foot", "pedal hat": "foot", "hat pedal": "foot", "hi-hat pedal": "foot",
    "pedal hi-hat": "foot", "hi hat pedal": "foot", "foot hat": "foot", "hat foot": "foot",
    "hat by foot": "foot", "hat with foot": "foot", "left foot": "foot", "hi-hat foot": "foot",
    "bell": "ride bell", "ride cymbal": "ride", "rd": "ride", "crash cymbal": "crash",
    "second crash": "crash-2", "cow bell": "cowbell", "wood block": "woodblock",
    "splash cymbal": "splash", "china cymbal": "china",
    "low tom": "floor", "lower tom": "floor", "large tom": "floor", "big tom": "floor",
    "tom floor": "floor", "tom low": "floor", "upper tom": "high", "tom high": "high",
    "tom mid": "mid", "hh foot": "foot", "hh pedal": "foot", "hihat foot": "foot",
    "hihat pedal": "foot", "hat with the foot": "foot", "hi-hat with the foot": "foot",
    "hi hat with the foot": "foot", "hi-hat with foot": "foot", "x-stick": "snare cross",
    "ride with the bell": "ride bell", "ride with bell": "ride bell",
    "bell of the ride": "ride bell", "the bell": "ride bell", "b.d.": "kick", "s.d.": "snare",
    "h.h.": "hat", "f.t.": "floor", "k": "kick", "s": "snare", "h": "hat",
    "snares": "snare", "kicks": "kick", "crashes": "crash",
}  # fmt: skip
LONGEST = max(len(head.split()) for head in HEADS)
NUMBERED = {"crash": {"1": "crash", "2": "crash-2"}}  # "crash 2 on 1"
# Said as one thing, before any of its words is taken for a drum.
PHRASES = {
    ("four", "on", "the", "floor"): "beats", ("all", "the", "way"): "", ("all", "along"): "",
    ("all", "the", "time"): "", ("the", "ands"): "offbeats", ("ands",): "offbeats",
    ("but", "not"): "no", ("except", "for"): "no", ("but", "no"): "no", ("not",): "no",
    ("except",): "no", ("without",): "no", ("leave", "out"): "no", ("leaving", "out"): "no",
    ("every", "and"): "offbeats", ("as", "well", "as"): "and",
}  # fmt: skip
LONGEST_PHRASE = max(map(len, PHRASES))
TOM_NUMBERS = {"1": "high", "2": "mid", "3": "floor"}
ARTICLES = {"a", "an", "the"}
PLACE = re.compile(r",|&|and|\d{1,2}(-.*|\*|\+.*|[e&atl]+)?")


def drum_lines(words: list[Token]) -> list[list[Token]] | None:
    """A line of drums as one list for each drum, its name first; None if it names none."""
    words = _phrases([token for token in words if token.text])
    if words and words[0].text.lower() == "no":
        found = _head(words[1:])
        return [[found[0]]] if found and len(words) == 1 + found[2] else None
    if words and words[0].text.lower() in ("backbeat", "backbeats"):
        words = [words[0].read_as("snare"), *words]
    if not _heads(words):
        return None
    rows: list[list[Token]] = []
    while words and (heads := _heads(words)):
        names, long = heads
        rest = words[long:]
        if rest and rest[0].text in (":", "-"):
            rest = rest[1:]
        rest = _without_its_name(names[-1][0].text, rest)
        end = _next_drum(names[-1][0].text, rest)
        mine = places(_without_joining(rest[:end]) if end < len(rest) else rest)
        rows += [[name, *_holding(word, mine)] for name, word in names]
        words = rest[end:]
        if words and words[0].text == ";":
            words = words[1:]
            if words and not _head(words):
                raise blame(words[0], f"'{words[0].place.word}' is no drum; begin with one")
        while words and not _head(words):  # "with a crash"
            words = words[1:]
    return rows


def _phrases(words: list[Token]) -> list[Token]:
    """What several words say together as the one word for it."""
    found, place = [], 0
    while place < len(words):
        for long in range(LONGEST_PHRASE, 0, -1):
            said = tuple(word.text.lower() for word in words[place : place + long])
            if len(said) == long and said in PHRASES:
                found.append(words[place].read_as(PHRASES[said]))
                place += long
                break
        else:
            found.append(words[place])
            place += 1
    return [token for token in found if token.text]


def _heads(words: Sequence[Token]) -> tuple[list[tuple[Token, Token | None]], int] | None:
    """The drums of "crash and kick on 1", and how many words they took."""
    first = _head(words)
    if first is None:
        return _slashed(words)
    names, long = [first[:2]], first[2]
    while words[long : long + 1] and words[long].text.lower() in {*JOINING, ","}:
        behind = _head(words[long + 1 :])
        if behind is None:
            break
        names.append(behind[:2])
        long += 1 + behind[2]
    return names, long


def _slashed(words: Sequence[Token]) -> tuple[list[tuple[Token, Token | None]], int] | None:
    """ "crash/kick" """
    parts = words[0].text.split("/") if words else []
    found = [_head([words[0].read_as(part)]) for part in parts if part]
    if len(parts) < 2 or len(found) < len(parts) or None in found:
        return None
    return [one[:2] for one in found if one], 1


def _without_joining(words: list[Token]) -> list[Token]:
    """Without the "and" or the comma that led to the next drum."""
    while words and (words[-1].text.lower() in JOINING - {"&", "+"} or words[-1].text == ","):
        words = words[:-1]
    return words


def _head(words: Sequence[Token]) -> tuple[Token, Token | None, int] | None:
    """(the name, the word that holds for its line, how many words it took)."""
    if words and words[0].text.lower() in NUMBERED and _numbered(words):
        return _numbered(words)
    for long in range(min(LONGEST, len(words)), 0, -1):
        said = " ".join(word.text.lower().rstrip(":") for word in words[:long])
        meant = HEADS.get(said) or (ALIASES.get(said, said) if long == 1 else "")
        line, _, word = meant.partition(" ")
        if line in LINES:
            return words[0].read_as(line), words[0].read_as(word) if word else None, long
    three = [word.text.lower() for word in words[:3]]
    if three[:1] == ["tom"] and three[1:2] and three[1].rstrip(":") in TOM_NUMBERS:
        sure = three[1].endswith(":") or three[2:] == [":"]
        if sure or (three[2:] and not PLACE.fullmatch(three[2])):
            return words[0].read_as(TOM_NUMBERS[three[1].rstrip(":")]), None, 2
    return None


def _numbered(words: Sequence[Token]) -> tuple[Token, None, int] | None:
    said = [word.text.lower() for word in words[:3]]
    line = NUMBERED[said[0]].get(said[1]) if said[2:] in (["on"], ["at"]) else None
    return (words[0].read_as(line), None, 2) if line else None


def _next_drum(line: str, words: Sequence[Token]) -> int:
    """Where the next drum of the line begins; a word of this drum's own is none."""
    for place, token in enumerate(words):
        if token.text == ";":
            return place
        if not place:
            continue  # a name right behind a name is a slip, not two drums
        head = _head(words[place:])
        text = token.text.lower()
        if text in JOINING and _leads_to_a_drum(line, words[place + 1 :]):
            return place
        own = (line, token.text.lower()) in VARIANTS or token.text.lower() in STROKE_WORDS
        after = tuple(word.text.lower() for word in words[place : place + 2])
        if head and not own and after not in TWO_WORDS:
            return place
    return len(words)


def _holding(word: Token | None, words: list[Token]) -> list[Token]:
    """The words of a line, with the one that holds for all of it in every group."""
    if word is None:
        return words
    found = [word]
    for place, token in enumerate(words, 1):
        more = token.text == "," and place < len(words)
        found += [token, word] if more else [token]
    return found


def _without_its_name(line: str, words: list[Token]) -> list[Token]:
    """ "hat 8ths, no hat on 4" says its own name again."""
    found: list[Token] = []
    for place, token in enumerate(words):
        head = _head(words[place:]) if found and found[-1].text.lower() == "no" else None
        if head is None or head[0].text != line:
            found.append(token)
    return found


def _leads_to_a_drum(line: str, words: Sequence[Token]) -> bool:
    """Does another drum stand behind "and" or "with a"?"""
    if words and words[0].text.lower() in ARTICLES:
        words = words[1:]
    text = words[0].text.lower() if words else ""
    own = (line, text) in VARIANTS and text not in LINES  # a crash is one, not the ride's
    return not own and text not in STROKE_WORDS and _head(words) is not None
