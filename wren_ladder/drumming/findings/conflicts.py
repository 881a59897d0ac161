"""What a page asks of hands and feet that they cannot do, or not at this tempo."""

from collections.abc import Sequence

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Problem, Surface, Tempo
from wren_ladder.drumming.chart.drum import CRASHES
from wren_ladder.drumming.chart.positions import spoken_place
from wren_ladder.drumming.description.timekeeping import timekeeper
from wren_ladder.drumming.findings.fastest import fastest_foot, fastest_hand
from wren_ladder.drumming.findings.finding import Finding, Kind
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.hands.kit import crossed
from wren_ladder.drumming.hands.limbs import Limb
from wren_ladder.drumming.performance.clock import per_second
from wren_ladder.drumming.style import HOUSE, Style

OPEN_HATS = (Drum.HIHAT_OPEN, Drum.HIHAT_HALF)

NO_HAND = Kind(
    "no-hand",
    lambda one: (
        f"on {one['where']}: no hand is free for the {one['drum'].spoken}; two hands can't "
        "strike three things at once"
    ),
)
HAND_TWICE = Kind(
    "hand-twice",
    lambda one: (
        f"on {one['where']}: the {one['limb']} is written on {one['one'].spoken} and "
        f"{one['other'].spoken} at once"
    ),
)
CROSSED = Kind(
    "crossed",
    lambda one: (
        f"on {one['where']}: the arms cross over {one['right'].spoken} and {one['left'].spoken}"
    ),
)
HAT_FOOT = Kind(
    "hat-foot",
    lambda one: (
        f"on {one['where']}: the {one['drum'].spoken} can't ring, the foot closes it there"
    ),
)
TOO_FAST = Kind(
    "too-fast",
    lambda one: (
        f"on {one['where']}: {one['who']} plays {one['rate']:.1f} strokes a second at "
        f"{one['tempo']}, more than {one['limit']:g}; it is the limit from "
        f"{one['tempo'].beat_name} = {one['from_bpm']} on"
    ),
)


def conflicts(
    sticks: Sequence[Stick], bar: Bar, tempo: Tempo, style: Style = HOUSE
) -> tuple[Finding, ...]:
    """Everything that can't be played as it stands, each with its place."""
    return (
        *hand_conflicts(sticks, bar),
        *_crossings(sticks, bar, style),
        *_hat_and_foot(bar),
        *_too_fast(sticks, bar, tempo, style),
    )


def hand_conflicts(sticks: Sequence[Stick], bar: Bar) -> list[Finding]:
    """Hits for which no hand is left, and hands that the page asks for twice at once."""
    found: list[Finding] = []
    busy: dict[tuple[Fraction, Limb], Drum] = {}
    for stick in sticks:
        at, drum = stick.hit.at, stick.hit.drum
        where = spoken_place(bar, at)
        if stick.limb is None:
            found.append(NO_HAND.found(at, where=where, drum=drum))
            continue
        other = busy.setdefault((at, stick.limb), drum)
        if other is not drum:
            facts = {"limb": stick.limb, "one": other, "other": drum}
            found.append(HAND_TWICE.found(at, where=where, **facts))
    return found


def as_problems(found: Sequence[Finding], bar: Bar) -> tuple[Problem, ...]:
    """Conflicts told of their bar, as everything is that a page is warned of."""
    return tuple(Problem(one.kind.code, str(one), bar.number) for one in found)


def _crossings(sticks: Sequence[Stick], bar: Bar, style: Style) -> list[Finding]:
    """Arms crossed over two drums at once; over the hat or to a
    crash it is the usual way to play."""
    found = []
    keeper = timekeeper(bar)
    by_time: dict[Fraction, dict[Limb, Stick]] = {}
    for stick in sticks:
        if stick.limb and stick.hand:
            by_time.setdefault(stick.hit.at, {})[stick.limb] = stick
    for at, both in by_time.items():
        right, left = both.get(Limb.RIGHT_HAND), both.get(Limb.LEFT_HAND)
        if right is None or left is None:
            continue
        surfaces = (right.hit.drum.surface, left.hit.drum.surface)
        usual = keeper in surfaces or Surface.HIHAT in surfaces
        usual = usual or any(one in CRASHES for one in surfaces)
        if crossed(*surfaces, style.lead) and not usual:
            drums = {"right": right.hit.drum, "left": left.hit.drum}
            found.append(CROSSED.found(at, where=spoken_place(bar, at), **drums))
    return found


def _hat_and_foot(bar: Bar) -> list[Finding]:
    closing = {hit.at for hit in bar.hits if hit.drum is Drum.HIHAT_FOOT}
    return [
        HAT_FOOT.found(hit.at, where=spoken_place(bar, hit.at), drum=hit.drum)
        for hit in bar.hits
        if hit.drum in OPEN_HATS and hit.at in closing
    ]


def _too_fast(sticks: Sequence[Stick], bar: Bar, tempo: Tempo, style: Style) -> list[Finding]:
    """One hand or foot without bounce, and rolls of both hands, above the teacher's limits."""
    asked = [
        (f"the {one.limb}", one.at, one.gap, limit)
        for one, limit in (
            (fastest_hand(sticks), style.hand_limit),
            (fastest_foot(sticks), style.foot_limit),
        )
        if one
    ]
    asked += [
        (f"the {hit.roll.strokes}-stroke roll", hit.at, gap, style.roll_limit)
        for hit in bar.hits
        if hit.roll and hit.roll.strokes
        for gap in [hit.roll.length / (hit.roll.strokes - 1)]
    ]
    found = []
    for who, at, gap, limit in asked:
        rate = per_second(gap, tempo)
        if rate > limit:
            facts = {"rate": rate, "tempo": tempo, "limit": limit}
            facts["from_bpm"] = int(limit * 60 * gap / tempo.beat)
            found.append(TOO_FAST.found(at, where=spoken_place(bar, at), who=who, **facts))
    return found
