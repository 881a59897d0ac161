"""The fonts of our drawings as files that the typesetter reads: ours ship compressed."""

import tempfile
from functools import cache
from pathlib import Path

from django.conf import settings
from fontTools.ttLib import TTFont

FAMILY = "Source Sans 3"
FACES = ("source-sans-3-latin-400-normal", "source-sans-3-latin-600-normal")


@cache
def font_folder() -> Path:
    """Made once for each process, and gone with it."""
    folder = tempfile.TemporaryDirectory(prefix="wren-fonts-")
    font_folder.kept = folder  # removed when the process ends
    for face in FACES:
        font = TTFont(settings.STUDIO / f"static/vendor/fonts/{face}.woff2")
        font.flavor = None
        font.save(Path(folder.name) / f"{face}.ttf")
    return Path(folder.name)
