"""The order in which the printed bars are played."""

from wren_ladder.drumming.roadmap.along import (
    Leg,
    legs,
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
    "road_map",
    "what_follows",
]
