"""What is said of a line whose first word is not understood."""

from collections.abc import Sequence

from wren_ladder.drumming.notation.counts.marks import MARK_LINES
from wren_ladder.drumming.notation.counts.slips import near
from wren_ladder.drumming.notation.counts.speech import HEADS
from wren_ladder.drumming.notation.counts.tokens import Token
from wren_ladder.drumming.notation.counts.words import ALIASES, LINES, MARKS, SIGNS

# Words that people begin a line with, and what to write.
SAID_INSTEAD = {
    "tom": "say which tom: high 1 3, mid 1 3 or floor 1 3 (or tom1 1 3)",
    "toms": "say which tom: high, mid or floor, each on a line of its own",
    "cymbal": "say which cymbal: hat, ride, crash, splash or china",
    "cymbals": "say which cymbal: hat, ride, crash, splash or china",
    "drum": "say which drum: kick, snare, high, mid or floor",
    "drums": "say which drum: kick, snare, high, mid or floor, each on a line of its own",
    "pickup": "a pick-up is bar 0 with the counts it has: bar 0, then beats 1",
    "pick-up": "a pick-up is bar 0 with the counts it has: bar 0, then beats 1",
    "pick": "a pick-up is bar 0 with the counts it has: bar 0, then beats 1",
    "anacrusis": "a pick-up is bar 0 with the counts it has: bar 0, then beats 1",
    "upbeat": "a pick-up is bar 0 with the counts it has: bar 0, then beats 1",
    "no": "say which drum is taken away: no crash",
    "without": "say which drum is taken away: without crash",
    "intro": "name a section: section Intro",
    "verse": "name a section: section Verse",
    "chorus": "name a section: section Chorus",
    "bridge": "name a section: section Bridge",
    "outro": "name a section: section Outro",
    "ghost": "begin with the drum: snare ghost 2a",
    "accent": "begin with the drum: snare accent 2",
    "flam": "begin with the drum: snare flam 2",
    "drag": "begin with the drum: snare drag 2",
    "ruff": "begin with the drum: snare ruff 2",
    "roll": "begin with the drum: snare roll 5 3-4",
    "buzz": "begin with the drum: snare buzz 3-4",
    "open": "begin with the drum: hat open 4&",
    "half": "begin with the drum: hat half 4&",
    "rest": "rests are not typed: what no drum plays is silent; a whole bar: bar 2 rest",
    "rests": "rests are not typed: what no drum plays is silent; a whole bar: bar 2 rest",
    "play": "a passage played 4 times: repeat start, then repeat end 4",
    "x2": "a repeat: repeat start at its first bar, repeat end 2 at its last",
    "rh": "begin with the drum; a written sticking is its own line: hands R L R R",
    "lh": "begin with the drum; a written sticking is its own line: hands R L R R",
    "right": "begin with the drum; a written sticking is its own line: hands R L R R",
    "sticking": "a written sticking: hands R L R R",
    "stickings": "a written sticking: hands R L R R",
    "time": "write: time 2 only, or time 1 tacet; the metre is meter 3/4",
    "key": "drums have no key; leave the line out",
    "clef": "drums need no clef; leave the line out",
    "end": "the end of a repeat: repeat end 2",
    "p": "a dynamic: dynamics p 1",
    "f": "a dynamic: dynamics f 1",
    "mf": "a dynamic: dynamics mf 1",
    "mp": "a dynamic: dynamics mp 1",
    "pp": "a dynamic: dynamics pp 1",
    "ff": "a dynamic: dynamics ff 1",
    "crescendo": "write: cresc 1-4",
    "diminuendo": "write: dim 1-4",
    "decrescendo": "write: dim 1-4",
}  # fmt: skip
NAMES = ("hat", "ride", "crash", "snare", "kick", "high", "mid", "floor", "foot")


def unknown_line(words: Sequence[Token]) -> str:
    """Of a line that begins with no drum, mark or sign."""
    said = words[0].text.lower().rstrip(":")
    if said in SAID_INSTEAD:
        return SAID_INSTEAD[said]
    if said[:1].isdigit() or said.startswith("("):
        return "begin with the drum: snare 2 4"
    found = near(said, [*LINES, *ALIASES, *HEADS, *MARKS, *SIGNS, *MARK_LINES])
    if found:
        return f"'{words[0].place.word}' is not known; did you mean {found}?"
    drums = ", ".join(NAMES)
    return f"'{words[0].place.word}' is not known; a line begins with a drum ({drums}), a mark \
or a sign"
