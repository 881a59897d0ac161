"""Hearing: how long a day a loud drum set may be played. No diagnosis; local rules first.

A kit is commonly 95 to 110 dBA at the player (from memory).
"""

from dataclasses import dataclass
from enum import StrEnum

USUAL_LEVEL = 100  # dBA
QUIETEST, LOUDEST = 60, 130  # dBA that can be entered
MOST_RATING = 40  # dB of a protector


class HearingRule(StrEnum):
    """Whose limit; the stricter is the house's."""

    NIOSH = "NIOSH"  # publication 98-126: 85 dBA for 8 hours, halved for each 3 dB
    OSHA = "OSHA"  # 29 CFR 1910.95: 90 dBA for 8 hours, halved for each 5 dB


LIMITS = {HearingRule.NIOSH: (85, 3), HearingRule.OSHA: (90, 5)}


def allowed_minutes(level: float, rule: HearingRule = HearingRule.NIOSH) -> float:
    """Minutes a day at a level in dBA: 480 / 2^((L - 85) / 3) by NIOSH."""
    limit, exchange = LIMITS[rule]
    return 480 / 2 ** ((level - limit) / exchange)


@dataclass(frozen=True, slots=True)
class Ears:
    """The level at the player and what a protector takes off it: the teacher's own entries,
    for nobody here has measured either."""

    level: int = USUAL_LEVEL
    rating: int = 0
    rule: HearingRule = HearingRule.NIOSH

    @property
    def budget(self) -> int:
        """Whole minutes a day on the kit."""
        return int(min(24 * 60, allowed_minutes(self.level - self.rating, self.rule)))

    @property
    def spoken(self) -> str:
        less = f"less {self.rating} dB of protection" if self.rating else "unprotected"
        return f"{self.level} dBA, {less}: {self.budget} minutes a day, by {self.rule}"
