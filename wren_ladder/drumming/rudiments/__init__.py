"""The forty rudiments: written, played, drilled, and found again inside any bar."""

from wren_ladder.drumming.rudiments.drills import inversion_drills
from wren_ladder.drumming.rudiments.listed import RUDIMENTS, by_name
from wren_ladder.drumming.rudiments.recognise import FoundRudiment, find_rudiments
from wren_ladder.drumming.rudiments.rolls import roll_skeleton
from wren_ladder.drumming.rudiments.rudiment import Family, Rudiment, RudimentStroke

__all__ = [
    "RUDIMENTS",
    "Family",
    "FoundRudiment",
    "Rudiment",
    "RudimentStroke",
    "by_name",
    "find_rudiments",
    "inversion_drills",
    "roll_skeleton",
]
