"""What will catch this player: every bar and every join of a piece, weighed.

At the player's target tempo, with their hands and what they have learned. The reasons are
common practice; the weights are the teacher's.
"""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction
from itertools import pairwise

from wren_ladder.drumming.chart import Bar, Drum, Hit, Surface, Tempo
from wren_ladder.drumming.description.phrases import phrases
from wren_ladder.drumming.description.timekeeping import timekeeper
from wren_ladder.drumming.findings.difficulty import (
    FAR,
    SEMIQUAVER,
    Trouble,
    difficulty,
    rank,
    weighed,
)
from wren_ladder.drumming.findings.traps import landings
from wren_ladder.drumming.hands.kit import travel
from wren_ladder.drumming.hands.limbs import HAND_OF, Limb
from wren_ladder.drumming.judging.syllabus import HOUSE_SYLLABUS, Status, Syllabus, vocabulary
from wren_ladder.drumming.study import BarStudy, Study
from wren_ladder.drumming.style import HOUSE, Reason, Style

QUAVER = Fraction(1, 2)


@dataclass(frozen=True, slots=True)
class Player:
    """For whom a piece is judged and broken down."""

    style: Style = HOUSE
    grade: int | None = None  # None: nothing counts as new
    target: int | None = None  # BPM of the piece's opening beat; None as printed
    syllabus: Syllabus = field(default_factory=lambda: HOUSE_SYLLABUS)
    known: Collection[tuple] = frozenset()  # the music of bars they can play, see `music_of`
    ranks: Mapping[int, float] = field(default_factory=dict)  # the teacher's own, by bar


class JoinKind(StrEnum):
    BAR = "bar to bar"
    LINE = "line to line"
    SECTION = "section to section"
    JUMP = "across a jump"


@dataclass(frozen=True, slots=True)
class Catch:
    """What will catch the player in a bar; ``own`` is the teacher's rank instead."""

    troubles: tuple[Trouble, ...]
    own: float | None = None

    @property
    def rank(self) -> float:
        return rank(self.troubles) if self.own is None else self.own


@dataclass(frozen=True, slots=True)
class Join:
    """The end of one bar into the start of another, places from 0."""

    leaving: int
    landing: int
    kind: JoinKind
    troubles: tuple[Trouble, ...]

    @property
    def rank(self) -> float:
        return rank(self.troubles)


@dataclass(frozen=True, slots=True)
class Judgement:
    bars: tuple[Catch, ...]
    joins: tuple[Join, ...]  # each once, in the order they are played
    known: tuple[bool, ...]  # by bar: the player has it already

    def join(self, leaving: int, landing: int) -> Join | None:
        return next(
            (j for j in self.joins if (j.leaving, j.landing) == (leaving, landing)), None
        )


def music_of(bar: Bar) -> tuple:
    """What makes bars of any pieces the same to play."""
    return (bar.meter, bar.length, bar.hits)


def judge(study: Study, player: Player | None = None) -> Judgement:
    """Every bar and join of a studied piece for one player; equal bars are equally hard."""
    player = player or Player()
    return Judgement(
        bars=_bars(study, player),
        joins=_joins(study, player),
        known=tuple(music_of(bar.bar) in player.known for bar in study.bars),
    )


def _bars(study: Study, player: Player) -> tuple[Catch, ...]:
    new = _new_things(study, player)
    at_tempo = _tempos(study, player)
    kinds = study.kinds
    own = {kinds[index]: value for index, value in player.ranks.items() if index < len(kinds)}
    found: dict[int, Catch] = {}
    for index, kind in enumerate(kinds):
        if kind == index:
            bar = study.bars[index]
            troubles = _of_bar(bar, at_tempo[index], player.style, new.get(index, ()))
            found[kind] = Catch(troubles, own.get(kind))
    return tuple(found[kind] for kind in kinds)


def _of_bar(
    bar: BarStudy, tempo: Tempo, style: Style, new: Collection[str]
) -> tuple[Trouble, ...]:
    """Traps are taken over from the study; the rest is measured at this tempo."""
    traps = [(t.reason, t.amount, t.text) for t in bar.hard if t.reason is Reason.TRAP]
    measured = difficulty(bar.bar, bar.sticks, tempo, style, new)
    return weighed([*((t.reason, t.amount, t.text) for t in measured), *traps], style)


def _tempos(study: Study, player: Player) -> list[Tempo]:
    """Each bar's tempo when the piece is at the player's target."""
    printed = study.tempos
    if player.target is None:
        return list(printed)
    share = Fraction(player.target, study.chart.tempo.bpm)
    return [tempo.scaled(share) for tempo in printed]


def _new_things(study: Study, player: Player) -> dict[int, list[str]]:
    """By bar, what of it the player's grade has not had yet."""
    if player.grade is None:
        return {}
    found: dict[int, list[str]] = {}
    for item in vocabulary(study, player.grade, player.syllabus):
        if item.status is Status.NEW and item.grade is not None:
            for index in item.bars:
                found.setdefault(index, []).append(item.name)
    return {index: _once(names) for index, names in found.items()}


def _once(names: Sequence[str]) -> list[str]:
    """ "flams" is the technique and "flam" its rudiment: one thing to learn. So are counted
    rolls, whichever the count."""
    rolls = any(name.endswith("stroke rolls") for name in names)
    return [
        name
        for name in names
        if f"{name}s" not in names and not (rolls and name.endswith("stroke roll"))
    ]


def _joins(study: Study, player: Player) -> tuple[Join, ...]:
    bars = study.chart.bars
    lines = {phrase.first for phrase in phrases(bars)}
    why = {(turn.leaving, turn.landing): turn.why for turn in study.turns}
    landed = landings(bars, study.visits)
    printed = study.tempos
    found: dict[tuple[int, int], Join] = {}
    for before, after in pairwise(study.visits):
        pair = (before.index, after.index)
        if pair in found:
            continue
        kind = _kind(pair, bars, lines)
        measured = [
            (Reason.JUMP, float(kind is JoinKind.JUMP), why.get(pair, "back on the page")),
            *_new_tempo(printed[pair[0]], printed[pair[1]]),
            *_across(study.bars[pair[0]], study.bars[pair[1]]),
        ]
        if pair in landed:
            measured.append((Reason.QUICK_KICKS, 1.0, landed[pair]))
        found[pair] = Join(*pair, kind, weighed(measured, player.style))
    return tuple(found.values())


def _kind(pair: tuple[int, int], bars: Sequence[Bar], lines: Collection[int]) -> JoinKind:
    leaving, landing = pair
    if landing != leaving + 1:
        return JoinKind.JUMP
    if bars[landing].section and not bars[leaving].pickup:
        return JoinKind.SECTION
    return JoinKind.LINE if landing in lines else JoinKind.BAR


def _new_tempo(leaving: Tempo, landing: Tempo) -> list[tuple[Reason, float, str]]:
    if leaving == landing:
        return []
    return [(Reason.METER, 1.0, f"a new tempo, {landing}")]


def _across(before: BarStudy, after: BarStudy) -> list[tuple[Reason, float, str]]:
    """What is hard about the bar line itself."""
    leaving, landing = before.bar, after.bar
    found = []
    if leaving.meter != landing.meter:
        text = f"the metre changes from {leaving.meter} to {landing.meter}"
        found.append((Reason.METER, 1.0, text))
    keepers = timekeeper(leaving), timekeeper(landing)
    if None not in keepers and keepers[0] is not keepers[1]:
        text = f"the cymbal hand moves from {keepers[0].value} to {keepers[1].value}"
        found.append((Reason.REACH, 1.0, text.replace("hihat", "hat")))
    else:
        found += _reaches_across(before, after)
    hats = [_hats(leaving)[-1:], _hats(landing)[:1]]
    if hats == [[Drum.HIHAT_OPEN], [Drum.HIHAT]]:
        found.append(
            (Reason.HAT_CLOSES, 1.0, "the hat closes as it is struck, over the bar line")
        )
    return [*found, *_hands_across(before, after), *_entry(leaving, landing)]


def _hats(bar: Bar) -> list[Drum]:
    """What the hat does in the bar, stick and foot."""
    surfaces = (Surface.HIHAT, Surface.HIHAT_FOOT)
    return [hit.drum for hit in bar.hits if hit.drum.surface in surfaces]


def _hands_across(before: BarStudy, after: BarStudy) -> list[tuple[Reason, float, str]]:
    return [
        (Reason.DOUBLES, 1.0, f"the {limb} twice over the bar line")
        for limb, gap, _, _ in _meetings(before, after)
        if gap <= SEMIQUAVER
    ]


def _reaches_across(before: BarStudy, after: BarStudy) -> list[tuple[Reason, float, str]]:
    return [
        (Reason.REACH, 1.0, f"the {limb} goes from {last.drum.spoken} to {first.drum.spoken}")
        for limb, gap, last, first in _meetings(before, after)
        if gap <= QUAVER and travel(last.drum.surface, first.drum.surface) >= FAR
    ]


def _meetings(before: BarStudy, after: BarStudy) -> list[tuple[Limb, Fraction, Hit, Hit]]:
    """(hand, crotchets between, its last stroke of the one bar, its first of the other)."""
    found = []
    for limb in HAND_OF:
        last = [stick.hit for stick in before.sticks if stick.limb is limb][-1:]
        first = [stick.hit for stick in after.sticks if stick.limb is limb][:1]
        if last and first:
            gap = before.bar.length - last[0].at + first[0].at
            found.append((limb, gap, last[0], first[0]))
    return found


def _entry(leaving: Bar, landing: Bar) -> list[tuple[Reason, float, str]]:
    """The next note comes off the beat after a beat or more of silence over the bar line."""
    if not leaving.hits or not landing.hits:
        return []
    first = landing.hits[0].at
    gap = leaving.length - leaving.hits[-1].at + first
    starts = {start for start, _ in landing.beats}
    if gap <= 1 or first in starts:
        return []
    return [(Reason.ENTRY, 1.0, "it comes in off the beat, after silence")]
