"""Changing a chart by hand: one stroke, one bar, or the order of the page."""
