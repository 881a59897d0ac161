"""A groove is one pattern of each limb; a family is walked one change at a time."""

from collections import deque
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import cache, lru_cache

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Chart, Drum, Hit, Tempo, Touch
from wren_ladder.drumming.description.differences import Change, ChangeKind, changes
from wren_ladder.drumming.findings.conflicts import conflicts
from wren_ladder.drumming.grades import HOUSE_SYLLABUS, Syllabus
from wren_ladder.drumming.hands import stick_bar
from wren_ladder.drumming.style import HOUSE, Style
from wren_ladder.drumming.workshop.patterns import (
    BACKBEATS,
    BY_BOTH_HANDS,
    FOUR,
    HAND_STEPS,
    KICK_STEPS,
    KICKS,
    LEFT_FEET,
    Backbeat,
    Hands,
    Kick,
    LeftFoot,
    cymbal,
    hand_grade,
)

USUAL_TEMPO = Tempo(Fraction(1), 72)  # a foot's limit for two semiquavers lies just above
LIMBS = ("hands", "kick", "backbeat", "left_foot", "extra")


@dataclass(frozen=True, slots=True)
class Groove:
    """``extra`` are snare notes besides the backbeat, in crotchets from the bar line."""

    hands: Hands
    kick: Kick
    backbeat: Backbeat = Backbeat.TWO_AND_FOUR
    left_foot: LeftFoot = LeftFoot.NOTHING
    extra: tuple[Fraction, ...] = ()

    @property
    def name(self) -> str:
        words = [self.hands.label, f"kick {self.kick.name}"]
        if self.backbeat is not Backbeat.TWO_AND_FOUR:
            words.append(self.backbeat.label)
        if self.left_foot is not LeftFoot.NOTHING:
            words.append(self.left_foot.label)
        return ", ".join(words)

    def grade(self, syllabus: Syllabus = HOUSE_SYLLABUS) -> int:
        """That of the hardest of its patterns; two new things together are one grade more."""
        both = sorted((hand_grade(self.hands, syllabus), self.kick.grade(syllabus)))
        more = (self.left_foot is not LeftFoot.NOTHING) + bool(self.extra)
        return both[1] + (both[0] == both[1] > 1) + more

    @property
    def bar(self) -> Bar:
        return groove_bar(self)


@lru_cache(maxsize=2048)
def groove_bar(groove: Groove) -> Bar:
    """The groove as a bar. In semiquavers, which both hands play, the hand that has the
    backbeat leaves the cymbal."""
    snares = sorted({*BACKBEATS[groove.backbeat], *groove.extra})
    strokes = cymbal(groove.hands)
    if groove.hands in BY_BOTH_HANDS:
        strokes = {at: hit for at, hit in strokes.items() if at not in snares}
    hits = [*strokes.values()]
    hits += (Hit(at, Drum.SNARE) for at in snares)
    hits += (Hit(at, Drum.KICK) for at in groove.kick.places)
    hits += (Hit(at, Drum.HIHAT_FOOT) for at in LEFT_FEET[groove.left_foot])
    return replace(FOUR, hits=tuple(hits))


def why_not(groove: Groove, tempo: Tempo = USUAL_TEMPO, style: Style = HOUSE) -> str:
    """Why it can't be played at a tempo; empty where it can."""
    bar = groove.bar
    found = conflicts(stick_bar(bar, style), bar, tempo, style)
    return str(found[0]) if found else ""


def family(
    hands: Iterable[Hands] = Hands,
    kicks: Iterable[Kick] = KICKS,
    backbeat: Backbeat = Backbeat.TWO_AND_FOUR,
    left_foot: LeftFoot = LeftFoot.NOTHING,
) -> tuple[Groove, ...]:
    """Every hand pattern over every kick pattern, row by row."""
    kicks = tuple(kicks)
    return tuple(Groove(hand, kick, backbeat, left_foot) for hand in hands for kick in kicks)


def differing(one: Groove, other: Groove) -> int:
    """How many limbs play another pattern."""
    return sum(getattr(one, name) != getattr(other, name) for name in LIMBS)


@cache  # of a family, which is small
def step_between(one: Groove, other: Groove) -> Change | None:
    """The one change between two grooves, where it is one there and one back: a note of one
    limb added, taken away or moved, or the cymbal's pattern as a whole. No step jumps more than
    a grade of the house's."""
    if differing(one, other) != 1 or abs(one.grade() - other.grade()) > 1:
        return None
    pattern = _of_the_pattern(one, other)
    if pattern or one.hands is not other.hands:
        return pattern
    found, back = changes(one.bar, other.bar), changes(other.bar, one.bar)
    return found[0] if found and back and len(found) == len(back) == 1 else None


STEPS = (*HAND_STEPS, *KICK_STEPS)
SAID = {(a, b): to for a, b, to, _ in STEPS} | {(b, a): back for a, b, _, back in STEPS}


def _of_the_pattern(one: Groove, other: Groove) -> Change | None:
    what = SAID.get((one.hands, other.hands)) or SAID.get((one.kick.code, other.kick.code))
    if what is None:
        return None
    before, after = set(one.bar.music), set(other.bar.music)
    gone, new = tuple(before - after), tuple(after - before)
    return Change(ChangeKind.PATTERN, Fraction(0), what, gone=gone, new=new)


def neighbours(groove: Groove, among: Iterable[Groove]) -> tuple[tuple[Groove, Change], ...]:
    """Those that are one change away, the easiest first."""
    alike = [one for one in among if differing(groove, one) == 1]
    found = [(one, step_between(groove, one)) for one in alike]
    near = [(one, change) for one, change in found if change]
    return tuple(sorted(near, key=lambda pair: _ease(pair[0])))


def _ease(groove: Groove, syllabus: Syllabus = HOUSE_SYLLABUS) -> tuple:
    """By grade, then by how many notes the feet have and how many fall off the beats."""
    kicks = groove.kick.places
    off = sum(at.denominator for at in kicks)
    return groove.grade(syllabus), len(kicks), off, groove.name


def next_grooves(
    held: Iterable[Groove], among: Sequence[Groove], syllabus: Syllabus = HOUSE_SYLLABUS
) -> dict[Groove, tuple[Groove, Change]]:
    """What may come next: each that is one change from a groove that is held, with the easiest
    such groove and the change, easiest first."""

    def ease(groove: Groove) -> tuple:
        return _ease(groove, syllabus)

    held = set(held)
    found: dict[Groove, tuple[Groove, Change]] = {}
    for known in sorted(held, key=ease):
        for one, change in neighbours(known, among):
            if one not in held and ease(one)[:3] >= ease(known)[:3]:  # next is never less
                found.setdefault(one, (known, change))
    return dict(sorted(found.items(), key=lambda pair: ease(pair[0])))


def walk(start: Groove, end: Groove, among: Sequence[Groove]) -> tuple[Groove, ...]:
    """The shortest way from one groove to another through a family, both ends in it; empty
    where there is none."""
    came: dict[Groove, Groove | None] = {start: None}
    waiting = deque([start])
    while waiting and end not in came:
        here = waiting.popleft()
        for one, _ in neighbours(here, among):
            if one not in came:
                came[one] = here
                waiting.append(one)
    if end not in came:
        return ()
    way: list[Groove] = []
    last: Groove | None = end
    while last is not None:
        way.append(last)
        last = came[last]
    return tuple(reversed(way))


def displaced(bar: Bar, by: Fraction, only: Iterable[Drum] | None = None) -> Bar:
    """The groove, or the drums of one limb, moved later by so many crotchets; what leaves the
    bar comes in again at its start. ChartError where two strokes of one surface meet."""
    moved = set(only) if only is not None else {hit.drum for hit in bar.hits}
    hits = (
        replace(hit, at=(hit.at + by) % bar.length) if hit.drum in moved else hit
        for hit in bar.hits
    )
    return bar.in_notes(hits=tuple(hits), marks=())


def with_extra_snare(groove: Groove, at: Fraction) -> Groove:
    return replace(groove, extra=tuple(sorted({*groove.extra, at})))


def phrase(
    bars: Sequence[Bar], length: int, fill: Bar | None = None, crash: bool = True
) -> Chart:
    """So many bars of a groove, or of several in turn: a crash on the first beat, a fill as the
    last bar."""
    found = [replace(bars[n % len(bars)], number=str(n + 1)) for n in range(length)]
    if fill is not None:
        found[-1] = replace(fill, number=str(length))
    if crash:
        found[0] = _with_crash(found[0])
    return Chart("", tuple(found))


def _with_crash(bar: Bar) -> Bar:
    """A crash in place of the cymbal on 1, and the kick with it."""
    first = [hit for hit in bar.hits if hit.at == 0 and hit.drum.by_foot]
    first += [hit for hit in bar.hits if hit.at == 0 and hit.drum is Drum.SNARE]
    if not any(hit.drum is Drum.KICK for hit in first):
        first.append(Hit(Fraction(0), Drum.KICK))
    later = [hit for hit in bar.hits if hit.at > 0]
    return bar.in_notes(hits=(Hit(Fraction(0), Drum.CRASH, Touch.ACCENT), *first, *later))
