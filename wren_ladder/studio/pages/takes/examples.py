"""What the rule of a grade lets pass, and what it does not: a bar to look at and to hear."""

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from wren_ladder.drumming.grades import MOST_GRADE
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.performance import Performance, PlayedBar, perform
from wren_ladder.drumming.study import study
from wren_ladder.drumming.take_sources.heard import Heard, Source
from wren_ladder.drumming.take_sources.simulated import Player, play
from wren_ladder.drumming.takes.hear import Take, hear
from wren_ladder.drumming.takes.limits import Rule
from wren_ladder.studio.climb.takes import MILLISECONDS
from wren_ladder.studio.drawing.sound import sound_of_take
from wren_ladder.studio.drawing.take_view import TakeView, take_view

BAR = "tempo crotchet = 80\nhat 8ths\nsnare 2 4\nkick 1 3"
PASSES = 2
PLAYERS = 40  # made-up ones that are asked before the nearest is taken
JUST, BEYOND = (0.95, 0.6), (1.15, 2.0)  # of the rule's spread, the nearest to it first


@dataclass(frozen=True, slots=True)
class Example:
    """``said`` is "clean" or "not yet"; ``spread`` in milliseconds."""

    name: str
    said: str
    spread: int
    view: TakeView
    sound: dict


def examples(rules: Mapping[int, Rule]) -> tuple[tuple[str, tuple[Example, ...]], ...]:
    """(for which grades, what is just clean and what is not yet), one for each different
    rule, judged by it."""
    grades = defaultdict(list)
    for grade, rule in sorted(rules.items()):
        grades[rule].append(grade)
    return tuple(
        (
            _said(mine),
            tuple(filter(None, (_found(mine[0], rule, clean) for clean in (True, False)))),
        )
        for rule, mine in grades.items()
    )


def _said(grades: list[int]) -> str:
    first, last = grades[0], grades[-1]
    if last == first:
        return f"Grade {first}" if first else "Before grade 1"
    if last == MOST_GRADE:
        return f"From grade {first} on" if first else "At every grade"
    return f"Grades {first} to {last}" if first else f"Up to grade {last}"


@cache
def _bar() -> tuple[tuple[PlayedBar, ...], Performance]:
    chart = read_chart(BAR)
    played = tuple(PlayedBar(bar.bar, bar.sticks, chart.tempo) for bar in study(chart).bars)
    return played, perform(played)


def _found(grade: int, rule: Rule, clean: bool) -> Example | None:
    """The first made-up player whose take is clean by the rule, or fails it by its spread."""
    played, performance = _bar()
    limit = rule.limits(performance).spread
    nearest, farthest = JUST if clean else BEYOND
    for seed in range(PLAYERS):
        share = nearest + (farthest - nearest) * seed / PLAYERS
        heard = play(performance, played, PASSES, seed, player=Player(spread=share * limit))
        take = hear(played, heard, PASSES, rule, Source.KIT)
        if all(one.is_clean for one in take.judged.passes) is clean:
            return _example(f"grade-{grade}-{clean}", take, heard, clean)
    return None


def _example(name: str, take: Take, heard: tuple[Heard, ...], clean: bool) -> Example:
    spreads = [one.spread for one in take.judged.passes if one.spread is not None]
    return Example(
        name,
        "clean" if clean else "not yet",
        round(MILLISECONDS * max(spreads, default=0)),
        take_view(take.figures.residuals, take.performance),
        sound_of_take(
            take.performance, PASSES, [(h.at, h.drum, h.strength) for h in heard], False
        ),
    )
