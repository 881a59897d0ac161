"""An upgraded studio listens at once. What its new version wants worked out is worked out by a
process of its own, and until that is done every page says how far it is.
"""

import json
import os
import subprocess
import sys
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path

from wren_ladder.studio.climb.standings import behind, catch_up

NOTE = "catching-up.json"  # beside the data, while it goes on


@dataclass(frozen=True, slots=True)
class Progress:
    done: int
    of: int


def begin(data: Path, say: Callable[[str], None]) -> subprocess.Popen | None:
    """The process that works it out, None where there is nothing to do."""
    many = behind().count()
    if not many:
        return None
    say(f"{many} plans are worked out for this version; pages say how far it is")
    work = subprocess.Popen([sys.executable, "-m", "wren_ladder.cli", "catch-up"])
    _write(data, work.pid, Progress(0, many))
    return work


def work_out(data: Path) -> int:
    """What that process does."""
    many = behind().count()
    try:
        return catch_up(lambda done: _write(data, os.getpid(), Progress(done, many)))
    finally:
        (data / NOTE).unlink(missing_ok=True)


def progress(data: Path) -> Progress | None:
    """How far it is, None where nothing is worked out."""
    with suppress(OSError, ValueError, KeyError, TypeError):
        written = json.loads((data / NOTE).read_text())
        os.kill(written["pid"], 0)  # OSError where it has died: pages show what there is
        return Progress(written["done"], written["of"])
    return None


def _write(data: Path, pid: int, at: Progress) -> None:
    whole = data / f".{NOTE}-{pid}"
    whole.write_text(json.dumps({"pid": pid, "done": at.done, "of": at.of}))
    whole.replace(data / NOTE)
