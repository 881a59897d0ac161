"""Musical time and clock time: the one place where crotchets become seconds, and back."""

from collections.abc import Sequence

from quicktions import Fraction

from wren_ladder.drumming.chart import Tempo
from wren_ladder.drumming.chart.gradual import Gradual, lasting


def seconds(length: Fraction, tempo: Tempo, share: Fraction = Fraction(1)) -> float:
    """Sounding time; length and tempo.beat in crotchets, played at ``share`` of the tempo."""
    return float(length / tempo.beat * 60 / (tempo.bpm * share))


def bar_seconds(
    at: Fraction, tempo: Tempo, share: Fraction, graduals: Sequence[Gradual]
) -> float:
    """From where a bar starts to ``at`` in it, with what bends its tempo."""
    if not graduals:
        return seconds(at, tempo, share)
    return lasting(at, graduals) * seconds(Fraction(1), tempo, share)


def crotchets(time: Fraction, tempo: Tempo, share: Fraction = Fraction(1)) -> Fraction:
    """How far the music goes in ``time`` seconds; exact, for what has a time of its own."""
    return time * tempo.beat * tempo.bpm * share / 60


def per_second(gap: Fraction, tempo: Tempo) -> float:
    """How many strokes a second come ``gap`` crotchets apart."""
    return 1 / seconds(gap, tempo)


def strokes_per_second(step: Fraction, tempo: Tempo) -> float:
    """How fast the doubled notes of a roll come if its skeleton's notes are ``step`` crotchets
    apart: a semiquaver triplet (1/6) at crotchet = 60 gives 12. Arithmetic."""
    return per_second(step / 2, tempo)


def clock(total_seconds: float) -> str:
    """Seconds as teachers write them: 104.4 -> "1:44"."""
    whole = round(total_seconds)
    return f"{whole // 60}:{whole % 60:02d}"
