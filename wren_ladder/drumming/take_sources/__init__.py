"""Where the strokes of a take come from: a kit, a file, a pad, a microphone, one made up."""
