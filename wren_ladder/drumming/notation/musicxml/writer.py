"""Writes a chart as MusicXML 4.0, so that reading it again gives the same chart.

Hands are voice 1 and feet voice 2, written beat by beat. A roll keeps its exact length by
standing in a voice of its own, and so does a graced note whose chord has one already.

Source: W3C MusicXML 4.0; what is written is valid by its schema.
"""

from collections.abc import Sequence
from dataclasses import replace
from math import lcm
from xml.etree.ElementTree import Element, SubElement, tostring

from quicktions import Fraction

from wren_ladder.drumming.chart import (
    GRADUAL,
    HAIRPINS,
    SPANS,
    Bar,
    Chart,
    Drum,
    Grace,
    Hit,
    Jump,
    JumpTo,
    MarkKind,
    Meter,
    Tempo,
    Touch,
    Until,
)
from wren_ladder.drumming.chart.shorthand import rest_runs, slashed_through, tied_to
from wren_ladder.drumming.chart.swing import Swing
from wren_ladder.drumming.notation.lengths import hand_length
from wren_ladder.drumming.notation.musicxml.notes import (
    EXTRA,
    FEET,
    HANDS,
    Voice,
    beats_of_voices,
    identity,
    merge_rests,
    put_head,
    put_notations,
    put_place,
    put_value,
    split_voices,
)
from wren_ladder.drumming.notation.musicxml.signs import TO_THE_END, leads_on
from wren_ladder.drumming.notation.rhythm import BeatValues, Value

DOCTYPE = (
    '<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" '
    '"http://www.musicxml.org/dtds/partwise.dtd">'
)
SWING_TYPES = {Fraction(1, 2): "eighth", Fraction(1, 4): "16th"}
BEAT_UNITS = {Fraction(3): "half", Fraction(2): "half", Fraction(1): "quarter"}
BEAT_UNITS |= {Fraction(3, 2): "quarter", Fraction(1, 2): "eighth", Fraction(3, 4): "eighth"}


JUMP_SOUNDS = {
    JumpTo.START: {"dacapo": "yes"},
    JumpTo.SEGNO: {"dalsegno": "segno"},
    JumpTo.SECOND_SEGNO: {"dalsegno": "segno2"},
}


def write_musicxml(chart: Chart) -> str:
    """A complete score-partwise document with one part."""
    score = Element("score-partwise", {"version": "4.0"})
    SubElement(SubElement(score, "work"), "work-title").text = chart.title
    used = [drum for drum in Drum if any(h.drum is drum for b in chart.bars for h in b.hits)]
    _part_list(score, used)
    part = SubElement(score, "part", {"id": "P1"})
    writer = _PartWriter(part, chart)
    for index in range(len(chart.bars)):
        writer.write(index)
    body = tostring(score, encoding="unicode")
    return f'<?xml version="1.0" encoding="UTF-8"?>\n{DOCTYPE}\n{body}\n'


def _part_list(score: Element, used: Sequence[Drum]) -> None:
    part = SubElement(SubElement(score, "part-list"), "score-part", {"id": "P1"})
    SubElement(part, "part-name").text = "Drums"
    for drum in used:
        instrument = SubElement(part, "score-instrument", {"id": identity(drum)})
        SubElement(instrument, "instrument-name").text = drum.spoken
    for drum in used:
        key = drum.row.key
        if key is not None:
            midi = SubElement(part, "midi-instrument", {"id": identity(drum)})
            SubElement(midi, "midi-channel").text = "10"
            SubElement(midi, "midi-unpitched").text = str(key + 1)


def _divisions(chart: Chart) -> int:
    """Parts of a crotchet that every onset, value and roll falls on."""
    found = {Fraction(1, 4)}
    for bar in chart.bars:
        found.add(bar.length)
        for mark in bar.marks:
            found |= {mark.at, mark.length}
        for start, length in bar.beats:
            found |= {start, length}
        for hit in bar.hits:
            found.add(hit.at)
            if hit.roll:
                found.add(hit.roll.length)
        for _, values in beats_of_voices(bar):
            found |= {value.at for beat in values for value in beat.values}
    return lcm(*(time.denominator for time in found))


class _PartWriter:
    """Writes measures in order; knows the metre and the bracket that are in force."""

    def __init__(self, part: Element, chart: Chart) -> None:
        self.part = part
        self.bars = chart.bars
        self.divisions = _divisions(chart)
        self.meter: Meter | None = None
        self.rests = dict(rest_runs(chart.bars))
        self.now = Fraction(0)  # where the measure starts, in crotchets
        self.spans: dict[int, tuple[Fraction, str]] = {}  # number -> (where it stops, element)

    def write(self, index: int) -> None:
        bar = self.bars[index]
        measure = SubElement(self.part, "measure", {"number": bar.number})
        if bar.length != bar.meter.length:
            measure.set("implicit", "yes")
            if index == 0 and not bar.pickup:
                measure.set("text", bar.number)  # short, but no pick-up
        self._left_barline(measure, index)
        self._attributes(measure, index)
        self._directions(measure, index)
        self._marks(measure, bar, last=index == len(self.bars) - 1)
        self._music(measure, index)
        self._right_barline(measure, index)
        self.now += bar.length

    def _attributes(self, measure: Element, index: int) -> None:
        bar, first = self.bars[index], self.meter is None
        styles = self._styles(index)
        if bar.meter == self.meter and not styles and not bar.note:
            return
        attributes = SubElement(measure, "attributes")
        if bar.note:
            SubElement(attributes, "footnote").text = bar.note
        if first:
            SubElement(attributes, "divisions").text = str(self.divisions)
        if bar.meter != self.meter:
            beats, _, unit = str(bar.meter).partition("/")
            time = SubElement(attributes, "time")
            SubElement(time, "beats").text = beats
            SubElement(time, "beat-type").text = unit
        if first:
            clef = SubElement(attributes, "clef")
            SubElement(clef, "sign").text = "percussion"
        for style in styles:
            SubElement(attributes, "measure-style").append(style)
        self.meter = bar.meter

    def _styles(self, index: int) -> list[Element]:
        """What starts or stops here of repeat signs, slashes and rests of many bars."""
        bar = self.bars[index]
        styles: list[Element] = []
        before = self.bars[index - 1] if index else None
        was, sign = before.again if before else 0, bar.again
        if was != sign:
            styles += [Element("measure-repeat", {"type": "stop"})] if was else []
            styles += [_measure_repeat(sign)] if sign else []
        slashed = slashed_through(bar)
        if slashed != (before is not None and slashed_through(before)):
            styles.append(Element("slash", {"type": "start" if slashed else "stop"}))
        if self.rests.get(index, index) > index:
            rest = Element("multiple-rest")
            rest.text = str(self.rests[index] - index + 1)
            styles.append(rest)
        return styles

    def _directions(self, measure: Element, index: int) -> None:
        bar = self.bars[index]
        if bar.tempo:
            _tempo(measure, bar.tempo)
        if bar.swing:
            _swing(measure, bar.swing)
        if bar.section:
            _say(measure, "rehearsal", bar.section)
        for there, tag, text, sound in (
            (bar.segno, "segno", "", {"segno": "segno"}),
            (bar.segno_2, "segno", "", {"segno": "segno2"}),
            (bar.coda, "coda", "", {"coda": "coda"}),
            (bar.coda_2, "coda", "", {"coda": "coda2"}),
            (bar.to_coda, "words", "To Coda", {"tocoda": "coda"}),
            (bar.to_coda_2, "words", "To Coda 2", {"tocoda": "coda2"}),
            (bar.fine, "words", "Fine", {"fine": "yes"}),
        ):
            if there:
                _say(measure, tag, text, sound)
        if bar.vamp:
            _say(measure, "words", "vamp")
        if bar.times:
            _say(measure, "words", bar.times.words)
        if bar.jump:
            sound = JUMP_SOUNDS[bar.jump.to]
            _say(measure, "words", _jump_words(bar.jump, self.bars, index), sound)

    def _marks(self, measure: Element, bar: Bar, last: bool) -> None:
        for mark in bar.marks:
            if mark.kind is MarkKind.SLASHES and not mark.at:
                continue  # a style of the whole measure
            kind = self._mark(measure, mark.at)
            if mark.kind is MarkKind.DYNAMIC:
                SubElement(SubElement(kind, "dynamics"), mark.text)
            elif mark.kind in SPANS:
                number = next(n for n in range(1, 99) if n not in self.spans)
                tag = "wedge" if mark.kind in HAIRPINS else "dashes"
                self.spans[number] = (self.now + mark.at + mark.length, tag)
                if mark.kind in GRADUAL:
                    goal = f" to {mark.text}" if mark.text else ""
                    SubElement(kind, "words").text = f"{mark.kind.value}.{goal}"
                    kind = self._mark(measure, mark.at)
                begins = mark.kind.value if mark.kind in HAIRPINS else "start"
                SubElement(kind, tag, {"type": begins, "number": str(number)})
            else:
                words = mark.text if mark.kind is MarkKind.CUE else mark.kind.value
                SubElement(kind, "words").text = words
        for number, (stop, tag) in list(self.spans.items()):
            if last or stop <= self.now + bar.length:
                kind = self._mark(measure, stop - self.now)
                SubElement(kind, tag, {"type": "stop", "number": str(number)})
                del self.spans[number]

    def _mark(self, measure: Element, at: Fraction) -> Element:
        direction = SubElement(measure, "direction")
        kind = SubElement(direction, "direction-type")
        SubElement(direction, "offset").text = self._units(at)
        return kind

    def _left_barline(self, measure: Element, index: int) -> None:
        bar = self.bars[index]
        opens = bar.endings and not self._goes_on(index - 1)
        if not (bar.repeat_start or opens):
            return
        line = SubElement(measure, "barline", {"location": "left"})
        if bar.repeat_start:
            SubElement(line, "bar-style").text = "heavy-light"
        if opens:
            SubElement(line, "ending", {"number": _numbers(bar), "type": "start"})
        if bar.repeat_start:
            SubElement(line, "repeat", {"direction": "forward"})

    def _right_barline(self, measure: Element, index: int) -> None:
        bar = self.bars[index]
        closes = bar.endings and not self._goes_on(index)
        if not (bar.repeat_passes or closes):
            return
        line = SubElement(measure, "barline", {"location": "right"})
        if bar.repeat_passes:
            SubElement(line, "bar-style").text = "light-heavy"
        if closes:
            kind = "stop" if bar.repeat_passes else "discontinue"
            SubElement(line, "ending", {"number": _numbers(bar), "type": kind})
        if bar.repeat_passes:
            times = {"direction": "backward", "times": str(bar.repeat_passes)}
            SubElement(line, "repeat", times)

    def _goes_on(self, index: int) -> bool:
        """Does the bracket over bar ``index`` reach over the next bar too?"""
        if not 0 <= index < len(self.bars) - 1:
            return False
        bar, following = self.bars[index], self.bars[index + 1]
        return bar.endings == following.endings and not bar.repeat_passes

    def _music(self, measure: Element, index: int) -> None:
        bar = self.bars[index]
        _, _, alone = split_voices(bar)
        for voice, (hits, beats) in zip((HANDS, FEET), beats_of_voices(bar), strict=True):
            if voice is FEET and not hits:
                continue
            if voice is FEET:
                self._move(measure, "backup", bar.length)
            if not hits:
                self._bar_rest(measure, voice, bar.length)
                continue
            onsets: dict[Fraction, list[Hit]] = {}
            for hit in hits:
                onsets.setdefault(hit.at, []).append(hit)
            self._values(measure, voice, merge_rests(bar, beats), onsets)
        at = bar.length
        for hit in alone:
            self._move(measure, "backup", at)
            self._move(measure, "forward", hit.at)
            length = hit.roll.length if hit.roll else hand_length(bar, hit)
            self._hit(measure, EXTRA, hit, length, tied=self._tied(index, hit))
            at = hit.at + length
        if alone:
            self._move(measure, "forward", bar.length - at)

    def _tied(self, index: int, hit: Hit) -> list[str]:
        """The ends of ties at a roll: "stop" where it comes over the bar line."""
        before = self.bars[index - 1].hits if index and not hit.at else ()
        ties = ["stop"] if any(tied_to(other, hit) for other in before) else []
        return [*ties, "start"] if hit.roll and hit.roll.tied else ties

    def _move(self, measure: Element, tag: str, length: Fraction) -> None:
        if length:
            SubElement(SubElement(measure, tag), "duration").text = self._units(length)

    def _units(self, length: Fraction) -> str:
        units = length * self.divisions
        return str(units.numerator)

    def _bar_rest(self, measure: Element, voice: Voice, length: Fraction) -> None:
        note = SubElement(measure, "note")
        SubElement(note, "rest", {"measure": "yes"})
        SubElement(note, "duration").text = self._units(length)
        SubElement(note, "voice").text = voice.number

    def _values(
        self,
        measure: Element,
        voice: Voice,
        beats: Sequence[BeatValues],
        onsets: dict[Fraction, list[Hit]],
    ) -> None:
        """One layer of a bar; what sounds and is struck nowhere is tied to what was."""
        row = [(value, beat) for beat in beats for value in beat.values]
        struck: list[Hit] = []
        for (value, beat), (after, _) in zip(row, [*row[1:], (None, None)], strict=True):
            end = after.at if after else beat.end
            ties = []
            if value.sounds and value.at not in onsets:
                ties.append("stop")
                struck = [_untouched(hit) for hit in struck]
            else:
                struck = onsets.get(value.at, [])
            if after and value.sounds and after.sounds and after.at not in onsets:
                ties.append("start")
            self._value(measure, voice, value, end, beat, struck, ties)

    def _value(
        self,
        measure: Element,
        voice: Voice,
        value: Value,
        end: Fraction,
        beat: BeatValues,
        hits: list[Hit],
        ties: Sequence[str] = (),
    ) -> None:
        length = end - value.at
        if not value.sounds:
            note = SubElement(measure, "note")
            SubElement(note, "rest")
            SubElement(note, "duration").text = self._units(length)
            SubElement(note, "voice").text = voice.number
            put_value(note, value, beat, length)
            return
        # A grace belongs to the note right behind it, so the graced one comes first.
        for place, hit in enumerate(sorted(hits, key=lambda hit: hit.grace is Grace.NONE)):
            self._hit(measure, voice, hit, length, place > 0, value, beat, ties)

    def _hit(
        self,
        measure: Element,
        voice: Voice,
        hit: Hit,
        length: Fraction,
        chord: bool = False,
        value: Value | None = None,
        beat: BeatValues | None = None,
        tied: Sequence[str] = (),
    ) -> None:
        for _ in range(hit.grace.notes):
            grace = SubElement(measure, "note")
            SubElement(grace, "grace", {"slash": "yes"} if hit.grace is Grace.FLAM else {})
            put_place(grace, hit.drum)
            SubElement(grace, "instrument", {"id": identity(hit.drum)})
            SubElement(grace, "voice").text = voice.number
            SubElement(grace, "type").text = "eighth" if hit.grace is Grace.FLAM else "16th"
        note = SubElement(measure, "note")
        if chord:
            SubElement(note, "chord")
        put_place(note, hit.drum)
        SubElement(note, "duration").text = self._units(length)
        for end in tied:
            SubElement(note, "tie", {"type": end})
        SubElement(note, "instrument", {"id": identity(hit.drum)})
        SubElement(note, "voice").text = voice.number
        if value and beat:
            put_value(note, value, beat, length)
        SubElement(note, "stem").text = voice.stem
        put_head(note, hit)
        put_notations(note, hit, tied)
        if hit.hand:
            lyric = SubElement(note, "lyric")
            SubElement(lyric, "text").text = hit.hand.value


def _untouched(hit: Hit) -> Hit:
    """The note that a stroke is tied to: not struck, so without what belongs to the stroke."""
    touch = Touch.GHOST if hit.touch is Touch.GHOST else Touch.NORMAL
    return replace(hit, grace=Grace.NONE, hand=None, touch=touch)


def _measure_repeat(bars: int) -> Element:
    style = Element("measure-repeat", {"type": "start", "slashes": str(bars)})
    style.text = str(bars)
    return style


def _say(measure: Element, tag: str, text: str = "", sound: dict[str, str] | None = None):
    """A direction above the bar: one element with its words, and how it plays."""
    direction = SubElement(measure, "direction", {"placement": "above"})
    said = SubElement(SubElement(direction, "direction-type"), tag)
    said.text = text or None
    if sound:
        SubElement(direction, "sound", sound)
    return said


def _swing(measure: Element, swing: Swing) -> None:
    direction = SubElement(measure, "direction", {"placement": "above"})
    SubElement(SubElement(direction, "direction-type"), "words").text = str(swing)
    element = SubElement(SubElement(direction, "sound"), "swing")
    if swing.unit is None:
        SubElement(element, "straight")
        return
    long, short = swing.parts
    SubElement(element, "first").text = str(long)
    SubElement(element, "second").text = str(short)
    SubElement(element, "swing-type").text = SWING_TYPES[swing.unit]


def _tempo(measure: Element, tempo: Tempo) -> None:
    sound = {"tempo": str(float(tempo.beat * tempo.bpm))}
    metronome = _say(measure, "metronome", sound=sound)
    SubElement(metronome, "beat-unit").text = BEAT_UNITS[tempo.beat]
    if tempo.beat.numerator == 3:
        SubElement(metronome, "beat-unit-dot")
    SubElement(metronome, "per-minute").text = str(tempo.bpm)


def _numbers(bar: Bar) -> str:
    return ", ".join(map(str, bar.endings))


def _jump_words(jump: Jump, bars: Sequence[Bar], index: int) -> str:
    """The words of a jump; where a bare one would be read to lead to a Fine or a coda that
    the page has, it says that it goes to the end."""
    if jump.until is not Until.END or not leads_on(bars, index):
        return str(jump)
    name, _, rest = str(jump).partition(" ")
    return f"{name} {TO_THE_END} {rest}".strip()
