"""The demo studio: a made-up drum room with made-up pupils, pieces and practice."""
