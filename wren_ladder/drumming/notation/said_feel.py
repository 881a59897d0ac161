"""What words on a page say of tempo and feel: "Allegro (♩. = 60)", "half-time shuffle".

Names of note values and signs are those of any handbook of notation; which words swing is
common practice, no source.
"""

import re
from typing import Any, NamedTuple

from quicktions import Fraction

from wren_ladder.drumming.chart import ChartError, Tempo
from wren_ladder.drumming.chart.swing import QUAVER, SEMIQUAVER, STRAIGHT, Swing

MOST_LETTERS = 60  # of words that say how it is played; a longer text is about something else
# The SMuFL signs of notes stand for those of plain text.
SIGNS = {
    "\ue1d5": "♩",
    "\ue1d7": "♪",
    "\ue1d3": "𝅗𝅥",
    "\ue1e7": ".",
    "\ueca5": "♩",
    "\ueca7": "♪",
}
BEATS = {
    "♩": Fraction(1), "♪": Fraction(1, 2), "𝅘𝅥": Fraction(1), "𝅘𝅥𝅮": Fraction(1, 2),
    "𝅗𝅥": Fraction(2), "crotchet": Fraction(1), "quarter": Fraction(1),
    "quarter note": Fraction(1), "q": Fraction(1), "quaver": Fraction(1, 2),
    "eighth": Fraction(1, 2), "eighth note": Fraction(1, 2), "8th": Fraction(1, 2),
    "minim": Fraction(2), "half": Fraction(2), "half note": Fraction(2), "h": Fraction(2),
    "e": Fraction(1, 2),
}  # fmt: skip
BEAT = "|".join(sorted(map(re.escape, BEATS), key=len, reverse=True))
ABOUT = r"(?P<about>(?:circa|ca?\.?|approx\.?|about|~) ?)?"
NUMBER = rf"{ABOUT}(?P<bpm>\d{{2,3}})(?: ?(?:[-–—]|to) ?(?P<fast>\d{{2,3}}))?(?!\d)"
WAYS = (
    re.compile(rf"(?P<dotted>dotted )?(?<!\w)(?P<beat>{BEAT})(?P<dot> ?\.)? ?= ?{NUMBER}"),
    re.compile(rf"(?<!\d){NUMBER} ?b\.?p\.?m\b\.?"),
    re.compile(rf"\b(?:tempo|m\. ?m\.) ?[:=]? ?{NUMBER}"),
)
STRAIGHT_WORDS = re.compile(
    r"\b(straight|even (8ths|eighths|quavers|16ths)|not? sw(ing|ung))\b"
)
SEMIQUAVERS = re.compile(r"\b(16ths?|sixteenths?|semiquavers?|half[- ]time shuffle)\b")
SWINGS = re.compile(r"\b(swing|swung|shuffle|shuffled|swingfeel|triplet feel)\b")
NO_FEEL = re.compile(r"\bswing (your|the|low|arm|back|over|up|into)\b")
PAIRS = re.compile(r"(♫|♪♪|♪ ♪|𝅘𝅥𝅮𝅘𝅥𝅮) ?= ?\S*(♩|3|♪)")


class SaidTempo(NamedTuple):
    """``guess`` says what was not as plain as "♩ = 92"; empty where it was."""

    tempo: Tempo
    guess: str
    besides: str  # the words around it: "Allegro"


def said_tempo(text: str) -> SaidTempo | None:
    """The tempo that words name; of a range the slower."""
    said = _plain(text)
    found = next((one for one in (way.search(said.lower()) for way in WAYS) if one), None)
    if found is None:
        return None
    groups: dict[str, Any] = {"beat": "♩", "dot": None, "dotted": None}
    groups |= found.groupdict()
    beat = BEATS[groups["beat"]]
    if groups["dot"] or groups["dotted"]:
        beat *= Fraction(3, 2)
    about, bpm, fast = groups["about"], groups["bpm"], groups["fast"]
    try:
        tempo = Tempo(beat, int(bpm))
    except ChartError:
        return None
    guess = _guess(about, bpm, fast)
    first, last = found.span()
    besides = " ".join(re.sub(r"[()]", " ", f"{said[:first]} {said[last:]}").split())
    return SaidTempo(tempo, guess, besides.strip(" ,;:=."))


def said_of_number(text: str) -> str:
    """What is guessed where a metronome mark says "c. 96" or "96-104" behind its beat."""
    found = re.fullmatch(NUMBER, _plain(text).lower())
    return _guess(found["about"], found["bpm"], found["fast"]) if found else ""


def _guess(about: str | None, bpm: str, fast: str | None) -> str:
    if fast:
        return f"the tempo goes from {bpm} to {fast}; the slower is read"
    return f"the tempo is about {bpm}; read as that" if about else ""


def said_swing(text: str) -> Swing | None:
    """How words say that pairs are played; None where they say nothing of it."""
    said = _plain(text).lower()
    try:
        return Swing.parse(said.strip("() "))
    except ChartError:
        pass
    if len(said) > MOST_LETTERS or NO_FEEL.search(said):
        return None
    if STRAIGHT_WORDS.search(said):
        return STRAIGHT
    if SWINGS.search(said) or PAIRS.search(said):
        return Swing(SEMIQUAVER if SEMIQUAVERS.search(said) else QUAVER)
    return None


def _plain(text: str) -> str:
    for sign, plain in SIGNS.items():
        text = text.replace(sign, plain)
    return " ".join(text.split())
