"""What was found, in plain sentences; nobody reads them back."""

from collections.abc import Callable, Sequence

from wren_ladder.drumming.chart import Grace
from wren_ladder.drumming.findings.finding import Code, Finding

# The order in which a teacher would name what to watch for in a bar.
WATCHED = (
    Code.ORNAMENT,
    Code.ROLL,
    Code.GHOST_ACCENT,
    Code.HAT_CLOSES,
    Code.FEET_BETWEEN,
    Code.QUICK_KICKS,
    Code.SPEED,
)
TRAPS = (Code.AGAINST_HABIT, Code.AGAINST_COMMON_FORM, Code.SILENCE, Code.KICK_LANDING)
SENTENCES: dict[Code, Callable[[Finding], str]] = {
    Code.NEW: lambda one: f"new: {one['name']}",
    Code.ORNAMENT: lambda one: f"{one['grace'].value}s",
    Code.ROLL: lambda one: f"a roll on {one['beat']}",
    Code.GHOST_ACCENT: lambda one: f"ghost beside accent in the {one['limb']} on {one['beat']}",
    Code.HAT_CLOSES: lambda one: f"the hat closes as it is struck on {one['beat']}",
    Code.FEET_BETWEEN: lambda one: f"{one['drum'].spoken} between the hands on {one['beat']}",
    Code.QUICK_KICKS: lambda one: f"two quick kicks on {one['beat']}",
    Code.ENTRY: lambda one: f"an entry off the beat after silence, on {one['beat']}",
    Code.REACH: lambda one: (
        f"the {one['limb']} reaches from {one['start'].spoken} to {one['end'].spoken} "
        f"on {one['beat']}"
    ),
    Code.DOUBLE: lambda one: f"the {one['limb']} must double on {one['beat']}",
    Code.SPEED: lambda one: f"the fastest hand at {one['rate']:.1f} strokes a second",
    Code.AGAINST_HABIT: lambda one: (
        f"{one['change'].spoken}, where habit has bar {one['habit']}, "
        f"played {one['times']} times"
    ),
    Code.AGAINST_COMMON_FORM: lambda one: (
        f"{one['surface']} on {one['where']}, where the common form has {one['usual']}"
    ),
    Code.SILENCE: lambda one: f"a beat of silence on {one['where']} before {one['entry']}",
    Code.KICK_LANDING: lambda one: (
        f"the kick on {one['where']} of bar {one['bar']}, and again on the landing"
    ),
    Code.JUMP: lambda one: one["turn"],
    Code.METER_CHANGE: lambda one: f"the metre changes from {one['before']} to {one['after']}",
    Code.TEMPO_CHANGE: lambda one: f"a new tempo, {one['after']}",
    Code.CYMBAL_CHANGE: lambda one: (
        f"the cymbal hand moves from {_cymbal(one['before'])} to {_cymbal(one['after'])}"
    ),
    Code.REACH_ACROSS: lambda one: (
        f"the {one['limb']} goes from {one['start'].spoken} to {one['end'].spoken}"
    ),
    Code.HAT_CLOSES_ACROSS: lambda one: "the hat closes as it is struck, over the bar line",
    Code.DOUBLE_ACROSS: lambda one: f"the {one['limb']} twice over the bar line",
    Code.ENTRY_ACROSS: lambda one: "it comes in off the beat, after silence",
    Code.NO_HAND: lambda one: (
        f"beat {one['beat']}: no hand is free for the {one['drum'].spoken}; two hands can't "
        "strike three things at once"
    ),
    Code.HAND_TWICE: lambda one: (
        f"beat {one['beat']}: the {one['limb']} is written on {one['one'].spoken} and "
        f"{one['other'].spoken} at once"
    ),
    Code.CROSSED: lambda one: (
        f"beat {one['beat']}: the arms cross over {one['right'].spoken} and "
        f"{one['left'].spoken}"
    ),
    Code.HAT_FOOT: lambda one: (
        f"beat {one['beat']}: the {one['drum'].spoken} can't ring, the foot closes it there"
    ),
    Code.TOO_FAST: lambda one: (
        f"beat {one['beat']}: the {one['limb']} plays {one['rate']:.1f} strokes a second at "
        f"{one['tempo']}, more than {one['limit']:g}; it is the limit from crotchet = "
        f"{one['from_bpm']} on"
    ),
}


def say(one: Finding) -> str:
    return SENTENCES[one.code](one)


def say_together(found: Sequence[Finding]) -> str:
    """Findings of one reason in a sentence: all that is new, all ornaments, every trap; of the
    others the first, for a bar has one cause for many of them."""
    code = found[0].code
    if code is Code.NEW:
        return f"new: {', '.join(sorted(one['name'] for one in found))}"
    if code in TRAPS:
        return "; ".join(say(one) for one in found)
    return "; ".join(_by_code(found))


def _by_code(found: Sequence[Finding]) -> list[str]:
    said = []
    for code in dict.fromkeys(one.code for one in found):
        mine = [one for one in found if one.code is code]
        said.append(_graces(mine) if code is Code.ORNAMENT else say(mine[0]))
    return said


def _graces(found: Sequence[Finding]) -> str:
    """ "flams and drags", each once."""
    there = {one["grace"] for one in found}
    return " and ".join(f"{grace.value}s" for grace in Grace if grace in there)


def watch_for(found: Sequence[Finding]) -> tuple[str, ...]:
    """What to watch for in a bar, most telling first; empty for one that holds no surprise. A
    hand's speed is told once it is above the limit."""
    said = []
    for code in WATCHED:
        mine = [one for one in found if one.code is code]
        if code is Code.SPEED:
            said += [_over_the_limit(one) for one in mine if one["rate"] > one["limit"]]
        elif mine:
            said += _by_code(mine)
    return tuple(said)


def _over_the_limit(one: Finding) -> str:
    return f"{one['limb']} at {one['rate']:.1f} strokes a second (limit {one['limit']:g})"


def _cymbal(surface) -> str:
    return surface.value.replace("hihat", "hat")
