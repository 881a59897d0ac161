"""The demo's studio for tests with databases of their own: loaded once a process, which takes
ten seconds, and copied from there."""

import sqlite3

from django.conf import settings
from django.db import connection

from wren_ladder.demo import studio

_loaded: sqlite3.Connection | None = None
_files: dict[str, bytes] = {}  # of recordings


def load_demo() -> None:
    """Not inside a transaction: the whole database is the copy afterwards."""
    global _loaded
    connection.ensure_connection()
    if _loaded is not None:
        _loaded.backup(connection.connection)
        for name, data in _files.items():
            path = settings.MEDIA_ROOT / name
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_bytes(data)
        return
    studio.load()
    _loaded = sqlite3.connect(":memory:")
    connection.connection.backup(_loaded)
    _files.update(
        (str(path.relative_to(settings.MEDIA_ROOT)), path.read_bytes())
        for path in settings.MEDIA_ROOT.rglob("*")
        if path.is_file()
    )
