"""What comes out of reading a file: the chart, and how every part of it was understood.

A reader never decides in silence. It says which drum it took each kind of note for and
why, and bar by bar what it guessed and what it left out, so that a teacher can correct it.
"""

from collections import Counter
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum
from typing import NamedTuple

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Chart, Drum, Problem
from wren_ladder.drumming.chart.bar import PICKUP
from wren_ladder.drumming.wording import Coded

BY_PLACE = "by its place on the staff"  # a guess: nothing in the file names the drum
LEFT_OUT = ""  # chosen for notes that are not to be read


class NoteKind(StrEnum):
    GUESSED = "guessed"
    LEFT_OUT = "left out"


@dataclass(frozen=True, slots=True)
class Part:
    """A part of a score; ``chosen`` parts are read, together as one player's kit."""

    key: str
    name: str
    percussion: bool
    chosen: bool


@dataclass(frozen=True, slots=True)
class Source:
    """One kind of note in the file, and the drum it was read as; None is left out."""

    key: str
    said: str  # "Acoustic Snare", "a cross on G5", "key 38"
    drum: Drum | None
    why: str  # "by its name"
    notes: int
    guessed: bool = False  # nothing in the file names it, and nobody has chosen


@dataclass(frozen=True, slots=True)
class BarReport:
    """What became of one bar of the file."""

    number: str
    taken: str
    guessed: tuple[str, ...]
    left_out: tuple[str, ...]
    doubtful: tuple[Fraction, ...] = ()  # the places of notes of which something was guessed

    @property
    def whole(self) -> bool:
        """True where nothing was guessed and nothing left out."""
        return not self.guessed and not self.left_out


@dataclass(frozen=True, slots=True)
class Offer:
    """Another way to read the file, which only a person can choose."""

    code: str
    said: str
    taken: bool


@dataclass(frozen=True, slots=True)
class Way:
    """One of the ways to take a thing; its code is unlike those of every other choice."""

    code: str
    said: str


def ways_of(codes: Iterable[Coded]) -> list[Way]:
    """Each by its code and its label."""
    return [Way(one, one.label) for one in codes]


@dataclass(frozen=True, slots=True)
class Choice:
    """A thing that a file leaves open, and the ways to take it, of which one is chosen."""

    name: str  # "first beat"
    ways: tuple[Way, ...]
    chosen: str  # the code of one of them

    @classmethod
    def of(cls, name: str, ways: Sequence[Way], usual: str, taken: Collection[str]) -> "Choice":
        """With the way that a person has taken, or else the usual one."""
        mine = [way.code for way in ways if way.code in taken]
        return cls(name, tuple(ways), mine[-1] if mine else usual)


class Heard(NamedTuple):
    """A stroke as a file has it, before anything is put on a grid."""

    seconds: float
    drum: Drum
    strength: float  # from 0 to 1


@dataclass(frozen=True, slots=True)
class Reading:
    chart: Chart
    problems: tuple[Problem, ...]
    sources: tuple[Source, ...] = ()
    parts: tuple[Part, ...] = ()
    report: tuple[BarReport, ...] = ()
    offers: tuple[Offer, ...] = ()
    choices: tuple[Choice, ...] = ()
    heard: tuple[Heard, ...] = ()  # as the file itself has it, where it is played
    typed: str = ""  # where the file was typed bars, as they were typed


@dataclass
class ReadingNotes:
    """What was guessed and what was left out, with the bars it was met in."""

    bars: dict[tuple[NoteKind, str], list[str]] = field(default_factory=dict)
    places: dict[str, set[Fraction]] = field(
        default_factory=dict
    )  # by bar, of what was guessed

    def guess(self, text: str, bar: str, at: Fraction | None = None) -> None:
        self._say(NoteKind.GUESSED, text, bar)
        if at is not None:
            self.places.setdefault(bar, set()).add(at)

    def leave(self, text: str, bar: str) -> None:
        self._say(NoteKind.LEFT_OUT, text, bar)

    def _say(self, said: NoteKind, text: str, bar: str) -> None:
        numbers = self.bars.setdefault((said, text), [])
        if bar not in numbers:
            numbers.append(bar)

    def renumber(self, numbers: Mapping[str, str]) -> None:
        """Bars have got other numbers since something was said of them."""
        for said in self.bars.values():
            said[:] = [numbers.get(number, number) for number in said]
        self.places = {numbers.get(bar, bar): places for bar, places in self.places.items()}

    def of_bar(self, said: NoteKind, bar: str) -> tuple[str, ...]:
        return tuple(
            text
            for (kind, text), numbers in self.bars.items()
            if kind is said and bar in numbers
        )

    def problems(self, code: str) -> tuple[Problem, ...]:
        """One problem for each text; the first bars it was met in are named."""
        return tuple(_problem(code, text, numbers) for (_, text), numbers in self.bars.items())


def _problem(code: str, text: str, numbers: list[str]) -> Problem:
    named = [number for number in numbers if number]
    if len(named) > 6:
        text = f"{text} ({len(named)} bars, the first is {named[0]})"
    elif len(named) > 1:
        text = f"{text} (bars {', '.join(named)})"
    return Problem(code, text, named[0] if len(named) == 1 else "")


def offer_pickup(
    bars: Sequence[Bar], taken: Collection[str]
) -> tuple[tuple[Bar, ...], tuple[Offer, ...]]:
    """A first bar that begins with silent beats may be a pick-up: asked, never assumed."""
    first = bars[0]
    silent = [start for start, _, hits in first.by_beat() if hits][:1]
    if len(bars) < 2 or first.pickup or not silent or not silent[0]:
        return tuple(bars), ()
    beats = sum(start < silent[0] for start, _ in first.beats)
    many = "a silent beat" if beats == 1 else f"{beats} silent beats"
    said = f"bar {first.number} begins with {many}: read what follows them as a pick-up"
    chosen = PICKUP in taken
    offers = (Offer(PICKUP, said, chosen),)
    return (_from_pickup(bars, silent[0]) if chosen else tuple(bars)), offers


def _from_pickup(bars: Sequence[Bar], start: Fraction) -> tuple[Bar, ...]:
    first, *others = bars
    hits = tuple(replace(hit, at=hit.at - start) for hit in first.hits)
    marks = tuple(replace(mark, at=max(Fraction(0), mark.at - start)) for mark in first.marks)
    pickup = replace(first, number=PICKUP, hits=hits, length=first.length - start, marks=marks)
    counted = [bar.number for bar in bars] == [str(n + 1) for n in range(len(bars))]
    if counted:
        others = [replace(bar, number=str(n)) for n, bar in enumerate(others, 1)]
    return (pickup, *others)


def report_bars(chart: Chart, reading_notes: ReadingNotes) -> tuple[BarReport, ...]:
    """Bar by bar what was taken, guessed and left out."""
    return tuple(
        BarReport(
            number=bar.number,
            taken=_taken(bar),
            guessed=reading_notes.of_bar(NoteKind.GUESSED, bar.number),
            left_out=reading_notes.of_bar(NoteKind.LEFT_OUT, bar.number),
            doubtful=tuple(sorted(reading_notes.places.get(bar.number, ()))),
        )
        for bar in chart.bars
    )


def _taken(bar: Bar) -> str:
    count = len(bar.hits)
    words = [f"{count} note{'s' if count != 1 else ''}" if count else "rest"]
    for name, there in (
        ("a repeat sign", bar.again),
        ("a repeat's start", bar.repeat_start),
        ("a repeat's end", bar.repeat_passes),
        (f"ending {', '.join(map(str, bar.endings))}", bar.endings),
        *((word, True) for word in bar.road_words),
        ("a vamp", bar.vamp),
        (bar.times.words if bar.times else "", bar.times),
        (f"section {bar.section}", bar.section),
        (str(bar.tempo), bar.tempo),
        *((mark.text or mark.kind.value, True) for mark in bar.marks),
    ):
        if there:
            words.append(name)
    return ", ".join(words)


@dataclass
class Sources:
    """Which drum each kind of note means; a teacher's choice goes before any guess."""

    chosen: Mapping[str, str] = field(default_factory=dict)  # key -> drum, or LEFT_OUT
    met: dict[str, tuple[str, Drum | None, str]] = field(default_factory=dict)
    notes: Counter[str] = field(default_factory=Counter)

    def meet(
        self, key: str, said: str, guess: Drum | None, why: str, notes: int = 1
    ) -> Drum | None:
        """The drum of the notes of this kind, which are counted."""
        self.notes[key] += notes
        if key not in self.met:
            self.met[key] = (said, *self._decide(key, guess, why))
        return self.met[key][1]

    def _decide(self, key: str, guess: Drum | None, why: str) -> tuple[Drum | None, str]:
        choice = self.chosen.get(key)
        if choice == LEFT_OUT:
            return None, "left out by you"
        if choice in tuple(Drum):
            return Drum(choice), why if guess == choice else "chosen by you"
        return guess, why if guess else "no drum known for it"

    def all(self) -> tuple[Source, ...]:
        return tuple(
            Source(key, said, drum, why, self.notes[key], why.startswith(BY_PLACE))
            for key, (said, drum, why) in self.met.items()
        )
