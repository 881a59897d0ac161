"""The drums and cymbals, in the order they stand on the page from the top down."""

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
    COWBELL = "cowbell"
    TOM_HIGH = "tom-high"
    TOM_MID = "tom-mid"
    SNARE = "snare"
    TOM_FLOOR = "tom-floor"
    KICK = "kick"
    HIHAT_FOOT = "hihat-foot"


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
    COWBELL = "cowbell"
    TOM_HIGH = "tom-high"
    TOM_MID = "tom-mid"
    SNARE = "snare"
    CROSS_STICK = "cross-stick"
    RIM_SHOT = "rim-shot"
    TOM_FLOOR = "tom-floor"
    KICK = "kick"
    HIHAT_FOOT = "hihat-foot"

    @property
    def surface(self) -> Surface:
        return FACTS[self].surface

    @property
    def spoken(self) -> str:
        """How a teacher says it: "floor tom", "open hat"."""
        return FACTS[self].spoken

    @property
    def by_foot(self) -> bool:
        return self in (Drum.KICK, Drum.HIHAT_FOOT)

    @property
    def page_order(self) -> int:
        """0 for the highest on the page."""
        return PAGE_ORDER[self]


@dataclass(frozen=True, slots=True)
class DrumFacts:
    surface: Surface
    spoken: str


FACTS = {
    Drum.CRASH_2: DrumFacts(Surface.CRASH_2, "second crash"),
    Drum.CHINA: DrumFacts(Surface.CHINA, "china"),
    Drum.SPLASH: DrumFacts(Surface.SPLASH, "splash"),
    Drum.CRASH: DrumFacts(Surface.CRASH, "crash"),
    Drum.HIHAT: DrumFacts(Surface.HIHAT, "hat"),
    Drum.HIHAT_HALF: DrumFacts(Surface.HIHAT, "half-open hat"),
    Drum.HIHAT_OPEN: DrumFacts(Surface.HIHAT, "open hat"),
    Drum.RIDE: DrumFacts(Surface.RIDE, "ride"),
    Drum.RIDE_BELL: DrumFacts(Surface.RIDE, "ride bell"),
    Drum.COWBELL: DrumFacts(Surface.COWBELL, "cowbell"),
    Drum.TOM_HIGH: DrumFacts(Surface.TOM_HIGH, "high tom"),
    Drum.TOM_MID: DrumFacts(Surface.TOM_MID, "mid tom"),
    Drum.SNARE: DrumFacts(Surface.SNARE, "snare"),
    Drum.CROSS_STICK: DrumFacts(Surface.SNARE, "cross-stick"),
    Drum.RIM_SHOT: DrumFacts(Surface.SNARE, "rim shot"),
    Drum.TOM_FLOOR: DrumFacts(Surface.TOM_FLOOR, "floor tom"),
    Drum.KICK: DrumFacts(Surface.KICK, "kick"),
    Drum.HIHAT_FOOT: DrumFacts(Surface.HIHAT_FOOT, "hat by foot"),
}
PAGE_ORDER = {drum: index for index, drum in enumerate(Drum)}
