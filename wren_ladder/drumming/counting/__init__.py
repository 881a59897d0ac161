"""What is said while a bar is played."""

from wren_ladder.drumming.counting.numbers import Count, count_bar

__all__ = ["Count", "count_bar"]
