"""A player made up: plays what is expected, seeded, with the faults that are asked for.

Its strokes come through the same door as those of a real kit.
"""

import random
from collections.abc import Collection
from dataclasses import dataclass, replace

from wren_ladder.drumming.description.timekeeping import fill_start
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.performance import Onset, OnsetKind, Performance, PlayedBar
from wren_ladder.drumming.take_sources.heard import Heard
from wren_ladder.drumming.wording import Coded

TOGETHER = 0.03  # seconds in which a microphone hears one onset


class Fault(Coded):
    LATE_LEFT_FOOT = "late-left-foot", "the left foot is late"
    LATE_RIGHT_FOOT = "late-right-foot", "the right foot is late"
    UNEVEN_LEFT_HAND = "uneven-left-hand", "the left hand is uneven"
    RUSHED_FILL = "rushed-fill", "fills are rushed"
    WIDE_FLAMS = "wide-flams", "flams are too wide"
    SPLIT = "split", "hat and foot are split"
    MISSES = "misses", "strokes are missed"
    DROPPED_BAR = "dropped-bar", "a bar is dropped"
    STOPS = "stops", "stops before the end"
    PAUSES = "pauses", "stops for a moment and goes on"
    SPEEDS_UP = "speeds-up", "gets faster"


@dataclass(frozen=True, slots=True)
class Player:
    """How well it plays: ``spread`` and ``offset`` in seconds; a fault's size is its own."""

    spread: float = 0.008
    offset: float = 0.0
    late: float = 0.045  # of a foot that is late
    uneven: float = 0.030  # more spread of a hand that is uneven
    rushed: float = 0.12  # of a fill's time that is lost
    split: float = 0.045  # between a hand and the foot that should be one with it
    wide: float = 0.06  # more between grace and main stroke
    missing: float = 0.15  # of the strokes
    faster: float = 0.03  # of the tempo
    pause: float = 1.3  # seconds that it stops


def play(
    performance: Performance,
    played: tuple[PlayedBar, ...],
    passes: int,
    seed: int,
    faults: Collection[Fault] = (),
    player: Player = Player(),
) -> tuple[Heard, ...]:
    """So many passes of a performance, its graces and rolls with it."""
    dice = random.Random(seed)
    found: list[Heard] = []
    starts = {turn: fill_start(one.bar) for turn, one in enumerate(played)}
    dropped = dice.randrange(1, max(2, len(performance.bars) * passes - 1))
    split = _with_a_hand(performance)
    last = performance.seconds * passes * dice.uniform(0.5, 0.7)
    gone = 0.0
    lost = last if Fault.PAUSES in faults else None
    for number in range(passes):
        for turn, span in enumerate(performance.bars):
            bar = number * len(performance.bars) + turn
            if Fault.DROPPED_BAR in faults and bar == dropped:
                gone += span.seconds
                continue
            for one in performance.onsets:
                if one.turn != turn:
                    continue
                if Fault.MISSES in faults and dice.random() < player.missing:
                    continue
                at = number * performance.seconds
                at += _at(one, faults, player)
                begins = starts[turn]
                if Fault.RUSHED_FILL in faults and begins is not None:
                    fill = span.at + span.seconds * float(begins / span.length)
                    at -= player.rushed * max(0.0, one.at - fill)
                if Fault.SPLIT in faults and (turn, one.at, one.limb) in split:
                    at += player.split
                if Fault.STOPS in faults and at > last:
                    continue
                if lost is not None and at + one.ahead > lost:
                    at += player.pause
                at += dice.gauss(0, player.spread + _uneven(one, faults, player))
                if Fault.SPEEDS_UP in faults:
                    at -= at * player.faster
                strength = min(1.0, max(0.05, one.strength * dice.uniform(0.9, 1.1)))
                found.append(Heard(at + player.offset - gone, one.drum, strength))
    return tuple(sorted(found, key=lambda one: one.at))


def _at(one: Onset, faults: Collection[Fault], player: Player) -> float:
    at = one.at
    if Fault.LATE_LEFT_FOOT in faults and one.limb is Limb.LEFT_FOOT:
        at += player.late
    if Fault.LATE_RIGHT_FOOT in faults and one.limb is Limb.RIGHT_FOOT:
        at += player.late
    if Fault.WIDE_FLAMS in faults and one.kind is OnsetKind.GRACE:
        at -= player.wide
    return at


def _with_a_hand(performance: Performance) -> set[tuple[int, float, Limb | None]]:
    """(turn, seconds, limb) of the foot's strokes that a hand has a stroke with."""
    feet = (Limb.LEFT_FOOT, Limb.RIGHT_FOOT)
    mains = [one for one in performance.onsets if one.kind is OnsetKind.MAIN]
    hands = {(one.turn, one.at) for one in mains if one.limb not in feet}
    found = {
        (one.turn, one.at, one.limb)
        for one in mains
        if one.limb in feet and (one.turn, one.at) in hands
    }
    # One foot only: the hat's where it has something to do, else the kick's.
    foot = Limb.LEFT_FOOT if any(limb is Limb.LEFT_FOOT for *_, limb in found) else feet[1]
    return {each for each in found if each[2] is foot}


def _uneven(one: Onset, faults: Collection[Fault], player: Player) -> float:
    uneven = Fault.UNEVEN_LEFT_HAND in faults and one.limb is Limb.LEFT_HAND
    return player.uneven if uneven else 0.0


def nameless(heard: Collection[Heard]) -> tuple[Heard, ...]:
    """As a microphone hears them: onsets alone, two at once as one."""
    found: list[Heard] = []
    for one in sorted(heard, key=lambda stroke: stroke.at):
        if not found or one.at - found[-1].at > TOGETHER:
            found.append(replace(one, drum=None, strength=None))
    return tuple(found)
