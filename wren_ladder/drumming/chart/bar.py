"""One bar of the page, with its marks."""

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Self

from quicktions import Fraction

from wren_ladder.drumming.chart.hit import Hit
from wren_ladder.drumming.chart.marks import GRADUAL, Mark
from wren_ladder.drumming.chart.meter import Meter
from wren_ladder.drumming.chart.problems import ChartError
from wren_ladder.drumming.chart.signs import Jump
from wren_ladder.drumming.chart.swing import Swing
from wren_ladder.drumming.chart.tempo import Tempo
from wren_ladder.drumming.chart.times import Times

PICKUP = "0"
MOST_REPEAT_PASSES = 16
MOST_NOTE = 200  # characters


@dataclass(frozen=True, slots=True)
class Bar:
    """A bar as printed; hits are kept in time order, top of the page first."""

    number: str  # as printed: "12", "X1"; the pick-up is "0"
    meter: Meter
    hits: tuple[Hit, ...] = ()
    # Crotchets; where none is given it is the whole metre, so that it is never None afterwards.
    length: Fraction = None  # type: ignore[assignment]
    section: str = ""
    repeat_start: bool = False
    repeat_passes: int = 0  # 2 or more where a repeat ends here, else 0
    vamp: bool = False  # this repeat goes on until somebody says so; the passes are a guess
    times: Times | None = None  # not played every time it comes
    tempo: Tempo | None = None  # a tempo mark that holds from here on
    swing: Swing | None = None  # played swung or straight from here on
    endings: tuple[int, ...] = ()  # the passes on which an ending with this bar is played
    segno: bool = False
    coda: bool = False
    to_coda: bool = False
    segno_2: bool = False  # a page with two signs: D.S.S. leads to the second
    coda_2: bool = False
    to_coda_2: bool = False
    fine: bool = False
    jump: Jump | None = None
    marks: tuple[Mark, ...] = ()
    again: int = 0  # written as a sign that repeats the bar 1 or 2 before it
    crash_again: bool = False  # a crash on the first beat is struck again by the sign
    note: str = ""  # the teacher's own words on this bar

    def __post_init__(self) -> None:
        full = self.meter.length
        object.__setattr__(self, "length", full if self.length is None else self.length)
        if not 0 < self.length <= full:
            raise ChartError(
                f"the bar lasts {self.length} crotchets, but {self.meter} holds {full}",
                bar=self.number,
            )
        if self.repeat_passes and not 2 <= self.repeat_passes <= MOST_REPEAT_PASSES:
            raise ChartError(f"a repeat has 2 to {MOST_REPEAT_PASSES} passes", bar=self.number)
        if self.vamp and not self.repeat_passes:
            raise ChartError("a vamp is a repeat; say where it ends", bar=self.number)
        if any(not 1 <= number <= MOST_REPEAT_PASSES for number in self.endings):
            raise ChartError(
                f"an ending is for passes 1 to {MOST_REPEAT_PASSES}", bar=self.number
            )
        if not 0 <= self.again <= 2:
            raise ChartError("a sign repeats one bar or two", bar=self.number)
        object.__setattr__(self, "note", " ".join(self.note.split())[:MOST_NOTE].strip())
        object.__setattr__(self, "endings", tuple(sorted(set(self.endings))))
        hits = sorted(self.hits, key=lambda hit: (_place(hit.at), hit.drum.page_order))
        object.__setattr__(self, "hits", tuple(hits))
        marks = sorted(self.marks, key=lambda mark: (mark.at, mark.kind, mark.text))
        object.__setattr__(self, "marks", tuple(marks))
        self._check_hits()
        self._check_marks()

    def _check_marks(self) -> None:
        seen = set()
        for mark in self.marks:
            if not 0 <= mark.at < self.length:
                raise ChartError(f"the {mark.kind} lies outside the bar", bar=self.number)
            # Slower and faster at once is no tempo.
            kind = "change of tempo" if mark.kind in GRADUAL else mark.kind
            if (mark.at, kind) in seen:
                beat = self.beat_of(mark.at)
                raise ChartError(f"two {kind}s at once", bar=self.number, beat=beat)
            seen.add((mark.at, kind))

    def _check_hits(self) -> None:
        struck = set()
        end = _place(self.length)
        for hit in self.hits:
            place = _place(hit.at)
            if not 0 <= place < end:
                raise ChartError(
                    f"{hit.drum.spoken} lies {hit.at} crotchets from the bar line, "
                    f"outside this bar of {self.length}",
                    bar=self.number,
                )
            if hit.roll and hit.at + hit.roll.length > self.length:
                raise ChartError(
                    f"the roll on {hit.drum.spoken} runs past the bar line; "
                    "end it there and write its last note in the next bar",
                    bar=self.number,
                    beat=self.beat_of(hit.at),
                )
            if hit.roll and hit.roll.tied and hit.at + hit.roll.length != self.length:
                raise ChartError(
                    f"the roll on {hit.drum.spoken} is tied, but ends before the bar line",
                    bar=self.number,
                    beat=self.beat_of(hit.at),
                )
            if (place, hit.drum.surface) in struck:
                raise ChartError(
                    f"{hit.drum.spoken}: {hit.drum.surface} is struck twice at once",
                    bar=self.number,
                    beat=self.beat_of(hit.at),
                )
            struck.add((place, hit.drum.surface))

    @property
    def pickup(self) -> bool:
        return self.number == PICKUP

    @property
    def music(self) -> tuple[Hit, ...]:
        """What is struck, however long the page writes it."""
        return tuple(replace(hit, written=None) if hit.written else hit for hit in self.hits)

    @property
    def count_offset(self) -> Fraction:
        """How far into the count the bar starts, in crotchets: a pick-up ends its bar."""
        return self.meter.length - self.length if self.pickup else Fraction(0)

    @property
    def road_words(self) -> tuple[str, ...]:
        """Its signs of the road in words, as they stand in the bar from left to right."""
        return tuple(
            word
            for word, there in (
                ("segno", self.segno),
                ("segno 2", self.segno_2),
                ("coda", self.coda),
                ("coda 2", self.coda_2),
                ("To Coda", self.to_coda),
                ("To Coda 2", self.to_coda_2),
                ("Fine", self.fine),
                (str(self.jump), self.jump),
            )
            if there
        )

    def beat_of(self, at: Fraction) -> str:
        """The count that ``at`` falls in, as said: "3"."""
        return str(self.meter.count_at(at + self.count_offset)[0])

    @property
    def beats(self) -> tuple[tuple[Fraction, Fraction], ...]:
        """(start, length) of each beat sounding in this bar, in crotchets from its start."""
        return _beats(self.meter, self.count_offset, self.length)

    def rolls_through(self, at: Fraction) -> bool:
        """Does a roll that began before this time still sound at it?"""
        return any(hit.at < at < hit.end for hit in self.hits if hit.roll)

    def in_notes(self, **changes) -> Self:
        """The bar with ``changes``, written in notes and no longer as a repeat sign."""
        return replace(self, again=0, crash_again=False, **changes)

    def by_beat(self) -> tuple[tuple[Fraction, Fraction, tuple[Hit, ...]], ...]:
        """(start, length, hits) of each beat; every hit is in exactly one."""
        found, hits, index = [], self.hits, 0
        for start, length in self.beats:
            first, end = index, start + length
            while index < len(hits) and hits[index].at < end:
                index += 1
            found.append((start, length, hits[first:index]))
        return tuple(found)


def _place(at: Fraction) -> float:
    """To sort and compare by, many times faster than by the fraction; places of notes are far
    coarser than floats, so that different ones stay different."""
    return at.numerator / at.denominator


@lru_cache(maxsize=256)
def _beats(meter: Meter, offset: Fraction, length: Fraction) -> tuple:
    """The metre's beats as far as they sound; asked for many times a bar."""
    found = []
    for start, beat in zip(meter.beat_starts, meter.groups, strict=True):
        begin = max(start - offset, Fraction(0))
        end = min(start + beat - offset, length)
        if begin < end:
            found.append((begin, end - begin))
    return tuple(found)
