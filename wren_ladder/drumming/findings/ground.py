"""Where the ground moves: a new feel, an odd metre, a change of it; the pattern that the bar
stands on being off the beat. Common practice, no source; the amounts are the house's."""

from collections.abc import Iterator, Sequence

from wren_ladder.drumming.chart import Bar, Drum, Meter, Surface
from wren_ladder.drumming.description.feel import Feel
from wren_ladder.drumming.description.timekeeping import timekeeper
from wren_ladder.drumming.findings.finding import Finding, Kind
from wren_ladder.drumming.style import Reason

FIRST = 0.45  # of a feel, of an odd metre
OFF_BEAT = 0.6  # of a bell, of a foot
OFTEN = 2  # times in a bar, that make a pattern

FIRST_FEEL = Kind(
    "first-feel",
    lambda one: f"first {one['feel']} of the piece",
    Reason.RHYTHM,
    lambda one: FIRST,
)
ODD_METER = Kind(
    "odd-meter",
    lambda one: f"first bar in {one['meter']}, felt {one['felt']}",
    Reason.METER,
    lambda one: FIRST,
)
METER_MOVES = Kind(
    "meter-moves",
    lambda one: f"the metre is now {one['meter']}, after {one['before']}",
    Reason.METER,
    lambda one: FIRST,
)
BELL_OFF_BEAT = Kind(
    "bell-off-beat",
    lambda one: "the bell on the off-beats",
    Reason.RHYTHM,
    lambda one: OFF_BEAT,
)
LEFT_FOOT_UNDER = Kind(
    "left-foot-under",
    lambda one: f"the hat foot under the {one['cymbal']}",
    Reason.FEET,
    lambda one: OFF_BEAT,
)


def ground(
    bars: Sequence[Bar], kinds: Sequence[int], felt: Sequence[Feel | None]
) -> tuple[tuple[Finding, ...], ...]:
    """For each bar, by its kind and feel, in what it is the first of the piece; equal bars
    have the same."""
    had: set[Feel] = {Feel.ROCK}
    meters: set[Meter] = set()
    found: dict[int, tuple[Finding, ...]] = {}
    before: Bar | None = None
    for bar, kind, feel in zip(bars, kinds, felt, strict=True):
        if kind not in found:
            mine = [*_meter(bar, before, meters)]
            if feel and feel not in had:
                had.add(feel)
                mine.append(FIRST_FEEL.found(feel=feel.value))
            found[kind] = tuple(mine)
        meters.add(bar.meter)
        before = bar
    return tuple(found[kind] for kind in kinds)


def _meter(bar: Bar, before: Bar | None, met: set[Meter]) -> Iterator[Finding]:
    if bar.meter.odd and bar.meter not in met:
        sizes = (group / bar.meter.count_length for group in bar.meter.groups)
        felt = "+".join(str(size) for size in sizes)
        if len(set(bar.meter.groups)) == 1:
            felt = f"in {len(bar.meter.groups)}"
        yield ODD_METER.found(meter=bar.meter, felt=felt)
    elif before is not None and bar.meter != before.meter:
        yield METER_MOVES.found(meter=bar.meter, before=before.meter)


def moving_patterns(bar: Bar) -> Iterator[Finding]:
    """What goes on through the bar and is not on the beat, or is a fourth limb."""
    keeper = timekeeper(bar)
    bells = [hit for hit in bar.hits if hit.drum is Drum.RIDE_BELL]
    off = [hit for hit in bells if (hit.at / bar.meter.count_length) % 1 != 0]
    if len(off) >= OFTEN and len(off) == len(bells):
        yield BELL_OFF_BEAT.found()
    feet = sum(hit.drum is Drum.HIHAT_FOOT for hit in bar.hits)
    if keeper is not None and keeper is not Surface.HIHAT and feet >= OFTEN:
        yield LEFT_FOOT_UNDER.found(cymbal=keeper.value)
