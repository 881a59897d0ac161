"""Static files carry the version of their content in their address, and are kept for ever.

They are served as they stand beside the code: there is no step that collects them.
"""

import hashlib
from functools import lru_cache
from pathlib import Path

from django.contrib.staticfiles import finders
from django.contrib.staticfiles.storage import StaticFilesStorage

DIGITS = 10
FOREVER = 365 * 24 * 3600  # seconds


class VersionedStaticFiles(StaticFilesStorage):
    def url(self, name):
        path = finders.find(name)
        address = super().url(name)
        return f"{address}?v={file_version(Path(path))}" if path else address


def file_version(path: Path) -> str:
    return _version(path, path.stat().st_mtime_ns)


def folder_version(folder: str) -> str:
    """Of all the samples in it together."""
    files = sorted(Path(finders.find(folder)).iterdir())
    return _digest("".join(file_version(path) for path in files).encode())


@lru_cache(maxsize=512)
def _version(path: Path, _changed: int) -> str:
    return _digest(path.read_bytes())


def _digest(content: bytes) -> str:
    return hashlib.sha256(content).hexdigest()[:DIGITS]


def kept_for_ever(headers, path, url):
    """Pictures that a style sheet asks for have no version in their address. Nor have fonts: a
    new cut of one gets a new name."""
    if not path.endswith(".svg"):
        headers["Cache-Control"] = f"max-age={FOREVER}, public, immutable"
