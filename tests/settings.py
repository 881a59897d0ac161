"""Settings for the tests: the real ones, with a database of their own and quick log-ins."""

import os
import tempfile
from datetime import UTC, datetime
from pathlib import Path


def where_it_is_morning() -> str:
    """A zone in which it is nine o'clock: a run that begins before midnight ends on another
    day, and a test that asks for the day before and after would be told two."""
    hours = 9 - datetime.now(UTC).hour
    hours += 24 if hours < -12 else 0
    return f"Etc/GMT{-hours:+d}"  # in these names west is plus


os.environ.setdefault("WREN_DATA", tempfile.mkdtemp(prefix="wren-test-"))
# Browsers and commands that a test starts take it from here.
os.environ.setdefault("WREN_TIME_ZONE", where_it_is_morning())

from wren_ladder.studio.settings import *  # noqa: E402, F403

DEBUG = False
ALLOWED_HOSTS = ["localhost", "127.0.0.1", "testserver"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
# A file, as in the real studio: the browser tests' server has threads of its own.
if not os.environ.get("WREN_POSTGRES"):
    DATABASES["default"]["TEST"] = {  # noqa: F405
        "NAME": str(Path(os.environ["WREN_DATA"]) / "test.sqlite3")
    }
LOGGING["loggers"] = {"django": {"level": "CRITICAL"}, "axes": {"level": "CRITICAL"}}  # noqa: F405
# Each process of the tests counts for itself.
CACHES["default"] = {"BACKEND": "django.core.cache.backends.locmem.LocMemCache"}  # noqa: F405
# One machine sends for everybody here; tests/studio/test_link_limits.py turns it on.
RATELIMIT_ENABLE = False
