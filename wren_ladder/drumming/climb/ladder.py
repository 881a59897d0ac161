"""A ladder: the tempos from an easy start to the target, in BPM of the piece's beat."""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.wording import Coded

MOST_STEP = 40
SHORT = 2  # BPM; a last step of no more is joined with the one below
EASY = {0: 60, 1: 70, 2: 80, 3: 90}  # the fastest start, by grade; common practice, no source
# The standard metronome marks, (from, to, by): the scale on mechanical metronomes, common
# practice.
MARKS = ((40, 60, 2), (60, 72, 3), (72, 120, 4), (120, 144, 6), (144, 208, 8))


class LadderSchool(Coded):
    """How far one rung is from the next. All are common practice."""

    STEP = "step"  # so many BPM
    PERCENT = "percent"  # so many per cent
    MARKS = "marks"  # the standard metronome marks
    OWN = "own", "own list"  # the teacher's own tempos


@dataclass(frozen=True, slots=True)
class LadderRule:
    """``step`` is in BPM or per cent, as the school says; ``own`` the tempos of a list."""

    school: LadderSchool = LadderSchool.STEP
    step: int = 5
    own: tuple[int, ...] = ()


def ladder_by(start: int, target: int, rule: LadderRule | None = None) -> tuple[int, ...]:
    """Strictly rising from start to target by the rule's school.

    ChartError where no ladder can be made.
    """
    rule = rule or LadderRule()
    if rule.school is LadderSchool.STEP:
        return rungs(start, target, rule.step)
    _check(start, target, rule.step)
    between = {
        LadderSchool.PERCENT: lambda: _by_percent(start, target, rule.step),
        LadderSchool.MARKS: metronome_marks,
        LadderSchool.OWN: lambda: rule.own,
    }[rule.school]()
    inside = sorted({bpm for bpm in between if start < bpm < target})
    made = (start, *inside, *((target,) if target > start else ()))
    return made if rule.school is LadderSchool.OWN else _without_a_short_last_step(made)


def rungs(start: int, target: int, step: int = 5) -> tuple[int, ...]:
    """Strictly rising from start to target by so many BPM; the last step may be shorter, or
    longer by a little.

    +5 BPM is common practice, no source. ChartError where no ladder can be made.
    """
    _check(start, target, step)
    return _without_a_short_last_step((*range(start, target, step), target))


def _without_a_short_last_step(made: tuple[int, ...]) -> tuple[int, ...]:
    """Nobody practises a rung for a BPM or two: 105, 110, 112 is 105, 112."""
    if len(made) < 3:
        return made
    before, last = made[-2] - made[-3], made[-1] - made[-2]
    return (*made[:-2], made[-1]) if last <= SHORT and last < before else made


def _check(start: int, target: int, step: int) -> None:
    for name, bpm in (("start", start), ("target", target)):
        if not SLOWEST <= bpm <= FASTEST:
            raise ChartError(f"the {name} tempo {bpm} lies outside {SLOWEST} to {FASTEST}")
    if start > target:
        raise ChartError(f"the start tempo {start} is above the target {target}")
    if not 1 <= step <= MOST_STEP:
        raise ChartError(f"a rung is 1 to {MOST_STEP} apart, not {step}")


def _by_percent(start: int, target: int, percent: int) -> list[int]:
    """Each so many per cent above the one before, to the nearest whole BPM, at least 1."""
    found = [start]
    while found[-1] < target:
        found.append(max(found[-1] + 1, round(found[-1] * (100 + percent) / 100)))
    return found


def metronome_marks() -> tuple[int, ...]:
    """40 42 … 60 63 … 72 76 … 120 126 … 144 152 … 208."""
    found = {bpm for low, high, by in MARKS for bpm in range(low, high + 1, by)}
    return tuple(sorted(found))


def rung_above(ladder: Sequence[int], bpm: int) -> int | None:
    """The first rung faster than bpm; None from the target on."""
    return next((rung for rung in ladder if rung > bpm), None)


def rung_below(ladder: Sequence[int], bpm: int) -> int:
    """The first rung slower than bpm, or the lowest."""
    return next((rung for rung in reversed(ladder) if rung < bpm), ladder[0])


def start_tempo(target: int, share: int, grade: int | None = None) -> int:
    """``share`` per cent of the target, down to a multiple of 5: 120 at 75 % -> 90. For a
    beginner it is easy in itself too, whatever the piece asks for; a beat slower than the
    first mark of a metronome is no help to anybody."""
    easy = target if grade is None else EASY.get(grade, target)
    slowest = max(SLOWEST, min(target // 5 * 5, MARKS[0][0]))
    return max(slowest, min(easy, target * share // 100 // 5 * 5))
