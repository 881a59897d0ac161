"""A warm-up of some minutes: one sheet for one grade, slow first, the same for some weeks.

What is on it is common practice, no source; the shares are the house's.
"""

import random
from collections.abc import Container
from dataclasses import dataclass, replace
from datetime import date
from functools import cache

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Chart, Meter, Tempo
from wren_ladder.drumming.grades import HOUSE_SYLLABUS, Syllabus, hardest
from wren_ladder.drumming.judging.syllabus import names_in
from wren_ladder.drumming.notation.counts import read_bar
from wren_ladder.drumming.study import study

FOUR = Meter(4, 4)
A_SHEET = 16  # lines; more are no sheet
LEAST, MOST = 4, 20  # times through each bar, before the next
SLOWEST, FASTEST, MORE = 60, 84, 4  # BPM before grade 1, at the most, and for each grade


@dataclass(frozen=True, slots=True)
class WarmUpLine:
    """What a line of the sheet is for, and its typed bar."""

    name: str
    text: str

    @property
    def bar(self) -> Bar:
        return read_bar(self.text, "1", FOUR)

    @property
    def asks(self) -> frozenset[str]:
        """What of the table of grades is in it."""
        return _asks(self)

    def grade(self, syllabus: Syllabus = HOUSE_SYLLABUS) -> int:
        return hardest(self.asks, syllabus)


@cache
def _asks(line: WarmUpLine) -> frozenset[str]:
    return frozenset(names_in(study(Chart("", (line.bar,)))))


LINES = (
    WarmUpLine("crotchets hand to hand", "snare quarters\nhands RLRL"),
    WarmUpLine("kick and snare", "kick 1 3\nsnare 2 4\nhands RL"),
    WarmUpLine("hat and kick", "hat quarters\nkick 1 3"),
    WarmUpLine("singles", "snare 8ths\nhands RLRLRLRL"),
    WarmUpLine("the first beat, slowly", "hat 8ths\nsnare 2 4\nkick 1 3"),
    WarmUpLine("four on every other beat", "snare 1* 2 3* 4"),
    WarmUpLine("alternating feet", "kick 1 3\nhat foot 2 4"),
    WarmUpLine("singles over the feet", "snare 8ths\nkick 1 3\nhat foot 2 4\nhands RLRLRLRL"),
    WarmUpLine("quavers and crotchets", "snare 1 1& 2 3 3& 4"),
    WarmUpLine("round the kit", "snare 1\nhigh 2\nmid 3\nfloor 4\nhands RLRL"),
    WarmUpLine("open and closed hat", "hat 1 2 3 4, open 2& 4&\nkick 1 3"),
    WarmUpLine("singles in semiquavers", "snare 16ths\nhands RLRLRLRLRLRLRLRL"),
    WarmUpLine("paradiddles", "snare 8ths\nhands RLRRLRLL"),
    WarmUpLine("doubles", "snare 8ths\nhands RRLLRRLL"),
    WarmUpLine("accents on doubles", "snare 8ths, accent 1 2 3 4\nhands RRLLRRLL"),
    WarmUpLine("flams from both hands", "snare flam 1 2 3 4\nhands RLRL"),
    WarmUpLine(
        "paradiddles over the feet", "snare 8ths\nkick 1 3\nhat foot 2 4\nhands RLRRLRLL"
    ),
    WarmUpLine(
        "paradiddles round the kit",
        "snare 16ths 1\nhigh 16ths 2\nmid 16ths 3\nfloor 16ths 4\nhands RLRRLRLLRLRRLRLL",
    ),
    WarmUpLine("drags from both hands", "snare drag 1 2 3 4\nhands RLRL"),
    WarmUpLine("a drag inside the beat", "snare 1 1& 2 3 3& 4, drag 2 4"),
    WarmUpLine("a buzz over the pulse", "snare buzz 1-2, 3 4\nkick 1 2 3 4"),
    WarmUpLine("ruffs round the kit", "snare ruff 1\nhigh 2\nmid 3\nfloor ruff 4"),
    WarmUpLine("flam taps", "snare 8ths, flam 1 2 3 4\nhands RRLLRRLL"),
    WarmUpLine("nine-stroke rolls", "snare roll 9 1-2, accent 2, roll 9 3-4, accent 4"),
    WarmUpLine("sextuplets", "snare 1 3, sextuplets 2 4"),
    WarmUpLine(
        "doubles round the kit",
        "snare 16ths 1\nhigh 16ths 2\nmid 16ths 3\nfloor 16ths 4\nhands RRLLRRLLRRLLRRLL",
    ),
)


@dataclass(frozen=True, slots=True)
class WarmUp:
    """The lines in order, each so many times through at one tempo."""

    lines: tuple[WarmUpLine, ...]
    tempo: Tempo
    times: int

    @property
    def seconds(self) -> Fraction:
        """By the metronome, to the beat."""
        return len(self.lines) * self.times * FOUR.length * 60 / self.tempo.bpm

    @property
    def chart(self) -> Chart:
        bars = []
        for number, line in enumerate(self.lines, 1):
            bars.append(replace(line.bar, number=str(number), section=line.name))
        bars[0] = replace(bars[0], tempo=self.tempo)
        return Chart("Warm-up", tuple(bars))


def _lines_that_fill(bars: Fraction, most: int) -> int:
    """How many of ``most`` lines, gone through equally often, come nearest to so many bars."""
    many = max(1, min(most, A_SHEET, int(bars / LEAST)))
    fewest = max(1, many * 2 // 3)

    def filled(lines: int) -> int:
        return lines * max(LEAST, min(MOST, int(bars / lines)))

    fitting = [lines for lines in range(fewest, many + 1) if filled(lines) <= bars]
    return max(fitting, key=lambda lines: (filled(lines), lines), default=many)


def sheet_number(day: date, weeks: int) -> int:
    """The same number for so many weeks, from a Monday on, then the next; a seed for
    ``warm_up``."""
    return (day.toordinal() - 1) // (7 * weeks)  # day 1 of the calendar is a Monday


def warm_up(
    grade: int,
    minutes: int,
    seed: int = 0,
    asked: Container[str] = frozenset(),
    syllabus: Syllabus = HOUSE_SYLLABUS,
) -> WarmUp:
    """As many lines as the minutes hold, what the grade has, the easiest first; where there are
    more, the seed chooses among them. The hardest of the grade is always there, and for half of
    what is left go first the lines with a technique of ``asked``, what the pieces ask for."""
    tempo = Tempo(Fraction(1), min(FASTEST, SLOWEST + MORE * grade))
    had = [line for line in LINES if line.grade(syllabus) <= grade]
    once = FOUR.length * 60 / tempo.bpm
    room = _lines_that_fill(minutes * 60 / once, len(had))
    if len(had) > room:
        newest = max(had, key=lambda line: (line.grade(syllabus), LINES.index(line)))
        others = [line for line in had if line is not newest]
        dice = random.Random(seed)
        dice.shuffle(others)
        wanted = [line for line in others if any(one in asked for one in line.asks)]
        first = wanted[: room // 2]
        rest = [line for line in others if line not in first]
        kept = {newest, *[*first, *rest][: room - 1]}
        had = [line for line in had if line in kept]
    times = max(LEAST, min(MOST, int(minutes * 60 / (once * len(had)))))
    return WarmUp(tuple(sorted(had, key=lambda line: line.grade(syllabus))), tempo, times)
