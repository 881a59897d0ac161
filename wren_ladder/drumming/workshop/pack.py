"""A teacher's own exercises: a chart with what it is for, and many of them as one text that
another studio reads.

A pack begins with a line of its own; each exercise with one that says kind and target, and
goes on as a typed chart.
"""

from dataclasses import dataclass

from wren_ladder.drumming.chart import Chart, ChartError
from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.grades import HOUSE_SYLLABUS, Syllabus, hardest
from wren_ladder.drumming.judging.syllabus import names_in
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.notation.counts.write import write_chart
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.study import study
from wren_ladder.drumming.workshop.shelf import KINDS

FIRST = "pack of exercises"
BEGINS = "exercise "
MOST_BARS, MOST_EXERCISES = 16, 200


@dataclass(frozen=True, slots=True)
class OwnExercise:
    """``text``: the chart as it is typed, title and tempo with it; ``target`` in BPM."""

    kind: str
    target: int
    text: str

    @property
    def chart(self) -> Chart:
        return read_chart(self.text)

    def grade(self, syllabus: Syllabus = HOUSE_SYLLABUS) -> int:
        return hardest(tuple(names_in(study(self.chart))), syllabus)


@dataclass(frozen=True, slots=True)
class Pack:
    """``left_out``: what could not be read, each with its place and what is wrong."""

    exercises: tuple[OwnExercise, ...]
    left_out: tuple[str, ...]


def own_exercise(chart: Chart, kind: str, target: int) -> OwnExercise:
    """ChartError with what is wrong, where it is no exercise."""
    if kind not in KINDS:
        raise ChartError(f"an exercise is one of {', '.join(KINDS)}, not '{kind}'")
    if not SLOWEST <= target <= FASTEST:
        raise ChartError(f"a target is {SLOWEST} to {FASTEST} BPM, not {target}")
    if not 1 <= len(chart.bars) <= MOST_BARS:
        raise ChartError(f"an exercise has 1 to {MOST_BARS} bars, not {len(chart.bars)}")
    return OwnExercise(kind, target, write_chart(chart))


def write_pack(exercises: tuple[OwnExercise, ...]) -> str:
    parts = (f"{BEGINS}{one.kind}, target {one.target}\n{one.text}" for one in exercises)
    return "\n".join([FIRST, *parts])


def read_pack(text: str) -> Pack:
    """ChartError where it is no pack at all."""
    first, _, rest = text.partition("\n")
    if first.strip() != FIRST:
        raise ChartError(f"a pack begins with the line '{FIRST}'")
    parts = _parts(rest)
    if len(parts) > MOST_EXERCISES:
        raise ChartError(f"a pack has at most {MOST_EXERCISES} exercises, not {len(parts)}")
    found, left_out = [], []
    for number, (head, chart) in enumerate(parts, 1):
        try:
            found.append(_one(head, chart))
        except ChartError as error:
            left_out.append(f"exercise {number}: {error}")
    return Pack(tuple(found), tuple(left_out))


def _parts(text: str) -> list[tuple[str, str]]:
    """(what an exercise is, its chart) of each."""
    found: list[tuple[str, list[str]]] = []
    for line in text.splitlines():
        if line.startswith(BEGINS):
            found.append((line.removeprefix(BEGINS), []))
        elif found:
            found[-1][1].append(line)
        elif line.strip():
            found.append(("", [line]))
    return [(head, "\n".join(lines)) for head, lines in found]


def _one(head: str, text: str) -> OwnExercise:
    kind, _, said = head.partition(",")
    target = read_whole(said.strip().removeprefix("target").strip())
    if target is None:
        raise ChartError("its first line says what it is: exercise groove, target 100")
    return own_exercise(read_chart(text), kind.strip(), target)
