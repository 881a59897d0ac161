"""What will catch a player in a bar, by its notes and its hands. Common practice, no source."""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from itertools import chain, pairwise

from wren_ladder.drumming.chart import Bar, Drum, Grace, Hit, Surface, Tempo, Touch
from wren_ladder.drumming.findings.fastest import fastest_hand, rolled_per_second
from wren_ladder.drumming.findings.finding import Finding, Kind, the_first
from wren_ladder.drumming.findings.rhythm import rhythm_findings
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.hands.kit import travel
from wren_ladder.drumming.hands.limbs import HAND_OF
from wren_ladder.drumming.performance.clock import per_second
from wren_ladder.drumming.style import HOUSE, Reason, Style

SEMIQUAVER, QUAVER = Fraction(1, 4), Fraction(1, 2)
FAR = 4.5  # hand's breadths; a reach across the kit
GRACE_AMOUNT = {Grace.FLAM: 1.0, Grace.DRAG: 1.3, Grace.RUFF: 1.6}
ROLL_AMOUNT, FOR_SPEED = 0.8, 1.6  # of a roll as such, and of one as fast as hands can
UNCOUNTED = 0.5  # of that speed, where the page does not say how many strokes
EASY = 0.8  # of a hand's limit; slower is no reason


def _graces(found: Sequence[Finding]) -> str:
    """ "flams and drags", each once."""
    there = {one["grace"] for one in found}
    return " and ".join(f"{grace.value}s" for grace in Grace if grace in there)


def _near_the_limit(one: Finding) -> float:
    """Nothing while it is easy, 1 at the limit."""
    return max(0.0, (one["rate"] / one["limit"] - EASY) / (1 - EASY))


def _rolled(one: Finding) -> float:
    """The more, the faster its strokes come."""
    share = one["rate"] / one["limit"] if one["rate"] else UNCOUNTED
    return ROLL_AMOUNT + FOR_SPEED * share


def _say_roll(one: Finding) -> str:
    if not one["rate"]:
        return f"a roll on {one['beat']}"
    return (
        f"a {one['strokes']}-stroke roll on {one['beat']}, {one['rate']:.0f} strokes a second"
    )


def _over_the_limit(found: Sequence[Finding]) -> str:
    """A hand's speed is told once it is above the limit."""
    one = found[0]
    if one["rate"] <= one["limit"]:
        return ""
    return f"{one['limb']} at {one['rate']:.1f} strokes a second (limit {one['limit']:g})"


ORNAMENT = Kind(
    "ornament",
    lambda one: f"{one['grace'].value}s",
    Reason.ORNAMENTS,
    lambda one: GRACE_AMOUNT[one["grace"]],
    together=_graces,
    watch=_graces,
)
ROLL = Kind(
    "roll",
    _say_roll,
    Reason.ORNAMENTS,
    _rolled,
    watch=the_first,
)
GHOST_ACCENT = Kind(
    "ghost-accent",
    lambda one: f"ghost beside accent in the {one['limb']} on {one['beat']}",
    Reason.GHOST_ACCENT,
    watch=the_first,
)
HAT_CLOSES = Kind(
    "hat-closes",
    lambda one: f"the hat closes as it is struck on {one['beat']}",
    Reason.HAT_CLOSES,
    watch=the_first,
)
FEET_BETWEEN = Kind(
    "feet-between",
    lambda one: f"{one['drum'].spoken} between the hands on {one['beat']}",
    Reason.FEET,
    watch=the_first,
)
QUICK_KICKS = Kind(
    "quick-kicks",
    lambda one: f"two quick kicks on {one['beat']}",
    Reason.QUICK_KICKS,
    watch=the_first,
)
ENTRY = Kind(
    "entry",
    lambda one: f"an entry off the beat after silence, on {one['beat']}",
    Reason.ENTRY,
)
REACH = Kind(
    "reach",
    lambda one: (
        f"the {one['limb']} reaches from {one['start'].spoken} to {one['end'].spoken} "
        f"on {one['beat']}"
    ),
    Reason.REACH,
)
DOUBLE = Kind(
    "double",
    lambda one: f"the {one['limb']} must double on {one['beat']}",
    Reason.DOUBLES,
)
SPEED = Kind(
    "speed",
    lambda one: f"the fastest hand at {one['rate']:.1f} strokes a second",
    Reason.SPEED,
    _near_the_limit,
    watch=_over_the_limit,
)


def playing_findings(
    bar: Bar, sticks: Sequence[Stick], tempo: Tempo, style: Style = HOUSE
) -> tuple[Finding, ...]:
    """Everything in the bar that asks for care at this tempo, kind by kind."""
    return tuple(
        chain(
            _ornaments(bar),
            _rolls(bar, tempo, style),
            _ghosts(bar, sticks),
            (_at(HAT_CLOSES, bar, hit) for hit in hat_closings(bar)),
            _feet(bar),
            (_at(QUICK_KICKS, bar, hit) for hit in quick_kicks(bar)),
            _entries(bar),
            _reaches(bar, sticks),
            _doubles(bar, sticks),
            rhythm_findings(bar, sticks),
            _speed(sticks, tempo, style),
        )
    )


def _at(kind: Kind, bar: Bar, hit: Hit, **facts) -> Finding:
    return kind.found(hit.at, beat=bar.beat_of(hit.at), **facts)


def _ornaments(bar: Bar) -> Iterator[Finding]:
    for hit in bar.hits:
        if hit.grace is not Grace.NONE:
            yield _at(ORNAMENT, bar, hit, grace=hit.grace)


def _rolls(bar: Bar, tempo: Tempo, style: Style) -> Iterator[Finding]:
    for hit in bar.hits:
        if hit.roll:
            facts = {"strokes": hit.roll.strokes, "limit": style.roll_limit}
            yield _at(ROLL, bar, hit, rate=rolled_per_second(hit.roll, tempo), **facts)


def _ghosts(bar: Bar, sticks: Sequence[Stick]) -> Iterator[Finding]:
    """The second stroke of each pair of one hand that is a ghost and an accent."""
    for limb in HAND_OF:
        mine = [stick for stick in sticks if stick.limb is limb]
        for before, after in pairwise(mine):
            touches = (before.hit.touch, after.hit.touch)
            if Touch.GHOST in touches and any(touch.loud for touch in touches):
                yield _at(GHOST_ACCENT, bar, after.hit, limb=limb)


def hat_closings(bar: Bar) -> list[Hit]:
    """The strokes that meet the hat while the foot closes it, stick and foot as one."""
    hats = [
        hit
        for hit in bar.hits
        if hit.drum.surface is Surface.HIHAT or hit.drum is Drum.HIHAT_FOOT
    ]
    return [
        after
        for before, after in pairwise(hats)
        if before.drum is Drum.HIHAT_OPEN and after.drum is Drum.HIHAT
    ]


def _feet(bar: Bar) -> Iterator[Finding]:
    """What feet play by themselves off the quavers, both feet at once counted once."""
    hands = {hit.at for hit in bar.hits if not hit.drum.by_foot}
    seen: set[Fraction] = set()
    for hit in bar.hits:
        alone = hit.drum.by_foot and hit.at not in hands
        if alone and (hit.at / SEMIQUAVER) % 2 != 0 and hit.at not in seen:
            seen.add(hit.at)
            yield _at(FEET_BETWEEN, bar, hit, drum=hit.drum)


def quick_kicks(bar: Bar) -> list[Hit]:
    """The kicks that another follows within a quaver."""
    kicks = [hit for hit in bar.hits if hit.drum is Drum.KICK]
    return [before for before, after in pairwise(kicks) if after.at - before.at < QUAVER]


def _entries(bar: Bar) -> Iterator[Finding]:
    """Notes that come after a beat or more of silence and not on a beat."""
    starts = {start for start, _ in bar.beats}
    times = sorted({hit.at for hit in bar.hits})
    for after in times[1:]:
        sounded = max(hit.end for hit in bar.hits if hit.at < after)
        if after - sounded > 1 and after not in starts:
            yield ENTRY.found(after, beat=bar.beat_of(after))


def _reaches(bar: Bar, sticks: Sequence[Stick]) -> Iterator[Finding]:
    for limb in HAND_OF:
        mine = [stick.hit for stick in sticks if stick.limb is limb]
        for before, after in pairwise(mine):
            far = travel(before.drum.surface, after.drum.surface) >= FAR
            if far and after.at - before.at <= QUAVER:
                drums = {"start": before.drum, "end": after.drum}
                yield _at(REACH, bar, after, limb=limb, **drums)


def _doubles(bar: Bar, sticks: Sequence[Stick]) -> Iterator[Finding]:
    """The same hand twice in a row, close together, with the other hand silent."""
    for before, after in pairwise(_single_strokes(sticks)):
        close = 0 < after.hit.at - before.hit.at <= SEMIQUAVER
        if before.hand is after.hand and close and not before.hit.roll:
            yield _at(DOUBLE, bar, after.hit, limb=after.limb)


def _single_strokes(sticks: Sequence[Stick]) -> list[Stick]:
    by_time: dict[Fraction, list[Stick]] = {}
    for stick in sticks:
        if stick.hand:
            by_time.setdefault(stick.hit.at, []).append(stick)
    return [together[0] for together in by_time.values() if len(together) == 1]


def _speed(sticks: Sequence[Stick], tempo: Tempo, style: Style) -> Iterator[Finding]:
    """The fastest hand without bounce, where one repeats at all."""
    fastest = fastest_hand(sticks)
    if fastest:
        rate = per_second(fastest.gap, tempo)
        if rate > EASY * style.hand_limit:
            facts = {"limb": fastest.limb, "rate": rate, "limit": style.hand_limit}
            yield SPEED.found(fastest.at, **facts)
