"""Traps: small departures from what a piece has made a habit of. Common practice."""

from collections import Counter
from collections.abc import Sequence
from fractions import Fraction
from itertools import pairwise

from wren_ladder.drumming.chart import Bar, Drum, Meter, Surface, Touch
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.description.differences import FEWEST_HITS, ChangeKind, changes
from wren_ladder.drumming.description.timekeeping import timekeeper
from wren_ladder.drumming.findings.finding import Finding, Kind, every_one
from wren_ladder.drumming.roadmap import Visit
from wren_ladder.drumming.style import Reason

HABIT = 3  # times that a bar must be played to be what hands expect
SMALL = (ChangeKind.MOVED, ChangeKind.ADDED, ChangeKind.REMOVED, ChangeKind.OTHER_DRUM)
COMMON = Meter(4, 4)
BACKBEATS = {Fraction(1), Fraction(3)}
BESIDE = Fraction(1, 2)  # crotchets
GHOST = Touch.GHOST
QUICK = Fraction(1, 2)  # crotchets from one kick to the next over a landing

AGAINST_HABIT = Kind(
    "against-habit",
    lambda one: (
        f"{one['change'].spoken}, where habit has bar {one['habit']}, "
        f"played {one['times']} times"
    ),
    Reason.TRAP,
    together=every_one,
)
AGAINST_COMMON_FORM = Kind(
    "against-common-form",
    lambda one: f"{one['surface']} on {one['where']}, where the common form has {one['usual']}",
    Reason.TRAP,
    together=every_one,
)
SILENCE = Kind(
    "silence",
    lambda one: f"a beat of silence on {one['where']} before {one['entry']}",
    Reason.TRAP,
    together=every_one,
)
KICK_LANDING = Kind(
    "kick-landing",
    lambda one: f"the kick on {one['where']} of bar {one['bar']}, and again on the landing",
    Reason.QUICK_KICKS,
    together=every_one,
)


def traps(
    bars: Sequence[Bar], kinds: Sequence[int], visits: Sequence[Visit]
) -> tuple[tuple[Finding, ...], ...]:
    """For each bar what will catch a student who plays by habit; equal bars have the same."""
    played = Counter(kinds[visit.index] for visit in visits)
    habits = [
        kind
        for kind, times in played.most_common()
        if times >= HABIT and len(bars[kind].hits) >= FEWEST_HITS
    ]
    by_kind = {
        kind: (
            *(
                _against_habit(bars, kind, habits, played)
                or _against_the_common_form(bars[kind], played[kind])
            ),
            *_silence_before_entry(bars[kind]),
        )
        for kind in set(kinds)
    }
    return tuple(by_kind[kind] for kind in kinds)


def _against_habit(
    bars: Sequence[Bar], kind: int, habits: Sequence[int], played: Counter[int]
) -> list[Finding]:
    """One small step away from a bar that is played much oftener."""
    for habit in habits:
        if habit == kind or played[habit] < HABIT * played[kind]:
            continue
        found = changes(bars[habit], bars[kind])
        if found and len(found) == 1 and found[0].kind in SMALL:
            facts = {"habit": bars[habit].number, "times": played[habit]}
            return [AGAINST_HABIT.found(found[0].at, change=found[0], **facts)]
    return []


def _against_the_common_form(bar: Bar, played: int) -> list[Finding]:
    """A groove in 4/4 that has its kick on 1 or one of its backbeats just beside the beat,
    unless the piece has made a habit of it."""
    if bar.meter != COMMON or timekeeper(bar) is None or played >= HABIT:
        return []
    at = {
        surface: {h.at for h in bar.hits if h.drum.surface is surface and h.touch is not GHOST}
        for surface in (Surface.SNARE, Surface.KICK)
    }
    expected = [(Surface.KICK, Fraction(0))]
    if at[Surface.SNARE] & BACKBEATS:  # one backbeat is there, so the other is expected
        expected += [(Surface.SNARE, beat) for beat in sorted(BACKBEATS)]
    frame = Positions.of(bar)
    for surface, beat in expected:
        beside = [time for time in at[surface] if 0 < abs(time - beat) <= BESIDE]
        if beat not in at[surface] and len(beside) == 1:
            places = {"where": frame.say(beside[0]), "usual": frame.say(beat)}
            return [AGAINST_COMMON_FORM.found(beside[0], surface=surface, **places)]
    return []


def _silence_before_entry(bar: Bar) -> list[Finding]:
    """A full beat of rest between two notes."""
    beats = bar.by_beat()
    silent = [not hits for _, _, hits in beats]
    for place in range(1, len(beats) - 1):
        if silent[place] and not all(silent[:place]) and not all(silent[place + 1 :]):
            entry = next(hits[0].at for _, _, hits in beats[place + 1 :] if hits)
            frame = Positions.of(bar)
            places = {"where": frame.say(beats[place][0]), "entry": frame.say(entry)}
            return [SILENCE.found(beats[place][0], **places)]
    return []


def landings(bars: Sequence[Bar], visits: Sequence[Visit]) -> dict[tuple[int, int], Finding]:
    """The same foot twice in a row over a bar line, by (leaving, landing)."""
    found: dict[tuple[int, int], Finding] = {}
    for join in sorted({(before.index, after.index) for before, after in pairwise(visits)}):
        leaving, landing = (bars[index] for index in join)
        last = max((h.at for h in leaving.hits if h.drum is Drum.KICK), default=None)
        lands = any(h.at == 0 and h.drum is Drum.KICK for h in landing.hits)
        if last is None or not lands or leaving.length - last > QUICK:
            continue
        if any(hit.at > last for hit in leaving.hits if not hit.drum.by_foot):
            continue  # a hand comes between, and the foot is ready
        where = Positions.of(leaving).say(last)
        found[join] = KICK_LANDING.found(last, where=where, bar=leaving.number)
    return found
