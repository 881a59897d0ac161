"""Unseen reading: short studies of a grade, each with a shape, read once and then left.

Made from figures that the grade has had and one that is due; bar 3 comes back to bar 1 and
every fourth bar turns. What to look for first is common practice, no source.
"""

import random
from collections.abc import Sequence
from dataclasses import dataclass, replace

from quicktions import Fraction

from wren_ladder.drumming.chart import (
    Bar,
    Chart,
    Drum,
    Hit,
    Mark,
    MarkKind,
    Meter,
    Tempo,
    Touch,
)
from wren_ladder.drumming.description.figures import onsets_of
from wren_ladder.drumming.grades import HOUSE_SYLLABUS, Syllabus
from wren_ladder.drumming.wording import Coded
from wren_ladder.drumming.workshop.fills import beat_figures_owned
from wren_ladder.drumming.workshop.grooves import USUAL_TEMPO
from wren_ladder.drumming.workshop.patterns import BACKBEATS, KICKS, Backbeat, Hands, cymbal

FOUR = Meter(4, 4)
BEAT = Fraction(1)
LENGTHS = (4, 8, 16)  # bars
LOOK = 60  # seconds to look at it first
SLOWEST, FASTEST, MORE = 60, 88, 4  # BPM before grade 1, at the most, and for each grade
# Of four bars: what comes back, and the turn that ends them.
SHAPE = "ABAC"
PLAIN = "crotchet"
LOUD = ("f", "p", "mf", "f")  # by lines


class Voices(Coded):
    SNARE = "snare", "on the snare"
    TWO = "two", "on two drums"
    KIT = "kit", "on the kit"


@dataclass(frozen=True, slots=True)
class ReadingStudy:
    grade: int
    voices: Voices
    chart: Chart

    @property
    def tempo(self) -> Tempo:
        return self.chart.tempo


def reading_study(
    grade: int,
    bars: int,
    voices: Voices = Voices.SNARE,
    seed: int = 0,
    syllabus: Syllabus = HOUSE_SYLLABUS,
) -> ReadingStudy:
    """So many bars, the same for the same seed; ValueError for a length that there is not."""
    if bars not in LENGTHS or not 0 <= grade <= 8:
        raise ValueError("a study for reading has 4, 8 or 16 bars, of grade 0 to 8")
    dice = random.Random(f"{grade} {bars} {voices} {seed}")
    lines = [_line(grade, voices, dice, syllabus) for _ in range(bars // len(SHAPE))]
    # A longer study comes back to its first line before the last.
    if len(lines) > 2:
        lines[2] = [*lines[0][:3], lines[2][3]]
    made = [bar for line in lines for bar in line]
    made[-1] = _last(made[-1])
    most = USUAL_TEMPO.bpm if voices is Voices.KIT else FASTEST
    tempo = Tempo(BEAT, min(most, SLOWEST + MORE * grade))
    found = [
        replace(bar, number=str(number), marks=_loud(number, grade))
        for number, bar in enumerate(made, 1)
    ]
    found[0] = replace(found[0], tempo=tempo)
    return ReadingStudy(grade, voices, Chart("", tuple(found)))


def _loud(number: int, grade: int) -> tuple[Mark, ...]:
    """How loud each line is, from grade 2 on."""
    line, first = divmod(number - 1, len(SHAPE))
    if grade < 2 or first:
        return ()
    return (Mark(Fraction(0), MarkKind.DYNAMIC, LOUD[line % len(LOUD)]),)


def _line(grade: int, voices: Voices, dice: random.Random, syllabus: Syllabus) -> list[Bar]:
    """Four bars: A, B, A and a turn. What is due at the grade stands in B."""
    if voices is Voices.KIT:
        made = _grooves(grade, dice)
    else:
        made = _rhythms(grade, voices, dice, syllabus)
    return [made[letter] for letter in SHAPE]


def _rhythms(
    grade: int, voices: Voices, dice: random.Random, syllabus: Syllabus
) -> dict[str, Bar]:
    owned = [one for one in beat_figures_owned(grade, syllabus) if one != "rest"]
    due = [one for one in owned if syllabus.get(one) == grade] or owned
    easy = [one for one in owned if one not in due or len(owned) == len(due)]
    used = dice.sample(easy, min(len(easy), 2 + grade // 3))
    first = [PLAIN, *(dice.choice(used) for _ in range(3))]
    second = [*(dice.choice(used) for _ in range(3)), PLAIN]
    second[dice.randrange(3)] = dice.choice(due)
    turn = [*first[:2], dice.choice(used), PLAIN]
    if grade and dice.random() < 0.5:
        turn[1] = "rest"
    return {
        letter: _bar(figures, voices, dice, grade)
        for letter, figures in zip("ABC", (first, second, turn), strict=True)
    }


def _bar(figures: Sequence[str], voices: Voices, dice: random.Random, grade: int) -> Bar:
    other = dice.randrange(4) if voices is Voices.TWO else None  # the beat on the other drum
    accented = dice.randrange(4) if grade >= 2 else None
    hits = []
    for beat, figure in enumerate(figures):
        drum = Drum.TOM_FLOOR if beat == other else Drum.SNARE
        for place, at in enumerate(onsets_of(figure, BEAT)):
            touch = Touch.ACCENT if beat == accented and not place else Touch.NORMAL
            hits.append(Hit(beat + at, drum, touch))
    return Bar("1", FOUR, tuple(hits))


def _grooves(grade: int, dice: random.Random) -> dict[str, Bar]:
    """A groove, the same with another kick, and a turn of four semiquavers or less."""
    kicks = [kick for kick in KICKS if kick.grade() <= max(1, grade)]
    one, other = dice.sample(kicks, 2)
    hands = Hands.HAT_CROTCHETS if grade < 1 else Hands.HAT_QUAVERS
    figure = dice.choice(("two quavers", "four semiquavers")) if grade else PLAIN
    drum = dice.choice((Drum.SNARE, Drum.TOM_HIGH, Drum.TOM_FLOOR))
    grooves = {}
    for letter, kick in (("A", one), ("B", other), ("C", one)):
        hits = [*cymbal(hands).values()]
        hits += (Hit(at, Drum.SNARE) for at in BACKBEATS[Backbeat.TWO_AND_FOUR])
        hits += (Hit(at, Drum.KICK) for at in kick.places)
        if letter == "C":
            hits = [hit for hit in hits if hit.at < 3]
            hits += (Hit(3 + at, drum) for at in onsets_of(figure, BEAT))
        grooves[letter] = Bar("1", FOUR, tuple(hits))
    return grooves


def _last(bar: Bar) -> Bar:
    """It ends on a beat: the last bar stops on 4 at the latest, on one note."""
    kept = tuple(hit for hit in bar.hits if hit.at < 3)
    return replace(bar, hits=(*kept, Hit(Fraction(3), Drum.SNARE)))
