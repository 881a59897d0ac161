"""From notes and rests in their places to times: two voices, each of which fills the bar.

What stands in a voice is as long as its heads, beams, flags and dots say, and what a figure
above it makes of that; one after the other they give the times. Notes at one place of the page
sound at once, which is asked as well. Common practice of engraving, no source.
"""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace

from quicktions import Fraction

from wren_ladder.drumming.page_reading.found import SPACE

TUPLETS = {"3": Fraction(2, 3), "5": Fraction(4, 5), "6": Fraction(2, 3), "7": Fraction(4, 7)}
QUAVER = Fraction(1, 2)
UNMARKED = "triplets without a figure?"
AT_ONCE = 1.4 * SPACE  # apart on the page, at most
GRID = (Fraction(1, 4), Fraction(1, 3))  # of times that are guessed by place


@dataclass(frozen=True, slots=True)
class Event:
    """A note or a rest: ``x`` where it stands, its ``length`` in crotchets without figures,
    which voice (None where its place leaves it open), and whether beams join it to the next."""

    x: float
    length: Fraction
    up: bool | None
    sounds: bool
    joined: bool = False  # to the next of its voice
    whole: bool = False  # a whole rest, which may be a bar's
    key: int = -1  # of the note it is


@dataclass(frozen=True, slots=True)
class Tuplet:
    figure: str
    x: float
    left: float
    right: float
    above: bool
    bracket: bool


@dataclass(frozen=True, slots=True)
class Timed:
    """When each note begins, by its key, how long the bar is, and what is doubtful."""

    times: dict[int, Fraction]
    lengths: dict[int, Fraction]
    length: Fraction
    doubts: tuple[str, ...]


def timed(
    events: Sequence[Event], tuplets: Sequence[Tuplet], expected: Fraction | None, right: float
) -> list[Timed]:
    """The readings of a bar, the best first: those that fill it without a doubt before others.
    ``expected`` is its length in crotchets where it is known, ``right`` where it ends."""
    found = [_read(way, tuplets, expected) for way in _ways(events)]
    sure = [one for one in found if not one.doubts]
    if sure:
        return sure[:1]
    threes = [_read(way, _with_threes(way, tuplets), expected) for way in _ways(events)]
    filled = [replace(one, doubts=(UNMARKED,)) for one in threes if not one.doubts]
    best = min([*filled, *found], key=lambda one: len(one.doubts))
    return [best, _by_place(events, expected or best.length, right)]


def _ways(events: Sequence[Event]) -> list[list[Event]]:
    """Each way to give rests of open places to the voices; one voice where stems go one way."""
    ways = {event.up for event in events if event.sounds}
    if len(ways) < 2:
        up = next(iter(ways), True)
        alone = [replace(event, up=up) for event in events]
        # Or the other voice is silent.
        apart = [replace(event, up=up) if event.up is None else event for event in events]
        return [alone] if apart == alone else [apart, alone]
    open_rests = [n for n, event in enumerate(events) if event.up is None][:4]
    found = []
    for code in range(2 ** len(open_rests)):
        way = list(events)
        for bit, n in enumerate(open_rests):
            way[n] = replace(way[n], up=not code >> bit & 1)
        found.append([one for one in way if one.up is not None])
    return found


def _read(
    events: Sequence[Event], tuplets: Sequence[Tuplet], expected: Fraction | None
) -> Timed:
    voices = [
        sorted((one for one in events if one.up == up), key=lambda one: one.x)
        for up in (True, False)
    ]
    unused = list(tuplets)
    runs = []
    for up, voice in zip((True, False), voices, strict=True):
        mine = [one for one in tuplets if _belongs(one, up, voice, voices)]
        lengths, used = _lengths(voice, mine)
        unused = [one for one in unused if one not in used]
        runs.append(lengths)
    totals = [sum(lengths, Fraction(0)) for lengths in runs]
    length = expected or max(totals)
    doubts = ["a figure that belongs to no notes"] if unused else []
    times: dict[int, Fraction] = {}
    notes: dict[int, Fraction] = {}
    placed: list[tuple[float, Fraction]] = []
    order = sorted((0, 1), key=lambda n: totals[n] != length)
    for n in order:
        voice, lengths = voices[n], runs[n]
        if not voice:
            continue
        if len(voice) == 1 and voice[0].whole:
            continue
        starts = [sum(lengths[:place], Fraction(0)) for place in range(len(voice))]
        if totals[n] != length:
            beside = _beside(voice, placed)
            if beside is None:
                doubts.append(f"the notes last {spoken(totals[n])}, the bar {spoken(length)}")
            starts = beside or starts
        if not _in_order(voice, starts, placed):
            doubts.append("notes above each other that do not sound at once")
        for event, start, lasts in zip(voice, starts, lengths, strict=True):
            placed.append((event.x, start))
            if event.sounds:
                times[event.key], notes[event.key] = start, lasts
    if any(start >= length for start in times.values()):
        doubts.append("more notes than the bar holds")
    return Timed(times, notes, length, tuple(dict.fromkeys(doubts)))


def _belongs(
    tuplet: Tuplet, up: bool, voice: Sequence[Event], voices: Sequence[Sequence[Event]]
) -> bool:
    if not voice:
        return False
    other = voices[1 if up else 0]
    return tuplet.above == up or not other


def _lengths(
    voice: Sequence[Event], tuplets: Sequence[Tuplet]
) -> tuple[list[Fraction], list[Tuplet]]:
    """How long each is, with what the figures make of it; and the figures that did."""
    lengths, used = [event.length for event in voice], []
    for tuplet in tuplets:
        group = _group(voice, tuplet)
        if not group:
            continue
        used.append(tuplet)
        for n in group:
            lengths[n] = voice[n].length * TUPLETS[tuplet.figure]
    return lengths, used


def _group(voice: Sequence[Event], tuplet: Tuplet) -> list[int]:
    """Which notes a figure is for: under its bracket, else under the beam it stands at."""
    if tuplet.bracket:
        left, right = tuplet.left - 0.9 * SPACE, tuplet.right + 0.5 * SPACE
        return [n for n, event in enumerate(voice) if left <= event.x <= right]
    for group in _beamed(voice):
        left, right = voice[group[0]].x, voice[group[-1]].x
        if len(group) > 1 and left - 0.5 * SPACE <= tuplet.x <= right + 1.2 * SPACE:
            return group
    return []


def _beamed(voice: Sequence[Event]) -> list[list[int]]:
    groups: list[list[int]] = []
    for n in range(len(voice)):
        if n and voice[n - 1].joined:
            groups[-1].append(n)
        else:
            groups.append([n])
    return groups


def _with_threes(events: Sequence[Event], tuplets: Sequence[Tuplet]) -> list[Tuplet]:
    """The figures, and one more for each three quavers under a beam that has none."""
    found = list(tuplets)
    for up in (True, False):
        voice = sorted((one for one in events if one.up == up), key=lambda one: one.x)
        for group in _beamed(voice):
            lengths = [voice[n].length for n in group]
            if lengths != [QUAVER] * 3:
                continue
            left, right = voice[group[0]].x, voice[group[-1]].x
            middle = (left + right) / 2
            if not any(left <= one.x <= right + SPACE for one in tuplets if one.above == up):
                found.append(Tuplet("3", middle, left, right, up, False))
    return found


def _beside(
    voice: Sequence[Event], placed: Sequence[tuple[float, Fraction]]
) -> list[Fraction] | None:
    """The times of a voice whose rests are not all written: those of what it stands under."""
    starts = []
    for event in voice:
        near = min(placed, key=lambda one: abs(one[0] - event.x), default=None)
        if near is None or abs(near[0] - event.x) > AT_ONCE:
            return None
        starts.append(near[1])
    return starts if starts and starts == sorted(set(starts)) else None


def _in_order(
    voice: Sequence[Event],
    starts: Sequence[Fraction],
    placed: Sequence[tuple[float, Fraction]],
) -> bool:
    """Do places on the page come as their times do?"""
    for event, start in zip(voice, starts, strict=True):
        if not event.sounds:
            continue
        for x, at in placed:
            if abs(x - event.x) < 0.4 * SPACE and at != start:
                return False
            if x > event.x + 1.6 * SPACE and at <= start:
                return False
            if x < event.x - 1.6 * SPACE and at >= start:
                return False
    return True


def _by_place(events: Sequence[Event], length: Fraction, right: float) -> Timed:
    """Times by nothing but where notes stand across the bar."""
    notes = [event for event in events if event.sounds]
    left = min((event.x for event in events), default=0.0)
    span = max(right - left, 1.0)
    times, lengths = {}, {}
    for event in notes:
        share = float(length) * (event.x - left) / span
        grid = min(GRID, key=lambda step: abs(share - round(share / step) * step))
        at = min(round(share / grid) * grid, length - grid)
        times[event.key], lengths[event.key] = max(at, Fraction(0)), event.length
    return Timed(times, lengths, length, ("by their places alone",))


def spoken(length: Fraction) -> str:
    """ "3.5 crotchets"."""
    beats = f"{float(length):.2f}".rstrip("0").rstrip(".")
    return f"{beats} crotchet{'s' if length != 1 else ''}"


def in_threes(events: Sequence[Event]) -> bool:
    """Do beams hold three quavers, more often than two or four?"""
    counts = Counter(
        len(group)
        for up in (True, False)
        for voice in [[one for one in events if one.up == up]]
        for group in _beamed(voice)
        if all(voice[n].length == QUAVER for n in group)
    )
    return counts[3] > counts[2] + counts[4]
