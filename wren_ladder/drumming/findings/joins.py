"""What is hard about a bar line itself: the end of one bar into the start of another.

Common practice, no source.
"""

from collections.abc import Iterator

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Hit, Surface, Tempo
from wren_ladder.drumming.description.timekeeping import cymbal_name, timekeeper
from wren_ladder.drumming.findings.finding import Finding, Kind
from wren_ladder.drumming.findings.near import is_beside, is_quick_reach
from wren_ladder.drumming.findings.playing import FAR, QUAVER
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.hands.kit import travel
from wren_ladder.drumming.hands.limbs import HAND_OF, Limb
from wren_ladder.drumming.style import HOUSE, Reason, Style

PlayedHands = tuple[Bar, tuple[Stick, ...]]

JUMP = Kind("jump", lambda one: one["turn"], Reason.JUMP)
METER_CHANGE = Kind(
    "meter-change",
    lambda one: f"the metre changes from {one['before']} to {one['after']}",
    Reason.METER,
)
TEMPO_CHANGE = Kind("tempo-change", lambda one: f"a new tempo, {one['after']}", Reason.METER)
CYMBAL_CHANGE = Kind(
    "cymbal-change",
    lambda one: (
        f"the cymbal hand moves from {cymbal_name(one['before'])} "
        f"to {cymbal_name(one['after'])}"
    ),
    Reason.REACH,
)
REACH_ACROSS = Kind(
    "reach-across",
    lambda one: f"the {one['limb']} goes from {one['start'].spoken} to {one['end'].spoken}",
    Reason.REACH,
)
HAT_CLOSES_ACROSS = Kind(
    "hat-closes-across",
    lambda one: "the hat closes as it is struck, over the bar line",
    Reason.HAT_CLOSES,
)
DOUBLE_ACROSS = Kind(
    "double-across", lambda one: f"the {one['limb']} twice over the bar line", Reason.DOUBLES
)
ENTRY_ACROSS = Kind(
    "entry-across", lambda one: "it comes in off the beat, after silence", Reason.ENTRY
)


def across_the_bar_line(
    before: PlayedHands, after: PlayedHands, tempo: Tempo, style: Style = HOUSE
) -> list[Finding]:
    """What meets over a bar line; ``tempo`` is that at which the first bar ends."""
    leaving, landing = before[0], after[0]
    found = []
    if leaving.meter != landing.meter:
        found.append(METER_CHANGE.found(before=leaving.meter, after=landing.meter))
    keepers = timekeeper(leaving), timekeeper(landing)
    if None not in keepers and keepers[0] is not keepers[1]:
        found.append(CYMBAL_CHANGE.found(before=keepers[0], after=keepers[1]))
    else:
        found += _reaches(before, after, tempo, style)
    if [_hats(leaving)[-1:], _hats(landing)[:1]] == [[Drum.HIHAT_OPEN], [Drum.HIHAT]]:
        found.append(HAT_CLOSES_ACROSS.found())
    return [*found, *_doubles(before, after, tempo), *_entry(leaving, landing)]


def _hats(bar: Bar) -> list[Drum]:
    """What the hat does in the bar, stick and foot."""
    surfaces = (Surface.HIHAT, Surface.HIHAT_FOOT)
    return [hit.drum for hit in bar.hits if hit.drum.surface in surfaces]


def _doubles(before: PlayedHands, after: PlayedHands, tempo: Tempo) -> Iterator[Finding]:
    for limb, gap, last, first in _meetings(before, after):
        cymbals = _keeps_time(before, last) and _keeps_time(after, first)
        if not cymbals and gap < QUAVER and is_beside(gap, tempo):
            yield DOUBLE_ACROSS.found(limb=limb)


def _keeps_time(played: PlayedHands, hit: Hit) -> bool:
    return hit.drum.surface is timekeeper(played[0])


def _reaches(
    before: PlayedHands, after: PlayedHands, tempo: Tempo, style: Style
) -> Iterator[Finding]:
    for limb, gap, last, first in _meetings(before, after):
        if (
            is_quick_reach(gap, tempo, style)
            and travel(last.drum.surface, first.drum.surface) >= FAR
        ):
            yield REACH_ACROSS.found(limb=limb, start=last.drum, end=first.drum)


def _meetings(before: PlayedHands, after: PlayedHands) -> list[tuple[Limb, Fraction, Hit, Hit]]:
    """(hand, crotchets between, its last stroke of the one bar, its first of the other)."""
    found = []
    for limb in HAND_OF:
        last = [stick.hit for stick in before[1] if stick.limb is limb][-1:]
        first = [stick.hit for stick in after[1] if stick.limb is limb][:1]
        if last and first:
            gap = before[0].length - last[0].at + first[0].at
            found.append((limb, gap, last[0], first[0]))
    return found


def _entry(leaving: Bar, landing: Bar) -> Iterator[Finding]:
    """The next note comes off the beat after a beat or more of silence over the bar line."""
    if not leaving.hits or not landing.hits:
        return
    first = landing.hits[0].at
    gap = leaving.length - max(hit.end for hit in leaving.hits) + first
    if gap > 1 and first not in {start for start, _ in landing.beats}:
        yield ENTRY_ACROSS.found(first)
