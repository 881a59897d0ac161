"""Traps: small departures from what a piece has made a habit of. Common practice."""

from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from itertools import pairwise

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Meter, Surface, Tempo, Touch
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.description.differences import (
    FEWEST_HITS,
    ChangeKind,
    changes,
    chord_prints,
    may_be_a_step_apart,
)
from wren_ladder.drumming.description.timekeeping import fill_start, timekeeper
from wren_ladder.drumming.findings.finding import Finding, Kind, every_one
from wren_ladder.drumming.findings.near import is_quick_foot
from wren_ladder.drumming.roadmap import Visit
from wren_ladder.drumming.style import HOUSE, Reason, Style

HABIT = 3  # times that a bar must be played to be what hands expect
SMALL = (ChangeKind.MOVED, ChangeKind.ADDED, ChangeKind.REMOVED, ChangeKind.OTHER_DRUM)
COMMON = Meter(4, 4)
BACKBEATS = {Fraction(1), Fraction(3)}
COMMON_FORM = {Surface.KICK: {Fraction(0)}, Surface.SNARE: BACKBEATS}
MOSTLY = Fraction(1, 2)  # of the grooves; fewer are no norm
BESIDE = Fraction(1, 2)  # crotchets
NEARLY_ALL = Fraction(3, 4)  # of the bars along the road
GHOST = Touch.GHOST

AGAINST_HABIT = Kind(
    "against-habit",
    lambda one: (
        f"{one['change'].spoken}, not as in bar {one['habit']}, "
        f"which comes {one['times']} times"
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
    lambda one: (
        f"two quick kicks over the bar line, on {one['where']} of bar {one['bar']} and on 1"
    ),
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
    struck = Counter(
        (hit.drum.surface, hit.at)
        for kind, times in played.items()
        for hit in bars[kind].hits
        for _ in range(times)
    )
    sounding = _sounding_beats(bars, played)
    repeated = _sounding_beats(bars, {kind: played[kind] for kind in habits}, HABIT - 1)
    common = _in_common_form(bars, played)
    prints = chord_prints(bars, set(kinds))
    by_kind = {
        kind: tuple(
            _against_habit(bars, kind, habits, played, prints)
            or _silent_where_others_play(bars[kind], sounding, repeated)
            or _against_the_common_form(bars[kind], struck, common)
        )
        for kind in set(kinds)
    }
    return tuple(by_kind[kind] for kind in kinds)


def _against_habit(
    bars: Sequence[Bar],
    kind: int,
    habits: Sequence[int],
    played: Counter[int],
    prints: dict[int, int],
) -> list[Finding]:
    """One small step away from a bar that is played much oftener."""
    for habit in habits:
        if habit == kind or played[habit] < HABIT * played[kind]:
            continue
        if not may_be_a_step_apart(prints[habit], prints[kind]):
            continue
        found = changes(bars[habit], bars[kind])
        if found and len(found) == 1 and found[0].kind in SMALL:
            facts = {"habit": bars[habit].number, "times": played[habit]}
            return [AGAINST_HABIT.found(found[0].at, change=found[0], **facts)]
    return []


def _sounding_beats(
    bars: Sequence[Bar], played: Mapping[int, int], fewer: int = HABIT
) -> set[tuple[Meter, Fraction]]:
    """The beats on which nearly every bar of a metre plays, and more than ``fewer``."""
    bars_of: Counter[Meter] = Counter()
    sounds: Counter[tuple[Meter, Fraction]] = Counter()
    for kind, times in played.items():
        bar = bars[kind]
        if not bar.hits or bar.pickup:
            continue
        bars_of[bar.meter] += times
        for start, _, hits in bar.by_beat():
            if hits or bar.rolls_through(start):
                sounds[bar.meter, start] += times
    return {
        (meter, start)
        for (meter, start), times in sounds.items()
        if times > fewer and times >= NEARLY_ALL * bars_of[meter]
    }


def _silent_where_others_play(
    bar: Bar,
    sounding: set[tuple[Meter, Fraction]],
    repeated: set[tuple[Meter, Fraction]],
) -> list[Finding]:
    """A beat of rest before an entry where the piece always plays; rests that are its habit
    are none, nor is the crotchet rest of an exercise in which no bar is a habit."""
    if bar.pickup:
        return []
    silent = [not hits and not bar.rolls_through(at) for at, _, hits in bar.by_beat()]
    long = any(one and other for one, other in pairwise(silent))
    sounding = sounding if long else sounding & repeated
    frame = Positions.of(bar)
    for start, _, hits in bar.by_beat():
        after = next((hit.at for hit in bar.hits if hit.at > start), None)
        rests = not hits and not bar.rolls_through(start)
        if rests and after is not None and (bar.meter, start) in sounding:
            places = {"where": frame.say(start), "entry": frame.say(after)}
            return [SILENCE.found(start, **places)]
    return []


def _in_common_form(bars: Sequence[Bar], played: Counter[int]) -> set[Surface]:
    """On which drums the grooves of a piece in 4/4 are those of rock: the kick on 1, the snare
    on 2 and 4. A jazz ride, a one-drop, a linear groove have norms of their own."""
    grooves = 0
    kept: Counter[Surface] = Counter()
    for kind, times in played.items():
        bar = bars[kind]
        if bar.meter != COMMON or timekeeper(bar) is None:
            continue
        grooves += times
        struck = {(hit.drum.surface, hit.at) for hit in bar.hits}
        for surface, beats in COMMON_FORM.items():
            kept[surface] += times * all((surface, beat) in struck for beat in beats)
    many = grooves * MOSTLY
    return {one for one, times in kept.items() if times >= HABIT and times >= many}


def _against_the_common_form(
    bar: Bar, struck: Counter[tuple[Surface, Fraction]], common: Collection[Surface]
) -> list[Finding]:
    """A groove in 4/4 that has its kick on 1 or one of its backbeats just beside the beat,
    unless the piece has made a habit of it. A cross-stick plays patterns of its own."""
    if bar.meter != COMMON or timekeeper(bar) is None:
        return []
    at = {
        surface: {h.at for h in bar.hits if h.drum.surface is surface and h.touch is not GHOST}
        for surface in COMMON_FORM
        if surface in common
    }
    if any(hit.drum is Drum.CROSS_STICK for hit in bar.hits):
        at.pop(Surface.SNARE, None)
    expected = [(Surface.KICK, Fraction(0))] if Surface.KICK in at else []
    if at.get(Surface.SNARE, set()) & BACKBEATS:  # the one is there, so the other is expected
        expected += [(Surface.SNARE, beat) for beat in sorted(BACKBEATS)]
    frame, filled = Positions.of(bar), fill_start(bar)
    for surface, beat in expected:
        if filled is not None and beat >= filled:
            continue  # a fill has no common form
        beside = [time for time in at[surface] if 0 < abs(time - beat) <= BESIDE]
        habit = beside and struck[surface, beside[0]] >= HABIT
        if beat not in at[surface] and len(beside) == 1 and not habit:
            places = {"where": frame.say(beside[0]), "usual": frame.say(beat)}
            return [AGAINST_COMMON_FORM.found(beside[0], surface=surface, **places)]
    return []


def landings(
    bars: Sequence[Bar],
    visits: Sequence[Visit],
    tempos: Sequence[Tempo],
    style: Style = HOUSE,
) -> dict[tuple[int, int], Finding]:
    """The same foot twice in a row over a bar line, too quick at the tempos of the bars to be
    nothing, by (leaving, landing); not where the piece has made a habit of it."""
    times = Counter((before.index, after.index) for before, after in pairwise(visits))
    landed = {
        join: last
        for join in sorted(times)
        if (last := _lands(bars, *join)) is not None
        and is_quick_foot(bars[join[0]].length - last, tempos[join[0]], style)
    }
    often: Counter[Fraction] = Counter()
    for join, last in landed.items():
        often[bars[join[0]].length - last] += times[join]
    found = {}
    for join, last in landed.items():
        leaving = bars[join[0]]
        if often[leaving.length - last] >= HABIT:
            continue
        where = Positions.of(leaving).say(last)
        found[join] = KICK_LANDING.found(last, where=where, bar=leaving.number)
    return found


def _lands(bars: Sequence[Bar], leaving: int, landing: int) -> Fraction | None:
    """When the foot that lands on the next bar's 1 plays just before it, None where it does
    not, or where a hand comes between and the foot is ready."""
    before, after = bars[leaving], bars[landing]
    last = max((hit.at for hit in before.hits if hit.drum is Drum.KICK), default=None)
    lands = any(hit.at == 0 and hit.drum is Drum.KICK for hit in after.hits)
    if last is None or not lands:
        return None
    between = any(hit.at > last for hit in before.hits if not hit.drum.by_foot)
    return None if between else last
