"""Pictures of pages opened and read behind the fence: what comes from a stranger's camera is a
stranger's file."""

from collections.abc import Sequence

from wren_ladder.drumming.chart import ChartError
from wren_ladder.studio.pieces.fence import run_fenced

FENCED = "wren_ladder.studio.scans.fenced"
SECONDS = 40  # of work on one file, one page, or all bars together
TOO_LONG = ChartError(
    f"the picture takes more than {SECONDS} seconds to read; take each page as a photograph of "
    "its own, from straight above"
)


def open_pages(name: str, data: bytes, pages: Sequence[int] = ()) -> list[bytes]:
    """The pages of a file, each as a grey JPEG; ChartError says why it is none."""
    return run_fenced(FENCED, (SECONDS,), ("open", name, data, tuple(pages)), TOO_LONG)


def read_page(picture: bytes, corners: Sequence) -> dict:
    """``picture`` made straight, its ``width`` and ``height``, ``lines``, and the ``corners``
    that it was cut out by."""
    return run_fenced(FENCED, (SECONDS,), ("read", picture, list(corners)), TOO_LONG)


def compare_bars(pages: Sequence[tuple[bytes, list[dict]]]) -> list[dict]:
    """Which bars of all these pages (picture, lines) look like which, and what stands in those
    that are the first of their look: a row for each bar, its ``signs`` are its dynamics."""
    try:
        return run_fenced(FENCED, (SECONDS,), ("compare", list(pages), True), TOO_LONG)
    except ChartError as error:
        if error is not TOO_LONG:
            raise
    # Then nothing is read in them: they are typed.
    return run_fenced(FENCED, (SECONDS,), ("compare", list(pages), False), TOO_LONG)
