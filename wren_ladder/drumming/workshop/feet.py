"""Foot studies: eight bars of bass drum under a hand pattern that stays; when that is held, the
next hand pattern.

Common practice, no source; the lines are the house's.
"""

from collections.abc import Container
from dataclasses import dataclass, replace

from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.grades import HOUSE_SYLLABUS, Syllabus
from wren_ladder.drumming.workshop.grooves import Groove
from wren_ladder.drumming.workshop.patterns import KICK_BY_CODE, Hands, Kick, hand_grade


@dataclass(frozen=True, slots=True)
class FootStudy:
    """``line`` are the kick patterns of its eight bars."""

    code: str
    name: str
    line: tuple[Kick, ...]

    def grade(self, syllabus: Syllabus = HOUSE_SYLLABUS) -> int:
        return max(kick.grade(syllabus) for kick in self.line)

    def bars(self, hands: Hands) -> tuple[Bar, ...]:
        """The line under a hand pattern and a backbeat, numbered."""
        return tuple(
            replace(Groove(hands, kick).bar, number=str(number))
            for number, kick in enumerate(self.line, 1)
        )


def _study(code: str, name: str, line: str) -> FootStudy:
    return FootStudy(code, name, tuple(KICK_BY_CODE[one] for one in line.split()))


FOOT_STUDIES = (
    _study("beats", "On the beats", "1 1-3 1 1-3 1 1 1-3 1-3"),
    _study("twice", "Twice", "1-3 1-3-3n 1-3 1-1n-3 1-3 1-3-3n 1-1n-3 1-1n-3-3n"),
    _study("into", "Into the next", "1-3 1-2n-3 1-3 1-3-4n 1-2n-3 1-3-4n 1-2n-3-4n 1-3"),
    _study("ands", "All the ands", "1-3n 1-2n-3n 1-1n-2n-3 1-3-3n-4n 1-1n-2n-3n 1-1n-3n-4n "
           "1n-2n-3n-4n 1-3"),
    _study("pushes", "Pushes", "1-3 1-2a-3 1-3 1-3-4a 1-1a-3 1-2a-3 1-1a-3-3a 1-3"),
    _study("broken", "Broken", "1-1a-2n-3 1-2a-3-3n 1-2n-2a-3 1-1n-2a-3n 1-1a-2n-3 1-2n-2a-3 "
           "1-1n-2a-3n 1-3"),
)  # fmt: skip


def next_hands(
    held: Container[Hands], grade: int, syllabus: Syllabus = HOUSE_SYLLABUS
) -> Hands | None:
    """The easiest hand pattern not held yet, up to the grade; None where all are."""
    easiest = sorted(Hands, key=lambda hands: hand_grade(hands, syllabus))
    within = (hands for hands in easiest if hand_grade(hands, syllabus) <= max(1, grade))
    return next((hands for hands in within if hands not in held), None)
