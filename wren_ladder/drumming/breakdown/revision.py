"""A plan revised instead of rebuilt: what stays keeps its history, and every change is told.

A step stays if it is the same music in the same way, wherever it now stands, or stands where
it stood while its music changed. Steps that were tried are left out, never thrown away.
"""

from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from wren_ladder.drumming.breakdown.step import PARTS, Step, StepKind


class Fate(StrEnum):
    STAYS = "stays"
    CHANGED = "changed"
    ADDED = "added"
    LEFT_OUT = "left out"
    REMOVED = "removed"


@dataclass(frozen=True, slots=True)
class Sign:
    """What tells a step: its kind and part, the music of its bars, and which bars they are."""

    kind: StepKind
    part: str
    music: Hashable
    bars: tuple[Hashable, ...]

    @property
    def what(self) -> StepKind:
        """A line and a section of the same bars are the same run."""
        return StepKind.PHRASE if self.kind is StepKind.SECTION else self.kind


@dataclass(frozen=True, slots=True)
class Had:
    """A step of the plan as it stands."""

    name: str
    sign: Sign | None  # None where its bars are gone from the piece
    tries: int = 0
    passed: bool = False  # holds its target
    by_hand: bool = False  # made or changed by the teacher
    dropped: bool = False


@dataclass(frozen=True, slots=True)
class Entry:
    """``old`` is a place in the plan as it was, ``step`` what the new plan has there."""

    fate: Fate
    name: str
    why: str
    old: int | None = None
    step: Step | None = None


def revise(
    had: Sequence[Had],
    made: Sequence[tuple[str, Sign, Step]],
    edited: Mapping[Hashable, str] | None = None,
    keep_order: bool = True,
) -> tuple[Entry, ...]:
    """The revised plan in order, what is left out or removed last.

    ``made`` are name, sign and step of a new plan; ``edited`` says of each bar what changed
    in it. With ``keep_order`` the steps that stay keep the order they had; without it, as in
    another school, they take that of the new plan.
    """
    partner = _partners(had, [sign for _, sign, _ in made])
    passed = {had[old].sign.bars for old in partner.values() if _bar_passed(had[old])}
    placed: list[tuple[Sign, Entry]] = []
    for place, (name, sign, step) in enumerate(made):
        old = partner.get(place)
        if old is not None:
            entry = _kept(had[old], old, name, sign, step, passed, edited or {})
        elif sign.kind in PARTS and sign.bars in passed:
            continue  # what is built already is not taken apart again
        else:
            entry = Entry(Fate.ADDED, name, step.why, step=step)
        placed.append((sign, entry))
    kept = [entry.old for _, entry in placed if entry.old is not None]
    moved_by_hand = keep_order and kept != sorted(kept)
    entries = _in_old_order(placed) if moved_by_hand else [entry for _, entry in placed]
    for place in sorted(set(range(len(had))) - set(partner.values())):
        entry = _without_partner(had[place], place)
        stays = entry.fate is Fate.STAYS
        entries.insert(_behind(entries, place) if stays else len(entries), entry)
    last = (Fate.LEFT_OUT, Fate.REMOVED)
    return tuple(sorted(entries, key=lambda entry: entry.fate in last))


def _in_old_order(placed: Sequence[tuple[Sign, Entry]]) -> list[Entry]:
    """What stays in the order the teacher had it. What is new goes in front of the bar it is
    a part of, else behind all that comes before it in the new plan and shares its bars, else
    behind its neighbour there."""
    ordered = sorted((e for _, e in placed if e.old is not None), key=lambda entry: entry.old)
    for place, (sign, entry) in enumerate(placed):
        if entry.old is not None:
            continue
        following = [e for other, e in placed[place + 1 :] if other.bars == sign.bars]
        following = [ordered.index(one) for one in following if one in ordered]
        before = [other for _, other in placed[:place]]
        sharing = [e for other, e in placed[:place] if set(other.bars) & set(sign.bars)]
        if sign.kind in PARTS and following:
            ordered.insert(min(following), entry)
        else:
            behind = [ordered.index(one) for one in sharing or before[-1:]]
            ordered.insert(max(behind, default=-1) + 1, entry)
    return ordered


def _partners(had: Sequence[Had], signs: Sequence[Sign]) -> dict[int, int]:
    """For each new step the old one that it continues: the same in every way, else the same
    music, else the same bars."""
    found: dict[int, int] = {}
    free = {place for place, one in enumerate(had) if one.sign is not None}
    for same in (
        lambda sign: (sign.what, sign.part, sign.music, sign.bars),
        lambda sign: (sign.what, sign.part, sign.music),
        lambda sign: (sign.what, sign.part, sign.bars),
    ):
        by_sign: dict[Hashable, list[int]] = {}
        for place in sorted(free, reverse=True):
            by_sign.setdefault(same(had[place].sign), []).append(place)
        for place, sign in enumerate(signs):
            if place not in found and by_sign.get(same(sign)):
                found[place] = by_sign[same(sign)].pop()
                free.discard(found[place])
    return found


def _bar_passed(one: Had) -> bool:
    return one.passed and one.sign.kind is StepKind.BAR


def _kept(
    one: Had,
    old: int,
    name: str,
    sign: Sign,
    step: Step,
    passed: set,
    edited: Mapping[Hashable, str],
) -> Entry:
    if one.dropped:
        return Entry(Fate.STAYS, name, "left out by you before", old, step)
    if sign.kind in PARTS and sign.bars in passed and not one.tries and not one.by_hand:
        return Entry(Fate.LEFT_OUT, name, "the bar itself holds its target", old)
    if one.sign.music != sign.music:
        tries = f"; its {one.tries} tries are kept" if one.tries else ""
        said = "; ".join(edited[bar] for bar in sign.bars if bar in edited)
        return Entry(Fate.CHANGED, name, f"{said or 'its music changed'}{tries}", old, step)
    if one.name != name:
        return Entry(Fate.STAYS, name, f"was {one.name}", old, step)
    return Entry(Fate.STAYS, name, "", old, step)


def _without_partner(one: Had, old: int) -> Entry:
    if one.sign is not None and (one.by_hand or one.sign.kind is StepKind.OWN):
        return Entry(Fate.STAYS, one.name, "your own", old)
    gone = one.sign is None
    why = "its bars are gone from the piece" if gone else "the plan no longer needs it"
    if one.tries:
        return Entry(Fate.LEFT_OUT, one.name, f"{why}; its {one.tries} tries are kept", old)
    return Entry(Fate.REMOVED, one.name, why, old)


def _behind(entries: Sequence[Entry], old: int) -> int:
    """Behind the last entry that stood before it in the plan as it was."""
    before = [i for i, entry in enumerate(entries) if entry.old is not None and entry.old < old]
    return before[-1] + 1 if before else 0
