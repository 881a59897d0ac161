"""Spoken positions inside a bar: "3", "3e&a", "4*", "1t", and patterns such as 8ths."""

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache

from quicktions import Fraction

from wren_ladder.drumming.chart.bar import Bar
from wren_ladder.drumming.chart.meter import Meter
from wren_ladder.drumming.chart.problems import ChartError
from wren_ladder.drumming.wording import listed

# Crotchets from one stroke to the next.
STEPS = {
    "quarters": Fraction(1),
    "8ths": Fraction(1, 2),
    "16ths": Fraction(1, 4),
    "triplets": Fraction(1, 3),
    "quarter-triplets": Fraction(2, 3),
    "sextuplets": Fraction(1, 6),
    "32nds": Fraction(1, 8),
}
PATTERNS = (*STEPS, "beats", "offbeats")  # the last two follow the metre
OVER_TWO = "quarter-triplets"  # three over two crotchets, as often as two are whole
# Parts of one count, by the syllable that names them.
PARTS = {
    "": Fraction(0),
    "e": Fraction(1, 4),
    "&": Fraction(1, 2),
    "a": Fraction(3, 4),
    "t": Fraction(1, 3),
    "l": Fraction(2, 3),
}
SYLLABLES = {part: syllable for syllable, part in PARTS.items()}
POSITION = re.compile(r"(\d{1,2})(?:(\*)|([e&atl]+)|\+(\d{1,3})/(\d{1,3}))?")
# Parts of a crotchet that every format has places for: 64ths, ninths, fives, sevens.
FINEST = 20_160
SPAN = re.compile(r"\d{1,2}-\d{1,2}")
END = "end"


@dataclass(frozen=True, slots=True)
class Positions:
    """The bar that positions are counted in; times in crotchets from where it starts."""

    meter: Meter
    offset: Fraction  # how far into the count a pick-up starts
    length: Fraction

    @classmethod
    def of(cls, bar: Bar) -> "Positions":
        return cls(bar.meter, bar.count_offset, bar.length)

    def read(self, word: str) -> list[Fraction]:
        """The positions one word names; ChartError if it names none in this bar."""
        match = POSITION.fullmatch(word)
        if not match:
            if SPAN.fullmatch(word):
                text = f"'{word}': from one count to another goes with a pattern: 8ths {word}"
                raise ChartError(text)
            raise ChartError(f"'{word}' is no position; write 2, 2&, 2e, 2a or 2e&a")
        count, star, syllables, top, bottom = match.groups()
        if star:
            parts = list("e&a") if self.meter.unit < 8 else ["&"]
            offsets = [PARTS[part] for part in ["", *parts]]
        elif top:
            if not 0 < int(top) < int(bottom):
                raise ChartError(f"'{word}': the part after + lies between 0 and 1")
            offsets = [Fraction(int(top), int(bottom))]
        else:
            offsets = [PARTS[syllable] for syllable in syllables or [""]]
        first = int(count) - 1
        return [self._inside(word, first + offset) for offset in offsets]

    def _inside(self, word: str, counts: Fraction) -> Fraction:
        at = counts * self.meter.count_length - self.offset
        if FINEST % at.denominator:
            raise ChartError(f"'{word}' is finer than notes are written; 1+1/64 is the finest")
        if not 0 <= at < self.length:
            first = 1 + int(self.offset / self.meter.count_length)
            raise ChartError(
                f"'{word}' lies outside the bar; in {self.meter} "
                f"it counts from {first} to {self.last_count}"
            )
        return at

    def even_step(self, many: int, what: str, steps: Sequence[Fraction]) -> Fraction:
        """How far ``many`` of something lie apart that fill this bar evenly, one of ``steps``
        in crotchets; ChartError with how many would."""
        step = self.length / many if many else None
        if step is not None and step in steps:
            return step
        fitting = (self.length / one for one in steps)
        fits = " or ".join(str(one) for one in fitting if one.denominator == 1)
        raise ChartError(f"{many} {what} do not fill this bar; write {fits}")

    def say_all(self, times: Iterable[Fraction]) -> str:
        """ "3e, 3& and 4": places in the order they come, each once."""
        return listed([self.say(at) for at in sorted(set(times))])

    @property
    def last_count(self) -> int:
        """The last count that sounds in this bar."""
        ends = (self.offset + self.length) / self.meter.count_length
        return -(-ends.numerator // ends.denominator)

    def read_end(self, word: str) -> Fraction:
        """Where a roll stops: a position, or "end" for the bar line."""
        return self.length if word == END else self.read(word)[0]

    def say(self, at: Fraction) -> str:
        """The word for a position: 5/4 -> "2e"; 1/8 -> "1+1/8" where no syllable fits."""
        count, part = self.split(at)
        return f"{count}{SYLLABLES[part]}" if part in SYLLABLES else f"{count}+{part}"

    def split(self, at: Fraction) -> tuple[int, Fraction]:
        """(count from 1, part of it from 0 up to 1)."""
        return self.meter.count_at(at + self.offset)

    # The same few metres and words come back in every bar; a frame is a small value.
    @lru_cache(maxsize=512)  # noqa: B019
    def pattern(self, name: str) -> tuple[Fraction, ...]:
        """Where a pattern word strikes in this bar."""
        count = self.meter.count_length
        if name == "beats":
            full = list(self.meter.beat_starts)
        elif name == "offbeats":
            if self.meter.unit > 4:
                raise ChartError(f"'offbeats' wants a metre over 4, not {self.meter}")
            full = [(2 * k + 1) * count / 2 for k in range(self.meter.beats)]
        else:
            step = STEPS[name]
            whole = self.meter.length // 2 * 2 if name == OVER_TWO else self.meter.length
            full = [at for k in range(int(whole / step) + 1) if (at := k * step) < whole]
        moved = (at - self.offset for at in full)
        return tuple(at for at in moved if 0 <= at < self.length)

    @lru_cache(maxsize=2048)  # noqa: B019
    def pattern_between(self, name: str, first: int, last: int) -> tuple[Fraction, ...]:
        """A pattern from one count to the end of another, as in "8ths 1-3"."""
        return tuple(at for at in self.pattern(name) if first <= self.split(at)[0] <= last)

    def pattern_from(self, name: str, start: Fraction) -> tuple[Fraction, ...]:
        """A pattern from a place to the bar line."""
        return tuple(at for at in self.pattern(name) if at >= start)


def spoken_place(bar: Bar, at: Fraction) -> str:
    """A place of a bar as a player counts it, "1a" or "4&": whatever is told of a stroke says
    it so, never by the beat in which it lies."""
    return Positions.of(bar).say(at)
