"""What the player of a page needs to sound some bars: strokes in crotchets, and a count-in."""

from collections.abc import Sequence
from fractions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Tempo
from wren_ladder.drumming.counting import count_in
from wren_ladder.drumming.notation.midi.writer import strike

LOUDEST = 127
VOICE_OF_KEY = {drum.row.key_written: drum.row.sound for drum in reversed(Drum)}


def sound_of(bars: Sequence[Bar], tempo: Tempo, gap: int = 0) -> dict:
    """For JSON: times in crotchets from the first bar, strengths from 0 to 1.

    ``gap`` is how many empty bars follow before it comes again.
    """
    strokes: list[list] = []
    clicks: list[float] = []
    now = Fraction(0)
    for bar in bars:
        strokes += (
            [float(now + stroke.at), VOICE_OF_KEY[stroke.key], stroke.strength / LOUDEST]
            for stroke in strike(bar)
        )
        clicks += (float(now + start) for start, _ in bar.beats)
        now += bar.length
    for _ in range(gap):
        last = bars[-1].meter
        clicks += (float(now + start) for start in last.beat_starts)
        now += last.length
    counted = count_in(bars[0])
    return {
        "strokes": sorted(strokes),
        "clicks": clicks,
        "length": float(now),
        "beat": float(tempo.beat),
        "bpm": tempo.bpm,
        "countIn": [float(at) for at in counted.clicks],
        "before": float(counted.length),
    }
