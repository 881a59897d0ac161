"""What each limb does in a groove of four: the patterns of hands and feet.

Common practice, no source; their grades stand in ``grades.py``. Places are counts: "2&" is the
"and" of 2, "3e" and "3a" the semiquavers about it.
"""

from dataclasses import dataclass, field

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Hit, Meter, Touch
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.grades import HOUSE_SYLLABUS, Syllabus
from wren_ladder.drumming.wording import Coded

FOUR = Bar("1", Meter(4, 4))
QUAVER, SEMIQUAVER = Fraction(1, 2), Fraction(1, 4)
BEATS = tuple(Fraction(n) for n in range(4))
OFF_BEATS = tuple(beat + QUAVER for beat in BEATS)
QUAVERS = tuple(n * QUAVER for n in range(8))
SEMIQUAVERS = tuple(n * SEMIQUAVER for n in range(16))


def places(words: str) -> tuple[Fraction, ...]:
    """ "1 2& 3" as crotchets from the bar line."""
    frame = Positions.of(FOUR)
    return tuple(at for word in words.split() for at in frame.read(word))


class Hands(Coded):
    """What the cymbal hand plays."""

    HAT_CROTCHETS = "hat-crotchets", "hat in crotchets"
    HAT_QUAVERS = "hat-quavers", "hat in quavers"
    HAT_ACCENTED = "hat-accented", "hat in quavers, the beats accented"
    HAT_OFF_BEATS = "hat-off-beats", "hat on the off-beats only"
    HAT_OPEN = "hat-open", "hat in quavers, opened on the off-beats"
    HAT_SEMIQUAVERS = "hat-semiquavers", "hat in semiquavers"
    HAT_SEMIQUAVERS_OPEN = "hat-semiquavers-open", "hat in semiquavers, opened on the off-beats"
    RIDE_CROTCHETS = "ride-crotchets", "ride in crotchets"
    RIDE_QUAVERS = "ride-quavers", "ride in quavers"
    BELL_BEATS = "bell-beats", "ride in quavers, the bell on the beats"
    BELL_OFF_BEATS = "bell-off-beats", "bell on the off-beats only"
    RIDE_SEMIQUAVERS = "ride-semiquavers", "ride in semiquavers"


def hand_grade(hands: Hands, syllabus: Syllabus = HOUSE_SYLLABUS) -> int:
    return syllabus[hands.label]


# A change of the whole pattern that is one step to a player: (from, to, how it is said, and
# back).
HAND_STEPS = (
    (Hands.HAT_CROTCHETS, Hands.HAT_QUAVERS, "now in quavers", "now in crotchets"),
    (Hands.HAT_QUAVERS, Hands.HAT_ACCENTED, "with the beats accented", "all alike"),
    (Hands.HAT_QUAVERS, Hands.HAT_OFF_BEATS, "only the off-beats", "with the beats"),
    (Hands.HAT_QUAVERS, Hands.HAT_OPEN, "with the off-beats opened", "closed throughout"),
    (Hands.HAT_QUAVERS, Hands.HAT_SEMIQUAVERS, "now in semiquavers", "now in quavers"),
    (
        Hands.HAT_SEMIQUAVERS,
        Hands.HAT_SEMIQUAVERS_OPEN,
        "with the off-beats opened",
        "closed throughout",
    ),
    (Hands.RIDE_CROTCHETS, Hands.RIDE_QUAVERS, "now in quavers", "now in crotchets"),
    (Hands.RIDE_QUAVERS, Hands.BELL_BEATS, "with the bell on the beats", "without the bell"),
    (
        Hands.RIDE_QUAVERS,
        Hands.BELL_OFF_BEATS,
        "only the bell, on the off-beats",
        "all of the ride",
    ),
    (Hands.RIDE_QUAVERS, Hands.RIDE_SEMIQUAVERS, "now in semiquavers", "now in quavers"),
    (Hands.HAT_CROTCHETS, Hands.RIDE_CROTCHETS, "to the ride", "to the hat"),
    (Hands.HAT_QUAVERS, Hands.RIDE_QUAVERS, "to the ride", "to the hat"),
    (Hands.HAT_SEMIQUAVERS, Hands.RIDE_SEMIQUAVERS, "to the ride", "to the hat"),
)
BY_BOTH_HANDS = (Hands.HAT_SEMIQUAVERS, Hands.HAT_SEMIQUAVERS_OPEN, Hands.RIDE_SEMIQUAVERS)


def cymbal(hands: Hands) -> dict[Fraction, Hit]:
    """Its strokes by their places."""
    name = hands.value
    grid = SEMIQUAVERS if "semiquavers" in name else QUAVERS
    if "crotchets" in name:
        grid = BEATS
    elif name.endswith("off-beats"):
        grid = OFF_BEATS
    return {at: Hit(at, _drum(hands, at), _touch(hands, at)) for at in grid}


def _drum(hands: Hands, at: Fraction) -> Drum:
    on_beat, off_beat = at.denominator == 1, at.denominator == 2
    if hands in (Hands.HAT_OPEN, Hands.HAT_SEMIQUAVERS_OPEN):
        return Drum.HIHAT_OPEN if off_beat else Drum.HIHAT
    if hands is Hands.BELL_OFF_BEATS or (hands is Hands.BELL_BEATS and on_beat):
        return Drum.RIDE_BELL
    return Drum.RIDE if hands.value.startswith(("ride", "bell")) else Drum.HIHAT


def _touch(hands: Hands, at: Fraction) -> Touch:
    loud = hands is Hands.HAT_ACCENTED and at.denominator == 1
    return Touch.ACCENT if loud else Touch.NORMAL


class Backbeat(Coded):
    TWO_AND_FOUR = "two-and-four", "backbeat on 2 and 4"
    ALL = "all", "snare on all four"
    HALF_TIME = "half-time", "half-time, on 3"


BACKBEATS = {
    Backbeat.TWO_AND_FOUR: places("2 4"),
    Backbeat.ALL: places("1 2 3 4"),
    Backbeat.HALF_TIME: places("3"),
}
EXTRA_SNARES = tuple(at for at in SEMIQUAVERS if at.denominator == 4)  # e and a of each beat


class LeftFoot(Coded):
    NOTHING = "nothing", "left foot still"
    TWO_AND_FOUR = "two-and-four", "left foot on 2 and 4"
    ALL = "all", "left foot on all four"
    OFF_BEATS = "off-beats", "left foot on the off-beats"


LEFT_FEET = {
    LeftFoot.NOTHING: (),
    LeftFoot.TWO_AND_FOUR: places("2 4"),
    LeftFoot.ALL: BEATS,
    LeftFoot.OFF_BEATS: OFF_BEATS,
}


@dataclass(frozen=True, slots=True)
class Kick:
    """A kick pattern: its name, and where it is struck, which its code says already."""

    code: str
    name: str = field(compare=False)
    places: tuple[Fraction, ...] = field(compare=False)

    @property
    def short(self) -> str:
        return self.name.partition(":")[0]

    def grade(self, syllabus: Syllabus = HOUSE_SYLLABUS) -> int:
        return syllabus[f"kick {self.name.partition(': ')[2]}"]


def _kick(words: str, name: str) -> Kick:
    return Kick(words.replace(" ", "-").replace("&", "n"), f"{name}: {words}", places(words))


# By grade, and within one by how far they are from the plainest.
KICKS = (
    _kick("1", "one only"),
    _kick("1 3", "one and three"),
    _kick("1 2 3 4", "four on the floor"),
    _kick("1 3 3&", "three twice"),
    _kick("1 1& 3", "one twice"),
    _kick("1 1& 3 3&", "both twice"),
    _kick("1 2& 3", "into three"),
    _kick("1 3 4&", "into the bar"),
    _kick("1 2& 3 4&", "into both"),
    _kick("1 3&", "late three"),
    _kick("1 2& 3&", "round three"),
    _kick("1 1& 2& 3", "walk to three"),
    _kick("1 3 3& 4&", "walk home"),
    _kick("1 1& 2& 3&", "all the ands"),
    _kick("1 1& 3& 4&", "wide"),
    _kick("1& 2& 3& 4&", "off-beats only"),
    _kick("1 2a 3", "push to three"),
    _kick("1 3 4a", "push home"),
    _kick("1 1a 3", "skip"),
    _kick("1 1a 3 3a", "skip twice"),
    _kick("1 1a 2& 3", "skip and walk"),
    _kick("1 2a 3 3&", "push and twice"),
    _kick("1 2& 2a 3", "two into three"),
    _kick("1 1& 2a 3&", "broken"),
    _kick("1 1e 3", "quick pair"),
    _kick("1 1a 2& 3e 3a", "rolling"),
)
KICK_BY_CODE = {kick.code: kick for kick in KICKS}
# And of the kick's: (from, to, how it is said, and back).
KICK_STEPS = (
    ("1-3", "1-2-3-4", "with the kick on every beat", "with the kick on 1 and 3"),
    ("1-1n-2n-3n", "1-1n-3n-4n", "with the kick on 4& for 2&", "with the kick on 2& for 4&"),
    ("1-1n-2n-3n", "1n-2n-3n-4n", "with the kick on the off-beats", "with the kick on 1"),
    ("1-1a-2n-3", "1-1a-2n-3e-3a", "with the kick rolling on to 3a", "with the kick on 3"),
)
