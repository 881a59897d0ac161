"""Counting by takadimi: the syllable says where in its beat a note is.

Source: Hoffman, Pelto and White, "Takadimi: A Beat-Oriented System of Rhythm Pedagogy",
Journal of Music Theory Pedagogy 10 (1996): ta ka di mi; in three ta ki da, in six
ta va ki di da ma.
"""

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.counting.count import Count, division

FOUR, SIX = ("ta", "ka", "di", "mi"), ("ta", "va", "ki", "di", "da", "ma")
SYLLABLES = {Fraction(place, 4): say for place, say in enumerate(FOUR)}
SYLLABLES |= {Fraction(place, 6): say for place, say in enumerate(SIX)}
UNNAMED = "·"


def by_takadimi(bar: Bar) -> tuple[Count, ...]:
    """Each beat in the finest of its plain divisions that is struck; silence is marked."""
    found = []
    for start, length, hits in bar.by_beat():
        struck = {(hit.at - start) / length for hit in hits}
        for share in sorted(_shown(struck, length) | struck):
            say = SYLLABLES.get(share, UNNAMED)
            found.append(Count(start + share * length, say, share not in struck, not share))
    return tuple(found)


def _shown(struck: set[Fraction], length: Fraction) -> set[Fraction]:
    """The places of the division that the struck ones need; halves or thirds at least."""
    parts = division(struck, length)
    return {Fraction(place, parts) for place in range(parts)} or {Fraction(0)}
