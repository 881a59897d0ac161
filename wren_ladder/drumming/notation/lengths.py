"""How long the notes of a page are written, where the page has it otherwise than the house.

The house writes a note as long as its place in the beat gives: to the next stroke of the same
layer, or to the end of its beat. Hands are one layer, feet the other.
"""

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache
from typing import NamedTuple

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Hit
from wren_ladder.drumming.notation.rhythm import write_beat


class Frame(NamedTuple):
    """A bar's beats, (start, length) each, and its length, in crotchets."""

    beats: tuple[tuple[Fraction, Fraction], ...]
    length: Fraction


class _Note(NamedTuple):
    at: Fraction
    written: Fraction | None


def note_ends(hits: Sequence[Hit | _Note], bar: Bar | Frame) -> dict[Fraction, Fraction]:
    """Where the notes of one layer end that are written longer or shorter, by their onset, in
    crotchets from the bar line.

    The next stroke and the bar line end them; so does a beat in triplets or another tuplet, for
    which there are no ties out of or into plain values.
    """
    found: dict[Fraction, Fraction] = {}
    times = sorted({hit.at for hit in hits})
    for hit in hits:
        if hit.written:
            following = next((at for at in times if at > hit.at), bar.length)
            end = _in_plain_beats(hit.at, min(hit.at + hit.written, following), times, bar)
            found[hit.at] = max(end, found.get(hit.at, end))
    return found


def _in_plain_beats(
    at: Fraction, end: Fraction, times: Sequence[Fraction], bar: Bar | Frame
) -> Fraction:
    """``end``, or the beat before which a note that lasts over its beat has to end."""
    for start, length in bar.beats:
        stop = start + length
        if stop <= at or start >= end:
            continue
        inside = [time for time in times if start <= time < stop]
        inside += [end] if start < end < stop else []
        crossing = start > at or end > stop
        if crossing and not all(_plain(time - start) for time in inside):
            return stop if start <= at else start
    return end


def _plain(length: Fraction) -> bool:
    """Does it fall on halves, quarters and so on of a crotchet?"""
    return length.denominator & (length.denominator - 1) == 0


def usual_lengths(hits: Sequence[Hit | _Note], bar: Bar | Frame) -> dict[Fraction, Fraction]:
    """How long the house writes the notes of one layer, by their onset."""
    found: dict[Fraction, Fraction] = {}
    times = sorted({hit.at for hit in hits})
    for start, length in bar.beats:
        inside = [at for at in times if start <= at < start + length]
        values = write_beat(inside, start, length).values
        ends = [value.at for value in values[1:]] + [start + length]
        found |= {
            value.at: end - value.at
            for value, end in zip(values, ends, strict=True)
            if value.sounds
        }
    return found


def hand_length(bar: Bar, hit: Hit) -> Fraction:
    """How long a note of the hands is written, in crotchets."""
    layer = [other for other in bar.hits if not other.drum.by_foot]
    ends = note_ends(layer, bar)
    return ends[hit.at] - hit.at if hit.at in ends else usual_lengths(layer, bar)[hit.at]


def keep_lengths(hits: Sequence[Hit], bar: Bar | Frame) -> tuple[Hit, ...]:
    """The hits of a bar, their written lengths only where they can be drawn and say something
    else than the house would write; the notes of a chord have one."""
    if not any(hit.written for hit in hits):
        return tuple(hits)
    found: list[Hit] = []
    for foot in (False, True):
        layer = [hit for hit in hits if hit.drum.by_foot is foot]
        said = tuple((hit.at, hit.written, hit.roll is not None) for hit in layer)
        kept = _kept(said, Frame(bar.beats, bar.length))
        found += [
            hit if hit.written == length else replace(hit, written=length)
            for hit, length in zip(layer, kept, strict=True)
        ]
    return tuple(found)


# A page has few rhythms, and reading one asks for each of its layers.
@lru_cache(maxsize=2048)
def _kept(
    layer: tuple[tuple[Fraction, Fraction | None, bool], ...], frame: Frame
) -> tuple[Fraction | None, ...]:
    """What is kept of (onset, written length, whether it rolls) of each hit of a layer."""
    notes = [_Note(at, written) for at, written, _ in layer]
    usual, ends = usual_lengths(notes, frame), note_ends(notes, frame)
    # A file's rolls stand in a voice of their own: the notes beside them are written as if
    # they were not there.
    struck = [note for note, (_, _, rolls) in zip(notes, layer, strict=True) if not rolls]
    beside = usual_lengths(struck, frame)
    found: list[Fraction | None] = []
    for at, _, rolls in layer:
        length = ends[at] - at if at in ends else None
        as_ever = length in (usual[at], beside.get(at), _room(at, notes, frame))
        found.append(None if rolls or as_ever else length)
    return tuple(found)


def _room(at: Fraction, layer: Sequence[_Note], frame: Frame) -> Fraction:
    """From a stroke to the next one or to the end of its beat."""
    beat_end = next(start + length for start, length in frame.beats if at < start + length)
    return min([beat_end, *(note.at for note in layer if note.at > at)]) - at
