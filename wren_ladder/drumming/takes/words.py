"""What a finding is in one sentence, and what to do about it in another."""

from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.takes.judged import Advice, Finding, Kind
from wren_ladder.drumming.takes.limits import GRACES
from wren_ladder.drumming.takes.weeks import Habit, HabitKind

MILLISECONDS = 1000


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


def _limb(limb: Limb | None) -> str:
    return f"the {limb.value}" if limb else "the hands"


def _percent(share: float) -> str:
    return f"{abs(share):.0%}"


def _place(finding: Finding) -> str:
    many, of = finding.passes
    return (
        f"On {finding.where} {_limb(finding.limb)} comes {_late(finding)}, in {many} of {of} "
        "passes."
    )


def _graces(finding: Finding) -> str:
    how = "too wide" if finding.seconds > GRACES[1] else "closed"
    gap = round(finding.seconds * MILLISECONDS)
    return f"The {finding.where} are {how}: {gap} ms from note to note {_strokes(finding)}."


def _fill(finding: Finding) -> str:
    way = "drags" if finding.seconds > 0 else "rushes"
    return {
        "start": f"The fill starts off the beat and ends {_late(finding)} {_strokes(finding)}.",
        "end": f"The fill {way}, at its end {_late(finding)} {_strokes(finding)}.",
        "landing": f"The bar behind the fill comes {_late(finding)} {_strokes(finding)}.",
    }[finding.where]


def _pace(finding: Finding) -> str:
    way = "faster" if finding.share > 0 else "slower"
    return f"It gets {way}: {_percent(finding.share)} off the tempo that was asked for."


_SENTENCES = {
    Kind.SOMETHING_ELSE: lambda one: "This was not this bar, or not at this tempo.",
    Kind.BEATS_OFF: lambda one: (
        f"It began {_late(one)}, whole beats away from the count-in: listen for the 1."
    ),
    Kind.DROPPED: lambda one: f"A bar was left out{f', {one.where}' if one.where else ''}.",
    Kind.AGAIN: lambda one: f"A bar was played twice, {one.where}.",
    Kind.STOPPED: lambda one: f"It stopped at {one.where}.",
    Kind.MISSED: lambda one: (
        f"{_percent(one.share).capitalize()} of the strokes are missing, most of them of "
        f"{_limb(one.limb)} {_strokes(one)}."
    ),
    Kind.WRONG: lambda one: f"Some strokes are on another drum {_strokes(one)}.",
    Kind.FILL: _fill,
    Kind.LEAN: lambda one: (
        f"{_limb(one.limb).capitalize()} comes {_late(one)} {_strokes(one)}."
    ),
    Kind.UNEVEN: lambda one: (
        f"{_limb(one.limb).capitalize()} is uneven: {round(one.seconds * MILLISECONDS)} ms "
        f"about its own middle {_strokes(one)}."
    ),
    Kind.PLACE: _place,
    Kind.APART: lambda one: (
        f"{_limb(one.limb).capitalize()} comes {_late(one)} where it should be one with "
        f"{_limb(one.other)} {_strokes(one)}."
    ),
    Kind.GRACES: _graces,
    Kind.ROLLS: lambda one: (
        f"The rolls are uneven: the time from stroke to stroke varies by {_percent(one.share)} "
        f"({one.strokes} rolls)."
    ),
    Kind.PACE: _pace,
    Kind.CONTRAST: lambda one: (
        f"Accents of {_limb(one.limb)} are only {one.share:.1f} times as loud as its ghosts "
        f"{_strokes(one)}."
    ),
    Kind.BALANCE: lambda one: (
        f"The cymbal is {one.share:.1f} times as loud as snare and kick {_strokes(one)}."
    ),
}


def habit_sentence(habit: Habit) -> str:
    """ "The left foot comes late since 3 October: 38 ms over 5 days." """
    how = {
        HabitKind.LATE: "comes late",
        HabitKind.EARLY: "comes early",
        HabitKind.UNEVEN: "is uneven",
    }[habit.kind]
    since = f"{habit.since:%-d %B}"
    far = f"{round(habit.seconds * MILLISECONDS)} ms over {habit.days} days of takes"
    return f"{_limb(habit.limb).capitalize()} {how} since {since}: {far}."


def habit_for_parents(habit: Habit) -> str:
    how = {
        HabitKind.LATE: "still comes a little late",
        HabitKind.EARLY: "still comes a little early",
        HabitKind.UNEVEN: "is still a little uneven",
    }[habit.kind]
    return f"{_limb(habit.limb).capitalize()} {how}; that is what we listen for at the moment."
