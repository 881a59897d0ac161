"""A teacher's house rules: what the core does wherever the schools differ."""

from dataclasses import dataclass

from wren_ladder.drumming.chart import Hand
from wren_ladder.drumming.wording import Coded


class Counting(Coded):
    """How a bar is counted aloud."""

    NUMBERS = "numbers"  # 1 e & a
    WORDS = "words"  # a spoken word for each figure
    TAKADIMI = "takadimi"  # ta ka di mi


class Compound(Coded):
    """How 6/8 is counted by numbers."""

    QUAVERS = "quavers"  # 1 2 3 4 5 6
    BEATS = "beats"  # 1 trip let 2 trip let


class NoteNames(Coded):
    CROTCHETS = "crotchets"  # crotchet, quaver, semiquaver
    QUARTERS = "quarters"  # quarter, eighth, sixteenth


class School(Coded):
    """How a piece is broken down."""

    BAR = "bar", "bar school"  # every new bar alone first
    PHRASE = "phrase", "phrase school"  # from sections of 8 down, only where needed
    LAYER = "layer", "layer school"  # every bar built in layers


class Reason(Coded):
    """What makes a bar, or the join of two, hard."""

    NEW = "new", "something new"
    DUE = "due", "something due at this grade"
    TRAP = "trap"
    ORNAMENTS = "ornaments"
    GHOST_ACCENT = "ghost-accent", "ghost beside accent"
    HAT_CLOSES = "hat-closes", "hat closes with the stick"
    FEET = "feet", "feet between the hands"
    QUICK_KICKS = "quick-kicks", "quick kicks"
    ENTRY = "entry", "entry off the beat"
    REACH = "reach", "reach across the kit"
    DOUBLES = "doubles", "doubles in the sticking"
    RHYTHM = "rhythm", "the rhythm itself"
    ACCENTS = "accents", "accents off the beat"
    GROUPS = "groups", "groups across the beat"
    CHANGE = "change", "a change from a bar before"
    SPEED = "speed", "speed of one hand"
    METER = "meter", "metre or tempo changes"
    JUMP = "jump", "join across a jump"


# What one of each counts; the house's.
WEIGHTS = (
    (Reason.NEW, 3.0),
    (Reason.DUE, 1.5),
    (Reason.TRAP, 1.5),
    (Reason.ORNAMENTS, 1.0),
    (Reason.GHOST_ACCENT, 0.8),
    (Reason.HAT_CLOSES, 0.7),
    (Reason.FEET, 1.0),
    (Reason.QUICK_KICKS, 1.0),
    (Reason.ENTRY, 1.0),
    (Reason.REACH, 0.6),
    (Reason.DOUBLES, 0.5),
    (Reason.RHYTHM, 1.0),
    (Reason.ACCENTS, 1.0),
    (Reason.GROUPS, 1.0),
    (Reason.CHANGE, 0.5),
    (Reason.SPEED, 3.0),
    (Reason.METER, 1.2),
    (Reason.JUMP, 1.0),
)
# A spoken word for each figure, with its syllables; the house's are birds.
WORDS = (
    ("crotchet", "wren"),
    ("two quavers", "rob-in"),
    ("four semiquavers", "yel-low-ham-mer"),
    ("two semiquavers + quaver", "kit-ti-wake"),
    ("quaver + two semiquavers", "snow-bun-ting"),
    ("dotted quaver + semiquaver", "swal-low"),
    ("semiquaver–quaver–semiquaver", "fla-min-go"),
    ("triplet", "al-ba-tross"),
    ("three quavers", "al-ba-tross"),
    ("crotchet + quaver", "pi-geon"),
    ("quaver + crotchet", "cur-lew"),
    ("quaver + two semiquavers + quaver", "snow-bun-ting-wren"),
    ("two semiquavers + two quavers", "kit-ti-wake-wren"),
    ("six semiquavers", "yel-low-ham-mer-rob-in"),
    ("sextuplet", "yel-low-ham-mer-rob-in"),
    ("minim", "wren"),
    ("two crotchets", "rob-in"),
    ("four quavers", "yel-low-ham-mer"),
    ("quaver", "wren"),
    ("two semiquavers", "rob-in"),
    ("rest", "(shh)"),
)


@dataclass(frozen=True, slots=True)
class Style:
    """Defaults are common practice; every function that has to choose takes one."""

    lead: Hand = Hand.RIGHT  # the hand that starts and keeps the cymbal pattern
    open_handed: bool = False  # the other hand keeps the hat, so that no arms cross
    school: School = School.BAR  # of breaking a piece down
    sticking: str = "hand-to-hand"  # a code of hands.schools.Sticking
    counting: Counting = Counting.NUMBERS
    compound: Compound = Compound.QUAVERS
    phrase_count: bool = False  # the bar's number in its phrase in place of 1
    note_names: NoteNames = NoteNames.CROTCHETS
    words: tuple[tuple[str, str], ...] = WORDS
    weights: tuple[tuple[Reason, float], ...] = WEIGHTS  # of what makes a bar hard
    hand_limit: float = 6.0  # strokes a second for one hand without bounce; from memory
    foot_limit: float = 5.0  # strokes a second for one foot; from memory
    roll_limit: float = 16.0  # of both hands together in doubles; from memory, advanced
    clean_bars: int = 32  # bars in a row that earn a rung
    rung: int = 5  # BPM from one rung to the next
    start_share: int = 75  # per cent of exam speed where a climb starts
    repeats_after_jump: bool = False  # where the page is silent after a D.C. or D.S.


HOUSE = Style()
