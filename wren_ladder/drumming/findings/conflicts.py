"""What a page asks of hands and feet that they cannot do, or not at this tempo."""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

from wren_ladder.drumming.chart import Bar, Drum, Hand, Problem, Surface, Tempo
from wren_ladder.drumming.description.timekeeping import timekeeper
from wren_ladder.drumming.hands.kit import crossed
from wren_ladder.drumming.hands.limbs import HAND_OF, Limb
from wren_ladder.drumming.hands.sticking import Stick
from wren_ladder.drumming.style import HOUSE, Style
from wren_ladder.drumming.units import seconds

OPEN_HATS = (Drum.HIHAT_OPEN, Drum.HIHAT_HALF)


def hand_problems(sticks: Sequence[Stick], bar: Bar) -> list[Problem]:
    """Hits for which no hand is left, and hands that the page asks for twice at once."""
    problems, busy = [], {}
    for stick in sticks:
        name = stick.hit.drum.spoken
        if stick.limb is None:
            text = f"no hand is free for the {name}; two hands can't strike three things"
            problems.append(_at_beat("no-hand", bar, stick, f"{text} at once"))
            continue
        other = busy.setdefault((stick.hit.at, stick.limb), name)
        if other != name:
            text = f"the {stick.limb} is written on {other} and {name} at once"
            problems.append(_at_beat("hand-twice", bar, stick, text))
    return problems


def _at_beat(code: str, bar: Bar, stick: Stick, text: str) -> Problem:
    return Problem(code, f"beat {bar.beat_of(stick.hit.at)}: {text}", bar.number)


def conflicts(
    sticks: Sequence[Stick], bar: Bar, tempo: Tempo, style: Style = HOUSE
) -> tuple[Problem, ...]:
    """Everything that can't be played as it stands, each with bar and beat."""
    return (
        *hand_problems(sticks, bar),
        *_crossings(sticks, bar, style),
        *_hat_and_foot(bar),
        *_too_fast(sticks, bar, tempo, style),
    )


def _crossings(sticks: Sequence[Stick], bar: Bar, style: Style) -> list[Problem]:
    """Arms crossed over two drums at once; over the hat it is the usual way to play."""
    problems = []
    keeper = timekeeper(bar)
    by_time: dict[Fraction, dict[Limb, Stick]] = {}
    for stick in sticks:
        if stick.hand:
            by_time.setdefault(stick.hit.at, {})[stick.limb] = stick
    for at, both in by_time.items():
        right, left = both.get(Limb.RIGHT_HAND), both.get(Limb.LEFT_HAND)
        if right is None or left is None:
            continue
        surfaces = (right.hit.drum.surface, left.hit.drum.surface)
        usual = keeper in surfaces or Surface.HIHAT in surfaces
        if crossed(*surfaces, style.lead) and not usual:
            names = f"{right.hit.drum.spoken} and {left.hit.drum.spoken}"
            text = f"beat {bar.beat_of(at)}: the arms cross over {names}"
            problems.append(Problem("crossed", text, bar.number))
    return problems


def _hat_and_foot(bar: Bar) -> list[Problem]:
    closing = {hit.at for hit in bar.hits if hit.drum is Drum.HIHAT_FOOT}
    return [
        Problem(
            "hat-foot",
            f"beat {bar.beat_of(hit.at)}: the {hit.drum.spoken} can't ring, the foot closes it "
            "there",
            bar.number,
        )
        for hit in bar.hits
        if hit.drum in OPEN_HATS and hit.at in closing
    ]


@dataclass(frozen=True, slots=True)
class Fastest:
    """The quickest single strokes of one hand: ``gap`` crotchets apart from ``at`` on."""

    hand: Hand
    at: Fraction
    gap: Fraction


def fastest_hand(sticks: Sequence[Stick]) -> Fastest | None:
    """The two strokes that a hand must play quickest without bounce; None if there are
    none."""
    found = [
        Fastest(hand, at, gap)
        for limb, hand in HAND_OF.items()
        for at, gap in single_gaps(sticks, limb)
    ]
    return min(found, key=lambda one: (one.gap, one.at), default=None)


def single_hand_limit(sticks: Sequence[Stick], style: Style = HOUSE) -> int | None:
    """From which tempo on, in crotchets a minute, a single hand becomes the limit."""
    fastest = fastest_hand(sticks)
    return int(style.hand_limit * 60 * fastest.gap) if fastest else None


def _too_fast(sticks: Sequence[Stick], bar: Bar, tempo: Tempo, style: Style) -> list[Problem]:
    fastest = fastest_hand(sticks)
    if fastest is None:
        return []
    rate = 1 / seconds(fastest.gap, tempo)
    if rate <= style.hand_limit:
        return []
    limb = next(limb for limb, hand in HAND_OF.items() if hand is fastest.hand)
    limit = single_hand_limit(sticks, style)
    text = (
        f"beat {bar.beat_of(fastest.at)}: the {limb} plays {rate:.1f} strokes a second at "
        f"{tempo}, more than {style.hand_limit:g}; it is the limit from crotchet = {limit} on"
    )
    return [Problem("too-fast", text, bar.number)]


def single_gaps(sticks: Sequence[Stick], limb: Limb) -> list[tuple[Fraction, Fraction]]:
    """(from where, how far) of the gaps that a hand must cross without bounce.

    A short gap between two longer ones is a double, whose second stroke bounces.
    """
    times = sorted({stick.hit.at for stick in sticks if stick.limb is limb})
    gaps = [(before, after - before) for before, after in pairwise(times)]
    around = [None, *(gap for _, gap in gaps), None]
    return [
        (at, gap)
        for before, (at, gap), after in zip(around, gaps, around[2:], strict=False)
        if (before is not None and before <= gap) or (after is not None and after <= gap)
    ]
