"""The house's shelf: exercises by grade, as typed bars that a drummer can read and change.

Each file begins with comments that name it: its name, kind, the tempo it is to be reached at
and, beside what can be read from its bars, what of the table of grades it asks for; its own
tempo is where it begins.
"""

import re
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from wren_ladder.drumming.chart import Chart, ChartError
from wren_ladder.drumming.grades import HOUSE_SYLLABUS, Syllabus, hardest
from wren_ladder.drumming.judging.syllabus import names_in
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.study import study

SHELF = Path(__file__).parent / "shelf"
SAID = re.compile(r"^# (name|kind|asks|target): (.+)$", re.MULTILINE)
KINDS = ("groove", "fill", "hands", "feet", "reading")


@dataclass(frozen=True, slots=True)
class ShelfExercise:
    """``asks`` are names of the table of grades; ``start`` and ``target`` in BPM of the
    crotchet."""

    code: str
    name: str
    kind: str
    asks: tuple[str, ...]
    target: int
    chart: Chart

    @property
    def start(self) -> int:
        return self.chart.tempo.bpm

    def grade(self, syllabus: Syllabus = HOUSE_SYLLABUS) -> int:
        return hardest(self.asks, syllabus)


def read_exercise(code: str, text: str) -> ShelfExercise:
    """ChartError where what names it is missing or its bars can't be read."""
    said = dict(SAID.findall(text))
    target = read_whole(said.get("target"))
    if said.get("kind") not in KINDS or target is None or "name" not in said:
        raise ChartError(f"{code}: say its name, kind ({', '.join(KINDS)}) and target")
    asks = tuple(filter(None, said.get("asks", "").split("; ")))
    if unknown := [name for name in asks if name not in HOUSE_SYLLABUS]:
        raise ChartError(f"{code}: no grade is known for {', '.join(unknown)}")
    chart = read_chart(text, title=said["name"])
    return ShelfExercise(
        code, said["name"], said["kind"], (*asks, *names_in(study(chart))), target, chart
    )


@lru_cache(maxsize=1)
def shelf() -> tuple[ShelfExercise, ...]:
    """All of it, by kind and the house's grade, the slower first."""
    found = [read_exercise(path.stem, path.read_text()) for path in SHELF.glob("*.wren")]
    return tuple(
        sorted(
            found, key=lambda one: (KINDS.index(one.kind), one.grade(), one.target, one.name)
        )
    )


def exercise_named(code: str) -> ShelfExercise:
    """KeyError if nothing on the shelf has that code."""
    return {one.code: one for one in shelf()}[code]
