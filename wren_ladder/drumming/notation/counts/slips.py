"""What was probably meant by a word that is not understood.

Never a far neighbour: one letter wrong, missing, doubled or swapped is a slip of the finger;
more is another word.
"""

from collections.abc import Iterable

# Words behind a drum's name, and what to write.
SAID_OF_A_DRUM = {
    "rest": "rests are not typed: what is not played is silent",
    "rests": "rests are not typed: what is not played is silent",
    "loud": "write accent, or strong: snare accent 2",
    "soft": "write ghost, for a very soft note: snare ghost 2a",
    "quiet": "write ghost, for a very soft note: snare ghost 2a",
    "hard": "write accent, or strong: snare accent 2",
    "twice": "name both places: 2 2&",
    "double": "name both places: 2 2&; a roll is roll 5 3-4",
    "right": "a written sticking is its own line: hands R L R R",
    "left": "a written sticking is its own line: hands R L R R",
    "r": "a written sticking is its own line: hands R L R R",
    "l": "a written sticking is its own line: hands R L R R",
    "minim": "say how long a note lasts: 1 for 2",
    "minims": "say how long a note lasts: 1 for 2, 3 for 2",
    "semibreve": "say how long a note lasts: 1 for 4",
    "half": "half is a hat half open; half a bar of quavers is 8ths 1-2",
    "backbeat": "name the counts: snare 2 4",
    "with": "two drums that sound together have a line each",
    "x": "name the counts that are struck: 1 2 3 4",
    "choke": "write it as a note on the bar: note choke the crash",
    "except": "name the counts that are played: 8ths 1-3",
    "bar": "a bar begins on a line of its own: bar 2",
    "bars": "bars begin on a line of their own: bars 2-4 as 1",
    "repeat": "a repeat is a line of its own: repeat end 2",
    "swing": "the feel is a line of its own: swing 8ths",
}


def near(word: str, known: Iterable[str]) -> str:
    """The word that is one slip of the finger away; "" if none or a short word could be any."""
    if len(word) < 3:
        return ""
    return next((other for other in known if other != word and _one_slip(word, other)), "")


def _one_slip(one: str, other: str) -> bool:
    if abs(len(one) - len(other)) > 1 or one[0] != other[0]:
        return False
    same = 0
    while same < min(len(one), len(other)) and one[same] == other[same]:
        same += 1
    left, right = one[same:], other[same:]
    swapped = left[:2] == right[:2][::-1] and left[2:] == right[2:] and len(left) > 1
    return left[1:] == right[1:] or left[1:] == right or left == right[1:] or swapped
