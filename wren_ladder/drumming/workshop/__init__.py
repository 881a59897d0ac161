"""Where exercises are made: grooves as families, walks through them, phrases, stickings."""
