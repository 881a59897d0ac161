"""Counting by words: one spoken word for what fills a beat, a syllable for each note.

The words are the teacher's; beats whose figure has no word are counted by numbers.
"""

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.counting.count import Count
from wren_ladder.drumming.counting.numbers import by_numbers
from wren_ladder.drumming.description.figures import name_figure

REST = "rest"


def by_words(bar: Bar, words: tuple[tuple[str, str], ...]) -> tuple[Count, ...]:
    """``words`` are (figure, word with its syllables parted by hyphens)."""
    spoken = dict(words)
    numbers = by_numbers(bar)
    found: list[Count] = []
    for start, length, hits in bar.by_beat():
        onsets = sorted({hit.at for hit in hits})
        said = _syllables(spoken, {at - start for at in onsets}, length)
        if not onsets and said and not bar.rolls_through(start):
            found.append(Count(start, said[0], True, True))
        elif onsets and len(said) == len(onsets):
            found += (
                Count(at, say, False, place == 0)
                for place, (at, say) in enumerate(zip(onsets, said, strict=True))
            )
        else:
            found += (count for count in numbers if start <= count.at < start + length)
    return tuple(found)


def _syllables(spoken: dict[str, str], onsets: set[Fraction], length: Fraction) -> list[str]:
    word = spoken.get(name_figure(onsets, length), "")
    return [part for part in word.split("-") if part]
