"""Files of strangers read, written and drawn under limits, so that one upload cannot hold up
the others."""

from collections.abc import Mapping, Sequence
from functools import lru_cache

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.notation.reading import Reading
from wren_ladder.studio.pieces.fence import run_fenced

SECONDS = 5  # of work, to read
TRIED = 20  # of work besides, to study, write and draw what was read
FENCED = "wren_ladder.studio.pieces.fenced"
TOO_LONG = ChartError(
    f"the file takes more than {SECONDS} seconds to read, or {TRIED} to draw; export the drum "
    "part alone, or in two halves"
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
    asked = (name, data, parts, dict(drums), taken)
    return run_fenced(FENCED, (SECONDS, TRIED), asked, TOO_LONG)
