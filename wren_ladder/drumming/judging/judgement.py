"""What will catch this player: every bar and every join of a piece, weighed.

At the player's target tempo, with their hands and what they have learned. The reasons are
common practice; the weights are the teacher's.
"""

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from functools import cached_property
from itertools import pairwise

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Tempo
from wren_ladder.drumming.description.figures import beat_figures
from wren_ladder.drumming.description.phrases import phrases
from wren_ladder.drumming.description.techniques import FEELS, technique_at
from wren_ladder.drumming.findings import Finding, Kind, Weighed, rank, weigh
from wren_ladder.drumming.findings.ground import FIRST_FEEL, ODD_METER
from wren_ladder.drumming.findings.joins import JUMP, TEMPO_CHANGE, across_the_bar_line
from wren_ladder.drumming.findings.playing import playing_findings
from wren_ladder.drumming.findings.traps import landings
from wren_ladder.drumming.grades import HOUSE_SYLLABUS, Syllabus
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.judging.syllabus import Item, Status, vocabulary
from wren_ladder.drumming.study import BarStudy, Study, own_findings
from wren_ladder.drumming.style import HOUSE, Reason, Style

ODD = {ODD_METER: "odd metre"}


def _all_new(found: Sequence[Finding]) -> str:
    return f"new: {', '.join(sorted(one['name'] for one in found))}"


def _less_again(one: Finding) -> float:
    return AGAIN if one["again"] else 1.0


AGAIN = 0.5  # of what is new or due, where an earlier bar has brought it
NEW = Kind("new", lambda one: f"new: {one['name']}", Reason.NEW, _less_again, _all_new)
DUE = Kind(
    "due",
    lambda one: f"due now: {one['name']}",
    Reason.DUE,
    _less_again,
    together=lambda found: f"due now: {', '.join(sorted(one['name'] for one in found))}",
)


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
class BarJudgement:
    """How hard a bar is for the player; ``own`` is the teacher's rank instead."""

    weighed: tuple[Weighed, ...]
    own: float | None = None

    @property
    def rank(self) -> float:
        return rank(self.weighed) if self.own is None else self.own


@dataclass(frozen=True, slots=True)
class Join:
    """The end of one bar into the start of another, places from 0."""

    leaving: int
    landing: int
    kind: JoinKind
    weighed: tuple[Weighed, ...]

    @property
    def rank(self) -> float:
        return rank(self.weighed)


@dataclass(frozen=True)  # without slots: what is asked for often is kept
class Judgement:
    bars: tuple[BarJudgement, ...]
    joins: tuple[Join, ...]  # each once, in the order they are played
    known: tuple[bool, ...]  # by bar: the player has it already

    def join(self, leaving: int, landing: int) -> Join | None:
        return self._by_bars.get((leaving, landing))

    @cached_property
    def _by_bars(self) -> dict[tuple[int, int], Join]:
        return {(one.leaving, one.landing): one for one in reversed(self.joins)}


def music_of(bar: Bar) -> tuple:
    """What makes bars of any pieces the same to play."""
    return (bar.meter, bar.length, bar.hits)


def judge(study: Study, player: Player | None = None) -> Judgement:
    """Every bar and join of a studied piece for one player; equal bars at one tempo are equally
    hard."""
    player = player or Player()
    return Judgement(
        bars=_bars(study, player),
        joins=_joins(study, player),
        known=tuple(music_of(bar.bar) in player.known for bar in study.bars),
    )


def _bars(study: Study, player: Player) -> tuple[BarJudgement, ...]:
    learned = _learned(study, player)
    new, due = learned[Status.NEW], learned[Status.DUE]
    at_tempo = _tempos(study, player)
    kinds = study.kinds
    own = {kinds[index]: value for index, value in player.ranks.items() if index < len(kinds)}
    found: dict[tuple[int, Tempo], BarJudgement] = {}
    met: set[str] = set()
    had_before = _had(player)
    for kind, tempo in zip(kinds, at_tempo, strict=True):
        if (kind, tempo) not in found:
            bar = study.bars[kind]
            source = bar.difference.source if bar.difference else None
            had = {*new.get(source, ()), *due.get(source, ())} if source is not None else set()
            fresh = [
                *_fresh(NEW, new.get(kind, ()), had, bar, met),
                *_fresh(DUE, due.get(kind, ()), had, bar, met),
            ]
            met.update(one["name"] for one in fresh)
            weighed = _of_bar(study, bar, tempo, player.style, fresh, had_before)
            found[kind, tempo] = BarJudgement(weighed, own.get(kind))
    return tuple(found[each] for each in zip(kinds, at_tempo, strict=True))


def _fresh(
    kind: Kind,
    names: Collection[str],
    had: Collection[str],
    bar: BarStudy,
    met: Collection[str],
) -> Iterator[Finding]:
    """What is new or due in a bar, told of its first place there; ``had`` the bar has from the
    one that it is taught from, ``met`` is what earlier bars have."""
    for name in names:
        if name not in had:
            yield kind.found(_first_place(name, bar), name=name, again=name in met)


def _first_place(name: str, bar: BarStudy) -> Fraction | None:
    """Where a bar has something first; None for what is made of more than a stroke or beat."""
    figure = next((at for at, figure in beat_figures(bar.bar) if figure == name), None)
    if figure is not None:
        return next((hit.at for hit in bar.bar.hits if hit.at >= figure), None)
    rudiment = next((one.first for one in bar.rudiments if one.rudiment.name == name), None)
    return technique_at(name, bar.bar) if rudiment is None else rudiment


def _of_bar(
    study: Study,
    bar: BarStudy,
    tempo: Tempo,
    style: Style,
    fresh: Sequence[Finding],
    had: frozenset[str],
) -> tuple[Weighed, ...]:
    """Traps are taken over from the study; the rest is found at this tempo, and of it what the
    bar does not have from the one it is taught from."""
    found = playing_findings(bar.bar, bar.sticks, tempo, style, had, bar.swing)
    told = {one["name"] for one in fresh}
    ground = [one for one in bar.ground if _as_technique(one) not in told]
    own = own_findings(found, bar, study.bars)
    return weigh((*fresh, *own, *bar.caught, *ground), style)


def _as_technique(one: Finding) -> str | None:
    """The name by which a syllabus has a feel: what is new or due is told once."""
    return FEELS.get(one["feel"]) if one.kind is FIRST_FEEL else ODD.get(one.kind)


def _had(player: Player) -> frozenset[str]:
    """What the player's grade had before."""
    if player.grade is None:
        return frozenset()
    return frozenset(name for name, grade in player.syllabus.items() if grade < player.grade)


def _tempos(study: Study, player: Player) -> list[Tempo]:
    """Each bar's tempo when the piece is at the player's target."""
    printed = study.tempos
    if player.target is None:
        return list(printed)
    share = Fraction(player.target, study.chart.tempo.bpm)
    return [tempo.scaled(share) for tempo in printed]


def fresh_to(study: Study, player: Player, status: Status) -> tuple[Item, ...]:
    """What of a piece has this status at the player's grade; what everybody begins with is not
    told, and of a player without a grade nothing is known."""
    return tuple(item for item in _graded(study, player) if item.status is status)


def _graded(study: Study, player: Player) -> list[Item]:
    if player.grade is None:
        return []
    found = vocabulary(study, player.grade, player.syllabus)
    return [item for item in found if item.grade is not None]


def _learned(study: Study, player: Player) -> dict[Status, dict[int, list[str]]]:
    """By status and bar, what of it the player's grade has not had yet, or has now."""
    found: dict[Status, dict[int, list[str]]] = {status: {} for status in Status}
    for item in _graded(study, player):
        for index in item.bars:
            found[item.status].setdefault(index, []).append(item.name)
    return {
        status: {index: sorted(_once(names)) for index, names in bars.items()}
        for status, bars in found.items()
    }


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
    printed, played = study.tempos, _tempos(study, player)
    landed = landings(bars, study.visits, played, player.style)
    found: dict[tuple[int, int], Join] = {}
    for before, after in pairwise(study.visits):
        pair = (before.index, after.index)
        if pair in found:
            continue
        kind = _kind(pair, bars, lines)
        measured: list[Finding] = []
        if kind is JoinKind.JUMP:
            measured.append(JUMP.found(turn=why.get(pair, "back on the page")))
        if printed[pair[0]] != printed[pair[1]]:
            measured.append(TEMPO_CHANGE.found(after=printed[pair[1]]))
        leaving, landing = (_hands_in(study.bars[place]) for place in pair)
        measured += across_the_bar_line(leaving, landing, played[pair[0]], player.style)
        if pair in landed:
            measured.append(landed[pair])
        found[pair] = Join(*pair, kind, weigh(measured, player.style))
    return tuple(found.values())


def _hands_in(bar: BarStudy) -> tuple[Bar, tuple[Stick, ...]]:
    return bar.bar, bar.sticks


def _kind(pair: tuple[int, int], bars: Sequence[Bar], lines: Collection[int]) -> JoinKind:
    leaving, landing = pair
    if landing != leaving + 1:
        return JoinKind.JUMP
    if bars[landing].section and not bars[leaving].pickup:
        return JoinKind.SECTION
    return JoinKind.LINE if landing in lines else JoinKind.BAR
