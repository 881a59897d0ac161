"""The order in which the printed bars are played, and how long that takes.

Repeats with any number of passes, numbered endings, D.C. and D.S. al Fine or al Coda. A
repeat end with no start goes back to the last repeat end, else to the beginning. After a
jump repeats are taken or not as the page or the style says; without them the last ending
is played. Faults are told, never raised, and the bars are played all the same.

Source: MusicXML 4.0 (repeat, ending, sound); where the page leaves it open, common practice.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field

from wren_ladder.drumming.chart import DEFAULT_TEMPO, Bar, Chart, Problem
from wren_ladder.drumming.chart.signs import Jump, JumpTo, Until
from wren_ladder.drumming.units import seconds

MOST_VISITS = 20_000


@dataclass(frozen=True, slots=True)
class Visit:
    """One playing of a bar: its index (from 0) and which time it comes (from 1)."""

    index: int
    time: int


@dataclass(frozen=True, slots=True)
class Turn:
    """A place where the road does not simply go on: from the end of one bar to another."""

    leaving: int
    landing: int
    why: str  # "repeat", "ending", "D.S. al Coda", "to coda"


@dataclass(frozen=True, slots=True)
class RoadMap:
    visits: tuple[Visit, ...]
    problems: tuple[Problem, ...]
    turns: tuple[Turn, ...]  # in the order they are first taken, each once


@dataclass(frozen=True, slots=True)
class Bracket:
    """One ending: bars ``first`` to ``last``, played on the passes ``numbers``."""

    first: int
    last: int
    numbers: tuple[int, ...]


@dataclass(frozen=True, slots=True)
class Volta:
    """The endings of one repeat, side by side."""

    brackets: tuple[Bracket, ...]

    @property
    def passes(self) -> int:
        """How often the repeat is played; a single ending is stepped over the last time."""
        most = max(number for bracket in self.brackets for number in bracket.numbers)
        return most + 1 if len(self.brackets) == 1 else most

    @property
    def after(self) -> int:
        return self.brackets[-1].last + 1

    def bracket_for(self, number: int) -> Bracket | None:
        return next((b for b in self.brackets if number in b.numbers), None)


@dataclass(frozen=True, slots=True)
class RepeatEnd:
    start: int
    passes: int


@dataclass
class Page:
    """What the signs of the bars mean, read once before anything is played."""

    bars: Sequence[Bar]
    problems: list[Problem] = field(default_factory=list)
    ends: dict[int, RepeatEnd] = field(default_factory=dict)  # by the bar they end
    voltas: dict[int, Volta] = field(default_factory=dict)  # by each bar in an ending
    segno: int | None = None
    coda: int | None = None
    to_codas: set[int] = field(default_factory=set)

    def tell(self, code: str, index: int, text: str) -> None:
        self.problems.append(Problem(code, text, self.bars[index].number))


def road_map(bars: Sequence[Bar], repeats_after_jump: bool = False) -> RoadMap:
    """The visits in sounding order, the turns on the way, and the faults of the page."""
    page = Page(bars)
    _read_voltas(page)
    _read_repeats(page)
    _read_targets(page)
    walk = _Walk(page, repeats_after_jump)
    walk.run()
    return RoadMap(_count_times(walk.order), tuple(page.problems), tuple(walk.turns))


def _read_voltas(page: Page) -> None:
    """Runs of bars with the same ending numbers are brackets; neighbours make a volta."""
    brackets: list[Bracket] = []
    for index, bar in enumerate(page.bars):
        if not bar.endings:
            _close_volta(page, brackets)
            brackets = []
            continue
        before = brackets[-1] if brackets else None
        if before and before.numbers == bar.endings and not page.bars[index - 1].repeat_passes:
            brackets[-1] = Bracket(before.first, index, before.numbers)
            continue
        if before and 1 in bar.endings and 1 not in before.numbers:
            _close_volta(page, brackets)  # a new first ending right behind a last one
            brackets = []
        brackets.append(Bracket(index, index, bar.endings))
    _close_volta(page, brackets)


def _close_volta(page: Page, brackets: list[Bracket]) -> None:
    """Keep a volta, its passes numbered without gaps; each pass has one ending."""
    if not brackets:
        return
    printed: dict[int, list[int]] = {}  # first bar of a bracket -> its own numbers
    taken: set[int] = set()
    for bracket in brackets:
        mine = [number for number in bracket.numbers if number not in taken]
        for number in set(bracket.numbers) - set(mine):
            page.tell("ending-twice", bracket.first, f"ending {number} is there already")
        printed[bracket.first] = mine or [max(taken) + 1]
        taken.update(printed[bracket.first])
    order = {number: place for place, number in enumerate(sorted(taken), start=1)}
    gap = next((number for number, place in order.items() if number != place), None)
    if gap:
        text = f"ending {gap} without an ending {order[gap]}; played as pass {order[gap]}"
        first = next(first for first, numbers in printed.items() if gap in numbers)
        page.tell("ending-missing", first, text)
    volta = Volta(
        tuple(
            Bracket(b.first, b.last, tuple(order[number] for number in printed[b.first]))
            for b in brackets
        )
    )
    for bracket in brackets:
        for index in range(bracket.first, bracket.last + 1):
            page.voltas[index] = volta


def _read_repeats(page: Page) -> None:
    opened: list[int] = []
    floor = 0  # where a repeat end without a start goes back to
    nested = False  # a repeat inside has begun and ended since the floor
    voltas_done: dict[int, RepeatEnd] = {}
    for index, bar in enumerate(page.bars):
        if bar.repeat_start:
            opened.append(index)
        volta = page.voltas.get(index)
        if volta is None:
            if bar.repeat_passes:
                start, floor, nested = _start_of(page, opened, floor, nested, index)
                page.ends[index] = RepeatEnd(start, bar.repeat_passes)
            continue
        place = [bracket.last for bracket in volta.brackets]
        if index not in place:
            continue
        first = volta.brackets[0].first
        signed = len(place) > 1 or bool(page.bars[index].repeat_passes)
        if first not in voltas_done and signed:
            start, floor, nested = _start_of(page, opened, floor, nested, first)
            voltas_done[first] = RepeatEnd(start, volta.passes)
        if first not in voltas_done:
            if index == place[-1]:
                text = "an ending, but no repeat sign; it is played once"
                page.tell("ending-alone", first, text)
        elif index != place[-1] or bar.repeat_passes:
            page.ends[index] = voltas_done[first]
            if not bar.repeat_passes:
                text = "this ending has no repeat sign; it goes back all the same"
                page.tell("ending-open", index, text)
        if index == place[-1]:
            floor, nested = index + 1, False
    for index in opened:
        text = "a repeat starts here and never ends; it is played once"
        page.tell("repeat-open", index, text)


def _start_of(
    page: Page, opened: list[int], floor: int, nested: bool, index: int
) -> tuple[int, int, bool]:
    """(where this repeat starts, the next floor, whether a repeat lies inside it).

    A repeat that began later than the floor leaves the floor where it is: an end without
    a start behind it closes a larger repeat around it.
    """
    if opened:
        start = opened.pop()
        return (start, index + 1, False) if start <= floor else (start, floor, True)
    if nested:
        text = f"a repeat ends without a start; it goes back to bar {page.bars[floor].number}"
        page.tell("repeat-unopened", index, text)
    return floor, index + 1, False


def _read_targets(page: Page) -> None:
    bars = page.bars
    segnos = [index for index, bar in enumerate(bars) if bar.segno]
    codas = [index for index, bar in enumerate(bars) if bar.coda]
    page.to_codas = {index for index, bar in enumerate(bars) if bar.to_coda}
    jumps = [bar.jump for bar in bars if bar.jump]
    if len(codas) > 1 and not page.to_codas:
        # Two coda signs and no words: the first is where one leaves.
        page.tell("coda-twice", codas[0], "the first coda sign is read as To Coda")
        page.to_codas.add(codas.pop(0))
    page.segno, page.coda = segnos[0] if segnos else None, codas[-1] if codas else None
    for name, places in (("segno", segnos), ("coda sign", codas)):
        for index in places[1:]:
            page.tell("sign-twice", index, f"there is a {name} already; it is used once")
    if page.segno is not None and not any(jump.to is JumpTo.SEGNO for jump in jumps):
        page.tell("segno-unused", page.segno, "no D.S. leads back to this segno")
    fines = [index for index, bar in enumerate(bars) if bar.fine]
    if fines and not any(jump.until is Until.FINE for jump in jumps):
        page.tell("fine-unused", fines[0], "no jump leads to this Fine; it is played over")


class _Walk:
    """Walks the page: one step is one bar played."""

    def __init__(self, page: Page, repeats_after_jump: bool) -> None:
        self.page = page
        self.repeats_after_jump = repeats_after_jump
        self.order: list[int] = []
        self.turns: list[Turn] = []
        self.passes: dict[int, int] = {}  # where a repeat starts -> the pass being played
        self.jumped: Jump | None = None
        self.repeating = True
        self.taken: set[int] = set()

    def run(self) -> None:
        index: int | None = self._enter(None, 0)
        while index is not None and index < len(self.page.bars):
            self.order.append(index)
            if len(self.order) >= MOST_VISITS:
                text = f"the road is longer than {MOST_VISITS} bars; the rest is left out"
                self.page.tell("too-long", index, text)
                return
            index = self._leave(index)

    def _leave(self, index: int) -> int | None:
        """Where the road goes after a bar; None at its end."""
        bar = self.page.bars[index]
        if self.jumped and self.jumped.until is Until.FINE and bar.fine:
            if self._next_pass(index) is None:
                return None
        elif self._to_coda(index):
            self.jumped = None
            return self._turn(index, self.page.coda, "to coda")
        back = self._next_pass(index)
        if back is not None:
            self.passes[back] = self.passes.get(back, 1) + 1
            self._forget_inside(back, index)
            return self._turn(index, back, "repeat")
        self._finish_repeat(index)
        if bar.jump and index not in self.taken:
            self.taken.add(index)
            return self._jump(index, bar.jump)
        return self._enter(index, index + 1)

    def _to_coda(self, index: int) -> bool:
        return (
            self.jumped is not None
            and self.jumped.until is Until.CODA
            and index in self.page.to_codas
            and self.page.coda is not None
        )

    def _next_pass(self, index: int) -> int | None:
        """The start to go back to, if this repeat end asks for another pass."""
        end = self.page.ends.get(index)
        if end is None or not self.repeating:
            return None
        return end.start if self.passes.get(end.start, 1) < end.passes else None

    def _finish_repeat(self, index: int) -> None:
        """The last pass is over: the same bars start counting anew if they come again."""
        end = self.page.ends.get(index)
        volta = self.page.voltas.get(index)
        if end is None and volta and any(b.last == index for b in volta.brackets):
            end = self._end_of(volta)
        if end and self.repeating:
            self.passes.pop(end.start, None)

    def _forget_inside(self, start: int, end: int) -> None:
        for inner in [at for at in self.passes if start < at <= end]:
            del self.passes[inner]

    def _jump(self, index: int, jump: Jump) -> int | None:
        page = self.page
        if jump.to is JumpTo.SEGNO and page.segno is None:
            page.tell("segno-missing", index, f"{jump}, but there is no segno; it goes on")
            return self._enter(index, index + 1)
        if jump.until is Until.CODA and (page.coda is None or not page.to_codas):
            missing = "coda" if page.coda is None else "To Coda"
            page.tell("coda-missing", index, f"{jump}, but there is no {missing}")
        if jump.until is Until.FINE and not any(bar.fine for bar in page.bars):
            page.tell("fine-missing", index, f"{jump}, but there is no Fine; played to the end")
        self.jumped = jump
        asked = jump.with_repeats
        self.repeating = self.repeats_after_jump if asked is None else asked
        self.passes = {}
        landing = 0 if jump.to is JumpTo.START else page.segno
        return self._turn(index, landing, str(jump))

    def _turn(self, leaving: int, landing: int, why: str) -> int | None:
        landing = self._enter(None, landing)
        if landing < len(self.page.bars):
            self._note(Turn(leaving, landing, why))
        return landing

    def _enter(self, leaving: int | None, index: int) -> int:
        """The bar to play when the road comes to ``index``: endings of other passes are
        stepped over."""
        volta = self.page.voltas.get(index)
        if volta is None or all(bracket.first != index for bracket in volta.brackets):
            return index
        if leaving is not None and self.page.voltas.get(leaving) is volta:
            landing, why = volta.after, "behind the endings"
        else:
            number = self._pass_at(volta)
            bracket = volta.bracket_for(number)
            landing = bracket.first if bracket else volta.after
            why = f"ending {number}"
        if landing == index:
            return index
        if leaving is not None and landing < len(self.page.bars):
            self._note(Turn(leaving, landing, why))
        return landing

    def _note(self, turn: Turn) -> None:
        if turn not in self.turns:
            self.turns.append(turn)

    def _pass_at(self, volta: Volta) -> int:
        end = self._end_of(volta)
        if end is None:
            return 1
        return self.passes.get(end.start, 1) if self.repeating else volta.passes

    def _end_of(self, volta: Volta) -> RepeatEnd | None:
        ends = self.page.ends
        return next((ends[b.last] for b in volta.brackets if b.last in ends), None)


def _count_times(order: list[int]) -> tuple[Visit, ...]:
    times: dict[int, int] = {}
    visits = []
    for index in order:
        times[index] = times.get(index, 0) + 1
        visits.append(Visit(index, times[index]))
    return tuple(visits)


@dataclass(frozen=True, slots=True)
class Leg:
    """Bars ``first`` to ``last`` (indices) played straight on; ``time`` of its first bar."""

    first: int
    last: int
    time: int
    start: int  # how many bars are played before it


def legs(visits: Sequence[Visit]) -> tuple[Leg, ...]:
    """The road as stretches without a turn."""
    found: list[Leg] = []
    begin = 0
    for here in range(1, len(visits) + 1):
        if here == len(visits) or visits[here].index != visits[here - 1].index + 1:
            first = visits[begin]
            found.append(Leg(first.index, visits[here - 1].index, first.time, begin))
            begin = here
    return tuple(found)


def what_follows(visits: Sequence[Visit], index: int, time: int) -> int | None:
    """The bar played after bar ``index`` comes the ``time``-th time; None at the end.

    ValueError if it never comes that often.
    """
    for here, visit in enumerate(visits):
        if (visit.index, visit.time) == (index, time):
            return visits[here + 1].index if here + 1 < len(visits) else None
    raise ValueError(f"bar {index} is not played {time} times")


def play_seconds(chart: Chart, visits: Sequence[Visit], bpm: int | None = None) -> float:
    """How long the visits last, in seconds, at the printed tempos.

    With ``bpm`` the opening tempo becomes that many beats a minute and every later mark
    is scaled alike. A mark holds on the page until the next, whatever jumps come between.
    """
    scale = bpm / chart.tempo.bpm if bpm else 1
    marks, current = [], chart.bars[0].tempo or DEFAULT_TEMPO
    for bar in chart.bars:
        current = bar.tempo or current
        marks.append(seconds(bar.length, current))
    return sum(marks[visit.index] for visit in visits) / scale
