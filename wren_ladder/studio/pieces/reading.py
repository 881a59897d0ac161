"""Files of strangers read under limits, so that one upload cannot hold up the others."""

import pickle
import subprocess
import sys
from collections.abc import Mapping, Sequence
from functools import lru_cache
from pathlib import Path

import wren_ladder
from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.notation.reading import Reading

SECONDS = 5  # of work
WAIT = 20  # seconds until it is given up, the machine being busy with other things
MEMORY = 1024**3
ROOT = Path(wren_ladder.__file__).parent.parent
TOO_LONG = ChartError(
    f"the file takes more than {SECONDS} seconds to read; export the drum part alone, "
    "or in two halves"
)


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
            [sys.executable, "-m", "wren_ladder.drumming.alone", str(SECONDS), str(MEMORY)],
            input=asked,
            capture_output=True,
            timeout=WAIT,
            cwd=ROOT,
            check=False,
        )
    except subprocess.TimeoutExpired as error:
        raise TOO_LONG from error
    if done.returncode:
        raise TOO_LONG
    found = pickle.loads(done.stdout)
    if isinstance(found, Reading):
        return found
    text, bar, beat = found
    raise ChartError(text, bar=bar, beat=beat)
