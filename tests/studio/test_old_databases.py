"""Databases made by earlier versions open with everything in them.

The files are dumps of real ones: the first version there was, whose bars know no endings and
no marks, and the last one before the apps and codes were renamed.
"""

import sqlite3
import tempfile
from pathlib import Path

FIXTURES = Path(__file__).resolve().parent.parent / "fixtures"


def restored(name: str) -> str:
    """A database file made from a dump; its path."""
    path = Path(tempfile.mkdtemp()) / "studio.sqlite3"
    database = sqlite3.connect(path)
    database.executescript((FIXTURES / name).read_text())
    database.close()
    return str(path)
