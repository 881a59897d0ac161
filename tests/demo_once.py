"""The demo's studio for tests with databases of their own: loaded once a run, which takes 20
seconds, by whichever process asks first; the others copy what it has made."""

import fcntl
import os
import shutil
import sqlite3
from contextlib import closing
from pathlib import Path

from django.conf import settings
from django.db import connection

from wren_ladder.demo import studio

MADE = Path(os.environ["WREN_DATA"]) / "demo-once"  # one folder for all processes of a run
DATABASE, RECORDINGS = MADE / "studio.sqlite3", MADE / "recordings"


def load_demo() -> None:
    """Not inside a transaction: the whole database is the copy afterwards."""
    connection.ensure_connection()
    MADE.mkdir(exist_ok=True)
    with (MADE / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not DATABASE.exists():
            _make()
            return
    with closing(sqlite3.connect(DATABASE)) as made:
        made.backup(connection.connection)
    if RECORDINGS.exists():
        shutil.copytree(RECORDINGS, settings.MEDIA_ROOT, dirs_exist_ok=True)


def _make() -> None:
    studio.load()
    unfinished = DATABASE.with_suffix(".part")
    with closing(sqlite3.connect(unfinished)) as made:
        connection.connection.backup(made)
    if Path(settings.MEDIA_ROOT).exists():
        shutil.copytree(settings.MEDIA_ROOT, RECORDINGS, dirs_exist_ok=True)
    unfinished.rename(DATABASE)
