"""Reads the drums of a MIDI file into a chart, and tells what it moved, merged and left out.

Repeats are not recovered: every bar stands
as it is played.
"""

from bisect import bisect_right
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from functools import lru_cache
from itertools import pairwise
from statistics import fmean, median

from quicktions import Fraction

from wren_ladder.drumming.chart import (
    Bar,
    Chart,
    ChartError,
    Drum,
    Grace,
    Hit,
    Meter,
    Problem,
    Surface,
)
from wren_ladder.drumming.chart.swing import STRAIGHT, Swing
from wren_ladder.drumming.notation.midi.asked import (
    Taken,
    moved_along,
    offer_count_in,
    take_short_opening,
    take_time,
)
from wren_ladder.drumming.notation.midi.file import MidiFile, open_file
from wren_ladder.drumming.notation.midi.graces import Stroke, take_graces
from wren_ladder.drumming.notation.midi.grid import Beat, Played, fit_grids
from wren_ladder.drumming.notation.midi.habit import follow_habit
from wren_ladder.drumming.notation.midi.keys import drums_of, said_of
from wren_ladder.drumming.notation.midi.loudness import (
    Loudness,
    by_habit,
    read_loudness,
)
from wren_ladder.drumming.notation.midi.pads import HATS, Hat, Kit, Pedal, take_hat, take_kit
from wren_ladder.drumming.notation.midi.swung import written_shares
from wren_ladder.drumming.notation.midi.timing import (
    BarLine,
    Clock,
    bar_lines,
    clock_of,
    tempo_marks,
)
from wren_ladder.drumming.notation.midi.tracks import CHANNEL
from wren_ladder.drumming.notation.reading import (
    Choice,
    Heard,
    Part,
    Reading,
    ReadingNotes,
    Sources,
    offer_pickup,
    report_bars,
)

GRACES = {0: Grace.NONE, 1: Grace.FLAM, 2: Grace.DRAG, 3: Grace.RUFF}
LOUDEST = 127
FAR_OFF, BEYOND = 30, 2.5  # ms; times the usual spread; what is moved further is told
TO_SPREAD = 1.4826  # from the median of a normal spread to its sigma; any handbook
SURFACES = tuple(Surface)
Placed = tuple[int, Fraction, Stroke]  # (bar, crotchets from its bar line, the stroke)


def read_midi(data: bytes) -> tuple[Chart, tuple[Problem, ...]]:
    """A chart and what was guessed or left out, as ``open_midi`` reads them."""
    reading = open_midi(data)
    return reading.chart, reading.problems


def open_midi(
    data: bytes,
    drums: Mapping[str, str] | None = None,
    taken: Collection[str] = (),
    parts: Collection[str] = (),
) -> Reading:
    """The file's drums, and how each key was understood.

    ``drums`` are a teacher's corrections, by the key of a Source, ``taken`` the codes of the
    offers that were chosen, ``parts`` the keys of the tracks to read. ChartError if the data
    are no MIDI file or hold no drums.
    """
    file = open_file(data, parts)
    reading_notes, sources = ReadingNotes(), Sources(drums or {})
    _tell_tracks(file, reading_notes)
    clock = clock_of(file)
    strokes, unknown, kit = _strokes(file, clock, sources, taken, reading_notes)
    if not strokes:
        raise ChartError("no key of the file is read as a drum; choose one for a key at least")
    gathered, graces = take_graces(strokes, taken)
    kept, count_in = offer_count_in(gathered, taken)
    time = take_time(file, kept, taken, reading_notes)
    unknown = [
        (at, said)
        for at, (_, said) in zip(
            moved_along([at for at, _ in unknown], kept, time.strokes), unknown, strict=True
        )
    ]
    kept, loudness = read_loudness(time.strokes, taken)
    kept.sort(key=lambda one: one.at)
    file, clock = time.file, time.clock
    until = max([kept[-1].at, *(at for at, _ in unknown)])
    lines = bar_lines(file, until, reading_notes)
    swings = [time.swing_at(float(line.start)) for line in lines]
    placed, offs = _place(kept, lines, clock, time)
    if loudness.chosen is Loudness.LEVELS:
        placed = by_habit(placed)
    if placed[-1][0] == len(lines):  # the last stroke belongs to a bar behind
        lines.append(_following(lines[-1]))
        swings.append(swings[-1])
    _tell_unknown(unknown, lines, reading_notes)
    _tell_moved(placed, offs, lines, reading_notes)
    hits = _hits(placed, lines, reading_notes)
    marks = tempo_marks(lines, file, clock, reading_notes)
    bars = tuple(
        Bar(line.number, line.meter, tuple(found), line.length, tempo=mark, swing=swing)
        for line, found, mark, swing in zip(lines, hits, marks, _said_once(swings), strict=True)
    )
    bars, short = take_short_opening(bars, taken)
    if short and bars[0].pickup and not set(taken) & {way.code for way in short[0].ways}:
        text = f"the file's first bar, in {lines[0].meter}, is read as a pick-up"
        reading_notes.guess(text, lines[0].number)
    chosen, offers = offer_pickup(bars, taken)
    reading_notes.renumber(
        {line.number: bar.number for line, bar in zip(lines, chosen, strict=True)}
    )
    chart = Chart(file.title, chosen)
    problems = (
        Problem("midi-grid", _summary(offs, reading_notes)),
        *reading_notes.problems("midi"),
    )
    report = report_bars(chart, reading_notes)
    choices = (*time.choices, *short, loudness, *graces, *kit)
    heard = tuple(Heard(one.ms / 1000, one.drum, one.strength / LOUDEST) for one in strokes)
    offers = (*count_in, *offers)
    return Reading(chart, problems, sources.all(), _parts(file), report, offers, choices, heard)


def _said_once(swings: Sequence[Swing]) -> list[Swing | None]:
    """The mark of each bar, None where it goes on as before."""
    before = [STRAIGHT, *swings]
    return [now if now != last else None for last, now in pairwise(before)]


def _strokes(
    file: MidiFile,
    clock: Clock,
    sources: Sources,
    taken: Collection[str],
    reading_notes: ReadingNotes,
) -> tuple[list[Stroke], list[tuple[float, str]], tuple[Choice, ...]]:
    """(those of a drum, (crotchets, key) of the others, how the kit and its hat are read)."""
    many = Counter(one.key for one in file.strokes)
    kit = take_kit(many, file.pedal, taken)
    guesses = drums_of(many, kit.chosen)
    drums = {}
    for key, notes in many.items():
        guess, why = guesses.get(key, (None, ""))
        drums[key] = sources.meet(f"key {key}", said_of(key), guess, why, notes)
    hat = take_hat(drums, many, file.pedal, taken)
    pedal = _pedal(file, drums) if hat and hat[0].chosen == Hat.PEDAL else None
    if pedal is not None:
        reading_notes.guess("how far the hat is open is read from its pedal (controller 4)", "")
    found, unknown = [], []
    for struck in file.strokes:
        drum = drums[struck.key]
        at = struck.tick / file.ticks_per_crotchet
        if drum:
            if pedal is not None and drum in HATS:
                drum = pedal.hat_at(struck.tick)
            found.append(Stroke(at, clock.at(at), drum, struck.strength))
        else:
            unknown.append((at, said_of(struck.key)))
    told = (kit,) if kit.chosen == Kit.PADS or Kit.PADS in taken or Kit.MAP in taken else ()
    return found, unknown, (*told, *hat)


def _pedal(file: MidiFile, drums: Mapping[int, Drum | None]) -> Pedal:
    by_stick = [one.tick for one in file.strokes if drums[one.key] in HATS]
    by_foot = [one.tick for one in file.strokes if drums[one.key] is Drum.HIHAT_FOOT]
    return Pedal(file.pedal, by_stick, by_foot)


def _place(
    strokes: Sequence[Stroke], lines: Sequence[BarLine], clock: Clock, time: Taken
) -> tuple[list[Placed], list[float]]:
    """Each stroke's place, in order, and how far it was moved, in milliseconds."""
    beats = [
        beat for place, line in enumerate(lines) for beat in _beats(place, line, clock, time)
    ]
    starts = [beat.begin for beat in beats]
    inside: list[list[Stroke]] = [[] for _ in beats]
    for stroke in strokes:
        inside[max(0, bisect_right(starts, stroke.at) - 1)].append(stroke)
    numbers = {drum: SURFACES.index(drum.surface) for drum in {one.drum for one in strokes}}
    played = []
    for beat, mine in zip(beats, inside, strict=True):
        begin, length = beat.begin, float(beat.length)
        shares = [(one.at - begin) / length for one in mine]
        played.append(Played(shares, [numbers[one.drum] for one in mine]))
    fits = follow_habit(beats, played, fit_grids(beats, played))
    placed: list[Placed] = []
    offs = []
    for beat, mine, fit in zip(beats, inside, fits, strict=True):
        if not mine:
            continue
        bar = lines[beat.bar].length
        swing = STRAIGHT if beat.ternary else time.swing_at(beat.begin)
        written = written_shares(swing, fit.parts, tuple(set(fit.cells)))
        cells = _cells(beat.start, beat.length, written, bar)
        width = float(beat.length) / fit.parts
        to_ms = beat.ms / float(beat.length)
        for stroke, cell in zip(mine, fit.cells, strict=True):
            at, over = cells[cell]
            placed.append((beat.bar + over, at, stroke))
            offs.append(abs(stroke.at - beat.begin - width * cell) * to_ms)
    return placed, offs


@lru_cache(maxsize=512)
def _cells(
    start: Fraction, beat: Fraction, shares: tuple[Fraction, ...], bar: Fraction
) -> tuple[tuple[Fraction, int], ...]:
    """The places of a grid, by their shares of the beat, and the start of the next beat:
    (crotchets from the bar line, 1 where that is the next one's)."""
    places = [start + share * beat for share in shares]
    return tuple((at - bar, 1) if at >= bar else (at, 0) for at in places)


def _beats(place: int, line: BarLine, clock: Clock, time: Taken) -> list[Beat]:
    """The beats of a bar as a player feels them, none longer than a dotted crotchet."""
    found = []
    opens = float(line.start)
    for start, length in _felt(line.meter, line.length):
        begin = opens + float(start)
        ms = clock.at(begin + float(length)) - clock.at(begin)
        found.append(Beat(start, length, begin, ms, place, time.grids_at(begin)))
    return found


@lru_cache(maxsize=64)
def _felt(meter: Meter, bar: Fraction) -> tuple[tuple[Fraction, Fraction], ...]:
    """(start, length) in crotchets from the bar line, as far as the bar reaches."""
    starts = []
    for start, length in zip(meter.beat_starts, meter.groups, strict=True):
        part = Fraction(3, 2) if length % Fraction(3, 2) == 0 else min(length, Fraction(1))
        at = Fraction(0)
        while at < length:
            starts.append(start + at)
            at += part
    inside = [start for start in starts if start < bar]
    return tuple((start, end - start) for start, end in pairwise([*inside, bar]))


def _following(line: BarLine) -> BarLine:
    start = line.start + line.length
    return BarLine(str(int(line.number) + 1), start, line.meter, line.meter.length)


def _hits(
    placed: Sequence[Placed],
    lines: Sequence[BarLine],
    reading_notes: ReadingNotes,
) -> list[list[Hit]]:
    """The hits of each bar. Of two strokes of one surface at one place the louder is kept, and
    that is told."""
    rows: list[dict] = [{} for _ in lines]
    merged: Counter[tuple[int, str]] = Counter()
    graced: dict[int, list[Fraction]] = {}
    for bar, at, stroke in placed:
        key = (at, stroke.drum.surface)
        graced.setdefault(bar, []).extend([at] * stroke.graces)
        other = rows[bar].setdefault(key, stroke)
        if other is not stroke:
            stroke, less = sorted((stroke, other), key=lambda one: one.strength)[::-1]
            merged[bar, _said(stroke, less)] += 1 + less.graces
            del graced[bar][: less.graces]
            rows[bar][key] = stroke
    for (bar, said), many in merged.items():
        reading_notes.leave(f"{said} ({many})" if many > 1 else said, lines[bar].number)
    for bar, places in graced.items():
        many = len(places)
        soft = "a soft stroke" if many == 1 else f"{many} soft strokes"
        text = f"{soft} just before a louder one read as grace notes"
        for at in places:
            reading_notes.guess(text, lines[bar].number, at)
    return [
        [
            Hit(at, stroke.drum, stroke.touch, GRACES[stroke.graces])
            for (at, _), stroke in row.items()
        ]
        for row in rows
    ]


def _said(kept: Stroke, lost: Stroke) -> str:
    if kept.drum is lost.drum:
        return f"{kept.drum.spoken} struck twice at one place; once is kept"
    drums = f"{kept.drum.spoken} and {lost.drum.spoken}"
    return f"{drums} at one place; the {kept.drum.spoken} is kept"


def _tell_unknown(
    unknown: Sequence[tuple[float, str]],
    lines: Sequence[BarLine],
    reading_notes: ReadingNotes,
) -> None:
    starts = [float(line.start) for line in lines]
    for at, said in unknown:
        number = lines[bisect_right(starts, at) - 1].number
        reading_notes.leave(f"{said}, is no drum here", number)


def _tell_moved(
    placed: Sequence[Placed],
    offs: Sequence[float],
    lines: Sequence[BarLine],
    reading_notes: ReadingNotes,
) -> None:
    """Strokes that lay far off the grid, and further than the others do, are a guess."""
    usual = TO_SPREAD * median(offs)
    far = max(FAR_OFF, BEYOND * usual)
    text = f"notes moved to the grid by more than {far:.0f} ms"
    for (bar, at, _), off in zip(placed, offs, strict=True):
        if off > far:
            reading_notes.guess(text, lines[bar].number, at)


def _tell_tracks(file: MidiFile, reading_notes: ReadingNotes) -> None:
    """Tracks that are not on the drums' channel are a guess."""
    for track in file.tracks:
        if track.key not in file.chosen or track.channel == CHANNEL:
            continue
        why = "by its name" if track.is_named else "by what is played on it"
        if not track.is_named and not track.sounds_like_drums:
            why = "as it was chosen" if len(file.tracks) > 1 else "the only one there is"
        said = f"{track.name} on channel {track.channel + 1} is read as the drums, {why}"
        reading_notes.guess(said, "")


def _parts(file: MidiFile) -> tuple[Part, ...]:
    """The tracks to choose from, where there are several."""
    if len(file.tracks) < 2:
        return ()
    return tuple(
        Part(
            one.key,
            f"{one.name} (channel {one.channel + 1}, {one.many} notes)",
            one.channel == CHANNEL or one.is_named or one.sounds_like_drums,
            one.key in file.chosen,
        )
        for one in file.tracks
    )


def _summary(offs: Sequence[float], reading_notes: ReadingNotes) -> str:
    """How far the strokes were moved; never better than what stands in the list below it."""
    average, most = fmean(offs), max(offs)
    told = "; what was guessed or left out is told" if reading_notes.bars else ""
    if most < 1:
        return f"every note lay on the grid{told}"
    moved = f"notes were moved to the grid by {average:.0f} ms on average, {most:.0f} at most"
    return moved + told
