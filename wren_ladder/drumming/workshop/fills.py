"""Fills by length: a figure for each beat, drums by an orchestration, a line of dynamics.

A method, not answers: what a student chooses is what is kept. Common practice, no source.
"""

import random
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from itertools import chain, groupby, pairwise, repeat

from quicktions import Fraction

from wren_ladder.drumming.building.fills import Space, check_fill, figures_owned
from wren_ladder.drumming.chart import (
    Bar,
    Drum,
    Grace,
    Hand,
    Hit,
    Mark,
    MarkKind,
    Tempo,
    Touch,
)
from wren_ladder.drumming.chart.bar import PICKUP
from wren_ladder.drumming.description.figures import beat_figures, onsets_of
from wren_ladder.drumming.grades import HOUSE_SYLLABUS, Syllabus, hardest
from wren_ladder.drumming.hands import stick_bar
from wren_ladder.drumming.hands.kit import crossed
from wren_ladder.drumming.style import HOUSE, Style
from wren_ladder.drumming.wording import Coded

BEAT = Fraction(1)
MOST_NAMED = 3  # drums that a fill is called by
PLAYERS_GRADE = 5  # from which on there are ways that only a player has
TRIES = 1600  # of the dice, before there are no three
LANDING = (Hit(Fraction(0), Drum.CRASH, Touch.ACCENT), Hit(Fraction(0), Drum.KICK))


class Length(Coded):
    BAR = "bar", "a whole bar, from 1"
    HALF = "half", "half a bar, from 3"
    QUARTER = "quarter", "a quarter of a bar, on 4"
    PICKUP = "pick-up", "a pick-up of one beat before bar 1"


BEATS = {Length.BAR: 4, Length.HALF: 2, Length.QUARTER: 1, Length.PICKUP: 1}


class Orchestration(Coded):
    """Which drums the notes go to."""

    SNARE = "snare", "all on the snare"
    DOWN = "down", "down the kit"
    UP = "up", "up the kit"
    OUTWARDS = "outwards", "from the middle outwards"
    KICK = "kick", "the last note of each beat on the kick"
    UNISON = "unison", "with the kick on each beat"
    FLAMS = "flams", "a flam on each beat"
    SPACE = "space", "with space, one note a beat"
    TWO_DRUMS = "two-drums", "first the snare, then the floor tom"
    PARADIDDLE = "paradiddle", "as paradiddles, the right hand on the floor tom"
    LINEAR = "linear", "hand, hand, kick"
    DOUBLES = "doubles", "as double strokes, the right hand on the floor tom"


class Dynamic(Coded):
    LEVEL = "level", "level"
    BUILD = "build", "getting louder"
    FADE = "fade", "getting softer"


ROUND = (Drum.SNARE, Drum.TOM_HIGH, Drum.TOM_MID, Drum.TOM_FLOOR)
OUTER = (Drum.SNARE, Drum.TOM_MID, Drum.TOM_HIGH, Drum.TOM_FLOOR)
FROM = {
    Length.BAR: "from 1",
    Length.HALF: "from 3",
    Length.QUARTER: "on 4",
    Length.PICKUP: "as a pick-up",
}
# One idea, not one figure by lot for each beat: what comes again, by how many beats there are.
SHAPES = {1: ("A",), 2: ("AA", "AB"), 4: ("AAAA", "AAAB", "ABAB", "AABB")}
HAIRPIN = {Dynamic.BUILD: MarkKind.CRESCENDO, Dynamic.FADE: MarkKind.DIMINUENDO}
FEWEST = {1: 2, 2: 3, 4: 4}  # notes; a single stroke is no fill
# Ways that are hands first: the right on the floor tom, the left on the snare. They take two
# beats to come round.
BY_HANDS = {Orchestration.PARADIDDLE: "RLRRLRLL", Orchestration.DOUBLES: "RRLLRRLL"}
LEADING_IN = (Dynamic.LEVEL, Dynamic.BUILD)  # what goes into a crash; softer is for the player
LINEAR_ROW = (Drum.TOM_FLOOR, Drum.SNARE, Drum.KICK)
RUNNING = {  # the figures that these are made of
    Orchestration.PARADIDDLE: ("four semiquavers",),
    Orchestration.DOUBLES: ("four semiquavers",),
    Orchestration.LINEAR: ("four semiquavers", "triplet", "sextuplet"),
}


@dataclass(frozen=True, slots=True)
class Fill:
    """A figure for each of its beats, by the names of the syllabus; ``placed``: the drums of
    its notes in order, where somebody has put them there, instead of an orchestration."""

    length: Length
    figures: tuple[str, ...]
    orchestration: Orchestration = Orchestration.SNARE
    dynamic: Dynamic = Dynamic.LEVEL
    placed: tuple[Drum, ...] = ()

    @property
    def way(self) -> str:
        """Over which drums it goes: "down the kit", "snare, floor tom"."""
        if not self.placed:
            return self.orchestration.label
        turns = [drum.spoken for drum, _ in groupby(self.placed)]
        return ", ".join(turns[:MOST_NAMED]) + (" and on" if len(turns) > MOST_NAMED else "")

    @property
    def name(self) -> str:
        """ "Down the kit from 3, getting louder"."""
        how = self.way
        name = f"{how[0].upper()}{how[1:]} {FROM[self.length]}"
        return name if self.dynamic is Dynamic.LEVEL else f"{name}, {self.dynamic.label}"

    @property
    def figures_said(self) -> str:
        """What is really played of them."""
        if self.orchestration is Orchestration.SPACE:
            return f"one note on each of {len(self.figures)} beats"
        return ", ".join(self.figures)

    def grade(self, syllabus: Syllabus = HOUSE_SYLLABUS) -> int:
        """That of the hardest of its figures, or of the way it is put on the drums."""
        ways = (
            [Orchestration.DOWN] * (len(set(self.placed)) > 1)
            + [Orchestration.KICK] * (Drum.KICK in self.placed)
            if self.placed
            else [self.orchestration]
        )
        ways_grade = max((way_grade(one, syllabus) for one in ways), default=0)
        return max(ways_grade, hardest(self.figures, syllabus))

    @property
    def space(self) -> Space:
        first = 4 - BEATS[self.length]
        return Space(tuple((first + BEAT * n, BEAT) for n in range(BEATS[self.length])))


def notes_of(fill: Fill) -> tuple[Fraction, ...]:
    """Where each note of its figures begins, in crotchets from the bar line."""
    beats = zip(fill.space.beats, fill.figures, strict=True)
    return tuple(
        start + at for (start, length), figure in beats for at in onsets_of(figure, length)
    )


def fill_bar(fill: Fill, groove: Bar) -> Bar:
    """The fill behind what is left of a bar of the groove."""
    hits = [hit for hit in groove.hits if hit.at < fill.space.start]
    if fill.placed:
        drums = chain(fill.placed, repeat(Drum.SNARE))
        hits += [Hit(at, drum) for at, drum in zip(notes_of(fill), drums, strict=False)]
        return groove.in_notes(hits=tuple(hits), marks=_hairpin(fill, groove.length))
    many = len(fill.figures)
    for beat, ((start, length), figure) in enumerate(
        zip(fill.space.beats, fill.figures, strict=True)
    ):
        onsets = onsets_of(figure, length)
        if fill.orchestration is Orchestration.SPACE:
            onsets = onsets[:1]
        for place, at in enumerate(onsets):
            drum = _drum(fill.orchestration, beat, many, place, len(onsets))
            hit = Hit(start + at, drum)
            if hands := BY_HANDS.get(fill.orchestration):
                letter = hands[(beat * len(onsets) + place) % len(hands)]
                drum = Drum.TOM_FLOOR if letter == "R" else Drum.SNARE
                hit = Hit(start + at, drum, hand=Hand(letter))
            if fill.orchestration is Orchestration.FLAMS and place == 0:
                hit = replace(hit, grace=Grace.FLAM)
            hits.append(hit)
        if fill.orchestration is Orchestration.UNISON:
            hits.append(Hit(start, Drum.KICK))
    return groove.in_notes(hits=tuple(hits), marks=_hairpin(fill, groove.length))


def _hairpin(fill: Fill, end: Fraction) -> tuple[Mark, ...]:
    """Louder or softer leads into what it lands on, over all of the fill."""
    if fill.dynamic is Dynamic.LEVEL:
        return ()
    start = fill.space.start
    return (Mark(start, HAIRPIN[fill.dynamic], length=end - start),)


def pickup_bar(fill: Fill, groove: Bar) -> Bar:
    """The beats of the fill as a pick-up; it is counted in for the beats that are missing."""
    start = fill.space.start
    struck = (hit for hit in fill_bar(fill, groove).hits if hit.at >= start)
    hits = tuple(replace(hit, at=hit.at - start) for hit in struck)
    marks = tuple(replace(mark, at=mark.at - start) for mark in _hairpin(fill, groove.length))
    return Bar(PICKUP, groove.meter, hits, groove.length - start, marks=marks)


def _drum(how: Orchestration, beat: int, beats: int, place: int, notes: int) -> Drum:
    if how in (Orchestration.SNARE, Orchestration.FLAMS, Orchestration.UNISON):
        return Drum.SNARE
    if how is Orchestration.KICK:
        return Drum.KICK if notes > 1 and place == notes - 1 else Drum.SNARE
    if how is Orchestration.LINEAR:
        return LINEAR_ROW[(beat * notes + place) % len(LINEAR_ROW)]
    if how is Orchestration.TWO_DRUMS:
        second = 2 * (beat * notes + place) >= beats * notes
        return Drum.TOM_FLOOR if second else Drum.SNARE
    along = (beat * notes + place) * len(ROUND) // (beats * notes)
    row = OUTER if how is Orchestration.OUTWARDS else ROUND
    return row[len(row) - 1 - along] if how is Orchestration.UP else row[along]


def what_is_said(
    fill: Fill, groove: Bar, grade: int, tempo: Tempo, style: Style = HOUSE
) -> tuple[str, ...]:
    """What a listener would say of it, landing on crash and kick; nothing where it is sound."""
    later = tuple(hit for hit in groove.hits if hit.at)
    after = replace(groove, number="2", hits=(*LANDING, *later))
    return check_fill(fill_bar(fill, groove), fill.space, after, tempo, grade, style)


def way_grade(way: Orchestration, syllabus: Syllabus = HOUSE_SYLLABUS) -> int:
    return syllabus[f"fill {way.label}"]


def orchestrations_owned(
    grade: int, syllabus: Syllabus = HOUSE_SYLLABUS
) -> tuple[Orchestration, ...]:
    return tuple(one for one in Orchestration if way_grade(one, syllabus) <= max(1, grade))


def beat_figures_owned(grade: int, syllabus: Syllabus = HOUSE_SYLLABUS) -> tuple[str, ...]:
    """What a grade has had for one beat; before grade 1 a fill is made of grade 1's."""
    return figures_owned(BEAT, max(1, grade), syllabus)


def figures_held(bars: Iterable[Bar], owned: Sequence[str]) -> tuple[str, ...]:
    """Those of the ``owned`` figures that some bar has, in their order."""
    held = {name for bar in bars for _, name in beat_figures(bar)}
    return tuple(name for name in owned if name in held)


def three_to_try(
    length: Length,
    grade: int,
    groove: Bar,
    tempo: Tempo,
    seed: int,
    figures: Sequence[str] = (),
    style: Style = HOUSE,
    syllabus: Syllabus = HOUSE_SYLLABUS,
) -> tuple[Fill, ...]:
    """Three sound fills from these ``figures``, or else from the grade's: three ideas, each
    with a rhythm of its own and, where there are enough, drums of its own; the same for the
    same seed. Fewer where there are not so many."""
    grade = max(1, grade)
    owned = figures or beat_figures_owned(grade, syllabus)
    figures = [one for one in owned if one != "rest"]
    dice = random.Random(seed)
    found: list[Fill] = []
    mine = orchestrations_owned(grade, syllabus)
    ways = list(mine)
    dice.shuffle(ways)
    # From grade 5 on one of them is of what that grade brings.
    ways.sort(key=lambda way: way_grade(way, syllabus) < PLAYERS_GRADE)
    for tries in range(TRIES):
        if len(found) == 3:
            break
        if not ways or tries == TRIES // 2:
            ways += [one for one in mine if one not in ways]
        fill = _an_idea(length, ways[0], grade, figures, dice)
        if (
            fill
            and (tries > TRIES * 3 // 4 or _played(fill) not in map(_played, found))
            and is_one_idea(fill)
            and not what_is_said(fill, groove, grade, tempo, style)
            and not _arms_cross(fill_bar(fill, groove), fill.space.start, style)
        ):
            found.append(fill)
            ways.pop(0)
        elif fill is None or dice.random() < 0.1:  # another way, where this one seldom is
            ways.append(ways.pop(0))
    return tuple(found)


def _an_idea(
    length: Length,
    way: Orchestration,
    grade: int,
    figures: Sequence[str],
    dice: random.Random,
) -> Fill | None:
    """A shape filled with figures that are divided alike; None where there are none for it."""
    mine = [one for one in figures if way not in RUNNING or one in RUNNING[way]]
    if not mine or (way in BY_HANDS and BEATS[length] < 2):
        return None
    shape = dice.choice(SHAPES[BEATS[length]])
    first = dice.choice(mine)
    alike = [one for one in mine if _divided_by(one) == _divided_by(first)]
    chosen = {"A": first, "B": dice.choice(alike)}
    dynamic = dice.choice(LEADING_IN) if grade > 1 else Dynamic.LEVEL
    return Fill(length, tuple(chosen[letter] for letter in shape), way, dynamic)


def _divided_by(figure: str) -> int:
    """Is it made of halves, thirds, fifths or sevenths of a beat?"""
    parts = {at.denominator for at in onsets_of(figure, BEAT)}
    return next((by for by in (3, 5, 7) if any(part % by == 0 for part in parts)), 2)


def _played(fill: Fill) -> tuple[Fraction, ...]:
    """Its rhythm, from the start of its space."""
    onsets: list[Fraction] = []
    for (start, length), figure in zip(fill.space.beats, fill.figures, strict=True):
        times = onsets_of(figure, length)
        times = times[:1] if fill.orchestration is Orchestration.SPACE else times
        under = [Fraction(0)] if fill.orchestration is Orchestration.UNISON else []
        onsets += (start + at for at in {*times, *under})
    return tuple(sorted(onsets))


def is_one_idea(fill: Fill) -> bool:
    """Is it more than a stroke, and does it end on 4, on 4& or run on to what it lands on?"""
    played = _played(fill)
    if len(played) < FEWEST[len(fill.figures)]:
        return False
    last = played[-1] - fill.space.beats[-1][0]
    return last >= 0 and last != Fraction(1, 4) and last != Fraction(1, 3)


def _arms_cross(bar: Bar, start: Fraction, style: Style) -> bool:
    """Does the one hand have to go over the other, from a stroke to the next?"""
    mine = [stick for stick in stick_bar(bar, style) if stick.hand and stick.hit.at >= start]
    for before, after in pairwise(mine):
        if before.hand is after.hand:
            continue
        hands = {one.hand: one.hit.drum.surface for one in (before, after)}
        if crossed(hands[Hand.RIGHT], hands[Hand.LEFT], style.lead):
            return True
    return False
