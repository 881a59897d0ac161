"""Conversions between musical time and clock time."""

from fractions import Fraction

from wren_ladder.drumming.chart.tempo import Tempo


def seconds(length: Fraction, tempo: Tempo) -> float:
    """Sounding time in seconds; length and tempo.beat in crotchets."""
    return float(length / tempo.beat * 60 / tempo.bpm)


def clock(total_seconds: float) -> str:
    """Seconds as teachers write them: 104.4 -> "1:44"."""
    whole = round(total_seconds)
    return f"{whole // 60}:{whole % 60:02d}"
