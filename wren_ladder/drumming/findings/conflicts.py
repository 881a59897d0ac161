"""What a page asks of hands and feet that they cannot do, or not at this tempo."""

from collections.abc import Sequence
from fractions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Problem, Surface, Tempo
from wren_ladder.drumming.description.timekeeping import timekeeper
from wren_ladder.drumming.findings.fastest import fastest_hand, single_hand_limit
from wren_ladder.drumming.findings.finding import Finding, Kind
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.hands.kit import crossed
from wren_ladder.drumming.hands.limbs import LIMB_OF, Limb
from wren_ladder.drumming.performance.clock import per_second
from wren_ladder.drumming.style import HOUSE, Style

OPEN_HATS = (Drum.HIHAT_OPEN, Drum.HIHAT_HALF)

NO_HAND = Kind(
    "no-hand",
    lambda one: (
        f"beat {one['beat']}: no hand is free for the {one['drum'].spoken}; two hands can't "
        "strike three things at once"
    ),
)
HAND_TWICE = Kind(
    "hand-twice",
    lambda one: (
        f"beat {one['beat']}: the {one['limb']} is written on {one['one'].spoken} and "
        f"{one['other'].spoken} at once"
    ),
)
CROSSED = Kind(
    "crossed",
    lambda one: (
        f"beat {one['beat']}: the arms cross over {one['right'].spoken} and "
        f"{one['left'].spoken}"
    ),
)
HAT_FOOT = Kind(
    "hat-foot",
    lambda one: (
        f"beat {one['beat']}: the {one['drum'].spoken} can't ring, the foot closes it there"
    ),
)
TOO_FAST = Kind(
    "too-fast",
    lambda one: (
        f"beat {one['beat']}: the {one['limb']} plays {one['rate']:.1f} strokes a second at "
        f"{one['tempo']}, more than {one['limit']:g}; it is the limit from crotchet = "
        f"{one['from_bpm']} on"
    ),
)


def conflicts(
    sticks: Sequence[Stick], bar: Bar, tempo: Tempo, style: Style = HOUSE
) -> tuple[Finding, ...]:
    """Everything that can't be played as it stands, each with its beat."""
    return (
        *hand_conflicts(sticks, bar),
        *_crossings(sticks, bar, style),
        *_hat_and_foot(bar),
        *_too_fast(sticks, bar, tempo, style),
    )


def hand_conflicts(sticks: Sequence[Stick], bar: Bar) -> list[Finding]:
    """Hits for which no hand is left, and hands that the page asks for twice at once."""
    found, busy = [], {}
    for stick in sticks:
        at, drum = stick.hit.at, stick.hit.drum
        beat = bar.beat_of(at)
        if stick.limb is None:
            found.append(NO_HAND.found(at, beat=beat, drum=drum))
            continue
        other = busy.setdefault((at, stick.limb), drum)
        if other is not drum:
            facts = {"limb": stick.limb, "one": other, "other": drum}
            found.append(HAND_TWICE.found(at, beat=beat, **facts))
    return found


def as_problems(found: Sequence[Finding], bar: Bar) -> tuple[Problem, ...]:
    """Conflicts told of their bar, as everything is that a page is warned of."""
    return tuple(Problem(one.kind.code, str(one), bar.number) for one in found)


def _crossings(sticks: Sequence[Stick], bar: Bar, style: Style) -> list[Finding]:
    """Arms crossed over two drums at once; over the hat it is the usual way to play."""
    found = []
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
            drums = {"right": right.hit.drum, "left": left.hit.drum}
            found.append(CROSSED.found(at, beat=bar.beat_of(at), **drums))
    return found


def _hat_and_foot(bar: Bar) -> list[Finding]:
    closing = {hit.at for hit in bar.hits if hit.drum is Drum.HIHAT_FOOT}
    return [
        HAT_FOOT.found(hit.at, beat=bar.beat_of(hit.at), drum=hit.drum)
        for hit in bar.hits
        if hit.drum in OPEN_HATS and hit.at in closing
    ]


def _too_fast(sticks: Sequence[Stick], bar: Bar, tempo: Tempo, style: Style) -> list[Finding]:
    fastest = fastest_hand(sticks)
    if fastest is None:
        return []
    rate = per_second(fastest.gap, tempo)
    if rate <= style.hand_limit:
        return []
    facts = {
        "beat": bar.beat_of(fastest.at),
        "limb": LIMB_OF[fastest.hand],
        "rate": rate,
        "tempo": tempo,
        "limit": style.hand_limit,
        "from_bpm": single_hand_limit(sticks, style),
    }
    return [TOO_FAST.found(fastest.at, **facts)]
