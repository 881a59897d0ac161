"""What a stranger's file comes to behind the fence, worked out once a run: many tests begin
with the same picture, and comparing its bars takes three seconds of a process."""

import hashlib
import os
from pathlib import Path
from subprocess import CompletedProcess

from wren_ladder.studio.pieces import fence

KEPT = Path(os.environ["WREN_DATA"]) / "fenced-once"  # one folder for all processes of a run
_in_a_process = fence.in_a_process


def remember() -> None:
    """Only what went well: what fails, or takes too long, fails anew."""
    fence.in_a_process = _once


def _once(module: str, limits: tuple[int, ...], asked: bytes) -> CompletedProcess[bytes]:
    name = hashlib.sha256(repr((module, limits, fence.MEMORY)).encode() + asked).hexdigest()
    there = KEPT / name
    if there.exists():
        return CompletedProcess([], 0, there.read_bytes(), b"")
    done = _in_a_process(module, limits, asked)
    if done.returncode == 0:
        KEPT.mkdir(exist_ok=True)
        part = there.with_suffix(f".{os.getpid()}")
        part.write_bytes(done.stdout)
        part.rename(there)
    return done
