"""Which tracks of a MIDI file are the drums: by channel, by name, by what is played.

The drums stand on channel 10 (General MIDI). Programs that leave channels alone put everything
on the first: there a name says it, or keys that are a kit's. Common practice, no source.
"""

import re
from collections import Counter
from collections.abc import Collection, Sequence
from dataclasses import dataclass

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.notation.midi.keys import drums_of

CHANNEL = 9  # the tenth, counted from 0
NAMED = re.compile(r"\b(drums?|drum ?kit|drumset|kit|percussion|perc)\b", re.IGNORECASE)
OTHERS = re.compile(
    r"\b(bass|guitar|piano|keys|organ|strings|flute|sax\w*|trumpet|horns?|brass|voice|vocals?|"
    r"choir|lead|melody|synth|pad|violin|viola|cello|clarinet|oboe|harp|marimba|vibes)\b",
    re.IGNORECASE,
)
KICKS, SNARES, HATS = {35, 36}, {37, 38, 40}, {42, 44, 46, 51, 53, 59}
MOSTLY = 0.8  # of the notes of a track, that are a kit's
FEW_KEYS = 14  # a kit has no more; a melody of as many notes may
MOST_TOLD = 6  # tracks that an error names


@dataclass(frozen=True, slots=True)
class Track:
    """The notes of one channel in one track; ``notes`` by key, ``channel`` counted from 0."""

    key: str
    name: str
    channel: int
    notes: Counter
    together: bool  # two of its keys are struck at once somewhere

    @property
    def many(self) -> int:
        return self.notes.total()

    @property
    def is_named(self) -> bool:
        return bool(NAMED.search(self.name))

    @property
    def is_another(self) -> bool:
        return bool(OTHERS.search(self.name))

    @property
    def sounds_like_drums(self) -> bool:
        """Kick, snare and a cymbal's keys, and hardly any others; a bass may have those too,
        but one at a time."""
        known = {key for key, (drum, _) in drums_of(self.notes).items() if drum}
        struck = sum(many for key, many in self.notes.items() if key in known)
        kit = [bool(group & self.notes.keys()) for group in (KICKS, SNARES, HATS)]
        few = len(self.notes) <= FEW_KEYS
        mostly = struck >= MOSTLY * self.many
        return few and self.together and sum(kit) >= 2 and mostly and not self.is_another


def drum_tracks(tracks: Sequence[Track], wanted: Collection[str] = ()) -> list[Track]:
    """Those that are read. ChartError where none is wanted and none can be told."""
    chosen = [one for one in tracks if one.key in wanted]
    if chosen:
        return chosen
    for found in (
        [one for one in tracks if one.channel == CHANNEL],
        [one for one in tracks if one.is_named],
        [one for one in tracks if one.sounds_like_drums],
        [one for one in tracks if not one.is_another] if len(tracks) == 1 else [],
    ):
        if found:
            return found
    there = ", ".join(
        f"{one.name} ({one.many} notes on channel {one.channel + 1})"
        for one in tracks[:MOST_TOLD]
    )
    raise ChartError(
        "no track of the MIDI file is known as the drums: put them on channel 10, or name "
        f"their track Drums; there are {there}"
        if tracks
        else "the MIDI file has no notes"
    )
