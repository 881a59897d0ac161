"""What a finding is to a child who reads alone: short sentences without measures."""

from wren_ladder.drumming.takes.finding import Advice, Finding, Kind
from wren_ladder.drumming.takes.limits import GRACES
from wren_ladder.drumming.takes.passes import Spoiled
from wren_ladder.drumming.takes.words import the_limb, why_not_clean
from wren_ladder.drumming.wording import counted

MANY_MISSING = 0.4  # share of the strokes


def sentence_for_child(finding: Finding) -> str:
    """ "The left foot comes a bit late." """
    return _SENTENCES[finding.kind](finding)


def advice_for_child(finding: Finding) -> str:
    limb = the_limb(finding.limb)
    return {
        Advice.SLOWER: "Play it slower and count out loud.",
        Advice.PAIR: f"First {limb} with one other hand or foot. Then all of it.",
        Advice.LAYER: f"Leave {limb} out. Then put it back, slowly.",
        Advice.CLICK: "Play with the click and count out loud.",
        Advice.PAD: f"Go to the pad first, with {limb} alone.",
        Advice.LIGHT: "Hit the cymbal lightly, with the tip of the stick.",
    }[finding.advice]


def _side(finding: Finding) -> str:
    return "late" if finding.seconds > 0 else "early"


def _limb(finding: Finding) -> str:
    return the_limb(finding.limb)


def _comes(finding: Finding) -> str:
    limb = _limb(finding)
    return f"{limb} {'come' if finding.limb is None else 'comes'}"


def _began(finding: Finding) -> str:
    if not finding.where:
        return "You began on another beat. Listen for the 1."
    bars = int(finding.where)
    return f"You began {counted(bars)} bar{'s' if bars > 1 else ''} late. Listen for the 1."


def _turn(finding: Finding) -> str:
    played, asked = finding.tempos
    way = "faster" if played > asked else "slower"
    return f"Steady until {finding.where}, then {way}." if finding.where else f"You got {way}."


def _pass(finding: Finding) -> str:
    one = finding.spoiled
    if one is None:
        return ""
    said = (
        {
            Spoiled.SPREAD: "not even yet",
            Spoiled.GRACES: "the small notes are not there yet",
        }.get(one.spoiled)
        if one.spoiled
        else ""
    )
    said = said or why_not_clean(one)
    return f"Time {one.number + 1}: {said}."


def _fill(finding: Finding) -> str:
    return {
        "start": "The fill starts off the beat.",
        "end": f"The fill gets {'slower' if finding.seconds > 0 else 'faster'}.",
        "landing": f"The bar after the fill comes {_side(finding)}.",
    }[finding.where]


def _graces(finding: Finding) -> str:
    if finding.passes[1]:
        return f"The small notes of the {finding.where} are missing."
    how = "too wide" if finding.seconds > GRACES[1] else "too tight"
    return f"The {finding.where} are {how}."


def _missing(finding: Finding) -> str:
    many = "Many" if finding.share > MANY_MISSING else "Some"
    return f"{many} strokes of {_limb(finding)} are missing."


def _pace(finding: Finding) -> str:
    played, asked = finding.tempos
    return f"You played at {played}. It was set to {asked}."


_SENTENCES = {
    Kind.SOMETHING_ELSE: lambda one: "That was another bar, or another speed.",
    Kind.TEMPO: _pace,
    Kind.PACE: _pace,
    Kind.BEATS_OFF: _began,
    Kind.BEHIND: lambda one: (
        f"You are a bit {'behind' if one.seconds > 0 else 'ahead of'} the click."
    ),
    Kind.CAME_IN: lambda one: f"You came in at {one.where}.",
    Kind.FROM_THE_TOP: lambda one: f"You went back to the start after {one.where}.",
    Kind.DROPPED: lambda one: f"You left out {one.where or 'a bar'}.",
    Kind.AGAIN: lambda one: f"You began {one.where} again.",
    Kind.PAUSED: lambda one: f"You stopped in {one.where} and went on.",
    Kind.TURN: _turn,
    Kind.PASS: _pass,
    Kind.STOPPED: lambda one: f"You stopped at {one.where}.",
    Kind.MISSED: _missing,
    Kind.WRONG: lambda one: "Some strokes are on another drum.",
    Kind.FILL: _fill,
    Kind.LEAN: lambda one: f"{_comes(one).capitalize()} a bit {_side(one)}.",
    Kind.UNEVEN: lambda one: f"{_limb(one).capitalize()} should be more even.",
    Kind.PLACE: lambda one: f"On {one.where} {_comes(one)} {_side(one)}.",
    Kind.APART: lambda one: (
        f"{_comes(one).capitalize()} a bit {_side(one)}, beside {the_limb(one.other)}."
    ),
    Kind.GRACES: _graces,
    Kind.ROLLS: lambda one: "The rolls should be more even.",
    Kind.CONTRAST: lambda one: f"Make loud louder and soft softer, with {_limb(one)}.",
    Kind.BALANCE: lambda one: "The cymbal is too loud.",
}
