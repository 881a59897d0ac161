"""What helps to build a bar, by what is hard in it. Common practice, no source."""

from collections.abc import Sequence

from wren_ladder.drumming.breakdown.step import StepKind
from wren_ladder.drumming.building.layers import layers
from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.chart.drum import SECTION_CRASHES
from wren_ladder.drumming.description.timekeeping import fill_start
from wren_ladder.drumming.findings import Weighed, worth_telling
from wren_ladder.drumming.findings.weights import TELLING
from wren_ladder.drumming.study import BarStudy
from wren_ladder.drumming.style import Reason

# What helps with what is hard: layers with what is put on a stroke and with limbs that go
# their own ways; one stroke after another where one of them must land right.
BY_LAYERS = (Reason.ORNAMENTS, Reason.GHOST_ACCENT, Reason.HAT_CLOSES, Reason.FEET)
BY_NOTES = (Reason.HAT_CLOSES, Reason.GHOST_ACCENT, Reason.FEET, Reason.TRAP)
PUT_ON = frozenset(
    {"flams", "drags", "ruffs", "ghost notes", "buzz roll", "open double-stroke roll"}
    | {"5, 7 and 9 stroke rolls", "off-beat open hats", "open and closed hat", "accents"}
)
LONG = 8  # strokes of the hands; a bar with fewer is held in mind whole


def helps(bar: BarStudy, weighed: Sequence[Weighed], tough: bool) -> list[StepKind]:
    """What helps to build a hard bar, by what is hard in it: a bar of two flams has no first
    half to learn. Where a teacher says it is hard and not why, one stroke and half by half."""
    told = worth_telling(weighed)
    by_layers = any(one.reason in BY_LAYERS or _is_put_on(one) for one in told)
    long = sum(not hit.drum.by_foot for hit in bar.bar.hits) >= LONG
    others = long and any(one.reason not in BY_LAYERS and not _is_put_on(one) for one in told)
    found = []
    if tough and (not told or any(one.reason in BY_NOTES for one in told)):
        found.append(StepKind.NOTES)
    if by_layers and len(layers(bar.bar)) > 1:
        found.append(StepKind.LAYER)
    if others or not told or (long and not found):
        found.append(StepKind.HALF)
    return found


def _is_put_on(one: Weighed) -> bool:
    """Is something new that is put on a stroke, an ornament or a way to strike?"""
    fresh = one.reason in (Reason.NEW, Reason.DUE)
    return fresh and all(found["name"] in PUT_ON for found in one.findings)


def ends_busily(bar: BarStudy) -> bool:
    """Is there something at the bar's end that makes the next first note hard to land on?"""
    last, _ = bar.bar.beats[-1]
    late = [one for one in bar.findings if one.at is not None and one.at >= last]
    busy = any(one.kind.reason and one.kind.amount(one) >= TELLING for one in late)
    return busy or fill_start(bar.bar) is not None


def is_landing(bar: Bar) -> bool:
    """Is the bar nothing but a crash on its first beat, to end with? That is no line of a
    plan."""
    return (
        bool(bar.hits)
        and all(hit.at == 0 and not hit.roll for hit in bar.hits)
        and any(hit.drum.surface in SECTION_CRASHES for hit in bar.hits)
    )
