"""One bar as MEI: hands in the upper layer, feet in the lower, the count below.

The count stands in a second staff without lines, one note of type "count" on every counted
position; whoever draws the MEI hides those notes and keeps their syllables, which so stand
exactly under the music.
"""

from collections.abc import Sequence
from itertools import pairwise
from xml.etree.ElementTree import Element, SubElement

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Grace, Hand, Hit, MarkKind, RollKind, Touch
from wren_ladder.drumming.notation.lengths import note_ends
from wren_ladder.drumming.notation.mei.scored import Layout, Scored
from wren_ladder.drumming.notation.rhythm import BeatValues, Value, halves, write_beat

HIDDEN = {"type": "count", "head.visible": "false", "stem.visible": "false", "stem.dir": "up"}
SILENT_COLOUR = "#9A8F7F"
SLASHED = "slashed"  # a head with a line through it, drawn by whoever draws the MEI


def note_id(bar: int, hit: int) -> str:
    """The id of a note by its places. The engraver gives ids of letters and figures to what has
    none, which can look like any other word: the line below parts them."""
    return f"note_b{bar}h{hit}"


class BarWriter:
    """Writes the layers of one bar; keeps what belongs to the measure's end."""

    def __init__(
        self,
        measure: Element,
        index: int,
        item: Scored,
        layout: Layout,
        sign: str = "",
        hat_open: bool = False,
    ) -> None:
        self.measure = measure
        self.index = index
        self.bar = item.bar
        self.item = item
        self.layout = layout
        self.sign = sign  # the element that stands for the whole bar
        self.places = {id(hit): place for place, hit in enumerate(item.bar.hits)}
        self.two_rows = _together(item)
        self.closing, _ = _closing_hats(item.bar.hits, hat_open)
        self.after: list[Element] = []
        self.written: dict[Hit, int] = {}  # how many notes go on from its first

    def write(self) -> None:
        bar = self.bar
        staff = SubElement(self.measure, "staff", {"n": "1"})
        if self.sign:
            sign = SubElement(SubElement(staff, "layer", {"n": "1"}), self.sign)
            if self.sign == "mRpt":
                sign.attrib |= {"num": "1", "num.visible": "false"}
            self._finish()
            return
        hands = [hit for hit in bar.hits if not hit.drum.by_foot]
        feet = [hit for hit in bar.hits if hit.drum.by_foot]
        self._layer(staff, "1", hands, "up", "rest" if hands or not feet else "space")
        if feet:
            self._layer(staff, "2", feet, "down", "space" if hands else "rest")
        self._finish()

    def _finish(self) -> None:
        if self.layout.counts:
            self._count_staff()
        self.measure.extend(self.after)
        for hit, many in self.written.items():
            names = [self._id(hit), *(f"{self._id(hit)}t{n}" for n in range(1, many + 1))]
            for one, other in pairwise(names):
                SubElement(self.measure, "tie", {"startid": f"#{one}", "endid": f"#{other}"})

    def last_id(self, hit: Hit) -> str:
        """Of the last note that a stroke is written with: a roll's ties leave from there."""
        many = self.written.get(hit, 0)
        return self._id(hit) + (f"t{many}" if many else "")

    def _layer(
        self, staff: Element, number: str, hits: list[Hit], stem: str, silence: str
    ) -> None:
        layer = SubElement(staff, "layer", {"n": number})
        slashed = self._from(MarkKind.SLASHES) if self.layout.shorthand else self.bar.length
        if not hits and slashed >= self.bar.length:
            SubElement(layer, "mRest" if silence == "rest" else "mSpace")
            return
        onsets: dict[Fraction, list[Hit]] = {}
        for hit in hits:
            onsets.setdefault(hit.at, []).append(hit)
        held = _held_rolls(hits, self.bar)
        ends = note_ends(hits, self.bar)
        pairs = _pairs(self.bar, onsets, held, min(slashed, self._from(MarkKind.FILL)))
        pairs -= {start for start in pairs for end in ends.values() if start < end <= start + 2}
        behind = {start + 1 for start in pairs}  # written with the beat before
        until = Fraction(0)  # how far notes have been written
        for start, length in self.bar.beats:
            if start in behind or until >= start + length:
                continue
            if start in pairs:
                self._pair(layer, start, onsets, held.get(start), stem, silence)
                continue
            if start >= slashed:
                self._slash(layer, write_beat([start], start, length).values[0])
                continue
            inside = [at for at in onsets if start <= at < start + length]
            carried = held.get(start)
            if not inside and not carried and start >= self._from(MarkKind.FILL):
                SubElement(
                    layer, "space", _duration(write_beat([start], start, length).values[0])
                )
                continue
            if carried and start not in inside:
                inside = [start, *inside]
            beat = write_beat(inside, start, length, ends, max(start, until))
            self._beat(layer, beat, onsets, carried, stem, silence)
            until = beat.end

    def _pair(
        self,
        layer: Element,
        start: Fraction,
        onsets: dict[Fraction, list[Hit]],
        carried: Hit | None,
        stem: str,
        silence: str,
    ) -> None:
        """Two beats as one: a rest of a minim, or a roll of one."""
        value = Value(start, "2", 0, start in onsets or carried is not None)
        if start in onsets:
            self._notes(layer, onsets[start], value, stem)
        elif carried:
            self._notes(layer, [carried], value, stem, tied=True)
        else:
            SubElement(layer, silence, _duration(value))

    def _from(self, kind: MarkKind) -> Fraction:
        """Where slashes or a fill space begin, the bar line if there are none."""
        starts = (mark.at for mark in self.bar.marks if mark.kind is kind)
        return next(starts, self.bar.length)

    def _slash(self, layer: Element, value: Value) -> None:
        if layer.get("n") == "2":
            SubElement(layer, "space", _duration(value))
            return
        slash = {"loc": "4", "head.shape": "slash", "stem.visible": "false"}
        SubElement(layer, "note", {**_duration(value), **slash})

    def _beat(
        self,
        layer: Element,
        beat: BeatValues,
        onsets: dict[Fraction, list[Hit]],
        carried: Hit | None,
        stem: str,
        silence: str,
    ) -> None:
        parent, short = layer, [v for v in beat.values if int(v.name) >= 8]
        beamed = len(short) > 1 and sum(value.sounds for value in short) > 1
        run = _beam_run(beat.values) if beamed else range(0)
        if beat.tuplet:
            # A rest before or behind the beam is held together with it by the bracket.
            parent = _tuplet(layer, beat, len(run) == len(beat.values))
        beam: Element | None = None
        for place, value in enumerate(beat.values):
            if place not in run:
                beam = None
            target = parent
            hits = onsets.get(value.at, [])
            if place in run:
                if beam is None:
                    # Verovio wants a grace outside a beam whose first note it leads to.
                    self._grace(parent, hits, stem)
                    beam = SubElement(parent, "beam")
                elif value.sounds:
                    self._grace(beam, hits, stem)
                target = beam
            elif value.sounds:
                self._grace(parent, hits, stem)
            if not value.sounds:
                SubElement(target, silence, _duration(value))
            elif hits:
                self._notes(target, hits, value, stem)
            else:
                tied = (
                    [carried] if carried else onsets[max(at for at in onsets if at < value.at)]
                )
                self._notes(target, tied, value, stem, tied=True)

    def _notes(
        self, parent: Element, hits: list[Hit], value: Value, stem: str, tied: bool = False
    ) -> None:
        roll = next((hit.roll for hit in hits if hit.roll), None)
        duration = {**_duration(value), "stem.dir": stem}
        if roll:
            duration["stem.mod"] = "z" if roll.kind is RollKind.BUZZ else "3slash"
            if roll.kind is not RollKind.BUZZ:
                parent = SubElement(parent, "bTrem")
        if len(hits) > 1:
            chord = SubElement(parent, "chord", duration)
            for hit in hits:
                self._note(chord, hit, {}, tied)
            self._articulations(chord, hits)
        else:
            note = self._note(parent, hits[0], duration, tied)
            self._articulations(note, hits)
        if roll and roll.strokes and not tied:
            self._say(str(roll.strokes), hits[0])

    def _note(self, parent: Element, hit: Hit, duration: dict[str, str], tied: bool) -> Element:
        row = hit.drum.row
        note = SubElement(parent, "note", {**duration, "loc": str(row.line)})
        self.written[hit] = 1 + self.written.get(hit, 0) if tied else 0
        note.set("xml:id", self._id(hit) + (f"t{self.written[hit]}" if tied else ""))
        if row.head == SLASHED:
            note.set("type", SLASHED)
            note.set("head.mod", "slash")
        elif row.head:
            note.set("head.shape", row.head)
        if hit.touch is Touch.GHOST:
            note.set("head.mod", "paren")
        place = self.places[id(hit)]
        hand = self.item.hands[place] if self.item.hands else None
        if self.layout.hands and hand and not tied:
            below = self.two_rows and hand is Hand.LEFT
            verse = SubElement(note, "verse", {"n": "2" if below else "1"})
            SubElement(verse, "syl").text = hit.grace.stuck(hand)
        return note

    def _id(self, hit: Hit) -> str:
        return note_id(self.index, self.places[id(hit)])

    def _articulations(self, note: Element, hits: list[Hit]) -> None:
        touches = {hit.touch for hit in hits}
        if Touch.STRONG in touches:
            SubElement(note, "artic", {"artic": "marc", "place": "above"})
        elif Touch.ACCENT in touches:
            SubElement(note, "artic", {"artic": "acc", "place": "above"})
        for hit in hits:
            if hit.drum in (Drum.HIHAT_OPEN, Drum.HIHAT_HALF):
                SubElement(note, "artic", {"artic": "open", "place": "above"})
            elif id(hit) in self.closing:
                SubElement(note, "artic", {"artic": "stop", "place": "above"})
            if hit.drum is Drum.HIHAT_HALF:
                self._say("half", hit)

    def _say(self, text: str, hit: Hit) -> None:
        words = Element("dir", {"startid": f"#{self._id(hit)}", "place": "above", "staff": "1"})
        words.text = text
        self.after.append(words)

    def _grace(self, parent: Element, hits: list[Hit], stem: str) -> None:
        graced = [hit for hit in hits if hit.grace is not Grace.NONE]
        if not graced:
            return
        hit = graced[0]
        row = hit.drum.row
        attributes = {"loc": str(row.line), "stem.dir": stem}
        if row.head and row.head != SLASHED:
            attributes["head.shape"] = row.head
        if hit.grace is Grace.FLAM:
            attributes |= {"grace": "unacc", "stem.mod": "1slash", "dur": "8"}
            SubElement(parent, "note", attributes)
            return
        group = SubElement(parent, "graceGrp", {"grace": "unacc"})
        beam = SubElement(group, "beam")
        for _ in range(hit.grace.notes):
            SubElement(beam, "note", {**attributes, "dur": "16"})

    def _count_staff(self) -> None:
        staff = SubElement(self.measure, "staff", {"n": "2"})
        layer = SubElement(staff, "layer", {"n": "1"})
        said = {at: (say, silent) for at, say, silent in self.item.counts}
        if not said:
            SubElement(layer, "mSpace")
            return
        for start, length in self.bar.beats:
            inside = [at for at in said if start <= at < start + length]
            beat = write_beat(inside, start, length)
            parent = _tuplet(layer, beat, True) if beat.tuplet else layer
            for value in beat.values:
                if not value.sounds:
                    SubElement(parent, "space", _duration(value))
                    continue
                say, silent = said[value.at]
                note = SubElement(parent, "note", {**_duration(value), "loc": "0", **HIDDEN})
                verse = SubElement(note, "verse", {"n": "1"})
                if silent:
                    verse.set("color", SILENT_COLOUR)
                SubElement(verse, "syl").text = say


def _duration(value: Value) -> dict[str, str]:
    duration = {"dur": value.name}
    if value.dots:
        duration["dots"] = str(value.dots)
    return duration


def _tuplet(layer: Element, beat: BeatValues, beamed: bool) -> Element:
    """With its number, hands and feet alike; one that no beam holds together has a bracket."""
    num, normal = beat.tuplet or (1, 1)
    bracket = "false" if beamed or not beat.sounding else "true"
    attributes = {"num": str(num), "numbase": str(normal), "bracket.visible": bracket}
    attributes["num.place"] = attributes["bracket.place"] = (
        "below" if layer.get("n") == "2" else "above"
    )
    alone = layer.get("n") == "2" and sum(value.sounds for value in beat.values) < 2
    if not beat.sounding or alone:  # one note of the feet stands under the hands' number
        attributes |= {"num.visible": "false", "bracket.visible": "false"}
    return SubElement(layer, "tuplet", attributes)


def _beam_run(values: Sequence[Value]) -> range:
    """The places to beam: from the first short note to the last, rests inside."""
    short = [i for i, value in enumerate(values) if value.sounds and int(value.name) >= 8]
    if any(int(value.name) < 8 for value in values[short[0] : short[-1] + 1]):
        return range(0)
    return range(short[0], short[-1] + 1)


def _pairs(
    bar: Bar,
    onsets: dict[Fraction, list[Hit]],
    held: dict[Fraction, Hit],
    until: Fraction,
) -> set[Fraction]:
    """Where two beats of a bar in crotchets are written as one: both silent, or both under one
    roll."""
    found = set()
    for start in halves(bar):
        end = start + 2
        if end > min(bar.length, until) or any(start < at < end for at in onsets):
            continue
        here = onsets.get(start, [])
        roll = held.get(start) or next((hit for hit in here if hit.roll), None)
        rolls = roll is not None and roll.end >= end and len(here) < 2
        if rolls or not (here or held.get(start) or held.get(start + 1)):
            found.add(start)
    return found


def _held_rolls(hits: Sequence[Hit], bar: Bar) -> dict[Fraction, Hit]:
    """Beat starts at which a roll begun earlier still sounds: written as a tied note."""
    return {
        start: hit
        for start, _ in bar.beats
        for hit in hits
        if hit.roll and hit.at < start < hit.at + hit.roll.length
    }


def hat_left_open(bar: Bar, before: bool = False) -> bool:
    """Is the hat open at the bar line, where it was or was not ``before`` the bar?"""
    return _closing_hats(bar.hits, before)[1]


def _closing_hats(hits: Sequence[Hit], open_before: bool) -> tuple[set[int], bool]:
    """(the ids of closed hats that follow an open one, over the bar line too: they carry the +;
    whether the hat is open at the end)."""
    closing = set()
    for hit in hits:
        if hit.drum in (Drum.HIHAT_OPEN, Drum.HIHAT_HALF):
            open_before = True
        elif hit.drum is Drum.HIHAT_FOOT:
            open_before = False
        elif hit.drum is Drum.HIHAT and open_before:
            closing.add(id(hit))
            open_before = False
    return closing, open_before


def _together(item: Scored) -> bool:
    """Do both hands strike at once anywhere? Then each hand has its own row."""
    times = [hit.at for hit, hand in zip(item.bar.hits, item.hands, strict=False) if hand]
    return len(times) != len(set(times))
