"""The house's shelf: exercises by grade, as typed bars that a drummer can read and change.

Each file begins with comments that name it: its name, kind, grade (0 is before grade 1) and the
tempo it is to be reached at; its own tempo is where it begins.
"""

import re
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from wren_ladder.drumming.chart import Chart, ChartError
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.numbers import read_whole

SHELF = Path(__file__).parent / "shelf"
SAID = re.compile(r"^# (name|kind|grade|target): (.+)$", re.MULTILINE)
KINDS = ("groove", "fill", "hands", "feet", "reading")


@dataclass(frozen=True, slots=True)
class ShelfExercise:
    """``start`` and ``target`` in BPM of the crotchet."""

    code: str
    name: str
    kind: str
    grade: int
    target: int
    chart: Chart

    @property
    def start(self) -> int:
        return self.chart.tempo.bpm


def read_exercise(code: str, text: str) -> ShelfExercise:
    """ChartError where what names it is missing or its bars can't be read."""
    said = dict(SAID.findall(text))
    grade, target = read_whole(said.get("grade"), 0, 8), read_whole(said.get("target"))
    if said.get("kind") not in KINDS or grade is None or target is None or "name" not in said:
        raise ChartError(f"{code}: say its name, kind ({', '.join(KINDS)}), grade and target")
    chart = read_chart(text, title=said["name"])
    return ShelfExercise(code, said["name"], said["kind"], grade, target, chart)


@lru_cache(maxsize=1)
def shelf() -> tuple[ShelfExercise, ...]:
    """All of it, by kind and grade, the slower first."""
    found = [read_exercise(path.stem, path.read_text()) for path in SHELF.glob("*.wren")]
    return tuple(
        sorted(found, key=lambda one: (KINDS.index(one.kind), one.grade, one.target, one.name))
    )


def exercise_named(code: str) -> ShelfExercise:
    """KeyError if nothing on the shelf has that code."""
    return {one.code: one for one in shelf()}[code]
