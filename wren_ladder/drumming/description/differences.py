"""Bars compared: a bar that differs little from one before is taught as the difference.

"18 is 17 with the hat open on 4&". Common practice, no source.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache
from itertools import groupby

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Grace, Hit, RollKind, Surface, Touch
from wren_ladder.drumming.chart.drum import SECTION_CRASHES
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.chart.shorthand import CARRIERS
from wren_ladder.drumming.description.timekeeping import fill_start, timekeeper
from wren_ladder.drumming.wording import listed

FEWEST_HITS = 3  # below, everything is like everything


class ChangeKind(StrEnum):
    CRASH = "section crash"
    ADDED = "added"
    REMOVED = "removed"
    MOVED = "moved"
    OTHER_DRUM = "other drum"
    SET = "set otherwise"  # an opened hat, a bell
    TOUCH = "touch"
    ORNAMENT = "ornament"
    CYMBAL = "on another cymbal"  # the whole pattern of the cymbal hand
    PATTERN = "another pattern"  # of the cymbal hand, as a whole
    FILL = "a fill"  # that takes the place of the groove's end
    HANDS = "another sticking"


@dataclass(frozen=True, slots=True)
class Change:
    """One step from the bar before to this one; ``at`` is where this one has it."""

    kind: ChangeKind
    at: Fraction
    what: str  # "the hat open", said after "with" or "without"
    where: str = ""  # "4&"; what is in no one place has none
    without: bool = False
    gone: tuple[Hit, ...] = ()  # what it takes out
    new: tuple[Hit, ...] = ()  # what it brings in

    @property
    def spoken(self) -> str:
        return f"{self.what_spoken} on {self.where}" if self.where else self.what_spoken

    @property
    def what_spoken(self) -> str:
        """ "with the hat open", without its place; "on the ride"."""
        if self.kind is ChangeKind.CYMBAL:
            return f"on {self.what}"
        if self.kind is ChangeKind.PATTERN:
            return self.what
        return f"{'without' if self.without else 'with'} {self.what}"

    @property
    def by_foot(self) -> bool:
        return all(hit.drum.by_foot for hit in (*self.gone, *self.new))


@lru_cache(maxsize=8192)  # a press in the editor changes one bar of many
def changes(before: Bar, after: Bar) -> tuple[Change, ...] | None:
    """The smallest musical steps from one bar to the other; None in another metre."""
    if (before.meter, before.length) != (after.meter, after.length):
        return None
    frame = Positions.of(after)
    was, becomes = before.music, after.music
    here, there = set(becomes), set(was)
    gone = [hit for hit in was if hit not in here]
    new = [hit for hit in becomes if hit not in there]
    found: list[Change] = []
    _fill(before, after, gone, new, frame, found)
    _crash(gone, new, found)
    _other_cymbal(gone, new, frame, found)
    _same_place(gone, new, frame, found)
    _exchanged(gone, new, frame, found)
    for hit in new:
        where = frame.say(hit.at)
        found.append(Change(ChangeKind.ADDED, hit.at, _the(hit), where, new=(hit,)))
    for hit in gone:
        where = frame.say(hit.at)
        found.append(Change(ChangeKind.REMOVED, hit.at, _the(hit), where, True, gone=(hit,)))
    return tuple(sorted(_by_moment(_one_sticking(found)), key=lambda change: change.at))


def _fill(
    before: Bar,
    after: Bar,
    gone: list[Hit],
    new: list[Hit],
    frame: Positions,
    found: list[Change],
) -> None:
    """A fill in place of the end of a groove is one change, whatever it is made of."""
    start = groove_end(after).after(groove_end(before))
    if start is None:
        return
    out = tuple(hit for hit in gone if hit.at >= start)
    into = tuple(hit for hit in new if hit.at >= start)
    gone[:] = [hit for hit in gone if hit.at < start]
    new[:] = [hit for hit in new if hit.at < start]
    what = f"a fill from {frame.say(start)}"
    found.append(Change(ChangeKind.FILL, start, what, gone=out, new=into))


@dataclass(frozen=True, slots=True)
class GrooveEnd:
    """Where the groove of a bar gives way to a ``fill``, None where it does not; ``half`` of
    the bar, and what keeps its time."""

    fill: Fraction | None
    half: Fraction
    keeper: Surface | None

    def after(self, before: "GrooveEnd") -> Fraction | None:
        """Where this bar leaves the groove of the other for a fill; None where it does not, or
        so early that little of the groove is left."""
        if self.fill is None or self.fill < self.half or before.fill is not None:
            return None
        return self.fill if before.keeper is self.keeper else None


@lru_cache(maxsize=4096)
def groove_end(bar: Bar) -> GrooveEnd:
    return GrooveEnd(fill_start(bar), bar.length / 2, timekeeper(bar))


def _by_moment(found: Sequence[Change]) -> list[Change]:
    """What happens at one moment is one change: "with the crash and kick moved from 4& to
    4e"; strokes that come, strokes that go, strokes that move from the same place."""
    groups: dict[tuple, list[Change]] = {}
    for change in found:
        together = change.kind in (ChangeKind.ADDED, ChangeKind.REMOVED, ChangeKind.MOVED)
        start = change.gone[0].at if change.kind is ChangeKind.MOVED else None
        key = (change.kind, change.at, start) if together else (change,)
        groups.setdefault(key, []).append(change)
    return [_as_one(group) if len(group) > 1 else group[0] for group in groups.values()]


def _one_sticking(found: Sequence[Change]) -> list[Change]:
    """Hands that change are one change, for they are learned as one."""
    hands = [one for one in found if one.kind is ChangeKind.HANDS]
    others = [one for one in found if one.kind is not ChangeKind.HANDS]
    if not hands:
        return others
    gone = tuple(hit for one in hands for hit in one.gone)
    new = tuple(hit for one in hands for hit in one.new)
    return [*others, replace(hands[0], gone=gone, new=new)]


def _as_one(group: Sequence[Change]) -> Change:
    names = [_the((one.new or one.gone)[0]).removeprefix("the ") for one in group]
    first = group[0]
    behind = first.what.partition(" moved from ")[2]
    moved = f" moved from {behind}" if first.kind is ChangeKind.MOVED else ""
    gone = tuple(hit for one in group for hit in one.gone)
    new = tuple(hit for one in group for hit in one.new)
    return replace(first, what=f"the {listed(names)}{moved}", gone=gone, new=new)


def _other_cymbal(
    gone: list[Hit], new: list[Hit], frame: Positions, found: list[Change]
) -> None:
    """The whole pattern of the cymbal hand on another cymbal is one change, "on the ride"; a
    stroke that is set otherwise there, such as the bell, is another."""
    mine = {hit.at: hit for hit in new if _keeps_time(hit)}
    theirs = {hit.at: hit for hit in gone if _keeps_time(hit)}
    surfaces = {hit.drum.surface for hit in (*mine.values(), *theirs.values())}
    if len(theirs) < FEWEST_HITS or mine.keys() != theirs.keys() or len(surfaces) != 2:
        return
    drum = CARRIERS[next(iter(mine.values())).drum.surface]
    for at, hit in mine.items():
        gone.remove(theirs[at])
        new.remove(hit)
        before = replace(theirs[at], drum=drum)
        if before != hit:
            found.append(_played_otherwise(before, hit, frame.say(at)))
    pair = tuple(theirs.values()), tuple(mine.values())
    first = min(mine)
    found.append(Change(ChangeKind.CYMBAL, first, f"the {drum.spoken}", "", False, *pair))


def _the(hit: Hit) -> str:
    """ "the snare", "the snare ghost", "the floor tom accent and flam"."""
    how = [hit.touch.value] if hit.touch is not Touch.NORMAL else []
    if hit.grace is not Grace.NONE:
        how.append(hit.grace.value)
    return f"the {hit.drum.spoken} {listed(how)}".rstrip()


def _crash(gone: list[Hit], new: list[Hit], found: list[Change]) -> None:
    """A crash on the first beat marks the section: a difference of its own kind, with the
    cymbal that stands in for it."""
    for mine, theirs, without in ((new, gone, False), (gone, new, True)):
        crash = next((h for h in mine if h.at == 0 and h.drum.surface in SECTION_CRASHES), None)
        if crash is None:
            continue
        mine.remove(crash)
        kept = tuple(h for h in theirs if h.at == 0 and _keeps_time(h))[:1]
        for hit in kept:
            theirs.remove(hit)
        sides = ((crash,), kept) if without else (kept, (crash,))
        kind = ChangeKind.CRASH
        found.append(Change(kind, Fraction(0), "the section's crash", "", without, *sides))


def _keeps_time(hit: Hit) -> bool:
    return hit.drum.surface in CARRIERS


def _same_place(gone: list[Hit], new: list[Hit], frame: Positions, found: list[Change]) -> None:
    """The same surface at the same time, played in another way."""
    for hit in list(new):
        place = (hit.at, hit.drum.surface)
        old = next((h for h in gone if (h.at, h.drum.surface) == place), None)
        if old is None:
            continue
        gone.remove(old)
        new.remove(hit)
        found.append(_played_otherwise(old, hit, frame.say(hit.at)))


def _played_otherwise(old: Hit, hit: Hit, where: str) -> Change:
    def change(kind: ChangeKind, what: str, plain: bool = False, which: str = "") -> Change:
        return Change(kind, hit.at, what, f"{where}{which}", plain, (old,), (hit,))

    if old.drum is not hit.drum:
        return change(ChangeKind.SET, f"the {_set(hit.drum)}")
    if (old.grace, old.roll) != (hit.grace, hit.roll):
        plain = hit.grace is Grace.NONE and hit.roll is None
        name = _ornament(old if plain else hit)
        louder = old.touch is not hit.touch and not plain and hit.touch is not Touch.NORMAL
        touch = f"{hit.touch.value} and " if louder else ""
        return change(ChangeKind.ORNAMENT, f"the {touch}{name}", plain)
    if old.touch is not hit.touch:
        plain = hit.touch is Touch.NORMAL
        name = (old if plain else hit).touch.value
        return change(ChangeKind.TOUCH, f"the {name}", plain, f" ({hit.drum.spoken})")
    return Change(ChangeKind.HANDS, hit.at, "another sticking", "", False, (old,), (hit,))


def _set(drum: Drum) -> str:
    """The hat is opened or closed; other surfaces are played another way."""
    named = {Drum.HIHAT: "hat closed", Drum.HIHAT_OPEN: "hat open", Drum.HIHAT_HALF: "hat half"}
    return named.get(drum, drum.spoken)


def _ornament(hit: Hit) -> str:
    if hit.roll is None:
        return hit.grace.value
    if hit.roll.kind is RollKind.BUZZ:
        return "buzz roll"
    return f"{hit.roll.strokes}-stroke roll" if hit.roll.strokes else "roll"


def _exchanged(gone: list[Hit], new: list[Hit], frame: Positions, found: list[Change]) -> None:
    """Strokes that come for one that goes: on another drum at the same time, or the same
    drum within a beat. As many as can be, so that no smaller change is missed."""
    partner: dict[Hit, Hit] = {}  # of each stroke that goes, the one that comes

    def find(hit: Hit, tried: set[Hit]) -> bool:
        for old in sorted((h for h in gone if _exchangeable(h, hit)), key=_nearness(hit)):
            if old in tried:
                continue
            tried.add(old)
            if old not in partner or find(partner[old], tried):
                partner[old] = hit
                return True
        return False

    for hit in new:
        find(hit, set())
    for old, hit in partner.items():
        gone.remove(old)
        new.remove(hit)
        found.append(_exchange(old, hit, frame))


def _exchangeable(old: Hit, hit: Hit) -> bool:
    if old.at == hit.at:
        return old.drum.by_foot == hit.drum.by_foot
    same = (old.drum, old.grace, old.roll) == (hit.drum, hit.grace, hit.roll)
    return same and abs(old.at - hit.at) <= 1


def _nearness(hit: Hit) -> Callable[[Hit], Fraction]:
    return lambda old: abs(old.at - hit.at)


def _exchange(old: Hit, hit: Hit, frame: Positions) -> Change:
    where = frame.say(hit.at)
    if old.at == hit.at:
        what = f"{_the(hit)} for {_the(old)}"
        return Change(ChangeKind.OTHER_DRUM, hit.at, what, where, gone=(old,), new=(hit,))
    what = f"the {hit.drum.spoken} moved from {frame.say(old.at)} to {where}"
    return Change(ChangeKind.MOVED, hit.at, what, gone=(old,), new=(hit,))


def chord_prints(bars: Sequence[Bar], places: Iterable[int]) -> dict[int, int]:
    """Bars as whole numbers with a bit for what they strike at each moment, silence included:
    two of them differ at half as many moments as their numbers differ in bits."""
    chords = {
        place: {
            at: frozenset(hits)
            for at, hits in groupby(bars[place].music, key=lambda hit: hit.at)
        }
        for place in places
    }
    moments = sorted({at for struck in chords.values() for at in struck})
    bits: dict[tuple, int] = {}
    return {
        place: sum(
            1 << bits.setdefault((at, struck.get(at, frozenset())), len(bits)) for at in moments
        )
        for place, struck in chords.items()
    }


def may_be_a_step_apart(one: int, other: int) -> bool:
    """False for prints of which no single change to strokes, in a place or from one to another,
    makes the one from the other."""
    return (one ^ other).bit_count() <= 4
