"""What will catch a player in a bar, by its notes and its hands. Common practice, no source."""

from collections.abc import Collection, Iterator, Sequence
from itertools import chain, pairwise

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Grace, Hit, RollKind, Surface, Tempo, Touch
from wren_ladder.drumming.chart.positions import spoken_place
from wren_ladder.drumming.chart.swing import STRAIGHT, Swing
from wren_ladder.drumming.findings.fastest import fastest_hand, rolled_per_second
from wren_ladder.drumming.findings.finding import Finding, Kind, places_of, the_first
from wren_ladder.drumming.findings.ground import moving_patterns
from wren_ladder.drumming.findings.near import is_beside, is_quick_foot, is_quick_reach
from wren_ladder.drumming.findings.rhythm import rhythm_findings
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.hands.kit import travel
from wren_ladder.drumming.hands.limbs import HAND_OF
from wren_ladder.drumming.hands.rules import StickRule
from wren_ladder.drumming.performance.clock import per_second
from wren_ladder.drumming.style import HOUSE, Reason, Style
from wren_ladder.drumming.wording import listed

SEMIQUAVER, QUAVER = Fraction(1, 4), Fraction(1, 2)
PAIRS = 2  # of quick kicks that are told one by one
FAR = 4.5  # hand's breadths; a reach across the kit
OPEN_ROLLS = "5, 7 and 9 stroke rolls"  # as techniques are named
HAD = 0.65  # of an ornament, for whom it is nothing new
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
    return (ROLL_AMOUNT + FOR_SPEED * share) * (HAD if one["had"] else 1)


def _say_roll(one: Finding) -> str:
    if not one["rate"]:
        return f"a {one['kind']} on {one['where']}"
    counted = f"a {one['strokes']}-stroke roll on {one['where']}"
    return f"{counted}, {one['rate']:.0f} strokes a second"


def _over_the_limit(found: Sequence[Finding]) -> str:
    """A hand's speed is told once it is above the limit."""
    one = found[0]
    if one["rate"] <= one["limit"]:
        return ""
    return f"{one['limb']} at {one['rate']:.1f} strokes a second (limit {one['limit']:g})"


def _say_kicks(one: Finding) -> str:
    said = f"two quick kicks, {one['where']} and {one['next']}"
    return said + _beyond(one)


def _beyond(one: Finding) -> str:
    if one["rate"] <= one["limit"]:
        return ""
    return f", {one['rate']:.1f} a second (limit {one['limit']:g})"


def _kicks_together(found: Sequence[Finding]) -> str:
    """Many pairs are a foot that runs."""
    if len(found) <= PAIRS:
        pairs = [f"{one['where']} and {one['next']}" for one in found]
        return f"two quick kicks, {'; '.join(pairs)}{_beyond(found[0])}"
    return f"quick kicks from {found[0]['where']} on{_beyond(found[0])}"


def _feet_together(found: Sequence[Finding]) -> str:
    drums = listed(list(dict.fromkeys(one["drum"].spoken for one in found)))
    return f"{drums} between the hands on {places_of(found)}"


ORNAMENT = Kind(
    "ornament",
    lambda one: f"{one['grace'].value}s",
    Reason.ORNAMENTS,
    lambda one: GRACE_AMOUNT[one["grace"]] * (HAD if one["had"] else 1),
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
    lambda one: f"{one['first']} beside {one['second']} in the {one['limb']}",
    Reason.GHOST_ACCENT,
    watch=the_first,
)
HAT_CLOSES = Kind(
    "hat-closes",
    lambda one: f"the hat closes as it is struck, on {one['where']}",
    Reason.HAT_CLOSES,
    together=lambda found: f"the hat closes as it is struck, on {places_of(found)}",
    watch=lambda found: f"the hat closes as it is struck, on {places_of(found)}",
)
FEET_BETWEEN = Kind(
    "feet-between",
    lambda one: f"{one['drum'].spoken} between the hands on {one['where']}",
    Reason.FEET,
    together=_feet_together,
    watch=_feet_together,
)
QUICK_KICKS = Kind(
    "quick-kicks",
    _say_kicks,
    Reason.QUICK_KICKS,
    lambda one: one["rate"] / one["limit"],
    together=_kicks_together,
    watch=_kicks_together,
)
ENTRY = Kind(
    "entry",
    lambda one: f"an entry off the beat after silence, on {one['where']}",
    Reason.ENTRY,
)
REACH = Kind(
    "reach",
    lambda one: (
        f"the {one['limb']} reaches from {one['start'].spoken} to {one['end'].spoken} "
        f"on {one['where']}"
    ),
    Reason.REACH,
)
DOUBLE = Kind(
    "double",
    lambda one: f"the {one['limb']} must double on {one['where']}",
    Reason.DOUBLES,
)
SPEED = Kind(
    "speed",
    lambda one: f"the {one['limb']} at {one['rate']:.1f} strokes a second",
    Reason.SPEED,
    _near_the_limit,
    watch=_over_the_limit,
)


def playing_findings(
    bar: Bar,
    sticks: Sequence[Stick],
    tempo: Tempo,
    style: Style = HOUSE,
    had: Collection[str] = (),
    swing: Swing = STRAIGHT,
) -> tuple[Finding, ...]:
    """Everything in the bar that asks for care at this tempo, kind by kind. ``had`` are the
    techniques, by name, that are nothing new for who plays."""
    return tuple(
        chain(
            _ornaments(bar, had),
            _rolls(bar, tempo, style, had),
            _ghosts(bar, sticks, tempo),
            (
                HAT_CLOSES.found(hit.at, where=spoken_place(bar, hit.at))
                for hit in hat_closings(bar)
            ),
            _feet(bar),
            _quick_kicks(bar, tempo, style),
            _entries(bar),
            _reaches(bar, sticks, tempo, style),
            _doubles(bar, sticks, tempo),
            rhythm_findings(bar, sticks),
            moving_patterns(bar),
            _speed(sticks, tempo, style, swing),
        )
    )


def _ornaments(bar: Bar, had: Collection[str]) -> Iterator[Finding]:
    for hit in bar.hits:
        if hit.grace is not Grace.NONE:
            known = f"{hit.grace.value}s" in had
            yield ORNAMENT.found(hit.at, grace=hit.grace, had=known)


def _rolls(bar: Bar, tempo: Tempo, style: Style, had: Collection[str]) -> Iterator[Finding]:
    for hit in bar.hits:
        if hit.roll:
            buzz = hit.roll.kind is RollKind.BUZZ
            kind = "buzz roll" if buzz else "roll"
            yield ROLL.found(
                hit.at,
                where=spoken_place(bar, hit.at),
                kind=kind,
                had=(kind if buzz else OPEN_ROLLS) in had,
                strokes=hit.roll.strokes,
                limit=style.roll_limit,
                rate=rolled_per_second(hit.roll, tempo),
            )


def _ghosts(bar: Bar, sticks: Sequence[Stick], tempo: Tempo) -> Iterator[Finding]:
    """Pairs of one hand that are a ghost and an accent, too near to move between easily; told
    of the second."""
    for limb in HAND_OF:
        mine = [stick.hit for stick in sticks if stick.limb is limb]
        for before, after in pairwise(mine):
            touches = (before.touch, after.touch)
            mixed = Touch.GHOST in touches and any(touch.loud for touch in touches)
            if mixed and is_beside(after.at - before.at, tempo):
                names = [
                    f"{'ghost' if hit.touch is Touch.GHOST else 'accent'} "
                    f"{spoken_place(bar, hit.at)}"
                    for hit in (before, after)
                ]
                facts = {"first": names[0], "second": names[1], "limb": limb}
                yield GHOST_ACCENT.found(after.at, **facts)


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
            where = spoken_place(bar, hit.at)
            yield FEET_BETWEEN.found(hit.at, where=where, drum=hit.drum)


def quick_kicks(bar: Bar, tempo: Tempo, style: Style = HOUSE) -> list[tuple[Hit, Hit]]:
    """The pairs of kicks that follow each other quickly at this tempo."""
    kicks = [hit for hit in bar.hits if hit.drum is Drum.KICK]
    return [
        (before, after)
        for before, after in pairwise(kicks)
        if is_quick_foot(after.at - before.at, tempo, style)
    ]


def _quick_kicks(bar: Bar, tempo: Tempo, style: Style) -> Iterator[Finding]:
    for before, after in quick_kicks(bar, tempo, style):
        yield QUICK_KICKS.found(
            after.at,
            where=spoken_place(bar, before.at),
            next=spoken_place(bar, after.at),
            rate=per_second(after.at - before.at, tempo),
            limit=style.foot_limit,
        )


def _entries(bar: Bar) -> Iterator[Finding]:
    """Notes that come after a beat or more of silence and not on a beat."""
    starts = {start for start, _ in bar.beats}
    times = sorted({hit.at for hit in bar.hits})
    for after in times[1:]:
        sounded = max(hit.end for hit in bar.hits if hit.at < after)
        if after - sounded > 1 and after not in starts:
            yield ENTRY.found(after, where=spoken_place(bar, after))


def _reaches(
    bar: Bar, sticks: Sequence[Stick], tempo: Tempo, style: Style
) -> Iterator[Finding]:
    for limb in HAND_OF:
        mine = [stick.hit for stick in sticks if stick.limb is limb]
        for before, after in pairwise(mine):
            far = travel(before.drum.surface, after.drum.surface) >= FAR
            if far and is_quick_reach(after.at - before.at, tempo, style):
                drums = {"start": before.drum, "end": after.drum}
                where = spoken_place(bar, after.at)
                yield REACH.found(after.at, where=where, limb=limb, **drums)


def _doubles(bar: Bar, sticks: Sequence[Stick], tempo: Tempo) -> Iterator[Finding]:
    """The same hand twice in a row, close together, with the other hand silent, where neither
    the page nor a rudiment says so."""
    for before, after in pairwise(_single_strokes(sticks)):
        gap = after.hit.at - before.hit.at
        told = after.rule is StickRule.WRITTEN or not isinstance(after.rule, StickRule)
        told = told or before.rule is after.rule is StickRule.KEEPS_CYMBAL
        if before.hand is not after.hand or told or before.hit.roll or not gap:
            continue
        if gap < QUAVER and is_beside(gap, tempo):
            yield DOUBLE.found(
                after.hit.at, where=spoken_place(bar, after.hit.at), limb=after.limb
            )


def _single_strokes(sticks: Sequence[Stick]) -> list[Stick]:
    by_time: dict[Fraction, list[Stick]] = {}
    for stick in sticks:
        if stick.hand:
            by_time.setdefault(stick.hit.at, []).append(stick)
    return [together[0] for together in by_time.values() if len(together) == 1]


def _speed(
    sticks: Sequence[Stick], tempo: Tempo, style: Style, swing: Swing
) -> Iterator[Finding]:
    """The fastest hand without bounce, where one repeats at all."""
    fastest = fastest_hand(sticks, swing)
    if fastest:
        rate = per_second(fastest.gap, tempo)
        if rate > EASY * style.hand_limit:
            limit = style.hand_limit
            yield SPEED.found(limb=fastest.limb, rate=rate, limit=limit)  # of the whole bar
