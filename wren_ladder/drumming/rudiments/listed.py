"""The forty rudiments of the international list, in its four families.

Source: Percussive Arts Society, "International Drum Rudiments" (1984), from memory. The grade
of each stands in the house's table, ``grades.py``.
"""

from quicktions import Fraction

from wren_ladder.drumming.rudiments.rudiment import Family, Rudiment, rudiment

QUARTER, EIGHTH, THIRD, SIXTH = (Fraction(1, n) for n in (4, 8, 3, 6))


def _doubles(count: int, first: str = "R") -> str:
    """So many strokes two by two: 6 -> "R R L L R R"."""
    hands = (first, "L" if first == "R" else "R")
    return " ".join(hands[index // 2 % 2] for index in range(count))


def _roll(name: str, strokes: int, places: int) -> Rudiment:
    """A counted roll: doubles, and its last note accented, where the hand goes over."""
    doubles = strokes - 1
    last = "R" if doubles // 2 % 2 == 0 else "L"
    pattern = f"{_doubles(doubles)} >{last}"
    rests = " -" * (places - strokes)
    alternates = last == "R"
    return rudiment(
        name, Family.ROLLS, EIGHTH, pattern + rests, alternates=alternates, apart=True
    )


def _same_lead(name: str, step: Fraction, pattern: str, apart=False) -> Rudiment:
    """A roll that begins with the same hand every time."""
    return rudiment(name, Family.ROLLS, step, pattern, alternates=False, apart=apart)


ROLLS = (
    rudiment("single stroke roll", Family.ROLLS, QUARTER, "R L R L R L R L", alternates=False),
    rudiment(
        "single stroke four",
        Family.ROLLS,
        SIXTH,
        "R L R >L - -",
        alternates=False,
        apart=True,
    ),
    rudiment(
        "single stroke seven", Family.ROLLS, SIXTH, "R L R L R L >R - - - - -", apart=True
    ),
    rudiment("multiple bounce roll", Family.ROLLS, Fraction(1), "R~"),
    rudiment("triple stroke roll", Family.ROLLS, SIXTH, "R R R L L L", alternates=False),
    rudiment("double stroke open roll", Family.ROLLS, EIGHTH, _doubles(8), alternates=False),
    _roll("five stroke roll", 5, 8),
    rudiment(
        "six stroke roll",
        Family.ROLLS,
        EIGHTH,
        ">R - L L R R >L -",
        alternates=False,
        apart=True,
    ),
    _roll("seven stroke roll", 7, 8),
    _roll("nine stroke roll", 9, 16),
    rudiment(
        "ten stroke roll",
        Family.ROLLS,
        EIGHTH,
        f"{_doubles(8)} >R - >L - - - - -",
        alternates=False,
        apart=True,
    ),
    _roll("eleven stroke roll", 11, 16),
    _roll("thirteen stroke roll", 13, 16),
    _roll("fifteen stroke roll", 15, 16),
    _roll("seventeen stroke roll", 17, 24),
)
DIDDLES = (
    rudiment("single paradiddle", Family.DIDDLES, QUARTER, ">R L R R"),
    rudiment("double paradiddle", Family.DIDDLES, QUARTER, ">R L R L R R"),
    rudiment("triple paradiddle", Family.DIDDLES, QUARTER, ">R L R L R L R R"),
    rudiment(
        "single paradiddle-diddle", Family.DIDDLES, QUARTER, ">R L R R L L", alternates=False
    ),
)
FLAMS = (
    rudiment("flam", Family.FLAMS, Fraction(1), "lR"),
    rudiment("flam accent", Family.FLAMS, THIRD, ">lR L R"),
    rudiment("flam tap", Family.FLAMS, QUARTER, ">lR R"),
    rudiment("flamacue", Family.FLAMS, QUARTER, "lR >L R L lR - - -"),
    rudiment("flam paradiddle", Family.FLAMS, QUARTER, ">lR L R R"),
    rudiment("single flammed mill", Family.FLAMS, QUARTER, ">lR R L R"),
    rudiment("flam paradiddle-diddle", Family.FLAMS, QUARTER, ">lR L R R L L"),
    rudiment("pataflafla", Family.FLAMS, QUARTER, ">lR L R >rL", alternates=False),
    rudiment("Swiss army triplet", Family.FLAMS, THIRD, ">lR R L", alternates=False),
    rudiment("inverted flam tap", Family.FLAMS, QUARTER, ">lR L"),
    rudiment("flam drag", Family.FLAMS, SIXTH, ">lR - L L R -"),
)
DRAGS = (
    rudiment("drag", Family.DRAGS, Fraction(1), "llR"),
    rudiment("single drag tap", Family.DRAGS, QUARTER, "llR >L"),
    rudiment("double drag tap", Family.DRAGS, QUARTER, "llR llR >L"),
    rudiment("lesson 25", Family.DRAGS, QUARTER, "llR L >R -", apart=True),
    rudiment("single dragadiddle", Family.DRAGS, EIGHTH, ">R R L - R - R -"),
    rudiment("drag paradiddle no. 1", Family.DRAGS, QUARTER, ">R - llR L R R"),
    rudiment("drag paradiddle no. 2", Family.DRAGS, QUARTER, ">R - llR - llR L R R"),
    rudiment("single ratamacue", Family.DRAGS, THIRD, "llR L R >L - -"),
    rudiment("double ratamacue", Family.DRAGS, THIRD, "llR - - llR L R >L - -"),
    rudiment("triple ratamacue", Family.DRAGS, THIRD, "llR - - llR - - llR L R >L - -"),
)
RUDIMENTS: tuple[Rudiment, ...] = (*ROLLS, *DIDDLES, *FLAMS, *DRAGS)
_BY_NAME = {one.name: one for one in RUDIMENTS}


def by_name(name: str) -> Rudiment:
    """KeyError if no rudiment has that name."""
    return _BY_NAME[name]
