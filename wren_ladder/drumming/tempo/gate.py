"""The gate: how many clean passes earn a rung."""

MOST_PASSES = 8


def passes_needed(bars: int, clean_bars: int = 32) -> int:
    """Clean passes in a row for a step of so many bars: 32 bars' worth, at most 8.

    An 8-bar step needs 4, a 1-bar step 8 (common practice, no source).
    """
    return min(MOST_PASSES, -(-clean_bars // bars))
