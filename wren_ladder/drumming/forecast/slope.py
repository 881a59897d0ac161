"""The slope of points that err, by the median: one bad day does not turn the line."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations
from math import sqrt
from statistics import NormalDist, median


@dataclass(frozen=True, slots=True)
class Slope:
    """``middle`` is the median of all slopes between two points; ``low`` and ``high`` hold
    the true one with the chance that was asked for."""

    middle: float
    low: float
    high: float


def theil_sen(points: Sequence[tuple[float, float]], chance: float = 0.8) -> Slope | None:
    """The slope of (x, y) points by Theil and Sen, with Sen's interval; None where no two
    points differ in x.

    P. K. Sen, "Estimates of the Regression Coefficient Based on Kendall's Tau", Journal of
    the American Statistical Association 63 (1968). Agrees with ``scipy.stats.theilslopes``.
    """
    slopes = sorted(
        (y2 - y1) / (x2 - x1) for (x1, y1), (x2, y2) in combinations(points, 2) if x1 != x2
    )
    if not slopes:
        return None
    spread = NormalDist().inv_cdf((1 + chance) / 2) * _deviation(points)
    low = max(round((len(slopes) - spread) / 2) - 1, 0)
    high = min(round((len(slopes) + spread) / 2), len(slopes) - 1)
    return Slope(median(slopes), slopes[low], slopes[high])


def _deviation(points: Sequence[tuple[float, float]]) -> float:
    """The standard deviation of Kendall's score, equal values taken into account (Sen 1968,
    equation 2.6)."""
    ties = (_tied([x for x, _ in points]), _tied([y for _, y in points]))
    squared = _score(len(points)) - sum(_score(count) for tied in ties for count in tied)
    return sqrt(max(0.0, squared / 18))


def _score(count: int) -> int:
    return count * (count - 1) * (2 * count + 5)


def _tied(values: Sequence[float]) -> list[int]:
    return [values.count(value) for value in set(values)]
