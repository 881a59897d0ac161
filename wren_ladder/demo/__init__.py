"""The demo studio: a made-up drum room with made-up pupils, pieces and practice."""

from pathlib import Path

CHARTS = Path(__file__).parent / "charts"
