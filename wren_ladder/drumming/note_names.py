"""British names of note values as Americans say them.

Source: the two sets of names are those of any dictionary of music; common practice, no source.
"""

import re

AMERICAN = {
    "semibreve": "whole note",
    "minim": "half note",
    "crotchet": "quarter note",
    "quaver": "eighth note",
    "semiquaver": "sixteenth note",
    "demisemiquaver": "thirty-second note",
    "hemidemisemiquaver": "sixty-fourth note",
}
NAMES = re.compile(rf"\b({'|'.join(AMERICAN)})(s?)( rests?\b)?\b", re.IGNORECASE)


def in_american(text: str) -> str:
    """ "two quavers and a crotchet rest" -> "two eighth notes and a quarter rest"."""
    return NAMES.sub(_american, text)


def _american(found: re.Match) -> str:
    name, plural, rest = found.groups()
    said = AMERICAN[name.lower()]
    said = said.removesuffix(" note") + rest if rest else said + plural
    return said[0].upper() + said[1:] if name[0].isupper() else said
