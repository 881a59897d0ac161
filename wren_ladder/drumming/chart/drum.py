"""The drums and cymbals, in the order they stand on the page from the top down.

Everything a drum is stands in one row of one table: what it is called, where it stands on the
staff and round the player, its MIDI keys, its sound. Every other list of drums is made of it.

Keys: General MIDI System Level 1, percussion key map (MIDI Manufacturers Association); 31 is
General MIDI 2's. Staff places and heads are the common drum-set convention; who may keep time,
mark a section or be in a fill is common practice; no source for either.
"""

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum


class Surface(StrEnum):
    """What one stick or foot can be on: an open and a closed hat are one surface."""

    CRASH_2 = "crash-2"
    CHINA = "china"
    SPLASH = "splash"
    CRASH = "crash"
    HIHAT = "hihat"
    RIDE = "ride"
    TAMBOURINE = "tambourine"
    COWBELL = "cowbell"
    WOODBLOCK = "woodblock"
    TOM_HIGH = "tom-high"
    TOM_MID = "tom-mid"
    STICKS = "sticks"
    SNARE = "snare"
    TOM_FLOOR = "tom-floor"
    TOM_FLOOR_2 = "tom-floor-2"
    KICK = "kick"
    HIHAT_FOOT = "hihat-foot"


class Family(StrEnum):
    """What kind of thing is struck."""

    CYMBAL = "cymbal"
    HAT = "hat"
    DRUM = "drum"
    TOM = "tom"
    EXTRA = "extra"  # bells, blocks and sticks


class Drum(StrEnum):
    """What is struck and how it is set; the strings are public, in JSON too."""

    CRASH_2 = "crash-2"
    CHINA = "china"
    SPLASH = "splash"
    CRASH = "crash"
    HIHAT = "hihat"
    HIHAT_HALF = "hihat-half"
    HIHAT_OPEN = "hihat-open"
    RIDE = "ride"
    RIDE_BELL = "ride-bell"
    RIDE_CRASH = "ride-crash"
    TAMBOURINE = "tambourine"
    COWBELL = "cowbell"
    WOODBLOCK = "woodblock"
    TOM_HIGH = "tom-high"
    TOM_MID = "tom-mid"
    STICK_CLICK = "stick-click"
    SNARE = "snare"
    CROSS_STICK = "cross-stick"
    RIM_SHOT = "rim-shot"
    TOM_FLOOR = "tom-floor"
    TOM_FLOOR_2 = "tom-floor-2"
    KICK = "kick"
    HIHAT_FOOT = "hihat-foot"
    HIHAT_SPLASH = "hihat-splash"

    @property
    def row(self) -> "DrumRow":
        """Everything else that is known of it."""
        return DRUMS[self]

    @property
    def surface(self) -> Surface:
        return DRUMS[self].surface

    @property
    def spoken(self) -> str:
        """How a teacher says it: "floor tom", "open hat"."""
        return DRUMS[self].spoken

    @property
    def by_foot(self) -> bool:
        return DRUMS[self].by_foot

    @property
    def page_order(self) -> int:
        """0 for the highest on the page."""
        return PAGE_ORDER[self]


@dataclass(frozen=True, slots=True)
class Sound:
    """The sample that a stroke is made of; the samples are equally high, not equally loud, so
    each has a ``gain``. ``fade`` cuts it short, in seconds; ``rate`` tunes it."""

    sample: str
    gain: float = 1.0
    fade: float | None = None
    rate: float = 1.0


@dataclass(frozen=True, slots=True)
class DrumRow:
    """One drum; whatever is asked of drums next becomes a field here."""

    surface: Surface
    family: Family
    spoken: str
    # Typed bars: how its line begins; the word on that line that means this setting of it.
    typed: str
    word: str = ""
    also_typed: tuple[str, ...] = ()
    # The staff: lines and spaces counted up from the lowest line, and the note head: "" for an
    # oval, else as MEI names it.
    line: int = 0
    head: str = ""
    more_places: tuple[tuple[int, str], ...] = ()  # where other writers put it
    # MIDI: its own key, None where the map has none; the key that is written instead; further
    # keys that are read as it, electronic kits' among them.
    key: int | None = None
    near_key: int | None = None
    more_keys: tuple[int, ...] = ()
    sound: Sound = Sound("")
    glyph: str = "disc"  # of the limb view
    # Hand's breadths right of and beyond a right-handed player's middle; None for pedals. A
    # usual set-up, from memory; only distances and sides are used.
    kit: tuple[float, float] | None = None
    by_foot: bool = False
    keeps_time: bool = False
    marks_section: bool = False
    in_fills: bool = False

    @property
    def key_written(self) -> int:
        key = self.near_key if self.key is None else self.key
        assert key is not None  # every row has one of the two; a test asks all
        return key


DRUMS = {
    Drum.CRASH_2: DrumRow(
        Surface.CRASH_2, Family.CYMBAL, "second crash", "crash-2", also_typed=("crash2",),
        line=11, head="x", key=57, sound=Sound("crash-2", 0.33),
        glyph="star", kit=(4.0, 4.5), marks_section=True,
    ),
    Drum.CHINA: DrumRow(
        Surface.CHINA, Family.CYMBAL, "china", "china",
        line=12, head="x", key=52, sound=Sound("china", 0.3),
        glyph="star", kit=(6.0, 4.0),
    ),
    Drum.SPLASH: DrumRow(
        Surface.SPLASH, Family.CYMBAL, "splash", "splash",
        line=11, head="diamond", key=55, sound=Sound("splash", 0.33),
        glyph="star", kit=(0.5, 4.5),
    ),
    Drum.CRASH: DrumRow(
        Surface.CRASH, Family.CYMBAL, "crash", "crash",
        line=10, head="x", key=49, sound=Sound("crash", 0.33),
        glyph="star", kit=(-3.0, 4.0), marks_section=True, in_fills=True,
    ),
    Drum.HIHAT: DrumRow(
        Surface.HIHAT, Family.HAT, "hat", "hat", also_typed=("hihat", "hi-hat", "hats"),
        line=9, head="x", key=42, more_keys=(22,), sound=Sound("hihat", 0.34),
        glyph="cross", kit=(-4.0, 1.0), keeps_time=True, in_fills=True,
    ),
    Drum.HIHAT_HALF: DrumRow(
        Surface.HIHAT, Family.HAT, "half-open hat", "hat", "half",
        line=9, head="x", near_key=46, sound=Sound("hihat-open", 0.3, 0.28),
        glyph="ring", kit=(-4.0, 1.0),
    ),
    Drum.HIHAT_OPEN: DrumRow(
        Surface.HIHAT, Family.HAT, "open hat", "hat", "open",
        line=9, head="x", more_places=((9, "circle"),), key=46, more_keys=(26,),
        sound=Sound("hihat-open", 0.3), glyph="ring", kit=(-4.0, 1.0),
    ),
    Drum.RIDE: DrumRow(
        Surface.RIDE, Family.CYMBAL, "ride", "ride",
        line=8, head="x", key=51, more_keys=(59,), sound=Sound("ride", 0.25),
        glyph="diamond", kit=(4.5, 2.5), keeps_time=True,
    ),
    Drum.RIDE_BELL: DrumRow(
        Surface.RIDE, Family.CYMBAL, "ride bell", "ride", "bell",
        line=8, head="diamond", key=53, sound=Sound("ride-bell", 0.25),
        glyph="diamond", kit=(4.5, 2.5),
    ),
    Drum.RIDE_CRASH: DrumRow(
        Surface.RIDE, Family.CYMBAL, "crashed ride", "ride", "crash",
        line=8, head="slashed", near_key=59,
        sound=Sound("crash-2", 0.33, rate=0.85), glyph="star", kit=(4.5, 2.5),
    ),
    Drum.TAMBOURINE: DrumRow(
        Surface.TAMBOURINE, Family.EXTRA, "tambourine", "tambourine",
        line=9, head="isotriangle", key=54, sound=Sound("hihat", 0.3, rate=1.3),
        glyph="triangle", kit=(-2.5, 3.0), keeps_time=True,
    ),
    Drum.COWBELL: DrumRow(
        Surface.COWBELL, Family.EXTRA, "cowbell", "cowbell",
        line=7, head="isotriangle", key=56, sound=Sound("cowbell", 0.4),
        glyph="triangle", kit=(0.8, 3.6), keeps_time=True,
    ),
    Drum.WOODBLOCK: DrumRow(
        Surface.WOODBLOCK, Family.EXTRA, "woodblock", "woodblock",
        line=8, head="isotriangle", key=77,
        sound=Sound("cross-stick", 0.6, rate=1.5),
        glyph="triangle", kit=(1.4, 3.6), keeps_time=True,
    ),
    Drum.TOM_HIGH: DrumRow(
        Surface.TOM_HIGH, Family.TOM, "high tom", "high", also_typed=("tom-high", "high-tom"),
        line=7, key=50, sound=Sound("tom-high", 0.9),
        glyph="bar-high", kit=(-0.5, 3.0), in_fills=True,
    ),
    Drum.TOM_MID: DrumRow(
        Surface.TOM_MID, Family.TOM, "mid tom", "mid", also_typed=("tom-mid", "mid-tom"),
        line=6, more_places=((4, ""),), key=47, more_keys=(48,),
        sound=Sound("tom-mid", 0.9), glyph="bar-mid", kit=(2.0, 3.0), in_fills=True,
    ),
    Drum.STICK_CLICK: DrumRow(
        Surface.STICKS, Family.EXTRA, "stick click", "sticks",
        line=6, head="x", key=31, sound=Sound("cross-stick", 0.5, rate=1.9),
        glyph="cross", kit=(0.0, 1.0),
    ),
    Drum.SNARE: DrumRow(
        Surface.SNARE, Family.DRUM, "snare", "snare",
        line=5, key=38, more_keys=(40,), sound=Sound("snare"),
        kit=(-1.0, 0.0), in_fills=True,
    ),
    Drum.CROSS_STICK: DrumRow(
        Surface.SNARE, Family.DRUM, "cross-stick", "snare", "cross",
        line=5, head="x", key=37,
        sound=Sound("cross-stick", 0.7), kit=(-1.0, 0.0),
    ),
    Drum.RIM_SHOT: DrumRow(
        Surface.SNARE, Family.DRUM, "rim shot", "snare", "rim",
        line=5, head="slashed", near_key=40, sound=Sound("rim-shot"), kit=(-1.0, 0.0),
    ),
    Drum.TOM_FLOOR: DrumRow(
        Surface.TOM_FLOOR, Family.TOM, "floor tom", "floor",
        also_typed=("tom-floor", "floor-tom"),
        line=3, more_places=((2, ""),), key=43, more_keys=(45,),
        sound=Sound("tom-floor", 0.9),
        glyph="bar-low", kit=(4.0, 0.0), in_fills=True,
    ),
    Drum.TOM_FLOOR_2: DrumRow(
        Surface.TOM_FLOOR_2, Family.TOM, "second floor tom", "floor-2",
        also_typed=("floor2", "second-floor"),
        line=2, key=41,
        sound=Sound("tom-floor", 0.9, rate=0.84),
        glyph="bar-low", kit=(5.5, -0.5), in_fills=True,
    ),
    Drum.KICK: DrumRow(
        Surface.KICK, Family.DRUM, "kick", "kick", also_typed=("bass",),
        line=1, more_places=((0, ""),), key=36, more_keys=(35,),
        sound=Sound("kick"), glyph="block",
        by_foot=True, in_fills=True,
    ),
    Drum.HIHAT_FOOT: DrumRow(
        Surface.HIHAT_FOOT, Family.HAT, "hat by foot", "foot",
        also_typed=("hihat-foot", "hat-foot"),
        line=-1, head="x", key=44, sound=Sound("hihat-foot", 0.3),
        glyph="pedal", by_foot=True,
    ),
    Drum.HIHAT_SPLASH: DrumRow(
        Surface.HIHAT_FOOT, Family.HAT, "foot splash", "foot", "splash",
        line=-1, head="diamond", near_key=44,
        sound=Sound("hihat-open", 0.15),
        glyph="pedal", by_foot=True,
    ),
}  # fmt: skip
PAGE_ORDER = {drum: index for index, drum in enumerate(Drum)}


def surfaces(of: Callable[[DrumRow], bool]) -> tuple[Surface, ...]:
    """The surfaces of all drums whose row is so, each once, from the top of the page down."""
    return tuple(dict.fromkeys(row.surface for row in DRUMS.values() if of(row)))


SECTION_CRASHES = surfaces(lambda row: row.marks_section)
# Whatever rings when it is struck, for whoever asks whether a cymbal stands in for another.
CRASHES = (*SECTION_CRASHES, Surface.SPLASH, Surface.CHINA)
