"""Our charts as sources for engravers that are not ours: LilyPond's drum notation, and
streams of music21. Each lays out, writes MIDI and exports by its own habits; what comes back
through our readers is compared onset by onset.

LilyPond is a general-purpose text engraver (Debian's package); its drum names are those of its
own manual, "Percussion notes".
"""

from collections.abc import Sequence
from fractions import Fraction

import music21

from wren_ladder.drumming.chart import Bar, Chart, Drum, Grace, Hit, RollKind, Touch
from wren_ladder.drumming.notation.musicxml.notes import LOWEST_LINE, STEPS, beats_of_voices
from wren_ladder.drumming.notation.rhythm import BeatValues, Value

LILYPOND_NAMES = {
    Drum.KICK: "bd", Drum.SNARE: "sn", Drum.CROSS_STICK: "ss", Drum.HIHAT: "hh",
    Drum.HIHAT_HALF: "hhho", Drum.HIHAT_OPEN: "hho", Drum.HIHAT_FOOT: "hhp", Drum.RIDE: "cymr",
    Drum.RIDE_BELL: "rb", Drum.CRASH: "cymc", Drum.CRASH_2: "cymcb", Drum.SPLASH: "cyms",
    Drum.CHINA: "cymch", Drum.TOM_HIGH: "tomh", Drum.TOM_MID: "tomml",
    Drum.TOM_FLOOR: "tomfh", Drum.TOM_FLOOR_2: "tomfl", Drum.COWBELL: "cb",
    Drum.TAMBOURINE: "tamb", Drum.RIM_SHOT: "sn", Drum.RIDE_CRASH: "cymr",
}  # fmt: skip
GRACES = {Grace.FLAM: 1, Grace.DRAG: 2, Grace.RUFF: 3}


def lilypond_of(chart: Chart, before: str = "", staff: str = "", a_line: int = 0) -> str:
    """A .ly file that draws the page and writes its MIDI. ``before`` goes to the top of the
    file, ``staff`` into the staff's \\with block; ``a_line`` bars stand on a line, as many as
    there is room for where that is 0."""
    voices: tuple[list[str], list[str]] = ([], [])
    meter = ""
    for place, bar in enumerate(chart.bars):
        opening = ""
        if str(bar.meter) != meter:
            meter = str(bar.meter)
            opening += rf"\time {bar.meter.beats}/{bar.meter.unit} "
        if bar.length != bar.meter.length and not place:
            opening += rf"\partial {_scheme_length(bar.length)} "
        if bar.tempo:
            opening += rf"\tempo {_beat_name(bar.tempo.beat)} = {bar.tempo.bpm} "
        for voice, (hits, beats) in zip(voices, beats_of_voices(bar), strict=True):
            ends = ""
            if voice is voices[0] and a_line and place + 1 == len(chart.bars):
                ends = r' \bar "|."'
            elif voice is voices[0] and a_line and (place + 1) % a_line == 0:
                ends = r" \break"
            voice.append(opening + _lilypond_voice(hits, beats) + " |" + ends)
            opening = ""
    hands, feet = ("\n    ".join(voice) for voice in voices)
    return rf"""\version "2.24.0"
{before}
\score {{
  \new DrumStaff \with {{ {staff} }} <<
    \new DrumVoice \drummode {{ \voiceOne
    {hands}
    }}
    \new DrumVoice \drummode {{ \voiceTwo
    {feet}
    }}
  >>
  \layout {{ }}
  \midi {{ }}
}}
"""


def _scheme_length(length: Fraction) -> str:
    whole = length / 4
    return f"1*{whole.numerator}/{whole.denominator}"


def _beat_name(beat: Fraction) -> str:
    return (
        "4."
        if beat == Fraction(3, 2)
        else str(4 / beat)
        if (4 / beat).denominator == 1
        else "4"
    )


def _lilypond_voice(hits: Sequence[Hit], beats: Sequence[BeatValues]) -> str:
    found = []
    for beat in beats:
        inside = " ".join(_lilypond_value(value, hits) for value in beat.values)
        if beat.tuplet:
            actual, normal = beat.tuplet
            inside = rf"\tuplet {actual}/{normal} {{ {inside} }}"
        found.append(inside)
    return " ".join(found)


def _lilypond_value(value: Value, hits: Sequence[Hit]) -> str:
    length = value.name + "." * value.dots
    struck = [hit for hit in hits if hit.at == value.at]
    if not value.sounds:
        return f"r{length}"
    if not struck:  # what lasts on: silent in what is compared
        return f"r{length}"
    grace = next((hit for hit in struck if hit.grace is not Grace.NONE), None)
    names = [_lilypond_head(hit, len(struck) > 1) for hit in struck]
    text = f"<{' '.join(names)}>" if len(names) > 1 else names[0]
    text += length
    roll = next((hit.roll for hit in struck if hit.roll), None)
    if roll and roll.kind is not RollKind.SINGLE:
        text += ":32"
    if any(hit.touch in (Touch.ACCENT, Touch.STRONG) for hit in struck):
        text += "->"
    ghost = len(struck) == 1 and struck[0].touch is Touch.GHOST
    text = rf"\parenthesize {text}" if ghost else text
    if grace is None:
        return text
    name = LILYPOND_NAMES[grace.drum]
    notes = " ".join([f"{name}16"] * GRACES[grace.grace])
    return rf"\grace {{ {notes} }} {text}"


def _lilypond_head(hit: Hit, in_chord: bool) -> str:
    name = LILYPOND_NAMES[hit.drum]
    return rf"\parenthesize {name}" if in_chord and hit.touch is Touch.GHOST else name


def plainly_written(chart: Chart, graces: bool = True) -> Chart:
    """The page without signs of its road, so that it is played as it stands."""
    bars = []
    for bar in chart.bars:
        hits = bar.hits
        if not graces:
            hits = tuple(Hit(hit.at, hit.drum, hit.touch) for hit in hits)
        bars.append(Bar(bar.number, bar.meter, hits, bar.length, tempo=bar.tempo))
    return Chart(chart.title, tuple(bars))


def music21_of(chart: Chart) -> music21.stream.Score:
    """A score of one percussion part, its heads by their places and shapes."""
    part = music21.stream.Part()
    part.partName = "Drums"
    meter = ""
    for bar in chart.bars:
        measure = music21.stream.Measure(number=bar.number)
        if not meter:
            measure.append(music21.clef.PercussionClef())
        if str(bar.meter) != meter:
            meter = str(bar.meter)
            measure.append(music21.meter.TimeSignature(f"{bar.meter.beats}/{bar.meter.unit}"))
        if bar.tempo:
            unit = music21.duration.Duration(float(bar.tempo.beat))
            measure.insert(0, music21.tempo.MetronomeMark(number=bar.tempo.bpm, referent=unit))
        if bar.pickup:
            measure.paddingLeft = float(bar.meter.length - bar.length)
        for n, (hits, beats) in enumerate(beats_of_voices(bar), 1):
            voice = music21.stream.Voice(id=str(n))
            for beat in beats:
                for value in beat.values:
                    voice.append(_music21_value(value, beat, hits))
            measure.insert(0, voice)
        part.append(measure)
    score = music21.stream.Score([part])
    score.metadata = music21.metadata.Metadata(title=chart.title or "Untitled")
    return score


def _music21_value(
    value: Value, beat: BeatValues, hits: Sequence[Hit]
) -> music21.note.GeneralNote:
    length = music21.duration.Duration()
    length.type = music21.duration.typeFromNumDict[int(value.name)]
    length.dots = value.dots
    if beat.tuplet:
        length.appendTuplet(music21.duration.Tuplet(*beat.tuplet))
    struck = [hit for hit in hits if hit.at == value.at]
    if not value.sounds or not struck:
        return music21.note.Rest(duration=length)
    notes = [_music21_note(hit) for hit in struck]
    if len(notes) == 1:
        notes[0].duration = length
        return notes[0]
    return music21.percussion.PercussionChord(notes, duration=length)


def _music21_note(hit: Hit) -> music21.note.Unpitched:
    octave, step = divmod(LOWEST_LINE + hit.drum.row.line, 7)
    note = music21.note.Unpitched(displayName=f"{STEPS[step]}{octave}")
    head = hit.drum.row.head
    if head:
        note.notehead = "triangle" if head == "isotriangle" else head
    if hit.drum is Drum.HIHAT_OPEN:
        note.articulations.append(music21.articulations.OpenString())
    return note
