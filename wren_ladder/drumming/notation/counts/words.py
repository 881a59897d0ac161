"""The vocabulary of typed bars: line names, words that change a stroke, patterns."""

from wren_ladder.drumming.chart import Drum, Grace, Touch

# What a line may be called, and the drum it means when no word changes it.
LINES = {
    "crash": Drum.CRASH,
    "crash-2": Drum.CRASH_2,
    "china": Drum.CHINA,
    "splash": Drum.SPLASH,
    "hat": Drum.HIHAT,
    "ride": Drum.RIDE,
    "cowbell": Drum.COWBELL,
    "high": Drum.TOM_HIGH,
    "mid": Drum.TOM_MID,
    "snare": Drum.SNARE,
    "floor": Drum.TOM_FLOOR,
    "kick": Drum.KICK,
    "foot": Drum.HIHAT_FOOT,
}
ALIASES = {
    "hihat": "hat",
    "hi-hat": "hat",
    "hats": "hat",
    "bass": "kick",
    "tom-high": "high",
    "high-tom": "high",
    "tom-mid": "mid",
    "mid-tom": "mid",
    "tom-floor": "floor",
    "floor-tom": "floor",
    "hihat-foot": "foot",
    "hat-foot": "foot",
    "crash2": "crash-2",
}
# (line, word) -> the same surface, set or struck another way.
VARIANTS = {
    ("hat", "half"): Drum.HIHAT_HALF,
    ("hat", "open"): Drum.HIHAT_OPEN,
    ("ride", "bell"): Drum.RIDE_BELL,
    ("snare", "cross"): Drum.CROSS_STICK,
    ("snare", "rim"): Drum.RIM_SHOT,
}
TOUCHES = {"ghost": Touch.GHOST, "accent": Touch.ACCENT, "strong": Touch.STRONG}
GRACES = {"flam": Grace.FLAM, "drag": Grace.DRAG, "ruff": Grace.RUFF}
ROLL_WORDS = ("roll", "buzz", "singles")

SIGNS = ("segno", "coda", "fine")
MARKS = (
    "section",
    "meter",
    "tempo",
    "beats",
    "repeat",
    "ending",
    "jump",
    "to",
    "note",
    *SIGNS,
    "hands",
)

LINE_OF_SURFACE = {drum.surface: name for name, drum in LINES.items()}
WORD_OF_DRUM = {drum: word for (_, word), drum in VARIANTS.items()}
