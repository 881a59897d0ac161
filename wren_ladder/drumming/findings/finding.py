"""What is found in the music, as values: weighed, worded and counted from the same one."""

from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from typing import Any


class Code(StrEnum):
    """What was found. Codes are stable; the words for them are in ``words``."""

    # What makes a bar hard.
    NEW = "new"
    ORNAMENT = "ornament"
    ROLL = "roll"
    GHOST_ACCENT = "ghost-accent"
    HAT_CLOSES = "hat-closes"
    FEET_BETWEEN = "feet-between"
    QUICK_KICKS = "quick-kicks"
    ENTRY = "entry"
    REACH = "reach"
    DOUBLE = "double"
    SPEED = "speed"
    # What catches a player who goes by habit.
    AGAINST_HABIT = "against-habit"
    AGAINST_COMMON_FORM = "against-common-form"
    SILENCE = "silence"
    KICK_LANDING = "kick-landing"
    # What is hard about a bar line.
    JUMP = "jump"
    METER_CHANGE = "meter-change"
    TEMPO_CHANGE = "tempo-change"
    CYMBAL_CHANGE = "cymbal-change"
    REACH_ACROSS = "reach-across"
    HAT_CLOSES_ACROSS = "hat-closes-across"
    DOUBLE_ACROSS = "double-across"
    ENTRY_ACROSS = "entry-across"
    # What cannot be played as it stands.
    NO_HAND = "no-hand"
    HAND_TWICE = "hand-twice"
    CROSSED = "crossed"
    HAT_FOOT = "hat-foot"
    TOO_FAST = "too-fast"


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing found: ``at`` in crotchets from where its bar starts, None where it is not in
    one place; ``facts`` are the values that its words are made of, by name."""

    code: Code
    at: Fraction | None = None
    facts: tuple[tuple[str, Any], ...] = ()

    @classmethod
    def of(cls, code: Code, at: Fraction | None = None, **facts: Any) -> "Finding":
        return cls(code, at, tuple(facts.items()))

    def __getitem__(self, name: str) -> Any:
        return dict(self.facts)[name]
