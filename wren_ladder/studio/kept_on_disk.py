"""What was worked out before and lies on the disk: drawings, prints.

Nothing depends on it: a disk that is full or cannot be written only makes pages slower.
"""

import hashlib
import sqlite3
from collections.abc import Iterable, Mapping
from contextlib import suppress
from functools import cache
from pathlib import Path

from django.core.cache import caches

UNABLE = (OSError, sqlite3.Error)


def read(where: str, names: Iterable[str]) -> dict:
    """Those of the names that are there."""
    with suppress(*UNABLE):
        return caches[where].get_many(names)
    return {}


def keep(where: str, things: Mapping[str, object]) -> None:
    with suppress(*UNABLE):
        caches[where].set_many(things)


def forget(*places: str) -> None:
    for where in places:
        caches[where].clear()


@cache
def version_of(*folders: Path) -> str:
    """Of the code that makes a thing: other code makes another thing, under another name."""
    found = hashlib.sha1(usedforsecurity=False)
    for folder in folders:
        for path in sorted(folder.rglob("*")):
            if path.suffix in (".py", ".css", ".json"):
                found.update(path.read_bytes())
    return found.hexdigest()[:12]
