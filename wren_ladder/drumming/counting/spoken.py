"""What a syllable of the count is when it is heard: the name of its sample.

The samples are made beforehand; what a teacher made up has none and is left out.
"""

from wren_ladder.drumming.counting.numbers import SAID
from wren_ladder.drumming.counting.takadimi import FOUR, SIX
from wren_ladder.drumming.style import WORDS

MOST = 16  # the highest number that a bar counts to
NUMBERS = {str(number): str(number) for number in range(1, MOST + 1)}
AND = "and"


def _samples() -> dict[str, str]:
    syllables = {*SAID.values(), *FOUR, *SIX}
    syllables |= {part for _, word in WORDS for part in word.split("-") if part}
    named = {say: say.lower() for say in syllables if say.isalpha()}
    return NUMBERS | named | {"&": AND}


# What is said -> the name of the sample that says it.
SAMPLES = _samples()
