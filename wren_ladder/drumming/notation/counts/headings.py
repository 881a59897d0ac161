"""How lines that are no drum's may begin: bars, marks and signs as teachers say them.

Common practice, no source.
"""

import re
from collections.abc import Sequence

from wren_ladder.drumming.chart import DYNAMICS
from wren_ladder.drumming.notation.counts.said_places import COUNT, COUNT_WORDS, RANGE
from wren_ladder.drumming.notation.counts.speech import drum_lines
from wren_ladder.drumming.notation.counts.tokens import Token
from wren_ladder.drumming.numbers import read_whole

BAR = re.compile(r"(?:bars?|measures?|m(?=\d))(\d[\d-]*)?")
TIMES = re.compile(r"x(\d{1,2})|(\d{1,2})x")
BUT = {"but", "plus", "except", "with", "and", ",", "only", "-"}
PREVIOUS = "before"
BAR_WORDS = {"bar", "bars", "measure", "measures", "the", "exactly"}
LIKE = {"as", "like", "=", "same"}
NOTE_VALUES = {"minim", "crotchet", "quaver", "half", "quarter", "eighth", "dotted"}
CROTCHET = "♩"
METER = re.compile(r"\d{1,2}(\+\d{1,2})*/\d{1,2}")
MARKS = {
    "crescendo": "cresc", "decrescendo": "dim", "decresc": "dim", "diminuendo": "dim",
    "ritardando": "rit", "ritenuto": "rit", "rall": "rit", "rallentando": "rit",
    "accelerando": "accel", "dynamic": "dynamics", "sticking": "hands", "stickings": "hands",
    "hand": "hands", "metre": "meter", "comment": "note", "bpm": "tempo", "speed": "tempo",
    "pause": "fermata", "part": "section", "slash": "slashes",
}  # fmt: skip
WRITTEN_WORDS = {
    "rest": "rest", "rests": "rest", "silent": "rest", "silence": "rest", "empty": "rest",
    "tacet": "rest", "repeat": "repeat", "slashes": "slashes",
}  # fmt: skip
MARK_WORDS = {"section", "meter", "tempo", "beats", "ending", "fill", "note", "cresc", "dim"}
JUMPS = {"dc": "D.C.", "ds": "D.S.", "dss": "D.S.S."}
ORDINALS = {"1st": "1", "first": "1", "2nd": "2", "second": "2", "3rd": "3", "third": "3"}


def bar_heading(words: Sequence[Token]) -> tuple[list[Token], list[Token]] | None:
    """(the words of a line that begins a bar, what is typed behind its colon); None if it
    begins none. "measure 2 same as bar 1" is "bar 2 as 1"."""
    if words[0].text.endswith(":") and BAR.fullmatch(words[0].text[:-1].lower()):
        words = [words[0].read_as(words[0].text[:-1]), words[0].read_as(":"), *words[1:]]
    match = BAR.fullmatch(words[0].text.lower())
    if not match:
        return None
    head = words[0].read_as("bar")
    rest = [words[0].read_as(match[1])] if match[1] else []
    behind: list[Token] = []
    words = [words[0], *(_in_figures(token) for token in words[1:])]
    if not any(token.text == ":" or token.text.endswith(":") for token in words):
        words, behind = _cut(words)
    for place, token in enumerate(words[1:], 1):
        text = token.text.lower()
        if text == ":" or text.endswith(":"):
            rest += [token.read_as(text[:-1])] if text != ":" else []
            behind = list(words[place + 1 :])
            break
        rest.append(token)
    return [head, *_joined(_alike(rest))], behind


def _in_figures(token: Token) -> Token:
    """ "bar one", "bar 1." """
    text = token.text.lower()
    number = COUNT_WORDS.get(text, text.rstrip(".") if text[:1].isdigit() else "")
    return token.read_as(number) if number and number != text else token


def _cut(words: list[Token]) -> tuple[list[Token], list[Token]]:
    """What announces bars, and what is typed behind it in the same line: "bar 1 hat 8ths",
    "bar 2 as 1 but kick 1"."""
    place, numbered, alike = 1, False, False
    while place < len(words):
        text = words[place].text.lower()
        joined = place + 1 < len(words) and words[place + 1].text[:1].isdigit()
        if text[:1].isdigit() and not TIMES.fullmatch(text):
            numbered = True
        elif text in LIKE:
            alike = True
        elif (
            (text == PREVIOUS and alike)
            or text in BAR_WORDS
            or (joined and text in {*RANGE, ",", "and", "&"})
        ):
            pass
        elif text in WRITTEN_WORDS or TIMES.fullmatch(text) or text in ("x", "of"):
            place = len(words)  # read as a whole
            break
        else:
            break
        place += 1
    behind = words[place:]
    while behind and behind[0].text.lower() in BUT:
        behind = behind[1:]
    if behind and numbered and _begins_a_line(behind):
        return words[:place], behind
    return words, []


def _begins_a_line(words: Sequence[Token]) -> bool:
    """A drum, a mark or "no kick"; anything else is told where it stands."""
    text = words[0].text.lower()
    return text in {*MARKS, *MARK_WORDS} or drum_lines(list(words)) is not None


def _alike(words: list[Token]) -> list[Token]:
    """One "as" for every way of saying it, and only numbers round it."""
    found: list[Token] = []
    for token in words:
        text = token.text.lower()
        if text in LIKE:
            if found and found[-1].text == "as":
                continue
            found.append(token.read_as("as"))
        elif text in WRITTEN_WORDS:
            found.append(token.read_as(WRITTEN_WORDS[text]))
        elif text not in BAR_WORDS or (text in ("bar", "bars") and _sign(found)):
            found.append(token)
    return found


def _sign(words: Sequence[Token]) -> bool:
    """Does "bar" belong to a sign, as in "bar 2 repeat bar"?"""
    return any(word.text.lower() == "repeat" for word in words)


def _joined(words: list[Token]) -> list[Token]:
    """ "2 to 4" and "2 - 4" as "2-4"; "2, 3 and 4" as "2,3,4"."""
    found: list[Token] = []
    place = 0
    while place < len(words):
        token, text = words[place], words[place].text.lower()
        behind = words[place + 1].text if place + 1 < len(words) else ""
        counted = found and found[-1].text[:1].isdigit()
        if text in RANGE and counted and COUNT.match(behind):
            found[-1] = found[-1].read_as(f"{found[-1].text}-{behind}")
            place += 2
        elif text in (",", "and", "&") and counted and behind[:1].isdigit():
            found[-1] = found[-1].read_as(f"{found[-1].text},{behind}")
            place += 2
        else:
            found.append(token)
            place += 1
    return found


def likeness_line(words: Sequence[Token]) -> Token | None:
    """The bar number of a line that says what its bar is like: "same as bar 1"."""
    if words[0].text.lower() not in LIKE:
        return None
    rest = _alike(list(words))
    return rest[1] if len(rest) == 2 and rest[0].text == "as" else None


def heading(words: list[Token]) -> list[Token]:
    """The words of a line with its name as the reader knows it."""
    words = [*_values(words[0]), *words[1:]]
    head, text = words[0], words[0].text.lower().rstrip(":")
    rest = words[1:]
    if rest and rest[0].text == ":":
        rest = rest[1:]
    said = [word.text.lower() for word in rest]
    if METER.fullmatch(text) and said in ([], ["time"]):
        return [head.read_as("meter"), head]
    if text in ("time", "in") and rest and METER.fullmatch(rest[-1].text):
        return [head.read_as("meter"), rest[-1]]
    if _tempo(text, said):
        numbers = [
            word.read_as(part)
            for word in (head, *rest)
            for part in _without_bpm(word.text.lower())
            if part.isdigit()
        ]
        values = [word for word in (head, *rest) if word.text.lower() in NOTE_VALUES]
        return [head.read_as("tempo"), *values, *numbers]
    if text in DYNAMICS:
        return [head.read_as("dynamics"), head, *(rest or [head.read_as("1")])]
    if text.replace(".", "") in JUMPS:
        return [head.read_as("jump"), head.read_as(JUMPS[text.replace(".", "")]), *rest]
    if (text, *said[:1]) in (("da", "capo"), ("dal", "segno")):
        sign = "D.C." if text == "da" else "D.S."
        return [head.read_as("jump"), head.read_as(sign), *rest[1:]]
    if text in ORDINALS and said == ["ending"]:
        return [head.read_as("ending"), head.read_as(ORDINALS[text])]
    if text == "to" and said[:2] == ["the", "coda"]:
        return [head, *rest[1:]]
    name = MARKS.get(text, text)
    return [head if name == head.text.lower() else head.read_as(name), *rest]


def _values(token: Token) -> list[Token]:
    """A note's sign: "♩=120"."""
    if not token.text.startswith(CROTCHET):
        return [token]
    number = token.text.removeprefix(CROTCHET).removeprefix("=")
    more = [token.read_as(number)] if number else []
    return [token.read_as("crotchet"), token.read_as("="), *more]


def _without_bpm(word: str) -> list[str]:
    """ "120bpm" """
    number = word.removesuffix("bpm")
    return [number, "bpm"] if number != word and number.isdigit() else [word]


def times_line(words: Sequence[Token]) -> int | None:
    """How often the last bar is played: "x4", "4x", "times 4", "play 4 times"."""
    said = [word.text.lower() for word in words]
    match = TIMES.fullmatch("".join(said)) if len(said) < 3 else None
    if match:
        return read_whole(match[1] or match[2], 1)
    if said[:1] == ["play"]:
        said = said[1:]
    numbers = [word for word in said if word.isdigit()]
    return read_whole(numbers[0], 1) if len(said) == 2 and numbers and "times" in said else None


def rests_line(words: Sequence[Token]) -> int | None:
    """How many bars are silent from here: "2 bars rest", "rest for 2 bars"."""
    said = {word.text.lower() for word in words}
    numbers = [one for one in said if one.isdigit()]
    others = said - {*numbers, "of", "for", "bar", "bars"}
    counted = len(numbers) == 1 and said & {"bar", "bars"} and len(others) == 1
    return read_whole(numbers[0], 1) if counted and others <= {"rest", "rests"} else None


def _tempo(text: str, said: Sequence[str]) -> bool:
    """ "bpm 120", "120 bpm", "tempo: 120 bpm", "crotchet = 96"."""
    text, *said = [part for word in (text, *said) for part in _without_bpm(word)]
    numbers = [word for word in (text, *said) if word.isdigit()]
    others = {word for word in (text, *said) if not word.isdigit()}
    known = {"bpm", "tempo", "=", "note", "speed", "at", *NOTE_VALUES}
    named = others & {"bpm", "tempo", "speed"} or ("=" in others and others & NOTE_VALUES)
    return len(numbers) == 1 and bool(named) and others <= known and text != "note"
