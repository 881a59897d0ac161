"""Stroke heights and names: each stroke ends where the hand's next one begins.

high to high is full, high to low down, low to high up, low to low tap (common practice,
no source). A bar alone is taken as a loop, so its last stroke looks to its first.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import IntEnum, StrEnum

from wren_ladder.drumming.chart import Hit, Touch
from wren_ladder.drumming.hands.limbs import HAND_OF, LIMB_OF, Limb
from wren_ladder.drumming.hands.sticking import Stick


class Height(IntEnum):
    """How high the stick starts; ghosts hug the drum."""

    GHOST = 1
    TAP = 2
    ACCENT = 3
    STRONG = 4


class StrokeKind(StrEnum):
    FULL = "full"
    DOWN = "down"
    UP = "up"
    TAP = "tap"


@dataclass(frozen=True, slots=True)
class Stroke:
    """A main stroke or a grace; feet have a height and no kind."""

    hit: Hit
    limb: Limb
    height: Height
    kind: StrokeKind | None
    grace: bool = False


HEIGHTS = {
    Touch.GHOST: Height.GHOST,
    Touch.NORMAL: Height.TAP,
    Touch.ACCENT: Height.ACCENT,
    Touch.STRONG: Height.STRONG,
}


def strokes_of(sticks: Sequence[Stick], after: Sequence[Stick] = ()) -> tuple[Stroke, ...]:
    """The strokes of a bar in time order, graces before their main note.

    The last strokes look across the bar line to those of ``after``, the bar that follows;
    without it the bar is a loop and they look to its start.

    A flam's grace is played by the other hand, a drag's two as well; a ruff's three go
    hand to hand, so that the third lies in the other hand. Graces start low.
    """
    plain = _plain(sticks)
    behind = [*_plain(after), *plain]  # a hand that rests there comes round again
    return tuple(
        Stroke(hit, limb, height, _kind(plain, behind, index), grace)
        for index, (hit, limb, height, grace) in enumerate(plain)
    )


def _plain(sticks: Sequence[Stick]) -> list[tuple]:
    """(hit, limb, height, is a grace) of every stroke in order."""
    plain = []
    for stick in sticks:
        if stick.limb is None:
            continue
        for limb in _grace_limbs(stick):
            plain.append((stick.hit, limb, Height.GHOST, True))
        plain.append((stick.hit, stick.limb, HEIGHTS[stick.hit.touch], False))
    return plain


def _grace_limbs(stick: Stick) -> list[Limb]:
    if stick.hand is None:
        return []
    return [LIMB_OF[hand] for hand in stick.hit.grace.hands(stick.hand)]


def _kind(plain: list[tuple], behind: list[tuple], index: int) -> StrokeKind | None:
    _, limb, height, _ = plain[index]
    if limb not in HAND_OF:
        return None
    following = plain[index + 1 :] + behind
    next_height = next(stroke[2] for stroke in following if stroke[1] is limb)
    high, next_high = height >= Height.ACCENT, next_height >= Height.ACCENT
    if high:
        return StrokeKind.FULL if next_high else StrokeKind.DOWN
    return StrokeKind.UP if next_high else StrokeKind.TAP
