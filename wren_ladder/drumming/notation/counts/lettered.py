"""A sticking that is the whole groove: ``sticking R l r L R l r l, snare 4&``.

Capitals are accents, small letters ghosts; the right hand is on the hat, the left on the
snare, and what is named behind a comma is on that drum. Common practice, no source.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from quicktions import Fraction

from wren_ladder.drumming.chart import ChartError, Drum, Hand, Hit, Touch
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.notation.counts.tokens import Token, blame
from wren_ladder.drumming.notation.counts.words import ALIASES, LINES

LETTERS = "RLrl"
STEPS = (Fraction(1, 2), Fraction(1, 3), Fraction(1, 4), Fraction(1, 6))
USUAL = {Hand.RIGHT: Drum.HIHAT, Hand.LEFT: Drum.SNARE}


def is_lettered(words: Sequence[Token]) -> bool:
    """Whether a line of hands says how loud they are too, which only small letters do."""
    letters = "".join(word.text for word in _until_comma(words))
    return letters != letters.upper() and all(letter in LETTERS for letter in letters)


@dataclass(frozen=True, slots=True)
class Lettered:
    """``letters`` a ``step`` apart; those ``elsewhere``, by their places from 0, are not on the
    drum of their hand."""

    letters: str
    step: Fraction
    elsewhere: tuple[tuple[int, Drum], ...] = ()

    def hits(self, surfaces: Mapping[Hand, Drum] = USUAL) -> tuple[Hit, ...]:
        """A ghost is for the snare: a cymbal's small letter is a plain stroke."""
        exceptions, found = dict(self.elsewhere), []
        for place, letter in enumerate(self.letters):
            hand = Hand(letter.upper())
            drum = exceptions.get(place, surfaces[hand])
            touch = Touch.ACCENT if letter.isupper() else Touch.GHOST
            if touch is Touch.GHOST and drum is not Drum.SNARE:
                touch = Touch.NORMAL
            found.append(Hit(place * self.step, drum, touch, hand=hand))
        return tuple(found)


def read_lettered(words: Sequence[Token], frame: Positions) -> Lettered:
    """A lettered line; ChartError at the word that is wrong."""
    mine = _until_comma(words)
    letters = "".join(word.text for word in mine)
    try:
        step = frame.even_step(len(letters), "letters", STEPS)
    except ChartError as error:
        raise blame(mine[-1], error.text) if mine else error from error
    elsewhere = _exceptions(words[len(mine) :], step, frame)
    return Lettered(letters, step, tuple(sorted(elsewhere.items())))


def _until_comma(words: Sequence[Token]) -> list[Token]:
    found: list[Token] = []
    for word in words:
        if word.text == ",":
            break
        found.append(word)
    return found


def _exceptions(words: Sequence[Token], step: Fraction, frame: Positions) -> dict[int, Drum]:
    """ ", snare 4 4&, floor 3" by the letters' places."""
    found: dict[int, Drum] = {}
    drum = None
    for word in words:
        if word.text == ",":
            drum = None
        elif drum is None:
            name = word.text.lower()
            drum = LINES.get(ALIASES.get(name, name))
            if drum is None or drum.by_foot:
                raise blame(word, f"'{word.text}' is no drum for a hand; write: , snare 4 4&")
        else:
            try:
                places = frame.read(word.text)
            except ChartError as error:
                raise blame(word, error.text) from error
            for at in places:
                if (at / step).denominator != 1:
                    raise blame(word, f"no letter falls on {word.text}")
                found[int(at / step)] = drum
    return found
