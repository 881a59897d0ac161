"""A plan revised instead of rebuilt: what stays keeps its history, and every change is told.

A step stays if it is the same music in the same way, wherever it now stands, or stands where
it stood while its music changed. Steps that were tried are left out, never thrown away.
"""

from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass

from wren_ladder.drumming.breakdown.step import PARTS, Step, StepKind
from wren_ladder.drumming.wording import Coded


class StepChange(Coded):
    STAYS = "stays"
    CHANGED = "changed"
    ADDED = "added"
    LEFT_OUT = "left-out", "left out"
    REMOVED = "removed"


@dataclass(frozen=True, slots=True)
class StepIdentity:
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
class ExistingStep:
    """A step of the plan as it stands."""

    name: str
    identity: StepIdentity | None  # None where its bars are gone from the piece
    tries: int = 0
    passed: bool = False  # holds its target
    by_hand: bool = False  # made or changed by the teacher
    dropped: bool = False


@dataclass(frozen=True, slots=True)
class RevisedStep:
    """``old`` is a place in the plan as it was, ``step`` what the new plan has there."""

    change: StepChange
    name: str
    why: str
    old: int | None = None
    step: Step | None = None


def revise(
    existing: Sequence[ExistingStep],
    made: Sequence[tuple[str, StepIdentity, Step]],
    edited: Mapping[Hashable, str] | None = None,
    keep_order: bool = True,
) -> tuple[RevisedStep, ...]:
    """The revised plan in order, what is left out or removed last.

    ``made`` are name, identity and step of a new plan; ``edited`` says of each bar what changed
    in it. With ``keep_order`` the steps that stay keep the order they had; without it, as in
    another school, they take that of the new plan.
    """
    partner = _partners(existing, [identity for _, identity, _ in made])
    passed = {
        identity.bars
        for old in partner.values()
        if (identity := _bar_passed(existing[old])) is not None
    }
    left = {
        one.identity.bars
        for one in existing
        if one.dropped and one.identity and one.identity.kind is StepKind.BAR
    }
    placed: list[tuple[StepIdentity, RevisedStep]] = []
    for place, (name, identity, step) in enumerate(made):
        old = partner.get(place)
        if old is not None:
            entry = _kept(existing[old], old, name, identity, step, passed, edited or {})
        elif identity.kind in PARTS and identity.bars in passed | left:
            continue  # what is built or left out is not taken apart
        else:
            entry = RevisedStep(StepChange.ADDED, name, step.why, step=step)
        placed.append((identity, entry))
    kept = [entry.old for _, entry in placed if entry.old is not None]
    moved_by_hand = keep_order and kept != sorted(kept)
    entries = _in_old_order(placed) if moved_by_hand else [entry for _, entry in placed]
    for place in sorted(set(range(len(existing))) - set(partner.values())):
        entry = _without_partner(existing[place], place)
        stays = entry.change is StepChange.STAYS
        entries.insert(_behind(entries, place) if stays else len(entries), entry)
    last = (StepChange.LEFT_OUT, StepChange.REMOVED)
    return tuple(sorted(entries, key=lambda entry: entry.change in last))


def _in_old_order(placed: Sequence[tuple[StepIdentity, RevisedStep]]) -> list[RevisedStep]:
    """What stays in the order the teacher had it. What is new goes in front of the bar it is
    a part of, else behind all that comes before it in the new plan and shares its bars, else
    behind its neighbour there."""
    stays = [(entry.old, entry) for _, entry in placed if entry.old is not None]
    ordered = [entry for _, entry in sorted(stays, key=lambda one: one[0])]
    for place, (identity, entry) in enumerate(placed):
        if entry.old is not None:
            continue
        later = [e for other, e in placed[place + 1 :] if other.bars == identity.bars]
        following = [ordered.index(one) for one in later if one in ordered]
        before = [other for _, other in placed[:place]]
        sharing = [e for other, e in placed[:place] if set(other.bars) & set(identity.bars)]
        if identity.kind in PARTS and following:
            ordered.insert(min(following), entry)
        else:
            behind = [ordered.index(one) for one in sharing or before[-1:]]
            ordered.insert(max(behind, default=-1) + 1, entry)
    return ordered


def _partners(
    existing: Sequence[ExistingStep], identities: Sequence[StepIdentity]
) -> dict[int, int]:
    """For each new step the old one that it continues: the same in every way, else the same
    music, else the same bars."""
    found: dict[int, int] = {}
    free = {place for place, one in enumerate(existing) if one.identity is not None}
    for same in (
        lambda identity: (identity.what, identity.part, identity.music, identity.bars),
        lambda identity: (identity.what, identity.part, identity.music),
        lambda identity: (identity.what, identity.part, identity.bars),
    ):
        by_sign: dict[Hashable, list[int]] = {}
        for place in sorted(free, reverse=True):
            by_sign.setdefault(same(existing[place].identity), []).append(place)
        for place, identity in enumerate(identities):
            if place not in found and by_sign.get(same(identity)):
                found[place] = by_sign[same(identity)].pop()
                free.discard(found[place])
    return found


def _bar_passed(one: ExistingStep) -> StepIdentity | None:
    """What the step is, where it is a bar that is held."""
    is_bar = one.passed and one.identity and one.identity.kind is StepKind.BAR
    return one.identity if is_bar else None


def _kept(
    one: ExistingStep,
    old: int,
    name: str,
    identity: StepIdentity,
    step: Step,
    passed: set,
    edited: Mapping[Hashable, str],
) -> RevisedStep:
    if one.dropped:
        return RevisedStep(StepChange.STAYS, name, "left out by you before", old, step)
    if identity.kind in PARTS and identity.bars in passed and not one.tries and not one.by_hand:
        return RevisedStep(StepChange.LEFT_OUT, name, "the bar itself holds its target", old)
    if one.identity and one.identity.music != identity.music:
        tries = f"; its {one.tries} tries are kept" if one.tries else ""
        said = "; ".join(edited[bar] for bar in identity.bars if bar in edited)
        return RevisedStep(
            StepChange.CHANGED, name, f"{said or 'its music changed'}{tries}", old, step
        )
    if one.name != name:
        return RevisedStep(StepChange.STAYS, name, f"was {one.name}", old, step)
    return RevisedStep(StepChange.STAYS, name, "", old, step)


def _without_partner(one: ExistingStep, old: int) -> RevisedStep:
    if one.identity is not None and (one.by_hand or one.identity.kind is StepKind.OWN):
        return RevisedStep(StepChange.STAYS, one.name, "your own", old)
    gone = one.identity is None
    why = "its bars are gone from the piece" if gone else "the plan no longer needs it"
    if one.tries:
        return RevisedStep(
            StepChange.LEFT_OUT, one.name, f"{why}; its {one.tries} tries are kept", old
        )
    return RevisedStep(StepChange.REMOVED, one.name, why, old)


def _behind(entries: Sequence[RevisedStep], old: int) -> int:
    """Behind the last entry that stood before it in the plan as it was."""
    before = [i for i, entry in enumerate(entries) if entry.old is not None and entry.old < old]
    return before[-1] + 1 if before else 0
