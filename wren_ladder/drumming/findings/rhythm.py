"""What is hard in the rhythm itself: figures off the beat, accents that fall there, a change of
division inside the bar, groups across the beat. Common practice, no source; the amounts are the
house's."""

from collections.abc import Iterable, Iterator, Sequence
from itertools import groupby, pairwise

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Hit
from wren_ladder.drumming.chart.positions import Positions, spoken_place
from wren_ladder.drumming.description.figures import name_figure
from wren_ladder.drumming.description.timekeeping import cymbal_name, fill_start, timekeeper
from wren_ladder.drumming.findings.finding import Finding, Kind, places_of, the_first
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.style import Reason
from wren_ladder.drumming.wording import listed

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
    "single e": 0.8,
    "single a": 0.8,
    "off-beat semiquavers": 0.9,
    "semiquaver rest + two": 0.9,
}
ODD = 1.0  # of any other
TOLD = 0.5  # from this amount on a figure is worth a word by itself
MANY = 3  # beats with the same plain figure, from which on it is worth one too
TRIPLETS, DUPLETS = "triplets", "duplets"
EVEN = Fraction(1, 2)  # crotchets between strokes of a run round the drums, at most
OFF_ACCENT, DIVISION, GROUP = 0.6, 0.7, 0.5
A_FILL, ITS_BEAT = 0.4, 0.2  # as such, and for each of its beats


def _say_figure(one: Finding) -> str:
    """Of a line by itself its figure; of one that is played against a cymbal, where it lies
    between its strokes, for the ear hears both."""
    if one["between"]:
        return f"{one['who']} between the {_strokes(one['cymbal'])}, on {one['between']}"
    if one["cymbal"]:
        return f"{one['who']} off the beat, on {one['places']}"
    figure = one["figure"]
    if figure.startswith("single "):
        figure = "a single semiquaver"
    return f"{figure} on {one['places']}"


def _rhythm_together(found: Sequence[Finding]) -> str:
    """The hardest of them in words; plain ones are only weighed, unless they are many."""
    hardest = max(found, key=lambda one: one["amount"])
    if hardest["amount"] >= TOLD:
        return _say_figure(hardest)
    same = [one for one in found if one["figure"] == hardest["figure"]]
    if len(found) >= MANY and hardest["cymbal"]:
        return _say_figure(hardest)
    if len(same) < MANY or hardest["cymbal"]:
        return ""
    return f"{hardest['figure']}, {len(same)} times"


def _cymbal_together(found: Sequence[Finding]) -> str:
    """A pattern in even semiquavers is told as one; of others the hardest figure."""
    hardest = max(found, key=lambda one: one["amount"])
    if {one["figure"] for one in found} <= {"four semiquavers", "six semiquavers"}:
        return f"the {hardest['cymbal']} in semiquavers"
    return str(hardest)


RHYTHM = Kind(
    "rhythm",
    _say_figure,
    Reason.RHYTHM,
    lambda one: one["amount"],
    together=_rhythm_together,
)
QUICK_CYMBAL = Kind(
    "quick-cymbal",
    lambda one: f"{one['figure']} on the {one['cymbal']}, on {one['places']}",
    Reason.RHYTHM,
    lambda one: one["amount"],
    together=_cymbal_together,
)
DIVISION_CHANGES = Kind(
    "division-changes",
    lambda one: f"from {one['before']} to {one['after']} on {one['where']}",
    Reason.RHYTHM,
    lambda one: DIVISION,
    watch=the_first,
)
ACCENT_OFF_BEAT = Kind(
    "accent-off-beat",
    lambda one: f"an accent on {one['where']}",
    Reason.ACCENTS,
    lambda one: OFF_ACCENT,
    together=lambda found: (
        the_first(found) if len(found) == 1 else f"accents off the beat, on {places_of(found)}"
    ),
)
GROUP_ACROSS = Kind(
    "group-across",
    lambda one: f"a group that begins on {one['where']}, across the beat",
    Reason.GROUPS,
    lambda one: GROUP,
    together=lambda found: (
        the_first(found)
        if len(found) == 1
        else f"groups across the beat, from {places_of(found)}"
    ),
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
    keeper = timekeeper(bar)
    kept = {hit.at for hit in bar.hits if keeper and hit.drum.surface is keeper}
    for start, length, onsets in _beats(bar, line):
        name = name_figure(onsets, length)
        if name in PLAIN or onsets <= {0}:
            continue
        times = _moved(onsets, start)
        between = times - kept if keeper else set()
        off = between or (times - {start} if keeper else times)
        yield RHYTHM.found(
            min(off),
            figure=name,
            amount=FIGURES.get(name, ODD),
            cymbal=cymbal_name(keeper) if keeper else "",
            who=listed(list(dict.fromkeys(hit.drum.spoken for hit in line if hit.at in off))),
            between=_said_all(bar, between),
            places=_said_all(bar, {start} if start in off else off),
        )
    yield from _quick_cymbal(bar)


def _quick_cymbal(bar: Bar) -> Iterator[Finding]:
    """The cymbal pattern itself, where it is quicker than the beat's halves or thirds."""
    keeper = timekeeper(bar)
    if keeper is None:
        return
    pattern = [hit for hit in bar.hits if hit.drum.surface is keeper]
    for start, length, onsets in _beats(bar, pattern):
        name = name_figure(onsets, length)
        if "semiquaver" in name:
            yield QUICK_CYMBAL.found(
                start + min(onsets),
                figure=name,
                amount=FIGURES.get(name, ODD),
                cymbal=cymbal_name(keeper),
                places=_said_all(bar, {start} if 0 in onsets else _moved(onsets, start)),
            )


def _moved(onsets: Iterable[Fraction], start: Fraction) -> set[Fraction]:
    return {start + onset for onset in onsets}


def _strokes(cymbal: str) -> str:
    return "hats" if cymbal == "hat" else f"strokes of the {cymbal}"


def _divisions(bar: Bar, line: Sequence[Hit]) -> Iterator[Finding]:
    """Where straight notes follow triplets, or triplets straight notes; what the metre itself
    divides so is plain, three quavers of 7/8 as much as those of 6/8."""
    before = None
    for start, length, onsets in _beats(bar, line):
        unit = length if bar.meter.compound else bar.meter.count_length
        parts = {(onset / unit).denominator for onset in onsets} - {1}
        plain, other = ({3, 6, 12}, DUPLETS) if bar.meter.compound else ({2, 4, 8}, TRIPLETS)
        strange = any(part not in plain for part in parts)
        now = other if strange else "straight notes" if parts else None
        if now and before and now != before:
            first = start + min(onsets)
            yield DIVISION_CHANGES.found(
                first, before=before, after=now, where=spoken_place(bar, first)
            )
        before = now or before


def _accents(bar: Bar, line: Sequence[Hit]) -> Iterator[Finding]:
    starts = {start for start, _ in bar.beats}
    for at, hits in groupby(line, key=lambda hit: hit.at):
        if at not in starts and any(hit.touch.loud and not hit.drum.by_foot for hit in hits):
            yield ACCENT_OFF_BEAT.found(at, where=spoken_place(bar, at))


def _groups(bar: Bar, sticks: Sequence[Stick]) -> Iterator[Finding]:
    """In an even run round the drums, where the drum changes off the beat for more than one
    note, or after several."""
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
        follows = single[place + 2 : place + 3]
        stays = any(hit.drum.surface is after.drum.surface for hit in follows)
        several = place > 1 and single[place - 2].drum.surface is before.drum.surface
        group = not alone and (stays or several)
        if even and other and group and after.at not in starts:
            yield GROUP_ACROSS.found(after.at, where=spoken_place(bar, after.at))


def _fill(bar: Bar) -> Iterator[Finding]:
    first = fill_start(bar)
    if first is not None:
        beats = sum(start >= first for start, _ in bar.beats)
        yield FILL.found(
            first, where=spoken_place(bar, first), amount=A_FILL + ITS_BEAT * beats
        )


def _said_all(bar: Bar, times: Iterable[Fraction]) -> str:
    return Positions.of(bar).say_all(times)
