"""The same work by libraries that others wrote, each beside ours and in the same minute.

    python -m bench.peers

Processor time, the least of some runs; prints ours, theirs and what ours is of theirs.
"""

import gc
import io
import os
import random
import tempfile
import time
import warnings
from collections.abc import Callable

from bench.run import BARS, chart_text

RUNS = 5
STROKES = 4_000


def least(work: Callable[[], object], before: Callable[[], object] = gc.collect) -> float:
    """Milliseconds of the processor."""
    times = []
    for _ in range(RUNS):
        before()
        begun = time.process_time()
        work()
        times.append(time.process_time() - begun)
    return 1000 * min(times)


def tell(name: str, ours: float, peer: str, theirs: float) -> None:
    said = f"{peer} {theirs:7.1f} ms   {ours / theirs:.2f} of it"
    print(f"{name:<44} {ours:7.1f} ms   {said}", flush=True)


def run() -> None:
    os.environ.setdefault("WREN_DATA", tempfile.mkdtemp(prefix="wren-bench-"))
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "wren_ladder.studio.settings")
    import django

    django.setup()
    warnings.simplefilter("ignore")  # theirs, of drums that are no notes
    musicxml()
    midi()
    cards()
    judging()


def musicxml() -> None:
    """200 bars with repeats read, and their play order; 100 different bars written."""
    import music21
    import partitura

    from wren_ladder.drumming.notation.counts import read_chart
    from wren_ladder.drumming.notation.musicxml import read_musicxml, write_musicxml
    from wren_ladder.drumming.roadmap import road_map

    text = chart_text(12).replace("bar 9\n", "bar 9\nrepeat start\n")
    text = text.replace("bar 16 as 4", "bar 16 as 4\nrepeat end 3")
    more = "\n".join(f"bar {n} as {n - 100}" for n in range(101, 201))
    chart = read_chart(f"{text}\n{more}")
    data = write_musicxml(chart).encode()
    theirs = music21.converter.parseData(data, format="musicxml", forceSource=True).parts[0]
    tell(
        "MusicXML of 200 bars read",
        least(lambda: read_musicxml(data)),
        "music21",
        least(lambda: music21.converter.parseData(data, format="musicxml", forceSource=True)),
    )
    tell(
        "play order of 200 bars",
        least(lambda: road_map(chart.bars)),
        "music21",
        least(theirs.expandRepeats),
    )
    different = read_chart(chart_text(BARS))
    pitched = write_musicxml(different)  # partitura 1.9 stumbles over chords without a pitch
    for ours, its in (
        ("unpitched", "pitch"),
        ("display-step", "step"),
        ("display-octave", "octave"),
    ):
        pitched = pitched.replace(f"<{ours}>", f"<{its}>").replace(f"</{ours}>", f"</{its}>")
    score = partitura.load_musicxml(io.BytesIO(pitched.encode()))
    tell(
        f"MusicXML of {BARS} different bars written",
        least(lambda: write_musicxml(different)),
        "partitura",
        least(lambda: partitura.save_musicxml(score)),
    )


def midi() -> None:
    """Read as it was written, read as it was played (15 ms off the grid), and written."""
    import pretty_midi

    from wren_ladder.drumming.notation.counts import read_chart
    from wren_ladder.drumming.notation.midi import open_midi
    from wren_ladder.drumming.notation.midi.file import open_file
    from wren_ladder.drumming.performance import perform
    from wren_ladder.drumming.performance.midi import write_midi
    from wren_ladder.drumming.study import study

    chart = read_chart(chart_text(BARS))
    performance = perform(study(chart).road)
    even, played = write_midi(performance), played_midi()
    for name, data in ((f"{BARS} written bars", even), ("200 played bars", played)):
        theirs = least(lambda d=data: pretty_midi.PrettyMIDI(io.BytesIO(d)))
        strokes = least(lambda d=data: open_file(d))
        tell(f"MIDI of {name}: its strokes", strokes, "pretty_midi", theirs)
        bars = least(lambda d=data: open_midi(d))
        tell("  and the bars they are", bars, "pretty_midi, no bars,", theirs)
    song = pretty_midi.PrettyMIDI(io.BytesIO(even))
    tell(
        f"MIDI of {BARS} different bars written",
        least(lambda: write_midi(performance)),
        "pretty_midi",
        least(lambda: song.write(io.BytesIO())),
    )


def played_midi() -> bytes:
    import mido

    dice = random.Random(1)
    events = []
    for crotchet in range(800):
        for part in range(4):
            tick = round((crotchet + part / 4) * 480 + dice.gauss(0, 14))
            for key in (42, *((36,) if part == 0 else ()), *((38,) if part > 1 else ())):
                events += [(max(0, tick), 1, key), (max(0, tick) + 30, 0, key)]
    track, now = mido.MidiTrack(), 0
    for tick, on, key in sorted(events):
        track.append(
            mido.Message("note_on", channel=9, note=key, velocity=90 * on, time=tick - now)
        )
        now = tick
    song, data = mido.MidiFile(type=0, ticks_per_beat=480), io.BytesIO()
    song.tracks.append(track)
    song.save(file=data)
    return data.getvalue()


def cards() -> None:
    """100 different cards engraved, with their MEI written and their SVG cut apart, beside the
    engraver alone on that MEI."""
    from dataclasses import replace

    import verovio
    from django.core.cache import caches

    from wren_ladder.drumming.notation.counts import read_chart
    from wren_ladder.drumming.notation.mei import write_mei
    from wren_ladder.drumming.study import study
    from wren_ladder.studio.drawing import engraving
    from wren_ladder.studio.pieces.studies import CARD_LAYOUT

    bars = study(read_chart(chart_text(BARS))).bars
    apart = replace(CARD_LAYOUT, apart=True)
    mei = write_mei([engraving.scored(bar) for bar in bars], apart)
    toolkit = verovio.toolkit()
    toolkit.setOptions(
        engraving.OPTIONS
        | {
            "pageWidth": engraving.CARD_WIDTH,
            "breaks": "encoded",
            "pageHeight": engraving.TALLEST_PAGE,
            "mnumInterval": 0,
        }
    )

    def bare():
        toolkit.loadData(mei)
        return [toolkit.renderToSVG(page + 1) for page in range(toolkit.getPageCount())]

    def ours():
        return engraving.engrave_named(bars, CARD_LAYOUT, engraving.CARD_WIDTH)

    tell(
        f"{BARS} cards engraved cold",
        least(ours, caches["engravings"].clear),
        "bare Verovio",
        least(bare),
    )


def judging() -> None:
    """A take of 4,000 strokes. Nobody else does it."""
    from wren_ladder.drumming.notation.counts import read_chart
    from wren_ladder.drumming.performance import perform
    from wren_ladder.drumming.study import study
    from wren_ladder.drumming.take_sources.heard import Source
    from wren_ladder.drumming.take_sources.simulated import play
    from wren_ladder.drumming.takes.hear import hear
    from wren_ladder.drumming.takes.limits import house_rule

    text = "tempo crotchet = 118\nhat 16ths\nsnare 2 4, ghost 1a 3e\nkick 1 2& 3 4a\nfoot 2 4\n"
    road = study(read_chart(text, title="Long")).road
    performance = perform(road)
    passes = round(300 / performance.seconds)
    heard = play(performance, road, passes, 1)[:STROKES]
    ours = least(lambda: hear(road, heard, passes, house_rule(3), Source.KIT))
    print(f"{f'a take of {len(heard)} strokes judged':<44} {ours:7.1f} ms")


if __name__ == "__main__":
    run()
