"""A teacher's house rules: what the core does wherever the schools differ."""

from dataclasses import dataclass

from wren_ladder.drumming.chart import Hand


@dataclass(frozen=True, slots=True)
class Style:
    """Defaults are common practice; every function that has to choose takes one."""

    lead: Hand = Hand.RIGHT  # the hand that starts and keeps the cymbal pattern
    hand_limit: float = 6.0  # strokes a second for one hand without bounce; from memory
    clean_bars: int = 32  # bars in a row that earn a rung
    rung: int = 5  # BPM from one rung to the next
    start_share: int = 75  # per cent of exam speed where a climb starts
    repeats_after_jump: bool = False  # where the page is silent after a D.C. or D.S.
    failures: int = 2  # failed tries in a row that call for a drop


HOUSE = Style()
