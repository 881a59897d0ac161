"""Wren Ladder: breaks drum parts into lessons and climbs them to exam speed."""

__version__ = "0.1.0"
