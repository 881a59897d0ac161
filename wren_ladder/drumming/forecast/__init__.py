"""When a climb is over: its pace, many simulated journeys, and what would change the answer."""

from wren_ladder.drumming.forecast.journey import Forecast, Journey, forecast
from wren_ladder.drumming.forecast.outlook import (
    BUFFER,
    MOST_DAYS,
    RISK,
    Left,
    Lever,
    Outlook,
    Status,
    levers,
    nearer,
    outlook,
    pace,
)
from wren_ladder.drumming.forecast.pace import (
    Habit,
    Track,
    habit_of,
    own_gain,
    practice_days,
)
from wren_ladder.drumming.forecast.slope import Slope, theil_sen

__all__ = [
    "BUFFER",
    "MOST_DAYS",
    "RISK",
    "Forecast",
    "Habit",
    "Journey",
    "Left",
    "Lever",
    "Outlook",
    "Slope",
    "Status",
    "Track",
    "forecast",
    "habit_of",
    "levers",
    "nearer",
    "outlook",
    "own_gain",
    "pace",
    "practice_days",
    "theil_sen",
]
