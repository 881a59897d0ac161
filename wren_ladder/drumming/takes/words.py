"""What a finding is in one sentence, and what to do about it in another."""

from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.takes.finding import Advice, Finding, Kind
from wren_ladder.drumming.takes.hear import KitFaults
from wren_ladder.drumming.takes.limits import GRACES
from wren_ladder.drumming.takes.listening import Listened, Listening
from wren_ladder.drumming.takes.passes import Pass, Spoiled
from wren_ladder.drumming.takes.weeks import Habit, HabitKind
from wren_ladder.drumming.wording import counted, listed

MILLISECONDS = 1000
OFTEN = 2  # times that something of the kit is told from


def sentence(finding: Finding) -> str:
    """ "The left foot comes 44 ms late (62 strokes)." """
    return _SENTENCES[finding.kind](finding)


def advice(finding: Finding) -> str:
    limb = f"the {finding.limb.value}" if finding.limb else "it"
    return {
        Advice.SLOWER: "Slower, and count aloud.",
        Advice.PAIR: f"Play {limb} with one other limb alone, then put the rest on top.",
        Advice.LAYER: f"Take {limb} out, then put it back in at half the speed.",
        Advice.CLICK: "With the click on every beat, counted aloud.",
        Advice.PAD: f"On the pad first, {limb} alone, as even as the click.",
        Advice.LIGHT: "Kick and snare firm, the cymbal with the tip of the stick.",
    }[finding.advice]


def _strokes(finding: Finding) -> str:
    return f"({finding.strokes} stroke{'s' if finding.strokes != 1 else ''})"


def _late(finding: Finding) -> str:
    side = "late" if finding.seconds > 0 else "early"
    return f"{abs(round(finding.seconds * MILLISECONDS))} ms {side}"


def the_limb(limb: Limb | None) -> str:
    return f"the {limb.value}" if limb else "the hands"


def _percent(share: float) -> str:
    return f"{abs(share):.0%}"


def _place(finding: Finding) -> str:
    many, of = finding.passes
    return (
        f"On {finding.where} {the_limb(finding.limb)} comes {_late(finding)}, "
        f"in {many} of {of} times through."
    )


def _graces(finding: Finding) -> str:
    bare, many = finding.passes
    if many:
        return (
            f"The {finding.where} have no grace, or it falls on the stroke: {bare} of {many}."
        )
    how = "too wide" if finding.seconds > GRACES[1] else "closed"
    gap = round(finding.seconds * MILLISECONDS)
    return f"The {finding.where} are {how}: {gap} ms from note to note {_strokes(finding)}."


def _turn(finding: Finding) -> str:
    played, asked = finding.tempos
    way = "faster" if played > asked else "slower"
    if not finding.where:
        return f"It gets {way}: {asked} at the start, {played} at the end."
    return f"Steady until {finding.where}, then {way}: {played} instead of {asked}."


def _began(finding: Finding) -> str:
    if finding.where:
        bars = int(finding.where)
        return f"It began {counted(bars)} bar{'s' if bars > 1 else ''} late: listen for the 1."
    return f"It began {_late(finding)}, whole beats away from the count-in: listen for the 1."


def why_not_clean(one: Pass) -> str:
    """ "two strokes too many, floor tom on 2&" """
    many = f"{counted(one.many)} stroke{'' if one.many == 1 else 's'}"
    where = f", {one.drum.spoken} on {one.where}" if one.drum else ""
    return {
        None: "clean",
        Spoiled.NOT_PLAYED: "not played",
        Spoiled.BROKEN: "interrupted",
        Spoiled.MISSED: f"{many} missing",
        Spoiled.WRONG: f"{many} on another drum",
        Spoiled.EXTRA: f"{many} too many{where}",
        Spoiled.LEAN: f"{the_limb(one.leaning)} early or late",
        Spoiled.SPREAD: f"uneven, {round((one.spread or 0) * MILLISECONDS)} ms",
        Spoiled.GRACES: "flams, drags or ruffs not as they should be",
    }[one.spoiled]


def _pass(finding: Finding) -> str:
    if finding.spoiled is None:
        return ""
    said = f"Time {finding.spoiled.number + 1}: {why_not_clean(finding.spoiled)}"
    others = finding.passes[0] - 1
    return f"{said}; {counted(others)} more not clean." if others else f"{said}."


def kit_said(kit: KitFaults) -> tuple[str, ...]:
    """What the kit did by itself, and what to do about it."""
    twice = [f"the {drum.spoken} {counted(many)} time{'s' if many > 1 else ''}"
             for drum, many in kit.twice.items() if drum and many >= OFTEN]  # fmt: skip
    along = [
        f"the {drum.spoken}" for drum, many in kit.shaken.items() if drum and many >= OFTEN
    ]
    said = []
    if twice:
        said.append(
            f"The kit answered twice, {listed(twice)}: left out here. Raise its retrigger "
            "time, or lower the sensitivity of that pad."
        )
    if along:
        said.append(
            f"Pads that shook along with others, {listed(along)}, are left out: set their "
            "threshold or crosstalk higher, or the pads further apart."
        )
    return tuple(said)


def _fill(finding: Finding) -> str:
    way = "drags" if finding.seconds > 0 else "rushes"
    return {
        "start": f"The fill starts off the beat and ends {_late(finding)} {_strokes(finding)}.",
        "end": f"The fill {way}, at its end {_late(finding)} {_strokes(finding)}.",
        "landing": f"The bar behind the fill comes {_late(finding)} {_strokes(finding)}.",
    }[finding.where]


def _pace(finding: Finding) -> str:
    played, asked = finding.tempos
    return f"You played at {played} instead of {asked}."


_SENTENCES = {
    Kind.SOMETHING_ELSE: lambda one: "This was not this bar, or not at this tempo.",
    Kind.TEMPO: _pace,
    Kind.BEATS_OFF: _began,
    Kind.BEHIND: lambda one: f"All of it comes {_late(one)} to the click, as measured.",
    Kind.CAME_IN: lambda one: f"You came in at {one.where}.",
    Kind.FROM_THE_TOP: lambda one: f"From the top again, after {one.where}.",
    Kind.DROPPED: lambda one: f"A bar was left out{', ' * bool(one.where)}{one.where}.",
    Kind.AGAIN: lambda one: f"You began {one.where} again.",
    Kind.PAUSED: lambda one: f"You stopped in {one.where} and went on.",
    Kind.TURN: _turn,
    Kind.PASS: _pass,
    Kind.STOPPED: lambda one: f"It stopped at {one.where}.",
    Kind.MISSED: lambda one: (
        f"{_percent(one.share).capitalize()} of the strokes are missing, most of them of "
        f"{the_limb(one.limb)} {_strokes(one)}."
    ),
    Kind.WRONG: lambda one: f"Some strokes are on another drum {_strokes(one)}.",
    Kind.FILL: _fill,
    Kind.LEAN: lambda one: (
        f"{the_limb(one.limb).capitalize()} comes {_late(one)} {_strokes(one)}."
    ),
    Kind.UNEVEN: lambda one: (
        f"{the_limb(one.limb).capitalize()} is uneven: {round(one.seconds * MILLISECONDS)} ms "
        f"about its own middle {_strokes(one)}."
    ),
    Kind.PLACE: _place,
    Kind.APART: lambda one: (
        f"{the_limb(one.limb).capitalize()} comes {_late(one)} where it should be one with "
        f"{the_limb(one.other)} {_strokes(one)}."
    ),
    Kind.GRACES: _graces,
    Kind.ROLLS: lambda one: (
        f"The rolls are uneven: the time from stroke to stroke varies by {_percent(one.share)} "
        f"({one.strokes} rolls)."
    ),
    Kind.PACE: _pace,
    Kind.CONTRAST: lambda one: (
        f"Accents of {the_limb(one.limb)} are only {one.share:.1f} times as loud as its ghosts "
        f"{_strokes(one)}."
    ),
    Kind.BALANCE: lambda one: (
        f"The cymbal is {one.share:.1f} times as loud as snare and kick {_strokes(one)}."
    ),
}


def listened_said(listened: Listened, tempo: int, names_drums: bool) -> str:
    """How far somebody is who counted in by themselves, or what they did. ``tempo`` in BPM."""
    if listened.state is Listening.WAITING:
        return "Listening: count in with your sticks, then play"
    if listened.state is Listening.COUNTED:
        return f"Counted in at {tempo}"
    if listened.state is Listening.PLAYING:
        return f"Listening, at {tempo}"
    if listened.take is None:
        return "That was not this music, or not as it was counted in. Count, and play again"
    judged = listened.take.judged
    clean, many = ("clean" if names_drums else "in time"), len(judged.passes)
    times = "Once" if many == 1 else f"{many} times"
    if judged.clean == many:
        return f"{times} through at {tempo}, {'all ' if many > 1 else ''}{clean}"
    first = f". {sentence(judged.to_mend)}" if judged.to_mend else ""
    if many == 1:
        return f"Once through at {tempo}, not yet {clean}{first}".rstrip(".")
    some = judged.clean or "none"
    return f"{times} through at {tempo}, {some} of them {clean}{first}".rstrip(".")


def habit_sentence(habit: Habit) -> str:
    """ "The left foot comes late since 3 October: 38 ms over 5 days." """
    how = {
        HabitKind.LATE: "comes late",
        HabitKind.EARLY: "comes early",
        HabitKind.UNEVEN: "is uneven",
    }[habit.kind]
    since = f"{habit.since:%-d %B}"
    far = f"{round(habit.seconds * MILLISECONDS)} ms over {habit.days} days of takes"
    return f"{the_limb(habit.limb).capitalize()} {how} since {since}: {far}."


def habit_for_parents(habit: Habit) -> str:
    how = {
        HabitKind.LATE: "still comes a little late",
        HabitKind.EARLY: "still comes a little early",
        HabitKind.UNEVEN: "is still a little uneven",
    }[habit.kind]
    return (
        f"{the_limb(habit.limb).capitalize()} {how}; that is what we listen for at the moment."
    )
