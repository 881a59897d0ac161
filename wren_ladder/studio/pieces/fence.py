"""Work on what a stranger sends, in a process of its own with so much time and memory."""

import logging
import os
import pickle
import signal
import subprocess
import sys
from pathlib import Path

import wren_ladder
from wren_ladder.drumming.chart import ChartError

WAIT = 60  # seconds until it is given up, the machine being busy with other things
MEMORY = 2 << 30
NO_MEMORY = 3  # what a process ends with where the memory was not enough
ROOT = Path(wren_ladder.__file__).parent.parent
ENDED_BY_TIME = (-signal.SIGXCPU, -signal.SIGKILL)
TOO_MUCH = ChartError(
    "the file takes more memory than there is for one; export the drum part alone"
)
CRASHED = ChartError(
    "the studio fails on this file: that is a fault of the studio, not yours. Nothing was "
    "kept. Another format of it, or typing the bars, may work"
)
log = logging.getLogger("wren.files")


def run_fenced(
    module: str, limits: tuple[int, ...], asked: object, too_long: ChartError
) -> object:
    """What the module's ``main`` answers to ``asked``; a ChartError of it is raised here."""
    try:
        done = in_a_process(module, limits, pickle.dumps(asked))
    except subprocess.TimeoutExpired as error:
        raise too_long from error
    if done.returncode in ENDED_BY_TIME:
        raise too_long
    if done.returncode == NO_MEMORY:
        raise TOO_MUCH
    if done.returncode:
        log.error("a file could not be read: %s", done.stderr.decode(errors="replace")[-2000:])
        raise CRASHED
    found = pickle.loads(done.stdout)
    if isinstance(found, Refused):
        raise ChartError(found.text, bar=found.bar, beat=found.beat)
    return found


def in_a_process(
    module: str, limits: tuple[int, ...], asked: bytes
) -> subprocess.CompletedProcess[bytes]:
    return subprocess.run(
        [sys.executable, "-m", module, *map(str, (*limits, MEMORY))],
        input=asked,
        capture_output=True,
        timeout=WAIT,
        cwd=ROOT,
        check=False,
        env={**os.environ, "OPENBLAS_NUM_THREADS": "1"},
    )


class Refused:
    """A ChartError on its way out of the process."""

    def __init__(self, error: ChartError) -> None:
        self.text, self.bar, self.beat = error.text, error.bar, error.beat
