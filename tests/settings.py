"""Settings for the tests: the real ones, with a database of their own and quick log-ins."""

import os
import tempfile

os.environ.setdefault("WREN_DATA", tempfile.mkdtemp(prefix="wren-test-"))

from wren_ladder.studio.settings import *  # noqa: F403

DEBUG = False
ALLOWED_HOSTS = ["localhost", "127.0.0.1", "testserver"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
# A file, as in the real studio: the browser tests' server has threads of its own.
if not os.environ.get("WREN_POSTGRES"):
    DATABASES["default"]["TEST"] = {  # noqa: F405
        "NAME": os.path.join(os.environ["WREN_DATA"], "test.sqlite3")
    }
LOGGING["loggers"] = {"django": {"level": "CRITICAL"}, "axes": {"level": "CRITICAL"}}  # noqa: F405
# Each process of the tests counts for itself.
CACHES["default"] = {"BACKEND": "django.core.cache.backends.locmem.LocMemCache"}  # noqa: F405
# One machine sends for everybody here; tests/studio/test_link_limits.py turns it on.
RATELIMIT_ENABLE = False
