"""What the signs on the page mean, read once before anything is played.

A repeat end with no start goes back to the last repeat end, else to the beginning. Faults
are told, never raised, and read the way that makes most sense.

Source: MusicXML 4.0 (repeat, ending, sound); where the page leaves it open, common practice.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field

from wren_ladder.drumming.chart import Bar, JumpTo, Problem, Until


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
class RoadSigns:
    """What the signs of the bars mean, read once before anything is played."""

    bars: Sequence[Bar]
    problems: list[Problem] = field(default_factory=list)
    ends: dict[int, RepeatEnd] = field(default_factory=dict)  # by the bar they end
    voltas: dict[int, Volta] = field(default_factory=dict)  # by each bar in an ending
    landings: dict[JumpTo, int] = field(default_factory=dict)  # where a jump leads
    codas: dict[Until, int] = field(default_factory=dict)
    to_codas: dict[Until, set[int]] = field(default_factory=dict)  # the bars to leave from

    def tell(self, code: str, index: int, text: str) -> None:
        self.problems.append(Problem(code, text, self.bars[index].number))


def read_signs(bars: Sequence[Bar]) -> RoadSigns:
    """The signs of the bars, and what is wrong with them."""
    page = RoadSigns(bars)
    _read_voltas(page)
    _read_repeats(page)
    _read_targets(page)
    _read_ends(page)
    return page


def _read_voltas(page: RoadSigns) -> None:
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


def _close_volta(page: RoadSigns, brackets: list[Bracket]) -> None:
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


def _read_repeats(page: RoadSigns) -> None:
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
    page: RoadSigns, opened: list[int], floor: int, nested: bool, index: int
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


def _read_ends(page: RoadSigns) -> None:
    """By custom the last bar lacks what a pick-up before the first has taken."""
    first, last = page.bars[0], page.bars[-1]
    whole = last.length == last.meter.length
    if first.pickup and len(page.bars) > 1 and whole and not last.jump:
        text = "a full bar; by custom the last one lacks what the pick-up has taken"
        page.tell("last-bar-full", len(page.bars) - 1, text)


def _read_targets(page: RoadSigns) -> None:
    page.landings[JumpTo.START] = 0
    for to, name in ((JumpTo.SEGNO, "segno"), (JumpTo.SECOND_SEGNO, "segno_2")):
        _read_segno(page, to, name)
    for until, name in ((Until.CODA, "coda"), (Until.SECOND_CODA, "coda_2")):
        _read_coda(page, until, name)
    bars = page.bars
    jumps = [bar.jump for bar in bars if bar.jump]
    fines = [index for index, bar in enumerate(bars) if bar.fine]
    if fines and not any(jump.until is Until.FINE for jump in jumps):
        page.tell("fine-unused", fines[0], "no jump leads to this Fine; it is played over")


def _read_segno(page: RoadSigns, to: JumpTo, name: str) -> None:
    places = _places(page, name)
    if not places:
        return
    page.landings[to] = places[0]
    _tell_twice(page, places, name.replace("_", " "))
    if not any(bar.jump and bar.jump.to is to for bar in page.bars):
        page.tell("segno-unused", places[0], f"no {to} leads back to this segno")


def _read_coda(page: RoadSigns, until: Until, name: str) -> None:
    codas, leaving = _places(page, name), set(_places(page, f"to_{name}"))
    if len(codas) > 1 and not leaving:
        # Two coda signs and no words: the first is where one leaves.
        page.tell("coda-twice", codas[0], "the first coda sign is read as To Coda")
        leaving.add(codas.pop(0))
    if codas:
        page.codas[until] = codas[-1]
        _tell_twice(page, codas, f"{name.replace('_', ' ')} sign")
    page.to_codas[until] = leaving


def _places(page: RoadSigns, name: str) -> list[int]:
    return [index for index, bar in enumerate(page.bars) if getattr(bar, name)]


def _tell_twice(page: RoadSigns, places: Sequence[int], name: str) -> None:
    for index in places[1:]:
        page.tell("sign-twice", index, f"there is a {name} already; it is used once")
