"""What teachers say, put into the words of typed bars: "bass drum on 1 and 3" is "kick 1 3".

Only what can be meant in one way is taken; the rest is left to be refused by the reader, which
says what would be right. Common practice, no source.
"""

import re
from collections.abc import Sequence
from itertools import pairwise

from wren_ladder.drumming.notation.counts.tokens import Token, blame
from wren_ladder.drumming.notation.counts.words import ALIASES, LINES, VARIANTS

# How a line may begin: the words, the line, and the word that then holds for all of it.
HEADS = {
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
}  # fmt: skip
LONGEST = max(len(head.split()) for head in HEADS)
TOM_NUMBERS = {"1": "high", "2": "mid", "3": "floor"}
PATTERN_WORDS = {
    "crotchets": "quarters", "crotchet": "quarters", "quarter": "quarters", "4ths": "quarters",
    "quavers": "8ths", "quaver": "8ths", "eighths": "8ths", "eighth": "8ths", "8th": "8ths",
    "8s": "8ths", "eights": "8ths",
    "semiquavers": "16ths", "semiquaver": "16ths", "sixteenths": "16ths", "16th": "16ths",
    "sixteenth": "16ths", "16s": "16ths", "semis": "16ths",
    "triplet": "triplets", "sextuplet": "sextuplets", "sixtuplets": "sextuplets",
    "demisemiquavers": "32nds", "demisemiquaver": "32nds", "32nd": "32nds", "32s": "32nds",
    "thirty-seconds": "32nds", "off-beats": "offbeats", "offbeat": "offbeats",
    "off-beat": "offbeats", "upbeats": "offbeats",
}  # fmt: skip
STROKE_WORDS = {
    "ghosts": "ghost", "ghosted": "ghost", "accents": "accent", "accented": "accent",
    "flams": "flam", "drags": "drag", "ruffs": "ruff", "rolls": "roll", "press": "buzz",
    "buzzed": "buzz", "opened": "open", "half-open": "half", "halfopen": "half",
    "sidestick": "cross", "cross-stick": "cross", "rimshot": "rim", "rim-shot": "rim",
}  # fmt: skip
TWO_WORDS = {
    ("buzz", "roll"): "buzz", ("press", "roll"): "buzz", ("drum", "roll"): "roll",
    ("half", "open"): "half", ("cross", "stick"): "cross", ("side", "stick"): "cross",
    ("rim", "shot"): "rim", ("rim", "click"): "cross", ("ghost", "note"): "ghost",
    ("ghost", "notes"): "ghost", ("off", "beats"): "offbeats", ("off", "beat"): "offbeats",
    ("double", "stroke"): "", ("single", "stroke"): "single",
}  # fmt: skip
NUMBER_WORDS = {
    "five": "5", "six": "6", "seven": "7", "nine": "9", "ten": "10", "eleven": "11",
    "thirteen": "13", "fifteen": "15", "seventeen": "17",
}  # fmt: skip
FILLERS = {"all", "every", "on", "at", "the", "note", "notes", "hits", "hit", "count", "counts"}
FILLERS |= {"beat"}
AND = {"and", "&", "+", "n", "und"}
SYLLABLES = {"e", "a", "&", "and"}
PLACE = re.compile(r",|&|and|\d{1,2}(-.*|\*|\+.*|[e&atl]+)?")
COUNT = re.compile(r"\d{1,2}")
PLACED = re.compile(r"(\d{1,2})(and|\+|n|ah|ee)")
SPELLED = {"and": "&", "+": "&", "n": "&", "ah": "a", "ee": "e"}
RANGE = {"-", "–", "to", "through", "until", "till"}
STROKE = "-stroke"  # what a count of a roll is known by: a 7-stroke roll
STROKES = re.compile(r"(\d{1,2}|[a-z]+)-strokes?")


def drum_lines(words: list[Token]) -> list[list[Token]] | None:
    """A line of drums as one list for each drum, its name first; None if it names none."""
    words = [token for token in words if token.text]
    if words and words[0].text.lower() in ("no", "without"):
        found = _head(words[1:])
        return [[found[0]]] if found and len(words) == 1 + found[2] else None
    if not _head(words):
        return None
    rows: list[list[Token]] = []
    while words:
        name, word, long = _head(words)
        rest = words[long:]
        if rest and rest[0].text == ":":
            rest = rest[1:]
        end = _next_drum(name.text, rest)
        rows.append([name, *_holding(word, places(rest[:end]))])
        words = rest[end:]
        if words and words[0].text == ";":
            words = words[1:]
            if words and not _head(words):
                raise blame(words[0], f"'{words[0].place.word}' is no drum; begin with one")
    return rows


def _head(words: Sequence[Token]) -> tuple[Token, Token | None, int] | None:
    """(the name, the word that holds for its line, how many words it took)."""
    for long in range(min(LONGEST, len(words)), 0, -1):
        said = " ".join(word.text.lower().rstrip(":") for word in words[:long])
        meant = HEADS.get(said) or (ALIASES.get(said, said) if long == 1 else "")
        line, _, word = meant.partition(" ")
        if line in LINES:
            return words[0].read_as(line), words[0].read_as(word) if word else None, long
    said = [word.text.lower() for word in words[:3]]
    if said[:1] == ["tom"] and said[1:2] and said[1].rstrip(":") in TOM_NUMBERS:
        sure = said[1].endswith(":") or said[2:] == [":"]
        if sure or (said[2:] and not PLACE.fullmatch(said[2])):
            return words[0].read_as(TOM_NUMBERS[said[1].rstrip(":")]), None, 2
    return None


def _next_drum(line: str, words: Sequence[Token]) -> int:
    """Where the next drum of the line begins; a word of this drum's own is none."""
    for place, token in enumerate(words):
        if token.text == ";":
            return place
        if not place:
            continue  # a name right behind a name is a slip, not two drums
        head = _head(words[place:])
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


def places(words: Sequence[Token]) -> list[Token]:
    """The words behind a drum's name, each place and each word as it is read."""
    found = _two_words([_one_word(token) for token in words])
    found = [token for token in found if token.text and token.text.lower() not in FILLERS]
    return _ands(_of(_ranges(found)))


def _one_word(token: Token) -> Token:
    text = token.text.lower()
    placed = PLACED.fullmatch(text)
    if placed:
        return token.read_as(placed[1] + SPELLED[placed[2]])
    strokes = STROKES.fullmatch(text)
    if strokes:
        return token.read_as(NUMBER_WORDS.get(strokes[1], strokes[1]) + STROKE)
    return token.read_as(PATTERN_WORDS.get(text, STROKE_WORDS.get(text, token.text)))


def _two_words(words: list[Token]) -> list[Token]:
    found: list[Token] = []
    for token in words:
        pair = (found[-1].text.lower(), token.text.lower()) if found else ()
        if pair in TWO_WORDS:
            found[-1] = found[-1].read_as(TWO_WORDS[pair])
        elif pair[1:] == ("roll",) and pair[0] == "single":
            found[-1] = found[-1].read_as("singles")
        elif pair[1:] == ("roll",) and pair[0].endswith(STROKE):
            count = found[-1].read_as(pair[0].removesuffix(STROKE))
            found[-1:] = [token, count]
        elif token.text.lower() in ("stroke", "strokes") and found and _roll_count(found[-1]):
            found[-1] = found[-1].read_as(_roll_count(found[-1]) + STROKE)
        elif pair[1:] == ("notes",) or pair[1:] == ("note",):
            continue
        else:
            found.append(token)
    return found


def _roll_count(token: Token) -> str:
    text = token.text.lower()
    return NUMBER_WORDS.get(text, text if COUNT.fullmatch(text) else "")


def _ranges(words: list[Token]) -> list[Token]:
    """ "1 to 3" is "1-3"; "from" says nothing more."""
    found: list[Token] = []
    place = 0
    while place < len(words):
        token = words[place]
        behind = words[place + 1 : place + 2]
        if token.text.lower() == "from":
            place += 1
        elif token.text.lower() in RANGE and found and COUNT.match(found[-1].text) and behind:
            found[-1] = found[-1].read_as(f"{found[-1].text}-{behind[0].text}")
            place += 2
        else:
            found.append(token)
            place += 1
    return found


def _of(words: list[Token]) -> list[Token]:
    """ "a of 2" is "2a"."""
    found: list[Token] = []
    place = 0
    while place < len(words):
        said = [word.text.lower() for word in words[place : place + 3]]
        counted = len(said) == 3 and COUNT.fullmatch(said[2])
        if counted and said[0] in SYLLABLES and said[1] == "of":
            found.append(words[place].read_as(said[2] + SPELLED.get(said[0], said[0])))
            place += 3
        else:
            found.append(words[place])
            place += 1
    return found


def _ands(words: list[Token]) -> list[Token]:
    """Counts joined by "and", counted "1 & 2 & 3 & 4 &", or named with their half: "2 and"."""
    found: list[Token] = []
    place = 0
    while place < len(words):
        run = _run(words[place:])
        found += _read_run(run) if len(run) > 1 else [words[place]]
        place += max(1, len(run))
    return found


def _run(words: Sequence[Token]) -> list[Token]:
    """Counts and the syllables between and behind them, from the first word on."""
    long = 0
    for before, token in pairwise([None, *words]):
        text = token.text.lower()
        counted = bool(COUNT.fullmatch(text))
        joins = text in AND or text in SYLLABLES
        after_and = before is not None and before.text.lower() in AND
        if not (joins and before is not None) and not (counted and (long == 0 or after_and)):
            break
        long += 1
    return list(words[:long])


def _read_run(run: list[Token]) -> list[Token]:
    said = [SPELLED.get(token.text.lower(), token.text.lower()) for token in run]
    counts = [token for token in run if COUNT.fullmatch(token.text)]
    syllables = said[1:]
    if len(counts) == 1 and syllables == ["e", "&", "a"]:
        return [counts[0].read_as(f"{counts[0].text}*")]
    if {"e", "a"} & set(said):
        word = f"{said[0]}{''.join(syllables)}" if len(counts) == 1 else "2a"
        raise blame(run[-1], f"write each place as one word: {word}")
    if said[-1] != "&":
        return counts
    if len(counts) == 1:
        return [run[0].read_as(f"{said[0]}&")]
    counting = [part for count in counts for part in (count.text, "&")]
    if said == counting and len(counts) > 2:
        return [one for count in counts for one in (count, count.read_as(f"{count.text}&"))]
    raise blame(run[-1], f"write {counts[-1].text}& for the half of {counts[-1].text}")
