"""What is hard in the music, or wrong: found once, weighed and worded from the same values."""

from wren_ladder.drumming.findings.finding import Finding, Kind
from wren_ladder.drumming.findings.weights import (
    Weighed,
    beyond,
    rank,
    weigh,
    worth_telling,
)
from wren_ladder.drumming.findings.words import watch_for

__all__ = [
    "Finding",
    "Kind",
    "Weighed",
    "beyond",
    "rank",
    "watch_for",
    "weigh",
    "worth_telling",
]
