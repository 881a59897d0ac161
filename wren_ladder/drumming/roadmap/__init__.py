"""The order in which the printed bars are played, and how long that takes."""

from wren_ladder.drumming.roadmap.along import (
    Leg,
    legs,
    play_seconds,
    what_follows,
)
from wren_ladder.drumming.roadmap.walk import MOST_VISITS, RoadMap, Turn, Visit, road_map

__all__ = [
    "MOST_VISITS",
    "Leg",
    "RoadMap",
    "Turn",
    "Visit",
    "legs",
    "play_seconds",
    "road_map",
    "what_follows",
]
