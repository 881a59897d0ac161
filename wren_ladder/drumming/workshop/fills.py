"""Fills by length: a figure for each beat, drums by an orchestration, a line of dynamics.

A method, not answers: what a student chooses is what is kept. Common practice, no source.
"""

import random
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from wren_ladder.drumming.building.fills import Space, check_fill, figures_owned
from wren_ladder.drumming.chart import Bar, Drum, Grace, Hit, Tempo, Touch
from wren_ladder.drumming.chart.bar import PICKUP
from wren_ladder.drumming.description.figures import beat_figures, onsets_of
from wren_ladder.drumming.judging.syllabus import HOUSE_SYLLABUS, Syllabus
from wren_ladder.drumming.style import HOUSE, Style
from wren_ladder.drumming.wording import Coded

BEAT = Fraction(1)
TRIES = 400  # of the dice, before there are no three
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
    SPACE = "space", "with space: one note a beat"


class Dynamic(Coded):
    LEVEL = "level", "level"
    BUILD = "build", "from soft to loud"
    FADE = "fade", "from loud to soft"


ROUND = (Drum.SNARE, Drum.TOM_HIGH, Drum.TOM_MID, Drum.TOM_FLOOR)
OUTER = (Drum.SNARE, Drum.TOM_MID, Drum.TOM_HIGH, Drum.TOM_FLOOR)
ORCHESTRATION_GRADES = dict(zip(Orchestration, (1, 1, 2, 3, 3, 2, 3, 1), strict=True))


@dataclass(frozen=True, slots=True)
class Fill:
    """A figure for each of its beats, by the names of the syllabus."""

    length: Length
    figures: tuple[str, ...]
    orchestration: Orchestration = Orchestration.SNARE
    dynamic: Dynamic = Dynamic.LEVEL

    @property
    def name(self) -> str:
        """ "Down the kit, half a bar, from 3"."""
        words = [self.orchestration.label.capitalize(), self.length.label]
        if self.dynamic is not Dynamic.LEVEL:
            words.append(self.dynamic.label)
        return ", ".join(words)

    @property
    def figures_said(self) -> str:
        return ", ".join(self.figures)

    def grade(self, syllabus: Syllabus = HOUSE_SYLLABUS) -> int:
        """That of the hardest of its figures, or of the way it is put on the drums."""
        figures = [syllabus.get(figure, 1) for figure in self.figures]
        return max(ORCHESTRATION_GRADES[self.orchestration], *figures)

    @property
    def space(self) -> Space:
        first = 4 - BEATS[self.length]
        return Space(tuple((first + BEAT * n, BEAT) for n in range(BEATS[self.length])))


def fill_bar(fill: Fill, groove: Bar) -> Bar:
    """The fill behind what is left of a bar of the groove."""
    hits = [hit for hit in groove.hits if hit.at < fill.space.start]
    many = len(fill.figures)
    for beat, ((start, length), figure) in enumerate(
        zip(fill.space.beats, fill.figures, strict=True)
    ):
        onsets = onsets_of(figure, length)
        if fill.orchestration is Orchestration.SPACE:
            onsets = onsets[:1]
        touch = _touch(fill.dynamic, beat, many)
        for place, at in enumerate(onsets):
            drum = _drum(fill.orchestration, beat, many, place, len(onsets))
            on_kick = drum is Drum.KICK
            hit = Hit(start + at, drum, Touch.NORMAL if on_kick else touch)
            if fill.orchestration is Orchestration.FLAMS and place == 0:
                hit = replace(hit, grace=Grace.FLAM)
            hits.append(hit)
        if fill.orchestration is Orchestration.UNISON:
            hits.append(Hit(start, Drum.KICK))
    return groove.in_notes(hits=tuple(hits), marks=())


def pickup_bar(fill: Fill, groove: Bar) -> Bar:
    """The beats of the fill as a pick-up; it is counted in for the beats that are missing."""
    start = fill.space.start
    struck = (hit for hit in fill_bar(fill, groove).hits if hit.at >= start)
    hits = tuple(replace(hit, at=hit.at - start) for hit in struck)
    return Bar(PICKUP, groove.meter, hits, groove.length - start)


def _drum(how: Orchestration, beat: int, beats: int, place: int, notes: int) -> Drum:
    if how in (Orchestration.SNARE, Orchestration.FLAMS, Orchestration.UNISON):
        return Drum.SNARE
    if how is Orchestration.KICK:
        return Drum.KICK if notes > 1 and place == notes - 1 else Drum.SNARE
    along = (beat * notes + place) * len(ROUND) // (beats * notes)
    row = OUTER if how is Orchestration.OUTWARDS else ROUND
    return row[len(row) - 1 - along] if how is Orchestration.UP else row[along]


def _touch(dynamic: Dynamic, beat: int, beats: int) -> Touch:
    line = (Touch.GHOST, Touch.NORMAL, Touch.ACCENT)
    if dynamic is Dynamic.LEVEL or beats < 2:
        return Touch.NORMAL
    place = beat * (len(line) - 1) // (beats - 1)
    return line[place] if dynamic is Dynamic.BUILD else line[len(line) - 1 - place]


def what_is_said(
    fill: Fill, groove: Bar, grade: int, tempo: Tempo, style: Style = HOUSE
) -> tuple[str, ...]:
    """What a listener would say of it, landing on crash and kick; nothing where it is sound."""
    later = tuple(hit for hit in groove.hits if hit.at)
    after = replace(groove, number="2", hits=(*LANDING, *later))
    return check_fill(fill_bar(fill, groove), fill.space, after, tempo, grade, style)


def orchestrations_owned(grade: int) -> tuple[Orchestration, ...]:
    return tuple(one for one, first in ORCHESTRATION_GRADES.items() if first <= max(1, grade))


def beat_figures_owned(grade: int, syllabus: Syllabus = HOUSE_SYLLABUS) -> tuple[str, ...]:
    """What a grade has had for one beat; before grade 1 a fill is made of grade 1's."""
    return figures_owned(BEAT, max(1, grade), syllabus)


def figures_held(bars: Iterable[Bar], owned: Sequence[str]) -> tuple[str, ...]:
    """Those of the ``owned`` figures that some bar has, in their order."""
    held = {name for bar in bars for _, name in beat_figures(bar)}
    return tuple(name for name in owned if name in held)


def how_many(length: Length, grade: int, figures: Sequence[str]) -> int:
    """How many fills of this length there are to choose from, before any is checked: figures
    to the power of the beats, times the ways to put them on the drums and the dynamics."""
    ways = len(orchestrations_owned(grade)) * len(Dynamic)
    return len(figures) ** BEATS[length] * ways


def three_to_try(
    length: Length,
    grade: int,
    groove: Bar,
    tempo: Tempo,
    seed: int,
    figures: Sequence[str] = (),
    style: Style = HOUSE,
) -> tuple[Fill, ...]:
    """Three sound fills from these ``figures``, or else from the grade's, each with other drums
    than the others; the same for the same seed. Fewer where there are not so many."""
    grade = max(1, grade)
    figures = figures or beat_figures_owned(grade)
    dice, found = random.Random(seed), []
    ways = list(orchestrations_owned(grade))
    dice.shuffle(ways)
    for _ in range(TRIES):
        if len(found) == 3 or not ways:
            break
        chosen = tuple(dice.choice(figures) for _ in range(BEATS[length]))
        dynamic = dice.choice(list(Dynamic)) if grade > 1 else Dynamic.LEVEL
        fill = Fill(length, chosen, ways[0], dynamic)
        if not what_is_said(fill, groove, grade, tempo, style):
            found.append(fill)
            ways.pop(0)
        elif dice.random() < 0.1:  # another way, where this one seldom is sound
            ways.append(ways.pop(0))
    return tuple(found)
