"""Which part of its beat each note is, in plain words.

A dot adds half the note's value: the dotted quaver lasts three of the four quarters of a
crotchet beat, and the semiquaver behind it is the last. Common practice, no source.
"""

from collections.abc import Sequence

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Hit
from wren_ladder.drumming.counting.count import division
from wren_ladder.drumming.notation.rhythm import Value, write_beat
from wren_ladder.drumming.style import NoteNames
from wren_ladder.drumming.wording import counted

NAMES = {
    NoteNames.CROTCHETS: {
        "1": "semibreve", "2": "minim", "4": "crotchet", "8": "quaver", "16": "semiquaver",
        "32": "demisemiquaver",
    },
    NoteNames.QUARTERS: {
        "1": "whole note", "2": "half note", "4": "quarter", "8": "eighth",
        "16": "sixteenth", "32": "thirty-second",
    },
}  # fmt: skip
ORDINALS = ("first", "second", "third", "fourth", "fifth", "sixth")
PARTS = {2: "halves", 3: "thirds", 4: "quarters", 6: "sixths"}


def note_name(value: Value, names: NoteNames = NoteNames.CROTCHETS) -> str:
    """ "dotted quaver"; its number where there is no name for it."""
    name = NAMES[names].get(value.name, f"1/{value.name} note")
    return f"{'dotted ' * value.dots}{name}"


def beat_shares(bar: Bar, names: NoteNames = NoteNames.CROTCHETS) -> tuple[str, ...]:
    """A sentence for each beat that is divided and not struck on every part."""
    said, spanned = [], None
    beats = bar.by_beat()
    for place, (start, length, hits) in enumerate(beats):
        onsets = sorted({hit.at - start for hit in hits})
        after = beats[place + 1] if place + 1 < len(beats) else None
        if start == spanned:
            continue
        if after and length == 1 and onsets == [0] and _only_the_half(after):
            spanned = after[0]
            said.append(_over_two_beats(bar, start, names))
            continue
        parts = division({at / length for at in onsets}, length)
        if onsets and parts and onsets != [Fraction(0)] and len(onsets) < parts:
            beat = bar.meter.beat_starts.index(start + bar.count_offset) + 1
            said.append(
                f"beat {beat}: {_which(onsets, length, parts)}; "
                + _lasting(onsets, start, length, parts, names)
            )
    return tuple(said)


def _only_the_half(beat: tuple[Fraction, Fraction, Sequence[Hit]]) -> bool:
    start, length, hits = beat
    return length == 1 and {hit.at - start for hit in hits} == {Fraction(1, 2)}


def _over_two_beats(bar: Bar, start: Fraction, names: NoteNames) -> str:
    """A dotted crotchet and its quaver fill two beats together, and nothing of it rests."""
    beat = bar.meter.beat_starts.index(start + bar.count_offset) + 1
    long, short = NAMES[names]["4"], NAMES[names]["8"]
    return (
        f"beats {beat} and {beat + 1}: the dotted {long} lasts three of the four {short}s, "
        f"the {short} is the last"
    )


def _which(onsets: list[Fraction], length: Fraction, parts: int) -> str:
    """ "first, second and fourth of the four"."""
    places = [ORDINALS[int(at * parts / length)] for at in onsets]
    if len(places) == 2 and places == [ORDINALS[0], ORDINALS[parts - 1]]:
        return f"first and last of the {counted(parts)}"
    listed = ", ".join(places[:-1])
    listed = f"{listed} and {places[-1]}" if listed else f"only the {places[-1]}"
    return f"{listed} of the {counted(parts)}"


def _lasting(
    onsets: list[Fraction], start: Fraction, length: Fraction, parts: int, names: NoteNames
) -> str:
    values = write_beat([start + at for at in onsets], start, length).values
    said = []
    ends = [*(value.at for value in values[1:]), start + length]
    for value, end in zip(values, ends, strict=True):
        count = (end - value.at) * parts / length
        if count.denominator != 1:
            continue
        what = note_name(value, names) if value.sounds else f"{note_name(value, names)} rest"
        many = f"{counted(int(count))} of the {counted(parts)} {PARTS[parts]}"
        said.append(f"the {what} lasts {many}")
    return ", ".join(said)
