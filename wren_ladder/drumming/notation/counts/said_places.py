"""Where a drum is struck, and how, as it is said: "on 1 and the a of 3", "8ths, open on 4&",
"16ths from 4", "2 and 4 with a flam". Each becomes the places and words of typed bars.

Common practice, no source.
"""

import re
from collections.abc import Sequence

from wren_ladder.drumming.chart.positions import PATTERNS
from wren_ladder.drumming.notation.counts.tokens import Token, blame
from wren_ladder.drumming.notation.counts.words import GRACES, ROLL_WORDS, TOUCHES, VARIANTS

PATTERN_WORDS = {
    "crotchets": "quarters", "crotchet": "quarters", "quarter": "quarters", "4ths": "quarters",
    "quavers": "8ths", "quaver": "8ths", "eighths": "8ths", "eighth": "8ths", "8th": "8ths",
    "8s": "8ths", "eights": "8ths",
    "semiquavers": "16ths", "semiquaver": "16ths", "sixteenths": "16ths", "16th": "16ths",
    "sixteenth": "16ths", "16s": "16ths", "semis": "16ths",
    "triplet": "triplets", "sextuplet": "sextuplets", "sixtuplets": "sextuplets",
    "demisemiquavers": "32nds", "demisemiquaver": "32nds", "32nd": "32nds", "32s": "32nds",
    "thirty-seconds": "32nds", "off-beats": "offbeats", "offbeat": "offbeats",
    "off-beat": "offbeats", "upbeats": "offbeats", "backbeats": "backbeat",
    "back-beat": "backbeat",
}  # fmt: skip
STROKE_WORDS = {
    "ghosts": "ghost", "ghosted": "ghost", "accents": "accent", "accented": "accent",
    "flams": "flam", "drags": "drag", "ruffs": "ruff", "rolls": "roll", "press": "buzz",
    "buzzed": "buzz", "opened": "open", "half-open": "half", "halfopen": "half",
    "sidestick": "cross", "cross-stick": "cross", "rimshot": "rim", "rim-shot": "rim",
    "x-stick": "cross", "xstick": "cross", "rimshots": "rim", "rim-shots": "rim",
}  # fmt: skip
TWO_WORDS = {
    ("buzz", "roll"): "buzz", ("press", "roll"): "buzz", ("drum", "roll"): "roll",
    ("half", "open"): "half", ("cross", "stick"): "cross", ("side", "stick"): "cross",
    ("rim", "shot"): "rim", ("rim", "shots"): "rim",
    ("rim", "click"): "cross", ("ghost", "note"): "ghost",
    ("ghost", "notes"): "ghost", ("off", "beats"): "offbeats", ("off", "beat"): "offbeats",
    ("double", "stroke"): "", ("single", "stroke"): "single",
}  # fmt: skip
TRIPLETS = {"quarters": "quarter-triplets", "8ths": "triplets", "16ths": "sextuplets"}
NUMBER_WORDS = {
    "five": "5", "six": "6", "seven": "7", "nine": "9", "ten": "10", "eleven": "11",
    "thirteen": "13", "fifteen": "15", "seventeen": "17",
}  # fmt: skip
# Counts as words; behind a "stroke" a number says what roll it is.
COUNT_WORDS = {
    "one": "1", "two": "2", "three": "3", "four": "4", "five": "5", "six": "6", "seven": "7",
    "eight": "8", "nine": "9", "ten": "10", "eleven": "11", "twelve": "12",
}  # fmt: skip
ORDINALS = {
    "1st": "1", "first": "1", "2nd": "2", "second": "2", "3rd": "3", "third": "3", "4th": "4",
    "fourth": "4",
}  # fmt: skip
BEAT = {"beat", "beats"}
FILLERS = {"all", "every", "on", "at", "the", "note", "notes", "hits", "hit", "count", "counts"}
FILLERS |= {
    "an",
    "in",
    "straight",
    "steady",
    "running",
    "playing",
    "throughout",
    "also",
    "just",
    "together",
    "=",
}
JOINING = {
    "with",
    "plus",
    "and",
    "&",
    "+",
}  # before a drum: another row; before a word: a comma
CHANGING = {*TOUCHES, *GRACES, *ROLL_WORDS}
JOINED = {"with", "then"}
AND = {"and", "&", "+", "n", "und"}
SYLLABLES = {"e", "a", "&", "and"}
COUNT = re.compile(r"\d{1,2}")
PLACE_OR_SPAN = re.compile(r"\d{1,2}[e&atl]*(-end)?")
COUNT_PLACE = re.compile(r"\d{1,2}[e&atl]*")
PLACED = re.compile(r"(\d{1,2})(and|\+|n|ah|ee)")
SPELLED = {"and": "&", "+": "&", "n": "&", "ah": "a", "ee": "e"}
RANGE = {"-", "–", "to", "through", "until", "till"}
STROKE = "-stroke"  # what a count of a roll is known by: a 7-stroke roll
STROKES = re.compile(r"(\d{1,2}|[a-z]+)-strokes?")


def places(words: Sequence[Token]) -> list[Token]:
    """The words behind a drum's name, each place and each word as it is read."""
    if not any(token.text.lower() in ("open", "half", "half-open") for token in words):
        words = [token for token in words if token.text.lower() != "closed"]
    words = _counted(_beats(_backbeats([_one_word(token) for token in words])))
    found = _without_articles(_two_words(words))
    found = [token for token in found if token.text and token.text.lower() not in FILLERS]
    found = _bracketed(_ands(_of(_ranges(found))))
    return _groups([token for token in found if token.text])


def _backbeats(words: list[Token]) -> list[Token]:
    return [
        part
        for token in words
        for part in (
            [token.read_as("2"), token.read_as("4")] if token.text == "backbeat" else [token]
        )
    ]


def _beats(words: list[Token]) -> list[Token]:
    """ "on the beat" is each of them; "on beat 1", "the third beat" are counts."""
    found = []
    for before, token, behind in zip([None, *words], words, [*words[1:], None], strict=False):
        count = any(
            one is not None and COUNT_PLACE.fullmatch(one.text) for one in (before, behind)
        )
        ordinal = before is not None and before.text.lower() in ORDINALS
        text = token.text.lower()
        after_all = before is not None and before.text.lower() in ("all", "every")
        beats_behind = behind is not None and behind.text.lower() in BEAT
        if text == "four" and after_all and not beats_behind:
            found.append(token.read_as("beats"))  # "on all four"
        elif text in BEAT:
            if not (count or ordinal):
                found.append(token.read_as("beats"))
        elif not (beats_behind and after_all and text in ("four", "three", "two")):
            found.append(token)
    return found


def _counted(words: list[Token]) -> list[Token]:
    """Counts that are written as words; a number before "stroke" is a roll's."""
    found = []
    for token, behind in zip(words, [*words[1:], None], strict=False):
        text = token.text.lower()
        stroke = behind is not None and behind.text.lower() in ("stroke", "strokes")
        number = COUNT_WORDS.get(text) if not stroke else None
        if number and behind is not None and _is_pattern(behind):
            hint = f"write where each stands: {behind.text} 1, or 1 1& 2"
            raise blame(token, f"how many {behind.text} there are is not read; {hint}")
        number = number or ORDINALS.get(text)
        found.append(token.read_as(number) if number else token)
    return found


def _is_pattern(token: Token) -> bool:
    text = token.text.lower()
    return text in PATTERNS or text in PATTERN_WORDS


def _says_how(token: Token) -> bool:
    """Is it a word that changes strokes: flam, open, accent?"""
    text = token.text.lower()
    return text in CHANGING or any(text == word for _, word in VARIANTS)


def _bracketed(words: list[Token]) -> list[Token]:
    """ "1 (flam) 2": the word in brackets is said of the place before it alone."""
    found: list[Token] = []
    place = 0
    while place < len(words):
        said = words[place : place + 3]
        texts = [one.text for one in said]
        if len(said) == 3 and texts[0] == "(" and texts[2] == ")" and _says_how(said[1]):
            before = found.pop() if found else None
            last = place + 3 >= len(words) or words[place + 3].text == ","
            if before is None or not COUNT.match(before.text):
                raise blame(said[1], f"say of which place: {texts[1]} 2")
            plain = [one for one in found if one.text == ","][-1:]
            group = found[found.index(plain[0]) + 1 :] if plain else found
            if last and group:
                raise blame(said[1], f"of {before.text} alone, or of all? write: , {texts[1]} "
                            f"{before.text}, or {texts[1]} before all of them")  # fmt: skip
            comma = [before.read_as(",")] if found and found[-1].text != "," else []
            found += [*comma, said[1], before]
            if not last:
                found.append(before.read_as(","))
            place += 3
        else:
            found.append(words[place])
            place += 1
    return found


def _without_articles(words: list[Token]) -> list[Token]:
    """ "with a flam": an "a" before a word for a stroke is no syllable."""
    return [
        token
        for token, behind in zip(words, [*words[1:], None], strict=False)
        if not (token.text.lower() == "a" and behind is not None and _says_how(behind))
    ]


def _groups(words: list[Token]) -> list[Token]:
    """A comma before what is said of some places only: "8ths with open 4&", "8ths 4& open"."""
    found: list[Token] = []
    for place, token in enumerate(words):
        text = token.text.lower()
        behind = words[place + 1] if place + 1 < len(words) else None
        last = place + 2 >= len(words) and behind is not None and _says_how(behind)
        if text in JOINED and last:
            continue  # "2 and 4 with a flam": all of them
        if text in JOINED or text == "plus":
            comma = found and found[-1].text != ","
            found += [token.read_as(",")] if comma else []
        elif text == "no" and found and found[-1].text != ",":
            found += [token.read_as(","), token]
        else:
            found.append(token)
    return _pattern_and_places(found)


def _pattern_and_places(words: list[Token]) -> list[Token]:
    """ "8ths accent 1 3" and "8ths 4& open" change some of the pattern's strokes."""
    found: list[Token] = []
    group: list[Token] = []
    for token in [*words, None]:
        if token is not None and token.text != ",":
            group.append(token)
            continue
        texts = [one.text.lower() for one in group]
        if len(group) > 2 and texts[0] in PATTERNS and texts[1] not in PATTERNS:
            placed = [one for one in group[1:] if COUNT.match(one.text) or one.text in PATTERNS]
            how = [one for one in group[1:] if _says_how(one)]
            if placed and how and len(how) + len(placed) == len(group) - 1 and (
                _says_how(group[1]) or not COUNT.fullmatch(texts[1])
            ):  # fmt: skip
                group = [group[0], group[0].read_as(","), *group[1:]]
        found += group
        if token is not None:
            found.append(token)
        group = []
    return found


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
        before, now = found[-1].text.lower() if found else "", token.text.lower()
        if now == "triplets" and before in TRIPLETS and _is_one(found[-1]):
            found[-1] = found[-1].read_as(TRIPLETS[before])
        elif (before, now) in TWO_WORDS:
            found[-1] = found[-1].read_as(TWO_WORDS[before, now])
        elif now == "roll" and before == "single":
            found[-1] = found[-1].read_as("singles")
        elif now == "roll" and before.endswith(STROKE):
            count = found[-1].read_as(before.removesuffix(STROKE))
            found[-1:] = [token, count]
        elif token.text.lower() in ("stroke", "strokes") and found and _roll_count(found[-1]):
            found[-1] = found[-1].read_as(_roll_count(found[-1]) + STROKE)
        elif found and now in ("notes", "note"):
            continue
        else:
            found.append(token)
    return found


def _is_one(token: Token) -> bool:
    """ "8th note triplets" says one value; "8ths triplets" are two patterns."""
    return not token.place.word.lower().endswith("s")


def _roll_count(token: Token) -> str:
    text = token.text.lower()
    return NUMBER_WORDS.get(text, text if COUNT.fullmatch(text) else "")


def _ranges(words: list[Token]) -> list[Token]:
    """ "1 to 3" is "1-3", "from 4&" alone "4&-end", "until 3" alone "1-3"."""
    found: list[Token] = []
    place = 0
    since = False  # did "from" stand before?
    while place < len(words):
        token = words[place]
        text, behind = token.text.lower(), words[place + 1 : place + 2]
        there = bool(behind) and bool(COUNT.match(behind[0].text) or behind[0].text == "end")
        if text == "from":
            since = True
            place += 1
            continue
        if (
            text in RANGE
            and there
            and found
            and PLACE_OR_SPAN.fullmatch(found[-1].text.lower())
        ):
            found[-1] = found[-1].read_as(f"{found[-1].text.removesuffix('-end')}-"
                                          f"{behind[0].text}")  # fmt: skip
            place += 2
        elif text in ("until", "till", "to") and there and found and not since:
            found.append(behind[0].read_as(f"1-{behind[0].text}"))
            place += 2
        elif since and COUNT.match(text) and "-" not in text and _goes_on(found):
            found.append(token.read_as(f"{token.text}-end"))
            place += 1
        else:
            found.append(token)
            place += 1
        since = False
    return found


def _goes_on(words: Sequence[Token]) -> bool:
    """Is it a pattern, or a roll, that begins "from" a place?"""
    return bool(words) and (words[-1].text.lower() in {*PATTERNS, *ROLL_WORDS})


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
    """What "and" says: the half of a count where counts are counted aloud ("1 and 2 and 3
    and") or at the end of a group ("2 and"); else it joins."""
    found: list[Token] = []
    place = 0
    while place < len(words):
        token, text = words[place], words[place].text.lower()
        run = _run(words[place:])
        if len(run) > 1:
            found += _read_run(run)
            place += len(run)
        elif text in AND:
            behind = words[place + 1] if place + 1 < len(words) else None
            if behind is not None and _says_how(behind):
                found.append(token.read_as("with"))
            elif behind is None and not found:
                raise blame(token, "say of which count: 2&")
            place += 1
        else:
            found.append(token)
            place += 1
    return found


def _run(words: Sequence[Token]) -> list[Token]:
    """A count and the syllables behind it, or counts that are counted with their halves."""
    if not words or not COUNT.fullmatch(words[0].text):
        return []
    texts = [SPELLED.get(word.text.lower(), word.text.lower()) for word in words]
    long = 1
    while long < len(texts) and (texts[long] in SYLLABLES or texts[long] in AND):
        long += 1
    syllables = texts[1:long]
    if {"e", "a"} & set(syllables):
        return list(words[:long])
    halves = 0  # "1 & 2 & 3 &": each count is one more than the one before
    while texts[2 * halves + 1 : 2 * halves + 2] == ["&"] and COUNT.fullmatch(
        texts[2 * halves]
    ):
        if halves and int(texts[2 * halves]) != int(texts[2 * halves - 2]) + 1:
            break
        halves += 1
        if 2 * halves >= len(texts):
            break
    over = 2 * halves >= len(texts) or texts[2 * halves] == ","
    if halves == 2 and over:
        one, two = texts[0], texts[2]
        raise blame(words[3], f"write {one} {one}& {two} {two}&, or {one} {two}&")
    if halves > 2 and over:
        return list(words[: 2 * halves])
    if syllables == ["&"] and (long == len(texts) or texts[long] == ","):
        return list(words[:2])
    return []


def _read_run(run: list[Token]) -> list[Token]:
    said = [SPELLED.get(token.text.lower(), token.text.lower()) for token in run]
    counts = [token for token in run if COUNT.fullmatch(token.text)]
    if said[1:] == ["e", "&", "a"]:
        return [counts[0].read_as(f"{counts[0].text}*")]
    if {"e", "a"} & set(said):
        raise blame(run[-1], f"write each place as one word: {''.join(said)}")
    if len(counts) == 1:
        return [run[0].read_as(f"{said[0]}&")]
    return [one for count in counts for one in (count, count.read_as(f"{count.text}&"))]
