"""Bars typed the way teachers say them: one line per drum, beats and their parts."""

from wren_ladder.drumming.notation.counts.read import read_bar, read_chart
from wren_ladder.drumming.notation.counts.write import write_bar, write_chart

__all__ = ["read_bar", "read_chart", "write_bar", "write_chart"]
