"""What is hard in the rhythm itself: figures off the beat, accents that fall there, a change of
division inside the bar, groups across the beat. Common practice, no source; the amounts are the
house's."""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from itertools import groupby, pairwise

from wren_ladder.drumming.chart import Bar, Hit
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.description.figures import name_figure
from wren_ladder.drumming.description.timekeeping import fill_start, timekeeper
from wren_ladder.drumming.findings.finding import Finding, Kind, the_first
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.style import Reason

# How hard a figure is to place; what is not named here lies between the plain ones.
PLAIN = ("rest", "crotchet", "dotted crotchet")
FIGURES = {
    "two quavers": 0.1,
    "three quavers": 0.1,
    "four semiquavers": 0.2,
    "six semiquavers": 0.3,
    "triplet": 0.3,
    "sextuplet": 0.5,
    "crotchet + quaver": 0.2,
    "quaver + crotchet": 0.4,
    "two semiquavers + quaver": 0.3,
    "quaver + two semiquavers": 0.3,
    "triplet, middle silent": 0.4,
    "triplet, last silent": 0.5,
    "triplet, first silent": 0.7,
    "triplet, last alone": 0.6,
    "off-beat quaver": 0.5,
    "dotted quaver + semiquaver": 0.6,
    "quaver rest + two semiquavers": 0.6,
    "semiquaver + dotted quaver": 0.7,
    "semiquaver rest + three": 0.7,
    "semiquaver–quaver–semiquaver": 0.8,
    "single a": 0.8,
    "semiquaver rest + two": 0.9,
}
ODD = 1.0  # of any other
TOLD = 0.5  # from this amount on a figure is worth a word by itself
EVEN = Fraction(1, 2)  # crotchets between strokes of a run round the drums, at most
OFF_ACCENT, DIVISION, GROUP = 0.4, 0.7, 0.5
A_FILL, ITS_BEAT = 0.4, 0.2  # as such, and for each of its beats


def _rhythm_together(found: Sequence[Finding]) -> str:
    """The hardest of them in words; plain ones are only weighed."""
    hardest = max(found, key=lambda one: one["amount"])
    if hardest["amount"] < TOLD:
        return ""
    return f"{hardest['figure']} on {hardest['beat']}"


def _places(found: Sequence[Finding]) -> str:
    return ", ".join(dict.fromkeys(str(one["where"]) for one in found))


RHYTHM = Kind(
    "rhythm",
    lambda one: f"{one['figure']} on {one['beat']}",
    Reason.RHYTHM,
    lambda one: one["amount"],
    together=_rhythm_together,
)
QUICK_CYMBAL = Kind(
    "quick-cymbal",
    lambda one: f"{one['figure']} on the cymbal, on {one['beat']}",
    Reason.RHYTHM,
    lambda one: one["amount"],
)
DIVISION_CHANGES = Kind(
    "division-changes",
    lambda one: f"from {one['before']} to {one['after']} on {one['beat']}",
    Reason.RHYTHM,
    lambda one: DIVISION,
    watch=the_first,
)
ACCENT_OFF_BEAT = Kind(
    "accent-off-beat",
    lambda one: f"an accent on {one['where']}",
    Reason.ACCENTS,
    lambda one: OFF_ACCENT,
    together=lambda found: f"accents off the beat, on {_places(found)}",
)
GROUP_ACROSS = Kind(
    "group-across",
    lambda one: f"a group that begins on {one['where']}, across the beat",
    Reason.GROUPS,
    lambda one: GROUP,
    together=lambda found: f"groups across the beat, from {_places(found)}",
)


FILL = Kind(
    "fill", lambda one: f"a fill from {one['where']}", Reason.RHYTHM, lambda one: one["amount"]
)


def rhythm_findings(bar: Bar, sticks: Sequence[Stick]) -> tuple[Finding, ...]:
    line = _line(bar)
    return (
        *_figures(bar, line),
        *_divisions(bar, line),
        *_accents(bar, line),
        *_groups(bar, sticks),
        *_fill(bar),
    )


def _line(bar: Bar) -> list[Hit]:
    """What has to be placed: in a groove what is played against the cymbal, else the hands."""
    keeper = timekeeper(bar)
    if keeper is None:
        return [hit for hit in bar.hits if not hit.drum.by_foot]
    return [hit for hit in bar.hits if hit.drum.surface is not keeper]


def _beats(bar: Bar, line: Sequence[Hit]) -> Iterator[tuple[Fraction, Fraction, set[Fraction]]]:
    """(start, length, onsets from the beat on) of each beat that is not under a roll."""
    for start, length in bar.beats:
        onsets = {hit.at - start for hit in line if start <= hit.at < start + length}
        if onsets or not bar.rolls_through(start):
            yield start, length, onsets


def _figures(bar: Bar, line: Sequence[Hit]) -> Iterator[Finding]:
    for start, length, onsets in _beats(bar, line):
        name = name_figure(onsets, length)
        if name not in PLAIN:
            facts = {"figure": name, "amount": FIGURES.get(name, ODD)}
            yield RHYTHM.found(start, beat=bar.beat_of(start), **facts)
    yield from _quick_cymbal(bar)


def _quick_cymbal(bar: Bar) -> Iterator[Finding]:
    """The cymbal pattern itself, where it is quicker than the beat's halves or thirds."""
    keeper = timekeeper(bar)
    pattern = [hit for hit in bar.hits if hit.drum.surface is keeper]
    for start, length, onsets in _beats(bar, pattern):
        name = name_figure(onsets, length)
        if "semiquaver" in name:
            facts = {"figure": name, "amount": FIGURES.get(name, ODD)}
            yield QUICK_CYMBAL.found(start, beat=bar.beat_of(start), **facts)


def _divisions(bar: Bar, line: Sequence[Hit]) -> Iterator[Finding]:
    """Where twos follow threes, or threes twos."""
    before = None
    for start, length, onsets in _beats(bar, line):
        parts = {(onset / length).denominator for onset in onsets} - {1}
        now = "triplets" if parts & {3, 6} else "plain beats" if parts else None
        if now and before and now != before:
            yield DIVISION_CHANGES.found(
                start, before=before, after=now, beat=bar.beat_of(start)
            )
        before = now or before


def _accents(bar: Bar, line: Sequence[Hit]) -> Iterator[Finding]:
    starts = {start for start, _ in bar.beats}
    for at, hits in groupby(line, key=lambda hit: hit.at):
        if at not in starts and any(hit.touch.loud and not hit.drum.by_foot for hit in hits):
            yield ACCENT_OFF_BEAT.found(at, where=_said(bar, at))


def _groups(bar: Bar, sticks: Sequence[Stick]) -> Iterator[Finding]:
    """In an even run round the drums, where the drum changes off the beat."""
    starts = {start for start, _ in bar.beats}
    run = [stick.hit for stick in sticks if stick.hand and not stick.in_groove]
    single = [
        hits[0] for hits in (list(g) for _, g in groupby(run, key=lambda h: h.at)) if hits
    ]
    gaps = [after.at - before.at for before, after in pairwise(single)]
    for place, (before, after) in enumerate(pairwise(single)):
        even = gaps[place] <= EVEN and (place == 0 or gaps[place - 1] == gaps[place])
        other = before.drum.surface is not after.drum.surface
        alone = place and single[place - 1].drum.surface is not before.drum.surface
        if even and other and not alone and after.at not in starts:
            yield GROUP_ACROSS.found(after.at, where=_said(bar, after.at))


def _fill(bar: Bar) -> Iterator[Finding]:
    first = fill_start(bar)
    if first is not None:
        beats = sum(start >= first for start, _ in bar.beats)
        yield FILL.found(first, where=_said(bar, first), amount=A_FILL + ITS_BEAT * beats)


def _said(bar: Bar, at: Fraction) -> str:
    return Positions.of(bar).say(at)
