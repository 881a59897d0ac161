"""A recording to play along with, made up: blips where the strokes of a performance are."""

import io
import math
import wave
from array import array

from wren_ladder.drumming.performance import Performance

RATE = 11025  # samples a second
BLIP = 0.06  # seconds
PITCHES = {"kick": 90, "snare": 330}  # Hz; all others are higher
HIGH = 1800


def made_up_recording(performance: Performance, second: float, pace: float) -> bytes:
    """A WAV file in which bar 1 begins at ``second`` and a second of the performance lasts
    ``pace`` seconds."""
    samples = array("h", bytes(2 * int(RATE * (second + performance.seconds * pace + 2))))
    for onset in performance.onsets:
        first = int(RATE * (second + onset.at * pace))
        pitch = PITCHES.get(onset.drum.value, HIGH)
        for place in range(int(RATE * BLIP)):
            fading = math.exp(-place / (RATE * BLIP / 4))
            stroke = 7000 * onset.strength * fading * math.sin(math.tau * pitch * place / RATE)
            at = first + place
            samples[at] = max(-32768, min(32767, samples[at] + int(stroke)))
    file = io.BytesIO()
    with wave.open(file, "wb") as sound:
        sound.setnchannels(1)
        sound.setsampwidth(2)
        sound.setframerate(RATE)
        sound.writeframes(samples.tobytes())
    return file.getvalue()
