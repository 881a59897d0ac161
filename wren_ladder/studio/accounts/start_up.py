"""The first log-in of a new studio is made with a code that stands on the terminal only.

Nobody can see over a network who sits at the machine: behind a proxy everybody seems to.
"""

import secrets

from django.conf import settings
from django.contrib.auth.models import User

FILE = "start-up-code"  # beside the data, for the processes that answer
LETTERS, LONG = "abcdefghjkmnpqrstuvwxyz23456789", 10  # none that is read as another


def start_up_code() -> str:
    """The code of a studio in which nobody has a log-in yet; "" once somebody has, and in the
    demo."""
    path = settings.DATA / FILE
    if settings.DEMO or User.objects.exists():
        path.unlink(missing_ok=True)
        return ""
    if not path.exists():
        path.touch(mode=0o600)
        path.write_text("".join(secrets.choice(LETTERS) for _ in range(LONG)))
    return path.read_text()


def is_right(code: str) -> bool:
    given = "".join(code.split()).lower()
    return secrets.compare_digest(given.encode(), start_up_code().encode())
