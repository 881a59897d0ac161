"""Walks the page: the bars in the order in which they sound.

After a jump repeats are taken or not as the page or the style says; without them the last
ending is played. That speaks of music that comes again: a repeat that nobody has played yet, in
a coda, is taken. Each jump is taken once, and a road without end is cut.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.chart import Bar, Jump, JumpTo, Problem, Until
from wren_ladder.drumming.roadmap.signs import RepeatEnd, RoadSigns, Volta, read_signs

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


def road_map(bars: Sequence[Bar], repeats_after_jump: bool = False) -> RoadMap:
    """The visits in sounding order, the turns on the way, and the faults of the page."""
    page = read_signs(bars)
    walk = _Walk(page, repeats_after_jump)
    walk.run()
    return RoadMap(_count_times(walk.order), tuple(page.problems), tuple(walk.turns))


class _Walk:
    """Walks the page: one step is one bar played."""

    def __init__(self, page: RoadSigns, repeats_after_jump: bool) -> None:
        self.page = page
        self.repeats_after_jump = repeats_after_jump
        self.order: list[int] = []
        self.turns: list[Turn] = []
        self.passes: dict[int, int] = {}  # where a repeat starts -> the pass being played
        self.jumped: Jump | None = None
        self.repeating = True
        self.heard: set[int] = set()  # what was played before the last jump
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
        jumped = self.jumped
        if jumped and jumped.until is Until.FINE and bar.fine:
            if not self._comes_again(index):
                return None
        elif jumped and self._to_coda(index) and not self._comes_again(index):
            until, self.jumped = jumped.until, None
            return self._turn(index, self.page.codas[until], "to coda")
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
            and self.jumped.until in self.page.codas
            and index in self.page.to_codas[self.jumped.until]
        )

    def _repeats(self, start: int) -> bool:
        """Is a repeat that starts there taken?"""
        return self.repeating or start not in self.heard

    def _comes_again(self, index: int) -> bool:
        """Is a repeat around the bar on a pass that is not the last through this bar?"""
        volta = self.page.voltas.get(index)
        for last, end in self.page.ends.items():
            if not (end.start <= index <= last and self._repeats(end.start)):
                continue
            passes = end.passes
            if volta and self._end_of(volta) == end:
                within = (one for one in volta.brackets if one.first <= index <= one.last)
                passes = max(next(within).numbers)
            if self.passes.get(end.start, 1) < passes:
                return True
        return False

    def _next_pass(self, index: int) -> int | None:
        """The start to go back to, if this repeat end asks for another pass."""
        end = self.page.ends.get(index)
        if end is None or not self._repeats(end.start):
            return None
        return end.start if self.passes.get(end.start, 1) < end.passes else None

    def _finish_repeat(self, index: int) -> None:
        """The last pass is over: the same bars start counting anew if they come again."""
        end = self.page.ends.get(index)
        volta = self.page.voltas.get(index)
        if end is None and volta and any(b.last == index for b in volta.brackets):
            end = self._end_of(volta)
        if end and self._repeats(end.start):
            self.passes.pop(end.start, None)

    def _forget_inside(self, start: int, end: int) -> None:
        for inner in [at for at in self.passes if start < at <= end]:
            del self.passes[inner]

    def _jump(self, index: int, jump: Jump) -> int | None:
        page = self.page
        if jump.to not in page.landings:
            missing = "second segno" if jump.to is JumpTo.SECOND_SEGNO else "segno"
            page.tell("segno-missing", index, f"{jump}, but there is no {missing}; it goes on")
            return self._enter(index, index + 1)
        lacks = jump.until not in page.codas
        if jump.until in page.to_codas and (lacks or not page.to_codas[jump.until]):
            missing = jump.until.value if lacks else f"To {jump.until.value.title()}"
            page.tell("coda-missing", index, f"{jump}, but there is no {missing}")
        if jump.until is Until.FINE and not any(bar.fine for bar in page.bars):
            page.tell("fine-missing", index, f"{jump}, but there is no Fine; played to the end")
        self.jumped = jump
        asked = jump.with_repeats
        self.repeating = self.repeats_after_jump if asked is None else asked
        self.passes = {}
        self.heard = set(self.order)
        return self._turn(index, page.landings[jump.to], str(jump))

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
        taken = self._repeats(end.start)
        return self.passes.get(end.start, 1) if taken else volta.passes

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
