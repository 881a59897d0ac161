"""Who comes to the drum room, what they climb, and how their practice goes. All invented.

Days are counted from today, so that the demo is never out of date.
"""

from dataclasses import dataclass
from datetime import time

from wren_ladder.drumming.building.fills import Choice
from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.style import School


@dataclass(frozen=True, slots=True)
class ClimbHabits:
    """One student's climb, how it was broken down, and the habits that made its log.

    ``gain`` is the skill in BPM a practised step wins at first; ``weeks`` how long ago it
    began; ``sessions`` a week; ``stuck`` the share of the climb where a plateau sits, or
    None; ``away`` the weeks ago of a holiday that cost some speed, or None.
    """

    chart: str
    weeks: int
    sessions: int
    gain: float
    target: int | None = None
    stuck: float | None = None
    away: int | None = None
    school: School = School.BAR


@dataclass(frozen=True, slots=True)
class Pupil:
    name: str
    grade: int
    lead: str
    lesson_day: int
    exam_in: int | None
    notes: str
    climbs: tuple[ClimbHabits, ...]
    lesson_time: time = time(16, 30)
    home: tuple[int, int] = (5, 15)  # days a week, minutes a day
    home_earns: bool = True
    rating: int = 0  # of a protector, dB


GRADES = {
    "long_pier_signals": 5,
    "low_tide_one_drop": 2,
    "mirrorball_quay": 3,
    "slack_line_freight": 3,
    "bossa_for_the_ferry": 4,
    "five_gates": 5,
    "slow_lantern": 4,
    "harbour_wall_shuffle": 5,
    "fernhill_street_cadence": 4,
}
# A fill written out: whose, which piece and bar, a figure and its drums for each beat.
FILL = (
    "Jonas Adeyemi",
    "Long Pier Signals",
    "16",
    (
        Choice("two quavers", (Drum.SNARE, Drum.TOM_HIGH)),
        Choice("quaver + two semiquavers", (Drum.TOM_MID, Drum.TOM_FLOOR, Drum.TOM_FLOOR)),
    ),
)
# Bars that the teacher ranks by ear: whose, which piece and bar, the rank.
RANKS = (("Ines Okafor", "Mirrorball Quay", "8", 3.5),)
# A plan that changed schools when the exam came near.
REVISED = ("Ruben Vale", "Five Gates", School.PHRASE)
# Drills sent from the rudiment shelf: to whom, which, and at which tempo to be reached.
DRILLS = (
    ("Mira Lindahl", "flam paradiddle", 96),
    ("Mira Lindahl", "seven stroke roll", 84),
    ("Ines Okafor", "single paradiddle", 100),
)
# A teacher's own words at the head of a report: about whom, and what.
REPORT_WORDS = (
    "Mira Lindahl",
    "Mira has worked steadily this term and counts aloud without being asked. Her flams are "
    "even now.\n\nAt home, short and slow does more than long and fast.",
)


@dataclass(frozen=True, slots=True)
class LessonStory:
    """What was not as every week in a lesson so many weeks ago; ``made_up`` the days until it
    was made up, None where it was not."""

    name: str
    weeks: int
    fields: dict[str, object]
    made_up: int | None = None


LESSON_STORIES = (
    LessonStory("Tobi Marsh", 1, {"state": "ill", "by": "student"}, made_up=3),
    LessonStory("Dot Penhale", 2, {"state": "cancelled", "by": "teacher"}),
    LessonStory("Ines Okafor", 1, {"practised": "no", "late": 10}),
    LessonStory("Ruben Vale", 2, {"minutes": 60, "practised": "yes"}),
    LessonStory("Jonas Adeyemi", 3, {"state": "missed"}),
    LessonStory("Wilma Ashdown", 0, {"practised": "some"}),
)
TOGETHER = ("Mira Lindahl", "Jonas Adeyemi")  # had a lesson as a pair two weeks ago
# What was said to a student and to the parents in the last lesson, and a line without a step.
MESSAGES = {
    "Tobi Marsh": (
        "Count out loud, even when it feels silly!",
        "Ten quiet minutes before tea do more than an hour on Sunday.",
        "listen to the song on the sofa",
    ),
    "Ines Okafor": (
        "Fill first, while you are fresh. Then the whole line.",
        "Please ask her to play the fill for you once this week.",
        "clap the fill before playing it",
    ),
    "Mira Lindahl": ("Flams low and close. No hurry.", "", ""),
}
# Terms and holidays, in days from today: (kind, name, first, last).
PERIODS = (
    ("term", "Autumn term", -75, 24),
    ("holiday", "Half-term week", -33, -27),
    ("holiday", "Winter holidays", 25, 40),
)
# Pieces that are no longer climbed: whose, which, and what became of them, so many days ago.
FINISHED = (
    ("Dot Penhale", "Slow Lantern", "paused", 20),
    ("Ruben Vale", "Mirrorball Quay", "passed", 60),
)
# A beginner's groove board, half walked: whose, and (hands, kick, the tempo held or None) each.
WALKED = (
    "Wilma Ashdown",
    (
        ("hat-crotchets", "1-3", 92),
        ("hat-quavers", "1-3", 84),
        ("hat-quavers", "1-2-3-4", 80),
        ("hat-quavers", "1-3-3n", 76),
        ("ride-quavers", "1-3", None),
        ("hat-quavers", "1-1n-3", None),
    ),
)
BOOK = ("quarter", "half", "bar")  # the lengths of the fills in her book
# Who is not taught now: name, grade, what became of them.
AWAY = (("Otto Brine", 2, "paused"), ("Nell Harker", 5, "left"))
# A lesson to come that was moved: whose, by how many days.
MOVED = ("Jonas Adeyemi", 2)
# A piece that was deleted by mistake, and waits in the bin.
BINNED = "Old Rope Two-Step"
LESSON_NOTES = (
    "Fill first next time, while fresh.",
    "Came straight from football; short tries.",
    "",
    "Counted aloud all the way through.",
)
PUPILS = (
    Pupil(
        "Ines Okafor",
        3,
        "R",
        0,
        27,
        "Likes the street band. Rushes fills when somebody listens.",
        (ClimbHabits("mirrorball_quay", 20, 4, 1.7, stuck=0.75),),
    ),
    Pupil(
        "Ruben Vale",
        5,
        "R",
        0,
        31,
        "Counts aloud without being asked.",
        (
            ClimbHabits("harbour_wall_shuffle", 25, 6, 7.0, school=School.PHRASE),
            ClimbHabits("five_gates", 6, 3, 2.2, target=112),
            ClimbHabits("mirrorball_quay", 26, 6, 9.0),
        ),
        time(17, 15),
        home=(6, 30),
        rating=15,
    ),
    Pupil(
        "Mira Lindahl",
        4,
        "L",
        1,
        130,
        "Left-handed kit. Wrist was sore in spring: short sessions, breaks. Ruben's cousin.",
        (
            ClimbHabits(
                "fernhill_street_cadence", 24, 4, 3.6, stuck=0.6, away=9, school=School.LAYER
            ),
        ),
    ),
    Pupil(
        "Tobi Marsh",
        2,
        "R",
        0,
        None,
        "Eight years old. One bar at a time, then we play it loud. Ruben Vale brings him.",
        (ClimbHabits("low_tide_one_drop", 12, 2, 1.7, school=School.LAYER),),
        time(15, 45),
        home=(4, 12),
    ),
    Pupil(
        "Dot Penhale",
        4,
        "R",
        4,
        None,
        "Started at sixty. Plays for the joy of it; no exams.",
        (
            ClimbHabits("bossa_for_the_ferry", 26, 3, 1.5, target=100, away=14),
            ClimbHabits("slow_lantern", 9, 2, 1.2, school=School.PHRASE),
        ),
    ),
    Pupil(
        "Jonas Adeyemi",
        3,
        "L",
        1,
        180,
        "Left-handed, plays a right-handed kit at school.",
        (
            ClimbHabits("slack_line_freight", 3, 2, 1.0),
            ClimbHabits("long_pier_signals", 5, 3, 1.8, target=92, school=School.PHRASE),
        ),
    ),
    Pupil(
        "Wilma Ashdown",
        2,
        "R",
        5,
        150,
        "Began last week. Reads well already: piano.",
        (ClimbHabits("low_tide_one_drop", 1, 1, 1.5),),
        home=(4, 10),
        home_earns=False,
    ),
)

# The piece with a recording; where bar 1 begins in it, and how much slower it goes.
RECORDED, FIRST_BAR, SLOWER = "mirrorball_quay", 1.5, 1.05

# Takes of the first bar of a piece, eight times through: whose, where, with which fault, so
# many days ago at which tempo.
LATE_FOOT = ((30, 76), (23, 80), (16, 84))
LATE_KICK = ((9, 100), (5, 105), (2, 105))
TAKEN = (
    ("Dot Penhale", "Bossa for the Ferry", "lesson", "late-left-foot", LATE_FOOT),
    ("Ines Okafor", "Mirrorball Quay", "home", "", ((12, 96),)),
    ("Ines Okafor", "Mirrorball Quay", "lesson", "late-right-foot", LATE_KICK),
    ("Mira Lindahl", "Fernhill Street Cadence", "lesson", "pauses", ((6, 95),)),
)
TAKES = 8
# What the teacher says about a bar: of whose piece, its number, to everybody or to them, what.
SAYINGS = (
    ("Ines Okafor", "Mirrorball Quay", "1", False, "Edge of the hat, low sticks."),
    (
        "Mira Lindahl",
        "Fernhill Street Cadence",
        "4",
        True,
        "Rolls low, accents high.",
    ),
    ("Mira Lindahl", "Fernhill Street Cadence", "6", False, "It is on the 4. Don't answer it."),
    ("Ruben Vale", "Five Gates", "5", False, "Walk to the middle of the snare, slowly."),
)
AT_HOME = "Ines Okafor"  # who may record on the private link
# What became of the programme in a mock exam, in its order: (went well, a sentence).
MOCKS = {
    "Ines Okafor": (
        (True, "From bar 1 to the end, crash and kick together."),
        (False, "Stopped in bar 3: look first at where it is loud."),
    )
}
# An exam that is over: whose, with which piece, days ago, the mark, the examiner's words.
PASSED = (
    "Ruben Vale",
    "Mirrorball Quay",
    60,
    "84 of 100",
    "Steady and well prepared; the fills came in on time.",
)
