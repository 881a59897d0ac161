"""What was really played: heard strokes against the onsets that are expected, and what is said
of them."""
