"""Files of strangers read, written and drawn under limits, so that one upload cannot hold up
the others."""

import logging
import pickle
import signal
import subprocess
import sys
from collections.abc import Mapping, Sequence
from functools import lru_cache
from pathlib import Path

import wren_ladder
from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.notation.reading import Reading
from wren_ladder.studio.pieces.fenced import NO_MEMORY

SECONDS = 5  # of work, to read
TRIED = 20  # of work besides, to study, write and draw what was read
WAIT = 60  # seconds until it is given up, the machine being busy with other things
MEMORY = 2 << 30
FENCED = "wren_ladder.studio.pieces.fenced"
log = logging.getLogger("wren.files")
ROOT = Path(wren_ladder.__file__).parent.parent
TOO_LONG = ChartError(
    f"the file takes more than {SECONDS} seconds to read, or {TRIED} to draw; export the drum "
    "part alone, or in two halves"
)
TOO_MUCH = ChartError(
    "the file takes more memory than there is for one; export the drum part alone"
)
CRASHED = ChartError(
    "the studio fails on this file: that is a fault of the studio, not yours. Nothing was "
    "kept. Another format of it, or typing the bars, may work"
)
ENDED_BY_TIME = (-signal.SIGXCPU, -signal.SIGKILL)


def read_upload(
    name: str,
    data: bytes,
    parts: Sequence[str] = (),
    drums: Mapping[str, str] | None = None,
    taken: Sequence[str] = (),
) -> Reading:
    """As ``open_file``, in a process of its own; what was read last is remembered."""
    corrected = tuple(sorted((drums or {}).items()))
    return _read(name, data, tuple(parts), corrected, tuple(taken))


@lru_cache(maxsize=16)
def _read(
    name: str,
    data: bytes,
    parts: tuple[str, ...],
    drums: tuple[tuple[str, str], ...],
    taken: tuple[str, ...],
) -> Reading:
    asked = pickle.dumps((name, data, parts, dict(drums), taken))
    try:
        done = subprocess.run(
            [sys.executable, "-m", FENCED, *map(str, (SECONDS, TRIED, MEMORY))],
            input=asked,
            capture_output=True,
            timeout=WAIT,
            cwd=ROOT,
            check=False,
        )
    except subprocess.TimeoutExpired as error:
        raise TOO_LONG from error
    if done.returncode in ENDED_BY_TIME:
        raise TOO_LONG
    if done.returncode == NO_MEMORY:
        raise TOO_MUCH
    if done.returncode:
        log.error("a file could not be read: %s", done.stderr.decode(errors="replace")[-2000:])
        raise CRASHED
    found = pickle.loads(done.stdout)
    if isinstance(found, Reading):
        return found
    text, bar, beat = found
    raise ChartError(text, bar=bar, beat=beat)
