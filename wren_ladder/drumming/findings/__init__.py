"""What is hard in the music, or wrong: found once, weighed and worded from the same values."""

from wren_ladder.drumming.findings.finding import Code, Finding
from wren_ladder.drumming.findings.weights import Weighed, rank, weigh
from wren_ladder.drumming.findings.words import say, watch_for

__all__ = ["Code", "Finding", "Weighed", "rank", "say", "watch_for", "weigh"]
