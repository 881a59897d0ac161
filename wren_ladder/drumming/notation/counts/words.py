"""The vocabulary of typed bars: line names, words that change a stroke, patterns."""

from wren_ladder.drumming.chart import Drum, Grace, Touch

# What a line may be called, and the drum it means when no word changes it.
LINES = {drum.row.typed: drum for drum in Drum if not drum.row.word}
ALIASES = {alias: drum.row.typed for drum in Drum for alias in drum.row.also_typed}
# (line, word) -> the same surface, set or struck another way.
VARIANTS = {(drum.row.typed, drum.row.word): drum for drum in Drum if drum.row.word}
TOUCHES = {"ghost": Touch.GHOST, "accent": Touch.ACCENT, "strong": Touch.STRONG}
GRACES = {"flam": Grace.FLAM, "drag": Grace.DRAG, "ruff": Grace.RUFF}
ROLL_WORDS = ("roll", "buzz", "singles")

SIGNS = ("segno", "coda", "fine")
MARKS = (
    "section",
    "meter",
    "tempo",
    "swing",
    "straight",
    "beats",
    "repeat",
    "ending",
    "jump",
    "time",
    "to",
    "note",
    *SIGNS,
    "hands",
)

LINE_OF_SURFACE = {drum.surface: name for name, drum in LINES.items()}
WORD_OF_DRUM = {drum: word for (_, word), drum in VARIANTS.items()}
